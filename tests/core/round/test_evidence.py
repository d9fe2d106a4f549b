"""Evidence: the newest counts, and undo brings back the one before."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.core.round.test_walk import OK
from tests.support import piece
from walkround.core.answers.ways_out import Fault, Undone
from walkround.core.round.evidence import current, live


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
