"""A still start: quiet long enough, never done before, begun anew by every move; what is not a number is no rest."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.calibration.still import STILL_DPS, StillTimer


def run(rates: list[float], needed_s: float = 2.0) -> list[StillTimer]:
    timer, found = StillTimer(needed_s=needed_s), []
    for i, rate in enumerate(rates):
        timer = timer.after(i / 10, (rate, 0.0, 0.0))
        found.append(timer)
    return found


class Still(unittest.TestCase):
    def test_quiet_long_enough(self) -> None:
        done = [timer.done for timer in run([0.1] * 25)]
        self.assertEqual(done.index(True), 20)

    @given(st.lists(st.floats(-20, 20), max_size=80))
    def test_never_done_without_that_much_rest_in_one_piece(self, rates: list[float]) -> None:
        longest = best = 0
        for rate in rates:
            longest = longest + 1 if abs(rate) <= STILL_DPS else 0
            best = max(best, longest)
        self.assertEqual(bool(rates) and run(rates)[-1].done, best >= 21)

    def test_a_knock_begins_it_anew_and_is_counted(self) -> None:
        last = run([0.1] * 15 + [30.0] + [0.1] * 15)[-1]
        self.assertEqual((last.done, last.moved), (False, 1))

    def test_a_drift_is_no_knock(self) -> None:
        last = run([6.0] * 100)[-1]
        self.assertFalse(last.done)
        self.assertTrue(last.drifts(9.9))
        self.assertFalse(run([6.0] * 20)[-1].drifts(1.9))
        self.assertEqual(last.moved, 0)

    def test_no_number_is_no_rest(self) -> None:
        self.assertFalse(run([math.nan] * 40)[-1].done)
