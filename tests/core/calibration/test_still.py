"""A still start: quiet long enough, never done before, begun anew by every move; what is not a number is no rest."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, said
from walkround.core.base.finding import Level
from walkround.core.calibration.still import (
    FEWEST_STARTS,
    NEWEST,
    STILL_DPS,
    StillStart,
    StillTimer,
    rest_finding,
    rest_of,
    slow_after_s,
    start_finding,
    usual_s,
)


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


SECONDS = st.floats(1, 300)


def starts(*seconds: float, simulated: bool = False) -> list[StillStart]:
    return [StillStart(at=NOW, seconds=one, simulated=simulated) for one in seconds]


class Learned(unittest.TestCase):
    @given(st.lists(SECONDS, max_size=30))
    def test_the_middle_of_the_newest(self, seconds: list[float]) -> None:
        found = usual_s(starts(*seconds))
        self.assertEqual(found is None, len(seconds) < FEWEST_STARTS)
        if found is not None:
            newest = sorted(seconds[:NEWEST])
            self.assertTrue(newest[0] <= found <= newest[-1])
            self.assertLessEqual(abs(sum(one < found for one in newest) - sum(one > found for one in newest)), 0 if len(set(newest)) == len(newest) else NEWEST)  # fmt: skip

    def test_what_is_invented_teaches_nothing(self) -> None:
        self.assertIsNone(usual_s(starts(10, 11, 12, 13, simulated=True)))

    @given(SECONDS, SECONDS, st.floats(1, 5))
    def test_slower_is_never_better(self, seconds: float, usual: float, factor: float) -> None:
        sooner, later = start_finding(seconds, usual), start_finding(seconds * factor, usual)
        assert sooner is not None and later is not None
        self.assertGreaterEqual(later.level, sooner.level)
        self.assertEqual(sooner.level > Level.CLEAR, seconds > slow_after_s(usual))

    def test_rows(self) -> None:
        for seconds, level in (
            (9, Level.CLEAR),
            (14, Level.CLEAR),
            (19, Level.CLEAR),
            (22, Level.CAUTION),
            (45, Level.GROUNDED),
        ):
            found = start_finding(seconds, 14)
            assert found is not None
            self.assertIs(found.level, level, seconds)
        self.assertIsNone(start_finding(500, None), "nothing is known to compare it with")
        self.assertIn("usually it takes 14 s", said(start_finding(22, 14)))


class Rested(unittest.TestCase):
    @given(st.lists(st.floats(-20, 20), min_size=1, max_size=80))
    def test_the_longest_rest(self, rates: list[float]) -> None:
        longest = run_ = 0
        for rate in rates:
            run_ = run_ + 1 if abs(rate) <= STILL_DPS else 0
            longest = max(longest, run_ - 1)
        found = rest_of((i / 10, (rate, 0.0, 0.0)) for i, rate in enumerate(rates))
        self.assertAlmostEqual(found.longest_s, max(0, longest) / 10, places=6)
        self.assertEqual(rest_finding(found, 2.0).level is Level.GROUNDED, found.longest_s < 2.0)
