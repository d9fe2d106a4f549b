"""Zones on the earth: inside, distance and bearing against shapely (GEOS) and PROJ, with holes, crossings and the date line."""

import math
import unittest

import pyproj
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from walkround.core.airspace.zone import Rule, Terms, Zone, contains, nearby, unwrapped
from walkround.core.base.geodesy import Position, degree_lengths_m, distance_m, from_plane
from walkround.core.field import planar_geometry

GEOD = pyproj.Geod(ellps="WGS84")
TERMS = Terms(name="z", rule=Rule.CLOSED)
LAT, LON = st.floats(-70, 70), st.floats(-180, 180)
CIRCLE = [planar_geometry.ahead((0, 0), a, 120) for a in range(0, 360, 10)]


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

    def test_rings_closed_or_not_and_either_way_round(self) -> None:
        square = [(15.0, 48.0), (15.2, 48.0), (15.2, 48.2), (15.0, 48.2)]
        for ring in (square, [*square, square[0]], square[::-1]):
            self.assertEqual(len(unwrapped(ring)), 4)
            area = Zone(terms=TERMS, polygons=((unwrapped(ring),),))
            for lat, lon, inside in (
                (48.1, 15.1, True),
                (48.1, 15.3, False),
                (48.1, 14.9, False),
                (48.3, 15.1, False),
                (47.9, 15.1, False),
            ):
                self.assertEqual(contains(area, Position(lat_deg=lat, lon_deg=lon)), inside)
            for ours, theirs in zip(area.box(), (15.0, 15.2, 48.0, 48.2), strict=True):
                self.assertAlmostEqual(ours, theirs)
        self.assertEqual(unwrapped([(1.0, 2.0)]), ((1.0, 2.0),))
        self.assertEqual(
            unwrapped([(170.0, 0.0), (-170.0, 0.0), (-10.0, 0.0)]), ((170.0, 0.0), (190.0, 0.0), (350.0, 0.0))
        )

    def test_the_box_of_a_circle_holds_it_and_little_more(self) -> None:
        """Its rim by PROJ; near a pole every longitude."""
        for lat in (-60.0, 0.0, 48.2, 75.0):
            for radius in (500.0, 20_000.0):
                circle = Zone(terms=TERMS, centre=Position(lat_deg=lat, lon_deg=15.0), radius_m=radius)
                west, east, south, north = circle.box()
                rim = [GEOD.fwd(15.0, lat, azimuth, radius)[:2] for azimuth in range(0, 360, 5)]
                self.assertTrue(west <= min(x for x, _ in rim) and east >= max(x for x, _ in rim))
                self.assertTrue(south <= min(y for _, y in rim) and north >= max(y for _, y in rim))
                self.assertLess((east - west) / (max(x for x, _ in rim) - min(x for x, _ in rim)), 1.06)
                self.assertLess((north - south) / (max(y for _, y in rim) - min(y for _, y in rim)), 1.06)
        polar = Zone(terms=TERMS, centre=Position(lat_deg=88.95, lon_deg=15.0), radius_m=8_000)
        self.assertEqual(polar.box()[:2], (-165.0, 195.0))
        below = Zone(terms=TERMS, centre=Position(lat_deg=88.0, lon_deg=15.0), radius_m=8_000)
        self.assertLess(below.box()[1], 25)

    def test_on_the_rim_of_a_circle(self) -> None:
        centre = Position(lat_deg=48, lon_deg=15)
        away = distance_m(centre, Position(lat_deg=48.01, lon_deg=15))
        for radius, inside in ((away, True), (away - 0.001, False), (away + 0.001, True)):
            circle = Zone(terms=TERMS, centre=centre, radius_m=radius)
            self.assertEqual(contains(circle, Position(lat_deg=48.01, lon_deg=15)), inside)

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
        for (ax, ay), (bx, by) in planar_geometry.segments(shape, closed=True):
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

    def test_the_whole_flight_lies_in_a_zone_that_begins_beyond_the_launch_point(self) -> None:
        here = Position(lat_deg=48, lon_deg=15)
        corners = [from_plane(here, p) for p in ((100, -300), (600, -300), (600, 300), (100, 300))]
        area = [(150, -100), (400, -100), (400, 100), (150, 100)]
        found = nearby(zone([(p.lon_deg, p.lat_deg) for p in corners]), here, (0.0, 0.0), area)
        assert found is not None
        self.assertEqual((found.away_m, found.over_launch), (0, False))

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

    def ring_of(self, here: Position, *points: tuple[float, float]) -> list[tuple[float, float]]:
        places = [from_plane(here, p) for p in points]
        return [(p.lon_deg, p.lat_deg) for p in places]

    def test_circles_by_hand(self) -> None:
        """A circle of 300 m a kilometre off: 700 m from the launch point, 120 m less from the flying area; by geodesic."""
        here = Position(lat_deg=48, lon_deg=15)
        for azimuth in (0, 90, 200, 333):
            lon, lat, _ = GEOD.fwd(15, 48, azimuth, 1000)
            circle = Zone(terms=TERMS, centre=Position(lat_deg=lat, lon_deg=lon), radius_m=300)
            found = nearby(circle, here, (0.0, 0.0), CIRCLE)
            assert found is not None
            self.assertAlmostEqual(found.away_m, 580, delta=0.6)
            self.assertAlmostEqual(found.bearing_deg, azimuth, delta=0.01)
            self.assertFalse(found.over_launch)
            self.assertIsNone(nearby(circle, here, (0.0, 0.0), CIRCLE, found.away_m - 0.01))
            self.assertIsNotNone(nearby(circle, here, (0.0, 0.0), CIRCLE, found.away_m))
            reaches = nearby(circle.model_copy(update={"radius_m": 950.0}), here, (0.0, 0.0), CIRCLE)
            assert reaches is not None
            self.assertEqual((reaches.away_m, reaches.over_launch), (0, False))
            over = nearby(circle.model_copy(update={"radius_m": 1000.5}), here, (0.0, 0.0), CIRCLE)
            assert over is not None
            self.assertEqual((over.away_m, over.over_launch), (0, True))

    def test_from_a_launch_point_beside_the_field_s_position(self) -> None:
        """Launched 400 m east and 300 m north of the field's position: distance, bearing and inside count from there."""
        here, launch = Position(lat_deg=48, lon_deg=15), (400.0, 300.0)
        area = [(x + 400, y + 300) for x, y in CIRCLE]
        wall = zone(self.ring_of(here, (1400, -2000), (1600, -2000), (1600, 2000), (1400, 2000)))
        found = nearby(wall, here, launch, area)
        assert found is not None
        self.assertAlmostEqual(found.away_m, 880, delta=2)
        self.assertAlmostEqual(found.bearing_deg, 90, delta=0.2)
        small = zone(self.ring_of(here, (380, 280), (420, 280), (420, 320), (380, 320)))
        over = nearby(small, here, launch, area)
        assert over is not None
        self.assertEqual((over.away_m, over.bearing_deg, over.over_launch), (0, 0, True))
        lon, lat, _ = GEOD.fwd(15, 48, 0, 2000)
        circle = Zone(terms=TERMS, centre=Position(lat_deg=lat, lon_deg=lon), radius_m=100)
        start = from_plane(here, launch)
        azimuth, _, away = GEOD.inv(start.lon_deg, start.lat_deg, lon, lat)
        seen = nearby(circle, here, launch, area)
        assert seen is not None
        self.assertAlmostEqual(seen.away_m, away - 100 - 120, delta=1.5)
        self.assertAlmostEqual(seen.bearing_deg, azimuth % 360, delta=0.1)

    def test_the_nearest_of_several_parts_and_a_far_one(self) -> None:
        """The nearer of two counts; one five kilometres off is measured to the same fifth of a per cent."""
        here = Position(lat_deg=48, lon_deg=15)
        near = self.ring_of(here, (900, -50), (1100, -50), (1100, 50), (900, 50))
        far = self.ring_of(here, (-5200, -50), (-5000, -50), (-5000, 50), (-5200, 50))
        for parts in ((near, far), (far, near)):
            both = Zone(terms=TERMS, polygons=tuple((unwrapped([*p, p[0]]),) for p in parts))
            found = nearby(both, here, (0.0, 0.0), CIRCLE)
            assert found is not None
            self.assertAlmostEqual(found.away_m, 780, delta=2)
            self.assertAlmostEqual(found.bearing_deg, 90, delta=0.5)
        alone = nearby(zone(far), here, (0.0, 0.0), CIRCLE)
        assert alone is not None
        self.assertAlmostEqual(alone.away_m, 4880, delta=12)
        self.assertAlmostEqual(alone.bearing_deg, 270, delta=0.5)
        self.assertIsNone(nearby(zone(far), here, (0.0, 0.0), CIRCLE, alone.away_m - 1))
        self.assertIsNotNone(nearby(zone(far), here, (0.0, 0.0), CIRCLE, alone.away_m))

    def test_a_flying_area_in_a_hole_is_not_inside(self) -> None:
        """The launch point and all of the area in the hole: outside. Half of the area past its edge: it reaches in."""
        here = Position(lat_deg=48, lon_deg=15)
        outer = self.ring_of(here, (-3000, -3000), (3000, -3000), (3000, 3000), (-3000, 3000))
        hole = self.ring_of(here, (-90, -500), (500, -500), (500, 500), (-90, 500))
        found = nearby(zone(outer, hole[::-1]), here, (0.0, 0.0), CIRCLE)
        assert found is not None
        self.assertEqual((found.away_m, found.over_launch), (0, False))
        self.assertAlmostEqual(found.bearing_deg, 270, delta=0.5)
        wide = self.ring_of(here, (-500, -500), (500, -500), (500, 500), (-500, 500))
        free = nearby(zone(outer, wide[::-1]), here, (0.0, 0.0), CIRCLE)
        assert free is not None
        self.assertAlmostEqual(free.away_m, 380, delta=1)

    def test_across_the_date_line(self) -> None:
        for lon in (179.999, -179.999):
            here = Position(lat_deg=-17, lon_deg=lon)
            for shift in (-360, 0, 360):
                wall = [(x + shift, y) for x, y in ((180.01, -17.1), (180.02, -17.1), (180.02, -16.9), (180.01, -16.9))]
                found = nearby(zone(wall), here, (0.0, 0.0), CIRCLE)
                assert found is not None
                _, _, away = GEOD.inv(lon, -17, 180.01, -17)
                self.assertAlmostEqual(found.away_m, away - 120, delta=away * 0.003 + 1)
                self.assertAlmostEqual(found.bearing_deg, 90, delta=0.5)

    def test_lengths_of_a_degree_against_the_geodesic(self) -> None:
        for lat in (0, 30, 48.2, 65, 80):
            tall, wide = degree_lengths_m(lat)
            half = 0.005
            north = distance_m(Position(lat_deg=lat - half, lon_deg=0), Position(lat_deg=lat + half, lon_deg=0))
            east = distance_m(Position(lat_deg=lat, lon_deg=-half), Position(lat_deg=lat, lon_deg=half))
            self.assertAlmostEqual(tall, north / 0.01, delta=0.1)
            self.assertAlmostEqual(wide, east / 0.01, delta=0.1)
