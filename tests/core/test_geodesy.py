"""Distances against a published worked example and against PROJ."""

import unittest

import pyproj
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.errors import InputError
from walkround.core.geodesy import Position, bearing_deg, distance_m, position

LAT, LON = st.floats(-89, 89), st.floats(-180, 180)


class Distance(unittest.TestCase):
    def test_flinders_peak_to_buninyong(self) -> None:
        """54,972.271 m, azimuth 306°52'05.37". Source: Geocentric Datum of Australia technical manual, chapter 4,
        worked example on GRS 80 (WGS 84 differs by less than the last digit), from memory."""
        flinders = Position(lat_deg=-(37 + 57 / 60 + 3.72030 / 3600), lon_deg=144 + 25 / 60 + 29.52440 / 3600)
        buninyong = Position(lat_deg=-(37 + 39 / 60 + 10.15610 / 3600), lon_deg=143 + 55 / 60 + 35.38390 / 3600)
        self.assertAlmostEqual(distance_m(flinders, buninyong), 54_972.271, delta=0.001)
        azimuth = 306 + 52 / 60 + 5.37 / 3600
        self.assertAlmostEqual(bearing_deg(flinders, buninyong), azimuth, delta=0.005 / 3600)

    @given(LAT, LON, LAT, LON)
    def test_against_proj(self, lat_a: float, lon_a: float, lat_b: float, lon_b: float) -> None:
        """pyproj.Geod on WGS 84, tolerance one millimetre."""
        reference = pyproj.Geod(ellps="WGS84").inv(lon_a, lat_a, lon_b, lat_b)[2]
        ours = distance_m(Position(lat_deg=lat_a, lon_deg=lon_a), Position(lat_deg=lat_b, lon_deg=lon_b))
        self.assertAlmostEqual(ours, reference, delta=0.001)

    def test_across_the_date_line(self) -> None:
        west, east = Position(lat_deg=0, lon_deg=179.9), Position(lat_deg=0, lon_deg=-179.9)
        self.assertAlmostEqual(distance_m(west, east), 22_264, delta=1)
        self.assertAlmostEqual(bearing_deg(west, east), 90, delta=1e-6)

    def test_here_is_nowhere_away(self) -> None:
        here = Position(lat_deg=48.2, lon_deg=15.3)
        self.assertEqual(distance_m(here, here), 0)


class Checked(unittest.TestCase):
    def test_swapped_coordinates_are_offered_the_right_way_round(self) -> None:
        with self.assertRaises(InputError) as caught:
            position(95, 48.2)
        self.assertEqual(caught.exception.field, "lat_deg")
        self.assertIn("swapped", caught.exception.message)
        self.assertEqual(caught.exception.offer, {"lat_deg": "48.2", "lon_deg": "95"})

    def test_no_such_place(self) -> None:
        for lat, lon, field in ((200, 100, "lat_deg"), (10, 190, "lon_deg"), (-91, 179, "lat_deg")):
            with self.subTest(f"{lat} {lon}"), self.assertRaises(InputError) as caught:
                position(lat, lon)
            self.assertEqual(caught.exception.field, field)

    def test_poles_and_edges(self) -> None:
        for lat, lon in ((90, 0), (-90, 180), (0, -180)):
            self.assertEqual(position(lat, lon), Position(lat_deg=lat, lon_deg=lon))
