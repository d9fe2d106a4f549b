"""A number on the pages."""

from typing import Any

from walkround.core.answers.kind import Answer
from walkround.core.answers.number import AskNumber, Measured
from walkround.core.base.errors import InputError
from walkround.core.round.offers import offer_for
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, CardRow, Sent
from walkround.web.forms import read_number


def _read(sent: Sent) -> tuple[Answer, str]:
    ask = sent.ask
    assert isinstance(ask, AskNumber)
    if sent.typed.get("offered"):
        offer = offer_for(sent.state.planned, sent.situation)
        if offer is None:
            raise InputError("It is no longer on record. Enter the number.", "number")
        return Measured(value=offer.value.value), offer.by
    text, units = sent.typed.get("number"), sent.settings.units
    return Measured(value=read_number(text, ask.label, ask.measure, ask.low, ask.high, units, "number")), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    return {"offer": offer_for(state.planned, loaded.walk.situation)}


def _row(row: CardRow) -> Answer | None:
    ask = row.ask
    assert isinstance(ask, AskNumber)
    if not row.number:
        return None
    return Measured(value=read_number(row.number, ask.label, ask.measure, ask.low, ask.high, row.units, row.check_id))


PAGE = AnswerPage(
    "number",
    "a number",
    _read,
    button=lambda ask: "Save",
    near_thumb=True,
    advances=True,
    row=_row,
    shown=_shown,
)
