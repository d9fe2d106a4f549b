"""Zones on the earth: inside, distance and bearing against shapely (GEOS) and PROJ, with holes, crossings and the date line."""

import json
import math
import unittest
from unittest import mock

import pyproj
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from walkround.core.airspace import reading
from walkround.core.airspace.reading import read_zones
from walkround.core.airspace.zone import Edge, Ref, Rule, Terms, Zone, contains, nearby, unwrapped
from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position, degree_lengths_m, distance_m, from_plane
from walkround.core.field import plane

GEOD = pyproj.Geod(ellps="WGS84")
TERMS = Terms(name="z", rule=Rule.CLOSED)
LAT, LON = st.floats(-70, 70), st.floats(-180, 180)
CIRCLE = [plane.ahead((0, 0), a, 120) for a in range(0, 360, 10)]


def star(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    x, y = sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points)
    return sorted(points, key=lambda p: math.atan2(p[1] - y, p[0] - x))


STEP = st.floats(-0.08, 0.08).map(lambda v: round(v, 5))
SHAPE = st.lists(st.tuples(STEP, STEP), min_size=3, max_size=9, unique=True).map(star)


def wrap(lon: float) -> float:
    return (lon + 180) % 360 - 180


def zone(*rings: list[tuple[float, float]]) -> Zone:
    return Zone(terms=TERMS, polygons=(tuple(unwrapped([*ring, ring[0]]) for ring in rings),))


class Inside(unittest.TestCase):
    @given(LAT, LON, SHAPE, STEP, STEP)
    def test_against_shapely_anywhere_also_across_the_date_line(self, lat, lon, shape, dx, dy) -> None:  # type: ignore[no-untyped-def]
        """Shapely sees the same shape moved to longitude 0; ours is wrapped to -180 … 180 wherever it lies."""
        flat = shapely.Polygon([(x, y) for x, y in shape])
        assume(flat.is_valid and flat.area > 1e-7 and flat.exterior.distance(shapely.Point(dx, dy)) > 1e-9)
        ours = zone([(wrap(lon + x), lat + y) for x, y in shape])
        place = Position(lat_deg=lat + dy, lon_deg=wrap(lon + dx))
        self.assertEqual(contains(ours, place), flat.contains(shapely.Point(dx, dy)))

    @given(LON, SHAPE, STEP, STEP)
    def test_holes_against_shapely(self, lon, shape, dx, dy) -> None:  # type: ignore[no-untyped-def]
        """The hole is the outline drawn in towards its middle, round which its corners lie in order."""
        x0, y0 = sum(x for x, _ in shape) / len(shape), sum(y for _, y in shape) / len(shape)
        hole = [(x0 + 0.4 * (x - x0), y0 + 0.4 * (y - y0)) for x, y in shape]
        area, here = shapely.Polygon(shape, [hole]), shapely.Point(dx, dy)
        assume(area.is_valid and area.area > 1e-7 and area.boundary.distance(here) > 1e-9)
        ours = zone(*([(wrap(lon + x), y) for x, y in ring] for ring in (shape, hole)))
        self.assertEqual(contains(ours, Position(lat_deg=dy, lon_deg=wrap(lon + dx))), area.contains(here))

    def test_the_date_line_by_hand(self) -> None:
        """Fiji lies on both sides of it: 179 east to 179 west, written three ways."""
        for ring in (
            [(179, -19), (-179, -19), (-179, -16), (179, -16)],
            [(179, -19), (181, -19), (181, -16), (179, -16)],
            [(-181, -19), (-179, -19), (-179, -16), (-181, -16)],
        ):
            area = zone([(float(x), float(y)) for x, y in ring])
            for lon, inside in (
                (179.5, True),
                (-179.5, True),
                (180.0, True),
                (178.5, False),
                (-178.5, False),
                (0.0, False),
            ):
                self.assertEqual(contains(area, Position(lat_deg=-17.5, lon_deg=lon)), inside, f"{ring} {lon}")
            west, east, _, _ = area.box()
            self.assertAlmostEqual(east - west, 2)

    def test_a_band_wider_than_half_the_earth(self) -> None:
        ring = [
            (-150.0, 0.0),
            (-50.0, 0.0),
            (50.0, 0.0),
            (150.0, 0.0),
            (150.0, 10.0),
            (50.0, 10.0),
            (-50.0, 10.0),
            (-150.0, 10.0),
        ]
        for lon, inside in ((0, True), (-149, True), (149, True), (170, False), (-170, False)):
            self.assertEqual(contains(zone(ring), Position(lat_deg=5, lon_deg=lon)), inside, lon)

    def test_what_a_crossed_outline_encloses(self) -> None:
        """An eight has two eyes, both inside; a five-pointed star drawn in one stroke has its middle inside too."""
        eight = zone([(0, 0), (2, 2), (2, 0), (0, 2)])
        for lon, inside in ((0.3, True), (1.7, True)):
            self.assertEqual(contains(eight, Position(lat_deg=1, lon_deg=lon)), inside)
        self.assertFalse(contains(eight, Position(lat_deg=0.2, lon_deg=1)))
        points = [(math.sin(math.radians(a)), math.cos(math.radians(a))) for a in range(0, 720, 144)]
        self.assertTrue(contains(zone(points), Position(lat_deg=0, lon_deg=0)))

    @given(LAT, LON, st.floats(50, 20_000), st.floats(0, 360), st.floats(0.2, 2))
    def test_circles_by_proj(self, lat: float, lon: float, radius: float, azimuth: float, times: float) -> None:
        assume(abs(times - 1) > 0.001)
        lon2, lat2, _ = GEOD.fwd(lon, lat, azimuth, radius * times)
        circle = Zone(terms=TERMS, centre=Position(lat_deg=lat, lon_deg=lon), radius_m=radius)
        self.assertEqual(contains(circle, Position(lat_deg=lat2, lon_deg=lon2)), times < 1)


