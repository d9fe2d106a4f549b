"""The robust line: against scipy on series with a known truth, its interval in simulation, jumps told apart."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from walkround.core.packs.trend import FEW_READINGS, RATE, reach, student_quantile, trend


def series(dice, n: int, slope: float = -0.8, wild: float = 0.0, jump: float = 0.0):  # type: ignore[no-untyped-def]
    """Days over most of a year and values with a scatter of 60, some of them wild, after the middle a jump."""
    days = np.sort(dice.uniform(0, 300, n))
    values = 3000 + slope * days + dice.normal(0, 60, n)
    values[dice.random(n) < wild] += 700
    values[days > 150] -= jump
    return days, values


class AgainstScipy(unittest.TestCase):
    def test_slopes_agree_with_theil_sen_and_siegel(self) -> None:
        """scipy.stats.theilslopes and siegelslopes, other robust estimators: within the interval of either."""
        dice = np.random.default_rng(5)
        for n, wild in ((12, 0.0), (40, 0.1), (200, 0.15), (1000, 0.2)):
            with self.subTest(f"{n} readings, {wild:.0%} wild"):
                days, values = series(dice, n, wild=wild)
                line = trend(days, values)
                theil = stats.theilslopes(values, days, RATE)
                low, high = line.slope_range()
                self.assertTrue(low <= theil.slope <= high)
                self.assertTrue(theil.low_slope <= line.slope <= theil.high_slope)
                self.assertAlmostEqual(line.slope, stats.siegelslopes(values, days).slope, delta=2.5 * (high - low))

    def test_without_outliers_it_is_nearly_least_squares(self) -> None:
        """scipy.stats.linregress on normal errors: slope within two thirds of its error, error within 15 %."""
        days, values = series(np.random.default_rng(6), 400)
        line, plain = trend(days, values), stats.linregress(days, values)
        self.assertAlmostEqual(line.slope, plain.slope, delta=0.67 * plain.stderr)
        self.assertAlmostEqual(line.slope_error / plain.stderr, 1, delta=0.15)

    def test_student_quantile(self) -> None:
        for freedom in (4, 6, 10, 30, 200):
            for p in (0.9, 0.95, 0.975):
                self.assertAlmostEqual(student_quantile(p, freedom) / stats.t.ppf(p, freedom), 1, delta=0.01)


class InSimulation(unittest.TestCase):
    def charge(self, n: int, wild: float, jump: float, times: int = 400) -> tuple[float, float]:
        dice = np.random.default_rng(n * 7 + int(wild * 100))
        inside = told = 0
        for _ in range(times):
            line = trend(*series(dice, n, wild=wild, jump=jump))
            low, high = line.slope_range()
            inside += low <= -0.8 <= high
            told += line.jump is not None
        return inside / times, told / times

    def test_the_interval_holds_the_truth_at_its_rate(self) -> None:
        """Nine times in ten is promised; 400 draws allow three points either way, few or wild ones (all of them
        to one side) six."""
        for n, wild, least in ((10, 0.0, 0.84), (25, 0.0, 0.86), (25, 0.1, 0.84), (120, 0.0, 0.87), (120, 0.1, 0.84)):
            with self.subTest(f"{n} readings, {wild:.0%} wild"):
                inside, told = self.charge(n, wild, 0)
                self.assertGreater(inside, least)
                self.assertLess(inside, 0.96)
                self.assertLess(told, 0.04, "a trend is not taken for a jump")

    def test_a_jump_is_told_apart(self) -> None:
        inside, told = self.charge(40, 0.0, 450, times=200)
        self.assertGreater(told, 0.97)
        self.assertGreater(inside, 0.84, "the line after the jump is still the line")

    def test_the_jump_is_measured(self) -> None:
        days, values = series(np.random.default_rng(2), 80, jump=500)
        jump = trend(days, values).jump
        assert jump is not None
        self.assertAlmostEqual(jump.change, -500, delta=60)
        self.assertAlmostEqual(jump.day, 150, delta=10)


class Reaching(unittest.TestCase):
    def test_the_day(self) -> None:
        """A clean line falls 1 a day from 1000 at day 100: it reaches 600 four hundred days later, all edges alike."""
        line = trend(range(101), [1100 - d for d in range(101)])
        found = reach(line, 600, falling=True)
        self.assertAlmostEqual(found.likely or 0, 400, delta=0.01)
        self.assertAlmostEqual(found.early or 0, 400, delta=0.1)
        self.assertEqual(reach(line, 1000, falling=True).likely, 0)
        self.assertIsNone(reach(line, 1200, falling=False).likely)

    def test_early_before_likely_before_late(self) -> None:
        line = trend(*series(np.random.default_rng(3), 40))
        found = reach(line, 2400, falling=True)
        assert found.early is not None and found.likely is not None and found.late is not None
        self.assertLess(found.early, found.likely)
        self.assertLess(found.likely, found.late)

    def test_a_limit_ten_years_off_is_not_in_sight(self) -> None:
        line = trend(*series(np.random.default_rng(3), 40, slope=0.0))
        self.assertIsNone(reach(line, 500, falling=True).likely)


class Few(unittest.TestCase):
    def test_it_says_so(self) -> None:
        rows = (
            ("none", [], []),
            ("one", [0], [5]),
            ("one too few", list(range(0, 70, 10))[: FEW_READINGS - 1], [1] * (FEW_READINGS - 1)),
            ("all in a week", [i * 0.5 for i in range(12)], list(range(12))),
            ("all on one day", [3] * 20, list(range(20))),
        )
        for name, days, values in rows:
            with self.subTest(name):
                self.assertTrue(trend(days, values).few)

    def test_lengths_must_agree(self) -> None:
        with self.assertRaises(ValueError):
            trend([1, 2], [1])

    @given(st.floats(-5, 5), st.floats(-1e4, 1e4), st.integers(8, 60))
    def test_a_clean_line_is_found_exactly(self, slope: float, zero: float, n: int) -> None:
        days = [3.0 * i for i in range(n)]
        line = trend(days, [zero + slope * d for d in days])
        self.assertAlmostEqual(line.slope, slope, delta=1e-6 * max(1, abs(zero), abs(slope)))
        self.assertIsNone(line.jump)

    @given(st.permutations(list(range(15))))
    def test_order_does_not_matter(self, order: list[int]) -> None:
        values = [100 - 2 * d + (7 if d % 4 == 0 else -3) for d in range(15)]
        self.assertEqual(trend([float(d) * 4 for d in range(15)], values),
                         trend([float(d) * 4 for d in order], [values[d] for d in order]))  # fmt: skip
