"""Charging: time against a numerical integration, plans against every possible order, parallel packs."""

import random
import unittest
from itertools import permutations, product
from unittest import mock

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK
from walkround.core.base.errors import InputError
from walkround.core.packs import charging
from walkround.core.packs.charging import (
    BALANCE_MIN,
    NICKEL_EXTRA,
    TAPER_C,
    Charger,
    ChargeRequest,
    charge_min,
    grouped,
    job_of,
    plan_charging,
    together,
)
from walkround.core.packs.chemistry import CELLS, Chemistry, resting_v
from walkround.core.packs.load import cell_mohm
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

    def test_by_hand(self) -> None:
        """2.2 Ah at 2.2 A from 20 to 50 % is 30 % of an hour; no resistance, no tail. Nickel takes a fifth more."""
        cc, cv = charge_min(LIPO, 2200, 20, 50, 2.2, 0.001)
        self.assertAlmostEqual(cc, 18, places=3)
        self.assertAlmostEqual(cv, 0, places=3)
        self.assertAlmostEqual(sum(charge_min(Chemistry.NIMH, 2000, 50, 100, 1, 20)), 72)
        # a target a hair above a knot of the curve
        for end in (50 + 1e-7, 50 + 2e-6, 50.0):
            self.assertAlmostEqual(sum(charge_min(LIPO, 2200, 20, end, 2.2, 0.001)), 18, places=3)

    def test_nothing_to_do(self) -> None:
        self.assertEqual(charge_min(LIPO, 2200, 80, 80, 2, 7), (0.0, 0.0))
        with self.assertRaises(InputError):
            charge_min(LIPO, 2200, 0, 100, 0, 7)


def request(number: int, charge: float = 30, **changes: object) -> ChargeRequest:
    pack = PACK.model_copy(update={"id": number, "label": f"P{number}", "smart": False, **changes})
    return ChargeRequest(pack=pack, from_percent=charge, to_percent=100, rate_c=1)


class Parallel(unittest.TestCase):
    """Only equal kind and close voltage: common practice, no source."""

    def test_who_goes_together(self) -> None:
        one = request(1)
        rows = (
            ("alike", request(2), True),
            ("a little fuller", request(2, 32), True),
            ("far apart", request(2, 80), False),
            ("more cells", request(2, cells=4), False),
            ("another chemistry", request(2, chemistry=Chemistry.LIHV), False),
            ("nickel", request(2, chemistry=Chemistry.NIMH), False),
            ("watched", request(2, state=PackState.MONITOR), False),
            ("smart", request(2, smart=True), False),
            ("twice the size", request(2, capacity_mah=8000), False),
            ("read apart", replace(request(2), rest_v=3.9), False),
        )
        for name, other, fits in rows:
            with self.subTest(name):
                self.assertIs(together(one, other), fits)
                self.assertIs(together(other, one), fits)

    def test_the_board_is_not_overfilled(self) -> None:
        groups = grouped([request(i) for i in range(7)], Charger(parallel=3))
        self.assertEqual([len(g) for g in groups], [3, 3, 1])
        self.assertEqual([len(g) for g in grouped([request(i) for i in range(4)], Charger())], [1] * 4)

    def test_limits_of_the_charger(self) -> None:
        """Current, power of an outlet, power of all: whichever is least. 25.2 V for six cells."""
        rows = (
            ({"channel_a": 2}, 2.0),
            ({"channel_w": 25.2, "total_w": 300}, 1.0),
            ({"total_w": 12.6, "channel_w": 90}, 0.5),
        )
        for limits, amps in rows:
            charger = Charger(**{"channel_a": 20, "channel_w": 500, "total_w": 500, **limits})
            self.assertAlmostEqual(job_of([request(1, cells=6)], charger).current_a, amps)

    def test_watts_and_minutes_of_a_job(self) -> None:
        """Three cells end at 12.6 V: 3.5 A is 44.1 W. Balancing takes 8 minutes more, a single cell has none."""
        wide = Charger(channel_a=60, channel_w=3000, total_w=3000, parallel=4)
        job = job_of([request(1)], wide)
        self.assertAlmostEqual(job.current_a, 3.5)
        self.assertAlmostEqual(job.watts, 44.1)
        mohm = cell_mohm(request(1).pack, None, 25)
        alone = sum(charge_min(LIPO, 3500, 30, 100, 3.5, mohm))
        self.assertAlmostEqual(job.minutes, alone + 8)
        single = job_of([request(1, cells=1)], wide)
        self.assertAlmostEqual(single.minutes, alone)
        self.assertEqual(job_of([request(1, 100)], wide).minutes, 0)
        pair = job_of([request(1), request(2)], wide)
        self.assertAlmostEqual(pair.current_a, 7)
        # in parallel: the charge of both, half the resistance
        self.assertAlmostEqual(pair.minutes, sum(charge_min(LIPO, 7000, 30, 100, 7.0, mohm / 2)) + 8)

    def test_a_watched_pack_is_charged_slowly(self) -> None:
        """At most its own capacity in an hour: common practice, no source."""
        wide = Charger(channel_a=60, channel_w=3000, total_w=3000)
        for state, rate_c, amps in (
            (PackState.MONITOR, 2, 3.5), (PackState.MONITOR, 0.5, 1.75), (PackState.IN_SERVICE, 2, 7.0),
        ):  # fmt: skip
            pack = replace(request(1, state=state), rate_c=rate_c)
            self.assertAlmostEqual(job_of([pack], wide).current_a, amps)

    def test_edges_of_what_goes_together(self) -> None:
        """0.05 V apart, and half as large again: our choice."""
        one = replace(request(1), rest_v=3.75)
        for volts, fits in ((3.80, True), (3.8001, False), (3.70, True), (3.69, False)):
            self.assertIs(together(one, replace(request(2), rest_v=volts)), fits, volts)
        for mah, fits in ((5250, True), (5251, False)):
            self.assertIs(together(request(1), request(2, capacity_mah=mah)), fits)

    def test_two_alike_take_as_long_as_one(self) -> None:
        wide = Charger(channel_a=60, channel_w=3000, total_w=3000, parallel=2)
        self.assertAlmostEqual(job_of([request(1), request(2)], wide).minutes, job_of([request(1)], wide).minutes)
        self.assertGreater(job_of([request(1)], wide).minutes, BALANCE_MIN)


