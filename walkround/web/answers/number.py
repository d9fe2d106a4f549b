"""A number on the pages."""

from walkround.core.answers.kind import Answer
from walkround.core.answers.number import AskNumber, Measured
from walkround.web.answers.kind import AnswerPage, CardRow, Sent
from walkround.web.forms import read_number


def _read(sent: Sent) -> tuple[Answer, str]:
    ask = sent.ask
    assert isinstance(ask, AskNumber)
    text, units = sent.typed.get("number"), sent.settings.units
    return Measured(value=read_number(text, ask.label, ask.measure, ask.low, ask.high, units, "number")), "pilot"


def _row(row: CardRow) -> Answer | None:
    ask = row.ask
    assert isinstance(ask, AskNumber)
    if not row.number:
        return None
    return Measured(value=read_number(row.number, ask.label, ask.measure, ask.low, ask.high, row.units, row.check_id))


PAGE = AnswerPage("number", "a number", _read, button=lambda ask: "Save", near_thumb=True, advances=True, row=_row)
