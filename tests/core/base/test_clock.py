"""What counts as ahead of the clock."""

import unittest
from datetime import timedelta

from tests.support import NOW
from walkround.core.base.clock import is_ahead, latest


class Ahead(unittest.TestCase):
    def test_ten_minutes_are_what_two_clocks_may_differ(self) -> None:
        for minutes, wanted in ((-60, False), (0, False), (9.9, False), (10, False), (10.1, True), (60 * 24, True)):
            with self.subTest(minutes):
                self.assertIs(is_ahead(NOW + timedelta(minutes=minutes), NOW), wanted)
        self.assertEqual(latest(NOW) - NOW, timedelta(minutes=10))
