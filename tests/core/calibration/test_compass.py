"""A compass calibration judged: worse never reads better, nothing measured is never clear, each fault of the trade is caught."""

import unittest
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.calibration.test_ellipsoid import directions, made
from tests.support import NOW, SITE, said
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.compass import (
    CompassCalibration,
    calibration_of,
    current_finding,
    dip_of,
    judge_compass,
)
from walkround.core.calibration.earth import earth_field
from walkround.core.calibration.ellipsoid import FitKind, fit_ellipsoid

FIELD = earth_field(SITE.position, NOW.date())
GOOD: dict[str, Any] = {
    "at": NOW, "by": "file", "fit": FitKind.FULL, "offset_ut": (5.0, -8.0, 3.0), "strength_ut": FIELD.strength_ut, "residual": 0.01, "covered": 0.9, "samples": 600,
    "dip_deg": FIELD.inclination_deg,
}  # fmt: skip


def level(before: CompassCalibration | None = None, **changes: Any) -> Level:
    return worst(judge_compass(CompassCalibration(**(GOOD | changes)), FIELD, before))


class Faults(unittest.TestCase):
    """Common practice, no source; the bounds are our choice."""

    def test_rows(self) -> None:
        self.assertIs(level(), Level.CLEAR)
        full = FIELD.strength_ut
        for changes, expected in (
            ({"fit": FitKind.NONE}, Level.GROUNDED), ({"fit": FitKind.OFFSET, "unknown": ("up and down",)}, Level.CAUTION), ({"covered": 0.62}, Level.CAUTION),
            ({"residual": 0.05}, Level.CAUTION), ({"residual": 0.2}, Level.GROUNDED), ({"rejected": 200}, Level.CAUTION),
            ({"strength_ut": 0.85 * full}, Level.CAUTION), ({"strength_ut": 0.6 * full}, Level.GROUNDED), ({"strength_ut": 1.4 * full}, Level.GROUNDED),
            ({"dip_deg": FIELD.inclination_deg - 8}, Level.CAUTION), ({"dip_deg": -FIELD.inclination_deg}, Level.GROUNDED),
            ({"offset_ut": (1.5 * full, 0.0, 0.0)}, Level.CAUTION), ({"offset_ut": (0.0, 3 * full, 0.0)}, Level.GROUNDED),
        ):  # fmt: skip
            self.assertIs(level(**changes), expected, changes)

    def test_something_magnetic_moved(self) -> None:
        before = CompassCalibration(**GOOD)
        for moved, expected in ((1.0, Level.CLEAR), (10.0, Level.CAUTION), (40.0, Level.GROUNDED)):
            self.assertIs(level(before, offset_ut=(5.0 + moved, -8.0, 3.0)), expected, moved)

    def test_nothing_measured_is_never_clear(self) -> None:
        bare = CompassCalibration(at=NOW, by="pilot")
        self.assertIs(worst(judge_compass(bare, FIELD, None)), Level.CAUTION)
        self.assertIs(worst(judge_compass(bare, None, None)), Level.CAUTION)

    @given(st.floats(0, 0.5), st.floats(0.4, 1.9), st.floats(0, 3), st.floats(1, 3))
    def test_worse_never_reads_better(self, residual: float, strength: float, offset: float, factor: float) -> None:
        full = FIELD.strength_ut

        def judged(by: float) -> Level:
            off = 1 + (strength - 1) * by
            return level(
                residual=residual * by, strength_ut=max(0.1, off * full), offset_ut=(offset * full * by, 0.0, 0.0)
            )

        self.assertGreaterEqual(judged(factor), judged(1.0))


