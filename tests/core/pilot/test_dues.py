"""What is due and when: seasons, papers, packs."""

import unittest
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW
from walkround.core.pilot.dues import WARN_DAYS, Paper, pack_dues, paper_dues, season_dues

TODAY = date(2026, 5, 16)


class Dues(unittest.TestCase):
    def test_the_next_season_day_of_each(self) -> None:
        self.assertEqual([d.day for d in season_dues(("04-01", "07-01"), TODAY)], [date(2027, 4, 1), date(2026, 7, 1)])
        self.assertEqual(season_dues(("05-16", "07-01"), TODAY)[0].day, TODAY)

    def test_a_paper_comes_up_before_it_expires(self) -> None:
        (due,) = paper_dues([Paper(name="Insurance", expires=date(2026, 12, 31))])
        self.assertEqual((due.day, due.title), (date(2026, 12, 17), "Renew: Insurance"))
        self.assertIn("31 December 2026", due.words)

    @given(st.floats(0, 400), st.floats(0, 400))
    def test_packs_are_due_the_day_after_their_limit_and_never_in_the_past(self, looked: float, full: float) -> None:
        found = pack_dues(
            [(3, "S3", NOW - timedelta(days=looked), NOW - timedelta(days=full))],
            full_days=5,
            look_days=60,
            today=NOW.date(),
        )
        self.assertEqual(len(found), 2)
        for due, since, limit in zip(found, (full, looked), (5, 60), strict=True):
            began = (NOW - timedelta(days=since)).date()
            self.assertEqual(due.day, max(began + timedelta(days=limit + 1), NOW.date()))

    def test_the_same_thing_has_the_same_name_tomorrow(self) -> None:
        rows = [(3, "S3", NOW - timedelta(days=100), None)]
        one, other = (pack_dues(rows, full_days=5, look_days=60, today=TODAY + timedelta(days=n))[0] for n in (0, 1))
        self.assertEqual(one.uid, other.uid)

    def test_a_pack_of_which_nothing_is_known_is_due_today(self) -> None:
        (due,) = pack_dues([(3, "S3", None, None)], full_days=5, look_days=60, today=TODAY)
        self.assertEqual((due.day, due.title), (TODAY, "Pack S3: inspect"))
        self.assertEqual(WARN_DAYS, 14)
