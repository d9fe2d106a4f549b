"""A logbook line that cannot be: against the timer and against the charge."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK, QUAD, said
from walkround.core.flight.estimate import endurance
from walkround.core.flight.plausible import doubts
from walkround.core.packs.charge import from_percent

KNOWN = endurance(QUAD, PACK)
FULL = from_percent(100)


def words(minutes: float, timed: float | None = None, left: float | None = None, held: float = 100) -> list[str]:
    """What is doubted, in words."""
    found = doubts(minutes, timed_min=timed, left_percent=left, held=from_percent(held), known=KNOWN)
    return [said(doubt) for doubt in found]


class Doubts(unittest.TestCase):
    def test_half_a_pack_in_under_a_minute_is_asked_about(self) -> None:
        (found,) = words(0.8, left=50)
        self.assertIn("used 50 % of the pack. As it flies, that takes about", found)

    def test_minutes_against_the_timer(self) -> None:
        self.assertEqual(words(9.0, timed=9.9), [])
        self.assertEqual(len(words(5.0, timed=9.0)), 1)
        self.assertEqual(words(1.5, timed=0.7), [], "under a minute apart is nothing")

    def test_more_left_than_there_was(self) -> None:
        (found,) = words(3, left=90, held=60)
        self.assertIn("held 60 % at take-off, and has 90 % left", found)

    @given(st.floats(1, KNOWN.today.mid), st.floats(0.75, 1.35))
    def test_what_it_usually_uses_is_never_doubted(self, minutes: float, times: float) -> None:
        left = 100 - 100 * minutes / KNOWN.today.mid * times
        if left >= 0:
            self.assertEqual(words(minutes, timed=minutes, left=left), [])

    @given(st.floats(2, 20), st.floats(0, 100), st.floats(0, 60))
    def test_twice_off_in_either_way_is_doubted(self, minutes: float, left: float, timed: float) -> None:
        used, usual = 100 - left, 100 * minutes / KNOWN.today.mid
        if (used > 2.1 * usual or used < usual / 2.1) and abs(used - usual) > 16:
            self.assertTrue(words(minutes, left=left))

    def test_without_a_charge_or_a_motor_only_the_timer_counts(self) -> None:
        self.assertEqual(words(0.8), [])
        self.assertEqual(doubts(0.8, timed_min=None, left_percent=10, held=FULL, known=None), ())
