"""Air against the ICAO standard atmosphere and an independent implementation of it."""

import math
import unittest

import fluids
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.field.site import Terrain
from walkround.core.weather import atmosphere as air

# Geopotential altitude m, pressure hPa, density kg/m3.
# Source: ICAO Doc 7488/3 (1993), table 1, printed digits, from memory.
ICAO = (
    (0, 1013.25, 1.2250),
    (500, 954.61, 1.1673),
    (1000, 898.75, 1.1116),
    (1500, 845.56, 1.0581),
    (2000, 794.95, 1.0065),
    (3000, 701.09, 0.9091),
    (5000, 540.20, 0.7361),
)


class StandardAtmosphere(unittest.TestCase):
    def test_pressure_of_the_table(self) -> None:
        for altitude, pressure, _ in ICAO:
            with self.subTest(altitude):
                self.assertAlmostEqual(air.standard_pressure_hpa(altitude), pressure, delta=0.01)
                self.assertAlmostEqual(air.pressure_altitude_m(pressure), altitude, delta=0.15)

    def test_against_fluids(self) -> None:
        """fluids.ATMOSPHERE_1976 takes geometric altitude; both agree to 11 km. Tolerance: 0.01 hPa."""
        earth_m = 6356766.0
        for geometric in range(0, 10_001, 500):
            geopotential = earth_m * geometric / (earth_m + geometric)
            reference = fluids.ATMOSPHERE_1976(geometric)
            self.assertAlmostEqual(air.standard_pressure_hpa(geopotential), reference.P / 100, delta=0.01)

    def test_density_altitude_in_the_standard_is_the_altitude(self) -> None:
        for altitude, _, density in ICAO:
            temperature = 15 - 0.0065 * altitude
            with self.subTest(altitude):
                self.assertAlmostEqual(air.density_altitude_m(1013.25, altitude, temperature), altitude, delta=0.5)
                self.assertAlmostEqual(
                    air.air_density(air.standard_pressure_hpa(altitude), temperature), density, delta=0.0001
                )

    def test_density_altitude_against_fluids(self) -> None:
        """The altitude whose standard density (fluids, bisected) equals ours; off-standard days. Tolerance 3 m."""
        for qnh, elevation, temperature in ((980, 3000, 20), (1030, 0, -15), (1005, 1200, 35), (1013.25, 240, 14)):
            density = air.air_density(air.station_pressure_hpa(qnh, elevation), temperature)
            low, high = -2000.0, 9000.0
            while high - low > 0.01:
                middle = (low + high) / 2
                low, high = (middle, high) if fluids.ATMOSPHERE_1976(middle).rho > density else (low, middle)
            geopotential = 6356766.0 * low / (6356766.0 + low)
            with self.subTest(f"{qnh} {elevation} {temperature}"):
                self.assertAlmostEqual(air.density_altitude_m(qnh, elevation, temperature), geopotential, delta=3)

    def test_moist_air_is_thinner(self) -> None:
        dry = air.density_altitude_m(1013, 300, 30)
        moist = air.density_altitude_m(1013, 300, 30, 25)
        self.assertGreater(moist, dry + 80)

    def test_vapour_pressure(self) -> None:
        """Saturation vapour pressure over water: 6.11, 12.27, 23.37, 42.43 hPa at 0, 10, 20, 30 °C.
        Source: WMO-No. 8, psychrometric tables, from memory; the Magnus formula is good to 0.3 %."""
        for temperature, pressure in ((0, 6.11), (10, 12.27), (20, 23.37), (30, 42.43)):
            self.assertAlmostEqual(air.vapour_pressure_hpa(temperature), pressure, delta=pressure * 0.003)

    @given(st.floats(-1000, 10_000))
    def test_pressure_and_altitude_turn_round(self, altitude: float) -> None:
        self.assertAlmostEqual(air.pressure_altitude_m(air.standard_pressure_hpa(altitude)), altitude, delta=0.001)


class Wind(unittest.TestCase):
    def test_one_seventh_law(self) -> None:
        """v(50) = v(10) * 5 ** (1/7) = 1.2585 v(10): the one-seventh law, worked by hand."""
        self.assertAlmostEqual(air.wind_at_height_ms(5, 10, 50, Terrain.GRASS), 6.2924, delta=0.0005)

    def test_near_the_logarithmic_law(self) -> None:
        """Over short grass (roughness 0.03 m) the log law gives ln(50/0.03)/ln(10/0.03) = 1.277; the power law must
        lie within 5 %. Source: logarithmic wind profile, roughness classes of WMO-No. 8, from memory."""
        log_law = math.log(50 / 0.03) / math.log(10 / 0.03)
        self.assertAlmostEqual(air.wind_at_height_ms(1, 10, 50, Terrain.GRASS), log_law, delta=0.05 * log_law)

    def test_rougher_ground_means_more_above(self) -> None:
        winds = [air.wind_at_height_ms(5, 10, 60, terrain) for terrain in Terrain]
        self.assertEqual(winds, sorted(winds))

    def test_never_less_than_measured(self) -> None:
        self.assertEqual(air.wind_at_height_ms(5, 10, 2, Terrain.GRASS), 5)
        self.assertEqual(air.wind_at_height_ms(0, 10, 100, Terrain.GRASS), 0)

    def test_heights_must_be_above_ground(self) -> None:
        with self.assertRaises(InputError):
            air.wind_at_height_ms(5, 0, 10, Terrain.GRASS)

    @given(st.floats(0, 30), st.floats(10, 120), st.floats(0, 100))
    def test_higher_is_never_calmer(self, wind: float, height: float, more: float) -> None:
        low = air.wind_at_height_ms(wind, 10, height, Terrain.HEDGES)
        self.assertGreaterEqual(air.wind_at_height_ms(wind, 10, height + more, Terrain.HEDGES), low)
