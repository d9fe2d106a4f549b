"""Moving air: the wind profile of the atmosphere, gusts against their closed forms, chance that repeats."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE, dry_weather
from walkround.core.base.errors import InputError
from walkround.core.lost_link.air import (
    ACROSS,
    EXACT,
    GUST_S,
    STEPS,
    Air,
    Errors,
    air_of,
    draws,
    gust_states,
    mean_gust_sigma,
    moving,
)
from walkround.core.lost_link.ways_down import drift
from walkround.core.weather.atmosphere import WIND_EXPONENT, wind_at_height_ms


class Wind(unittest.TestCase):
    @given(st.floats(0, 20), st.floats(1, 20), st.floats(0.5, 400), st.sampled_from(sorted(WIND_EXPONENT)))
    def test_grows_with_height_as_the_atmosphere_says(
        self, wind: float, measured: float, height: float, terrain
    ) -> None:  # type: ignore[no-untyped-def]
        air = Air(wind_ms=wind, from_deg=0, gust_ms=0, measured_m=measured, exponent=WIND_EXPONENT[terrain])
        self.assertAlmostEqual(
            float(air.mean_ms(np.array(height))), wind_at_height_ms(wind, measured, height, terrain), places=9
        )

    def test_blows_from_where_it_is_said(self) -> None:
        """Wind from the west carries to the east, from the north to the south (vectors)."""
        for from_deg, towards in ((270, (1, 0)), (0, (0, -1)), (90, (-1, 0)), (180, (0, 1))):
            found = moving(Air(wind_ms=3, from_deg=from_deg, gust_ms=0), EXACT, draws(1, 1)).mean(np.array([5.0]))
            self.assertTrue(np.allclose(found[0], 3 * np.array(towards), atol=1e-9))

    def test_an_unknown_direction_is_any(self) -> None:
        along = moving(Air(wind_ms=3, from_deg=None, gust_ms=0), EXACT, draws(4000, 3)).along
        self.assertLess(float(np.hypot(*along.mean(axis=0))), 0.05)

    def test_what_is_known_of_it(self) -> None:
        self.assertFalse(air_of(None, SITE, 1.2).known)
        self.assertFalse(air_of(dry_weather(wind_ms=None), SITE, 1.2).known)
        self.assertTrue(air_of(None, SITE.model_copy(update={"indoors": True}), 1.2).known, "a hall is still")
        calm = air_of(dry_weather(wind_ms=6, gust_ms=None), SITE, 1.2)
        gusty = air_of(dry_weather(wind_ms=6, gust_ms=12), SITE, 1.2)
        self.assertAlmostEqual(calm.gust_ms, 6 * WIND_EXPONENT[SITE.terrain])
        self.assertAlmostEqual(gusty.gust_ms, 6 / 2.5)


class ByAxis(unittest.TestCase):
    @given(st.floats(0, 20), st.one_of(st.none(), st.floats(0, 359)), st.floats(0, 8), st.integers(1, 9))
    def test_the_same_wind_in_another_layout(self, wind: float, from_deg: float | None, gust: float, runs: int) -> None:
        """Vectors: mean wind and gust add up, whichever way the table of numbers is turned."""
        air = Air(wind_ms=wind, from_deg=from_deg, gust_ms=gust)
        chance = draws(runs, 5)
        blown = moving(air, Errors(), chance)
        heights, state = np.linspace(0, 120, runs), chance.gusts[1].astype(float)
        np.testing.assert_allclose(
            blown.by_axis()(heights, state.T), (blown.mean(heights) + blown.gust(state)).T, rtol=1e-9, atol=1e-9
        )


class Gusts(unittest.TestCase):
    def test_keep_their_size_and_forget_at_their_rate(self) -> None:
        """An Ornstein-Uhlenbeck process: variance 1 throughout, correlation ``exp(-t / tau)`` (textbook)."""
        states = gust_states(draws(20_000, 11), np.full(20_000, 1.0))
        self.assertTrue(np.allclose(states.std(axis=1), 1.0, atol=0.03))
        for lag in (1, 5, 10):
            found = float(np.mean(states[20, :, 0] * states[20 + lag, :, 0]))
            self.assertAlmostEqual(found, float(np.exp(-lag / GUST_S)), delta=0.03)

    def test_drift_in_gusts_has_the_variance_of_the_closed_form(self) -> None:
        """``Var x = 2 sigma² tau² (T/tau - 1 + exp(-T/tau))`` for a velocity that is such a process (textbook)."""
        n, seconds, sigma = 20_000, 30.0, 1.5
        chance = draws(n, 23)
        wind = moving(Air(wind_ms=0, from_deg=180, gust_ms=sigma), Errors(direction_deg=0), chance)
        found = drift(np.tile([0.0, 0.0, 60.0], (n, 1)), np.full(n, 2.0), wind, chance).path[-1]
        x = seconds / GUST_S
        exact = sigma * GUST_S * np.sqrt(2 * (x - 1 + np.exp(-x)))
        self.assertAlmostEqual(float(found[:, 1].std()), exact, delta=0.03 * exact)
        self.assertAlmostEqual(float(found[:, 0].std()), ACROSS * exact, delta=0.03 * exact)
        self.assertAlmostEqual(float(mean_gust_sigma(seconds)) * sigma * seconds, exact, places=6)

    def test_the_same_seed_is_the_same_chance(self) -> None:
        a, b, c = draws(50, 7), draws(50, 7), draws(50, 8)
        self.assertTrue(np.array_equal(a.gusts, b.gusts) and np.array_equal(a.place, b.place))
        self.assertFalse(np.array_equal(a.gusts, c.gusts))
        self.assertEqual(a.gusts.shape, (STEPS + 1, 50, 2))
        with self.assertRaises(InputError):
            draws(0, 1)
