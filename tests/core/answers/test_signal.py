"""The signal as a screen shows it ten metres away: bars, per cent, dBm."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import piece, said, situation
from walkround.core.answers.signal import DBM, LOWEST_DBM, AskSignal, SignalShown
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.judge import judge

CHECK = next(check for check in CHECKS if check.id == "link.signal")


def judged(answer: SignalShown) -> Finding:
    """What is found of a signal."""
    return judge(CHECK, piece("link.signal", answer), Context(situation(), {}))[0]


class Signal(unittest.TestCase):
    def test_one_way_of_showing_it(self) -> None:
        for wrong in ({}, {"percent": 50, "bars": 2}, {"bars": 6, "of": 5}, {"percent": 50, "dbm": -50}):
            with self.assertRaises(InputError):
                SignalShown(**wrong)  # type: ignore[arg-type]

    def test_free_space_is_clear_and_far_less_is_not(self) -> None:
        """Recommendation ITU-R P.525, equation for the free-space loss: 32.4 + 20 log f + 20 log d, in MHz and km (from memory).
        100 mW are 20 dBm: so strong it is at 10 m in the open, at 2.4 GHz and at 5.8 GHz."""
        for mhz in (2_400, 5_800):
            loss = 32.4 + 20 * math.log10(mhz) + 20 * math.log10(0.010)
            self.assertIs(judged(SignalShown(dbm=20 - loss)).level, Level.CLEAR)
        at_2_4_ghz = 20 - (32.4 + 20 * math.log10(2_400) + 20 * math.log10(0.010))
        self.assertAlmostEqual(at_2_4_ghz - (DBM.caution_below or 0), 20, delta=0.1)
        self.assertAlmostEqual(at_2_4_ghz - (DBM.ground_below or 0), 35, delta=0.1)

    def test_bars(self) -> None:
        found = [judged(SignalShown(bars=n)) for n in range(6)]
        self.assertEqual([f.level for f in found], [Level.GROUNDED] * 4 + [Level.CAUTION, Level.CLEAR])
        self.assertEqual(said(found[5]), "All 5 bars.")
        self.assertEqual(said(found[4]), "4 of 5 bars. So near it should be full.")
        self.assertEqual(said(found[1]), "1 of 5 bars so near.")

    @given(of=st.integers(2, 10), a=st.integers(0, 10), b=st.integers(0, 10))
    def test_fewer_bars_never_read_better(self, of: int, a: int, b: int) -> None:
        few, many = sorted((min(a, of), min(b, of)))
        self.assertGreaterEqual(judged(SignalShown(bars=few, of=of)).level, judged(SignalShown(bars=many, of=of)).level)

    @given(a=st.floats(0, 1), b=st.floats(0, 1))
    def test_a_weaker_signal_never_reads_better(self, a: float, b: float) -> None:
        weak, strong = sorted((a, b))
        self.assertGreaterEqual(
            judged(SignalShown(percent=100 * weak)).level, judged(SignalShown(percent=100 * strong)).level
        )
        dbm = [LOWEST_DBM * (1 - share) for share in (weak, strong)]
        self.assertGreaterEqual(judged(SignalShown(dbm=dbm[0])).level, judged(SignalShown(dbm=dbm[1])).level)

    def test_it_is_remembered_in_its_unit(self) -> None:
        for shown, unit in (
            (SignalShown(bars=4), "count"),
            (SignalShown(percent=97), "percent"),
            (SignalShown(dbm=-50), "signal"),
        ):
            kept = shown.remembered(AskSignal())
            assert kept is not None
            self.assertEqual(kept.measure.value, unit)
