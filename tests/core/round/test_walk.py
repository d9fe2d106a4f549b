"""A round in progress: gates, order, undo, skips, the running verdict, signing."""

import unittest
from datetime import timedelta

from msgspec.structs import replace

from tests.support import NOW, QUAD, TRAINER, piece, planned_ids, said, situation, with_history
from walkround.core.answers.choice import Chosen
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.timer import Counted
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.base.errors import BlockedError, InputError, MissingError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.checklist.check import Phase, Station
from walkround.core.checklist.history import Event, EventKind
from walkround.core.checklist.library import GATES
from walkround.core.round.evidence import Evidence
from walkround.core.round.plan import LeftOut, make_plan
from walkround.core.round.verdict import Word, sum_up
from walkround.core.round.walk import parse_reason, try_answer, walk
from walkround.demo.walker import good_answer

OK = Passed()


def pieces(*answers: tuple[str, object]) -> list[Evidence]:
    return [piece(check_id, answer, number) for number, (check_id, answer) in enumerate(answers, 1)]


class Gates(unittest.TestCase):
    """The five gates the practice names, each closed until its step is done and open after it."""

    POWER = (("airframe.covers_off", OK), ("power.idle", OK), ("power.transmitter_on", OK), ("power.mode", OK))

    def blocked(self, check_id: str, *answers: tuple[str, object], case=None) -> str:  # type: ignore[no-untyped-def]
        state = walk(case or situation(), pieces(*answers)).state(check_id)
        return "" if state.gate is None else state.gate.says

    def test_cover_before_power(self) -> None:
        self.assertIn(
            "Remove the gimbal cover before you power the aircraft. Left on, the",
            self.blocked("power.aircraft_on", *self.POWER[1:]),
        )

    def test_transmitter_before_aircraft(self) -> None:
        self.assertIn(
            "Switch the transmitter on first. Without a signal the receiver goes",
            self.blocked("power.aircraft_on", self.POWER[0], self.POWER[1]),
        )

    def test_idle_and_disarmed_before_power(self) -> None:
        self.assertIn(
            "Select the model, throttle at idle, arm switch off before you power",
            self.blocked("power.aircraft_on", self.POWER[0], *self.POWER[2:]),
        )

    def test_all_three_open_the_power(self) -> None:
        self.assertEqual(self.blocked("power.aircraft_on", *self.POWER), "")

    def test_still_for_the_count(self) -> None:
        on = (*self.POWER, ("power.aircraft_on", OK))
        self.assertIn("count starts", self.blocked("power.still_long", *self.POWER))
        self.assertIn("still for the count", self.blocked("sensors.satellites", *on))
        self.assertIn(
            "still for the count", self.blocked("sensors.satellites", *on, ("power.still_long", Counted(seconds=7)))
        )
        self.assertEqual(self.blocked("sensors.satellites", *on, ("power.still_long", Counted(seconds=20))), "")

    def test_propellers_off_before_the_bench_test(self) -> None:
        new = Event(kind=EventKind.NEW_BUILD, at=NOW - timedelta(days=1))
        for aircraft in (QUAD, TRAINER):
            case = with_history(situation(aircraft), events=(new,))
            self.assertIn(
                "Remove the propellers before motors run on the bench. If the failsafe",
                self.blocked("bench.failsafe", case=case),
            )
            self.assertEqual(self.blocked("bench.failsafe", ("bench.propellers_off", OK), case=case), "")
            self.assertIn(
                "Refit the propellers after the bench tests, with the power off",
                self.blocked("bench.propellers_back", ("bench.propellers_off", OK), case=case),
            )

    def test_a_wing_without_cover_needs_none(self) -> None:
        done = (("power.idle", OK), ("power.transmitter_on", OK), ("power.mode", OK))
        self.assertEqual(self.blocked("power.aircraft_on", *done, case=situation(TRAINER)), "")

    def test_neither_fault_nor_skip_opens_a_gate(self) -> None:
        for answer in (Fault(), Skipped(reason="lost it")):
            self.assertIn("cover", self.blocked("power.aircraft_on", ("airframe.covers_off", answer), *self.POWER[1:]))

    def test_a_blocked_step_is_refused_but_a_fault_or_skip_is_not(self) -> None:
        round_ = walk(situation(), [])
        with self.assertRaises(BlockedError) as caught:
            try_answer(round_, "power.aircraft_on", OK, piece("power.aircraft_on", OK))
        self.assertIn("cover", caught.exception.message)
        skip = Skipped(reason="bench day only")
        self.assertEqual(try_answer(round_, "power.aircraft_on", skip, piece("power.aircraft_on", skip))[0].level, 2)

    def test_every_other_check_may_come_in_any_order(self) -> None:
        for aircraft in (QUAD, TRAINER):
            free = {i for i in planned_ids(situation(aircraft)) if not self.blocked(i, case=situation(aircraft))}
            gated = {b for g in GATES for b in g.blocks}
            self.assertEqual(planned_ids(situation(aircraft)) - free, planned_ids(situation(aircraft)) & gated)

    def test_gates_name_checks_that_exist(self) -> None:
        from walkround.core.checklist.library import CHECKS

        ids = {c.id for c in CHECKS}
        for gate in GATES:
            self.assertLessEqual({*gate.blocks, *gate.needs}, ids, gate.id)


