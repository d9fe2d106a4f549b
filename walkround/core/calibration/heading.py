"""The heading shown against one that is known: the shadow of an upright stick, a landmark of the plan, or a hand compass; the short way round the circle."""

import math
from datetime import datetime, timedelta
from enum import StrEnum

from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.geodesy import Position
from walkround.core.base.phrase import Phrase, height
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.field import planar_geometry
from walkround.core.field.site import Site
from walkround.core.field.sun import sun_at

OFF_DEG = (5.0, 10.0)
"""Up to the first a heading agrees, above the second the compass is not trusted. Source: our choice."""
HIGHEST_SUN_DEG, LOWEST_SUN_DEG = 60.0, 6.0
"""Above the first the shadow is too short to take a direction from, below the second it ends nowhere. Source: our choice."""
DRIFT_DEG = 2.0
NEVER = "Never look at the sun, and keep the lens covered: do not point the camera at it."


class Against(StrEnum):
    """What a heading is compared with."""

    SHADOW = "shadow of an upright stick"
    LANDMARK = "bearing of a landmark"
    COMPASS = "hand compass"


class Shadow(Struct, frozen=True, kw_only=True):
    """The direction in which a shadow points, in degrees from true north; the sun's height in degrees; for how many minutes that holds within two degrees."""

    bearing_deg: float
    sun_deg: float
    minutes: float


class Landmark(Struct, frozen=True, kw_only=True):
    """Something that stands on the plan and can be sighted: the number of its mark, its words, its bearing in degrees true and its distance in m from where the pilot stands."""

    id: int
    words: str
    bearing_deg: float
    distance_m: float

    @property
    def away(self) -> Quantity:
        """Its distance as a quantity."""
        return height(self.distance_m)


NEAREST_M, BROADEST_DEG = 40.0, 3.0
"""A landmark is farther than the first, so that a step aside does not matter, and to either side no broader than the second. Source: our choice; 2 m in 40 m are 3 degrees."""


def landmarks(site: Site) -> tuple[Landmark, ...]:
    """What stands on the plan of a field and can be sighted, the farthest first. Source: ``NEAREST_M``, ``BROADEST_DEG``."""
    stand = (site.pilot or site.launch).xy
    found = []
    for mark in site.marks:
        if not mark.nature.stands:
            continue
        east, north = (sum(spot.xy[i] for spot in mark.spots) / len(mark.spots) - stand[i] for i in (0, 1))
        away_m, bearing = math.hypot(east, north), planar_geometry.bearing((0.0, 0.0), (east, north))
        if away_m < NEAREST_M:
            continue
        sides = [planar_geometry.bearing(stand, point) for point in mark.points]
        broad = max(abs(apart_deg(bearing, side)) for side in sides) + math.degrees(math.atan2(mark.radius_m, away_m))
        if broad <= BROADEST_DEG:
            found.append(Landmark(id=mark.id, words=mark.words, bearing_deg=bearing, distance_m=away_m))
    return tuple(sorted(found, key=lambda one: -one.distance_m))


def apart_deg(one_deg: float, other_deg: float) -> float:
    """From one direction to the other the short way round, in degrees: clockwise positive, -180 to 180."""
    return (other_deg - one_deg + 180) % 360 - 180


def shadow(position: Position, at: datetime) -> Shadow | None:
    """Where the shadow of an upright stick points at an aware time, None where the sun is too low or too high for it. Source: astral, as for the sun on the plan."""
    sun = sun_at(position, at)
    if not LOWEST_SUN_DEG <= sun.elevation_deg <= HIGHEST_SUN_DEG:
        return None
    minutes = 0.0
    for step in range(1, 61):
        later = sun_at(position, at + timedelta(minutes=step))
        if abs(apart_deg(sun.bearing_deg, later.bearing_deg)) > DRIFT_DEG:
            break
        minutes = float(step)
    return Shadow(bearing_deg=(sun.bearing_deg + 180) % 360, sun_deg=sun.elevation_deg, minutes=minutes)


def true_deg(heading_deg: float, declination_deg: float, *, is_true: bool) -> float:
    """A heading as degrees from true north; a magnetic one is turned by the declination (degrees, east positive). Source: true = magnetic + declination."""
    return heading_deg + (0 if is_true else declination_deg)


def heading_finding(
    shown_deg: float,
    known_deg: float,
    declination_deg: float,
    *,
    shown_is_true: bool,
    known_is_true: bool,
    against: Against,
) -> Finding:
    """The heading on the screen against a known one, both in degrees; what is magnetic is turned to true by the declination (degrees, east positive).

    Source: ``OFF_DEG``; true = magnetic + declination.
    """
    shown, known = (
        true_deg(one, declination_deg, is_true=is_true)
        for one, is_true in ((shown_deg, shown_is_true), (known_deg, known_is_true))
    )
    off = apart_deg(known, shown)
    side = "" if abs(off) < 0.5 else " to the right" if off > 0 else " to the left"
    level = Level.CLEAR if abs(off) <= OFF_DEG[0] else Level.CAUTION if abs(off) <= OFF_DEG[1] else Level.GROUNDED
    words = f"The heading is {abs(off):.0f}°{side} of the {against.value}."
    remedy = "" if level is Level.CLEAR else "Calibrate the compass away from metal, and check it again."
    return Finding(name="Heading", level=level, reason=Phrase(text=words), remedy=remedy, source=OUR_CHOICE)
