"""The Earth's field against NOAA's published test values of the World Magnetic Model 2025; gravity against WGS 84."""

import unittest
from datetime import date
from importlib.resources import files

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.calibration.earth import VALID, earth_field, gravity_ms2
from walkround.core.calibration.samples import EARTH_UT


class Published(unittest.TestCase):
    def test_test_values_of_the_model(self) -> None:
        """NOAA NCEI and BGS, WMM2025 test values, as the package ``ahrs`` brings them: date, height, place, north, east, down, level, total, dip, declination."""
        lines = (files("ahrs") / "utils/WMM2025/WMM2025_TEST_VALUES.txt").read_text().splitlines()
        rows = [[float(x) for x in line.split()[:11]] for line in lines if line.strip() and not line.startswith("#")]
        self.assertGreaterEqual(len(rows), 12)
        for year, km, lat, lon, north, east, down, level, total, dip, declination in rows:
            day = date(int(year), 1, 1) if year % 1 == 0 else date(int(year), 7, 2)
            found = earth_field(Position(lat_deg=lat, lon_deg=lon if lon <= 180 else lon - 360), day, 1000 * km)
            # Half a year of the model's drift is kept to a day of it: 200 nT a year at most.
            for mine, theirs in (
                (found.north_ut, north),
                (found.east_ut, east),
                (found.down_ut, down),
                (found.level_ut, level),
                (found.strength_ut, total),
            ):
                self.assertAlmostEqual(1000 * mine, theirs, delta=1.0)
            self.assertAlmostEqual(found.inclination_deg, dip, delta=0.011)
            self.assertAlmostEqual(found.declination_deg, declination, delta=0.02)

    def test_gravity(self) -> None:
        """WGS 84: 9.7803253359 m/s² at the equator, 9.8321849379 at the poles; 9.80665 is the standard near 45 degrees (NGA.STND.0036)."""
        self.assertAlmostEqual(gravity_ms2(0), 9.7803253359, places=8)
        self.assertAlmostEqual(gravity_ms2(90), 9.8321849379, places=6)
        self.assertAlmostEqual(gravity_ms2(45.0), 9.80620, places=4)
        self.assertAlmostEqual(gravity_ms2(45, 1000) - gravity_ms2(45), -0.003086, places=6)


class Places(unittest.TestCase):
    @given(st.floats(-89, 89), st.floats(-180, 180), st.dates(*VALID))
    def test_anywhere_it_is_a_field_of_the_earth(self, lat: float, lon: float, day: date) -> None:
        found = earth_field(Position(lat_deg=lat, lon_deg=lon), day)
        self.assertTrue(EARTH_UT[0] <= found.strength_ut <= EARTH_UT[1], found.strength_ut)
        self.assertTrue(-90 <= found.inclination_deg <= 90)

    def test_outside_its_years_it_is_refused(self) -> None:
        for day in (date(2024, 12, 31), date(2030, 1, 1)):
            with self.assertRaises(InputError):
                earth_field(Position(lat_deg=48, lon_deg=16), day)
