"""The simulated flight controller: the same for the same seed, the true field at its true attitude, each fault as it says."""

import unittest

import numpy as np

from tests.support import NOW, SITE
from walkround.core.base.errors import DeviceError
from walkround.core.base.finding import Level, worst
from walkround.core.base.geodesy import distance_m
from walkround.core.calibration.compass import calibration_of, dip_of, judge_compass
from walkround.core.calibration.earth import earth_field, here_at
from walkround.core.calibration.ellipsoid import FitKind, fit_ellipsoid
from walkround.core.calibration.height import drift_findings
from walkround.core.calibration.still import StillTimer
from walkround.core.sensors.nmea import read_nmea
from walkround.simulators.controller import CONDITIONS, HANDS, OWN_OFFSET, SIDES, SimulatedController, attitude, hold

FIELD = earth_field(SITE.position, NOW.date(), SITE.elevation_m)
HERE = here_at(SITE, NOW, 1013.0)


def frames(condition: str, movement: str = "all axes", seconds: float = 40):  # type: ignore[no-untyped-def]
    return list(SimulatedController(condition).frames(movement, HERE, seconds, 5))


def judged(condition: str, movement: str = "all axes") -> Level:
    found = frames(condition, movement)
    samples = np.array([f.field_ut for f in found])
    fit = fit_ellipsoid(samples)
    dip = dip_of(fit, samples, -np.array([f.acceleration_g for f in found]))
    return worst(judge_compass(calibration_of(fit, 1.0, at=NOW, by="x", dip=dip), FIELD, None))


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
        level = list(SimulatedController().frames("by hand", HERE, 1, 99))
        hold(99, 0, 90, 0)
        up = list(SimulatedController().frames("by hand", HERE, 1, 99))
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

    def test_what_else_it_reports(self) -> None:
        for condition, what in (
            ("board", lambda f: f.board_v < 4.5), ("failsafe", lambda f: f.failsafe), ("lean", lambda f: f.lean_most_deg > 60), ("mode", lambda f: f.mode != "hold"),
        ):  # fmt: skip
            for name, told in ((condition, True), ("good", False)):
                self.assertEqual(all(what(f) for f in frames(name, "still", 1)), told, condition)

    def test_sticks_reach_their_ends_and_move_one_at_a_time(self) -> None:
        def ends(condition: str) -> list[float]:
            return [max(f.sticks[i] for f in frames(condition, "sticks", 8)) for i in range(4)]

        self.assertTrue(all(end > 0.99 for end in ends("good")))
        self.assertTrue(all(end < 0.75 for end in ends("travel")))
        together = [(f.sticks[1], f.sticks[3]) for f in frames("alike", "sticks", 8)]
        self.assertTrue(all(a == b for a, b in together) and any(a for a, _ in together))
        self.assertFalse(any(f.sticks[1] and f.sticks[3] for f in frames("good", "sticks", 8)))

    def test_its_receiver(self) -> None:
        def fixes(condition: str, seconds: float = 200):  # type: ignore[no-untyped-def]
            return [read_nmea(f.nmea, NOW) for f in frames(condition, "still", seconds) if f.nmea]

        self.assertTrue(all(fix.quality == 1 and fix.position is not None for fix in fixes("good", 4)))
        self.assertFalse(any(fix.quality for fix in fixes("no fix")))
        slow = [fix.quality for fix in fixes("slow fix")]
        self.assertEqual((slow[0], slow[-1]), (0, 1))
        self.assertGreater(fixes("poor", 2)[0].hdop, 2)
        away = [distance_m(SITE.position, fix.position) for fix in fixes("jumping", 20)]
        self.assertTrue(max(away) > 20 and min(away) < 1)

    def test_the_pressure_drifts_in_the_wind(self) -> None:
        for condition, level in (("good", Level.CLEAR), ("draught", Level.GROUNDED)):
            readings = [(f.at_s, f.pressure_hpa) for f in frames(condition, "still", 90)]
            self.assertIs(worst(drift_findings(readings)), level, condition)

    def test_silent_it_says_what_to_do(self) -> None:
        with self.assertRaisesRegex(DeviceError, "paste a recording"):
            frames("silent")
        self.assertIn("silent", CONDITIONS)
