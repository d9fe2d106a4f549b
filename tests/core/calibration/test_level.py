"""The accelerometer in six positions: the truth found, still or not, none twice; against scipy's solution."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import least_squares

from tests.support import NOW
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.level import (
    DOWN,
    Held,
    LevelCalibration,
    Position6,
    fit_level,
    held,
    judge_level_calibration,
    judge_tilt,
    level_calibration,
)

G = 9.80665


def readings(position: Position6, matrix, offset, noise: float = 0.002, seed: int = 0):  # type: ignore[no-untyped-def]
    """Readings in m/s² of a sensor with this matrix and offset (g)."""
    up = -np.array(DOWN[position], float)
    rng = np.random.default_rng(seed + list(Position6).index(position))
    return G * (matrix @ up + offset + rng.normal(size=(60, 3)) * noise)


def all_held(matrix, offset, noise: float = 0.002, seed: int = 0) -> tuple[Held, ...]:  # type: ignore[no-untyped-def]
    found: tuple[Held, ...] = ()
    for position in Position6:
        found = (*found, held(position, readings(position, matrix, offset, noise, seed), found, G))
    return found


class Six(unittest.TestCase):
    @given(st.integers(0, 999))
    def test_the_truth_is_found(self, seed: int) -> None:
        rng = np.random.default_rng(seed)
        matrix, offset = np.eye(3) + rng.normal(size=(3, 3)) * 0.02, rng.normal(size=3) * 0.03
        fit = fit_level(all_held(matrix, offset, seed=seed), G)
        self.assertTrue(np.allclose(fit.offset, offset, atol=0.002))
        self.assertTrue(np.allclose(np.linalg.inv(fit.matrix), matrix, atol=0.003))
        up = np.array([0.6, 0.0, -0.8])
        self.assertAlmostEqual(
            float(np.linalg.norm(fit.matrix @ (matrix @ up + offset - fit.offset))),
            1,
            delta=0.005,
            msg="against local gravity",
        )

    def test_as_scipy_solves_it(self) -> None:
        rng = np.random.default_rng(3)
        positions = all_held(np.eye(3) + rng.normal(size=(3, 3)) * 0.03, rng.normal(size=3) * 0.05, noise=0.01)
        fit = fit_level(positions, G)

        def off(p):  # type: ignore[no-untyped-def]
            return np.concatenate(
                [
                    np.array(one.mean) / G - (p[:9].reshape(3, 3) @ -np.array(DOWN[one.position]) + p[9:])
                    for one in positions
                ]
            )

        theirs = least_squares(off, np.concatenate([np.eye(3).ravel(), np.zeros(3)]), xtol=1e-14, ftol=1e-14).x
        self.assertTrue(np.allclose(np.linalg.inv(fit.matrix), theirs[:9].reshape(3, 3), atol=1e-7))
        self.assertTrue(np.allclose(fit.offset, theirs[9:], atol=1e-7))

    def test_moved_repeated_and_missing(self) -> None:
        level = held(Position6.LEVEL, readings(Position6.LEVEL, np.eye(3), np.zeros(3)), (), G)
        with self.assertRaisesRegex(InputError, "It moved"):
            held(Position6.LEFT, readings(Position6.LEFT, np.eye(3), np.zeros(3), noise=0.1), (level,), G)
        with self.assertRaisesRegex(InputError, "is the position .level. again"):
            held(Position6.LEFT, readings(Position6.LEVEL, np.eye(3), np.zeros(3)), (level,), G)
        with self.assertRaisesRegex(InputError, "Still missing: left side down"):
            fit_level((level,), G)
        for wrong in (np.full((60, 3), np.nan), np.zeros((2, 3)), np.zeros((9, 2))):
            with self.assertRaises(InputError):
                held(Position6.BACK, wrong, (), G)

    def test_judged(self) -> None:
        def judged(scale: float, offset: float) -> Level:
            return worst(
                judge_level_calibration(
                    level_calibration(
                        fit_level(all_held(np.eye(3) * (1 + scale), np.full(3, offset)), G), at=NOW, by="x"
                    )
                )
            )

        self.assertIs(judged(0.005, 0.01), Level.CLEAR)
        self.assertIs(judged(0.05, 0.0), Level.CAUTION)
        self.assertIs(judged(0.0, 0.2), Level.GROUNDED)

    def test_nothing_measured_is_never_clear(self) -> None:
        self.assertIs(worst(judge_level_calibration(LevelCalibration(at=NOW, by="pilot"))), Level.CAUTION)

    @given(st.floats(-30, 30), st.floats(1, 4))
    def test_a_greater_tilt_is_never_better(self, tilt: float, factor: float) -> None:
        self.assertGreaterEqual(judge_tilt(tilt * factor).level, judge_tilt(tilt).level)
        self.assertEqual(judge_tilt(tilt).level, judge_tilt(-tilt).level)
