"""The rotor map."""

import math
import re
import unittest

from tests.support import variants
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Kind
from walkround.web.drawings import rotors
from walkround.web.drawings.aircraft import place

NUMBER = re.compile(r"-?\d+\.\d+|-?\d+")


class RotorMaps(unittest.TestCase):
    def test_only_multirotors_have_one(self) -> None:
        for aircraft in variants():
            self.assertEqual(rotors.rotor_map(aircraft) is not None, aircraft.kind is Kind.MULTIROTOR)

    def test_every_rotor_lies_inside_and_none_on_another(self) -> None:
        for aircraft in (a for a in variants() if a.kind is Kind.MULTIROTOR):
            drawn = rotors.rotor_map(aircraft)
            assert drawn is not None
            self.assertEqual(
                [(r.number, r.spin) for r in drawn.rotors], [(r.number, r.spin) for r in rotor_layout(aircraft)]
            )
            for i, one in enumerate(drawn.rotors):
                with self.subTest(f"{aircraft.name} {one.name}"):
                    self.assertTrue(one.r - 2 <= one.x <= rotors.WIDTH - one.r + 2)
                    self.assertTrue(one.r - 2 <= one.y <= rotors.HEIGHT - one.r + 2)
                    self.assertGreaterEqual(2 * one.r, 48, "a thumb finds it")
                    for other in drawn.rotors[i + 1 :]:
                        self.assertGreater(math.dist((one.x, one.y), (other.x, other.y)), one.r * 0.9)

    def test_the_large_drawing_has_them_where_the_aircraft_is_drawn(self) -> None:
        for aircraft in variants():
            large = rotors.rotors_on(aircraft, (392, 408), 224, 208)
            flat = aircraft.kind is Kind.MULTIROTOR and aircraft.arms == aircraft.rotors
            self.assertEqual(len(large), aircraft.rotors if flat else 0, aircraft.name)
            discs = {
                (s.cx, s.cy) for p in place(aircraft, (392, 408), 224, 208).parts for s in p.shapes if s.role == "disc"
            }
            for rotor in large:
                self.assertLess(min(math.dist((rotor.x, rotor.y), spot) for spot in discs), 0.2)

    def test_the_arrow_turns_as_it_says(self) -> None:
        """Clockwise on the screen means that the angle grows, with y downwards."""
        for aircraft in (a for a in variants() if a.kind is Kind.MULTIROTOR):
            drawn = rotors.rotor_map(aircraft)
            assert drawn is not None
            for rotor in drawn.rotors:
                for look in rotor.looks:
                    points = [float(n) for n in NUMBER.findall(look.arrow)]
                    first, last = points[:2], points[-2:]
                    turned = first[0] * last[1] - first[1] * last[0]
                    self.assertEqual(turned > 0, look.spin == "clockwise", f"{aircraft.name} {rotor.name}")
