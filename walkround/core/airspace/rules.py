"""What the zones near a flight say: inside, near, allowed up to, active now or when; and how old the data is."""

from datetime import datetime, timedelta

from walkround.core.airspace.zone import ActivePeriod, Edge, Nearby, Ref, Rule
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import Phrase, day, degree, distance, height
from walkround.core.base.value import Value
from walkround.core.field.site import Site

NEAR_M = 5_000.0
"""Zones farther off than this are not spoken of, in m. Source: our choice."""
DRIFT_M = 300.0
"""A closed zone nearer than this to the flying area is a caution: position error and drift, in m. Source: our choice."""
AHEAD = timedelta(hours=12)
FRESH = timedelta(hours=24)
"""Notices are looked at again each day. Source: common practice, no source."""
FRESH_FILE = timedelta(days=28)
"""A file of zones holds for one cycle of the charts, 28 days. Source: ICAO Annex 15, AIRAC cycle (from memory)."""
DATED_AHEAD = timedelta(hours=24)
"""Data dated later than this from now was not made by a clock that agrees with ours; a date without a time may lie hours
ahead. Source: our choice."""
ZONE_SOURCE = "the zones' own data; the authority prevails"
AUTHORITY = "Check with your authority: this data is not an authorisation and may be incomplete."


class Airspace(Value):
    """What is known of the airspace at a field: the zones near it, and of each set of zones its name, the time (aware) it
    speaks of, and whether it comes from the notice service."""

    near: tuple[Nearby, ...]
    sets: tuple[tuple[str, datetime, bool], ...]


def active(periods: tuple[ActivePeriod, ...], begin: datetime, end: datetime) -> bool:
    """Whether a zone holds at any time from ``begin`` to ``end`` (aware); without periods always."""
    return not periods or any(
        (s.begin is None or s.begin <= end) and (s.end is None or s.end >= begin) for s in periods
    )


def next_begin(periods: tuple[ActivePeriod, ...], after: datetime) -> datetime | None:
    """When a zone holds next after an aware time, None: not within ``AHEAD``."""
    coming = [s.begin for s in periods if s.begin is not None and after < s.begin <= after + AHEAD]
    return min(coming, default=None)


def above_ground_m(edge: Edge, site: Site) -> float:
    """An edge of a zone as m above the ground under the flight; above the sea, the highest ground counts, for a floor as
    for a ceiling that is looked up at. Source: elevation of the field and how far its ground rises."""
    return edge.height_m if edge.ref is Ref.GROUND else edge.height_m - site.elevation_m - site.ground_rise_m


def free_height_m(airspace: Airspace, site: Site, begin: datetime, end: datetime) -> float | None:
    """How high the zones leave the air free above ground, in m: 0 inside a closed one; None where none says anything.

    Source: floors and allowed heights of the zones that reach into the flight and hold between two aware times.
    """
    tops = []
    for zone in airspace.near:
        if zone.away_m > 0 or not active(zone.terms.periods, begin, end):
            continue
        if zone.terms.rule is Rule.UP_TO and zone.terms.up_to_m is not None:
            tops.append(zone.terms.up_to_m)
        elif zone.terms.rule in (Rule.CLOSED, Rule.ASK):
            tops.append(max(0.0, above_ground_m(zone.terms.floor, site)))
    return min(tops, default=None)


def judge_airspace(
    airspace: Airspace, site: Site, *, top_m: float, begin: datetime, end: datetime, asked: bool = False
) -> tuple[Finding, ...]:
    """Judge the zones for a flight up to ``top_m`` above ground between two aware times; ``asked``: what they ask is done.

    At least one finding; each defers to the authority. Source: the zones' own data; deferring: 14 CFR 107.49, 49 USC 44809
    (from memory).
    """
    findings: list[Finding] = []
    for zone in airspace.near:
        findings += _judge(zone, site, top_m, begin, end, asked)
    if not findings and airspace.near:
        nearest = min(airspace.near, key=lambda zone: zone.away_m)
        words = f"No zone overlaps your flight. The nearest is {nearest.terms.name}, {{away}} towards {{where}}. This data is not an authorisation."
        where = {"away": distance(nearest.away_m), "where": degree(nearest.bearing_deg)}
        findings.append(_found("Airspace", Level.CLEAR, Phrase.of(words, **where)))
    elif not findings and airspace.sets:
        words = "No zone within {near} of here is in the data. This is not an authorisation."
        findings.append(_found("Airspace", Level.CLEAR, Phrase.of(words, near=distance(NEAR_M))))
    return (*findings, *judge_age(airspace, begin))


