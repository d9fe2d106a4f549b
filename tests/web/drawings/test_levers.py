"""A switch drawn."""

import unittest

from walkround.core.aircraft.how_it_works import Lever, SwitchUse
from walkround.web.drawings.levers import draw_lever


class Levers(unittest.TestCase):
    def test_up_is_up(self) -> None:
        switch = SwitchUse(name="B", up="manual", down="hold")
        up, down = draw_lever(switch, Lever.UP), draw_lever(switch, Lever.DOWN)
        self.assertLess(up.end_y, 0)
        self.assertEqual((down.end_y, down.others, down.words), (-up.end_y, (up.end_y,), "down: hold"))
