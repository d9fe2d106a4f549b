"""The sum: the worst level wins, nothing is green before it is complete, the smallest margins first."""

import itertools
import unittest

from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import Phrase, volt
from walkround.core.round.verdict import Word, sum_up


def finding(level: Level, name: str = "X") -> Finding:
    return Finding(name=name, level=level, reason=Phrase(text="It is so."))


def margin(value: float, name: str) -> Finding:
    return measured(name, volt(value), volt(10.0), sense="max", words="{value} {limit}", source="none")


class Sum(unittest.TestCase):
    def test_every_mixture(self) -> None:
        """Each mixture of levels, open or not: word, tone and lists by a table written out."""
        words = {
            Level.CLEAR: (Word.CLEAR, "clear"),
            Level.CAUTION: (Word.CAUTION, "caution"),
            Level.GROUNDED: (Word.GROUNDED, "grounded"),
        }
        for levels in itertools.product(Level, repeat=3):
            for still_open in (0, 1, 5):
                with self.subTest(f"{levels} {still_open}"):
                    verdict = sum_up([finding(level, str(i)) for i, level in enumerate(levels)], still_open, 3)
                    worst = max(levels)
                    word, tone = words[worst]
                    if still_open and worst is not Level.GROUNDED:
                        word, tone = Word.OPEN, "open"
                    self.assertEqual((verdict.level, verdict.word, verdict.tone), (worst, word, tone))
                    self.assertEqual(len(verdict.grounds), levels.count(Level.GROUNDED))
                    self.assertEqual(len(verdict.cautions), levels.count(Level.CAUTION))
                    self.assertTrue(all(f.level is Level.GROUNDED for f in verdict.grounds))
                    self.assertTrue(all(f.level is Level.CAUTION for f in verdict.cautions))
                    self.assertEqual((verdict.asked, verdict.complete), (3 + still_open, still_open == 0))

    def test_it_says_only_what_is_true(self) -> None:
        self.assertEqual(sum_up([], 1, 0).sentence, "None so far. Checks are still open.")
        self.assertEqual(sum_up([], 0, 1).sentence, "Every answer is within its limit.")

    def test_nothing_at_all_is_not_complete(self) -> None:
        verdict = sum_up([], 3, 0)
        self.assertEqual((verdict.word, verdict.tone, verdict.closest), (Word.OPEN, "open", ()))

    def test_the_three_smallest_margins(self) -> None:
        found = [margin(v, n) for v, n in ((3.0, "far"), (9.0, "near"), (12.0, "over"), (10.0, "at"), (5.0, "mid"))]
        verdict = sum_up([*found, finding(Level.CLEAR)], 0, 6)
        self.assertEqual([f.name for f in verdict.closest], ["over", "at", "near"])
        same = sum_up([margin(9.0, "b"), margin(9.0, "a")], 0, 2)
        self.assertEqual([f.name for f in same.closest], ["a", "b"])
