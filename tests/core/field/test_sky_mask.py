"""The hidden sky by hand and against a library of geometry."""

import math
import random
import unittest
from datetime import UTC, datetime

import numpy as np
import shapely

from tests.support import SITE
from walkround.core.field import field_editor
from walkround.core.field.marks import Mark, MarkKind, mark_at, spot
from walkround.core.field.sky_mask import (
    MASK_DEG,
    SECTORS,
    hidden_deg,
    open_percent,
    sky_mask,
    what_it_costs,
    where_it_opens,
)

BARE = SITE.model_copy(update={"marks": (), "spectator_line": ()})
DAY = datetime(2026, 6, 1, tzinfo=UTC)


def with_(*marks: Mark) -> object:
    return BARE.model_copy(update={"marks": tuple(m.model_copy(update={"id": i}) for i, m in enumerate(marks, 1))})


class Hidden(unittest.TestCase):
    def test_a_wall_by_trigonometry(self) -> None:
        """A long wall 10 m to the north and 10 m high: 45° due north, atan(cos b) at a bearing b."""
        site = field_editor.added(BARE, MarkKind.TREES, [(-500, 10), (500, 10)], 10)
        mask = sky_mask(site)
        for i in range(SECTORS):
            bearing = (i + 0.5) * 360 / SECTORS
            ahead = math.cos(math.radians(bearing))
            if ahead > 0.1:
                self.assertAlmostEqual(mask.hidden_deg[i], math.degrees(math.atan(ahead)), delta=0.06)
            elif ahead < -0.1:
                self.assertEqual(mask.hidden_deg[i], 0)

    def test_rays_against_shapely(self) -> None:
        draw = random.Random(5)
        for _ in range(12):
            corners = [(draw.uniform(20, 40), draw.uniform(-30, 30)) for _ in range(3)]
            mark = Mark(id=1, kind=MarkKind.BUILDING, spots=tuple(spot(c) for c in corners), height_m=9)
            shape = shapely.Polygon(mark.points)
            found = hidden_deg([mark], np.array([[0.0, 0.0]]))[0]
            for i in range(SECTORS):
                turn = math.radians((i + 0.5) * 360 / SECTORS)
                met = shapely.LineString([(0, 0), (200 * math.sin(turn), 200 * math.cos(turn))]).intersection(shape)
                if not met.is_empty:
                    by_ray = math.degrees(math.atan2(9, met.distance(shapely.Point(0, 0))))
                    self.assertGreaterEqual(found[i], by_ray - 0.01, "a corner in the sector may hide more, never less")

    def test_under_a_crown_and_behind_thin_things(self) -> None:
        self.assertEqual(sky_mask(with_(mark_at(MarkKind.TREE, 0, 1, 12))).open_percent, 0)
        for kind in (MarkKind.MAST, MarkKind.WIRE, MarkKind.RADIO):
            mark = (
                mark_at(kind, 0, 3, 30)
                if kind is not MarkKind.WIRE
                else Mark(id=1, kind=kind, spots=(spot((-40, 5)), spot((40, 5))), height_m=20)
            )
            self.assertAlmostEqual(sky_mask(with_(mark)).open_percent, 100, places=6)

    def test_higher_or_one_more_never_opens_the_sky(self) -> None:
        draw = random.Random(9)
        for _ in range(30):
            marks = [
                mark_at(MarkKind.TREE, draw.uniform(0, 360), draw.uniform(1, 80), draw.uniform(4, 30)) for _ in range(4)
            ]
            point = np.array([[0.0, 0.0]])
            whole = hidden_deg(marks, point)
            self.assertTrue((whole >= hidden_deg(marks[:3], point)).all())
            taller = [*marks[:3], marks[3].model_copy(update={"height_m": marks[3].height_m + 5})]
            self.assertTrue((hidden_deg(taller, point) >= whole).all())

    def test_share(self) -> None:
        """All of it, none of it, and half of the circle shut to the top."""
        self.assertAlmostEqual(float(open_percent(np.zeros((1, SECTORS)))[0]), 100)
        self.assertAlmostEqual(float(open_percent(np.full((1, SECTORS), 90.0))[0]), 0)
        self.assertAlmostEqual(float(open_percent(np.array([[90.0] * 36 + [MASK_DEG] * 36]))[0]), 50)


class Opens(unittest.TestCase):
    def test_away_from_the_trees(self) -> None:
        site = field_editor.added(BARE, MarkKind.TREES, [(-60, 6), (60, 6)], 18)
        found = where_it_opens(site)
        assert found is not None
        self.assertGreater(found.mask.open_percent, sky_mask(site).open_percent + 10)
        self.assertAlmostEqual(found.bearing_deg, 180, delta=50)
        self.assertLessEqual(found.walk_m, 60)

    def test_nowhere_to_go(self) -> None:
        self.assertIsNone(where_it_opens(BARE))
        ring = [(70 * math.sin(math.radians(a)), 70 * math.cos(math.radians(a))) for a in range(0, 361, 10)]
        pit = field_editor.added(BARE, MarkKind.TREES, ring, 60)
        self.assertIsNone(where_it_opens(pit), "in the middle it is as open as anywhere")

    def test_what_it_costs(self) -> None:
        site = field_editor.added(BARE, MarkKind.TREES, [(-200, 6), (200, 6)], 30)
        free, hidden = what_it_costs(site, sky_mask(site), DAY)
        self.assertGreater(free.satellites, hidden.satellites)
        self.assertLess(free.hdop, hidden.hdop)
        same, again = what_it_costs(BARE, sky_mask(BARE), DAY)
        self.assertEqual(same, again)