class Near(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.floats(-65, 65), LON, SHAPE, st.floats(-6000, 6000), st.floats(-6000, 6000))
    def test_distance_and_bearing_against_proj_and_shapely(self, lat, lon, shape, east, north) -> None:  # type: ignore[no-untyped-def]
        """Shapely measures in PROJ's azimuthal equidistant plane about the field, edges cut into 100 pieces there."""
        here = Position(lat_deg=lat, lon_deg=lon)
        middle = from_plane(here, (east, north))
        ring = [(wrap(middle.lon_deg + x), middle.lat_deg + y) for x, y in shape]
        flat = pyproj.Proj(proj="aeqd", lat_0=lat, lon_0=lon, ellps="WGS84")
        dense = []
        for (ax, ay), (bx, by) in plane.segments(shape, closed=True):
            for i in range(100):
                t = i / 100
                dense.append(flat(wrap(middle.lon_deg + ax + (bx - ax) * t), middle.lat_deg + ay + (by - ay) * t))
        theirs = shapely.Polygon(dense)
        assume(theirs.is_valid and theirs.area > 1e4)
        area = shapely.Polygon(CIRCLE)
        away = area.distance(theirs)
        found = nearby(zone(ring), here, (0.0, 0.0), CIRCLE)
        assert found is not None
        self.assertAlmostEqual(found.away_m, away, delta=3 + away * 0.004)
        if found.away_m == 0:
            self.assertLess(away, 3)

    def test_the_flight_reaches_in_though_the_launch_point_does_not(self) -> None:
        here = Position(lat_deg=48, lon_deg=15)
        corners = [from_plane(here, p) for p in ((100, -50), (400, -50), (400, 50), (100, 50))]
        found = nearby(zone([(p.lon_deg, p.lat_deg) for p in corners]), here, (0.0, 0.0), CIRCLE)
        assert found is not None
        self.assertEqual((found.away_m, found.over_launch), (0, False))
        self.assertAlmostEqual(found.bearing_deg, 90, delta=1)

    def test_inside_a_hole_the_hole_is_the_nearest_edge(self) -> None:
        here = Position(lat_deg=48, lon_deg=15)

        def ring(half: float) -> list[tuple[float, float]]:
            places = [from_plane(here, p) for p in ((-half, -half), (half, -half), (half, half), (-half, half))]
            return [(p.lon_deg, p.lat_deg) for p in places]

        found = nearby(zone(ring(4000), ring(1000)[::-1]), here, (0.0, 0.0), CIRCLE)
        assert found is not None
        self.assertAlmostEqual(found.away_m, 880, delta=2)

    def test_what_is_too_far_is_nothing(self) -> None:
        here = Position(lat_deg=48, lon_deg=15)
        away = zone([(15.1, 48.0), (15.2, 48.0), (15.2, 48.1)])
        self.assertIsNone(nearby(away, here, (0.0, 0.0), CIRCLE, 5_000))
        self.assertIsNotNone(nearby(away, here, (0.0, 0.0), CIRCLE, 8_000))

    def test_lengths_of_a_degree_against_the_geodesic(self) -> None:
        for lat in (0, 30, 48.2, 65, 80):
            tall, wide = degree_lengths_m(lat)
            half = 0.005
            north = distance_m(Position(lat_deg=lat - half, lon_deg=0), Position(lat_deg=lat + half, lon_deg=0))
            east = distance_m(Position(lat_deg=lat, lon_deg=-half), Position(lat_deg=lat, lon_deg=half))
            self.assertAlmostEqual(tall, north / 0.01, delta=0.1)
            self.assertAlmostEqual(wide, east / 0.01, delta=0.1)


