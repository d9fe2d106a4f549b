"""Stages of the day, and the minutes that each takes: the union of the stages is the whole, and the pace is learned by its median."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, piece, situation, variants
from walkround.core.answers.tick import Passed
from walkround.core.checklist.check import Depth, Phase, Station
from walkround.core.checklist.library import CHECKS
from walkround.core.round.depth import at_the_field
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import ChosenDepth
from walkround.core.round.stages import (
    FEWEST_ROUNDS,
    FIRST_GUESS_S,
    PAUSE_S,
    Stage,
    learn,
    left_at_home,
    minutes_before_take_off,
    stage_of,
    stages_ahead,
    stages_left,
)
from walkround.core.round.walk import walk

FIELD = [check.id for check in CHECKS if stage_of(check) is Stage.FIELD][:8]


def round_of(gap_s: float, ids: list[str] = FIELD) -> list[tuple[str, object]]:
    """A round in which each answer came so long after the one before."""
    return [(check_id, NOW + timedelta(seconds=gap_s * i)) for i, check_id in enumerate(ids)]


class Stages(unittest.TestCase):
    def test_the_union_of_the_stages_is_the_whole(self) -> None:
        for aircraft in variants():
            plan = make_plan(situation(aircraft))
            ahead = stages_ahead(plan, learn(()))
            self.assertEqual(sum(left.of for left in ahead), len(plan.checks))
            self.assertEqual([left.open for left in ahead], [left.of for left in ahead], "nothing is done yet")
            before = sum(left.of for left in ahead if left.stage in (Stage.HOME, Stage.FIELD))
            self.assertEqual(before, sum(p.check.phase is Phase.BEFORE for p in plan.checks))

    def test_where_a_check_is_done(self) -> None:
        for check in CHECKS:
            home = check.station in (Station.BENCH, Station.BAG)
            wanted = {Phase.AIR: Stage.AIR, Phase.AFTER_LANDING: Stage.LANDED}.get(
                check.phase, Stage.HOME if home else Stage.FIELD
            )
            self.assertIs(stage_of(check), wanted, check.id)

    def test_what_is_answered_is_no_longer_open_and_takes_no_minutes(self) -> None:
        empty = stages_left(walk(situation(), ()), learn(()))
        begun = stages_left(walk(situation(), [piece("airframe.shell", Passed())]), learn(()))
        at = [left.stage for left in empty].index(Stage.FIELD)
        self.assertEqual(begun[at].open, empty[at].open - 1)
        self.assertAlmostEqual(
            minutes_before_take_off(empty) - minutes_before_take_off(begun), FIRST_GUESS_S[Stage.FIELD] / 60
        )

    def test_what_can_only_be_done_at_home_is_left_there_unless_it_grounds(self) -> None:
        case = situation(depth=ChosenDepth(depth=Depth.FULL, why=()))
        before = walk(case, [piece("bag.first_aid", Passed())])
        left = left_at_home(before)
        self.assertTrue(left)
        self.assertNotIn("bag.first_aid", left, "it is answered already")
        away = case.model_copy(update={"depth": at_the_field(case.depth, left)})  # type: ignore[arg-type]
        after = walk(away, [piece("bag.first_aid", Passed())])
        gone = {s.planned.check.id for s in before.states} - {s.planned.check.id for s in after.states}
        self.assertEqual(gone, set(left))
        self.assertEqual(left_at_home(after), ())
        self.assertLessEqual(gone, {check.id for check in after.plan.shorter_by}, "what is left out is listed")
        home = [s.planned.check for s in after.states if stage_of(s.planned.check) is Stage.HOME and s.evidence is None]
        self.assertTrue(home and all(check.grounds for check in home))


class Learning(unittest.TestCase):
    def test_few_rounds_say_so(self) -> None:
        for many in range(FEWEST_ROUNDS + 2):
            pace = learn([round_of(4)] * many)  # type: ignore[list-item]
            self.assertEqual(pace.learned(Stage.FIELD), many >= FEWEST_ROUNDS)
            self.assertEqual(pace.seconds[Stage.FIELD], 4 if many >= FEWEST_ROUNDS else FIRST_GUESS_S[Stage.FIELD])
            self.assertFalse(pace.learned(Stage.HOME), "never walked there")

    @given(st.lists(st.floats(1, PAUSE_S), min_size=FEWEST_ROUNDS, max_size=9))
    def test_the_median_of_the_rounds(self, gaps: list[float]) -> None:
        pace = learn([round_of(gap) for gap in gaps])  # type: ignore[misc]
        ordered, half = sorted(gaps), len(gaps) // 2
        middle = ordered[half] if len(gaps) % 2 else (ordered[half - 1] + ordered[half]) / 2
        self.assertAlmostEqual(pace.seconds[Stage.FIELD], middle, delta=0.001)

    def test_a_break_is_no_check(self) -> None:
        paused = [*round_of(5), ("sky.look", NOW + timedelta(seconds=5 * 8 + PAUSE_S + 30))]
        self.assertAlmostEqual(learn([paused] * FEWEST_ROUNDS).seconds[Stage.FIELD], 5)  # type: ignore[list-item]

    def test_checks_confirmed_together_share_their_time(self) -> None:
        together = [(FIELD[0], NOW), *[(name, NOW + timedelta(seconds=12)) for name in FIELD[1:5]]]
        self.assertAlmostEqual(learn([together] * FEWEST_ROUNDS).seconds[Stage.FIELD], 3)
