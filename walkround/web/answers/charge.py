"""The charge of a smart pack on the pages, asked as this aircraft shows it."""

from typing import Any

from walkround.core.aircraft.traits import Trait
from walkround.core.answers.charge import SCREEN, ChargeShown
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.round.offers import offer_for
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, CardRow, Sent
from walkround.web.forms import read_number

LABEL = "Charge shown"


def _read(sent: Sent) -> tuple[Answer, str]:
    if sent.typed.get("offered"):
        offer = offer_for(sent.state.planned, sent.situation)
        if offer is None:
            raise InputError("It is no longer on record. Enter what is shown.", "number")
        return ChargeShown(percent=offer.value.value), offer.by
    if sent.typed.get("lit"):
        steps = sent.situation.aircraft.charge_steps
        lit = whole(sent.typed.get("lit"), steps)
        if lit is None:
            raise InputError(f"Choose how many of the {steps} are lit.", "number")
        return ChargeShown(lit=lit, of=steps), SCREEN
    text, units = sent.typed.get("number"), sent.settings.units
    return ChargeShown(percent=read_number(text, LABEL, Measure.PERCENT, 0, 100, units, "number")), SCREEN


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    aircraft = loaded.walk.situation.aircraft
    steps = aircraft.charge_steps
    lit = "LEDs" if aircraft.has(Trait.CHARGE_LEDS) else "bars" if aircraft.has(Trait.CHARGE_BARS) else ""
    given = state.evidence.answer if state.evidence is not None else None
    return {
        "lit_words": lit,
        "steps": steps,
        "lit_rows": [(n, [i < n for i in range(steps)]) for n in range(steps + 1)],
        "offer": offer_for(state.planned, loaded.walk.situation),
        "held": given.held if isinstance(given, ChargeShown) else None,
    }


def _row(row: CardRow) -> Answer | None:
    if not row.number:
        return None
    return ChargeShown(percent=read_number(row.number, LABEL, Measure.PERCENT, 0, 100, row.units, row.check_id))


PAGE = AnswerPage(
    "charge", "the charge as it is shown", _read, button=lambda ask: "Save", near_thumb=True, advances=True, row=_row, shown=_shown,
    seen="rounds/answers/charge_seen.html",
)  # fmt: skip
