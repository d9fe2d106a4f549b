"""What field, sky, light, sun, airspace, pack and way home say about a flight at a moment: put together once.

Today, the walk, the field, flight-time and return pages, the brief and take-off all read these findings; none of them judges
by itself. So two pages cannot disagree about the same subject at the same moment.
"""

from collections.abc import Callable, Iterable
from datetime import datetime, timedelta
from enum import StrEnum

from walkround.core.aircraft.traits import Trait
from walkround.core.airspace.rules import Airspace, judge_airspace
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, minute
from walkround.core.field.glare import judge_session, session
from walkround.core.field.interference import judge_sources
from walkround.core.field.sight import judge_sight
from walkround.core.field.site import Site, judge_spectators
from walkround.core.field.sun import judge_daylight, sun_height_deg
from walkround.core.flight.flight_plan import FlightPlan, judge_flight
from walkround.core.flight.speed_home import judge_getting_home
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.upkeep import need
from walkround.core.proving.rules import judge_proving
from walkround.core.proving.stages import under_proving
from walkround.core.round.context import Context
from walkround.core.round.weather_rules import judge_weather


class Subject(StrEnum):
    """What a finding is about, in the order in which it is shown."""

    WEATHER = "weather"
    HOME = "way home"
    LIGHT = "daylight"
    AIRSPACE = "airspace"
    PACK = "pack"
    PLAN = "flight plan"
    SUN = "sun"
    SIGHT = "line of sight"
    PEOPLE = "people"
    SOURCES = "interference"
    PROVING = "proving"


FIELD = (Subject.SUN, Subject.SIGHT, Subject.PEOPLE, Subject.SOURCES)
"""What the plan of the field has to say."""


def readiness(
    context: Context,
    begin: datetime,
    minutes: float | None = None,
    only: Iterable[Subject] = tuple(Subject),
) -> tuple[Finding, ...]:
    """All findings on some subjects for a flight that begins at an aware moment and lasts so many minutes.

    ``minutes``: the planned ones unless given. Clear findings are among them.
    """
    length = context.planned_min if minutes is None else minutes
    end = begin + timedelta(minutes=length)
    return tuple(f for subject in only for f in _judged(context, subject, begin, end))


