"""Air: the standard atmosphere, density altitude, and wind that grows with height."""

import math

from walkround.core.base.errors import InputError
from walkround.core.field.site import Terrain

SEA_LEVEL_TEMPERATURE_K = 288.15
"""Source: ICAO Doc 7488/3 (1993), table of primary constants."""
SEA_LEVEL_PRESSURE_HPA = 1013.25
"""Source: ICAO Doc 7488/3 (1993), table of primary constants."""
LAPSE_K_PER_M = 0.0065
"""Source: ICAO Doc 7488/3 (1993), 0 to 11 km."""
GRAVITY_MS2 = 9.80665
"""Source: ICAO Doc 7488/3 (1993), table of primary constants."""
GAS_CONSTANT_DRY = 287.05287
"""J/(kg K). Source: ICAO Doc 7488/3 (1993), table of primary constants."""
GAS_CONSTANT_VAPOUR = 461.495
"""J/(kg K). Source: specific gas constant of water vapour, from memory."""
ZERO_C_K = 273.15
SEA_LEVEL_DENSITY = SEA_LEVEL_PRESSURE_HPA * 100 / (GAS_CONSTANT_DRY * SEA_LEVEL_TEMPERATURE_K)
_EXPONENT = GRAVITY_MS2 / (GAS_CONSTANT_DRY * LAPSE_K_PER_M)

WIND_EXPONENT: dict[Terrain, float] = {
    Terrain.WATER: 0.10,
    Terrain.GRASS: 1 / 7,
    Terrain.HEDGES: 0.20,
    Terrain.BUILT: 0.27,
}
"""Exponent of the wind power law for each terrain (no unit). Source: one-seventh law over open grass, the others
from tables of wind engineering; from memory."""
REPORT_WIND_HEIGHT_M = 10.0
"""Height at which a report's wind is measured. Source: WMO-No. 8, Guide to Instruments, chapter on surface wind."""


def standard_pressure_hpa(altitude_m: float) -> float:
    """Pressure in hPa at a geopotential altitude in m (-2,000 to 11,000) of the standard atmosphere.

    Source: ICAO Doc 7488/3 (1993), troposphere formula.
    """
    return float(SEA_LEVEL_PRESSURE_HPA * (1 - LAPSE_K_PER_M * altitude_m / SEA_LEVEL_TEMPERATURE_K) ** _EXPONENT)


def pressure_altitude_m(pressure_hpa: float) -> float:
    """Geopotential altitude in m at which the standard atmosphere has this pressure in hPa (above 226 hPa).

    Source: ICAO Doc 7488/3 (1993), inverse of the troposphere formula.
    """
    share = float((pressure_hpa / SEA_LEVEL_PRESSURE_HPA) ** (1 / _EXPONENT))
    return SEA_LEVEL_TEMPERATURE_K / LAPSE_K_PER_M * (1 - share)


def station_pressure_hpa(qnh_hpa: float, elevation_m: float) -> float:
    """Pressure in hPa at a field of this elevation (m) when the altimeter setting is ``qnh_hpa``.

    The setting is defined so that the altimeter shows the elevation: pressure altitudes are shifted by that of the
    setting itself. Source: ICAO Doc 9837 / altimeter definition, with the formula of Doc 7488/3; from memory.
    """
    return standard_pressure_hpa(elevation_m + pressure_altitude_m(qnh_hpa))


def vapour_pressure_hpa(dew_point_c: float) -> float:
    """Vapour pressure in hPa at a dew point in °C (-45 to 60), over water.

    Source: Magnus formula with the coefficients of WMO-No. 8, annex 4.B (6.112, 17.62, 243.12).
    """
    return 6.112 * math.exp(17.62 * dew_point_c / (243.12 + dew_point_c))


def air_density(pressure_hpa: float, temperature_c: float, dew_point_c: float | None = None) -> float:
    """Density of moist air in kg/m³ from pressure (hPa), temperature (°C) and dew point (°C, None: dry).

    Source: ideal gas law for dry air and vapour.
    """
    temperature_k = temperature_c + ZERO_C_K
    vapour_hpa = 0.0 if dew_point_c is None else vapour_pressure_hpa(dew_point_c)
    dry_hpa = pressure_hpa - vapour_hpa
    return 100 * (dry_hpa / GAS_CONSTANT_DRY + vapour_hpa / GAS_CONSTANT_VAPOUR) / temperature_k


