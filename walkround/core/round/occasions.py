"""Occasions of the day: what the pilot says it is, and what follows from the field and the logbook."""

from walkround.core.base.phrase import Phrase, day
from walkround.core.checklist.check import Occasion
from walkround.core.round.situation import Situation


def seen_occasions(situation: Situation) -> dict[Occasion, Phrase]:
    """Occasions that follow by themselves, each with its reason (days).

    A field over water, an aircraft that never flew, a pause of the pilot longer than their limit.
    Source: maiden, rust and water rules of the practice; common practice, no source.
    """
    found: dict[Occasion, Phrase] = {}
    if situation.site.over_water:
        found[Occasion.OVER_WATER] = Phrase.of(f"{situation.site.name} is beside water.")
    if situation.history.aircraft_flown is False:
        found[Occasion.MAIDEN] = Phrase.of(f"No flight of {situation.aircraft.name} is in the logbook.")
    last = situation.history.pilot_last_flight_at
    if last is not None:
        days = (situation.today() - situation.local(last).date()).days
        if days >= situation.limits.idle_days:
            found[Occasion.AFTER_PAUSE] = Phrase.of("{days} since your last flight.", days=day(days))
    return found


def occasions_today(situation: Situation) -> dict[Occasion, Phrase]:
    """All occasions of this round with their reasons. Source: the pilot's choice, and ``seen_occasions``."""
    chosen = {o: Phrase.of(f"Selected: {o.value}.") for o in situation.occasions}
    return {**seen_occasions(situation), **chosen}
