"""The sun over the field at a moment."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from functools import lru_cache

from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.geodesy import Position
from walkround.core.base.phrase import degree
from walkround.core.base.struct import Struct


class Sun(Struct, frozen=True, kw_only=True):
    """Bearing in degrees true and height above the horizon in degrees (negative: below)."""

    bearing_deg: float
    elevation_deg: float


CIVIL_TWILIGHT_DEG = -6.0
"""Height of the sun at the end of civil twilight. Source: definition."""


SUNRISE_DEG = -0.833
"""Height of the sun's centre when its upper edge rises or sets. Source: refraction 34' and semi-diameter 16', definition."""


@lru_cache(maxsize=2048)
def sun_at(place: Position, moment: datetime) -> Sun:
    """Where the sun stands over a place (degrees) at an aware moment; refraction not included.

    Good to 0.1 degrees between 1950 and 2050. Source: NOAA solar equations through ``astral``.
    """
    from astral import Observer
    from astral.sun import zenith_and_azimuth

    observer = Observer(latitude=place.lat_deg, longitude=place.lon_deg)
    zenith, bearing = zenith_and_azimuth(observer, moment, with_refraction=False)
    return Sun(bearing_deg=float(bearing), elevation_deg=90 - float(zenith))


def sun_height_deg(place: Position, moment: datetime) -> float:
    """How high the sun stands over a place in degrees, without its bearing: half the work. Source: as ``sun_at``."""
    from astral import Observer
    from astral.sun import elevation

    return float(elevation(Observer(latitude=place.lat_deg, longitude=place.lon_deg), moment, with_refraction=False))


def judge_daylight(sun_deg: float) -> tuple[Finding, ...]:
    """Judge the light by the sun's height in degrees: sun up is clear, civil twilight is a caution, darker grounds; degrees above the horizon.

    Source: 14 CFR 107.29, lights are needed in civil twilight and at night (from memory); grounding is our choice.
    """
    level = (
        Level.CLEAR if sun_deg >= SUNRISE_DEG else Level.CAUTION if sun_deg >= CIVIL_TWILIGHT_DEG else Level.GROUNDED
    )
    return (
        measured(
            "Daylight",
            degree(sun_deg),
            degree(CIVIL_TWILIGHT_DEG),
            sense="min",
            level=level,
            span=12,
            words={
                Level.CLEAR: "The sun is up.",
                Level.CAUTION: "The sun is below the horizon: civil twilight.",
                Level.GROUNDED: "It is night: you cannot see its orientation.",
            },
            remedy={
                Level.CAUTION: "Land while you can still see its orientation. Rules on lights may apply.",
                Level.GROUNDED: "Wait for daylight.",
            },
            source="14 CFR 107.29 (from memory); the authority's current text prevails",
        ),
    )


def crossings(
    place: Position, begin: datetime, end: datetime, heights_deg: Sequence[float]
) -> list[list[tuple[datetime, bool]]]:
    """When the sun passes each of some heights (degrees) between two aware times, each with whether it rises; to the second.

    None where it stays above or below: polar days and nights. Passes shorter than twenty minutes may be missed.
    Source: bisection of the position of ``sun_height_deg``.
    """
    found: list[list[tuple[datetime, bool]]] = [[] for _ in heights_deg]
    begin, end = begin.astimezone(UTC), end.astimezone(UTC)
    a, low = begin, sun_height_deg(place, begin)
    while a < end:
        b = min(_next_mark(a), end)
        high = height_at(place, b)
        for passes, height in zip(found, heights_deg, strict=True):
            if (low < height) != (high < height):
                passes.append((_crossing(place, a, b, height, rising=low < height), low < height))
        a, low = b, high
    return found


STEP = timedelta(minutes=20)


def _next_mark(moment: datetime) -> datetime:
    """The next full twenty minutes of the clock: whenever one asks, the sun is looked at in the same moments."""
    past = timedelta(minutes=moment.minute % 20, seconds=moment.second, microseconds=moment.microsecond)
    return moment - past + STEP


height_at = lru_cache(maxsize=4096)(sun_height_deg)
"""As ``sun_height_deg``, for moments that are asked for again: full hours, the marks of the clock."""


@lru_cache(maxsize=512)
def _crossing(place: Position, a: datetime, b: datetime, height_deg: float, *, rising: bool) -> datetime:
    """When the sun passes a height between two times that lie on its two sides."""
    while b - a > timedelta(seconds=1):
        middle = a + (b - a) / 2
        if (sun_height_deg(place, middle) < height_deg) == rising:
            a = middle
        else:
            b = middle
    return b
