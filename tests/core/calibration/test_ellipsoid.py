"""The ellipsoid fit: truth within its own uncertainty, the same minimum as scipy, symmetries, and never good with less than half the sphere."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import least_squares
from scipy.spatial.transform import Rotation

from walkround.core.base.errors import InputError
from walkround.core.calibration.ellipsoid import (
    FEWEST,
    FitKind,
    _matrix,
    _positive,
    _residuals,
    _solved,
    coverage,
    fit_ellipsoid,
    sector_of,
)

SEEDS = st.integers(0, 10_000)


def directions(rng, n: int, above: float = -1.0):  # type: ignore[no-untyped-def]
    """Unit directions at random over the part of the sphere above a height."""
    z, turn = rng.uniform(above, 1, n), rng.uniform(0, 2 * np.pi, n)
    level = np.sqrt(1 - z**2)
    return np.column_stack([level * np.cos(turn), level * np.sin(turn), z])


def truth(rng):  # type: ignore[no-untyped-def]
    """The matrix that makes an ellipsoid of a sphere, and its offset."""
    soft = rng.normal(size=(3, 3)) * 0.05
    return np.eye(3) + (soft + soft.T) / 2, rng.normal(size=3) * 25


def made(seed: int, n: int = 600, outliers: float = 0.0, noise: float = 0.3, above: float = -1.0):  # type: ignore[no-untyped-def]
    """Samples of a known truth: the samples, the offset, the mean radius."""
    rng = np.random.default_rng(seed)
    soft, offset = truth(rng)
    found = 48 * directions(rng, n, above) @ soft + offset + rng.normal(size=(n, 3)) * noise
    many = int(outliers * n)
    found[:many] += rng.normal(size=(many, 3)) * 70
    return found, offset, 48 * np.linalg.det(soft) ** (1 / 3)


def scipy_residual(samples, fit, beside) -> float:  # type: ignore[no-untyped-def]
    """The residual that ``scipy.optimize.least_squares`` reaches on the same inliers from the fitted answer times ``beside``: the same Jacobian, loss and scale."""
    unit = float(np.median(np.linalg.norm(samples - np.median(samples, axis=0), axis=1)))
    kept, matrix = samples[fit.inliers] / unit, fit.matrix * unit / fit.radius
    start = np.array([*(fit.offset / unit), *np.diag(matrix), matrix[0, 1], matrix[0, 2], matrix[1, 2]]) * beside
    found = least_squares(
        lambda p: _residuals(p, kept)[0],
        start,
        jac=lambda p: _residuals(p, kept)[1],
        loss="soft_l1",
        f_scale=fit.scale,
        xtol=1e-12,
        ftol=1e-12,
        gtol=1e-12,
    )
    return float(np.sqrt(np.mean(_residuals(found.x, kept)[0] ** 2)))


class Truth(unittest.TestCase):
    @settings(max_examples=30)
    @given(SEEDS, st.floats(0, 0.2), st.floats(0.05, 1.0))
    def test_within_its_own_uncertainty(self, seed: int, outliers: float, noise: float) -> None:
        samples, offset, radius = made(seed, outliers=outliers, noise=noise)
        fit = fit_ellipsoid(samples)
        self.assertIs(fit.kind, FitKind.FULL)
        self.assertTrue(
            (np.abs(fit.offset - offset) < 5 * fit.offset_sd + 0.02).all(), (fit.offset - offset, fit.offset_sd)
        )
        self.assertAlmostEqual(fit.radius, radius, delta=0.01 * radius)
        soft, _ = truth(np.random.default_rng(seed))
        off = np.abs(np.linalg.norm((samples - offset) @ np.linalg.inv(soft), axis=1) - 48)
        self.assertFalse(fit.inliers[off > 10 * noise].any(), "what is ten times the noise off the truth is an outlier")
        self.assertTrue(fit.inliers[off < 2 * noise].all(), "what is twice the noise off it is none")

    def test_the_uncertainty_is_the_information_bound(self) -> None:
        """Over many draws the spread of the offset is what the fit says of itself: no less than Cramér and Rao allow."""
        rng, errors, said = np.random.default_rng(1), [], []
        u = directions(rng, 400)
        for _ in range(120):
            fit = fit_ellipsoid(48 * u + rng.normal(size=u.shape) * 0.5)
            errors.append(fit.offset)
            said.append(fit.offset_sd)
        ratio = np.std(errors, axis=0) / np.mean(said, axis=0)
        self.assertTrue(((ratio > 0.8) & (ratio < 1.25)).all(), ratio)

    @settings(max_examples=15)
    @given(SEEDS, st.floats(0, 0.15))
    def test_scipy_finds_the_same_minimum(self, seed: int, outliers: float) -> None:
        """``scipy.optimize.least_squares``, analytic Jacobian, soft L1 at the same scale."""
        samples, _, _ = made(seed, outliers=outliers)
        fit = fit_ellipsoid(samples)
        rms = scipy_residual(samples, fit, 1 + 0.002 * np.random.default_rng(seed).normal(size=9))
        self.assertAlmostEqual(fit.residual, rms, delta=0.01 * rms)

    def test_the_jacobian_is_the_slope(self) -> None:
        rng = np.random.default_rng(2)
        samples, p = directions(rng, 20) * 1.2, np.array([0.1, -0.2, 0.05, 1.1, 0.9, 1.05, 0.03, -0.02, 0.04])
        _, jacobian = _residuals(p, samples)
        for i in range(9):
            step = np.zeros(9)
            step[i] = 1e-6
            slope = (_residuals(p + step, samples)[0] - _residuals(p - step, samples)[0]) / 2e-6
            self.assertTrue(np.allclose(jacobian[:, i], slope, atol=1e-7), i)

    @given(st.integers(0, 10_000))
    def test_stretching_every_way_is_what_the_eigenvalues_say(self, seed: int) -> None:
        """Against LAPACK's eigenvalues; close to none of them is left open."""
        p = np.random.default_rng(seed).normal(size=9) + [0, 0, 0, 1.5, 1.5, 1.5, 0, 0, 0]
        smallest = np.linalg.eigvalsh(_matrix(p))[0]
        if abs(smallest) > 1e-9:
            self.assertEqual(_positive(p), smallest > 0)

    def test_equations_that_tell_nothing_of_an_unknown_have_the_shortest_solution(self) -> None:
        self.assertEqual(_solved(np.diag([2.0, 0.0]), np.array([4.0, 0.0])).round(12).tolist(), [2.0, 0.0])