def density_altitude_m(
    qnh_hpa: float, elevation_m: float, temperature_c: float, dew_point_c: float | None = None
) -> float:
    """Altitude in m at which the standard atmosphere is as thin as the air here now.

    Altimeter setting in hPa, elevation in m, temperature and dew point in °C.
    Source: closed form of ICAO Doc 7488/3 (1993), density in the troposphere, inverted.
    """
    density = air_density(station_pressure_hpa(qnh_hpa, elevation_m), temperature_c, dew_point_c)
    share = float((density / SEA_LEVEL_DENSITY) ** (1 / (_EXPONENT - 1)))
    return SEA_LEVEL_TEMPERATURE_K / LAPSE_K_PER_M * (1 - share)


def wind_at_height_ms(wind_ms: float, measured_m: float, height_m: float, terrain: Terrain) -> float:
    """Wind in m/s at ``height_m`` from a wind in m/s measured at ``measured_m``, both in m above ground.

    Power law ``v(h) = v(m) (h / m) ** a`` with the terrain's exponent. Below the measured height the measured wind
    is kept: the law would promise too little. Raises InputError for heights not above 0.
    Source: wind profile power law; exponents in ``WIND_EXPONENT``.
    """
    if measured_m <= 0 or height_m <= 0:
        raise InputError("Heights for the wind must be above the ground.")
    if height_m <= measured_m:
        return wind_ms
    return wind_ms * float((height_m / measured_m) ** WIND_EXPONENT[terrain])


def most_across(sector_deg: tuple[float, float], strip_deg: float) -> float:
    """The direction within a sector (from, to, clockwise, degrees true) that lies most across a strip, degrees true.

    Square to the strip where the sector holds such a direction, else the end of it that is nearer to square.
    Source: the sine of the angle, greatest at 90 degrees.
    """
    begin, width = sector_deg[0] % 360, (sector_deg[1] - sector_deg[0]) % 360
    for square in (strip_deg + 90, strip_deg - 90):
        if (square - begin) % 360 <= width:
            return square % 360
    ends = (begin, (begin + width) % 360)
    return max(ends, key=lambda deg: abs(math.sin(math.radians(deg - strip_deg))))


def strip_wind_ms(
    wind_ms: float, wind_from_deg: float | None, strip_deg: float, sector_deg: tuple[float, float] | None = None
) -> tuple[float, float]:
    """Wind in m/s across a strip and along it (degrees true; along positive: headwind, taking off towards ``strip_deg``).

    A wind of unknown direction counts whole across, and nothing of it along; of one that varies over ``sector_deg``, the
    direction most across. Source: components of a vector.
    """
    if sector_deg is not None:
        across_from = most_across(sector_deg, strip_deg)
        across = abs(wind_ms * math.sin(math.radians(across_from - strip_deg)))
        middle = sector_deg[0] + ((sector_deg[1] - sector_deg[0]) % 360) / 2
        return across, wind_ms * math.cos(math.radians(middle - strip_deg))
    if wind_from_deg is None:
        return wind_ms, 0.0
    angle = math.radians(wind_from_deg - strip_deg)
    return abs(wind_ms * math.sin(angle)), wind_ms * math.cos(angle)


def ground_speed_home_ms(air_speed_ms: float, wind_ms: float) -> float:
    """Slowest speed over the ground in m/s on the way home: straight against the wind; below 0 it drifts away.

    Source: wind triangle with the wind on the nose.
    """
    return air_speed_ms - wind_ms


def wind_chill_c(air_c: float, wind_ms: float) -> float:
    """What the air feels like on bare skin, in °C, at an air temperature (°C) and a wind 10 m up (m/s).

    Above 10 °C, and in less wind than a walking pace of 4.8 km/h, it is the air's own. Source: Environment Canada and US
    National Weather Service, wind chill index of 2001.
    """
    kmh = wind_ms * 3.6
    if air_c > 10 or kmh < 4.8:
        return air_c
    power = math.pow(kmh, 0.16)
    return 13.12 + 0.6215 * air_c - 11.37 * power + 0.3965 * air_c * power
