"""What a flight controller tells: trouble is never clear, what nobody knows never arms, a slow start is noticed, and axes that do not belong together are no compass."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.diagnosis.test_arming import PROFILE, READY, values
from tests.support import NOW, SITE
from walkround.core.base.finding import Level
from walkround.core.calibration.compass import calibration_of, dip_of, judge_compass
from walkround.core.calibration.earth import earth_field
from walkround.core.calibration.ellipsoid import fit_ellipsoid
from walkround.core.calibration.still import start_finding
from walkround.core.diagnosis.arming import diagnose
from walkround.core.diagnosis.messages import GOOD as GOOD_WORDS
from walkround.core.diagnosis.messages import MEANINGS, PLAIN, said_level, understood

FIELD = earth_field(SITE.position, NOW.date(), SITE.elevation_m)
SUBJECTS = (
    "compass",
    "gyro",
    "accelerometer",
    "barometer",
    "satellite fix",
    "voltage",
    "throttle",
    "receiver",
    "geofence",
    "mode",
)
TROUBLE = ("not", "no", "failed", "error", "low", "inconsistent", "lost", "waiting", "bad", "needs calibration")
GOOD = ("ok", "ready", "calibrated", "complete", "healthy")
BLANKS = {"ends": (), "mode": ""}


class Said(unittest.TestCase):
    @given(st.sampled_from(SUBJECTS), st.sampled_from(TROUBLE), st.sampled_from(GOOD), st.permutations(range(3)))
    def test_trouble_beside_a_good_word_is_trouble(self, what: str, trouble: str, good: str, order: list[int]) -> None:
        words = [what, trouble, good]
        self.assertIs(understood(" ".join(words[i] for i in order)).level, Level.GROUNDED)

    @given(st.text(alphabet="bcjkqwz 0123456789", max_size=40))
    def test_what_nobody_knows_is_never_clear(self, text: str) -> None:
        self.assertGreater(said_level((understood(text),)), Level.CLEAR)

    @given(
        st.sampled_from(SUBJECTS),
        st.sampled_from(GOOD),
        st.text(alphabet="abcdefghijklmnopqrstuvwxyz", min_size=4, max_size=9),
    )
    def test_a_word_that_is_not_understood_is_never_clear(self, what: str, good: str, word: str) -> None:
        if PLAIN.sub("", GOOD_WORDS.sub("", word)):
            self.assertGreater(understood(f"{what} {good} {word}").level, Level.CLEAR)
        self.assertGreater(understood("Compass set wrong").level, Level.CLEAR)

    def test_every_subject_is_known_by_a_word(self) -> None:
        self.assertEqual({understood(f"{what} ok").level for what in SUBJECTS}, {Level.CLEAR})
        self.assertTrue(all(meaning.remedy for meaning in MEANINGS.values()))


class Arming(unittest.TestCase):
    @given(st.sets(st.sampled_from(sorted(set(READY) - {"messages", "alike", "expected_ut"})), min_size=1))
    def test_what_is_not_known_never_arms(self, gone: set[str]) -> None:
        self.assertFalse(diagnose(values(**{name: BLANKS.get(name) for name in gone}), PROFILE).arms)

    def test_and_what_is_known_does(self) -> None:
        self.assertTrue(diagnose(values(), PROFILE).arms)


class Starts(unittest.TestCase):
    @given(st.floats(2, 120), st.floats(3.1, 20))
    def test_three_times_as_long_grounds(self, usual: float, factor: float) -> None:
        found = start_finding(usual * factor + 5, usual)
        assert found is not None
        self.assertIs(found.level, Level.GROUNDED)


class Axes(unittest.TestCase):
    @given(st.integers(0, 200), st.sampled_from([(0, 2, 1), (2, 1, 0), (1, 0, 2), (1, 2, 0)]))
    def test_exchanged_axes_are_never_clear(self, seed: int, order: tuple[int, int, int]) -> None:
        rng = np.random.default_rng(seed)
        turns = np.linalg.qr(rng.normal(size=(400, 3, 3)))[0]
        turns *= np.sign(np.linalg.det(turns))[:, None, None]
        samples, down = turns @ np.array([FIELD.level_ut, 0, FIELD.down_ut]), turns @ np.array([0, 0, 1.0])
        fit = fit_ellipsoid(samples)
        found = calibration_of(fit, 1.0, at=NOW, by="x", dip=dip_of(fit, samples, down[:, order]))
        said = [one.level for one in judge_compass(found, FIELD, None) if one.name == "Axes"]
        self.assertTrue(said and said[0] > Level.CLEAR)
