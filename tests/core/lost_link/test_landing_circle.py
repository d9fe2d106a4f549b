"""Where it would land: the spread, the offset, the clear ground there."""

import math
import random
import unittest

import numpy as np

from tests.support import SITE
from walkround.core.base.finding import Level
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.lost_link.landing_circle import clear_at_m, judge_landing, landing_spread
from walkround.core.lost_link.rehearsals import OwnReturn
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.satellites import CountSeen, ScreenSeen
from walkround.core.sensors.scatter import Rest

BARE = SITE.model_copy(update={"marks": ()})
OWN = OwnReturn(landing_m=1.0, rehearsals=4)


def screen(many: int, hdop: float | None = None) -> ScreenSeen:
    return ScreenSeen(counts=(CountSeen(after_s=0, satellites=many),), hdop=hdop)


class Spread(unittest.TestCase):
    def test_both_together(self) -> None:
        found = landing_spread(Fix(hdop=0.8), None, OWN)
        self.assertAlmostEqual(found.fix_m, 4.0)
        self.assertAlmostEqual(found.radius_m, math.hypot(4.0, 2.4477), places=3)

    def test_it_holds_ninety_five_of_a_hundred_by_simulation(self) -> None:
        """Fix errors and landings drawn at random, both normal along each axis: 2DRMS and Rayleigh are each a little wide of 95 %, never less."""
        draw = np.random.default_rng(1)
        spread = landing_spread(Fix(hdop=1.0), None, OWN)
        sigma = 2.5 / math.sqrt(2)  # HDOP is the root sum of both axes
        away = np.hypot(
            draw.normal(0, sigma, 200_000) + draw.normal(0, 1.0, 200_000),
            draw.normal(0, sigma, 200_000) + draw.normal(0, 1.0, 200_000),
        )
        held = float((away <= spread.radius_m).mean())
        self.assertGreaterEqual(held, 0.95)
        self.assertLessEqual(held, 0.99)

    def test_what_is_not_known_is_never_smaller(self) -> None:
        known = landing_spread(None, screen(12, 0.9), OWN).radius_m
        ten, nine, nothing = (landing_spread(None, seen, OWN) for seen in (screen(12), screen(9), None))
        self.assertLess(known, ten.radius_m)
        self.assertLess(ten.radius_m, nine.radius_m)
        self.assertEqual(nine.radius_m, nothing.radius_m)
        self.assertTrue(ten.assumed and nothing.assumed)

    def test_a_wide_scatter_counts_also_without_an_hdop(self) -> None:
        rest = Rest(seconds=20, fixes=20, spread_50_m=6, spread_95_m=14.0)
        self.assertEqual(landing_spread(Fix(rest=rest), None, OWN).fix_m, 14.0)
        self.assertEqual(landing_spread(Fix(rest=rest.model_copy(update={"spread_95_m": 1.0})), None, OWN).fix_m, 10.0)


class Landing(unittest.TestCase):
    def levels(
        self, paced: float | None, offset: float | None, toward: float | None = None, site: object = BARE
    ) -> dict[str, Level]:
        spread = landing_spread(Fix(hdop=0.8), None, OWN)
        return {f.name: f.level for f in judge_landing(site, spread, paced, offset, toward)}

    def test_rows(self) -> None:
        """The radius is 4.69 m here."""
        rows = (
            (None, None, None, {}),
            (4.6, None, None, {"Landing circle": 1}),
            (4.7, None, None, {"Landing circle": 0}),
            (12.0, 6.0, None, {"Home point": 0, "Landing circle": 0}),
            (12.0, 8.0, None, {"Home point": 0, "Landing circle": 1}),
            (12.0, 9.5, None, {"Home point": 0, "Landing circle": 2}),
            (80.0, 12.0, None, {"Home point": 1, "Landing circle": 0}),
            (80.0, 30.0, None, {"Home point": 2, "Landing circle": 0}),
            (None, 40.0, None, {"Home point": 2}),
        )
        for paced, offset, toward, known in rows:
            with self.subTest(f"{paced} {offset}"):
                self.assertEqual(self.levels(paced, offset, toward), known)

    def test_towards_the_tree_and_away_from_it(self) -> None:
        site = BARE.model_copy(update={"marks": (mark_at(MarkKind.TREE, 90, 14, 10, number=1),)})
        self.assertEqual(self.levels(None, 8, 270, site)["Landing circle"], Level.CLEAR)
        self.assertEqual(self.levels(None, 12, 90, site)["Landing circle"], Level.GROUNDED)
        self.assertAlmostEqual(clear_at_m(site, None, 8, 90) or 0, 6, delta=0.01)
        self.assertAlmostEqual(clear_at_m(site, None, 8, None) or 0, 6, delta=0.01)
        self.assertAlmostEqual(clear_at_m(site, 10.0, 8, 270) or 0, 2, delta=0.01)

    def test_farther_off_is_never_better_and_no_direction_never_better_than_any(self) -> None:
        draw = random.Random(6)
        for _ in range(200):
            marks = tuple(
                mark_at(MarkKind.TREE, draw.uniform(0, 360), draw.uniform(3, 60), 8, number=i) for i in range(1, 4)
            )
            site, off = BARE.model_copy(update={"marks": marks}), draw.uniform(0, 40)
            near, far = self.levels(25.0, off, None, site), self.levels(25.0, off + draw.uniform(0, 10), None, site)
            for name, level in near.items():
                self.assertGreaterEqual(far[name], level)
            blind = self.levels(25.0, off, None, site)["Landing circle"]
            self.assertGreaterEqual(blind, self.levels(25.0, off, draw.uniform(0, 360), site)["Landing circle"])
