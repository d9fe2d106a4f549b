"""What follows from answers and flights."""

import unittest

from tests.support import NOW, QUAD, piece, situation
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.answers.choice import Chosen
from walkround.core.answers.rotors import RotorsSeen
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.round.consequences import Happened, after_flight, calibration_from, snag_from
from walkround.core.round.context import Context
from walkround.core.round.judge import judge
from walkround.demo.walker import good_answer


class Answers(unittest.TestCase):
    def opened(self, check_id: str, answer):  # type: ignore[no-untyped-def]
        check = next(c for c in CHECKS if c.id == check_id)
        return snag_from(check, answer, judge(check, piece(check_id, answer), Context(situation(), {})), QUAD)

    def test_a_fault_in_the_pilot_s_words_or_the_check_s(self) -> None:
        snag = self.opened("airframe.shell", Fault(note="crack"))
        self.assertEqual((snag.on, snag.title, snag.grounds), (SnagOn.AIRCRAFT, "crack", True))
        self.assertEqual(self.opened("airframe.shell", Fault()).title, "The airframe is damaged")
        self.assertTrue(self.opened("airframe.gimbal", Fault(note="loose")).grounds, "Secure it or remove it")
        self.assertFalse(self.opened("airframe.vents", Fault(note="grass")) is not None)
        self.assertIs(self.opened("pack.body", Fault()).on, SnagOn.PACK)

    def test_a_choice_and_a_drawing(self) -> None:
        self.assertFalse(self.opened("after.heat", Chosen(option="one")).grounds)
        self.assertTrue(self.opened("after.heat", Chosen(option="hot")).grounds)
        wrong = tuple(RotorSeen(number=r.number, rotation=r.spin.other, edge_leads=True) for r in rotor_layout(QUAD))
        self.assertIn("would push down", self.opened("airframe.propeller_side", RotorsSeen(seen=wrong)).title)

    def test_what_opens_none(self) -> None:
        for check_id, answer in (
            ("airframe.shell", Passed()),
            ("field.people", Chosen(option="birds")),
            ("field.path", Fault()),
        ):
            self.assertIsNone(self.opened(check_id, answer), check_id)
        for check in CHECKS:
            if check.applies.fits(QUAD) and not check.id.startswith("bench.motor_order"):
                self.assertIsNone(self.opened(check.id, good_answer(check, situation(), NOW)), check.id)

    def test_calibrations(self) -> None:
        self.assertIs(calibration_from("sensors.compass", Passed()), EventKind.COMPASS_CALIBRATED)
        self.assertIsNone(calibration_from("sensors.compass", Fault()))
        self.assertIsNone(calibration_from("airframe.shell", Passed()))


class Flights(unittest.TestCase):
    def test_what_happened(self) -> None:
        rows = (
            (Happened.NOTHING, None, []), (Happened.WARNING, None, [(SnagOn.AIRCRAFT, False)]),
            (Happened.HARD_LANDING, EventKind.HARD_LANDING, []),
            (Happened.CRASH, EventKind.CRASH, [(SnagOn.AIRCRAFT, True), (SnagOn.PACK, True)]),
        )  # fmt: skip
        for what, event, snags in rows:
            with self.subTest(what):
                found, opened = after_flight(what, "gate post")
                self.assertEqual((found, [(s.on, s.grounds) for s in opened]), (event, snags))
