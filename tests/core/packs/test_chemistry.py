"""Resting curves of every chemistry."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.packs.chemistry import CELLS, FULL_CELL_V, Chemistry, charge_percent, is_lithium, resting_v


class Curves(unittest.TestCase):
    def test_each_chemistry_is_whole(self) -> None:
        for kind, cell in CELLS.items():
            with self.subTest(kind):
                volts, percents = [v for v, _ in cell.curve], [p for _, p in cell.curve]
                self.assertEqual((percents[0], percents[-1]), (0, 100))
                self.assertEqual((volts, percents), (sorted(set(volts)), sorted(set(percents))))
                order = (cell.load_floor_v, cell.bench_v, cell.floor_v, cell.fly_v, FULL_CELL_V[kind])
                self.assertEqual(list(order), sorted(order))
                self.assertLess(FULL_CELL_V[kind], cell.highest_v)

    @given(st.floats(0, 100), st.sampled_from(Chemistry))
    def test_there_and_back(self, percent: float, kind: Chemistry) -> None:
        self.assertAlmostEqual(charge_percent(resting_v(percent, kind), kind), percent, delta=1e-6)

    def test_storage_is_about_half(self) -> None:
        """3.80 to 3.85 V for storage of lithium-polymer is about half: common practice, no source."""
        for volts in (3.80, 3.85):
            self.assertAlmostEqual(charge_percent(volts), 50, delta=12)

    def test_nickel_does_not_burn(self) -> None:
        self.assertEqual([k for k in Chemistry if not is_lithium(k)], [Chemistry.NIMH])
