"""How a pack ages: capacity from what was put back, resistance at one temperature, and what is said when."""

import unittest
from datetime import timedelta

import numpy as np
from msgspec.structs import replace

from tests.support import NOW, PACK
from walkround.core.packs.charge import FULL, from_volts
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.health import Flown, Health, Series, capacities, charge_then, health, left_in, outlook, series
from walkround.core.packs.load import resistance_factor
from walkround.core.packs.reading import After, Reading

DAY = timedelta(days=1)


def cycle(day: int, left: float, recharged_mah: float) -> tuple[Flown, Reading]:
    """A flight that leaves so much (per cent), and the charge that evening (mAh)."""
    at = NOW - 400 * DAY + day * DAY
    return (
        Flown(at=at, minutes=8, left_percent=left),
        Reading(at=at + DAY / 4, recharged_mah=recharged_mah, percent=100, after=After.CHARGE),
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

    def test_edges_of_what_counts(self) -> None:
        """At least 30 points of use; no vaguer than a quarter of it. A smart gauge is within five points."""
        for left, counts in ((70, True), (70.1, False)):
            flight, charge = cycle(0, left, 660)
            self.assertEqual(len(capacities(PACK, [charge], [flight])), counts, left)
        flight, charge = cycle(0, 60, 660)
        for percent, counts in ((90, True), (89.9, False), (None, True)):
            short = charge.model_copy(update={"percent": percent})
            self.assertEqual(len(capacities(PACK, [short], [flight])), counts, percent)
        # left by volts: 3.7 V a cell ten minutes after the flight, a range of its own
        by_volts = Flown(at=flight.at, minutes=8, left_v=11.1)
        ours, theirs = (
            left_in(PACK, by_volts.left_percent, by_volts.left_v),
            from_volts(3.7, PACK.chemistry, after=After.FLIGHT, since_min=10),
        )
        assert ours is not None
        self.assertAlmostEqual(ours.mid, theirs.mid)
        self.assertAlmostEqual(ours.high, theirs.high)
        self.assertIsNone(left_in(PACK, None, None))

    def test_a_charge_at_the_moment_of_a_reading_and_a_charge_before(self) -> None:
        """The newest word before the charge counts, one at its very moment too; a charge alone says nothing of what it found."""
        flight, charge = cycle(0, 50, 1100)
        at_once = charge.model_copy(update={"at": flight.at})
        self.assertEqual(len(capacities(PACK, [at_once], [flight])), 1)
        again = charge.model_copy(update={"at": charge.at + DAY, "recharged_mah": 900.0})
        self.assertEqual([round(v) for _, v in capacities(PACK, [charge, again], [flight])], [2200])
        read = Reading(at=charge.at - DAY / 12, percent=40)
        self.assertAlmostEqual(capacities(PACK, [read, charge], [flight])[0][1], 1100 / 0.6)

    def test_what_a_mark_says(self) -> None:
        self.assertEqual(charge_then(PACK, Reading(at=NOW, recharged_mah=900)), FULL)
        self.assertIsNone(charge_then(PACK, Reading(at=NOW, temperature_c=20)))
        self.assertEqual(charge_then(PACK, Reading(at=NOW, percent=40, recharged_mah=100)).mid, 40)
        self.assertEqual(charge_then(PACK, Flown(at=NOW, minutes=5, left_percent=30)).mid, 30)


class SeriesOfValues(unittest.TestCase):
    def test_first_latest_and_points(self) -> None:
        """The first is the middle one of the first three, so that one slip does not stand for them all."""
        rows = [(NOW + i * DAY, float(v)) for i, v in enumerate((9, 5, 6, 1, 2))]
        made = series(rows)
        self.assertEqual((made.count, made.first, made.latest, made.last_at), (5, 6, 2, NOW + 4 * DAY))
        self.assertEqual([p.value for p in made.points], [9, 5, 6, 1, 2])
        self.assertEqual(series([]), Series())
        self.assertEqual((series(rows[:1]).first, series(rows[:2]).first), (9, 9))

    def test_eighty_points_are_kept_with_the_newest(self) -> None:
        for count, kept, step in ((80, 80, 1), (81, 41, 2), (160, 80, 2), (161, 54, 3)):
            made = series([(NOW + i * DAY, float(i)) for i in range(count)])
            self.assertEqual((len(made.points), made.points[-1].value), (kept, count - 1))
            self.assertEqual(made.points[-1].value - made.points[-2].value, step)

    def test_days_and_rounding(self) -> None:
        """A line that falls by two a day, to four decimals."""
        made = series([(NOW + i * DAY, 100.00004 - 2 * i) for i in range(16)])
        assert made.line is not None
        self.assertAlmostEqual(made.line.slope, -2, places=6)
        self.assertEqual(made.points[0].value, 100.0)

    def test_now_is_on_the_line_where_there_is_one(self) -> None:
        bent = series([(NOW + i * DAY, 20.0 - i) for i in range(16)] + [(NOW + 16 * DAY, 14.0)])
        self.assertNotEqual(bent.current(), 14.0)
        self.assertEqual(bent.current(), bent.line.now)
        self.assertEqual(series([(NOW, 3.0), (NOW + DAY, 4.0)]).current(), 4.0)

    def test_shares_and_times(self) -> None:
        aged = Health(capacity=Series(count=1, latest=1750.0), resistance=Series(count=4, latest=9.0, first=6.0))
        self.assertEqual(aged.state_of_health(PACK), 0.5)
        self.assertEqual(aged.resistance_times(), 1.5)
        for few in ({"count": 3}, {"first": None}, {"first": 0.0}, {"latest": None}):
            less = replace(aged.resistance, **few)
            self.assertIsNone(Health(resistance=less).resistance_times(), few)

    def test_each_series_from_what_was_read(self) -> None:
        """25 °C where it was not felt; spread and resistance only from readings that have them."""
        rows = [
            Reading(at=NOW, resistance_mohm=(6.0,) * 3),
            Reading(at=NOW + DAY, cells_v=(4.1, 4.2, 4.1)),
            Reading(at=NOW + DAY, percent=5),
        ]
        aged = health(PACK, rows, [])
        self.assertEqual([p.value for p in aged.resistance.points], [6.0])
        self.assertEqual([p.value for p in aged.imbalance.points], [0.1])
        self.assertEqual(aged.capacity.count, 0)


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

    def test_dates_are_counted_from_the_last_reading_and_none_stays_none(self) -> None:
        pairs = [cycle(week * 7, 50, (2200 - 10 * week) / 2) for week in range(12)]
        flights, charges = [list(x) for x in zip(*pairs, strict=True)]
        found = outlook(health(PACK, charges, flights).capacity, 1760, falling=True)
        assert found is not None
        self.assertFalse(found.there)
        self.assertEqual(found.limit, 1760)
        assert found.early is not None and found.likely is not None
        self.assertLessEqual(found.early, found.likely)
        steady = [cycle(week * 7, 50, 1100) for week in range(12)]
        flights, charges = [list(x) for x in zip(*steady, strict=True)]
        never = outlook(health(PACK, charges, flights).capacity, 1760, falling=True)
        assert never is not None
        self.assertIsNone(never.likely)

    def test_already_there(self) -> None:
        pairs = [cycle(week * 7, 50, 800) for week in range(10)]
        flights, charges = [list(x) for x in zip(*pairs, strict=True)]
        found = outlook(health(PACK, charges, flights).capacity, 1760, falling=True)
        assert found is not None
        self.assertTrue(found.there)

    def test_nothing_is_nothing(self) -> None:
        aged = health(PACK.model_copy(update={"chemistry": Chemistry.NIMH}), [], [])
        self.assertIsNone(aged.state_of_health(PACK))
        self.assertIsNone(outlook(aged.imbalance, 0.1, falling=False))
