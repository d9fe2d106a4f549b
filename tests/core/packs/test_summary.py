"""What is known of a pack in short: the newest word on each thing, and for how long it says something."""

import unittest
from datetime import timedelta

from msgspec.structs import replace

from tests.support import NOW, PACK
from walkround.core.packs.charge import from_percent
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.health import Flown, Health, Series
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary, summarise
from walkround.core.packs.trend import Trend

DAY = timedelta(days=1)


def at(days: float, **values: object) -> Reading:
    return Reading(at=NOW - days * DAY, **values)


class Newest(unittest.TestCase):
    def test_nothing_known(self) -> None:
        self.assertEqual(summarise(PACK, [], []), Summary())
        self.assertIsNone(Summary().charge_now(PACK, NOW))
        self.assertIsNone(Summary().felt_c(NOW))
        self.assertIsNone(Summary().weakest_at_best_v)

    def test_each_thing_from_its_newest_reading(self) -> None:
        found = summarise(
            PACK.model_copy(update={"cycles_before": 5}),
            [
                at(9, cells_v=(4.0, 4.1, 4.2), temperature_c=12.0),
                at(5, percent=100, after=After.CHARGE),
                at(4, recharged_mah=900.0, percent=60),
                at(3, total_v=11.4),
            ],
            [Flown(at=NOW - 6 * DAY, minutes=5, left_percent=30)],
        )
        self.assertEqual((found.cycles, found.readings), (7, 4))
        self.assertEqual(
            (found.charged_at, found.flown_at, found.looked_at), (NOW - 4 * DAY, NOW - 6 * DAY, NOW - 3 * DAY)
        )
        self.assertAlmostEqual(found.imbalance_v, 0.2)
        self.assertEqual((found.temperature_c, found.temperature_at), (12.0, NOW - 9 * DAY))
        # volts were read later as a total: the cells of before say nothing any more
        self.assertIsNone(found.weakest_v)
        self.assertAlmostEqual(found.mean_v, 3.8)
        self.assertAlmostEqual(found.highest_v, 3.8)
        self.assertAlmostEqual(found.weakest_at_best_v, 3.8)
        self.assertEqual(found.charge_at, NOW - 3 * DAY)

    def test_cells_read_last(self) -> None:
        found = summarise(PACK, [at(9, total_v=11.4), at(3, cells_v=(4.0, 4.1, 4.2))], [])
        self.assertEqual((found.weakest_v, found.highest_v, found.weakest_at_best_v), (4.0, 4.2, 4.0))
        self.assertAlmostEqual(found.mean_v, 4.1)

    def test_a_flight_after_everything_is_the_newest_word(self) -> None:
        found = summarise(
            PACK, [at(3, percent=100, after=After.CHARGE)], [Flown(at=NOW - DAY, minutes=6, left_percent=33)]
        )
        self.assertEqual(
            (found.charge.mid, found.charge_at, found.looked_at, found.full_at), (33, NOW - DAY, NOW - DAY, None)
        )

    def test_full_since_the_first_word_without_a_break(self) -> None:
        """80 % counts as full for ageing: our choice."""
        rows = (
            ([at(9, percent=100), at(5, percent=95), at(2, percent=80)], 9), ([at(9, percent=100), at(5, percent=79), at(2, percent=90)], 2),
            ([at(9, percent=100), at(2, percent=79)], None), ([at(9, percent=81)], 9), ([at(9, percent=100), at(5, temperature_c=20.0), at(2, percent=99)], 9),
        )  # fmt: skip
        for readings, days in rows:
            found = summarise(PACK, readings, []).full_at
            self.assertEqual(found, None if days is None else NOW - days * DAY)

    def test_the_health_that_is_at_hand(self) -> None:
        line = Trend(readings=9, days=90, now=3000.0, slope=-2.0)
        aged = Health(
            capacity=Series(count=9, latest=2900.0, line=line), resistance=Series(count=5, latest=9.0, first=6.0)
        )
        found = summarise(PACK, [], [], aged)
        self.assertAlmostEqual(found.state_of_health, 3000 / 3500)
        self.assertAlmostEqual(found.capacity_month_percent, 100 * -2.0 * 30 / 3500)
        self.assertEqual((found.mohm, found.mohm_times), (9.0, 1.5))
        few = replace(aged, capacity=Series(count=2, latest=2900.0, line=replace(line, few=True)))
        self.assertIsNone(summarise(PACK, [], [], few).capacity_month_percent)
        self.assertIsNone(summarise(PACK, [], [], Health()).capacity_month_percent)


class Now(unittest.TestCase):
    def test_it_stands_and_loses(self) -> None:
        known = Summary(charge=from_percent(50), charge_at=NOW - 10 * DAY)
        self.assertAlmostEqual(known.charge_now(PACK, NOW).mid, 49)
        nickel = PACK.model_copy(update={"chemistry": Chemistry.NIMH})
        self.assertAlmostEqual(known.charge_now(nickel, NOW).mid, 40)
        self.assertIsNone(known.model_copy(update={"charge_at": None}).charge_now(PACK, NOW))

    def test_warmth_is_known_for_two_hours(self) -> None:
        """Our choice."""
        for hours, felt in ((0, 31.0), (2, 31.0), (2.01, None)):
            known = Summary(temperature_c=31.0, temperature_at=NOW - timedelta(hours=hours))
            self.assertEqual(known.felt_c(NOW), felt)