class Verdicts(unittest.TestCase):
    def finding(self, level: Level, margin: float | None = None) -> Finding:
        return Finding(name=f"{level} {margin}", level=level, margin=margin, reason=Phrase(text="x"))

    def test_worst_level_wins(self) -> None:
        rows = (((), Word.CLEAR), ((0, 1), Word.CAUTION), ((0, 1, 2), Word.GROUNDED))
        for levels, word in rows:
            self.assertEqual(sum_up([self.finding(Level(x)) for x in levels], 0, 1).word, word)

    def test_three_closest_by_margin(self) -> None:
        found = [self.finding(Level.CLEAR, m) for m in (0.9, 0.2, None, 0.05, 0.4)]
        self.assertEqual([f.margin for f in sum_up(found, 0, 5).closest], [0.05, 0.2, 0.4])

    def test_open_checks_keep_it_so_far(self) -> None:
        self.assertFalse(sum_up([], 1, 0).complete)
        self.assertEqual((sum_up([], 1, 0).word, sum_up([], 1, 0).tone), (Word.OPEN, "open"))
        self.assertEqual((sum_up([], 0, 1).word, sum_up([], 0, 1).tone), (Word.CLEAR, "clear"))
        round_ = walk(situation(), pieces(("airframe.shell", Fault())))
        self.assertEqual((round_.verdict.word, round_.verdict.done, round_.verdict.complete), (Word.GROUNDED, 1, False))

    def test_an_answer_that_no_longer_fits_its_check_counts_as_open(self) -> None:
        stale = pieces(("field.people", Chosen(option="an option of an older library")), ("no.such", OK))
        round_ = walk(situation(), stale)
        self.assertIsNone(round_.state("field.people").level)
        self.assertEqual(round_.verdict.done, 0)

    def test_a_missing_check(self) -> None:
        with self.assertRaises(MissingError):
            walk(situation(), []).state("no.such")


