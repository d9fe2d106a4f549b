"""Return height: tallest obstacle plus margin, ceiling, and what strong wind over water does to it."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE, dry_weather, said
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.field.marks import Mark, MarkKind, mark_at
from walkround.core.field.site import Terrain
from walkround.core.flight.rth_altitude import judge_rth_altitude, rth_altitude
from walkround.core.pilot.limits import Limits

LIMITS = Limits()


def tree(height: float, away: float) -> Mark:
    return mark_at(MarkKind.TREE, 10, away, height)


def site(*obstacles: Mark, **changes: object):  # type: ignore[no-untyped-def]
    return SITE.model_copy(update={"marks": obstacles, **changes})


class Lowest(unittest.TestCase):
    def test_tallest_within_reach_plus_margin(self) -> None:
        rows = (
            ("nothing marked", (), 15),
            ("one tree", (tree(18, 80),), 28),
            ("the tallest of two", (tree(18, 80), tree(25, 100)), 35),
            ("just outside, within the allowance", (tree(40, 135),), 50),
            ("well outside", (tree(40, 136),), 15),
            ("a fence is still under the least", (tree(1.3, 20),), 15),
        )
        for name, obstacles, lowest in rows:
            with self.subTest(name):
                self.assertAlmostEqual(rth_altitude(site(*obstacles), QUAD, LIMITS, None).lowest_m, lowest)

    @given(st.lists(st.tuples(st.floats(1, 80), st.floats(0, 400)), max_size=8))
    def test_clears_every_point_of_the_circle(self, things: list[tuple[float, float]]) -> None:
        """Flying straight home from any point of the circle at this height passes every obstacle on the way with
        the margin: worked here point by point, not by the rule under test."""
        here = site(*(tree(h, d) for h, d in things))
        lowest = rth_altitude(here, QUAD, LIMITS, None).lowest_m
        for height, away in things:
            if away <= here.flight_radius_m:
                self.assertGreaterEqual(lowest - height, LIMITS.return_margin_m - 1e-9)


class Judged(unittest.TestCase):
    def level(self, setting: float, *obstacles: Mark, weather=None, **changes: object):  # type: ignore[no-untyped-def]
        found = judge_rth_altitude(setting, site(*obstacles, **changes), QUAD, LIMITS, weather)
        return max(f.level for f in found), found

    def test_against_the_setting(self) -> None:
        rows = (
            ("too low", 27, Level.GROUNDED),
            ("just enough", 28, Level.CLEAR),
            ("over the ceiling", 121, Level.GROUNDED),
        )
        for name, setting, level in rows:
            with self.subTest(name):
                self.assertEqual(self.level(setting, tree(18, 80))[0], level)

    def test_words_name_the_obstacle(self) -> None:
        _, found = self.level(20, tree(18, 80))
        self.assertEqual(said(found[0]), "The tree at 80 m is 18 m high; the RTH altitude is 20 m (min 28 m).")

    def test_obstacles_over_the_ceiling_ground_whatever_is_set(self) -> None:
        level, found = self.level(120, tree(115, 80))
        self.assertEqual(level, Level.GROUNDED)
        self.assertIn("Obstacle", [f.name for f in found])

    def test_strong_wind_over_open_water_pulls_it_down(self) -> None:
        windy = dry_weather(wind_ms=6.5, gust_ms=None)
        water = {"over_water": True, "terrain": Terrain.WATER}
        calm_level, _ = self.level(100, weather=dry_weather(wind_ms=2), **water)
        level, found = self.level(100, weather=windy, **water)
        self.assertEqual((calm_level, level), (Level.CLEAR, Level.CAUTION))
        self.assertIn("would use less battery and is faster", said(found[-1]))
        inland, _ = self.level(100, weather=windy)
        self.assertEqual(inland, Level.CLEAR)

    def test_the_height_it_is_pulled_to(self) -> None:
        """6.5 m/s at 10 m reaches 8 m/s (half of 16) at 10 * (8/6.5) ** (1/0.1) = 79.7 m; found in steps of 1 m."""
        windy = dry_weather(wind_ms=6.5)
        needs = rth_altitude(site(over_water=True, terrain=Terrain.WATER), QUAD, LIMITS, windy)
        expected = 10 * (8 / 6.5) ** 10
        self.assertTrue(needs.wind_limited)
        self.assertLessEqual(needs.highest_m, expected)
        self.assertGreater(needs.highest_m, expected - 1.01)
        self.assertTrue(math.isclose(expected, 79.7, abs_tol=0.1))

    def test_never_below_the_lowest_safe_height(self) -> None:
        storm = dry_weather(wind_ms=15)
        needs = rth_altitude(site(tree(30, 50), over_water=True, terrain=Terrain.WATER), QUAD, LIMITS, storm)
        self.assertEqual((needs.lowest_m, needs.highest_m), (40, 40))
        level, found = self.level(
            80, tree(30, 50), weather=dry_weather(wind_ms=14), over_water=True, terrain=Terrain.WATER
        )
        self.assertEqual(
            level, Level.CAUTION, "a lower return is faster; whether it gets home at all has its own finding"
        )
        self.assertIn("Wind at RTH altitude", [f.name for f in found])

    def test_impossible_settings(self) -> None:
        for setting in (0, -5, 1001):
            with self.subTest(setting), self.assertRaises(InputError):
                self.level(setting)


class Edges(unittest.TestCase):
    def names(self, setting: float, *obstacles: Mark, **changes: object) -> list[str]:
        weather = changes.pop("weather", None)
        return [f.name for f in judge_rth_altitude(setting, site(*obstacles, **changes), QUAD, LIMITS, weather)]  # type: ignore[arg-type]

    def test_words_for_each_case(self) -> None:
        rows = (
            (40, (), "No obstacle is marked within the flying circle; the RTH altitude is 40 m."),
            (10, (), "No obstacle is marked within the flying circle; the RTH altitude is 10 m (min 15 m)."),
            (40, (tree(18, 80),), "The tree at 80 m is 18 m high; an RTH altitude of 40 m clears it with your margin."),
        )
        for setting, obstacles, words in rows:
            self.assertEqual(said(judge_rth_altitude(setting, site(*obstacles), QUAD, LIMITS, None)[0]), words)

    def test_at_the_ceiling_and_above(self) -> None:
        """120 m is the ceiling of Regulation (EU) 2019/947; at it is allowed."""
        self.assertEqual((self.names(120), self.names(121)), (["RTH altitude"], ["RTH altitude", "Ceiling"]))
        self.assertEqual(self.names(120, tree(110, 80)), ["RTH altitude"])
        self.assertEqual(self.names(120, tree(110.5, 80)), ["RTH altitude", "Obstacle"])

    def test_rising_ground_counts_like_an_obstacle(self) -> None:
        self.assertEqual(rth_altitude(site(ground_rise_m=12.0), QUAD, LIMITS, None).lowest_m, 22)
        self.assertEqual(rth_altitude(site(tree(18, 80), ground_rise_m=12.0), QUAD, LIMITS, None).lowest_m, 28)
        self.assertEqual(rth_altitude(site(ground_rise_m=0.5), QUAD, LIMITS, None).lowest_m, 15)
        self.assertEqual(rth_altitude(site(ground_rise_m=5.5), QUAD, LIMITS, None).lowest_m, 15.5)

    def test_what_it_knows_of_the_obstacle(self) -> None:
        bare, tall = (rth_altitude(site(*o), QUAD, LIMITS, None) for o in ((), (tree(18, 80),)))
        self.assertEqual(
            (bare.tallest, bare.tallest_away_m, bare.wind_limited, bare.highest_m), (None, 0.0, False, 120)
        )
        self.assertAlmostEqual(tall.tallest_away_m, 80, delta=0.1)
        self.assertEqual((tall.lowest.value, tall.lowest.measure.value), (28, "height"))

    def test_wind_over_water_at_its_edge(self) -> None:
        water = {"over_water": True, "terrain": Terrain.WATER}
        needs = rth_altitude(site(**water), QUAD, LIMITS, dry_weather(wind_ms=6.5))
        self.assertTrue(needs.wind_limited)
        for setting, more in ((needs.highest_m, []), (needs.highest_m + 1, ["Wind at RTH altitude"])):
            self.assertEqual(self.names(setting, weather=dry_weather(wind_ms=6.5), **water), ["RTH altitude", *more])
        calm = rth_altitude(site(**water), QUAD, LIMITS, dry_weather(wind_ms=1))
        self.assertEqual((calm.wind_limited, calm.highest_m), (False, 120))
        self.assertEqual(self.names(119, weather=dry_weather(wind_ms=1), **water), ["RTH altitude"])

    def test_settings_that_cannot_be(self) -> None:
        for setting in (0, -3, 1_000.5):
            with self.assertRaises(InputError):
                judge_rth_altitude(setting, site(), QUAD, LIMITS, None)
        self.assertEqual(judge_rth_altitude(1_000, site(), QUAD, LIMITS, None)[0].level, Level.CLEAR)
        self.assertEqual(judge_rth_altitude(0.5, site(), QUAD, LIMITS, None)[0].level, Level.GROUNDED)
