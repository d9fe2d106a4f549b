"""The packs of a set against each other."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK, piece, planned_ids, said, situation
from walkround.core.answers.matched import Matched
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.judge import judge

CHECK = next(check for check in CHECKS if check.id == "pack.matched")
SET = PACK.model_copy(update={"together": 2})


def judged(answer: Matched, together: int = 2) -> Finding:
    """What is found of a set of packs."""
    case = situation(pack=PACK.model_copy(update={"together": together}))
    return judge(CHECK, piece("pack.matched", answer), Context(case, {}))[0]


class Set(unittest.TestCase):
    def test_it_is_asked_of_sets_only(self) -> None:
        self.assertNotIn("pack.matched", planned_ids(situation()))
        self.assertIn("pack.matched", planned_ids(situation(pack=SET)))

    def test_per_cent_and_volts(self) -> None:
        rows = (
            (Matched(percents=(98, 95)), Level.CLEAR), (Matched(percents=(98, 93)), Level.CAUTION), (Matched(percents=(98, 80)), Level.GROUNDED),
            (Matched(volts=(12.60, 12.50)), Level.CLEAR), (Matched(volts=(12.60, 12.40)), Level.CAUTION), (Matched(volts=(12.60, 12.20)), Level.GROUNDED),
        )  # fmt: skip
        for answer, level in rows:
            with self.subTest(answer):
                self.assertIs(judged(answer).level, level)
        self.assertEqual(said(judged(Matched(percents=(98, 95)))), "The packs match: 3 % apart.")

    @given(st.lists(st.floats(0, 100), min_size=2, max_size=4), st.floats(0, 100))
    def test_one_more_apart_never_reads_better(self, charges: list[float], other: float) -> None:
        few = judged(Matched(percents=tuple(charges)), len(charges))
        if len(charges) < 4:
            self.assertGreaterEqual(judged(Matched(percents=(*charges, other)), len(charges) + 1).level, few.level)
        self.assertIs(few.level, judged(Matched(percents=tuple(reversed(charges))), len(charges)).level)

    def test_what_cannot_be_is_refused(self) -> None:
        for wrong in ({}, {"percents": (50, 50), "volts": (12, 12)}, {"percents": (50, 120)}, {"volts": (0, 12)}):
            with self.assertRaises(InputError):
                Matched(**wrong)  # type: ignore[arg-type]
        with self.assertRaisesRegex(InputError, "The set has 2 packs"):
            judged(Matched(percents=(90,)))
