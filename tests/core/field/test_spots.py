"""A better launch spot, against shapely and by hand."""

import math
import unittest

import shapely

from tests.support import SITE, said
from walkround.core.field import field_editor
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.field.site import Site
from walkround.core.field.spots import WALK_M, better_launch, launches
from walkround.demo.scenario import MEADOW

BARE = SITE.model_copy(update={"marks": ()})


def with_(kind: MarkKind, away: float, bearing: float = 90, height: float = 5) -> Site:
    return BARE.model_copy(update={"marks": (mark_at(kind, bearing, away, height, number=1),)})


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
        """Nothing: all of it. A wall round 170° of the horizon, as high as it is far (45°), leaves of its part (1 - sin 45°) of
        what lies above the mask: spherical zones, area 2πR²(1 - sin h)."""
        self.assertAlmostEqual(launches(BARE, [(0, 0)], None)[0].sky_percent, 100)
        r = 100.0
        ring = [(r * math.sin(math.radians(a)), r * math.cos(math.radians(a))) for a in range(5, 176, 5)]
        walled = field_editor.added(BARE, MarkKind.TREES, ring, r)
        half = (1 - math.sin(math.radians(45))) / (1 - math.sin(math.radians(10)))
        self.assertAlmostEqual(launches(walled, [(0, 0)], None)[0].sky_percent, (190 + 170 * half) / 3.6, delta=0.1)

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
