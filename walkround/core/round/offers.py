"""Numbers that are on record already: offered with one tap, never filled in unseen.

Source: our choice; common practice, no source.
"""

from walkround.core.base.phrase import Phrase, count, height
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.round.plan import PlannedCheck
from walkround.core.round.situation import Situation

SETTINGS = ("link.rth_altitude", "link.turn_back")
"""Settings that stay as they were until somebody changes them: the last value is offered, unless something happened that resets them."""


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
    if check_id in SETTINGS and planned.before is not None and not planned.by_event:
        value = planned.before
        return Offer(value=value, words=Phrase.of("Still {value}, as last time", value=value), by="last round")
    return None