def feature(properties: object, ring: object = None, kind: str = "Polygon") -> dict:  # type: ignore[type-arg]
    ring = ring or [[15, 48], [15.1, 48], [15.1, 48.1], [15, 48]]
    return {
        "type": "Feature",
        "properties": properties,
        "geometry": {"type": kind, "coordinates": [ring] if kind == "Polygon" else ring},
    }


def text(*features: object, **more: object) -> str:
    return json.dumps({"type": "FeatureCollection", "features": features, **more})


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
        self.assertEqual((a.terms.rule, len(a.terms.spans), b.terms.rule), (Rule.CLOSED, 2, Rule.ASK))
        self.assertEqual(str(found.as_of), "2026-05-16 06:00:00+00:00")

    def test_crossed_outlines_are_kept_and_said(self) -> None:
        eight = [[15, 48], [15.2, 48.2], [15.2, 48], [15, 48.2], [15, 48]]
        found = read_zones(text(feature({"name": "E"}, eight)))
        self.assertEqual(found.notes, ("E: its outline crosses itself; all that it encloses counts.",))
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
            (text(), "holds no zone"),
            (text(feature(None)), "Feature 1 says nothing"),
            (text(feature({"rule": "maybe"})), "is none of closed, ask first"),
            (text(feature({"name": "N", "floor_m": "low"})), "N (feature 1): floor_m “low” is no number"),
            (text(feature({"floor_m": 1, "floor_ft": 1})), "in m and in feet"),
            (text(feature({"floor_m": 1, "floor_from": "moon"})), "ground or sea"),
            (text(feature({"floor_m": 300, "ceiling_m": 100})), "ceiling lies below its floor"),
            (text(feature({"rule": "allowed up to"})), "up_to_m is missing"),
            (text(feature({"times": "always"})), "a list of from and until"),
            (text(feature({"times": [{"from": "tomorrow"}]})), "is no time like"),
            (text(feature({"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T09:00Z"}]})), "ends before it begins"),
            (text(feature({}, [15, 48], "Point")), "needs a radius_m"),
            (text(feature({"radius_m": -4}, [15, 48], "Point")), "needs a radius_m"),
            (text(feature({}, [[15, 48], [16, 48]], "LineString")), "encloses nothing"),
            (text(feature({}, [[15, 95], [16, 95], [16, 96], [15, 95]])), "no place on earth. Are the two swapped"),
            (text(feature({}, [[15, 48], [15, 48], [15, 48], [15, 48]])), "three corners that differ"),
            (text(feature({}, [["a", 48], [16, 48], [16, 49], ["a", 48]])), "a longitude and a latitude"),
            (text(feature({}, [[15, 48], [16, 48], [16, 49]])), "four positions at least"),
            (text(feature({}), as_of="yesterday"), "as_of: “yesterday” is no time"),
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
            ({"floor_m": -500}, {"floor_m": -501}, "cannot be"), ({"ceiling_m": 100_000}, {"ceiling_m": 100_001}, "cannot be"),
            ({"rule": "allowed up to", "up_to_m": 0}, {"rule": "allowed up to", "up_to_m": -1}, "up_to_m -1 cannot be"),
            ({"rule": "allowed up to", "up_to_m": 10_000}, {"rule": "allowed up to", "up_to_m": 10_001}, "up_to_m 10001 cannot be"),
            ({"radius_m": 500_000}, {"radius_m": 500_001}, "cannot be"), ({"radius_m": 0.1}, {"radius_m": 0}, "needs a radius_m"),
            ({"floor_ft": 0}, {"floor_ft": True}, "cannot be"), ({"floor_m": ""}, {"floor_m": "nan"}, "cannot be"),
            ({"ceiling_m": 100, "floor_m": 100}, {"ceiling_m": 99, "floor_m": 100}, "below its floor"),
            ({"times": [{}] * 200}, {"times": [{}] * 201}, "a list of from and until"),
            ({"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T10:01Z"}]},
             {"times": [{"from": "2026-05-16T10:00Z", "until": "2026-05-16T10:00Z"}]}, "ends before it begins"),
            ({}, {"times": [3]}, "a list of from and until"), ({}, {"times": [{"from": "2026-05-16T10:00"}]}, "in which time zone"),
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
            (terms.rule, terms.floor, terms.ceiling, terms.up_to_m, terms.spans),
            (Rule.ASK, Edge(height_m=0), None, None, ()),
        )
        self.assertEqual((terms.name, terms.asks), ("Long name", "a b"))
        (nameless,) = read_zones(text(feature({"name": "x" * 200}))).zones
        self.assertEqual(len(nameless.terms.name), 120)
        self.assertEqual(read_zones(text(feature({}))).zones[0].terms.name, "zone 1")
        (sea,) = read_zones(text(feature({"ceiling_ft": 1000, "ceiling_from": " SEA "}))).zones
        assert sea.terms.ceiling is not None
        self.assertAlmostEqual(sea.terms.ceiling.height_m, 304.8)
        self.assertIs(sea.terms.ceiling.ref, Ref.SEA)
        self.assertIsNone(read_zones(text(feature({}), as_of="")).as_of)
        self.assertIsNone(read_zones(text(feature({}))).as_of)
        open_ended = read_zones(text(feature({"times": [{"until": "2026-05-16T10:00Z"}]}))).zones[0].terms.spans[0]
        self.assertIsNone(open_ended.begin)

    def test_long_texts_are_cut_in_what_is_said_and_kept(self) -> None:
        long = "y" * 600
        rows = (
            ({"rule": long}, f"rule “{long[:24]}”"), ({"floor_m": long}, f"floor_m “{long[:16]}”"), ({"floor_m": 1, "floor_from": long}, f"not “{long[:16]}”"),
            ({"times": [{"from": long}]}, f"“{long[:30]}” is no time"), ({"times": [{"from": "2026-05-16T10:00:00.000000" + " " * 40}]}, "“2026-05-16T10:00:00.000000    ” does not say"),
            ({"floor_m": "-0000000000000000000000002001"}, "floor_m -000000000000000 cannot be"),
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
            with self.assertRaisesRegex(InputError, "3 zones; 2 fit"):
                read_zones(text(feature({}), feature({}), feature({})))
        self.assertEqual(reading.MOST_ZONES, 60_000)
