"""Rotor layouts: they lift level and do not turn."""

import unittest

import numpy as np

from tests.core.aircraft.test_propeller_check import CCW, CW, ROTORCRAFT, UP
from tests.support import QUAD
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.propeller_check import (
    tilt,
)
from walkround.core.aircraft.rotors import Rotation, balanced, rotor_layout, yaw_torque
from walkround.core.aircraft.traits import Frame


def made(frame: Frame, rotors: int, **changes: object) -> Aircraft:
    return Aircraft.model_validate(QUAD.model_dump() | {"frame": frame, "rotors": rotors, "traits": [], **changes})


class Bodies(unittest.TestCase):
    def test_reaction_torque(self) -> None:
        """Air drags each blade against its motion; in steady turning the frame feels that torque whole."""
        for spin in Rotation:
            torque = np.zeros(3)
            for angle in np.linspace(0, 2 * np.pi, 8, endpoint=False):
                arm = np.array([np.cos(angle), np.sin(angle), 0.0])
                torque += np.cross(arm, -np.cross(spin.sign * UP, arm))
            self.assertEqual(np.sign(torque[2]), np.sign(yaw_torque([(spin, 1.0)])))

    def test_every_layout_lifts_level_and_does_not_turn(self) -> None:
        for aircraft in ROTORCRAFT:
            rotors = rotor_layout(aircraft)
            with self.subTest(aircraft.name):
                moment = sum(np.cross([r.x_mm, r.y_mm, 0.0], UP) for r in rotors)
                np.testing.assert_allclose(moment, 0, atol=1e-6)
                turning = sum(-r.spin.sign for r in rotors)
                self.assertEqual(abs(turning), aircraft.rotors % 2)  # three rotors: the rear one is tilted against it
                self.assertTrue(balanced(aircraft, {r.number: r.spin for r in rotors}))

    def test_the_side_that_drops(self) -> None:
        for aircraft in ROTORCRAFT[::2]:
            rotors = rotor_layout(aircraft)
            for one in rotors:
                moment = sum(np.cross([r.x_mm, r.y_mm, 0.0], (-1 if r == one else 1) * UP) for r in rotors)
                right, forward = tilt(rotors, [one])
                with self.subTest(f"{aircraft.name} {one.name}"):
                    # Turning about the moment, a point there moves down faster than anywhere else on the rim.
                    there = np.array([right, forward, 0.0]) / np.hypot(right, forward)
                    rim = [np.array([np.cos(a), np.sin(a), 0.0]) for a in np.linspace(0, 2 * np.pi, 72)]
                    lowest = min(np.cross(moment, p)[2] for p in rim)
                    self.assertAlmostEqual(np.cross(moment, there)[2] / lowest, 1, places=2)
                    self.assertGreater(right * one.x_mm + forward * one.y_mm, 0)

    def test_neighbours_turn_against_each_other_and_pairs_too(self) -> None:
        quad = {r.name: r.spin for r in rotor_layout(made(Frame.X, 4))}
        self.assertEqual(quad, {"front right": CCW, "rear right": CW, "rear left": CCW, "front left": CW})
        out = {r.name: r.spin for r in rotor_layout(made(Frame.X, 4, front_left_clockwise=False))}
        self.assertEqual(out, {name: spin.other for name, spin in quad.items()})
        plus = {r.name: r.spin for r in rotor_layout(made(Frame.PLUS, 4))}
        self.assertEqual(plus, {"front": CW, "right": CCW, "rear": CW, "left": CCW})
        for frame, number in ((Frame.Y_COAXIAL, 6), (Frame.X_COAXIAL, 8)):
            rotors = rotor_layout(made(frame, number))
            for upper, lower in zip(rotors[: number // 2], rotors[number // 2 :], strict=True):
                self.assertEqual((upper.x_mm, upper.y_mm), (lower.x_mm, lower.y_mm))
                self.assertIs(upper.spin, lower.spin.other)
