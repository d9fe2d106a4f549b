"""The flight as a path."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.wording import minutes_words
from walkround.core.flight.flight_clock import FlightClock
from walkround.web.drawings.flight_path import HIGH, WIDE, at_share, draw_flight_path


def clock(turn: float, land: float, reserve: float) -> FlightClock:
    """A clock in seconds."""
    return FlightClock(turn_s=turn, land_s=land, reserve_s=reserve, empty_s=reserve + 60, turn_percent=40, limit="plan")


class Path(unittest.TestCase):
    @given(st.floats(0, 1), st.floats(0, 1))
    def test_equal_shares_are_equal_ways(self, a: float, b: float) -> None:
        (x1, y1), (x2, y2) = at_share(a), at_share(b)
        self.assertLessEqual(math.dist((x1, y1), (x2, y2)), abs(a - b) * 480 + 1)
        self.assertTrue(0 <= x1 <= WIDE and 0 <= y1 <= HIGH)

    def test_ends(self) -> None:
        self.assertEqual(at_share(0), (20.0, 148.0))
        self.assertEqual(tuple(round(v) for v in at_share(1)), (342, 32))

    def test_turn_before_landing_before_what_lies_beyond(self) -> None:
        drawn = draw_flight_path(clock(400, 480, 900))
        self.assertTrue(0 < drawn.turn_share < drawn.land_share < 1)
        self.assertLess(drawn.turn[0], drawn.land[0])
        self.assertEqual(drawn.beyond, "over the plan")
        self.assertEqual(draw_flight_path(clock(400, 480, 500)).beyond, "reserve")
        self.assertEqual(drawn.words, "Turn back at 6:40, land at 8:00.")
        self.assertIn("C60 62 104 42 150 44", drawn.d)

    def test_minutes(self) -> None:
        self.assertEqual([minutes_words(s) for s in (0, 59.9, 60, 605)], ["0:00", "0:59", "1:00", "10:05"])
