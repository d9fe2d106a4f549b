"""Numbers that are on record already: offered with one tap, never filled in unseen.

Source: our choice; common practice, no source.
"""

from datetime import timedelta

from walkround.core.base.clock import is_ahead
from walkround.core.base.phrase import Phrase, count, height, percent, temperature
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.round.known import rested
from walkround.core.round.plan import PlannedCheck
from walkround.core.round.situation import Situation

SETTINGS = ("link.rth_altitude", "link.turn_back")
"""Settings that stay as they were until somebody changes them: the last value is offered, unless something happened that resets them."""
OF_THE_FIELD = ("field.interference", "field.launch_circle")
"""What stands at a field stays there: the last value is offered where the last flight was at the same one."""
FRESH = timedelta(hours=24)
WIDEST_POINTS = 15.0
"""The charge on record is offered for so long after it was read, and while it is known as well as that."""


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


def _charge(situation: Situation) -> Offer | None:
    """The charge as read within a day and since the last flight, after standing until now."""
    known, now = situation.history.pack_summary, situation.now
    if known is None or known.charge_at is None or is_ahead(known.charge_at, now) or now - known.charge_at > FRESH:
        return None
    flown = situation.history.pack_last_flight_at
    held = known.charge_now(situation.pack, now)
    if held is None or held.width > WIDEST_POINTS or (flown is not None and flown >= known.charge_at):
        return None
    value = percent(round(held.mid))
    at = situation.local(known.charge_at)
    when = f"{at:%H:%M}" if at.date() == situation.today() else f"{at:%H:%M} yesterday"
    return Offer(value=value, words=Phrase.of(f"On record: {{value}}, read at {when}", value=value), by="record")
