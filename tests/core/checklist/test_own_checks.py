"""Checks that a pilot makes: steps from a pasted text, answers of a choice, counts."""

import unittest

from walkround.core.answers.choice import AskChoice
from walkround.core.answers.timer import AskTimer
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.checklist.check import Frequency, Station
from walkround.core.checklist.own_checks import (
    LONGEST_COUNT_S,
    MOST_LINES,
    MOST_OPTIONS,
    custom_check,
    is_simple,
    read_options,
    steps_of,
)

PLAIN = {
    "station": Station.BAG,
    "title": "Warm up",
    "how": "",
    "why": "",
    "grounds": False,
    "frequency": Frequency.LAUNCH,
}


class Steps(unittest.TestCase):
    def test_lists_as_people_write_them(self) -> None:
        text = """
        1. Wings on
        2) Bolt  tight
        - Pitot cover off
        [ ] Canopy locked
        ☐ Camera on
        * Wings on

        3 blades checked
        """
        wanted = ("Wings on", "Bolt tight", "Pitot cover off", "Canopy locked", "Camera on", "3 blades checked")
        self.assertEqual(steps_of(text), wanted)

    def test_what_cannot_be(self) -> None:
        for text in ("", "  \n - \n", "\n".join(f"step {i}" for i in range(MOST_LINES + 1)), "x" * 101):
            with self.assertRaises(InputError):
                steps_of(text)


class Options(unittest.TestCase):
    def test_good_and_bad_answers(self) -> None:
        options = read_options("Full\ncaution: Half\nGrounds: Empty")
        self.assertEqual(
            [(o.label, o.level) for o in options],
            [("Full", Level.CLEAR), ("Half", Level.CAUTION), ("Empty", Level.GROUNDED)],
        )
        self.assertTrue(is_simple(AskChoice(options=options)))

    def test_what_cannot_be(self) -> None:
        for text in ("", "Full", "caution: a\ngrounds: b", "caution:\nGood", "\n".join("abcdefghi")):
            with self.assertRaises(InputError):
                read_options(text)
        self.assertEqual(len("abcdefghi"), MOST_OPTIONS + 1)


class Asks(unittest.TestCase):
    def test_a_choice_and_a_count(self) -> None:
        choice = custom_check("custom.1", **PLAIN, options=read_options("Full\ngrounds: Empty"))  # type: ignore[arg-type]
        count = custom_check("custom.2", **PLAIN, seconds=30, only_for=(4,))  # type: ignore[arg-type]
        self.assertIsInstance(choice.ask, AskChoice)
        self.assertEqual((count.ask, count.only_for), (AskTimer(seconds=30), (4,)))
        for seconds in (0, LONGEST_COUNT_S + 1):
            self.assertFalse(is_simple(AskTimer(seconds=seconds)))
