"""The sun against a second ephemeris."""

import math
import unittest
from datetime import UTC, datetime, timedelta

import ephem
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.finding import Level
from walkround.core.base.geodesy import Position
from walkround.core.field.sun import judge_daylight, sun_at, sun_height_deg


class AgainstAnEphemeris(unittest.TestCase):
    """Reference: PyEphem (VSOP87), airless, topocentric. Tolerance 0.05 degrees of height and of bearing."""

    def test_places_and_seasons(self) -> None:
        for lat in (-54.8, -33.0, 0.0, 48.2, 69.6):
            for month, hour in ((1, 9), (3, 12), (6, 4), (6, 15), (9, 17), (12, 11)):
                moment = datetime(2026, month, 21, hour, 20, tzinfo=UTC)
                observer = ephem.Observer()
                observer.lat, observer.lon, observer.pressure = str(lat), "15.3", 0
                observer.date = moment.replace(tzinfo=None)
                reference = ephem.Sun(observer)
                ours = sun_at(Position(lat_deg=lat, lon_deg=15.3), moment)
                height, bearing = math.degrees(reference.alt), math.degrees(reference.az)
                with self.subTest(f"{lat} {moment}"):
                    self.assertAlmostEqual(ours.elevation_deg, height, delta=0.05)
                    apart = (ours.bearing_deg - bearing + 180) % 360 - 180
                    self.assertLess(abs(apart) * math.cos(math.radians(height)), 0.05)


class Daylight(unittest.TestCase):
    def test_twilight(self) -> None:
        """Civil twilight ends at 6 degrees below the horizon: definition."""
        for height, level in (
            (20, Level.CLEAR),
            (0, Level.CLEAR),
            (-1, Level.CAUTION),
            (-6, Level.CAUTION),
            (-6.1, Level.GROUNDED),
        ):
            with self.subTest(height):
                self.assertEqual(judge_daylight(height)[0].level, level)


class HeightAlone(unittest.TestCase):
    @given(st.floats(-89, 89), st.floats(-180, 180), st.integers(0, 8760))
    def test_it_is_the_height_of_the_whole(self, lat: float, lon: float, hours: int) -> None:
        place, moment = Position(lat_deg=lat, lon_deg=lon), datetime(2026, 1, 1, tzinfo=UTC) + timedelta(hours=hours)
        self.assertEqual(sun_height_deg(place, moment), sun_at(place, moment).elevation_deg)
