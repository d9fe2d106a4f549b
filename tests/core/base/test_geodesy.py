"""Distances against a published worked example and against PROJ."""

import unittest

import pyproj
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import (
    Position,
    bearing_deg,
    decimal,
    distance_m,
    geo_link,
    parse_position,
    position,
    sexagesimal,
)

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


class Reading(unittest.TestCase):
    def test_notations_of_one_place(self) -> None:
        """The stage of St. Stephen's square in RFC 5870, section 6.1 (48.2010, 16.3695): one place in every notation."""
        rows = (
            "48.2010, 16.3695", "48.2010,16.3695", "48.2010 16.3695", "48,2010; 16,3695", "48,2010 16,3695", "48,2010, 16,3695",
            "geo:48.2010,16.3695,183", "geo:48.2010,16.3695;crs=wgs84;u=40", "N48.2010 E16.3695", "48.2010N, 16.3695E",
            "16.3695 E, 48.2010 N", "+48.2010+016.3695/", "+48.2010+016.3695+183/", "48° 12' 3.6\" N, 16° 22' 10.2\" E",
            "48°12′3.6″N 16°22′10.2″E", "48° 12.06' N 16° 22.17' E", "N 48° 12' 3.6\" O 16° 22' 10.2\"",
        )  # fmt: skip
        for text in rows:
            with self.subTest(text):
                found = parse_position(text)
                self.assertAlmostEqual(found.lat_deg, 48.2010, places=6)
                self.assertAlmostEqual(found.lon_deg, 16.3695, places=6)

    def test_south_and_west(self) -> None:
        for text in ("-33.5, -70.25", "33.5 S, 70.25 W", "S33°30' W70°15'", "geo:-33.5,-70.25"):
            with self.subTest(text):
                found = parse_position(text)
                self.assertEqual((found.lat_deg, found.lon_deg), (-33.5, -70.25))

    def test_mistakes(self) -> None:
        rows = (
            ("", "is empty"),
            ("48.2", "for example 48.2213, 15.3318"),
            ("48.2, 15.3, 7", "for example 48.2213, 15.3318"),
            ("north, east", "for example 48.2213, 15.3318"),
            ("geo:here", "That geo: link has no latitude and longitude"),
            ("48° 75' N, 15° E", "minutes and seconds must be below 60"),
            ("N48.2N; 15E", "twice"),
            ("48.2 N, 15.3 N", "One must be north or south, the other east or west"),
            ("95, 15", "outside -90 to 90"),
            ("48.2, 200", "outside -180 to 180"),
        )
        for text, words in rows:
            with self.subTest(text), self.assertRaises(InputError) as caught:
                parse_position(text)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "position")

    def test_the_swap_is_offered(self) -> None:
        with self.assertRaises(InputError) as caught:
            parse_position("151.2, -33.8")
        self.assertEqual(caught.exception.offer, {"position": "-33.8, 151.2"})

    @given(st.floats(-90, 90), st.floats(-180, 180))
    def test_there_and_back(self, lat: float, lon: float) -> None:
        """A ten-thousandth of a degree is 11 m, a tenth of a second 3 m: the digits that are printed."""
        place = Position(lat_deg=lat, lon_deg=lon)
        for write, digits in ((decimal, 0.000006), (geo_link, 0.000006), (sexagesimal, 0.000015)):
            found = parse_position(write(place))
            self.assertAlmostEqual(found.lat_deg, lat, delta=digits)
            self.assertAlmostEqual(found.lon_deg, lon, delta=digits)

    @given(st.text(max_size=40))
    def test_any_text_is_a_position_or_a_mistake_in_words(self, text: str) -> None:
        try:
            found = parse_position(text)
        except InputError:
            return
        self.assertTrue(-90 <= found.lat_deg <= 90 and -180 <= found.lon_deg <= 180)
