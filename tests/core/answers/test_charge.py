"""The charge as a smart pack shows it: a number, or LEDs and bars as a range that is judged at its low end."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, piece, said, situation
from walkround.core.answers.charge import SCREEN, AskCharge, ChargeShown
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.checklist.library import CHECKS
from walkround.core.packs.charge import from_lights
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round.context import Context
from walkround.core.round.judge import judge

CHECK = next(check for check in CHECKS if check.id == "pack.percent")


def judged(answer: ChargeShown, method: str = "full") -> Finding:
    """What is found of a charge under a method of charging."""
    case = situation(methods=ChosenMethods(charge=method))
    return next(f for f in judge(CHECK, piece("pack.percent", answer), Context(case, {})) if f.name == "Charge shown")


class Charge(unittest.TestCase):
    def test_one_way_of_showing_it(self) -> None:
        for wrong in ({}, {"percent": 50, "lit": 2}, {"lit": 5, "of": 4}):
            with self.assertRaises(InputError):
                ChargeShown(**wrong)  # type: ignore[arg-type]

    def test_four_lights_are_a_range_from_three_quarters_on(self) -> None:
        """Four lights, a quarter each: common practice, no source."""
        full = ChargeShown(lit=4)
        self.assertEqual((full.held.low, full.held.high, full.at_least), (75.0, 100.0, 75.0))
        found = judged(full)
        self.assertEqual((found.level, said(found)), (Level.CAUTION, "4 of 4 lit: 75 % to 100 %, judged at 75 %."))
        self.assertIs(judged(ChargeShown(lit=3)).level, Level.GROUNDED)
        self.assertIs(judged(full, "plan").level, Level.CLEAR)

    @given(of=st.integers(2, 10), percent=st.floats(0, 100))
    def test_a_range_holds_what_it_stands_for_and_never_reads_better(self, of: int, percent: float) -> None:
        lit = min(of, int(percent / (100 / of)) + 1)  # a gauge lights a step as soon as it is begun
        shown = ChargeShown(lit=lit, of=of)
        self.assertLessEqual(shown.held.low - 1e-9, percent)
        self.assertGreaterEqual(shown.held.high + 1e-9, percent)
        self.assertGreaterEqual(judged(shown).level, judged(ChargeShown(percent=percent)).level)

    @given(of=st.integers(2, 10))
    def test_more_lights_never_say_less(self, of: int) -> None:
        lows = [from_lights(n, of).low for n in range(of + 1)]
        self.assertEqual(lows, sorted(lows))

    def test_what_is_kept_of_it(self) -> None:
        number = ChargeShown(percent=88).pack_reading(NOW, SCREEN)
        assert number is not None
        self.assertEqual((number.percent, number.by), (88, "pilot"))
        lights = ChargeShown(lit=3).pack_reading(NOW, SCREEN)
        assert lights is not None
        self.assertEqual((lights.lights, lights.percent), (3, None))
        self.assertIsNone(ChargeShown(lit=3, of=5).pack_reading(NOW, SCREEN), "the history knows four lights")
        remembered = ChargeShown(lit=3).remembered(AskCharge())
        assert remembered is not None
        self.assertEqual(remembered.value, 50.0)