def _judged(context: Context, subject: Subject, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    key = (subject.value, begin, end)
    if key not in context.judged:
        context.judged[key] = _JUDGES[subject](context, begin, end)
    return context.judged[key]


def _weather(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    s = context.situation
    if context.weather is None:
        if s.site.indoors:
            return ()
        reason = Phrase.of("The weather is not known yet.")
        remedy = "Import a report or enter what you measure, at the Sky station."
        return (Finding(name="Weather", level=Level.CAUTION, reason=reason, remedy=remedy),)
    return judge_weather(context.weather, s, begin, context.highest_m, context.flight_plan.out_m)


def _home(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    s = context.situation
    return judge_getting_home(s.aircraft, context.weather, s.site, context.home_height_m)


def _light(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    """The light at the beginning and at the landing, whichever is darker."""
    site = context.situation.site
    if site.indoors:
        return ()
    return judge_daylight(min(sun_height_deg(site.position, begin), sun_height_deg(site.position, end)))


def _airspace(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    s = context.situation
    if s.site.indoors:
        return ()
    if s.airspace is None:
        if context.airspace_asked is not None:
            return ()  # the pilot has asked, and there is no data to compare it with
        reason = Phrase.of("There is no airspace data for this field.")
        remedy = "Fetch it on the field's airspace page, or ask the authority."
        return (Finding(name="Airspace", level=Level.CAUTION, reason=reason, remedy=remedy),)
    asked = context.airspace_asked == "asks"
    return judge_airspace(s.airspace, s.site, top_m=context.highest_m, begin=begin, end=end, asked=asked)


def _pack(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    """What the record has against this pack; what was read in this round takes its place where it says more."""
    s, known = context.situation, context.situation.history.pack_summary
    if not s.pack.usable:
        words = f"Pack {s.pack.label} is {s.pack.state.value}."
        remedy = (
            "Choose another pack." if s.pack.retired else "Inspect it and enter what was done, or choose another pack."
        )
        return (Finding(name="Pack", level=Level.GROUNDED, reason=Phrase(text=words), remedy=remedy),)
    if context.pack_read or known is None:
        return ()
    held = known.charge_now(s.pack, begin)
    air_c = None if context.weather is None else context.weather.temperature_c
    wants = need(s.pack, known, held, begin, s.limits, air_c=air_c)
    if wants.level is Level.CLEAR:
        return ()
    reason = Phrase(text=f"Pack {s.pack.label}: {wants.words.text}", numbers=wants.words.numbers)
    return (Finding(name="Pack", level=wants.level, reason=reason, remedy=wants.caution),)


def _plan(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    """The flight as planned against what the pack holds, as far as that is known."""
    s = context.situation
    fuel = s.aircraft.has(Trait.LIQUID_FUEL)
    if not (context.motorised_pack or fuel):
        words = Phrase.of("{planned} planned. Without a motor, lift decides.", planned=minute(context.planned_min))
        return (Finding(name="Planned", level=Level.CLEAR, reason=words),)
    holder = "the tank" if fuel else "this pack"
    found = judge_flight(context.flight_needs(), grounds_half=s.methods.charge == "plan", holder=holder)
    if context.charge_known:
        return found
    what = "The fuel level" if fuel else "The state of charge of this pack"
    reason = Phrase.of(f"{what} is not known. The plan is calculated for a full one.")
    remedy = "Check the fuel level first." if fuel else "Measure the pack before you rely on it."
    return (Finding(name="Charge", level=Level.CAUTION, reason=reason, remedy=remedy), *found)


def _sun(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    site = context.situation.site
    return () if site.indoors else judge_session(session(site, begin, (end - begin) / timedelta(minutes=1)))


def _sight(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    s = context.situation
    return judge_sight(s.site, s.aircraft, context.flight_plan.out_m, context.highest_m)


def _people(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    return judge_spectators(context.situation.site, context.situation.limits.people_m)


def _sources(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    return judge_sources(context.situation.site, context.situation.aircraft)


def _proving(context: Context, begin: datetime, end: datetime) -> tuple[Finding, ...]:
    s = context.situation
    return judge_proving(under_proving(s.aircraft, s.history.aircraft_flown, s.history.bench_test), context.flight_plan)


_JUDGES: dict[Subject, Callable[[Context, datetime, datetime], tuple[Finding, ...]]] = {
    Subject.WEATHER: _weather,
    Subject.HOME: _home,
    Subject.LIGHT: _light,
    Subject.AIRSPACE: _airspace,
    Subject.PACK: _pack,
    Subject.PLAN: _plan,
    Subject.SUN: _sun,
    Subject.SIGHT: _sight,
    Subject.PEOPLE: _people,
    Subject.SOURCES: _sources,
    Subject.PROVING: _proving,
}


def flight_findings(context: Context, plan: FlightPlan, held: ChargeRange | None) -> tuple[Finding, ...]:
    """The findings on a plan that is being tried out, and on the way home with it. ``held``: what the pack is said to hold
    (per cent), None: what is known. Source: as ``readiness``."""
    tried = context.with_plan(plan, held)
    return readiness(tried, context.situation.now, only=(Subject.PLAN, Subject.HOME, Subject.PROVING))


def airspace_findings(
    known: Airspace, site: Site, top_m: float, begin: datetime, minutes: float
) -> tuple[Finding, ...]:
    """What the zones say of a flight that is being tried out: up to ``top_m`` above ground, for so many minutes.

    Source: as ``readiness``.
    """
    return judge_airspace(known, site, top_m=top_m, begin=begin, end=begin + timedelta(minutes=minutes))
