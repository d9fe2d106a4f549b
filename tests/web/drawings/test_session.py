"""A session as a picture."""

import unittest

from tests.core.flight.test_session import reading, session
from walkround.core.flight.session import Gear
from walkround.web.drawings.session import WIDE, draw_session


class Drawn(unittest.TestCase):
    def test_flights_end_with_the_session_and_bars_are_hours(self) -> None:
        found = session(reading(40, 60), learned={Gear.GOGGLES: 40.0}, flights=3)
        drawn = draw_session(found, 10)
        self.assertEqual([number for *_, number in drawn.flights], [1, 2, 3])
        last = drawn.flights[-1]
        self.assertAlmostEqual(last[0] + last[1], drawn.end_x, delta=0.2)
        _, goggles = drawn.things
        self.assertAlmostEqual(goggles.sure / drawn.end_x, found.things[1].hours[0] / found.hours, delta=0.01)
        self.assertAlmostEqual(goggles.maybe_x, goggles.sure, delta=0.1)
        self.assertLessEqual(goggles.maybe_x + goggles.maybe, WIDE + 0.1)
        self.assertTrue(goggles.short)
        self.assertEqual(goggles.words, "Goggles: 0.8 to 1.2 h, may run out in flight 2")

    def test_unknown_is_said(self) -> None:
        self.assertIn("Goggles: charge not known", draw_session(session(None), 10).words)
