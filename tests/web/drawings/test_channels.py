"""Channels drawn: a bar passes exactly where its ends pass their marks."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.aircraft.controller import ControllerProfile
from walkround.core.diagnosis.arming import Ends
from walkround.web.drawings.channels import WIDE, draw_channels

PROFILE = ControllerProfile()


class Bars(unittest.TestCase):
    @given(st.floats(600, 1500), st.floats(1500, 2400))
    def test_as_far_as_it_reaches(self, low: float, high: float) -> None:
        (drawn,) = draw_channels((Ends(low_us=low, centre_us=1500, high_us=high),), PROFILE)
        self.assertEqual(drawn.passes, low <= PROFILE.ends_low_us and high >= PROFILE.ends_high_us)
        self.assertTrue(0 <= drawn.x <= drawn.centre <= drawn.x + drawn.width + 0.2 <= WIDE + 0.2)
        if drawn.passes:
            self.assertTrue(drawn.x <= drawn.marks[0] and drawn.x + drawn.width + 0.2 >= drawn.marks[2])
