"""The signal of the link on the pages, asked as this aircraft's screen shows it."""

from typing import Any

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.charge import SCREEN
from walkround.core.answers.kind import Answer
from walkround.core.answers.signal import LOWEST_DBM, SignalShown
from walkround.core.base.errors import InputError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure, Units
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, CardRow, Sent
from walkround.web.forms import read_number

LABEL = "Signal shown"


def _typed(text: str, aircraft: Aircraft, units: Units, field: str) -> SignalShown:
    """A typed value in this aircraft's way; dBm may be typed without its minus, which stands before the field."""
    if aircraft.has(Trait.SIGNAL_BARS):
        bars = whole(text, aircraft.signal_bars)
        if bars is None:
            raise InputError(f"Choose how many of the {aircraft.signal_bars} bars are shown.", field)
        return SignalShown(bars=bars, of=aircraft.signal_bars)
    if aircraft.has(Trait.SIGNAL_DBM):
        value = read_number(text, LABEL, Measure.SIGNAL, LOWEST_DBM, -LOWEST_DBM, units, field)
        return SignalShown(dbm=-abs(value))
    return SignalShown(percent=read_number(text, LABEL, Measure.PERCENT, 0, 100, units, field))


def _read(sent: Sent) -> tuple[Answer, str]:
    text = sent.typed.get("lit") or sent.typed.get("number")
    return _typed(text, sent.situation.aircraft, sent.settings.units, "number"), SCREEN


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    aircraft = loaded.walk.situation.aircraft
    of = aircraft.signal_bars
    return {
        "steps": of,
        "bar_rows": [(n, [i < n for i in range(of)]) for n in range(of + 1)] if aircraft.has(Trait.SIGNAL_BARS) else (),
        "unit": "dBm" if aircraft.has(Trait.SIGNAL_DBM) else "%",
    }


def _row(row: CardRow) -> Answer | None:
    return _typed(row.number, row.aircraft, row.units, row.check_id) if row.number else None


PAGE = AnswerPage(
    "signal", "the signal as it is shown", _read, button=lambda ask: "Save", near_thumb=True, advances=True, row=_row, shown=_shown
)  # fmt: skip
