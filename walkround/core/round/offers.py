"""Numbers that are on record already: offered with one tap, never filled in unseen.

Source: our choice; common practice, no source.
"""

from datetime import datetime

from walkround.core.base.phrase import Phrase, count, height, percent, temperature, volt
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.packs.charge import from_cells
from walkround.core.packs.reading import CellReading
from walkround.core.round.known import WIDEST_POINTS, charge_on_record, rested
from walkround.core.round.plan import PlannedCheck
from walkround.core.round.situation import Situation

SETTINGS = ("link.rth_altitude", "link.turn_back")
"""Settings that stay as they were until somebody changes them: the last value is offered, unless something happened that resets them."""
OF_THE_FIELD = ("field.interference", "field.launch_circle")
"""What stands at a field stays there: the last value is offered where the last flight was at the same one."""


class Offer(Struct, frozen=True, kw_only=True):
    """A number on record (inside units), how it is offered, and from where it comes, as the evidence will say."""

    value: Quantity
    words: Phrase
    by: str


def offer_for(planned: PlannedCheck, situation: Situation) -> Offer | None:
    """What is on record for a check that asks for a number, or None. Source: the store, the field, the last round."""
    check_id = planned.check.id
    if check_id == "bench.packs_ready" and situation.history.packs_ready is not None:
        value = count(situation.history.packs_ready)
        return Offer(value=value, words=Phrase.of("On record: {value}", value=value), by="record")
    if check_id == "field.max_height":
        value = height(situation.site.flight_height_m)
        return Offer(
            value=value, words=Phrase.of("As planned for this field: {value}", value=value), by="plan of the field"
        )
    if check_id == "pack.percent":
        return _charge(situation)
    if check_id == "pack.temperature":
        return _warmth(situation)
    if check_id in OF_THE_FIELD and planned.before is not None and not planned.by_event:
        if situation.history.aircraft_last_site != situation.site.name:
            return None
        value = planned.before
        return Offer(value=value, words=Phrase.of("Still {value}, as last time here", value=value), by="last round")
    if check_id in SETTINGS and planned.before is not None and not planned.by_event:
        value = planned.before
        return Offer(value=value, words=Phrase.of("Still {value}, as last time", value=value), by="last round")
    return None


def _warmth(situation: Situation) -> Offer | None:
    """That of the air, for a pack that was neither charged nor flown lately."""
    air_c = None if situation.weather is None else situation.weather.temperature_c
    if air_c is None or not rested(situation):
        return None
    value = temperature(air_c)
    return Offer(value=value, words=Phrase.of("Rested, so as the air: {value}", value=value), by="weather report")


def cells_on_record(situation: Situation) -> tuple[CellReading, Phrase] | None:
    """The cells in V as read within a day and since the last flight, and how they are offered; None where they do not go with the
    charge on record. What lies between the weakest and the highest cell is their mean."""
    found, known, pack = charge_on_record(situation), situation.history.pack_summary, situation.pack
    if found is None or known is None or known.weakest_v is None or known.highest_v is None or known.mean_v is None:
        return None
    between = pack.cells - 2
    rest = (known.mean_v * pack.cells - known.weakest_v - known.highest_v) / between if between > 0 else 0.0
    cells = (known.weakest_v, *([rest] * between), known.highest_v) if pack.cells > 1 else (known.mean_v,)
    cells = tuple(round(volts, 3) for volts in cells)
    reading = CellReading(cells_v=cells, total_v=round(sum(cells), 3))
    held = from_cells(reading, pack)
    if not held.low - WIDEST_POINTS <= found[0] <= held.high + WIDEST_POINTS:
        return None  # the volts are older than the charge
    words = Phrase.of(
        f"On record: {{low}} to {{high}} a cell, read {_when(situation, found[1])}",
        low=volt(known.weakest_v),
        high=volt(known.highest_v),
    )
    return reading, words


def _when(situation: Situation, moment: datetime) -> str:
    at = situation.local(moment)
    return f"at {at:%H:%M}" if at.date() == situation.today() else f"at {at:%H:%M} yesterday"


def _charge(situation: Situation) -> Offer | None:
    found = charge_on_record(situation)
    if found is None:
        return None
    value, when = percent(found[0]), _when(situation, found[1])
    return Offer(value=value, words=Phrase.of(f"On record: {{value}}, read {when}", value=value), by="record")
