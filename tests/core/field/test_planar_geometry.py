"""Plane geometry, held against a library of its own."""

import math
import unittest

import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from walkround.core.field import planar_geometry

NUMBER = st.floats(-100, 100).map(lambda v: round(v, 2))
POINT = st.tuples(NUMBER, NUMBER)
LINE = st.lists(POINT, min_size=2, max_size=6, unique=True)


def star(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """A ring that does not cross itself: the points in the order of their bearings from their middle."""
    x, y = sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points)
    return sorted(points, key=lambda p: math.atan2(p[1] - y, p[0] - x))


RING = st.lists(POINT, min_size=3, max_size=8, unique=True).map(star)


class AgainstTheLibrary(unittest.TestCase):
    """Against shapely 2, which stands on GEOS."""

    @given(RING, POINT)
    def test_inside_and_distance(self, ring: list[planar_geometry.Point], point: planar_geometry.Point) -> None:
        area = shapely.Polygon(ring)
        assume(area.is_valid and area.area > 1)
        self.assertAlmostEqual(
            planar_geometry.nearest(ring, point, closed=True)[0], area.distance(shapely.Point(point)), places=6
        )
        if area.exterior.distance(shapely.Point(point)) > 1e-6:
            self.assertEqual(planar_geometry.inside(ring, point), area.contains(shapely.Point(point)))

    @given(st.one_of(LINE, RING), RING, st.booleans(), st.booleans())
    def test_gap(
        self, one: list[planar_geometry.Point], other: list[planar_geometry.Point], closed: bool, other_closed: bool
    ) -> None:
        shapes = [
            shapely.Polygon(points) if is_area and len(points) > 2 else shapely.LineString(points)
            for points, is_area in ((one, closed), (other, other_closed))
        ]
        assume(all(shape.is_valid and (shape.geom_type == "LineString" or shape.area > 1) for shape in shapes))
        mine = planar_geometry.gap(one, other, closed=closed, other_closed=other_closed)
        self.assertAlmostEqual(mine, shapely.distance(*shapes), places=5)

    def test_gap_of_points_and_lines(self) -> None:
        for one, other, gap in (
            ([(0, 0)], [(3, 4)], 5),
            ([(0, 0)], [(-1, 2), (1, 2)], 2),
            ([(0, 0), (2, 2)], [(0, 2), (2, 0)], 0),
            ([(0, 0), (1, 0)], [(1, 0), (1, 5)], 0),
        ):
            self.assertAlmostEqual(planar_geometry.gap(one, other), gap)

    @given(st.lists(POINT, min_size=4, max_size=7, unique=True))
    def test_crossing(self, ring: list[planar_geometry.Point]) -> None:
        edges = shapely.linestrings(planar_geometry.segments(ring, closed=True))
        crossed = bool(shapely.crosses(edges[:, None], edges[None, :]).any())
        self.assertEqual(planar_geometry.crosses_itself(ring), crossed)

    def test_a_touch_is_no_crossing(self) -> None:
        self.assertFalse(planar_geometry.crosses_itself([(0, 0), (4, 0), (4, 4), (2, 0), (0, 4)]))
        self.assertTrue(planar_geometry.crosses_itself([(0, 0), (4, 4), (4, 0), (0, 4)]))

    @given(st.lists(POINT, min_size=1, max_size=20, unique=True))
    def test_hull(self, points: list[planar_geometry.Point]) -> None:
        found = shapely.convex_hull(shapely.MultiPoint(points))
        self.assertEqual(set(planar_geometry.hull(points)), set(map(tuple, shapely.get_coordinates(found).tolist())))

    @given(RING, POINT, st.floats(-360, 360))
    def test_turning_clockwise(
        self, ring: list[planar_geometry.Point], about: planar_geometry.Point, by_deg: float
    ) -> None:
        from shapely.affinity import rotate

        theirs = rotate(shapely.Polygon(ring), -by_deg, origin=about).exterior.coords[:-1]
        for (x, y), (u, v) in zip(planar_geometry.turned(ring, about, by_deg), theirs, strict=True):
            self.assertAlmostEqual(x, u, places=6)
            self.assertAlmostEqual(y, v, places=6)


class Bearings(unittest.TestCase):
    def test_quarters(self) -> None:
        for point, bearing in (((0, 1), 0), ((1, 0), 90), ((0, -1), 180), ((-1, 0), 270), ((1, 1), 45)):
            self.assertAlmostEqual(planar_geometry.bearing((0, 0), point), bearing)

    @given(POINT, st.floats(0, 359.9), st.floats(0.1, 500))
    def test_there_and_back(self, start: planar_geometry.Point, bearing: float, away: float) -> None:
        end = planar_geometry.ahead(start, bearing, away)
        self.assertAlmostEqual(math.dist(start, end), away, places=6)
        self.assertAlmostEqual((planar_geometry.bearing(start, end) - bearing + 180) % 360, 180, places=4)
