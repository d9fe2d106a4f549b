"""The heading shown against one that is known: the shadow of an upright stick, a landmark of the plan, or a hand compass; the short way round the circle."""

from datetime import datetime, timedelta
from enum import StrEnum

from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.geodesy import Position
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
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
