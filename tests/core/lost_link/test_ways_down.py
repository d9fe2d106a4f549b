"""Falls and glides against scipy's integrator, closed forms and vectors."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from walkround.core.base.errors import InputError
from walkround.core.lost_link.air import EXACT, STEPS, Air, draws, moving
from walkround.core.lost_link.ways_down import drift, energy_j, fall, fall_ms, fall_s, glide, terminal_ms
from walkround.core.weather.atmosphere import GRAVITY_MS2, SEA_LEVEL_DENSITY

STILL = Air(wind_ms=0, from_deg=0, gust_ms=0)
ONE = draws(1, 1)


def one(air: Air = STILL):  # type: ignore[no-untyped-def]
    return moving(air, EXACT, ONE)


def integrated(height_m: float, velocity, mass_kg: float, area_m2: float, air: Air):  # type: ignore[no-untyped-def]
    """The same fall by scipy's adaptive integrator, stopped at the ground: place and velocity there, seconds."""
    pull = SEA_LEVEL_DENSITY * area_m2 / (2 * mass_kg)
    blow = math.radians(air.from_deg or 0)
    toward = -np.array([math.sin(blow), math.cos(blow)])

    def change(_t, state):  # type: ignore[no-untyped-def]
        against = state[3:].copy()
        against[:2] -= float(air.mean_ms(max(state[2], 0.0))) * toward
        drag = -pull * np.linalg.norm(against) * against
        return [*state[3:], drag[0], drag[1], drag[2] - GRAVITY_MS2]

    def ground(_t, state):  # type: ignore[no-untyped-def]
        return state[2]

    ground.terminal = True  # type: ignore[attr-defined]
    ground.direction = -1  # type: ignore[attr-defined]
    found = solve_ivp(change, (0, 200), [0, 0, height_m, *velocity], events=ground, rtol=1e-7, atol=1e-8)
    return found.y_events[0][0], float(found.t_events[0][0])


class Falls(unittest.TestCase):
    @given(
        st.floats(2, 120),
        st.floats(0, 25),
        st.floats(0, 359),
        st.floats(0, 15),
        st.floats(0.1, 7),
        st.floats(0.01, 0.15),
    )
    @settings(max_examples=25)
    def test_as_scipy_integrates_it(
        self, height: float, speed: float, heading: float, wind: float, mass: float, per_kg: float
    ) -> None:
        """Drag areas for each kg as of what flies here, from a sixth of to twice that of a quad."""
        air, area = Air(wind_ms=wind, from_deg=250, gust_ms=0), per_kg * mass
        angle = math.radians(heading)
        velocity = np.array([speed * math.sin(angle), speed * math.cos(angle), 0.0])
        found = fall(np.array([[0.0, 0.0, height]]), velocity[None], mass, np.array([area]), one(air), ONE)
        end, seconds = integrated(height, velocity, mass, area, air)
        self.assertAlmostEqual(float(found.seconds[0]), seconds, delta=0.002 * seconds + 0.005)
        self.assertLess(float(np.hypot(*(found.path[-1, 0, :2] - end[:2]))), 0.005 * float(np.hypot(*end[:2])) + 0.05)
        self.assertAlmostEqual(
            float(found.end_ms[0]), float(np.linalg.norm(end[3:])), delta=0.005 * float(np.linalg.norm(end[3:])) + 0.03
        )
        self.assertEqual(float(found.path[-1, 0, 2]), 0.0)

    def test_closed_forms(self) -> None:
        """From rest in still air: ``v² = vt² (1 - exp(-2gh/vt²))`` and ``h = vt²/g ln cosh(gt/vt)`` (textbook), and the free fall where drag is next to nothing."""
        for height in (1.0, 20.0, 119.0):
            terminal = float(terminal_ms(1.2, np.array(0.043)))
            found = fall(np.array([[0.0, 0.0, height]]), np.zeros((1, 3)), 1.2, np.array([0.043]), one(), ONE)
            self.assertAlmostEqual(
                float(found.end_ms[0]), float(fall_ms(np.array(height), np.array(terminal))), delta=0.02 * terminal
            )
            self.assertAlmostEqual(
                float(found.seconds[0]), float(fall_s(np.array(height), np.array(terminal))), delta=0.02
            )
            back = (
                terminal**2
                / GRAVITY_MS2
                * math.log(math.cosh(GRAVITY_MS2 * float(fall_s(np.array(height), np.array(terminal))) / terminal))
            )
            self.assertAlmostEqual(back, height, places=6)
        self.assertAlmostEqual(float(fall_s(20.0, 1e4)), math.sqrt(40 / GRAVITY_MS2), places=3)
        self.assertAlmostEqual(float(fall_ms(20.0, 1e4)), math.sqrt(2 * GRAVITY_MS2 * 20), places=2)

    def test_terminal_speed_of_a_quad(self) -> None:
        """About 1.2 kg: drop tests found 18 to 22 m/s (from memory)."""
        self.assertTrue(18 <= float(terminal_ms(1.2, 0.35 * 0.35**2)) <= 22)

    def test_energy(self) -> None:
        """``m v² / 2``; and never more than what the height and the speed gave (physics)."""
        self.assertEqual(float(energy_j(2.0, 3.0)), 9.0)
        found = fall(np.array([[0.0, 0.0, 60.0]]), np.array([[8.0, 0.0, 0.0]]), 1.2, np.array([0.043]), one(), ONE)
        self.assertLess(float(energy_j(1.2, found.end_ms[0])), 1.2 * GRAVITY_MS2 * 60 + 0.5 * 1.2 * 64)

    def test_a_body_needs_mass_and_area(self) -> None:
        for mass, area in ((0.0, 0.1), (1.0, 0.0)):
            with self.assertRaises(InputError):
                fall(np.array([[0.0, 0.0, 5.0]]), np.zeros((1, 3)), mass, np.array([area]), one(), ONE)

    @given(st.floats(0, 12), st.floats(0, 6), st.floats(5, 120))
    @settings(max_examples=40)
    def test_more_mean_wind_never_brings_the_fall_nearer(self, wind: float, more: float, height: float) -> None:
        chance = draws(60, 5)
        places = []
        for blows in (wind, wind + more):
            air = moving(Air(wind_ms=blows, from_deg=270, gust_ms=1.0), EXACT, chance)
            found = fall(np.tile([0.0, 0.0, height], (60, 1)), np.zeros((60, 3)), 1.0, np.full(60, 0.05), air, chance)
            places.append(float(found.path[-1, :, 0].mean()))
        self.assertGreaterEqual(places[1], places[0] - 1e-6)