class FromSamples(unittest.TestCase):
    def test_a_good_turn_is_clear_and_a_screw_is_not(self) -> None:
        rng = np.random.default_rng(5)
        u = directions(rng, 800)
        clean = FIELD.strength_ut * u + (4, -6, 2) + rng.normal(size=u.shape) * 0.3
        good = calibration_of(fit_ellipsoid(clean), 1.0, at=NOW, by="file")
        self.assertIs(worst(judge_compass(good, FIELD, None)), Level.CLEAR)
        screw = calibration_of(fit_ellipsoid(clean + (90, 40, -20)), 1.0, at=NOW, by="file")
        self.assertGreater(worst(judge_compass(screw, FIELD, good)), Level.CLEAR)
        self.assertIn("Something magnetic", " ".join(f.remedy for f in judge_compass(screw, FIELD, good)))

    def test_the_dip_comes_from_gravity_measured_with_it(self) -> None:
        rng = np.random.default_rng(7)
        north_down = np.array([FIELD.level_ut, 0, FIELD.down_ut])
        turns = np.linalg.qr(rng.normal(size=(500, 3, 3)))[0]
        turns *= np.sign(np.linalg.det(turns))[:, None, None]
        samples, down = turns @ north_down, turns @ np.array([0, 0, 1.0])
        found = dip_of(fit_ellipsoid(samples + rng.normal(size=samples.shape) * 0.2), samples, down)
        assert found is not None
        self.assertAlmostEqual(found.deg, FIELD.inclination_deg, delta=0.5)
        self.assertLess(found.spread_deg, 1)
        self.assertIsNone(dip_of(fit_ellipsoid(made(1)[0]), made(1)[0], None))

    def test_exchanged_columns_are_noticed(self) -> None:
        rng = np.random.default_rng(8)
        turns = np.linalg.qr(rng.normal(size=(500, 3, 3)))[0]
        turns *= np.sign(np.linalg.det(turns))[:, None, None]
        samples, down = turns @ np.array([FIELD.level_ut, 0, FIELD.down_ut]), turns @ np.array([0, 0, 1.0])
        fit = fit_ellipsoid(samples)
        for order, level_ in (((0, 1, 2), Level.CLEAR), ((0, 2, 1), Level.GROUNDED), ((2, 1, 0), Level.GROUNDED)):
            found = calibration_of(fit, 1.0, at=NOW, by="file", dip=dip_of(fit, samples, down[:, order]))
            axes = next(f for f in judge_compass(found, FIELD, None) if f.name == "Axes")
            self.assertIs(axes.level, level_, order)

    def test_a_light_that_failed_grounds_and_says_what_next(self) -> None:
        remedies = []
        for times in (1, 2, 3, 7):
            found = judge_compass(CompassCalibration(at=NOW, by="its light", light="failed", failed=times), FIELD, None)
            self.assertIs(worst(found), Level.GROUNDED)
            remedies.append(found[0].remedy)
        self.assertIn("ten metres", remedies[0])
        self.assertIn("Do not fly", remedies[2])
        self.assertEqual(remedies[2], remedies[3])
        done = judge_compass(CompassCalibration(at=NOW, by="its light", light="done"), FIELD, None)
        self.assertIs(worst(done), Level.CAUTION, "nothing measured is never clear")


class Current(unittest.TestCase):
    def strength(self, throttle: Any, share: float, seed: int = 0) -> Any:
        return 48 * (1 + share * throttle) + np.random.default_rng(seed).normal(size=len(throttle)) * 0.4

    @given(st.floats(0, 0.6), st.integers(0, 99))
    def test_as_much_as_it_is(self, share: float, seed: int) -> None:
        throttle = np.random.default_rng(seed).uniform(0, 1, 400)
        found = current_finding(throttle, self.strength(throttle, share, seed), in_flight=True).level
        expected = (
            Level.CLEAR
            if share < 0.08
            else Level.CAUTION
            if 0.12 < share < 0.26
            else Level.GROUNDED
            if share > 0.45
            else None
        )
        self.assertTrue(expected is None or found is expected, (share, found))

    @given(st.floats(0, 1), st.integers(0, 99))
    def test_the_bench_alone_is_never_clear(self, share: float, seed: int) -> None:
        throttle = np.random.default_rng(seed).uniform(0, 0.3, 200)
        found = current_finding(throttle, self.strength(throttle, share, seed), in_flight=False)
        self.assertGreater(found.level, Level.CLEAR)
        if share < 0.05:
            self.assertIn("which proves nothing", said(found))

    def test_a_throttle_that_did_not_move_tells_nothing(self) -> None:
        found = current_finding(np.full(300, 0.5), np.full(300, 48.0), in_flight=True)
        self.assertIs(found.level, Level.CAUTION)
        self.assertIn("not told", said(found))
