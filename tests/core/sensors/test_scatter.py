"""Circles of a scatter against closed forms and against simulation; what a reading at rest says."""

import math
import random
import unittest

import numpy as np

from walkround.core.base.geodesy import Position, from_plane
from walkround.core.sensors.scatter import Epoch, at_rest, radius_holding

HERE = Position(lat_deg=48.2, lon_deg=15.3)


def fixes(points: list[tuple[float, float]], step_s: float = 1.0) -> list[Epoch]:
    return [
        Epoch(at_s=i * step_s, position=from_plane(HERE, p), altitude_m=200.0, speed_ms=0.1)
        for i, p in enumerate(points)
    ]


class Circles(unittest.TestCase):
    def test_round_and_flat(self) -> None:
        """CEP = 1.1774 σ and R95 = 2.4477 σ of a round scatter (Rayleigh); 0.6745 and 1.9600 of one along a line (normal): tables of the normal distribution."""
        for wide, half, most in ((1.0, 1.17741, 2.44775), (0.0, 0.67449, 1.95996)):
            self.assertAlmostEqual(radius_holding(0.5, 1.0, wide), half, delta=0.002)
            self.assertAlmostEqual(radius_holding(0.95, 1.0, wide), most, delta=0.006)
        self.assertEqual(radius_holding(0.95, 0.0, 0.0), 0.0)

    def test_against_simulation(self) -> None:
        draw = np.random.default_rng(8)
        for a, b in ((1.0, 0.2), (2.0, 1.0), (3.0, 2.5)):
            away = np.hypot(draw.normal(0, a, 400_000), draw.normal(0, b, 400_000))
            for share in (0.5, 0.95):
                self.assertAlmostEqual(radius_holding(share, a, b), float(np.quantile(away, share)), delta=0.012 * a)

    def test_the_ellipse_holds_ninety_five_of_a_hundred(self) -> None:
        draw = np.random.default_rng(3)
        turn = math.radians(35)
        long, wide = draw.normal(0, 3, 120), draw.normal(0, 1, 120)
        # Long towards 35° true.
        points = [
            (a * math.sin(turn) + b * math.cos(turn), a * math.cos(turn) - b * math.sin(turn))
            for a, b in zip(long, wide, strict=True)
        ]
        rest = at_rest(fixes(points, 0.5))
        assert rest is not None
        self.assertAlmostEqual(rest.along_deg, 35, delta=6)
        self.assertAlmostEqual(rest.long_m / 3 / 2.4477, 1, delta=0.15)
        self.assertAlmostEqual(rest.wide_m / 2.4477, 1, delta=0.15)


class AtRest(unittest.TestCase):
    def test_too_few_say_nothing_of_a_scatter(self) -> None:
        rest = at_rest(fixes([(0, 0)] * 9))
        assert rest is not None
        self.assertIsNone(rest.spread_95_m)
        self.assertIsNone(at_rest([]))
        self.assertIsNone(at_rest([Epoch(at_s=0)]))

    def test_only_the_last_minute_counts(self) -> None:
        carried = [(300.0 - 3 * i, 0.0) for i in range(100)] + [(0.0, 0.0)] * 62
        rest = at_rest(fixes(carried))
        assert rest is not None and rest.spread_95_m is not None
        self.assertLess(rest.spread_95_m, 0.1)
        self.assertLess(rest.jump_m, 0.1)

    def test_a_jump_and_a_lost_fix(self) -> None:
        points = [(0.0, 0.0)] * 20
        points[12] = (9.0, 0.0)
        seen = fixes(points)
        seen[5] = Epoch(at_s=5.0)
        rest = at_rest(seen)
        assert rest is not None
        self.assertAlmostEqual(rest.jump_m, 9.0, delta=0.05)
        self.assertEqual(rest.lost, 1)

    def test_the_circles_never_hold_fewer_than_they_say(self) -> None:
        draw = random.Random(2)
        for n in (10, 23, 60):
            points = [(draw.gauss(0, 1) * draw.choice((1, 8)), draw.gauss(0, 1)) for _ in range(n)]
            rest = at_rest(fixes(points, 0.9))
            assert rest is not None and rest.spread_50_m is not None and rest.spread_95_m is not None
            east, north = sum(x for x, _ in points) / n, sum(y for _, y in points) / n
            away = [math.dist(p, (east, north)) for p in points]
            self.assertGreaterEqual(sum(d <= rest.spread_50_m + 0.02 for d in away), n / 2)
            self.assertGreaterEqual(sum(d <= rest.spread_95_m + 0.02 for d in away), 0.95 * n)
