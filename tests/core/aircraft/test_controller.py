"""The numbers of a controller: generic ones that hold together, and none that exclude themselves."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from walkround.core.aircraft.controller import GENERIC, ControllerProfile, Mode, generic
from walkround.core.base.errors import InputError


class Profiles(unittest.TestCase):
    def test_generic_ones(self) -> None:
        self.assertEqual(len({(p.arms, p.satellites) for p in map(generic, GENERIC)}), 4)
        for profile in map(generic, GENERIC):
            self.assertTrue(any(mode.arms for mode in profile.modes))
            self.assertTrue(profile.satellites or not any(mode.position for mode in profile.modes))

    def test_pulses_and_volts_of_the_trade(self) -> None:
        """Ends below 1,300 and above 1,700 µs, board 4.7 to 5.5 V, HDOP below 2: common practice, no source."""
        plain = ControllerProfile()
        self.assertEqual(
            (plain.ends_low_us, plain.ends_high_us, plain.board_least_v, plain.board_most_v, plain.hdop_most),
            (1300, 1700, 4.7, 5.5, 2.0),
        )

    @given(st.floats(2.5, 12), st.floats(3, 14))
    def test_exchanged_ends_are_refused(self, low: float, high: float) -> None:
        if low < high:
            self.assertEqual(ControllerProfile(board_least_v=low, board_most_v=high).board_least_v, low)
            return
        with self.assertRaises((InputError, ValidationError)) as refused:
            ControllerProfile(board_least_v=low, board_most_v=high)
        self.assertIn("upper end", str(refused.exception).lower())

    def test_modes_by_their_names(self) -> None:
        own = ControllerProfile(modes=(Mode(name="Hold"), Mode(name="Return", arms=False)))
        self.assertFalse(own.mode(" return ").arms)  # type: ignore[union-attr]
        self.assertIsNone(own.mode("fly"))
