"""How long the first fix of a round may take: by the last flight of the aircraft, where it was, and what was changed on it since."""

from walkround.core.base.geodesy import distance_m
from walkround.core.checklist.history import EventKind
from walkround.core.round.situation import Situation
from walkround.core.sensors.first_fix import FirstFix, first_fix

NEW_RECEIVER = (EventKind.FIRMWARE, EventKind.NEW_BUILD, EventKind.BOARD_RESET)
"""After these a receiver may know nothing of the sky any more. Source: our choice; common practice, no source."""


def expected_fix(situation: Situation) -> FirstFix:
    """What to expect of the first fix, in s. Source: ``first_fix``; the record."""
    history = situation.history
    last, place = history.aircraft_last_flight_at, history.aircraft_last_position
    hours = None if last is None else (situation.now - last).total_seconds() / 3600
    away_m = None if place is None else distance_m(place, situation.site.position)
    changed = last is not None and any(event.kind in NEW_RECEIVER and event.at > last for event in history.events)
    return first_fix(hours, away_m, changed=changed)
