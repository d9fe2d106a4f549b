"""The sun through the session: where it stands over the plan, when it enters the flying box, and what cures it."""

import math
from datetime import datetime, timedelta
from functools import lru_cache

from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, degree
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.field import planar_geometry
from walkround.core.field.site import Site
from walkround.core.field.sun import CIVIL_TWILIGHT_DEG, SUNRISE_DEG, Sun, crossings, sun_at, sun_height_deg

GLARE_DEG = 20.0
"""Nearer to the sun than this, in degrees, an aircraft is lost in it. Source: our choice; common practice, no source."""
MOST_LOOK_DEG, NEAR_M = 50.0, 20.0
"""One looks up at a flight at most so far, in degrees, and it is seldom nearer than so many m. Source: our choice."""
STEP = timedelta(minutes=10)
LONGEST_WAIT = timedelta(hours=8)
TURN_STEP_DEG = 10
_STEEPEST = math.sin(math.radians(MOST_LOOK_DEG))
BEARINGS = 120
CURED_DEG = GLARE_DEG + 360 / BEARINGS
"""A cure keeps the sun farther off than this, in degrees: the box is looked at in steps of so many. Source: our choice."""


class SunMoment(Struct, frozen=True, kw_only=True):
    """The sun at a time (aware): bearing in degrees true, height in degrees; whether it stands in the flying box."""

    at: datetime
    sun: Sun
    inside: bool


