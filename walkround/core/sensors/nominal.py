"""A typical sky: the satellites of two constellations at their nominal places, for what a hidden part of the sky costs. Not today's satellites."""

import math
from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING, Any

from walkround.core.base.geodesy import Position
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.sensors.sky import Constellation, SkySatellite, dilutions

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

SIDEREAL_S = 86_164.0905
EARTH_KM = 6_371.0
GPS_KM, GPS_TILT_DEG = 26_559.7, 55.0
GPS_EPOCH = datetime(1993, 7, 1, tzinfo=UTC)
GPS_EPOCH_GREENWICH_DEG = 279.06
GPS_PLANES: dict[float, tuple[float, ...]] = {
    272.847: (268.126, 161.786, 11.676, 41.806),
    332.847: (80.956, 173.336, 309.976, 204.376),
    32.847: (111.876, 11.796, 339.666, 241.556),
    92.847: (135.226, 265.446, 35.156, 167.356),
    152.847: (197.046, 302.596, 66.066, 333.686),
    212.847: (238.886, 345.226, 105.206, 135.346),
}
"""The 24 slots: right ascension of each ascending node and arguments of latitude, in degrees. Source: Global Positioning System Standard Positioning Service
Performance Standard, reference orbit slots (from memory)."""
GALILEO_KM, GALILEO_TILT_DEG = 29_600.0, 56.0
GALILEO_TURNS = 17 / 10
"""Revolutions in a sidereal day; 24 satellites in three planes, phases 15° from plane to plane. Source: Galileo Open Service definition document, Walker 24/3/1 (from memory); where the
pattern begins is our choice."""
SAMPLES = 48
"""So many moments of a day are looked at. Source: our choice."""


def _orbits() -> list[tuple[Constellation, int, float, float, float, float, float]]:
    """Whose, number, radius (km), inclination, right ascension and argument of latitude at the epoch (degrees), revolutions in a sidereal day."""
    found: list[tuple[Constellation, int, float, float, float, float, float]] = []
    for node, slots in GPS_PLANES.items():
        for along in slots:
            found.append((Constellation.GPS, len(found) + 1, GPS_KM, GPS_TILT_DEG, node, along, 2.0))
    for plane in range(3):
        for slot in range(8):
            number = plane * 8 + slot + 1
            found.append(
                (
                    Constellation.GALILEO,
                    number,
                    GALILEO_KM,
                    GALILEO_TILT_DEG,
                    120.0 * plane,
                    45.0 * slot + 15.0 * plane,
                    GALILEO_TURNS,
                )
            )
    return found


ORBITS = _orbits()
CLOCKS = [0 if whose is Constellation.GPS else 1 for whose, *_ in ORBITS]


def looked_at(place: Position, moments: Sequence[datetime]) -> tuple[Any, Any]:
    """Elevation and bearing (degrees) of each nominal satellite at each aware moment, as arrays of moments by satellites. Source: circular orbits round a turning Earth."""
    days = np.array([(moment - GPS_EPOCH).total_seconds() / SIDEREAL_S for moment in moments])[:, None]
    radius = np.array([orbit[2] for orbit in ORBITS])
    tilt, node, along = (np.radians([orbit[i] for orbit in ORBITS]) for i in (3, 4, 5))
    turns = np.array([orbit[6] for orbit in ORBITS])
    u = along + 2 * math.pi * turns * days
    round_ = node - math.radians(GPS_EPOCH_GREENWICH_DEG) - 2 * math.pi * days
    x = radius * (np.cos(u) * np.cos(round_) - np.sin(u) * np.cos(tilt) * np.sin(round_))
    y = radius * (np.cos(u) * np.sin(round_) + np.sin(u) * np.cos(tilt) * np.cos(round_))
    z = radius * np.sin(u) * np.sin(tilt)
    lat, lon = math.radians(place.lat_deg), math.radians(place.lon_deg)
    east = -math.sin(lon) * x + math.cos(lon) * y
    out = math.cos(lon) * x + math.sin(lon) * y
    north = -math.sin(lat) * out + math.cos(lat) * z
    up = math.cos(lat) * out + math.sin(lat) * z - EARTH_KM
    return np.degrees(np.arctan2(up, np.hypot(east, north))), np.degrees(np.arctan2(east, north)) % 360


def typical_sky(place: Position, moment: datetime, lowest_deg: float) -> tuple[SkySatellite, ...]:
    """The nominal satellites higher than so many degrees at an aware moment. Source: ``looked_at``."""
    elevations, bearings = looked_at(place, [moment])
    return tuple(
        SkySatellite(whose=whose, number=number, elevation_deg=round(float(elevations[0, i]), 1), bearing_deg=round(float(bearings[0, i]), 1) % 360)
        for i, (whose, number, *_) in enumerate(ORBITS)
        if elevations[0, i] >= lowest_deg
    )  # fmt: skip


class TypicalDay(Struct, frozen=True, kw_only=True):
    """What a sky gives over a day: satellites and HDOP (no unit), as usual and in the worst tenth of the day; infinite where there is no position."""

    satellites: int
    satellites_worst: int
    hdop: float
    hdop_worst: float


def typical_day(place: Position, day: datetime, hidden_below_deg: Callable[[Any], Any]) -> TypicalDay:
    """What the sky of a place gives over the day from an aware time on, where everything below an elevation is hidden: a function of bearings, all in degrees.

    Source: ``looked_at``; ``dilutions``.
    """
    moments = [day + timedelta(seconds=SIDEREAL_S * i / SAMPLES) for i in range(SAMPLES)]
    elevations, bearings = looked_at(place, moments)
    seen = elevations >= hidden_below_deg(bearings)
    many, values = [], []
    for i in range(SAMPLES):
        which = [j for j in range(len(ORBITS)) if seen[i, j]]
        found = dilutions([(float(elevations[i, j]), float(bearings[i, j])) for j in which], [CLOCKS[j] for j in which])
        many.append(len(which))
        values.append(math.inf if found is None else found.hdop)
    many.sort()
    values.sort()
    tenth = SAMPLES // 10
    return TypicalDay(
        satellites=many[SAMPLES // 2],
        satellites_worst=many[tenth],
        hdop=values[SAMPLES // 2],
        hdop_worst=values[-1 - tenth],
    )
