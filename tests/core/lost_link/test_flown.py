"""The failsafe flown: one track without errors, use and time by arithmetic, spreads that grow with what is uncertain."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, variants
from walkround.core.aircraft.failsafe import Action, Climb, actions
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.flight.estimate import endurance
from walkround.core.flight.return_to_home import CLIMB_MS, DESCENT_MS, wind_triangle
from walkround.core.flight.speed_home import LEAST_SHARE
from walkround.core.lost_link.air import EXACT, Air, Errors, draws
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.flown import Lost, Plan, fly

QUAD, RACER = PRESETS["camera-quad"], PRESETS["race-quad"]
KNOWN = endurance(QUAD, PACK)
STILL = Air(wind_ms=0, from_deg=0, gust_ms=0)
WINDY = Air(wind_ms=5, from_deg=250, gust_ms=1.2)
AWAY = Lost(east_m=100, north_m=0, height_m=30, charge_percent=60)
RETURN = Plan(action=Action.RETURN, home=(0, 0), delay_s=0, rth_altitude_m=50)
BODY = body_of(QUAD, KNOWN, Action.RETURN)


class Returns(unittest.TestCase):
    def test_time_and_charge_by_arithmetic(self) -> None:
        """Climb 20 m, fly 100 m, come down 50 m, each at its speed and its power."""
        found = fly(AWAY, RETURN, BODY, STILL, EXACT, draws(1, 1))
        climb, back, down = 20 / CLIMB_MS, 100 / BODY.home_ms, 50 / DESCENT_MS
        self.assertAlmostEqual(float(found.seconds[0]), climb + back + down, places=6)
        used = (BODY.climb_rate * climb + BODY.home_rate * back + BODY.hover_rate * down) / 60
        self.assertAlmostEqual(float(found.charge_percent[0]), 60 - used, places=6)
        self.assertTrue(np.allclose(found.landings[0], (0, 0)))
        self.assertTrue(found.home[0])

    @given(st.floats(0, 359), st.floats(0, 359), st.floats(0, 8), st.floats(20, 800))
    @settings(max_examples=60)
    def test_the_ground_speed_is_that_of_the_wind_triangle(
        self, course: float, from_deg: float, wind: float, far: float
    ) -> None:
        """Vectors, by the triangle of ``return_to_home`` that has its own tests."""
        angle = np.radians(course)
        lost = Lost(east_m=-far * np.sin(angle), north_m=-far * np.cos(angle), height_m=30, charge_percent=100)
        air = Air(wind_ms=wind, from_deg=from_deg, gust_ms=0, measured_m=200)
        found = fly(lost, replace(RETURN, rth_altitude_m=30), BODY, air, EXACT, draws(1, 1))
        slow = wind_triangle(BODY.home_ms, course, wind, from_deg)
        fast = wind_triangle(BODY.fast_ms, course, wind, from_deg)
        chosen = slow if slow is not None and slow.ground_ms >= LEAST_SHARE * BODY.fast_ms else fast
        assert chosen is not None
        self.assertAlmostEqual(
            float(found.seconds[0]) - 30 / DESCENT_MS, far / chosen.ground_ms, delta=1e-3 * far / chosen.ground_ms
        )

    def test_it_stays_at_its_height_where_that_is_higher(self) -> None:
        found = fly(replace(AWAY, height_m=80), RETURN, BODY, STILL, EXACT, draws(1, 1))
        self.assertEqual(float(found.path[:, 0, 2].max()), 80)

    def test_wind_beyond_its_top_speed_carries_it_off(self) -> None:
        found = fly(AWAY, RETURN, BODY, replace(WINDY, wind_ms=25, from_deg=270), EXACT, draws(1, 1))
        self.assertTrue(found.away[0] and not found.home[0])
        self.assertGreater(float(found.landings[0, 0]), 100, "downwind")
        self.assertEqual(float(found.charge_percent[0]), 0)

    def test_too_little_charge_ends_on_the_way(self) -> None:
        found = fly(replace(AWAY, east_m=3000, charge_percent=8), RETURN, BODY, STILL, EXACT, draws(1, 1))
        self.assertTrue(found.empty[0] and found.away[0] and not found.home[0])
        self.assertTrue(0 < float(found.landings[0, 0]) < 3000)

    def test_climbing_on_the_way_is_never_slower(self) -> None:
        first = fly(AWAY, RETURN, BODY, STILL, EXACT, draws(1, 1))
        along = fly(AWAY, replace(RETURN, climb=Climb.ON_THE_WAY), BODY, STILL, EXACT, draws(1, 1))
        self.assertLess(float(along.seconds[0]), float(first.seconds[0]))


class Others(unittest.TestCase):
    def test_the_delay_is_flown_as_it_was(self) -> None:
        moving = replace(AWAY, speed_ms=10, heading_deg=90)
        land = replace(RETURN, action=Action.LAND, delay_s=2.0)
        found = fly(moving, land, body_of(QUAD, KNOWN, Action.LAND), STILL, EXACT, draws(1, 1))
        self.assertTrue(np.allclose(found.landings[0], (120, 0)))

    def test_hovering_lasts_as_long_as_the_charge(self) -> None:
        body = body_of(QUAD, KNOWN, Action.HOVER)
        found = fly(AWAY, replace(RETURN, action=Action.HOVER), body, STILL, EXACT, draws(1, 1))
        self.assertAlmostEqual(float(found.seconds[0]), 60 * 60 / body.hover_rate, places=3)
        self.assertEqual(float(found.charge_percent[0]), 0)

    def test_what_does_not_hold_its_place_drifts(self) -> None:
        known = endurance(RACER, PACK)
        body = body_of(RACER, known, Action.LAND)
        self.assertFalse(body.holds)
        found = fly(
            AWAY, replace(RETURN, action=Action.LAND), body, replace(WINDY, from_deg=270, gust_ms=0), EXACT, draws(1, 1)
        )
        self.assertGreater(float(found.landings[0, 0]), 150)

    def test_bad_input_is_said(self) -> None:
        for lost, plan in (
            (AWAY, replace(RETURN, delay_s=-1)),
            (replace(AWAY, height_m=-5), RETURN),
            (replace(AWAY, height_m=float("nan")), RETURN),
        ):
            with self.assertRaises(InputError):
                fly(lost, plan, BODY, STILL, EXACT, draws(1, 1))


class Properties(unittest.TestCase):
    def test_every_aircraft_and_action_ends_on_the_ground(self) -> None:
        for aircraft in variants():
            known = endurance(aircraft, PACK)
            for action in actions(aircraft.kind, aircraft.features()):
                found = fly(
                    replace(AWAY, speed_ms=6),
                    replace(RETURN, action=action),
                    body_of(aircraft, known, action),
                    WINDY,
                    Errors(),
                    draws(20, 2),
                )
                self.assertTrue(np.all(np.isfinite(found.path)), (aircraft.name, action))
                self.assertTrue(np.all(found.path[-1, :, 2] == 0), (aircraft.name, action))
                self.assertTrue(np.all((found.charge_percent >= 0) & (found.charge_percent <= 60)))
                self.assertTrue(np.all(found.seconds > 0) and np.all(found.end_ms >= 0))

    def test_nothing_uncertain_is_one_track(self) -> None:
        for action in Action:
            body = body_of(QUAD, KNOWN, action)
            found = fly(AWAY, replace(RETURN, action=action), body, replace(WINDY, gust_ms=3), EXACT, draws(30, 4))
            self.assertTrue(np.allclose(found.path, found.path[:, :1]), action)

    def test_the_same_seed_the_same_runs(self) -> None:
        body = body_of(QUAD, KNOWN, Action.STOP)
        one, two = (
            fly(AWAY, replace(RETURN, action=Action.STOP), body, WINDY, Errors(), draws(40, 9)) for _ in range(2)
        )
        self.assertTrue(np.array_equal(one.path, two.path))

    @given(
        st.sampled_from([Action.RETURN, Action.STOP, Action.LAND]),
        st.sampled_from(["gust", "position_m", "height_m"]),
        st.floats(1.05, 3),
        st.floats(15, 110),
    )
    @settings(max_examples=40)
    def test_more_uncertainty_never_shrinks_the_spread(
        self, action: Action, what: str, times: float, height: float
    ) -> None:
        """The root mean square about the middle, with the same chance."""
        chance, body = draws(300, 6), body_of(QUAD, KNOWN, action)
        spreads = []
        for factor in (1.0, times):
            errors = replace(Errors(), **{what: getattr(Errors(), what) * factor})
            ends = fly(
                replace(AWAY, height_m=height), replace(RETURN, action=action), body, WINDY, errors, chance
            ).landings
            spreads.append(float(np.sqrt(((ends - ends.mean(axis=0)) ** 2).sum(axis=1).mean())))
        self.assertGreaterEqual(spreads[1], spreads[0] * (1 - 0.002))
