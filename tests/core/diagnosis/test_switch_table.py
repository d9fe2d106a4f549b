"""Which switch selects what, and what the diagnosis says with it."""

import unittest

from walkround.core.aircraft.controller import generic
from walkround.core.aircraft.how_it_works import HowItWorks, SwitchUse
from walkround.core.diagnosis.arming import ArmingValues, diagnose
from walkround.core.diagnosis.switch_table import switch_table, where_selected

CARD = HowItWorks(
    switches=(
        SwitchUse(name="B", up="Manual", middle="sport", down="return"),
        SwitchUse(name="G", up="legs up", down="legs down"),
    )
)
PROFILE = generic("switch, satellites")


class Table(unittest.TestCase):
    def test_rows(self) -> None:
        rows = [(r.switch, r.place, r.selects, r.arms) for r in switch_table(CARD, PROFILE)]
        self.assertEqual(
            rows,
            [("B", "up", "Manual", "yes"), ("B", "middle", "sport", "not known"), ("B", "down", "return", "no"), ("G", "up", "legs up", ""), ("G", "down", "legs down", "")],
        )  # fmt: skip

    def test_the_diagnosis_names_the_switch(self) -> None:
        self.assertEqual(where_selected(CARD, "manual"), "switch B up")
        self.assertEqual((where_selected(CARD, "hold"), where_selected(None, "hold")), ("", ""))
        mode = next(t for t in diagnose(ArmingValues(mode="return"), PROFILE, CARD).tests if t.name == "Mode")
        self.assertIn("manual, switch B up", mode.do)
        self.assertEqual(
            next(t for t in diagnose(ArmingValues(mode="return"), PROFILE).tests if t.name == "Mode").do,
            "Select a mode in which it may arm.",
        )
