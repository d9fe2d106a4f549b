"""The proving programme on screen: locks, causes, caps, trims, and what Today says meanwhile."""

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.proving.causes import EXPECTED, Test
from walkround.store import hangar


class Programme(WebCase):
    def built(self) -> str:
        """A self-built quad that never flew; returns the address of its programme."""
        quad = hangar.get(Aircraft, self.numbers["Sandpiper"])
        new = quad.model_copy(
            update={
                "id": 0,
                "name": "Stint",
                "failsafe": None,
                "works": None,
                "traits": frozenset({Trait.SELF_BUILT, Trait.FLIGHT_CONTROLLER}),
            }
        )
        self.number = hangar.save(new, self.now)
        return f"/hangar/aircraft/{self.number}/proving"

    def answer_stage(self, at: str, stage: str, **form: str) -> int:
        return int(self.client.post(at, data={"stage": stage} | form).status_code)

    def test_it_locks_and_opens(self) -> None:
        at = self.built()
        page = self.client.get(at).text
        self.assertIn("Now: Failsafe on the bench", plain(page))
        self.assertEqual(len(elements(page, ".stages .locked")), 8)
        self.assertEqual(self.answer_stage(at, "hover", outcome="held"), 422)
        self.assertEqual(self.answer_stage(at, "failsafe", outcome="flies"), 422)
        self.assertEqual(self.answer_stage(at, "failsafe", outcome="runs"), 303)
        self.assertIn("Last time: The motors run on.", plain(self.client.get(at).text))
        for stage, outcome in (("failsafe", "right"), ("order", "right"), ("endpoints", "right")):
            self.assertEqual(self.answer_stage(at, stage, outcome=outcome), 303)
        self.assertIn("Now: Directions of the controls", plain(self.client.get(at).text))

    def test_a_stage_passed_by_mistake_is_answered_again(self) -> None:
        at = self.built()
        for stage in ("failsafe", "order"):
            self.answer_stage(at, stage, outcome="right")
        page = self.client.get(f"{at}?stage=failsafe").text
        self.assertIn("Again: Failsafe on the bench", plain(page))
        self.assertEqual(len(elements(page, ".stages .done a")), 2)
        self.assertEqual(self.answer_stage(at, "failsafe", outcome="runs"), 303)
        self.assertIn("Now: Failsafe on the bench", plain(self.client.get(at).text))
        self.assertIn("Now: ", plain(self.client.get(f"{at}?stage=hover").text), "a locked stage is not shown")

    def test_contradicting_answers_name_the_cause_and_the_test(self) -> None:
        at = self.built()
        for stage in ("failsafe", "order", "endpoints"):
            self.answer_stage(at, stage, outcome="right")
        self.assertEqual(self.answer_stage(at, "directions"), 422, "nothing was entered")
        self.answer_stage(at, "directions", STICK_YAW="TURNS_LEFT", STICK_RIGHT="RIGHT")
        text = plain(self.client.get(at).text)
        self.assertIn("The yaw channel is reversed.", text)
        self.assertIn("The test that tells them apart: Propellers off, motors idling: does each motor turn", text)
        self.answer_stage(at, "directions", TILT_NOSE="FORWARD")
        self.assertIn("turned by 180°", plain(self.client.get(at).text))
        self.answer_stage(
            at, "directions", **{test.name: EXPECTED[test].name for test in Test if test is not Test.SPIN}
        )
        self.assertIn("Now: Directions of the controls", plain(self.client.get(at).text), "one test is still open")
        self.answer_stage(at, "directions", **{test.name: EXPECTED[test].name for test in Test})
        self.assertIn("Now: Arm and disarm", plain(self.client.get(at).text))

    def test_today_says_stay_down_until_it_may_hover(self) -> None:
        at = self.built()
        today = plain(self.client.get(f"/?aircraft={self.number}").text)
        self.assertIn("nothing flies before it", today)
        for stage in ("failsafe", "order", "endpoints"):
            self.answer_stage(at, stage, outcome="right")
        self.answer_stage(at, "directions", **{test.name: EXPECTED[test].name for test in Test})
        self.answer_stage(at, "arm", outcome="right")
        self.answer_stage(at, "ground", outcome="crept")
        today = plain(self.client.get(f"/?aircraft={self.number}").text)
        self.assertIn("At stage 7 of 9, first hover", today)

    def test_trims_and_the_end(self) -> None:
        at = self.built()
        for stage in ("failsafe", "order", "endpoints"):
            self.answer_stage(at, stage, outcome="right")
        self.answer_stage(at, "directions", **{test.name: EXPECTED[test].name for test in Test})
        for stage, outcome in (("arm", "right"), ("ground", "crept"), ("hover", "held")):
            self.assertEqual(self.answer_stage(at, stage, outcome=outcome), 303)
        self.assertIn("No flight of it is in the logbook since the last stage", plain(self.client.get(at).text))
        self.assertEqual(self.answer_stage(at, "near", outcome="fine", pitch="lots"), 422)
        self.assertEqual(self.answer_stage(at, "near", outcome="fine", pitch="-9"), 303)
        self.assertIn("tail-heavy", plain(self.client.get(at).text))
        self.assertEqual(self.answer_stage(at, "far", outcome="fine"), 303)
        self.assertIn("Every stage is passed", plain(self.client.get(at).text))
        self.assertNotIn("Proving", plain(self.client.get(f"/?aircraft={self.number}").text))

    def test_one_that_has_flown_is_locked_by_nothing(self) -> None:
        text = plain(self.client.get(f"/hangar/aircraft/{self.numbers['Haymaker']}/proving").text)
        self.assertIn("It has flown, so nothing is locked", text)


class Elsewhere(WebCase):
    def test_the_page_of_the_aircraft_says_it(self) -> None:
        text = plain(self.client.get(f"/hangar/aircraft/{self.numbers['Mayfly']}").text)
        self.assertIn("Being proved: stage 1 of 5, failsafe on the bench", text)
        self.assertNotIn("Being proved", plain(self.client.get(f"/hangar/aircraft/{self.numbers['Haymaker']}").text))
