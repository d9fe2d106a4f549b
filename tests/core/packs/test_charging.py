"""Charging: time against a numerical integration, plans against every possible order, parallel packs."""

import random
import unittest
from itertools import permutations, product

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK
from walkround.core.base.errors import InputError
from walkround.core.packs.charging import (
    BALANCE_MIN,
    NICKEL_EXTRA,
    TAPER_C,
    Ask,
    Charger,
    charge_min,
    grouped,
    job_of,
    plan_charging,
    together,
)
from walkround.core.packs.chemistry import CELLS, Chemistry, resting_v
from walkround.core.packs.pack import PackState

LIPO = Chemistry.LIPO


def integrated_min(kind: Chemistry, mah: float, begin: float, end: float, amps: float, mohm: float) -> float:
    """Minutes by small steps of time: current held, or what holds the voltage; stops where the charger does."""
    charge, hours, step = begin, 0.0, 1 / 36_000
    while charge < end:
        gap = CELLS[kind].charge_to_v - resting_v(charge, kind)
        now = min(amps, gap / (mohm / 1000))
        if now < amps and now <= min(TAPER_C * mah / 1000, amps):
            break
        charge += 100 * now * step / (mah / 1000)
        hours += step
    return hours * 60


class Time(unittest.TestCase):
    def test_against_numerical_integration(self) -> None:
        """Explicit steps of a tenth of a second: within half a per cent."""
        rows = (
            (LIPO, 2200, 20, 100, 2.2, 7),
            (LIPO, 2200, 45, 100, 6.6, 30),
            (LIPO, 5000, 0, 95, 5.0, 4),
            (Chemistry.LIHV, 850, 30, 100, 0.85, 20),
            (Chemistry.LIION, 5000, 10, 100, 2.5, 25),
            (Chemistry.LIFE, 1800, 10, 99, 1.8, 15),
            (LIPO, 2200, 90, 100, 4.4, 60),
        )
        for kind, mah, begin, end, amps, mohm in rows:
            with self.subTest(f"{kind} {mah} mAh from {begin} to {end} at {amps} A"):
                ours = sum(charge_min(kind, mah, begin, end, amps, mohm))
                self.assertAlmostEqual(ours / integrated_min(kind, mah, begin, end, amps, mohm), 1, delta=0.005)

    def test_one_hour_for_a_whole_pack_at_its_capacity(self) -> None:
        """1 C means an hour without the tail: the definition of the rate."""
        cc, cv = charge_min(LIPO, 2200, 0, 100, 2.2, 0.01)
        self.assertAlmostEqual(cc + cv, 60, delta=0.5)

    def test_nickel_takes_more_than_it_stores(self) -> None:
        self.assertAlmostEqual(sum(charge_min(Chemistry.NIMH, 2000, 0, 100, 2, 20)), 60 * NICKEL_EXTRA)

    @given(st.floats(0, 90), st.floats(1, 10), st.floats(0.5, 6), st.floats(1, 60))
    def test_more_to_charge_never_takes_less(self, begin: float, more: float, amps: float, mohm: float) -> None:
        for kind in Chemistry:
            long = sum(charge_min(kind, 2200, begin, 100, amps, mohm))
            self.assertGreaterEqual(long + 1e-9, sum(charge_min(kind, 2200, begin + more, 100, amps, mohm)))

    @given(st.floats(0, 90), st.floats(0.5, 5), st.floats(0.1, 3), st.floats(1, 60))
    def test_more_current_never_takes_longer(self, begin: float, amps: float, more: float, mohm: float) -> None:
        slow = sum(charge_min(LIPO, 2200, begin, 99, amps, mohm))
        fast = sum(charge_min(LIPO, 2200, begin, 99, amps + more, mohm))
        self.assertLessEqual(fast, slow + 1e-6)

    def test_nothing_to_do(self) -> None:
        self.assertEqual(charge_min(LIPO, 2200, 80, 80, 2, 7), (0.0, 0.0))
        with self.assertRaises(InputError):
            charge_min(LIPO, 2200, 0, 100, 0, 7)


def ask(number: int, charge: float = 30, **changes: object) -> Ask:
    pack = PACK.model_copy(update={"id": number, "label": f"P{number}", "smart": False, **changes})
    return Ask(pack=pack, from_percent=charge, to_percent=100, rate_c=1)


