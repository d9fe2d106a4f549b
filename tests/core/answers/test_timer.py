"""A count with the aircraft's own signal: a slow start is noticed once it is known how long it takes, and never makes a short count good."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, situation, with_history
from walkround.core.answers import KINDS
from walkround.core.answers.timer import AskTimer, Counted
from walkround.core.base.finding import Level, worst
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.judge import RoundCase

CHECK = next(check for check in CHECKS if check.id == "power.still_long")


def level(seconds: float, signal_s: float | None, usual: float | None) -> Level:
    case = with_history(situation(), still_usual_s=usual)
    return worst(
        KINDS["timer"].judge(CHECK, Counted(seconds=seconds, signal_s=signal_s), RoundCase(Context(case, {})), NOW)
    )


class Signal(unittest.TestCase):
    def test_rows(self) -> None:
        assert isinstance(CHECK.ask, AskTimer) and CHECK.ask.signal
        for seconds, signal_s, usual, expected in (
            (20, None, None, Level.CLEAR),
            (20, 13, None, Level.CLEAR),
            (20, 13, 14, Level.CLEAR),
            (30, 28, 14, Level.CAUTION),
            (60, 58, 14, Level.GROUNDED),
            (12, 11, 14, Level.GROUNDED),
        ):
            self.assertIs(level(seconds, signal_s, usual), expected, (seconds, signal_s, usual))

    @given(st.floats(0, 90), st.none() | st.floats(0.5, 90), st.none() | st.floats(2, 60))
    def test_a_signal_never_makes_a_short_count_good(
        self, seconds: float, signal_s: float | None, usual: float | None
    ) -> None:
        self.assertGreaterEqual(level(seconds, signal_s, usual), level(seconds, None, usual))
