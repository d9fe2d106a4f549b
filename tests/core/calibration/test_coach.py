"""The coach: a way for each aircraft, and the next turn that fills what is missing."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.calibration.test_ellipsoid import directions
from tests.support import variants
from walkround.core.aircraft.lights import Colour, Light, Shows, Turning
from walkround.core.aircraft.presets import PRESETS
from walkround.core.calibration.coach import WAYS, Way, holding, lit, next_turn, usual_way
from walkround.core.calibration.ellipsoid import SECTORS, coverage


class Coach(unittest.TestCase):
    def test_each_aircraft_has_its_way_and_is_held_disarmed(self) -> None:
        for aircraft in variants():
            self.assertTrue(WAYS[usual_way(aircraft)])
            self.assertIn("disarmed", holding(aircraft))
        self.assertIn("propellers off", holding(PRESETS["race-quad"]))
        self.assertIn("Two people", holding(PRESETS["camera-hexa"].model_copy(update={"mass_g": 7_000})))
        self.assertEqual(len(WAYS[Way.SIX_SIDES]), 6)

    def test_its_own_way_and_light_prevail(self) -> None:
        plain = PRESETS["camera-quad"]
        own = plain.model_copy(
            update={"turning": Turning(way="all axes", lights=(Light(shows=Shows.TURN_ON, colour=Colour.BLUE),))}
        )
        self.assertIs(usual_way(own), Way.ALL_AXES)
        self.assertIsNot(usual_way(plain), Way.ALL_AXES)
        self.assertEqual((lit(own, 0, 2), lit(own, 1, 2), lit(plain, 1, 2)), ("", "Its light is blue steady.", ""))

    def test_what_is_missing_is_asked_for(self) -> None:
        """North of the equator the field points down: the side that was never down is turned down; south of it the other way."""
        u = directions(np.random.default_rng(1), 4_000)
        for axis, sign, north, south in (
            (0, 1, "nose down", "nose up"),
            (1, -1, "left side down", "right side down"),
            (2, 1, "level", "upside down"),
        ):
            seen = coverage(u[u[:, axis] * sign < 0.45])[1]
            self.assertEqual(next_turn(seen, 60), f"Next: {north}, and turn it all round.")
            self.assertEqual(next_turn(seen, -60), f"Next: {south}, and turn it all round.")

    def test_nothing_is_asked_once_it_is_full(self) -> None:
        self.assertEqual(next_turn((1,) * SECTORS, 60), "")
        self.assertTrue(next_turn((0,) * SECTORS, 60))

    @given(st.lists(st.integers(0, 3), min_size=SECTORS, max_size=SECTORS), st.floats(-90, 90))
    def test_always_words(self, seen: list[int], dip: float) -> None:
        self.assertRegex(next_turn(tuple(seen), dip), r"^$|^(Next|Turn) ?.*\.$")
