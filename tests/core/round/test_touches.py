"""The drawing as the inspection: the union of all touches is the whole list, nothing is answered before its last part, damage never reads clear."""

import unittest
from datetime import datetime, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.round.test_groups import at
from tests.support import NOW, situation, variants, with_history
from walkround.core.aircraft.flaws import Bears
from walkround.core.aircraft.presets import PRESETS
from walkround.core.answers.choice import Chosen
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import PartsDamaged
from walkround.core.base.finding import Level
from walkround.core.checklist.check import Depth
from walkround.core.checklist.history import Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.touched import touched_part, touched_parts
from walkround.core.round.evidence import Evidence
from walkround.core.round.touches import (
    AFTER_LANDING,
    SUSPECT_AFTER,
    TOUCHED,
    Touch,
    TouchState,
    answers_by_touch,
    by_touch,
    left_words,
    one_by_one,
    parts_of,
    route,
    stop_of,
    suspect_since,
)
from walkround.core.round.walk import Walk, walk

EVERY = (*PRESETS.values(), *variants())
QUAD = PRESETS["camera-quad"]
NEVER: dict[str, datetime] = {}


def touched(ids, state: TouchState = TouchState.OK) -> dict[str, Touch]:  # type: ignore[no-untyped-def]
    return {part_id: Touch(part_id=part_id, state=state, at=NOW) for part_id in ids}


def on_route(round_: Walk, touches=None) -> list[str]:  # type: ignore[no-untyped-def]
    return [row.part.id for stop in route(round_, touches or {}, NEVER) for row in stop.parts]


class WholeList(unittest.TestCase):
    def test_every_check_named_here_is_of_the_library_and_finds_a_part_wherever_it_applies(self) -> None:
        known = {check.id: check for check in CHECKS}
        self.assertLessEqual(set(TOUCHED), set(known))
        self.assertIn(AFTER_LANDING, known)
        for aircraft in EVERY:
            for check_id in TOUCHED:
                if known[check_id].applies.fits(aircraft):
                    self.assertTrue(parts_of(check_id, aircraft), (aircraft.name, check_id))
                    self.assertTrue(stop_of(check_id, aircraft))

    def test_every_part_is_on_the_full_route(self) -> None:
        """The union of touches is the whole list: each part belongs to a check that applies, whatever is due today."""
        known = {check.id: check for check in CHECKS}
        for aircraft in EVERY:
            union = {
                p
                for check_id in TOUCHED
                if known[check_id].applies.fits(aircraft)
                for p in parts_of(check_id, aircraft)
            }
            self.assertEqual({part.id for part in touched_parts(aircraft)} - union, set(), aircraft.name)

    def test_every_rotating_part_is_touched_at_every_depth(self) -> None:
        for aircraft in EVERY:
            turning = {part.id for part in touched_parts(aircraft) if part.does is Bears.ROTATES}
            for depth in Depth:
                self.assertEqual(
                    turning - set(on_route(walk(at(situation(aircraft), depth), ()))), set(), (aircraft.name, depth)
                )

    def test_a_deeper_list_never_touches_less(self) -> None:
        for aircraft in EVERY:
            short, normal, full = (set(on_route(walk(at(situation(aircraft), depth), ()))) for depth in Depth)
            self.assertLessEqual(short, normal)
            self.assertLessEqual(normal, full)


