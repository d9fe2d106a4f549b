"""Sources near the launch point, and a better launch spot: by geometry that can be checked by hand, and by shapely."""

import math
import unittest

import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE, said
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Level
from walkround.core.field import field_editor, planar_geometry
from walkround.core.field.interference import DISTURBS, judge_sources, level_at, sources
from walkround.core.field.marks import Mark, MarkKind, mark_at, spot
from walkround.core.field.site import Site
from walkround.core.field.spots import WALK_M, better_launch, launches
from walkround.demo.scenario import MEADOW

BARE = SITE.model_copy(update={"marks": ()})


def with_(kind: MarkKind, away: float, bearing: float = 90, height: float = 5) -> Site:
    return BARE.model_copy(update={"marks": (mark_at(kind, bearing, away, height, number=1),)})


class Sources(unittest.TestCase):
    def test_each_kind_grounds_near_and_is_clear_far(self) -> None:
        """That lines, masts, steel in concrete and cars disturb: common practice, no source. Distances are our choice."""
        for kind, does in DISTURBS.items():
            reach = [e for e in (does.compass, does.link) if e is not None]
            near, far = max(e.ground_m for e in reach) - 1, max(e.caution_m for e in reach)
            self.assertEqual(max(f.level for f in judge_sources(with_(kind, near), QUAD)), Level.GROUNDED, kind)
            self.assertEqual(max(f.level for f in judge_sources(with_(kind, far + 0.1), QUAD)), Level.CLEAR, kind)
            for effect in reach:
                self.assertLess(effect.ground_m, effect.caution_m)

    def test_a_tree_disturbs_nothing(self) -> None:
        self.assertEqual(judge_sources(with_(MarkKind.TREE, 1), QUAD), ())
        self.assertEqual(sources(BARE), ())

    def test_iron_matters_only_to_a_compass(self) -> None:
        bare = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.COMPASS}})
        self.assertEqual(judge_sources(with_(MarkKind.CARS, 1), bare), ())
        self.assertEqual(judge_sources(with_(MarkKind.CARS, 1), QUAD)[0].level, Level.GROUNDED)

    @given(st.floats(0, 200), st.floats(0, 100))
    def test_farther_is_never_worse(self, away: float, more: float) -> None:
        for does in DISTURBS.values():
            for effect in (does.compass, does.link):
                self.assertGreaterEqual(level_at(effect, away), level_at(effect, away + more))

    def test_words(self) -> None:
        text = said(judge_sources(with_(MarkKind.WIRE, 12, 200, 20), QUAD)[0])
        self.assertEqual(text, "A wire only 12 m away, towards 200°: its current swings the compass.")


class Within(unittest.TestCase):
    @given(
        st.lists(st.tuples(st.floats(-300, 300), st.floats(-300, 300)), min_size=1, max_size=4, unique=True),
        st.floats(0, 30),
        st.floats(0, 60),
    )
    def test_the_quick_no_is_never_wrong(self, points: list[tuple[float, float]], radius: float, most: float) -> None:
        mark = Mark(kind=MarkKind.TREES, spots=tuple(spot(p) for p in points), height_m=5, radius_m=radius)
        area = [(-40.0, 10.0), (50.0, 20.0), (30.0, 70.0)]
        if mark.gap_m(area, closed=True) <= most:
            self.assertTrue(mark.within(planar_geometry.bounding_box(area), most + 0.001))


class Spots(unittest.TestCase):
    def test_clear_ground_against_shapely(self) -> None:
        places = [(0.0, 0.0), (-50.0, -46.0), (60.0, -50.0), (-128.0, 30.0)]
        shapes = [
            shapely.Polygon(m.points) if m.closed else shapely.LineString(m.points) if len(m.spots) > 1 else shapely.Point(m.points[0]).buffer(m.radius_m, 256)
            for m in MEADOW.marks
        ]  # fmt: skip
        for place, found in zip(places, launches(MEADOW, places, None), strict=True):
            theirs = min(shape.distance(shapely.Point(place)) for shape in shapes)
            self.assertAlmostEqual(found.clear_m, theirs, delta=0.01)

    def test_open_sky_by_hand(self) -> None:
        """Nothing: all of it. A wall round half the horizon, as high as it is far (45°), leaves of its half (1 - sin 45°) of
        what lies above the mask: spherical zones, area 2πR²(1 - sin h)."""
        self.assertAlmostEqual(launches(BARE, [(0, 0)], None)[0].sky_percent, 100)
        r = 100.0
        ring = [(r * math.sin(math.radians(a)), r * math.cos(math.radians(a))) for a in range(5, 176, 5)]
        walled = field_editor.added(BARE, MarkKind.TREES, ring, r)
        half = (1 - math.sin(math.radians(45))) / (1 - math.sin(math.radians(10)))
        self.assertAlmostEqual(launches(walled, [(0, 0)], None)[0].sky_percent, 50 + 50 * half, delta=1.5)

    def test_away_from_a_source_with_reasons(self) -> None:
        site = field_editor.added(BARE, MarkKind.WIRE, [(-80, 12), (80, 12)], 15)
        found = better_launch(site, None)
        assert found is not None
        self.assertGreaterEqual(-found.found.at.north_m + 12, 50)
        self.assertLessEqual(found.found.walk_m, WALK_M)
        self.assertIn(
            "Away from the wire, which is 12 m from the present point.",
            [said(r) for r in found.reasons],
        )

    def test_out_from_under_a_tree(self) -> None:
        found = better_launch(with_(MarkKind.TREE, 2, height=14), None)
        assert found is not None
        self.assertGreater(found.found.clear_m, 9)
        self.assertGreater(found.found.sky_percent, found.present.sky_percent)

    def test_the_sun_behind_and_the_crowd_kept_off(self) -> None:
        """A box to the north, the sun low in the north-west, spectators to the south: only the far side of the box has the
        sun behind it."""
        site = field_editor.spectator_line_begun(
            field_editor.laid(BARE, field_editor.FLIGHT_AREA, [(-20, 10), (20, 10), (20, 40), (-20, 40)])
        )
        found = better_launch(site, 0)
        assert found is not None
        self.assertTrue(found.found.behind)
        self.assertGreater(found.found.at.north_m, 25)

    def test_none_where_the_present_one_is_as_good(self) -> None:
        self.assertIsNone(better_launch(BARE, None))

    def test_never_on_water_or_inside_a_hazard(self) -> None:
        lake = field_editor.added(
            with_(MarkKind.WIRE, 12, 0, 15), MarkKind.WATER, [(-200, -8), (200, -8), (200, -200), (-200, -200)], 0
        )
        found = better_launch(lake, None)
        if found is not None:
            self.assertGreater(found.found.at.north_m, -8)
