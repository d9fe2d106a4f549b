"""The failsafe judged: as the checks of a round judge it, never clear while something is not known, due again after what upsets it."""

import unittest
from datetime import timedelta
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, QUAD, SITE, TRAINER, piece, said, situation, with_history
from walkround.core.aircraft.failsafe import Action, Failsafe, LowBattery
from walkround.core.aircraft.link_trials import BenchTest, Seen
from walkround.core.answers.choice import Chosen
from walkround.core.answers.number import Measured
from walkround.core.base.finding import Level, worst
from walkround.core.base.units import Measure, Quantity
from walkround.core.checklist.check import Check
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.failsafe import answered_by, bench_due, failsafe_findings, last_tested, left_over, passed_by
from walkround.core.round.judge import judge
from walkround.core.round.why import Day

WHOLE = Failsafe(
    action=Action.RETURN,
    delay_s=1.5,
    confirm_s=0,
    low=LowBattery.RETURN,
    low_percent=20,
    rth_altitude_m=50,
    read_site=SITE.name,
)
BY_ID: dict[str, Check] = {check.id: check for check in CHECKS}


def quad(settings: Failsafe | None = WHOLE, **history: Any) -> Context:
    case = situation(QUAD.model_copy(update={"failsafe": settings}))
    return Context(with_history(case, **history) if history else case, {})


class Judged(unittest.TestCase):
    def test_as_the_round_judges_the_same(self) -> None:
        """One place for one judgement: the page's findings hold those of the checks."""
        for action in (Action.RETURN, Action.HOVER, Action.LAND, Action.STOP, Action.HOLD):
            settings, context = WHOLE.model_copy(update={"action": action}), quad()
            page = [said(f) for f in failsafe_findings(context, settings)]
            for check, evidence in answered_by(context, settings)[:2]:
                for finding in judge(check, evidence, context):
                    self.assertIn(said(finding), page)

    def test_nothing_known_grounds(self) -> None:
        self.assertIs(worst(failsafe_findings(quad(None), Failsafe())), Level.GROUNDED)

    def test_holding_grounds_with_its_arithmetic_and_is_not_passed(self) -> None:
        trainer = Context(situation(TRAINER), {})
        hold = Failsafe(action=Action.HOLD, delay_s=1)
        self.assertIs(worst(failsafe_findings(trainer, hold)), Level.GROUNDED)
        self.assertRegex(
            " ".join(said(f) for f in failsafe_findings(trainer, hold)), r"flies on for [\d.]+.min: at .* away"
        )
        self.assertNotIn("link.lost_action_wing", passed_by(trainer, hold))
        self.assertIn("link.lost_action_wing", passed_by(trainer, Failsafe(action=Action.CIRCLE, delay_s=1)))

    def test_an_altitude_that_is_too_low_is_not_passed(self) -> None:
        low = WHOLE.model_copy(update={"rth_altitude_m": 10.0})
        self.assertNotIn("link.rth_altitude", passed_by(quad(), low))
        self.assertIn("link.rth_altitude", passed_by(quad(), WHOLE))

    def test_a_failed_test_grounds_until_one_passes(self) -> None:
        failed = BenchTest(at=NOW - timedelta(days=1), seen=Seen.KEPT_ON)
        passed = BenchTest(at=NOW, seen=Seen.STOPPED, after_s=1.4)
        self.assertIs(worst(failsafe_findings(quad(bench_test=failed), WHOLE)), Level.GROUNDED)
        self.assertLess(worst(failsafe_findings(quad(bench_test=passed), WHOLE)), Level.GROUNDED)

    def test_left_over_from_another_field(self) -> None:
        there = WHOLE.model_copy(update={"read_site": "Old Mill"})
        self.assertIn("was read at Old Mill, not here yet", said(left_over(quad(there))[0]))
        self.assertEqual(left_over(quad(WHOLE)), ())
        read = Context(quad(there).situation, {"link.rth_altitude": piece("link.rth_altitude", Measured(value=50))})
        self.assertEqual(left_over(read), ())


class Due(unittest.TestCase):
    def test_both_are_due_again_after_what_upsets_them(self) -> None:
        """Firmware, a reset, a repair: settings and test (common practice, no source)."""
        done = tuple(
            Done(check_id=i, at=NOW - timedelta(hours=2))
            for i in ("bench.failsafe", "link.lost_action", "link.rth_altitude")
        )
        for kind in (EventKind.FIRMWARE, EventKind.BOARD_RESET, EventKind.REPAIR):
            before = quad(done=done, events=(Event(kind=kind, at=NOW - timedelta(hours=3), detail="x"),))
            after = quad(done=done, events=(Event(kind=kind, at=NOW - timedelta(hours=1), detail="x"),))
            for check_id in ("bench.failsafe", "link.lost_action", "link.rth_altitude"):
                self.assertIsNone(Day(before.situation).why(BY_ID[check_id]), (kind, check_id))
                self.assertIsNotNone(Day(after.situation).why(BY_ID[check_id]), (kind, check_id))

    def test_a_failed_test_makes_itself_due(self) -> None:
        done = (Done(check_id="bench.failsafe", at=NOW - timedelta(days=3)),)
        failed = Event(kind=EventKind.FAILSAFE_FAILED, at=NOW - timedelta(hours=1), detail="the motors kept running")
        self.assertIsNone(bench_due(quad(done=done)))
        self.assertIsNotNone(bench_due(quad(done=done, events=(failed,))))

    def test_last_tested_is_the_newest_that_passed(self) -> None:
        done = (Done(check_id="bench.failsafe", at=NOW - timedelta(days=3)),)
        self.assertEqual(last_tested(quad(done=done)), NOW - timedelta(days=3))
        self.assertEqual(
            last_tested(quad(done=done, bench_test=BenchTest(at=NOW, seen=Seen.KEPT_ON))), NOW - timedelta(days=3)
        )
        self.assertEqual(last_tested(quad(done=done, bench_test=BenchTest(at=NOW, seen=Seen.STOPPED))), NOW)
        self.assertIsNone(last_tested(quad(done=())))


class Known(unittest.TestCase):
    def test_the_round_is_newer_than_the_record(self) -> None:
        answers = {
            "link.lost_action": piece("link.lost_action", Chosen(option="hover")),
            "link.rth_altitude": piece("link.rth_altitude", Measured(value=61)),
        }
        context = Context(quad().situation, answers)
        self.assertEqual((context.failsafe.action, context.rth_altitude_m), (Action.HOVER, 61))
        self.assertEqual(context.failsafe.delay_s, 1.5, "what was not asked stays")

    @given(st.integers(-5, 5))
    def test_of_two_altitudes_on_record_the_later_counts(self, hours: int) -> None:
        at = NOW - timedelta(days=2)
        read = WHOLE.model_copy(update={"read_at": at, "rth_altitude_m": 44.0})
        done = Done(
            check_id="link.rth_altitude",
            at=at + timedelta(hours=hours),
            value=Quantity(value=33, measure=Measure.HEIGHT),
        )
        self.assertEqual(quad(read, done=(done,)).rth_altitude_m, 33 if hours > 0 else 44)