def judge_age(airspace: Airspace, now: datetime) -> tuple[Finding, ...]:
    """Judge how old each set of zones is, in days at an aware time: old data is a caution. Source: ``FRESH``, ``FRESH_FILE``."""
    findings = []
    for name, as_of, service in airspace.sets:
        age, most = now - as_of, FRESH if service else FRESH_FILE
        if age < -DATED_AHEAD:
            words = Phrase.of(f"{name}: dated ahead of the clock, so their age is not known.")
            findings.append(
                _found("Age of the zones", Level.CAUTION, words, "Set the clock, then fetch the zones again.")
            )
        elif age > most:
            value, limit = day(age / timedelta(days=1)), day(most / timedelta(days=1))
            findings.append(
                measured(
                    "Age of the zones",
                    value,
                    limit,
                    sense="max",
                    level=Level.CAUTION,
                    words=f"{name} is {{value}} old; zones and notices change.",
                    remedy="Fetch them again, or ask the authority.",
                    source="daily notices: common practice, no source; files: 28 days, one chart cycle (from memory)",
                )
            )
    return tuple(findings)


def _found(name: str, level: Level, reason: Phrase, remedy: str = "") -> Finding:
    return Finding(
        name=name,
        level=level,
        reason=reason,
        remedy=remedy,
        source=ZONE_SOURCE,
    )


def _judge(zone: Nearby, site: Site, top_m: float, begin: datetime, end: datetime, asked: bool) -> list[Finding]:
    terms = zone.terms
    holds, later = active(terms.periods, begin, end), next_begin(terms.periods, end)
    what = {
        Rule.CLOSED: "is closed",
        Rule.ASK: "needs permission",
        Rule.UP_TO: "sets a height",
        Rule.CAUTION: "asks for caution",
    }
    asks = f" {terms.asks}" if terms.asks else ""
    if zone.away_m > 0:
        if terms.rule is Rule.CLOSED and holds and zone.away_m < DRIFT_M:
            words = f"{terms.name} {what[terms.rule]} and begins {{away}} from the flight, towards {{where}}.{asks}"
            numbers = {"away": height(zone.away_m), "where": degree(zone.bearing_deg)}
            return [
                _found(
                    "Zone near",
                    Level.CAUTION,
                    Phrase.of(words, **numbers),
                    f"Fly on the side away from it. {AUTHORITY}",
                )
            ]
        return []
    if not holds:
        if later is None:
            return []
        words = f"{terms.name} {what[terms.rule]} from {site_time(later, site)} on.{asks}"
        return [_found("Zone later", Level.CAUTION, Phrase.of(words), f"Land before it starts. {AUTHORITY}")]
    floor_m = above_ground_m(terms.floor, site)
    max_height_m = None if terms.max_height is None else above_ground_m(terms.max_height, site) + site.ground_rise_m
    if max_height_m is not None and max_height_m <= 0:
        return []
    if terms.rule is Rule.UP_TO and terms.up_to_m is not None:
        return [_height(terms.name, "allows", top_m, terms.up_to_m, asks)]
    if floor_m > 0:
        if terms.rule is Rule.CAUTION:
            if top_m < floor_m:
                return []
            return [
                _found(
                    "Zone",
                    Level.CAUTION,
                    Phrase.of(f"{terms.name} asks for caution from {{floor}} up.{asks}", floor=height(floor_m)),
                    AUTHORITY,
                )
            ]
        under = _height(terms.name, "begins at", top_m, floor_m, asks)
        if under.level is not Level.GROUNDED or terms.rule is Rule.CLOSED or not asked:
            return [under]
    if terms.rule is Rule.CLOSED:
        return [
            _found(
                "Zone",
                Level.GROUNDED,
                Phrase.of(f"{terms.name} is closed, and this flight is inside it.{asks}"),
                f"Use another place or another time. {AUTHORITY}",
            )
        ]
    if terms.rule is Rule.ASK and not asked:
        return [
            _found(
                "Zone",
                Level.GROUNDED,
                Phrase.of(f"{terms.name} needs permission first.{asks}"),
                f"Get permission before you fly, and carry it. {AUTHORITY}",
            )
        ]
    if terms.rule is Rule.ASK:
        return [
            _found(
                "Zone",
                Level.CAUTION,
                Phrase.of(f"You say you have permission for {terms.name}.{asks}"),
                f"Carry the permission and keep to its conditions. {AUTHORITY}",
            )
        ]
    return [_found("Zone", Level.CAUTION, Phrase.of(f"{terms.name} asks for caution.{asks}"), AUTHORITY)]


def _height(name: str, verb: str, top_m: float, limit_m: float, asks: str) -> Finding:
    return measured(
        "Height in the zone",
        height(top_m),
        height(limit_m),
        sense="max",
        words=f"{name} {verb} {{limit}} above ground; this flight goes up to {{value}}.{asks}",
        remedy={
            Level.CAUTION: f"Stay well below it. {AUTHORITY}",
            Level.GROUNDED: f"Plan a lower flight, or get permission. {AUTHORITY}",
        },
        source=ZONE_SOURCE,
    )


def site_time(moment: datetime, site: Site) -> str:
    """An aware time in the field's own time, as words. Source: IANA time zone of the field."""
    from zoneinfo import ZoneInfo

    return f"{moment.astimezone(ZoneInfo(site.timezone)):%H:%M on %d %B}"
