"""Stages lock, in their order; what is known counts."""

import random
import unittest
from datetime import timedelta

from tests.support import NOW, QUAD, variants
from walkround.core.aircraft.link_trials import BenchTest
from walkround.core.aircraft.link_trials import Seen as BenchSeen
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.proved import StageResult
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.proving.stages import (
    known_progress,
    progress,
    recovery_height_m,
    stages,
    stand_off_m,
    under_proving,
    unflown,
)

BUILT = QUAD.model_copy(update={"traits": frozenset({Trait.SELF_BUILT, Trait.FLIGHT_CONTROLLER})})


def passed(stage: str, outcome: str, minutes: float = 0) -> StageResult:
    return StageResult(stage=stage, outcome=outcome, at=NOW + timedelta(minutes=minutes))


def good(aircraft: object) -> list[StageResult]:
    return [passed(s.id, next(o.id for o in s.outcomes if o.passes), i) for i, s in enumerate(stages(aircraft))]


class Stages(unittest.TestCase):
    def test_every_aircraft_has_a_programme_that_ends(self) -> None:
        for aircraft in (*variants(), *PRESETS.values()):
            every = stages(aircraft)
            ids = [s.id for s in every]
            self.assertEqual(len(set(ids)), len(ids))
            flying = [s.caps is not None for s in every]
            self.assertEqual(flying, sorted(flying), "what stays on the ground comes first")
            self.assertTrue(flying[-1])
            caps = [s.caps for s in every if s.caps is not None]
            for before, after in zip(caps, caps[1:], strict=False):
                self.assertTrue(
                    after.height_m >= before.height_m
                    and after.distance_m >= before.distance_m
                    and after.minutes >= before.minutes
                )
            for stage in every:
                self.assertTrue(any(o.passes for o in stage.outcomes))
                self.assertTrue(all(o.says for o in stage.outcomes if not o.passes), "what went wrong says what to do")
            self.assertTrue(progress(aircraft, good(aircraft)).graduated)

    def test_who_does_what(self) -> None:
        self.assertEqual(
            [s.id for s in stages(BUILT)],
            ["failsafe", "order", "endpoints", "directions", "arm", "ground", "hover", "near", "far"],
        )
        trainer = PRESETS["foam-trainer"]
        self.assertEqual([s.id for s in stages(trainer)][:2], ["failsafe", "directions"])
        self.assertEqual(stages(trainer)[-1].id, "far")
        glider = (
            next(a for a in PRESETS.values() if a.kind is Kind.WING and a.has(Trait.NO_MOTOR))
            if any(a.has(Trait.NO_MOTOR) for a in PRESETS.values())
            else None
        )
        if glider is not None:
            self.assertNotIn("failsafe", [s.id for s in stages(glider)])

    def test_no_order_speaks_of_a_motor_that_is_not_there(self) -> None:
        engine = next(a for a in (*variants(), *PRESETS.values()) if a.has(Trait.LIQUID_FUEL))
        self.assertIn("Engine off", stages(engine)[0].caution)
        self.assertNotIn("motors", " ".join(line.text for line in stages(engine)[0].do))
        for aircraft in (*variants(), *PRESETS.values()):
            if aircraft.has(Trait.NO_MOTOR):
                self.assertNotIn(
                    "otor", " ".join(s.caution for s in stages(aircraft) if s.caps is None or s.id == "glide")
                )

    def test_a_stage_counts_only_after_those_before_it(self) -> None:
        draw = random.Random(3)
        every = good(BUILT)
        for _ in range(200):
            some = draw.sample(every, draw.randint(0, len(every)))
            found = progress(BUILT, some)
            have = {r.stage for r in some}
            first_open = next((i for i, s in enumerate(found.stages) if s.id not in have), len(found.stages))
            self.assertEqual(found.passed, first_open)

    def test_the_last_word_counts_and_a_fault_locks_again(self) -> None:
        every = good(BUILT)
        self.assertEqual(progress(BUILT, [*every, passed("order", "swapped", 99)]).passed, 1)
        self.assertEqual(progress(BUILT, [passed("order", "swapped"), *every]).passed, 9)
        self.assertEqual(progress(BUILT, [passed("ground", "stuck")]).passed, 0)

    def test_a_bench_test_on_record_is_not_asked_again(self) -> None:
        test = BenchTest(at=NOW, seen=BenchSeen.STOPPED)
        self.assertEqual(known_progress(BUILT, test).passed, 1)
        self.assertEqual(known_progress(BUILT, BenchTest(at=NOW, seen=BenchSeen.KEPT_ON)).passed, 0)
        proved = BUILT.model_copy(update={"proved": tuple(good(BUILT)[:3])})
        later = BenchTest(at=NOW + timedelta(days=1), seen=BenchSeen.KEPT_ON)
        self.assertEqual(known_progress(proved, later).passed, 0, "a failsafe that fails later locks all")

    def test_who_is_in_it(self) -> None:
        self.assertIsNone(under_proving(BUILT, True))
        self.assertIsNone(under_proving(BUILT, None), "what is not known starts no programme")
        self.assertIsNotNone(under_proving(BUILT, False))
        begun = BUILT.model_copy(update={"proved": tuple(good(BUILT)[:7])})
        found = under_proving(begun, True)
        assert found is not None and found.current is not None
        self.assertEqual(found.current.id, "near", "the first flight does not end it")
        self.assertIsNone(under_proving(BUILT.model_copy(update={"proved": tuple(good(BUILT))}), True))

    def test_heavier_stands_farther_and_faster_needs_height(self) -> None:
        self.assertEqual([stand_off_m(m) for m in (500, 2_000, 6_999, 7_000)], [5, 10, 10, 20])
        trainer = PRESETS["foam-trainer"]
        quick = trainer.model_copy(update={"cruise_ms": 20.0, "top_speed_ms": 40.0})
        self.assertGreaterEqual(recovery_height_m(quick), recovery_height_m(trainer))
        self.assertEqual(recovery_height_m(trainer) % 10, 0)

    def test_a_stage_that_is_flown_wants_a_flight_on_record(self) -> None:
        ground = progress(BUILT, good(BUILT)[:3])
        self.assertFalse(unflown(ground, None), "nothing flies yet")
        hover = progress(BUILT, good(BUILT)[:6])
        self.assertTrue(unflown(hover, None))
        self.assertTrue(unflown(hover, NOW), "before the stage was open")
        self.assertFalse(unflown(hover, NOW + timedelta(hours=1)))