class SunSession(Struct, frozen=True, kw_only=True):
    """The sun over a session. ``spells``: when it stands in the box, begin and end; ``turn_deg``: the least turn of the box
    about the pilot, clockwise, that keeps it out, ``wait``: the least wait after which a whole session is free of it, both
    None where they cure nothing or nothing is to be cured; ``boxed``: whether a box is drawn at all."""

    moments: tuple[SunMoment, ...]
    spells: tuple[tuple[datetime, datetime], ...]
    turn_deg: float | None
    wait: timedelta | None
    boxed: bool

    @property
    def sector(self) -> tuple[float, float] | None:
        """From and to, degrees true clockwise, where the pilot would look into the sun while it is up; None when it is down."""
        up = [m.sun.bearing_deg for m in self.moments if m.sun.elevation_deg > SUNRISE_DEG]
        if not up:
            return None
        middle = up[len(up) // 2]
        offs = [(b - middle + 180) % 360 - 180 for b in up]
        return ((middle + min(offs) - GLARE_DEG) % 360, (middle + max(offs) + GLARE_DEG) % 360)


class SunEvents(Struct, frozen=True, kw_only=True):
    """The sun's next 24 hours: aware times, None where there is none; ``always``: "up", "down" or "" where it rises and sets."""

    sunrise: datetime | None
    sunset: datetime | None
    dusk: datetime | None
    always: str


def events(site: Site, begin: datetime) -> SunEvents:
    """Sunrise, sunset and the end of civil twilight at a field within 24 hours from an aware time on, to the second.

    Source: ``sun.crossings``.
    """
    end = begin + timedelta(hours=24)
    rises, civil = crossings(site.position, begin, end, (SUNRISE_DEG, CIVIL_TWILIGHT_DEG))
    up = sun_height_deg(site.position, begin) > SUNRISE_DEG
    return SunEvents(
        sunrise=next((at for at, rising in rises if rising), None),
        sunset=next((at for at, rising in rises if not rising), None),
        dusk=next((at for at, rising in civil if not rising), None),
        always="" if rises else "up" if up else "down",
    )


def looks(site: Site) -> list[float | None]:
    """How far up one looks at the flight on each of ``BEARINGS`` bearings from the pilot, in degrees; None where the box
    is not. Source: height over the nearest edge, at most ``MOST_LOOK_DEG``."""
    return list(_looks(tuple(site.flight_polygon()), site.pilot_spot.xy, site.flight_height_m))


@lru_cache(maxsize=256)
def _looks(
    ring: tuple[planar_geometry.Point, ...], stands: planar_geometry.Point, height_m: float
) -> tuple[float | None, ...]:
    within = planar_geometry.inside(ring, stands)
    found: list[float | None] = []
    for i in range(BEARINGS):
        bearing = math.radians(i * 360 / BEARINGS)
        dx, dy = math.sin(bearing), math.cos(bearing)
        near = 0.0 if within else math.inf
        for (ax, ay), (bx, by) in [] if within else planar_geometry.segments(ring, closed=True):
            ex, ey = bx - ax, by - ay
            cross = dx * ey - dy * ex
            if cross == 0:
                continue
            px, py = ax - stands[0], ay - stands[1]
            along, share = (px * ey - py * ex) / cross, (px * dy - py * dx) / cross
            if along >= 0 and 0 <= share <= 1:
                near = min(near, along)
        up = math.degrees(math.atan2(height_m, max(near, NEAR_M)))
        found.append(None if near == math.inf else min(MOST_LOOK_DEG, up))
    return tuple(found)


def blinds(look: list[float | None], sun: Sun, turn_deg: float = 0.0, near_deg: float = GLARE_DEG) -> bool:
    """Whether the sun stands in the box or nearer to it than ``near_deg``, with the box turned clockwise about the pilot
    by so many degrees. ``look``: as from ``looks``.

    Source: ``GLARE_DEG``; the angle between two directions.
    """
    if sun.elevation_deg <= SUNRISE_DEG:
        return False
    high, near = math.radians(max(0.0, sun.elevation_deg)), math.radians(near_deg)
    level, rise, steep, enough = math.cos(high), math.sin(high), math.tan(high), math.cos(near)
    # No direction in an upright plane is nearer to the sun than the plane itself, and none behind nearer than straight up.
    ahead_only = rise * _STEEPEST <= enough
    aside_deg = (
        math.degrees(math.asin(math.sin(near) / level)) if math.sin(near) < level and near < math.pi / 2 else 90.0
    )
    step_deg = 360 / BEARINGS
    for towards_deg in (sun.bearing_deg - turn_deg, sun.bearing_deg - turn_deg + 180)[: 1 if ahead_only else 2]:
        first, last = math.floor((towards_deg - aside_deg) / step_deg), math.ceil((towards_deg + aside_deg) / step_deg)
        for i in range(first, last + 1):
            up = look[i % BEARINGS]
            if up is None:
                continue
            ahead, most = math.cos(math.radians(i * step_deg + turn_deg - sun.bearing_deg)), math.radians(up)
            # From the horizon up to where one looks: the direction in it that is nearest to the sun.
            lift = min(most, math.atan2(steep, ahead)) if ahead > 0 else most
            if rise * math.sin(lift) + level * math.cos(lift) * ahead > enough:
                return True
    return False


def session(site: Site, begin: datetime, minutes: float) -> SunSession:
    """The sun over a field from an aware time on for so many minutes, against its flying box.

    Where no box is drawn nothing is said to be inside. Source: ``sun.sun_at``; ``blinds``.
    """
    length = timedelta(minutes=minutes)
    count = max(1, math.ceil(length / STEP))
    look = looks(site) if site.flight_area else []
    suns: dict[int, Sun] = {}

    def sun(step: int) -> Sun:
        if step not in suns:
            suns[step] = sun_at(site.position, begin + step * STEP)
        return suns[step]

    inside = [bool(look) and blinds(look, sun(i)) for i in range(count + 1)]
    moments = tuple(SunMoment(at=begin + i * STEP, sun=sun(i), inside=inside[i]) for i in range(count + 1))
    turn, wait = None, None
    if any(inside):
        for by in range(TURN_STEP_DEG, 181, TURN_STEP_DEG):
            free = [t for t in (by, -by) if not any(blinds(look, sun(i), t, CURED_DEG) for i in range(count + 1))]
            if free:
                turn = float(free[0])
                break
        for late in range(1, int(LONGEST_WAIT / STEP)):
            if sun(late + count).elevation_deg < 0 or sun(late).elevation_deg < 0:
                break
            if not any(blinds(look, sun(late + i), 0.0, CURED_DEG) for i in range(count + 1)):
                wait = late * STEP
                break
    return SunSession(
        moments=moments,
        spells=_spells(moments),
        turn_deg=turn,
        wait=wait,
        boxed=bool(look),
    )


def _spells(moments: tuple[SunMoment, ...]) -> tuple[tuple[datetime, datetime], ...]:
    spells: list[tuple[datetime, datetime]] = []
    begin: datetime | None = None
    for m in moments:
        if m.inside and begin is None:
            begin = m.at
        elif not m.inside and begin is not None:
            spells.append((begin, m.at))
            begin = None
    return (*spells, (begin, moments[-1].at)) if begin else tuple(spells)


def judge_session(found: SunSession) -> tuple[Finding, ...]:
    """Judge the sun over a session against the box, in degrees: inside grounds, else clear; one finding, none when the sun
    is down. Source: sun behind the pilot, the box never through the sun: common practice, no source."""
    first, last = found.moments[0].sun, found.moments[-1].sun
    sector = found.sector
    if sector is None:
        return ()
    heights = [m.sun.elevation_deg for m in found.moments]
    where = {
        "low": degree(min(heights)),
        "up": degree(max(heights)),
        "a": degree(first.bearing_deg),
        "b": degree(last.bearing_deg),
        "f": degree(sector[0]),
        "t": degree(sector[1]),
    }
    way = "The sun goes from {a} to {b}, {low} to {up} high; you would look into it between {f} and {t}."
    if not found.boxed:
        level, words, remedy = Level.CLEAR, way + " Draw a flying box to compare it with.", ""
    elif found.spells:
        level, words = Level.GROUNDED, "The sun is in the flying box. " + way
        cures = []
        if found.turn_deg is not None:
            side = "right" if found.turn_deg > 0 else "left"
            cures.append(f"turn the flying box {abs(found.turn_deg):.0f}° to the {side}")
        if found.wait is not None:
            minutes = round(found.wait.total_seconds() / 60)
            cures.append(f"wait {minutes // 60} h {minutes % 60} min" if minutes >= 60 else f"wait {minutes} min")
        text = " or ".join(cures) or "choose another field or another time: there is no fix at this field today"
        remedy = f"{capital(text)}."
    else:
        level, words, remedy = Level.CLEAR, "The sun stays out of the flying box. " + way, ""
    return (
        Finding(
            name="Sun",
            level=level,
            reason=Phrase.of(words, **where),
            remedy=remedy,
            source="position of the sun; 20° round it: our choice",
        ),
    )
