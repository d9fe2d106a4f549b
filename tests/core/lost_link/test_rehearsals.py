"""Rehearsals: from the third on the aircraft's own numbers, as the closed form gives them."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW
from walkround.core.aircraft.link_trials import Rehearsal
from walkround.core.lost_link.rehearsals import FEWEST, LEAST_LANDING_M, OwnReturn, own_return


def flown(offset: float, used: float | None = 10, expected: float | None = 10) -> Rehearsal:
    return Rehearsal(at=NOW, distance_m=100, seconds=60, used_percent=used, expected_percent=expected, offset_m=offset)


class Own(unittest.TestCase):
    def test_before_the_third_the_usual_numbers(self) -> None:
        for many in range(FEWEST):
            self.assertEqual(own_return([flown(9.0)] * many), OwnReturn())

    def test_a_rayleigh_scatter_gives_back_its_sigma(self) -> None:
        """``sigma² = mean(r²) / 2`` (textbook)."""
        offsets = np.random.default_rng(4).rayleigh(2.2, 8_000)
        self.assertAlmostEqual(own_return([flown(float(r)) for r in offsets]).landing_m, 2.2, delta=0.05)

    @given(st.lists(st.floats(0, 60), min_size=FEWEST, max_size=9), st.floats(1, 3))
    def test_wider_landings_are_a_wider_spread(self, offsets: list[float], times: float) -> None:
        near, far = (own_return([flown(r * factor) for r in offsets]).landing_m for factor in (1.0, times))
        self.assertGreaterEqual(far, near)
        self.assertGreaterEqual(near, LEAST_LANDING_M)

    def test_its_own_use_never_counts_as_cheaper(self) -> None:
        self.assertEqual(own_return([flown(1, 6, 10)] * 3).use_times, 1.0)
        self.assertTrue(math.isclose(own_return([flown(1, 15, 10)] * 3).use_times, 1.5))
        self.assertEqual(own_return([flown(1, None, 10)] * 4).use_times, 1.0, "not read is not known")
