"""The sun over the field at a moment."""

from datetime import datetime

from walkround.core.base import Value
from walkround.core.geodesy import Position


class Sun(Value):
    """Bearing in degrees true and height above the horizon in degrees (negative: below)."""

    bearing_deg: float
    elevation_deg: float


CIVIL_TWILIGHT_DEG = -6.0
"""Height of the sun at the end of civil twilight. Source: definition."""


def sun_at(place: Position, moment: datetime) -> Sun:
    """Where the sun stands over a place (degrees) at an aware moment; refraction not included.

    Good to 0.1 degrees between 1950 and 2050. Source: NOAA solar equations through ``astral``.
    """
    from astral import Observer
    from astral.sun import azimuth, elevation

    observer = Observer(latitude=place.lat_deg, longitude=place.lon_deg)
    return Sun(
        bearing_deg=float(azimuth(observer, moment)),
        elevation_deg=float(elevation(observer, moment, with_refraction=False)),
    )
