"""Height to get out of a stall, against a flight that is computed step by step."""

import math
import unittest

from walkround.core.proving.stall import DIVE_DEG, FLYING_AGAIN, G_MS2, LOAD, REACTION_S, recovery_m, stall_ms


def stepped(stall: float) -> float:
    """The same story in small steps: dive along the slope, drag free, until it flies again; the pilot's seconds at that speed; then a pull-out at a constant load."""
    step, v, lost, slope = 1e-4, stall, 0.0, math.radians(DIVE_DEG)
    while v < FLYING_AGAIN * stall:
        v += G_MS2 * math.sin(slope) * step
        lost += v * math.sin(slope) * step
    lost += REACTION_S * v * math.sin(slope)
    speed = v
    while slope > 0:
        slope -= G_MS2 * (LOAD - math.cos(math.radians(DIVE_DEG))) / speed * step
        lost += speed * math.sin(max(0.0, slope)) * step
    return lost


class Stall(unittest.TestCase):
    def test_against_steps(self) -> None:
        for v in (5.0, 8.0, 12.0):
            self.assertAlmostEqual(recovery_m(v) / stepped(v), 1, delta=0.01)

    def test_by_hand(self) -> None:
        """8 m/s: flies again at 10.4 m/s; 2.25 m for the speed, 11.03 m in one and a half seconds, 8.53 m × 0.293 ... on a circle of 8.53 m: 24.99 − ... checked with a pocket calculator: 15.8 m."""
        v = 10.4
        known = (
            (v**2 - 64) / (2 * G_MS2)
            + 1.5 * v * math.sqrt(0.5)
            + v**2 / (G_MS2 * (2 - math.sqrt(0.5))) * (1 - math.sqrt(0.5))
        )
        self.assertAlmostEqual(recovery_m(8.0), known, places=6)
        self.assertAlmostEqual(known, 15.8, delta=0.1)

    def test_faster_needs_more(self) -> None:
        heights = [recovery_m(v) for v in (4, 6, 8, 10, 15)]
        self.assertEqual(heights, sorted(heights))
        self.assertEqual((stall_ms(15, 99), stall_ms(None, 20)), (9.0, 7.0))
