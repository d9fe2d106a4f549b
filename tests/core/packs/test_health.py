"""How a pack ages: capacity from what was put back, resistance at one temperature, and what is said when."""

import unittest
from datetime import timedelta

import numpy as np

from tests.support import NOW, PACK
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.health import Flown, capacities, health, outlook
from walkround.core.packs.load import resistance_factor
from walkround.core.packs.reading import After, Reading

DAY = timedelta(days=1)


def cycle(day: int, left: float, put_back: float) -> tuple[Flown, Reading]:
    """A flight that leaves so much (per cent), and the charge that evening (mAh)."""
    at = NOW - 400 * DAY + day * DAY
    return (
        Flown(at=at, minutes=8, left_percent=left),
        Reading(at=at + DAY / 4, put_back_mah=put_back, percent=100, after=After.CHARGE),
    )


class Capacity(unittest.TestCase):
    def test_what_was_put_back_over_what_was_used(self) -> None:
        """1,100 mAh for half a pack is a pack of 2,200 mAh: arithmetic."""
        flight, charge = cycle(0, 50, 1100)
        self.assertAlmostEqual(capacities(PACK, [charge], [flight])[0][1], 2200)

    def test_what_says_nothing_is_left_out(self) -> None:
        rows = (
            ("a small top-up", [cycle(0, 85, 330)]),
            ("what was left is not known", [(Flown(at=NOW - 400 * DAY, minutes=8), cycle(0, 50, 1100)[1])]),
            (
                "volts on the flat are vague",
                [(Flown(at=NOW - 400 * DAY, minutes=8, left_v=3.83 * 3), cycle(0, 50, 1100)[1])],
            ),
        )
        for name, pairs in rows:
            with self.subTest(name):
                flights, charges = [list(x) for x in zip(*pairs, strict=True)]
                self.assertEqual(capacities(PACK, charges, flights), [])

    def test_two_flights_between_charges_count_from_the_last(self) -> None:
        first, _ = cycle(0, 70, 1)
        second, charge = cycle(1, 40, 1320)
        self.assertAlmostEqual(capacities(PACK, [charge], [first, second])[0][1], 2200)

    def test_a_charge_to_less_than_full(self) -> None:
        flight, charge = cycle(0, 20, 660)
        half = charge.model_copy(update={"percent": 50})
        self.assertAlmostEqual(capacities(PACK, [half], [flight])[0][1], 2200)

    def test_the_truth_in_simulation(self) -> None:
        """A pack that loses 1 % a month from 2,200 mAh, gauges off by three points: found within its interval."""
        dice = np.random.default_rng(8)
        inside = 0
        for _ in range(60):
            pairs = []
            for day in range(0, 400, 14):
                true = 2200 * (1 - 0.01 * day / 30)
                left = dice.uniform(25, 55)
                pairs.append(cycle(day, float(np.clip(left + dice.normal(0, 3), 0, 100)), true * (100 - left) / 100))
            flights, charges = [list(x) for x in zip(*pairs, strict=True)]
            line = health(PACK, charges, flights).capacity.line
            assert line is not None
            low, high = line.slope_range()
            inside += low <= -22 / 30 <= high
        self.assertGreater(inside / 60, 0.8)


class Resistance(unittest.TestCase):
    def test_cold_readings_are_brought_to_one_temperature(self) -> None:
        """Twice at freezing: from memory. A pack read at 0 °C and at 25 °C is the same pack."""
        self.assertAlmostEqual(resistance_factor(0), 2.1, delta=0.1)
        self.assertEqual(resistance_factor(25), 1)
        rows = [
            Reading(at=NOW + i * DAY, resistance_mohm=(5 * resistance_factor(t),) * 3, temperature_c=t)
            for i, t in enumerate((25, 0, 12, 31))
        ]
        values = [p.value for p in health(PACK, rows, []).resistance.points]
        for value in values:
            self.assertAlmostEqual(value, 5, places=3)


class Outlooks(unittest.TestCase):
    def test_few_say_so(self) -> None:
        pairs = [cycle(day, 40, 1300) for day in range(0, 60, 10)]
        flights, charges = [list(x) for x in zip(*pairs, strict=True)]
        aged = health(PACK, charges, flights)
        self.assertEqual(aged.capacity.count, 6)
        self.assertIsNone(outlook(aged.capacity, 1760, falling=True))

    def test_the_date_follows_the_line(self) -> None:
        """A clean loss of 10 mAh a week from 2,200 reaches 1,760 after 44 weeks: arithmetic."""
        pairs = [cycle(week * 7, 50, (2200 - 10 * week) / 2) for week in range(12)]
        flights, charges = [list(x) for x in zip(*pairs, strict=True)]
        found = outlook(health(PACK, charges, flights).capacity, 1760, falling=True)
        assert found is not None and found.likely is not None
        first = charges[0].at
        self.assertAlmostEqual((found.likely - first) / DAY, 44 * 7, delta=2)

    def test_already_there(self) -> None:
        pairs = [cycle(week * 7, 50, 800) for week in range(10)]
        flights, charges = [list(x) for x in zip(*pairs, strict=True)]
        found = outlook(health(PACK, charges, flights).capacity, 1760, falling=True)
        assert found is not None
        self.assertTrue(found.there)

    def test_nothing_is_nothing(self) -> None:
        aged = health(PACK.model_copy(update={"chemistry": Chemistry.NIMH}), [], [])
        self.assertIsNone(aged.capacity_share(PACK))
        self.assertIsNone(outlook(aged.spread, 0.1, falling=False))
