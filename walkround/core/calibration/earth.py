"""What a sensor should measure at a place: the Earth's magnetic field by the World Magnetic Model, and gravity by WGS 84."""

import math
from datetime import date, datetime
from functools import lru_cache

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.sensors.devices import Here
from walkround.core.weather.atmosphere import SEA_LEVEL_PRESSURE_HPA, station_pressure_hpa

VALID = (date(2025, 1, 1), date(2029, 12, 31))
"""The World Magnetic Model 2025 is made for these years. Source: NOAA NCEI and BGS, WMM2025."""
MODEL = "World Magnetic Model 2025 (NOAA NCEI, BGS)"
_EQUATOR_MS2, _K, _E2 = 9.7803253359, 0.00193185265241, 0.00669437999014
_FREE_AIR_PER_M = 3.086e-6


class EarthField(Struct, frozen=True, kw_only=True):
    """The Earth's field at a place and on a day: north, east, down in µT; strength in µT, declination and inclination (dip) in degrees."""

    north_ut: float
    east_ut: float
    down_ut: float

    @property
    def strength_ut(self) -> float:
        """Total strength in µT."""
        return math.sqrt(self.north_ut**2 + self.east_ut**2 + self.down_ut**2)

    @property
    def level_ut(self) -> float:
        """Horizontal strength in µT."""
        return math.hypot(self.north_ut, self.east_ut)

    @property
    def declination_deg(self) -> float:
        """From true to magnetic north in degrees, east positive."""
        return math.degrees(math.atan2(self.east_ut, self.north_ut))

    @property
    def inclination_deg(self) -> float:
        """Dip below the horizon in degrees, downward positive."""
        return math.degrees(math.atan2(self.down_ut, self.level_ut))


@lru_cache(maxsize=1)
def _model() -> object:
    from pygeomag import GeoMag  # type: ignore[import-untyped]

    return GeoMag()


@lru_cache(maxsize=256)
def earth_field(position: Position, day: date, height_m: float = 0.0) -> EarthField:
    """The field at a position on a day, at a height in m above the ellipsoid. Raises InputError outside the years of the model.

    Source: World Magnetic Model 2025, evaluated by pygeomag.
    """
    if not VALID[0] <= day <= VALID[1]:
        raise InputError(
            f"The magnetic model holds from {VALID[0].year} to {VALID[1].year}. Set the date, or update Walk Round."
        )
    begin = date(day.year, 1, 1)
    year = day.year + (day - begin).days / (date(day.year + 1, 1, 1) - begin).days
    found = _model().calculate(glat=position.lat_deg, glon=position.lon_deg, alt=height_m / 1000, time=year)  # type: ignore[attr-defined]
    return EarthField(north_ut=found.x / 1000, east_ut=found.y / 1000, down_ut=found.z / 1000)


def gravity_ms2(lat_deg: float, height_m: float = 0.0) -> float:
    """Gravity in m/s² at a latitude in degrees and a height in m. Source: WGS 84, Somigliana's formula; free-air gradient."""
    s2 = math.sin(math.radians(lat_deg)) ** 2
    return _EQUATOR_MS2 * (1 + _K * s2) / math.sqrt(1 - _E2 * s2) - _FREE_AIR_PER_M * height_m


SOMEWHERE_UT = (20.0, 0.0, 44.0)
"""A field to turn a stand-in in where no place is known: that of the middle latitudes. Source: World Magnetic Model 2025, rounded."""


def field_at(site: Site | None, at: datetime) -> EarthField | None:
    """The field at a site on the day of an aware moment; None where no site is known, or the model does not reach. Source: as ``earth_field``."""
    if site is None or not VALID[0] <= at.date() <= VALID[1]:
        return None
    return earth_field(site.position, at.date(), site.elevation_m or 0.0)


def here_at(site: Site | None, at: datetime, qnh_hpa: float | None) -> Here:
    """Where a flight controller is turned at an aware moment: at a site under a QNH in hPa, or somewhere. Source: ``earth_field``; ICAO standard atmosphere."""
    field = field_at(site, at)
    earth = (field.north_ut, field.east_ut, field.down_ut) if field is not None else SOMEWHERE_UT
    pressure = station_pressure_hpa(
        qnh_hpa or SEA_LEVEL_PRESSURE_HPA, (site.elevation_m or 0.0) if site is not None else 0.0
    )
    return Here(earth_ut=earth, pressure_hpa=pressure, position=site.position if site is not None else None, at=at)