class Glides(unittest.TestCase):
    def test_straight_in_still_air_by_its_ratio(self) -> None:
        """Speed along the path 10 m/s, sinking 1 m/s: ``sqrt(99)`` m along for each metre down."""
        found = glide(np.array([[0.0, 0.0, 50.0]]), np.array([90.0]), 10.0, np.array([1.0]), 0.0, one(), ONE)
        self.assertAlmostEqual(float(found.path[-1, 0, 0]), 50 * math.sqrt(99), places=6)
        self.assertAlmostEqual(float(found.path[-1, 0, 1]), 0.0, places=6)
        self.assertAlmostEqual(float(found.seconds[0]), 50.0, places=6)
        self.assertAlmostEqual(float(found.end_ms[0]), 10.0, places=6)

    def test_wind_is_added_as_a_vector(self) -> None:
        """Below the height of the measured wind it is that wind, at every height (``atmosphere.wind_at_height_ms``)."""
        air = Air(wind_ms=4, from_deg=180, gust_ms=0, measured_m=200)
        found = glide(np.array([[0.0, 0.0, 30.0]]), np.array([90.0]), 10.0, np.array([1.0]), 0.0, one(air), ONE)
        self.assertAlmostEqual(float(found.path[-1, 0, 0]), 30 * math.sqrt(99), places=6)
        self.assertAlmostEqual(float(found.path[-1, 0, 1]), 30 * 4, places=6)

    def test_whole_turns_come_back_in_still_air_and_drift_with_the_wind(self) -> None:
        """Four turns in 60 s: back over the place; in wind off by wind times time."""
        place, heading = np.array([[5.0, 7.0, 60.0]]), np.array([10.0])
        found = glide(place, heading, 9.0, np.array([1.0]), 24.0, one(), ONE)
        self.assertTrue(np.allclose(found.path[-1, 0], [5.0, 7.0, 0.0], atol=1e-6))
        blown = glide(
            place,
            heading,
            9.0,
            np.array([1.0]),
            24.0,
            one(Air(wind_ms=3, from_deg=270, gust_ms=0, measured_m=200)),
            ONE,
        )
        self.assertTrue(np.allclose(blown.path[-1, 0], [5.0 + 180.0, 7.0, 0.0], atol=1e-6))

    def test_the_radius_of_a_turn(self) -> None:
        """``r = v / omega``: the path keeps that far from its middle."""
        found = glide(
            np.array([[0.0, 0.0, 30.0]]),
            np.array([0.0]),
            10.0,
            np.array([1e-9]),
            20.0,
            one(),
            ONE,
            seconds=np.array([18.0]),
        )
        radius = 10.0 / math.radians(20.0)
        away = np.hypot(found.path[:, 0, 0] - radius, found.path[:, 0, 1])
        self.assertEqual(len(away), STEPS + 1)
        self.assertTrue(np.allclose(away, radius, rtol=0.02))

    def test_drifting_down_is_wind_times_time(self) -> None:
        air = Air(wind_ms=5, from_deg=90, gust_ms=0, measured_m=200)
        found = drift(np.array([[0.0, 0.0, 40.0]]), np.array([2.0]), one(air), ONE)
        self.assertTrue(np.allclose(found.path[-1, 0], [-100.0, 0.0, 0.0], atol=1e-6))
