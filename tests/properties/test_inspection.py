"""Parts and sensors: damage to what turns grounds, a damaged part is never clear, what is worn out stays down, and a compass is never better than what was measured."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.calibration.test_ellipsoid import made
from tests.core.round.test_groups import at
from tests.core.round.test_touches import on_route, touched
from tests.support import NOW, SITE, situation, variants
from walkround.core.aircraft.flaws import Bears, Damage, Material, Place
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.compass import CompassCalibration, calibration_of, current_finding, judge_compass
from walkround.core.calibration.earth import earth_field
from walkround.core.calibration.ellipsoid import FitKind, fit_ellipsoid
from walkround.core.checklist.check import Depth
from walkround.core.inspection.damage import damage_finding, rule
from walkround.core.inspection.touched import touched_parts
from walkround.core.inspection.wear import LIVES, judge_life
from walkround.core.round.evidence import Evidence
from walkround.core.round.touches import TouchState, answers_by_touch, parts_of
from walkround.core.round.walk import walk

FIELD = earth_field(SITE.position, NOW.date())
AIRCRAFT = variants()


class Parts(unittest.TestCase):
    @given(
        st.sampled_from(list(Damage)),
        st.none() | st.sampled_from(list(Place)),
        st.none() | st.sampled_from(list(Material)),
    )
    def test_whatever_is_wrong_with_what_turns_grounds(
        self, damage: Damage, place: Place | None, material: Material | None
    ) -> None:
        self.assertIs(damage_finding(rule(Bears.ROTATES, damage, place, material)).level, Level.GROUNDED)

    @settings(max_examples=12)
    @given(st.sampled_from(AIRCRAFT), st.data())
    def test_a_damaged_part_is_never_clear(self, aircraft, data) -> None:  # type: ignore[no-untyped-def]
        case = at(situation(aircraft), Depth.FULL)
        round_ = walk(case, ())
        bad = data.draw(st.sampled_from(on_route(round_)))
        touches = touched(on_route(round_)) | touched([bad], TouchState.DAMAGED)
        given_ = [
            (s.planned.check.id, said)
            for s, said in answers_by_touch(round_, touches)
            if bad in parts_of(s.planned.check.id, aircraft)
        ]
        after = walk(
            case,
            [Evidence(id=i, check_id=check_id, at=NOW, answer=said) for i, (check_id, said) in enumerate(given_, 1)],
        )
        for check_id, _ in given_:
            self.assertGreater(after.state(check_id).level or Level.CLEAR, Level.CLEAR)

    @given(st.sampled_from(AIRCRAFT), st.floats(1, 1e4), st.floats(1, 50))
    def test_past_its_life_what_turns_stays_down(self, aircraft, limit: float, times: float) -> None:  # type: ignore[no-untyped-def]
        for part in touched_parts(aircraft):
            if part.does is Bears.ROTATES:
                found = judge_life(part, LIVES[0], limit * times, limit)
                self.assertTrue(found is not None and found.level is Level.GROUNDED)


class Compass(unittest.TestCase):
    @settings(max_examples=12)
    @given(st.integers(0, 9_999), st.floats(0.05, 0.9))
    def test_less_than_half_the_sphere_is_never_good(self, seed: int, above: float) -> None:
        fit = fit_ellipsoid(made(seed, n=900, above=above)[0])
        self.assertIsNot(fit.kind, FitKind.FULL)
        found = judge_compass(calibration_of(fit, 1.0, at=NOW, by="x"), FIELD, None)
        self.assertGreater(worst(found), Level.CLEAR)

    @given(st.none() | st.just(SITE))
    def test_nothing_measured_is_never_clear(self, site) -> None:  # type: ignore[no-untyped-def]
        found = judge_compass(CompassCalibration(at=NOW, by="light"), FIELD if site else None, None)
        self.assertTrue(found)
        self.assertGreater(worst(found), Level.CLEAR)

    @given(st.floats(0, 0.05), st.integers(0, 99))
    def test_the_bench_proves_nothing(self, share: float, seed: int) -> None:
        rng = np.random.default_rng(seed)
        throttle = rng.uniform(0, 0.3, 200)
        found = current_finding(throttle, 48 * (1 + share * throttle) + rng.normal(size=200) * 0.1, in_flight=False)
        self.assertGreater(found.level, Level.CLEAR)

    @given(st.floats(1.3, 5) | st.floats(0.1, 0.7))
    def test_a_field_that_is_not_the_earths_is_never_clear(self, factor: float) -> None:
        found = CompassCalibration(
            at=NOW, by="x", fit=FitKind.FULL, strength_ut=factor * FIELD.strength_ut, residual=0.01, covered=0.9
        )
        self.assertGreater(worst(judge_compass(found, FIELD, None)), Level.CLEAR)