class Parallel(unittest.TestCase):
    """Only equal kind and close voltage: common practice, no source."""

    def test_who_goes_together(self) -> None:
        one = ask(1)
        rows = (
            ("alike", ask(2), True),
            ("a little fuller", ask(2, 32), True),
            ("far apart", ask(2, 80), False),
            ("more cells", ask(2, cells=4), False),
            ("another chemistry", ask(2, chemistry=Chemistry.LIHV), False),
            ("nickel", ask(2, chemistry=Chemistry.NIMH), False),
            ("watched", ask(2, state=PackState.WATCH), False),
            ("smart", ask(2, smart=True), False),
            ("twice the size", ask(2, capacity_mah=8000), False),
            ("read apart", ask(2).model_copy(update={"rest_v": 3.9}), False),
        )
        for name, other, fits in rows:
            with self.subTest(name):
                self.assertIs(together(one, other), fits)
                self.assertIs(together(other, one), fits)

    def test_the_board_is_not_overfilled(self) -> None:
        groups = grouped([ask(i) for i in range(7)], Charger(parallel=3))
        self.assertEqual([len(g) for g in groups], [3, 3, 1])
        self.assertEqual([len(g) for g in grouped([ask(i) for i in range(4)], Charger())], [1] * 4)

    def test_limits_of_the_charger(self) -> None:
        """Current, power of an outlet, power of all: whichever is least. 25.2 V for six cells."""
        rows = (({"port_a": 2}, 2.0), ({"port_w": 25.2, "total_w": 300}, 1.0), ({"total_w": 12.6, "port_w": 90}, 0.5))
        for limits, amps in rows:
            charger = Charger(**{"port_a": 20, "port_w": 500, "total_w": 500, **limits})
            self.assertAlmostEqual(job_of([ask(1, cells=6)], charger).current_a, amps)

    def test_two_alike_take_as_long_as_one(self) -> None:
        wide = Charger(port_a=60, port_w=3000, total_w=3000, parallel=2)
        self.assertAlmostEqual(job_of([ask(1), ask(2)], wide).minutes, job_of([ask(1)], wide).minutes)
        self.assertGreater(job_of([ask(1)], wide).minutes, BALANCE_MIN)


def earliest_min(minutes: list[float], ports: int) -> float:
    """The earliest end of jobs on outlets without a common power limit: every assignment tried."""
    return min(
        max(sum(m for m, at in zip(minutes, places, strict=True) if at == p) for p in range(ports))
        for places in product(range(ports), repeat=len(minutes))
    )


class Plans(unittest.TestCase):
    def test_ready_as_early_as_can_be(self) -> None:
        """Against every possible assignment, for five jobs on up to three outlets; lone exact optimum."""
        dice = random.Random(4)
        charger = Charger(ports=2, port_a=20, port_w=400, total_w=5000)
        for number in range(12):
            asks = [ask(i, dice.uniform(5, 90), capacity_mah=dice.choice((850, 1300, 2200, 5000))) for i in range(5)]
            ports = charger.model_copy(update={"ports": 1 + number % 3})
            plan = plan_charging(asks, ports)
            best = earliest_min([job_of([a], ports).minutes for a in asks], ports.ports)
            self.assertAlmostEqual(plan.ready_min, best, places=6)

    def test_the_many_come_near_it(self) -> None:
        """Longest first is at most 4/3 of the best (Graham 1969); with exchanges it comes much nearer."""
        dice = random.Random(9)
        charger = Charger(ports=3, port_a=20, port_w=400, total_w=5000)
        asks = [ask(i, dice.uniform(5, 90), capacity_mah=dice.choice((850, 2200, 5000))) for i in range(9)]
        best = earliest_min([job_of([a], charger).minutes for a in asks], 3)
        self.assertLess(plan_charging(asks, charger).ready_min, 1.05 * best)

    def test_power_is_never_exceeded(self) -> None:
        charger = Charger(ports=4, port_a=10, port_w=100, total_w=130)
        asks = [
            ask(i, 10 + 7 * i, capacity_mah=c, cells=n)
            for i, (c, n) in enumerate(((2200, 3), (5000, 3), (1300, 4), (850, 2), (3000, 6)))
        ]
        for order in list(permutations(asks))[::17]:
            plan = plan_charging(order, charger)
            for slot in plan.slots:
                running = [s for s in plan.slots if s.start_min <= slot.start_min < s.end_min]
                self.assertLessEqual(sum(s.job.watts for s in running), 130 + 1e-6)
                self.assertEqual(len({s.port for s in running}), len(running), "one job an outlet at a time")
        self.assertEqual(sorted(s.job.labels for s in plan.slots), sorted(a.pack.label for a in asks))

    def test_nothing_to_charge(self) -> None:
        self.assertEqual(plan_charging([], Charger()).ready_min, 0)
