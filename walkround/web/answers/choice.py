"""A choice on the pages."""

from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.round.walk import parse_reason
from walkround.web.answers.kind import AnswerPage, CardRow, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    note = parse_reason(sent.typed.get("note"), "What was done", "note", needed=False)
    if not sent.typed.get("option"):
        raise InputError("Choose one of the answers.", "option")
    return Chosen(option=sent.typed.get("option"), note=note), "pilot"


def _row(row: CardRow) -> Answer | None:
    return Chosen(option=row.said, note=row.note) if row.said else None


PAGE = AnswerPage("choice", "one of a few answers", _read, advances=True, row=_row)