class Properties(unittest.TestCase):
    @settings(max_examples=20)
    @given(SEEDS, st.floats(-100, 100), st.floats(0.001, 1000))
    def test_turned_moved_and_scaled(self, seed: int, moved: float, scaled: float) -> None:
        samples, _, _ = made(seed, n=300)
        plain = fit_ellipsoid(samples)
        turn = Rotation.random(random_state=seed).as_matrix()
        turned = fit_ellipsoid(samples @ turn.T)
        self.assertTrue(np.allclose(turned.offset, turn @ plain.offset, atol=0.02), "the fit turns with the samples")
        shifted = fit_ellipsoid(samples + moved)
        self.assertTrue(
            np.allclose(shifted.offset, plain.offset + moved, atol=0.02), "a constant moves only the offset"
        )
        self.assertAlmostEqual(shifted.radius, plain.radius, delta=0.01)
        other = fit_ellipsoid(samples * scaled)
        self.assertTrue(np.allclose(other.offset / scaled, plain.offset, atol=0.01), "and units scale it")
        self.assertAlmostEqual(other.radius / scaled, plain.radius, delta=0.01)

    @settings(max_examples=30)
    @given(SEEDS, st.floats(-1, 0.95))
    def test_never_full_with_less_than_half_the_sphere(self, seed: int, above: float) -> None:
        samples, offset, _ = made(seed, n=900, above=above)
        fit = fit_ellipsoid(samples)
        if (1 - above) / 2 < 0.5:
            self.assertIsNot(fit.kind, FitKind.FULL)
        if fit.kind is not FitKind.FULL:
            self.assertTrue(fit.unknown, "what is not told is named")
            self.assertTrue(np.isinf(fit.offset_sd).any())
        else:
            self.assertLess(float(np.abs(fit.offset - offset).max()), 1.5)

    def test_what_cannot_be_samples_is_refused(self) -> None:
        rng = np.random.default_rng(0)
        for wrong in (
            np.ones((200, 3)),
            directions(rng, FEWEST - 1),
            np.full((90, 3), np.nan),
            np.zeros((100, 2)),
            np.empty((0, 3)),
        ):
            with self.assertRaises(InputError):
                fit_ellipsoid(wrong)
        turn = np.linspace(0, 2 * np.pi, 400)
        flat = fit_ellipsoid(np.column_stack([np.cos(turn), np.sin(turn), 0.001 * rng.normal(size=400)]) * 48)
        self.assertIsNot(flat.kind, FitKind.FULL, "turned in one plane only")
        self.assertIn("up and down", flat.unknown)


class Sectors(unittest.TestCase):
    def test_of_equal_area(self) -> None:
        many = np.bincount(sector_of(directions(np.random.default_rng(4), 240_000)), minlength=96)
        self.assertTrue((np.abs(many / 2_500 - 1) < 0.12).all(), many)

    @given(SEEDS, st.integers(1, 60), st.integers(1, 60))
    def test_more_directions_never_cover_less(self, seed: int, few: int, more: int) -> None:
        u = directions(np.random.default_rng(seed), few + more)
        self.assertLessEqual(coverage(u[:few])[0], coverage(u)[0])
        self.assertEqual(sum(coverage(u)[1]), few + more)
