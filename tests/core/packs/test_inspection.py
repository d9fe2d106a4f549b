"""Inspecting a pack: what each fault does to it."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.inspection import INSPECTION_POINTS, Severity, looks, outcome
from walkround.core.packs.pack import PackState


class Inspection(unittest.TestCase):
    """Swollen, punctured, leaking or sweet-smelling: never flown again. Common practice, no source."""

    def test_what_each_fault_does(self) -> None:
        rows = {
            "swelling": (PackState.RETIRED, True), "smell": (PackState.RETIRED, True), "puncture": (PackState.RETIRED, True),
            "crash": (PackState.QUARANTINED, False), "heat": (PackState.QUARANTINED, False), "wrap": (PackState.QUARANTINED, False),
            "contacts": (PackState.QUARANTINED, False), "latch": (PackState.QUARANTINED, False), "label": (PackState.MONITOR, False),
        }  # fmt: skip
        self.assertEqual(set(rows), {look.id for look in INSPECTION_POINTS})
        for fault, (state, condemned) in rows.items():
            with self.subTest(fault):
                seen = outcome(PACK, {fault: True})
                self.assertEqual((seen.state, seen.condemned), (state, condemned))
                self.assertEqual(bool(seen.caution), condemned, "the fire caution stands where it burns")

    def test_a_sound_look_brings_nothing_back(self) -> None:
        aside = PACK.model_copy(update={"state": PackState.QUARANTINED})
        self.assertEqual(outcome(aside, {}).state, PackState.QUARANTINED)

    @given(
        st.sets(st.sampled_from([look.id for look in INSPECTION_POINTS])),
        st.sampled_from([look.id for look in INSPECTION_POINTS]),
    )
    def test_one_fault_more_never_flies_better(self, faults: set[str], more: str) -> None:
        order = list(PackState)
        less = outcome(PACK, dict.fromkeys(faults, True))
        worse = outcome(PACK, dict.fromkeys(faults | {more}, True))
        self.assertGreaterEqual(order.index(worse.state), order.index(less.state))
        self.assertGreaterEqual(worse.condemned, less.condemned)

    def test_nickel_neither_swells_nor_smells(self) -> None:
        ids = {look.id for look in looks(Chemistry.NIMH)}
        self.assertFalse(ids & {"swelling", "smell"})
        self.assertIn(Severity.CONDEMNED, {look.severity for look in looks(Chemistry.NIMH)})
