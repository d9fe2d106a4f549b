"""What is on record and so is not asked: the rules that ``Check.known`` names.

Each says what is known, or nothing. What is not known, or not as it should be, is asked. Source: each rule names its own.
"""

from collections.abc import Callable, Mapping
from datetime import datetime, timedelta

from walkround.core.base.clock import is_ahead
from walkround.core.base.finding import Level
from walkround.core.base.phrase import Phrase, minute, percent, temperature
from walkround.core.checklist.history import Done
from walkround.core.field.site import GroundSurface
from walkround.core.round.context import Context
from walkround.core.round.numbers import RULES
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.situation import Situation

MILD_C = (15.0, 30.0)
RESTED = timedelta(hours=1)
"""Between these a pack that has rested so long is as warm as the air. Source: our choice; common practice, no source."""
FRESH = timedelta(hours=24)
WIDEST_POINTS = 15.0
"""The charge on record holds for so long after it was read, and while it is known as well as that. Source: our choice."""
SAME_FIELD = timedelta(days=60)
"""What was paced at a field holds for so long. Source: our choice."""
SUN_MIN = 120.0
"""The sun is looked at for a flight that begins up to so many minutes later: an hour to walk, and a signature holds another. Source: our
choice."""

DoneById = Mapping[str, Done]


def rested(situation: Situation) -> bool:
    """Whether the pack was neither charged nor flown lately, as far as the record says. Source: ``RESTED``."""
    now = situation.now
    moments = (situation.pack.charged_at, situation.history.pack_last_flight_at)
    return all(moment is None or (not is_ahead(moment, now) and now - moment >= RESTED) for moment in moments)


def _sun_behind(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """The sun stays out of the flying box that is drawn, for a flight within two hours."""
    s = context.situation
    if not s.site.flight_area:
        return None
    found = readiness(context, s.now, context.planned_min + SUN_MIN, only=(Subject.SUN,))
    if not found or any(f.level is not Level.CLEAR for f in found):
        return None
    return Phrase(text="Calculated: the sun stays out of the flying box.")


def _last_flight_clean(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """The logbook says that nothing happened on the last flight of this pack."""
    if context.situation.history.pack_last_flight_clean is not True:
        return None
    return Phrase(text="In the logbook: nothing to report on the last flight of this pack.")


def _pack_as_the_air(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """Mild air, and a pack that was neither charged nor flown lately."""
    s, air = context.situation, context.weather
    if air is None or air.temperature_c is None or not MILD_C[0] <= air.temperature_c <= MILD_C[1]:
        return None
    if not rested(s):
        return None
    return Phrase.of("Rested, and the air is at {air}.", air=temperature(air.temperature_c))


def charge_on_record(situation: Situation) -> tuple[float, datetime] | None:
    """The charge in per cent as read within a day and since the last flight, after standing until now, and when (aware) it was
    read; None where that is not known, or not well enough. Source: ``FRESH``, ``WIDEST_POINTS``."""
    known, now = situation.history.pack_summary, situation.now
    if known is None or known.charge_at is None or is_ahead(known.charge_at, now) or now - known.charge_at > FRESH:
        return None
    flown = situation.history.pack_last_flight_at
    held = known.charge_now(situation.pack, now)
    if held is None or held.width > WIDEST_POINTS or (flown is not None and flown >= known.charge_at):
        return None
    return round(held.mid), known.charge_at


def _charge(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """A pack that was charged and not flown since, where the short list asks for the pack as a whole: its charge is confirmed with it."""
    s = context.situation
    found = charge_on_record(s)
    if found is None or "pack.right_one" not in replaced:
        return None
    held, at = found
    return Phrase.of(f"On record: {{held}}, read at {s.local(at):%H:%M}; confirmed with the pack.", held=percent(held))


def _as_last_time_here(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """Measured the last time, which was at this field and not long ago, and good for this aircraft: what stands here stays."""
    s, last = context.situation, done.get("field.interference")
    flown = s.history.aircraft_last_flight_at
    if last is None or last.value is None or flown is None or s.history.aircraft_last_site != s.site.name:
        return None
    if s.local(last.at).date() != s.local(flown).date() or s.now - last.at > SAME_FIELD:
        return None
    if any(f.level is not Level.CLEAR for f in RULES["interference"](last.value.value, context)):
        return None
    return Phrase.of("Still {value}, as last time here.", value=last.value)


def _door_shut(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """No door of this hall stays open."""
    return None if context.situation.site.open_door else Phrase(text="No door of this hall stays open.")


def _no_carpet(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """It does not start from carpet."""
    surface = context.situation.site.surface
    return None if surface is GroundSurface.CARPET else Phrase(text=f"It starts from {surface.value}, not from carpet.")


def _kept_in_flight(context: Context, done: DoneById, replaced: frozenset[str]) -> Phrase | None:
    """The page of the flight keeps the time, where the charge is known that it counts from."""
    if not context.charge_known or context.situation.history.aircraft_flown is not True:
        return None
    return Phrase.of(
        "The page of the flight counts {time} and says when to turn back and land.",
        time=minute(context.flight_clock().timer_min),
    )


_RULES: dict[str, Callable[[Context, DoneById, frozenset[str]], Phrase | None]] = {
    "sun": _sun_behind,
    "last_flight": _last_flight_clean,
    "pack_temperature": _pack_as_the_air,
    "charge": _charge,
    "door_shut": _door_shut,
    "no_carpet": _no_carpet,
    "same_field": _as_last_time_here,
    "flight_timer": _kept_in_flight,
}
NAMES = frozenset(_RULES)


def on_record(rule: str, context: Context, done: DoneById, replaced: frozenset[str] = frozenset()) -> Phrase | None:
    """What is on record for a check that names this rule; None where it is to be asked. ``done``: what was passed, by check;
    ``replaced``: what the short list asks within another check."""
    return _RULES[rule](context, done, replaced)