def earliest_min(minutes: list[float], channels: int) -> float:
    """The earliest end of jobs on outlets without a common power limit: every assignment tried."""
    return min(
        max(sum(m for m, at in zip(minutes, places, strict=True) if at == p) for p in range(channels))
        for places in product(range(channels), repeat=len(minutes))
    )


class Plans(unittest.TestCase):
    def test_ready_as_early_as_can_be(self) -> None:
        """Against every possible assignment, for five jobs on up to three outlets; lone exact optimum."""
        dice = random.Random(4)
        charger = Charger(channels=2, channel_a=20, channel_w=400, total_w=5000)
        for number in range(12):
            requests = [
                request(i, dice.uniform(5, 90), capacity_mah=dice.choice((850, 1300, 2200, 5000))) for i in range(5)
            ]
            channels = charger.model_copy(update={"channels": 1 + number % 3})
            plan = plan_charging(requests, channels)
            best = earliest_min([job_of([a], channels).minutes for a in requests], channels.channels)
            self.assertAlmostEqual(plan.ready_min, best, places=6)

    def test_the_many_come_near_it(self) -> None:
        """Longest first is at most 4/3 of the best (Graham 1969); with exchanges it comes much nearer."""
        dice = random.Random(9)
        charger = Charger(channels=3, channel_a=20, channel_w=400, total_w=5000)
        requests = [request(i, dice.uniform(5, 90), capacity_mah=dice.choice((850, 2200, 5000))) for i in range(9)]
        best = earliest_min([job_of([a], charger).minutes for a in requests], 3)
        self.assertLess(plan_charging(requests, charger).ready_min, 1.05 * best)

    def test_power_is_never_exceeded(self) -> None:
        charger = Charger(channels=4, channel_a=10, channel_w=100, total_w=130)
        requests = [
            request(i, 10 + 7 * i, capacity_mah=c, cells=n)
            for i, (c, n) in enumerate(((2200, 3), (5000, 3), (1300, 4), (850, 2), (3000, 6)))
        ]
        for order in list(permutations(requests))[::17]:
            plan = plan_charging(order, charger)
            for slot in plan.slots:
                running = [s for s in plan.slots if s.start_min <= slot.start_min < s.end_min]
                self.assertLessEqual(sum(s.job.watts for s in running), 130 + 1e-6)
                self.assertEqual(len({s.channel for s in running}), len(running), "one job an outlet at a time")
        self.assertEqual(sorted(s.job.labels for s in plan.slots), sorted(a.pack.label for a in requests))

    def test_every_order_of_few_and_of_many(self) -> None:
        """With power for one at a time the jobs follow each other; the shortest first, so that packs are ready earliest."""
        charger = Charger(channels=2, channel_a=20, channel_w=45, total_w=45)
        for count in (4, 5, 6, 8):
            requests = [request(i, 20 + 9 * i) for i in range(count)]
            plan = plan_charging(requests, charger)
            minutes = sorted(job_of([a], charger).minutes for a in requests)
            ends = [sum(minutes[: i + 1]) for i in range(count)]
            self.assertAlmostEqual(plan.ready_min, ends[-1])
            self.assertAlmostEqual(sum(s.end_min for s in plan.slots), sum(ends), delta=0.001 if count <= 5 else 60)
            starts = [s.start_min for s in plan.slots]
            self.assertEqual(starts, sorted(starts))
            self.assertLessEqual({s.channel for s in plan.slots}, {1, 2})
            self.assertEqual(plan.slots[0].channel, 1)

    def test_two_that_fill_the_power_exactly_run_together(self) -> None:
        both = Charger(channels=2, channel_a=20, channel_w=100, total_w=88.2)
        self.assertEqual([s.start_min for s in plan_charging([request(1), request(2)], both).slots], [0, 0])
        less = both.model_copy(update={"total_w": 88.1})
        self.assertEqual([s.start_min > 0 for s in plan_charging([request(1), request(2)], less).slots], [False, True])

    def test_a_long_list_is_planned_in_bounded_tries(self) -> None:
        charger = Charger(channels=3, channel_a=20, channel_w=400, total_w=5000)
        requests = [request(i, 5 + (37 * i) % 80) for i in range(16)]
        with mock.patch.object(charging, "_run", wraps=charging._run) as run:
            plan_charging(requests, charger)
        self.assertLessEqual(run.call_count, 121)
        self.assertGreaterEqual(run.call_count, 120)
        with mock.patch.object(charging, "_run", wraps=charging._run) as run:
            plan_charging(requests[:5], charger)
        self.assertEqual(run.call_count, 120, "all orders of five")

    def test_nothing_to_charge(self) -> None:
        self.assertEqual(plan_charging([], Charger()).ready_min, 0)
