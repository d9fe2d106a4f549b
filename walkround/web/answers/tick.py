"""A tick on the pages."""

from walkround.core.answers.kind import Answer, Ask
from walkround.core.answers.tick import AskTick, Passed
from walkround.core.base.errors import InputError
from walkround.web.answers.kind import AnswerPage, CardRow, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    if sent.typed.get("action") != "pass":
        raise InputError("Choose OK, a fault, or skip with a reason.")
    return Passed(), "pilot"


def _button(ask: Ask) -> str:
    assert isinstance(ask, AskTick)
    return ask.ok


def _row(row: CardRow) -> Answer | None:
    return Passed() if row.said == "ok" else None


PAGE = AnswerPage(
    "tick", "a tick", _read, button=_button, action="pass", near_thumb=True, advances=True, row=_row
)  # fmt: skip
