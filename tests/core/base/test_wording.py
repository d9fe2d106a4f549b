"""Plurals, capitals and lists."""

import unittest

from walkround.core.base.finding import Level
from walkround.core.base.wording import MARKS, capital, counted, listed, lower_first, plural


class Words(unittest.TestCase):
    def test_one_and_many(self) -> None:
        said = [counted(n, "pack") for n in (0, 1, 2)]
        self.assertEqual(said, ["0 packs", "1 pack", "2 packs"])
        self.assertEqual(
            (
                plural(1, "Read each check, do it, answer it, then go on", "None so far. Checks are still open"),
                plural(3, "Read each check, do it, answer it, then go on", "None so far. Checks are still open"),
            ),
            ("Read each check, do it, answer it, then go on", "None so far. Checks are still open"),
        )

    def test_capitals_leave_abbreviations_alone(self) -> None:
        self.assertEqual([capital(t) for t in ("rTH", "RTH altitude", "x", "")], ["RTH", "RTH altitude", "X", ""])
        said = [lower_first(t) for t in ("Do not fly it.", "RTH is off.", "A cell is low.", "")]
        self.assertEqual(said, ["do not fly it.", "RTH is off.", "a cell is low.", ""])

    def test_lists(self) -> None:
        self.assertEqual([listed(list(t)) for t in ("a", "ab", "abc")], ["a", "a and b", "a, b and c"])

    def test_every_level_has_its_word(self) -> None:
        self.assertLessEqual({level.name.lower() for level in Level}, set(MARKS))
