"""The field as a grid, against shapely: nothing that is there is missed, and nothing far away is found."""

import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support import SITE
from walkround.core.field.marks import NATURES, Mark, MarkKind, MarkShape, spot
from walkround.core.field.site import Site
from walkround.core.lost_link.ground import AIRCRAFT_M, BEHIND_M, LIES, ROAD_HALF_M, Lies, ground_of, inside
from walkround.demo.scenario import MEADOW, QUAY


def shape_of(mark: Mark):  # type: ignore[no-untyped-def]
    points = mark.points
    if mark.closed:
        return shapely.Polygon(points)
    return (shapely.LineString(points) if len(points) > 1 else shapely.Point(points[0])).buffer(
        max(mark.radius_m, 1e-6)
    )


def with_marks(*marks: Mark) -> Site:
    return SITE.model_copy(update={"marks": marks, "flight_radius_m": 120})


class Grid(unittest.TestCase):
    def test_against_shapely_on_the_fields_of_the_demo(self) -> None:
        for site in (MEADOW, QUAY):
            ground = ground_of(site)
            chance = np.random.default_rng(3)
            west, south, east, north = shapely.Polygon(site.flight_polygon()).bounds
            places = chance.uniform((west - 300, south - 300), (east + 300, north + 300), (1500, 2))
            tops, lies = ground.top(*places.T), ground.at(*places.T)
            for mark in site.marks:
                away = shapely.distance(shape_of(mark), shapely.points(places))
                if mark.height_m:
                    self.assertTrue(np.all(tops[away == 0] >= mark.height_m), mark.words)
                if mark.kind in LIES:
                    self.assertTrue(np.all(lies[away == 0] & int(LIES[mark.kind]) != 0), mark.words)
            near = np.min([shapely.distance(shape_of(mark), shapely.points(places)) for mark in site.standing], axis=0)
            self.assertTrue(
                np.all(tops[near > 2 * ground.cell_m + AIRCRAFT_M] == 0), "nothing is found far from everything"
            )

    @given(
        st.floats(-90, 90),
        st.floats(-90, 90),
        st.floats(2, 60),
        st.sampled_from([k for k in MarkKind if NATURES[k].stands]),
    )
    @settings(max_examples=40)
    def test_whoever_flies_into_it_meets_it(self, east: float, north: float, tall: float, kind: MarkKind) -> None:
        shape = NATURES[kind].shape
        points = (
            [(east, north)]
            if shape is MarkShape.POINT
            else [(east, north), (east + 15, north + 4), (east + 9, north + 12)]
        )
        site = with_marks(Mark(id=1, kind=kind, spots=tuple(spot(p) for p in points), height_m=tall))
        ground = ground_of(site)
        for x, y in points:
            self.assertGreaterEqual(float(ground.top(np.array(x), np.array(y))), tall)

    def test_what_lies_where(self) -> None:
        road = Mark(id=1, kind=MarkKind.ROAD, spots=(spot((-100, 60)), spot((100, 60))))
        private = Mark(
            id=2, kind=MarkKind.PRIVATE, spots=tuple(spot(p) for p in ((40, -80), (90, -80), (90, -40), (40, -40)))
        )
        ground = ground_of(with_marks(road, private))
        at = lambda x, y: Lies(int(ground.at(np.array(float(x)), np.array(float(y)))))  # noqa: E731
        self.assertIn(Lies.ROAD, at(0, 60))
        self.assertNotIn(Lies.ROAD, at(0, 60 + ROAD_HALF_M + 4))
        self.assertIn(Lies.PRIVATE, at(60, -60))
        self.assertIn(Lies.AREA, at(0, 100))
        self.assertIn(Lies.LAUNCH, at(0, 0))
        self.assertEqual(at(3000, 0), Lies.OFF)

    def test_over_water_that_nobody_drew_everything_is_water(self) -> None:
        """Unknown is never clear: a field over water without its water on the plan."""
        ground = ground_of(SITE.model_copy(update={"over_water": True, "marks": ()}))
        self.assertTrue(
            bool((ground.at(np.array([0.0, 40.0, -90.0]), np.array([30.0, 0.0, 10.0])) & int(Lies.WATER)).all())
        )
        self.assertFalse(bool((ground_of(QUAY).lies & int(Lies.WATER)).all()))

    def test_people_are_behind_their_line(self) -> None:
        ground = ground_of(MEADOW)  # the line runs east-west, 25 m south of the launch point
        at = lambda x, y: int(ground.at(np.array(float(x)), np.array(float(y)))) & int(Lies.PEOPLE) != 0  # noqa: E731
        self.assertTrue(at(0, -30))
        self.assertFalse(at(0, -20), "before the line")
        self.assertFalse(at(0, -25 - BEHIND_M - 4))

    @given(st.lists(st.tuples(st.floats(-50, 50), st.floats(-50, 50)), min_size=3, max_size=7))
    def test_inside_as_shapely_says(self, ring: list[tuple[float, float]]) -> None:
        polygon = shapely.Polygon(ring)
        if not polygon.is_valid or polygon.area < 1:
            return
        places = np.random.default_rng(1).uniform(-55, 55, (200, 2))
        clear = shapely.distance(polygon.exterior, shapely.points(places)) > 1e-6
        found = inside(ring, places[:, 0], places[:, 1])
        self.assertTrue(np.array_equal(found[clear], shapely.contains_xy(polygon, places)[clear]))
