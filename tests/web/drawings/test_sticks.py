"""Sticks as they go to stop the motors, in each of the four modes."""

import unittest

from walkround.core.aircraft.failsafe import Failsafe, HomeBy, StopBy
from walkround.core.aircraft.how_it_works import ArmBy
from walkround.web.drawings.sticks import LEFT_X, MIDDLE_Y, REACH, RIGHT_X, draw_arm, draw_stop, draw_stops


class Sticks(unittest.TestCase):
    def test_the_throttle_is_on_the_side_of_the_mode(self) -> None:
        """Modes 1 and 3: throttle on the right; 2 and 4: on the left (common practice, no source)."""
        for mode, x in ((1, RIGHT_X), (2, LEFT_X), (3, RIGHT_X), (4, LEFT_X)):
            (end,) = draw_stop("Stop", StopBy.THROTTLE_DOWN, 3, mode).ends
            self.assertEqual(end[0], x)
            self.assertGreater(end[1], MIDDLE_Y, "down")

    def test_both_sticks_in_and_out(self) -> None:
        (left, right) = draw_stop("Stop", StopBy.STICKS_IN, None, 2).ends
        self.assertTrue(LEFT_X < left[0] < right[0] < RIGHT_X)
        (left, right) = draw_stop("Stop", StopBy.STICKS_OUT, None, 2).ends
        self.assertTrue(left[0] < LEFT_X and right[0] > RIGHT_X)

    def test_a_switch_moves_no_stick(self) -> None:
        drawn = draw_stop("Stop", StopBy.SWITCH, None, 2)
        self.assertEqual((drawn.ways, [kind for kind, _, _ in drawn.acts]), ((), ["switch"]))

    def test_in_the_air_and_on_the_ground(self) -> None:
        self.assertEqual(draw_stops(None, 2), ())
        self.assertEqual(draw_stops(Failsafe(), 2), ())
        self.assertEqual(len(draw_stops(Failsafe(stop_air=StopBy.SWITCH), 2)), 1)
        two = draw_stops(Failsafe(stop_air=StopBy.STICKS_IN, stop_ground=StopBy.THROTTLE_DOWN, stop_hold_s=3), 2)
        self.assertEqual([d.title for d in two], ["Stop in the air", "Stop on the ground"])
        self.assertIn("held for 3 s", two[0].words)

    def test_starting_and_cancelling_rth_every_way_at_once(self) -> None:
        start, cancel = draw_stops(Failsafe(home_start=(HomeBy.BUTTON, HomeBy.SCREEN), home_cancel=(HomeBy.STICKS,)), 2)
        self.assertEqual((start.title, [kind for kind, _, _ in start.acts]), ("Start RTH", ["button", "screen"]))
        self.assertEqual((cancel.title, len(cancel.ways), cancel.acts), ("Cancel RTH", 2, ()))


class Arming(unittest.TestCase):
    def test_throttle_and_yaw_by_mode(self) -> None:
        """Throttle right in modes 1 and 3, yaw right in 3 and 4: the four modes of model flying; common practice, no source."""
        for mode, throttle, yaw in (
            (1, RIGHT_X, LEFT_X),
            (2, LEFT_X, LEFT_X),
            (3, RIGHT_X, RIGHT_X),
            (4, LEFT_X, RIGHT_X),
        ):
            ends = draw_arm("Arm", ArmBy.YAW_RIGHT, "", mode).ends
            if throttle == yaw:
                self.assertEqual(ends, ((throttle + REACH, MIDDLE_Y + REACH),))
            else:
                self.assertEqual(set(ends), {(throttle, MIDDLE_Y + REACH), (yaw + REACH, MIDDLE_Y)})
        self.assertEqual(draw_arm("Arm", ArmBy.SWITCH, "", 2).acts[0][0], "switch")
