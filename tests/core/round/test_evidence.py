"""Evidence: the newest counts, and undo brings back the one before."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.core.round.test_walk import OK
from tests.support import piece, situation
from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import Beside, Fault, Skipped, Undone
from walkround.core.base.finding import Level
from walkround.core.round.evidence import current, live, side_by_side
from walkround.core.round.walk import walk


class Undo(unittest.TestCase):
    def test_the_newest_counts_and_undo_brings_back_the_one_before(self) -> None:
        rows = [
            piece("a", OK, 1),
            piece("a", Fault(note="x"), 2),
            piece("a", Undone(of=2), 3),
        ]
        self.assertEqual(current(rows[:2])["a"].id, 2)
        self.assertEqual(current(rows)["a"].id, 1)
        self.assertEqual([p.id for p in live(rows)], [1])

    @given(st.lists(st.sampled_from("abc"), max_size=12), st.integers(0, 12))
    def test_undoing_all_leaves_nothing(self, checks: list[str], count: int) -> None:
        rows = [piece(c, OK, i) for i, c in enumerate(checks, 1)]
        for _ in range(min(count, len(checks))):
            last = live(rows)[-1]
            rows.append(piece(last.check_id, Undone(of=last.id), len(rows) + 1))
        self.assertEqual(len(live(rows)), len(checks) - min(count, len(checks)))


SHELL = "airframe.shell"
ANSWERS = st.sampled_from((OK, Fault(note="crack"), Skipped(reason="dark")))


class TwoAnswers(unittest.TestCase):
    """Answered on two devices: both stand, the worse counts, until one is withdrawn."""

    def level(self, *answers: Answer) -> Level | None:
        return walk(situation(), [piece(SHELL, a, i) for i, a in enumerate(answers, 1)]).state(SHELL).level

    @given(first=ANSWERS, second=ANSWERS)
    def test_the_worse_counts_whichever_came_first_and_it_is_never_clear(self, first: Answer, second: Answer) -> None:
        rows = [piece(SHELL, first, 1), piece(SHELL, second, 2), piece(SHELL, Beside(of=1, new=2), 3)]
        state = walk(situation(), rows).state(SHELL)
        alone = max(self.level(first) or Level.CLEAR, self.level(second) or Level.CLEAR)
        self.assertEqual(state.level, max(alone, Level.CAUTION))
        self.assertIsNotNone(state.rival)
        for gone, kept in ((1, second), (2, first)):
            left = walk(situation(), [*rows, piece(SHELL, Undone(of=gone), 4)]).state(SHELL)
            self.assertEqual((left.level, left.rival), (self.level(kept), None))

    def test_a_change_of_what_is_shown_replaces_both(self) -> None:
        rows = [
            piece(SHELL, OK, 1),
            piece(SHELL, Fault(), 2),
            piece(SHELL, Beside(of=1, new=2), 3),
            piece(SHELL, OK, 4),
        ]
        self.assertEqual(side_by_side(rows), {})
        self.assertIs(walk(situation(), rows).state(SHELL).level, Level.CLEAR)
        self.assertEqual([p.id for p in live(rows)], [1, 2, 4], "the mark itself is no answer")
