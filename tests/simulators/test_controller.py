"""The simulated flight controller: the same for the same seed, the true field at its true attitude, each fault as it says."""

import unittest

import numpy as np

from tests.support import NOW, SITE
from walkround.core.base.errors import DeviceError
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.compass import calibration_of, dip_of, judge_compass
from walkround.core.calibration.earth import earth_field
from walkround.core.calibration.ellipsoid import FitKind, fit_ellipsoid
from walkround.core.calibration.still import StillTimer
from walkround.simulators.controller import CONDITIONS, HANDS, OWN_OFFSET, SIDES, SimulatedController, attitude, hold

FIELD = earth_field(SITE.position, NOW.date())
EARTH = (FIELD.north_ut, FIELD.east_ut, FIELD.down_ut)


def frames(condition: str, movement: str = "all axes", seconds: float = 40):  # type: ignore[no-untyped-def]
    return list(SimulatedController(condition).frames(movement, EARTH, seconds, 5))


def judged(condition: str, movement: str = "all axes") -> Level:
    found = frames(condition, movement)
    samples = np.array([f.field_ut for f in found])
    fit = fit_ellipsoid(samples)
    dip = dip_of(fit, samples, -np.array([f.acceleration_g for f in found]))
    return worst(judge_compass(calibration_of(fit, 1.0, at=NOW, by="x", dip_deg=dip), FIELD, None))


class Controller(unittest.TestCase):
    def test_the_same_seed_gives_the_same(self) -> None:
        self.assertEqual(frames("good", seconds=2), frames("good", seconds=2))

    def test_its_attitudes_are_turns(self) -> None:
        for movement in ("two turns", "six sides", "all axes", "still", *SIDES):
            for share in np.linspace(0, 1, 41):
                body = attitude(movement, float(share))
                self.assertTrue(np.allclose(body @ body.T, np.eye(3)) and np.isclose(np.linalg.det(body), 1), movement)

    def test_the_truth_is_found_in_it(self) -> None:
        fit = fit_ellipsoid(np.array([f.field_ut for f in frames("good")]))
        self.assertTrue(np.allclose(fit.offset, OWN_OFFSET, atol=0.5))
        self.assertIs(judged("good"), Level.CLEAR)

    def test_faults_are_caught(self) -> None:
        for condition in ("screw", "tool", "weak", "strong"):
            self.assertGreater(judged(condition), Level.CLEAR, condition)
        self.assertGreater(judged("car"), Level.CLEAR)

    def test_turned_with_a_finger(self) -> None:
        hold(99, 0, 0, 0)
        level = list(SimulatedController().frames("by hand", EARTH, 1, 99))
        hold(99, 0, 90, 0)
        up = list(SimulatedController().frames("by hand", EARTH, 1, 99))
        self.assertLess(level[0].acceleration_g[2], -0.9)
        self.assertGreater(up[0].acceleration_g[0], 0.9, "nose up, what holds it pushes along the nose")
        for seed in range(200):
            hold(seed, 1, 2, 3)
        self.assertLessEqual(len(HANDS), 32)

    def test_two_turns_carry_the_offset_only(self) -> None:
        self.assertIs(fit_ellipsoid(np.array([f.field_ut for f in frames("good", "two turns")])).kind, FitKind.OFFSET)

    def test_moved_while_it_starts(self) -> None:
        for condition, moved in (("good", False), ("bumped", True)):
            timer = StillTimer(needed_s=12)
            for frame in frames(condition, "still", 30):
                timer = timer.after(frame.at_s, frame.turning_dps)
            self.assertEqual(timer.moved > 0, moved, condition)

    def test_a_drift_never_rests(self) -> None:
        timer = StillTimer(needed_s=12)
        for frame in frames("drift", "still", 30):
            timer = timer.after(frame.at_s, frame.turning_dps)
        self.assertFalse(timer.done)

    def test_silent_it_says_what_to_do(self) -> None:
        with self.assertRaisesRegex(DeviceError, "paste a recording"):
            frames("silent")
        self.assertIn("silent", CONDITIONS)
