"""The planform follows the traits, lies inside its box and is the same left and right."""

import unittest

from tests.support import QUAD, TRAINER, variants
from walkround.core.aircraft.planform import planform
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Trait


class Outlines(unittest.TestCase):
    def test_it_follows_the_traits(self) -> None:
        keys = {p.key for p in planform(QUAD).parts}
        self.assertLessEqual({"propellers", "arms", "motors", "body", "pack", "gimbal", "compass", "antennas"}, keys)
        plain = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.GIMBAL_CAMERA, Trait.COMPASS}})
        self.assertFalse({"gimbal", "compass"} & {p.key for p in planform(plain).parts})
        wing = {p.key for p in planform(TRAINER).parts}
        self.assertLessEqual({"wing", "tail", "wheels", "propellers", "pack", "body"}, wing)

    def test_one_disc_a_rotor_with_neighbours_turning_against_each_other(self) -> None:
        for rotors in (3, 4, 6, 8):
            shapes = next(
                p for p in planform(QUAD.model_copy(update={"rotors": rotors})).parts if p.key == "propellers"
            ).shapes
            self.assertEqual(sum(s.role == "disc" for s in shapes), rotors)

    def test_everything_lies_inside_its_box(self) -> None:
        for aircraft in (QUAD, TRAINER, *PRESETS.values(), *variants()):
            drawing = planform(aircraft)
            for part in drawing.parts:
                for shape in part.shapes:
                    for x, y in shape.points:
                        self.assertLessEqual(abs(x), drawing.half_width_mm * 1.03, part.key)
                        self.assertLessEqual(abs(y), drawing.half_height_mm * 1.03, part.key)

    def test_it_is_the_same_left_and_right(self) -> None:
        discs = [s.points[0] for p in planform(QUAD).parts for s in p.shapes if s.role == "disc"]
        mirrored = {(round(-x, 6), round(y, 6)) for x, y in discs}
        self.assertEqual({(round(x, 6), round(y, 6)) for x, y in discs}, mirrored)
