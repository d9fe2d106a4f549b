"""Zones read from a file: all that can be said, what is not said, mistakes by the feature, bounds."""

import json
import unittest
from unittest import mock

from walkround.core.airspace import reading
from walkround.core.airspace.reading import read_zones
from walkround.core.airspace.zone import Edge, Ref, Rule, contains
from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position


def text(*features: object, **more: object) -> str:
    return json.dumps({"type": "FeatureCollection", "features": features, **more})


def feature(properties: object, ring: object = None, kind: str = "Polygon") -> dict:  # type: ignore[type-arg]
    ring = ring or [[15, 48], [15.1, 48], [15.1, 48.1], [15, 48]]
    return {
        "type": "Feature",
        "properties": properties,
        "geometry": {"type": kind, "coordinates": [ring] if kind == "Polygon" else ring},
    }


class Reading(unittest.TestCase):
    def test_all_that_can_be_said(self) -> None:
        found = read_zones(
            text(
                feature(
                    {
                        "name": "A", "rule": "Closed", "floor_ft": 100, "ceiling_m": 300, "ceiling_from": "sea", "asks": "Nothing flies.",
                        "times": [{"from": "2026-05-16T07:00Z", "until": "2026-05-16T10:00+02:00"}, {"from": "2026-06-01T00:00Z"}],
                    }
                ),
                feature({"name": "B", "radius_m": 500}, [15, 48], "Point"),
                as_of="2026-05-16T06:00Z",
            )
        )  # fmt: skip
        a, b = found.zones
        self.assertAlmostEqual(a.terms.floor.height_m, 30.48)
        self.assertEqual((a.terms.rule, len(a.terms.periods), b.terms.rule), (Rule.CLOSED, 2, Rule.ASK))
        self.assertEqual(str(found.as_of), "2026-05-16 06:00:00+00:00")

    def test_crossed_outlines_are_kept_and_said(self) -> None:
        eight = [[15, 48], [15.2, 48.2], [15.2, 48], [15, 48.2], [15, 48]]
        found = read_zones(text(feature({"name": "E"}, eight)))
        self.assertEqual(found.notes, ("E: its outline crosses itself, so everything inside it counts.",))
        data = feature({"name": "H"})
        data["geometry"]["coordinates"] = [[[14, 47], [16, 47], [16, 49], [14, 49], [14, 47]], eight]
        found = read_zones(text(data))
        self.assertIn("not counted as a hole", found.notes[0])
        self.assertTrue(
            contains(found.zones[0], Position(lat_deg=48.1, lon_deg=15.05)), "a doubtful hole is no way through"
        )

    def test_mistakes_name_the_feature(self) -> None:
        rows = (
            ("not json", "it breaks off in line 1"),
            (text(), "The file has no zones"),
            (text(feature(None)), "Feature 1 has no properties"),
            (text(feature({"rule": "maybe"})), "is not one of closed, ask first"),
            (text(feature({"name": "N", "floor_m": "low"})), "N (feature 1): floor_m “low” is not a number"),
            (text(feature({"floor_m": 1, "floor_ft": 1})), "in m and in feet"),
            (text(feature({"floor_m": 1, "floor_from": "moon"})), "ground or sea"),
            (text(feature({"floor_m": 300, "ceiling_m": 100})), "its upper limit is below its lower limit"),
            (text(feature({"rule": "allowed up to"})), "up_to_m is missing"),
            (text(feature({"times": "always"})), "a list of from and until"),
            (text(feature({"times": [{"from": "tomorrow"}]})), "is not a time like"),
            (text(feature({"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T09:00Z"}]})), "ends before it begins"),
            (text(feature({}, [15, 48], "Point")), "needs a radius_m"),
            (text(feature({"radius_m": -4}, [15, 48], "Point")), "needs a radius_m"),
            (text(feature({}, [[15, 48], [16, 48]], "LineString")), "a line has no area. Use a polygon or a circle"),
            (text(feature({}, [[15, 95], [16, 95], [16, 96], [15, 95]])), "not a place on earth. Are the two swapped"),
            (text(feature({}, [[15, 48], [15, 48], [15, 48], [15, 48]])), "an outline needs at least three different corners"),
            (text(feature({}, [["a", 48], [16, 48], [16, 49], ["a", 48]])), "a longitude and a latitude"),
            (text(feature({}, [[15, 48], [16, 48], [16, 49]])), "an outline needs at least four positions, the last the same as the"),
            (text(feature({}), as_of="yesterday"), "as_of: “yesterday” is not a time"),
        )  # fmt: skip
        for data, words in rows:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                read_zones(data)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "zones")

    def test_each_bound_of_a_number(self) -> None:
        """The ends are taken, what lies beyond is refused: ranges of our choice, in m, feet and degrees."""
        circle = ([15, 48], "Point")
        rows = (
            ({"floor_m": -500}, {"floor_m": -501}, "is not plausible"), ({"ceiling_m": 100_000}, {"ceiling_m": 100_001}, "is not plausible"),
            ({"rule": "allowed up to", "up_to_m": 0}, {"rule": "allowed up to", "up_to_m": -1}, "up_to_m -1 is not plausible"),
            ({"rule": "allowed up to", "up_to_m": 10_000}, {"rule": "allowed up to", "up_to_m": 10_001}, "up_to_m 10001 is not plausible"),
            ({"radius_m": 500_000}, {"radius_m": 500_001}, "is not plausible"), ({"radius_m": 0.1}, {"radius_m": 0}, "needs a radius_m"),
            ({"floor_ft": 0}, {"floor_ft": True}, "is not plausible"), ({"floor_m": ""}, {"floor_m": "nan"}, "is not plausible"),
            ({"ceiling_m": 100, "floor_m": 100}, {"ceiling_m": 99, "floor_m": 100}, "its upper limit is below its lower limit"),
            ({"times": [{}] * 200}, {"times": [{}] * 201}, "a list of from and until"),
            ({"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T10:01Z"}]},
             {"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T10:00Z"}]}, "ends before it begins"),
            ({}, {"times": [3]}, "a list of from and until"), ({}, {"times": [{"from": "2026-05-16T10:00"}]}, "has no time zone"),
        )  # fmt: skip
        for good, bad, words in rows:
            with self.subTest(words):
                self.assertEqual(len(read_zones(text(feature({"radius_m": 500} | good, *circle))).zones), 1)
                with self.assertRaises(InputError) as caught:
                    read_zones(text(feature({"radius_m": 500} | bad, *circle)))
                self.assertIn(words, caught.exception.message)

    def test_corners_at_the_ends_of_the_earth(self) -> None:
        good = ([180, 90], [-180, -90], [540, 0])
        bad = ([15, 90.1], [540.1, 0], [95, 91], [True, 48], [15], "15 48", [float("inf"), 1])
        for corner in good:
            read_zones(text(feature({"radius_m": 500}, corner, "Point")))
        for corner in bad:
            with self.subTest(corner), self.assertRaises(InputError):
                read_zones(text(feature({"radius_m": 500}, corner, "Point")))
        for corner, swapped in (([48, 95], True), ([91, 95], False), ([48, 181], False)):
            with self.assertRaises(InputError) as caught:
                read_zones(text(feature({"radius_m": 500}, corner, "Point")))
            self.assertEqual("swapped" in caught.exception.message, swapped, corner)
        (zone,) = read_zones(text(feature({"radius_m": 500}, [190, 48], "Point"))).zones
        self.assertEqual(zone.centre, Position(lat_deg=48, lon_deg=-170))

    def test_what_is_not_said_has_its_usual_meaning(self) -> None:
        (zone,) = read_zones(text(feature({"rule": "", "name": "  Long   name ", "asks": " a  b "}))).zones
        terms = zone.terms
        self.assertEqual(
            (terms.rule, terms.floor, terms.max_height, terms.up_to_m, terms.periods),
            (Rule.ASK, Edge(height_m=0), None, None, ()),
        )
        self.assertEqual((terms.name, terms.asks), ("Long name", "a b"))
        (nameless,) = read_zones(text(feature({"name": "x" * 200}))).zones
        self.assertEqual(len(nameless.terms.name), 120)
        self.assertEqual(read_zones(text(feature({}))).zones[0].terms.name, "zone 1")
        (sea,) = read_zones(text(feature({"ceiling_ft": 1000, "ceiling_from": " SEA "}))).zones
        assert sea.terms.max_height is not None
        self.assertAlmostEqual(sea.terms.max_height.height_m, 304.8)
        self.assertIs(sea.terms.max_height.ref, Ref.SEA)
        self.assertIsNone(read_zones(text(feature({}), as_of="")).as_of)
        self.assertIsNone(read_zones(text(feature({}))).as_of)
        open_ended = read_zones(text(feature({"times": [{"until": "2026-05-16T10:00Z"}]}))).zones[0].terms.periods[0]
        self.assertIsNone(open_ended.begin)

    def test_long_texts_are_cut_in_what_is_said_and_kept(self) -> None:
        long = "y" * 600
        rows = (
            ({"rule": long}, f"rule “{long[:24]}”"), ({"floor_m": long}, f"floor_m “{long[:16]}”"), ({"floor_m": 1, "floor_from": long}, f"not “{long[:16]}”"),
            ({"times": [{"from": long}]}, f"“{long[:30]}” is not a time"), ({"times": [{"from": "2026-05-16T10:00:00.000000" + " " * 40}]}, "“2026-05-16T10:00:00.000000    ” has no time zone"),
            ({"floor_m": "-0000000000000000000000002001"}, "floor_m -000000000000000 is not plausible"),
        )  # fmt: skip
        for properties, words in rows:
            with self.assertRaises(InputError) as caught:
                read_zones(text(feature(properties)))
            self.assertIn(words, caught.exception.message)
        self.assertEqual(len(read_zones(text(feature({"asks": long}))).zones[0].terms.asks), 500)

    def test_numbers_and_how_many_zones_at_their_bounds(self) -> None:
        for value, good in ((-2000, True), (-2001, False), (500_000, True), (500_001, False)):
            data = text(feature({"floor_ft": value, "radius_m": 5}, [15, 48], "Point"))
            with self.subTest(value):
                try:
                    read_zones(data)
                except InputError as error:
                    # what a number may be, and what a height may be, are two things
                    self.assertEqual("floor_ft" in error.message, not good)
                else:
                    self.assertTrue(good)
        with mock.patch("walkround.core.airspace.reading.MOST_ZONES", 2):
            self.assertEqual(len(read_zones(text(feature({}), feature({}))).zones), 2)
            with self.assertRaisesRegex(InputError, r"3 zones \(max 2"):
                read_zones(text(feature({}), feature({}), feature({})))
        self.assertEqual(reading.MOST_ZONES, 60_000)
