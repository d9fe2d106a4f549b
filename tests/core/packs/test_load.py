"""Volts in flight: Ohm done another way, cold packs, and the alarm."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.optimize import brentq

from tests.support import PACK
from walkround.core.packs.chemistry import CELLS, Chemistry
from walkround.core.packs.load import cell_mohm, loaded_v, resistance_factor, under_load, usable_share


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
        self.assertEqual(loaded_v(4.0, 100, 40), 2.0, "just as much as it can")
        self.assertGreater(loaded_v(4.0, 100, 39.99), 2.0)

    @given(st.floats(3, 4.2), st.floats(1, 100), st.floats(0, 200), st.floats(0, 50))
    def test_more_power_never_shows_more(self, rest: float, mohm: float, watts: float, more: float) -> None:
        self.assertLessEqual(loaded_v(rest, mohm, watts + more), loaded_v(rest, mohm, watts))


class Cold(unittest.TestCase):
    @given(st.floats(-30, 50), st.floats(0, 20))
    def test_colder_never_gives_more(self, warm: float, colder: float) -> None:
        self.assertLessEqual(usable_share(warm - colder), usable_share(warm))
        self.assertGreaterEqual(resistance_factor(warm - colder), resistance_factor(warm))

    def test_shares_of_the_table_and_between(self) -> None:
        """The table's own points (from memory), and half way between two of them; held at the ends."""
        rows = ((-60, 0.10), (-45, 0.10), (-32.5, 0.30), (-20, 0.50), (-15, 0.60), (-10, 0.70), (-5, 0.775), (0, 0.85),
                (5, 0.895), (10, 0.94), (15, 0.97), (20, 1.0), (32.5, 1.025), (45, 1.05), (60, 1.05))  # fmt: skip
        for temperature_c, share in rows:
            self.assertAlmostEqual(usable_share(temperature_c), share, places=9, msg=str(temperature_c))

    def test_resistance_by_size_and_chemistry(self) -> None:
        """Milliohms times ampere hours, from memory: 15 polymer, 60 ion, 25 iron phosphate, 30 nickel; a measured one counts."""
        rows = (
            (Chemistry.LIPO, 15),
            (Chemistry.LIHV, 15),
            (Chemistry.LIION, 60),
            (Chemistry.LIFE, 25),
            (Chemistry.NIMH, 30),
        )
        for kind, mohm_ah in rows:
            pack = PACK.model_copy(update={"chemistry": kind, "capacity_mah": 2000})
            self.assertAlmostEqual(cell_mohm(pack, None, 25), mohm_ah / 2)
        self.assertAlmostEqual(cell_mohm(PACK, 8.0, 25), 8)
        self.assertAlmostEqual(cell_mohm(PACK, 8.0, 0), 8 * math.exp(0.75))

    def test_warmth_needed_at_its_edges(self) -> None:
        """Below 10 °C at least 15; where the floor holds, none; where nothing helps, 40."""

        def needed(temperature_c: float, power_w: float, mohm: float = 5) -> float | None:
            return under_load(
                PACK, power_w=power_w, charge_percent=100, temperature_c=temperature_c, measured_mohm=mohm
            ).warm_to_c

        self.assertEqual([needed(t, 30) for t in (9.9, 10.0, 25.0)], [15.0, None, None])
        self.assertEqual(needed(20, 3000, 60), 40.0)
        self.assertEqual(needed(-20, 3000, 60), 40.0)
        # a floor reached exactly is enough: the resistance that puts full throttle on 3.3 V at 30 °C, worked back by Ohm
        cell_w = 30 / 3 * 2**1.5
        at_30 = (4.2 - 3.3) * 3.3 / cell_w * 1000
        at_warm = at_30 / resistance_factor(30)
        self.assertEqual(needed(25, 30, at_warm * 0.999999), 30.0)
        self.assertEqual(needed(25, 30, at_warm * 1.000001), 31.0)
        self.assertIsNone(needed(30, 30, at_warm * 0.999999))
        # near the warmest that is tried
        at_40 = at_30 / resistance_factor(40)
        self.assertEqual(needed(25, 30, at_40 * 0.999999), 40.0)
        self.assertEqual(needed(25, 30, at_40 * 1.1), 40.0)

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

    def test_over_the_rating(self) -> None:
        base = under_load(PACK.model_copy(update={"c_rate": 30}), power_w=30, charge_percent=80, temperature_c=25)
        rows = ((66.0, 66.0, False), (66.1, 66.0, True), (66.0, None, False), (1.0, 66.0, False))
        for full_a, rated_a, over in rows:
            self.assertIs(replace(base, full_a=full_a, rated_a=rated_a).over_rated, over)
        self.assertFalse(base.measured)
        self.assertTrue(under_load(PACK, power_w=30, charge_percent=80, temperature_c=25, measured_mohm=5).measured)


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

    def test_the_alarm_by_hand(self) -> None:
        """At 20 % a polymer cell rests at 3.73 V; at 10 W a cell and 10 mΩ Ohm leaves 3.703 V: 3.70 V, the step below. Colder
        than 10 °C it is worked out for 10 °C."""
        for temperature_c in (25.0, 10.0, -10.0):
            found = under_load(PACK, power_w=30, charge_percent=100, temperature_c=temperature_c, measured_mohm=10)
            mohm = 10 * math.exp(0.03 * (25 - max(10, temperature_c)))
            shown = brentq(lambda v, m=mohm: 3.73 - m / 1000 * 10 / v - v, 2, 4)
            self.assertAlmostEqual(found.alarm_v, math.floor(shown / 0.05) * 0.05)
        # a value that lies on a step stays there
        on_step = under_load(
            PACK, power_w=0.001, charge_percent=100, temperature_c=25, measured_mohm=0.001, reserve_percent=25
        )
        self.assertEqual(on_step.alarm_v, 3.75)

    def test_a_larger_reserve_warns_earlier(self) -> None:
        alarms = [under_load(PACK, power_w=80, charge_percent=100, temperature_c=20, reserve_percent=r).alarm_v
                  for r in (10, 20, 40)]  # fmt: skip
        self.assertEqual(alarms, sorted(alarms))