class States(unittest.TestCase):
    """One check as it stands, and the parts of a round."""

    def test_open_passed_skipped_and_stations(self) -> None:
        round_ = walk(situation(), pieces(("airframe.shell", OK), ("airframe.screws", Skipped(reason="dark"))))
        shell, screws, fresh = (round_.state(f"airframe.{name}") for name in ("shell", "screws", "arms"))
        self.assertEqual([s.level for s in (shell, screws, fresh)], [Level.CLEAR, Level.GROUNDED, None])
        self.assertEqual([s.skipped for s in (shell, screws, fresh)], [False, True, False])
        here = round_.at(Station.AIRFRAME)
        self.assertEqual([s for s in round_.states if s.planned.check.station is Station.AIRFRAME], list(here))
        self.assertIn(shell, here)
        phases = {s.planned.check.phase for s in round_.states}
        self.assertEqual(phases, set(Phase), "the list goes on in the air and after landing")
        self.assertEqual({s.planned.check.phase for s in round_.before()}, {Phase.BEFORE})
        self.assertEqual(
            round_.last,
            shell.evidence.model_copy(
                update={"id": 2, "check_id": "airframe.screws", "answer": Skipped(reason="dark")}
            ),
        )
        self.assertIsNone(walk(situation(), []).last)

    def test_what_waits_and_for_what_until_it_is_answered(self) -> None:
        blocked = walk(situation(), []).state("power.aircraft_on")
        self.assertTrue(blocked.gate and blocked.waits_for)
        skipped = walk(situation(), pieces(("power.aircraft_on", Skipped(reason="bench day"))))
        self.assertEqual(
            (skipped.state("power.aircraft_on").gate, skipped.state("power.aircraft_on").waits_for), (None, ())
        )
        free = walk(situation(), []).state("airframe.shell")
        self.assertEqual((free.gate, free.waits_for), (None, ()))

    def test_a_plan_at_hand_is_used(self) -> None:
        short = make_plan(situation())
        short = replace(short, checks=short.checks[:3])
        self.assertEqual(len(walk(situation(), [], short).states), 3)

    def test_a_disagreement_is_said_at_the_check_but_not_on_a_skip(self) -> None:
        counted = ("bench.packs_ready", Measured(value=1))
        case = with_history(situation(), packs_ready=0)
        found = walk(case, pieces(counted)).state("bench.packs_ready").findings
        alone = walk(with_history(situation(), packs_ready=1), pieces(counted)).state("bench.packs_ready").findings
        self.assertGreater(len(found), len(alone))
        skipped = walk(case, pieces(("bench.packs_ready", Skipped(reason="later"))))
        self.assertEqual(len(skipped.state("bench.packs_ready").findings), 1)

    def test_held_in_a_safe_state_until_one_of_its_checks_passes(self) -> None:
        case = with_history(situation(), events=(Event(kind=EventKind.NEW_BUILD, at=NOW - timedelta(days=1)),))
        round_ = walk(case, [])
        ended = []
        for _ in range(20):
            if round_.safe_state is None:
                break
            here = {p.check.id for p in round_.plan.checks}
            until = next(i for i in round_.safe_state.until if i in here)
            faulty = walk(case, pieces(*ended, (until, Fault())))
            self.assertEqual(faulty.safe_state, round_.safe_state, "a fault ends no state")
            ended.append((until, good_answer(round_.state(until).planned.check, case, NOW)))
            following = walk(case, pieces(*ended))
            self.assertNotEqual(following.safe_state, round_.safe_state)
            round_ = following
        self.assertIsNone(round_.safe_state)
        self.assertGreater(len(ended), 1)

    def test_a_check_taken_off_the_list_is_minded_with_its_reason(self) -> None:
        left = LeftOut(
            check_id="x",
            title="Look at it",
            how="left out",
            reason="never needed",
        )
        plan = replace(make_plan(situation()), left_out=(left,))
        (found,) = walk(situation(), [], plan).left_out
        self.assertEqual((found.name, found.level), ("Not asked: Look at it", Level.CAUTION))
        self.assertEqual(said(found), "Left out in your checklist. Your reason: never needed.")
        self.assertIn(found, walk(situation(), [], plan).verdict.closest + walk(situation(), [], plan).left_out)


class Reasons(unittest.TestCase):
    def test_cleaned_needed_and_not_too_long(self) -> None:
        self.assertEqual(parse_reason("  two   words\n", "Reason", "reason", needed=True), "two words")
        self.assertEqual(parse_reason("", "Note", "note", needed=False), "")
        self.assertEqual(parse_reason("x" * 300, "Note", "note", needed=False), "x" * 300)
        for text, words in (("  ", "enter a few words"), ("x" * 301, "max 300")):
            with self.assertRaises(InputError) as caught:
                parse_reason(text, "Reason", "reason", needed=True)
            self.assertIn(words, caught.exception.message)

    def test_between_words(self) -> None:
        self.assertEqual(said(Phrase(text="x")), "x")
