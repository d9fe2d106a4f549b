"""Distances and bearings on the earth."""

import functools
from typing import Any

from walkround.core.base import Value
from walkround.core.errors import InputError


class Position(Value):
    """A place on the WGS 84 ellipsoid: latitude and longitude in degrees, north and east positive."""

    lat_deg: float
    lon_deg: float


def position(lat_deg: float, lon_deg: float) -> Position:
    """A checked position. Latitude -90 to 90, longitude -180 to 180, both in degrees.

    Raises InputError outside these, offering the swap when the two look exchanged.
    Source: WGS 84 coordinate ranges.
    """
    if not -90 <= lat_deg <= 90:
        swapped = -90 <= lon_deg <= 90 and -180 <= lat_deg <= 180
        hint = " Are the two swapped?" if swapped else ""
        offer = {"lat_deg": f"{lon_deg:g}", "lon_deg": f"{lat_deg:g}"} if swapped else {}
        raise InputError(f"Latitude {lat_deg:g} is outside -90 to 90.{hint}", "lat_deg", offer)
    if not -180 <= lon_deg <= 180:
        raise InputError(f"Longitude {lon_deg:g} is outside -180 to 180.", "lon_deg")
    return Position(lat_deg=lat_deg, lon_deg=lon_deg)


@functools.cache
def _earth() -> Any:
    from geographiclib.geodesic import Geodesic

    return Geodesic.WGS84


def distance_m(a: Position, b: Position) -> float:
    """Geodesic distance in m between two positions in degrees on WGS 84.

    Source: C. F. F. Karney, Algorithms for geodesics, J. Geodesy 87 (2013), through geographiclib.
    """
    return float(_earth().Inverse(a.lat_deg, a.lon_deg, b.lat_deg, b.lon_deg)["s12"])


def bearing_deg(a: Position, b: Position) -> float:
    """Initial bearing in degrees true (0 to 360) from ``a`` to ``b`` on WGS 84.

    Source: as ``distance_m``.
    """
    return float(_earth().Inverse(a.lat_deg, a.lon_deg, b.lat_deg, b.lon_deg)["azi1"]) % 360
