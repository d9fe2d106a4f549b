"""Volts in flight: Ohm done another way, cold packs, and the alarm."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from tests.support import PACK
from walkround.core.packs.chemistry import CELLS, Chemistry
from walkround.core.packs.load import loaded_v, resistance_factor, under_load, usable_share


class Sag(unittest.TestCase):
    def test_against_a_root_finder(self) -> None:
        """V = V0 - R P / V, solved by scipy's brentq on the upper branch."""
        for rest, mohm, watts in ((4.2, 7, 30), (3.8, 15, 60), (3.7, 5, 0), (3.3, 60, 20)):
            with self.subTest(f"{rest} V, {mohm} mΩ, {watts} W"):
                root = brentq(lambda v, r=rest, m=mohm, w=watts: r - m / 1000 * w / v - v, rest / 2, rest + 1)
                self.assertAlmostEqual(loaded_v(rest, mohm, watts), root, places=9)

    def test_more_than_the_cell_can_give(self) -> None:
        """Most power is at half the voltage: a textbook result (maximum power transfer)."""
        self.assertEqual(loaded_v(4.0, 100, 1000), 2.0)

    @given(st.floats(3, 4.2), st.floats(1, 100), st.floats(0, 200), st.floats(0, 50))
    def test_more_power_never_shows_more(self, rest: float, mohm: float, watts: float, more: float) -> None:
        self.assertLessEqual(loaded_v(rest, mohm, watts + more), loaded_v(rest, mohm, watts))


class Cold(unittest.TestCase):
    @given(st.floats(-30, 50), st.floats(0, 20))
    def test_colder_never_gives_more(self, warm: float, colder: float) -> None:
        self.assertLessEqual(usable_share(warm - colder), usable_share(warm))
        self.assertGreaterEqual(resistance_factor(warm - colder), resistance_factor(warm))

    def test_a_cold_pack_is_told_what_to_reach(self) -> None:
        cold = under_load(PACK, power_w=150, charge_percent=100, temperature_c=-5)
        warm = under_load(PACK, power_w=150, charge_percent=100, temperature_c=22)
        self.assertGreaterEqual(cold.warm_to_c or 0, 15)
        self.assertIsNone(warm.warm_to_c)
        self.assertLess(cold.hover_v, warm.hover_v)
        self.assertLess(cold.full_v, cold.hover_v)

    def test_a_weak_pack_needs_more(self) -> None:
        """The temperature named is the lowest at which full throttle stays above the floor; counted up by hand."""
        weak = under_load(PACK, power_w=120, charge_percent=60, temperature_c=5, measured_mohm=22)
        assert weak.warm_to_c is not None
        self.assertGreater(weak.warm_to_c, 15)
        reached = under_load(PACK, power_w=120, charge_percent=60, temperature_c=weak.warm_to_c, measured_mohm=22)
        below = under_load(PACK, power_w=120, charge_percent=60, temperature_c=weak.warm_to_c - 1, measured_mohm=22)
        self.assertGreaterEqual(reached.full_v, 3.3)
        self.assertLess(below.full_v, 3.3)


class Rating(unittest.TestCase):
    def test_current_against_the_rating(self) -> None:
        """30 C of 2.2 Ah is 66 A: the definition. Power over volts is current: at 10 W a cell and 4 V about 2.5 A."""
        pack = PACK.model_copy(update={"capacity_mah": 2200, "c_rate": 30})
        found = under_load(pack, power_w=30 / 2**1.5, charge_percent=78, temperature_c=25, measured_mohm=0.001)
        self.assertEqual(found.rated_a, 66)
        self.assertAlmostEqual(found.full_a, 2.5, delta=0.02)
        self.assertIsNone(under_load(PACK, power_w=30, charge_percent=78, temperature_c=25).rated_a)


class Alarm(unittest.TestCase):
    def test_gentle_trainers_get_about_what_pilots_use(self) -> None:
        """3.7 V a cell for gentle trainers, 3.5 V a bench floor: common practice, no source."""
        trainer = under_load(PACK, power_w=80, charge_percent=100, temperature_c=20, measured_mohm=7)
        self.assertTrue(3.5 <= trainer.alarm_v <= 3.75, trainer.alarm_v)

    def test_never_below_the_floor(self) -> None:
        for kind in Chemistry:
            pack = PACK.model_copy(update={"chemistry": kind})
            found = under_load(pack, power_w=900, charge_percent=100, temperature_c=20)
            self.assertGreaterEqual(found.alarm_v, CELLS[kind].load_floor_v)

    def test_a_larger_reserve_warns_earlier(self) -> None:
        alarms = [under_load(PACK, power_w=80, charge_percent=100, temperature_c=20, reserve_percent=r).alarm_v
                  for r in (10, 20, 40)]  # fmt: skip
        self.assertEqual(alarms, sorted(alarms))
