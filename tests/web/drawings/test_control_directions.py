"""Stick by stick, seen from behind."""

import unittest

from tests.support import variants
from walkround.core.aircraft.control_directions import stick_tests
from walkround.core.aircraft.traits import Kind
from walkround.web.drawings import control_directions


class Scenes(unittest.TestCase):
    def test_every_call_has_one_with_what_moves_inside_it(self) -> None:
        for aircraft in variants():
            drawn = control_directions.draw_stick_tests(aircraft)
            self.assertEqual([d.test.stick for d in drawn], [c.stick for c in stick_tests(aircraft)])
            for d in drawn:
                with self.subTest(f"{aircraft.name} {d.key}"):
                    self.assertTrue(d.scene.movers or d.scene.tilt)
                    self.assertTrue(d.scene.words)
                    for mover in d.scene.movers:
                        self.assertTrue(0 <= mover.x <= control_directions.WIDTH - mover.width)
                        self.assertTrue(18 <= mover.y <= 204 - mover.height)

    def test_surfaces_grow_the_way_the_core_says(self) -> None:
        for aircraft in (a for a in variants() if a.kind is Kind.WING):
            for d in control_directions.draw_stick_tests(aircraft):
                by_name = {m.name: m.way for m in d.scene.movers}
                for motion in d.test.motions:
                    expected = {"rudder": ("right", "left"), "wheel": ("right", "left")}.get(motion.key, ("up", "down"))
                    self.assertEqual(by_name[motion.name], expected[0 if motion.way > 0 else 1], motion.words)
