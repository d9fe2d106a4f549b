"""What counts as ahead of the clock, and times as text."""

import unittest
from datetime import UTC, datetime, timedelta, timezone

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW
from walkround.core.base.clock import is_ahead, latest, utc_text


class Ahead(unittest.TestCase):
    def test_ten_minutes_are_what_two_clocks_may_differ(self) -> None:
        for minutes, wanted in ((-60, False), (0, False), (9.9, False), (10, False), (10.1, True), (60 * 24, True)):
            with self.subTest(minutes):
                self.assertIs(is_ahead(NOW + timedelta(minutes=minutes), NOW), wanted)
        self.assertEqual(latest(NOW) - NOW, timedelta(minutes=10))


class AsText(unittest.TestCase):
    @given(st.integers(-62_135_596_800_000_000, 253_402_300_799_000_000))
    def test_as_iso_8601_says_and_in_the_order_of_time(self, after_1970_us: int) -> None:
        """Source: ``datetime.isoformat``."""
        at = datetime(1970, 1, 1, tzinfo=UTC) + timedelta(microseconds=after_1970_us)
        self.assertEqual(utc_text(at), at.isoformat(timespec="microseconds"))
        self.assertEqual(datetime.fromisoformat(utc_text(at)), at)
        self.assertLess(utc_text(at), utc_text(at + timedelta(microseconds=1)))
        if 1 < at.year < 9999:
            for hours in (-11.5, 2, 14):
                elsewhere = at.astimezone(timezone(timedelta(hours=hours)))
                self.assertEqual(
                    utc_text(elsewhere), at.isoformat(timespec="microseconds"), "the same moment elsewhere"
                )