class Answering(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.sampled_from(EVERY), st.sampled_from(list(Depth)), st.randoms(use_true_random=False))
    def test_a_check_is_answered_by_its_last_part_and_not_before(self, aircraft, depth, chance) -> None:  # type: ignore[no-untyped-def]
        round_ = walk(at(situation(aircraft), depth), ())
        order = on_route(round_)
        chance.shuffle(order)
        half = touched(order[: len(order) // 2])
        for state, _ in answers_by_touch(round_, half):
            self.assertLessEqual(set(parts_of(state.planned.check.id, aircraft)), set(half))
        whole = touched(order)
        done = {state.planned.check.id for state, _ in answers_by_touch(round_, whole)}
        self.assertEqual(done, {s.planned.check.id for s in round_.states if by_touch(s, round_) and s.gate is None})
        self.assertEqual(sum(stop.left for stop in route(round_, whole, NEVER)), 0)

    @settings(max_examples=40)
    @given(st.sampled_from(EVERY), st.data())
    def test_a_damaged_part_never_reads_clear(self, aircraft, data) -> None:  # type: ignore[no-untyped-def]
        case = at(situation(aircraft), Depth.FULL)
        round_ = walk(case, ())
        bad = data.draw(st.sampled_from(on_route(round_)))
        touches = touched(on_route(round_)) | touched([bad], TouchState.DAMAGED)
        hit = [
            (s, given)
            for s, given in answers_by_touch(round_, touches)
            if bad in parts_of(s.planned.check.id, aircraft)
        ]
        self.assertTrue(hit)
        evidence = [
            Evidence(id=i, check_id=s.planned.check.id, at=NOW, answer=given) for i, (s, given) in enumerate(hit, 1)
        ]
        after = walk(case, evidence)
        for one, answer in hit:
            self.assertIsInstance(answer, PartsDamaged)
            level = after.state(one.planned.check.id).level
            assert level is not None
            self.assertGreater(level, Level.CLEAR)
        # Once it is fixed the answer follows, and is clear.
        mended = answers_by_touch(after, touched(on_route(round_)) | touched([bad], TouchState.FIXED))
        self.assertEqual(
            {s.planned.check.id for s, answer in mended if isinstance(answer, Passed)}
            >= {s.planned.check.id for s, _ in hit if s.planned.check.ask.kind == "tick"},
            True,
        )

    def test_a_part_with_an_open_snag_is_not_clear_until_that_is_closed(self) -> None:
        snag = Snag(
            id=4,
            on=SnagOn.AIRCRAFT,
            title="bent",
            grounds=True,
            parts=("motor-3/shaft",),
            opened_at=NOW - timedelta(days=2),
        )
        case = with_history(at(situation(), Depth.FULL), snags=(snag,))
        for said, kind in (((), PartsDamaged), ((Evidence(id=1, check_id="snag.4", at=NOW, answer=Chosen(option="still")),), PartsDamaged),
                           ((Evidence(id=1, check_id="snag.4", at=NOW, answer=Chosen(option="fixed", note="new")),), Passed)):  # fmt: skip
            round_ = walk(case, said)
            given = {s.planned.check.id: answer for s, answer in answers_by_touch(round_, touched(on_route(round_)))}
            self.assertIsInstance(given["airframe.motors"], kind)
            self.assertIsInstance(given["airframe.propellers"], Passed)

    def test_an_answer_that_stands_is_left_alone(self) -> None:
        round_ = walk(at(situation()), (Evidence(id=1, check_id="airframe.propellers", at=NOW, answer=Passed()),))
        ids = {state.planned.check.id for state, _ in answers_by_touch(round_, touched(on_route(round_)))}
        self.assertNotIn("airframe.propellers", ids)


class Together(unittest.TestCase):
    def test_one_by_one_at_full_and_together_below(self) -> None:
        for depth, alone in ((Depth.FULL, True), (Depth.NORMAL, False)):
            round_ = walk(at(situation(), depth), ())
            stops = route(round_, {}, NEVER)
            self.assertEqual(any(stop.together for stop in stops), not alone, depth)
            self.assertEqual(one_by_one(round_.state("airframe.propellers"), round_), alone)

    def test_a_part_with_a_snag_is_touched_by_itself(self) -> None:
        snag = Snag(
            id=1, on=SnagOn.AIRCRAFT, title="crack", grounds=False, parts=("arm-1",), opened_at=NOW - timedelta(days=2)
        )
        stops = route(walk(with_history(at(situation()), snags=(snag,)), ()), {}, NEVER)
        rows = {row.part.id: row for stop in stops for row in stop.parts}
        self.assertTrue(rows["arm-1"].alone and rows["arm-1"].marked)
        self.assertTrue(rows["arm-1/latch"].marked, "its details too")
        self.assertFalse(rows["arm-2"].alone)
        self.assertNotIn("arm-1", {p for stop in stops for p in stop.together})

    def test_left_in_words(self) -> None:
        stops = route(walk(at(situation()), ()), {}, NEVER)
        self.assertRegex(left_words(stops), r"^\d+ parts left$")
        self.assertEqual(left_words(()), "Every part is touched")


class Suspects(unittest.TestCase):
    """What an event makes of parts: common practice, no source."""

    def test_after_a_crash_every_part_is_unknown_until_touched(self) -> None:
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(days=1))
        for aircraft in EVERY:
            for part in touched_parts(aircraft):
                self.assertIs(suspect_since(part, (crash,), None), crash)
                self.assertIs(suspect_since(part, (crash,), NOW - timedelta(days=2)), crash)
                self.assertIsNone(suspect_since(part, (crash,), NOW))
        self.assertEqual(SUSPECT_AFTER[EventKind.CRASH], frozenset(Aspect))

    def test_on_the_nose_and_after_storage(self) -> None:
        trainer = PRESETS["foam-trainer"]
        nose, idle = (Event(kind=kind, at=NOW) for kind in (EventKind.HARD_LANDING, EventKind.LONG_IDLE))
        for part_id, hit, stored in (
            ("propeller-1/blade-1", True, False), ("rudder/clevis", True, False), ("motor-1/mount", True, False), ("wing-joint", False, True),
            ("motor-1", False, True), ("body/vents", False, False),
        ):  # fmt: skip
            part = touched_part(trainer, part_id)
            assert part is not None
            self.assertEqual(suspect_since(part, (nose,), None) is not None, hit, part_id)
            self.assertEqual(suspect_since(part, (idle,), None) is not None, stored, part_id)

    def test_a_suspect_is_touched_by_itself_even_on_the_short_list(self) -> None:
        base = with_history(
            at(situation(QUAD), Depth.SHORT), events=(Event(kind=EventKind.HARD_LANDING, at=NOW - timedelta(hours=5)),)
        )
        rows = [row for stop in route(walk(base, ()), {}, NEVER) for row in stop.parts if row.suspect is not None]
        self.assertTrue(rows and all(row.alone for row in rows))
        seen = {row.part.id: NOW for row in rows}
        self.assertFalse(
            [row for stop in route(walk(base, ()), {}, seen) for row in stop.parts if row.suspect is not None]
        )
