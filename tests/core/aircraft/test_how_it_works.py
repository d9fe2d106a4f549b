"""The card of an aircraft: what it refuses, what it says where."""

import unittest

from tests.support import QUAD
from walkround.core.aircraft.how_it_works import (
    ArmBy,
    HomeSet,
    HowItWorks,
    Lever,
    Means,
    Sign,
    SwitchUse,
    arm_words,
    disarm_words,
    held_words,
    home_set,
    switches_at,
    words_at,
)
from walkround.core.aircraft.lights import Blink, Colour
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.checklist.library import CHECKS

CARD = HowItWorks(
    arm=ArmBy.YAW_RIGHT, arm_least_s=5, arm_most_s=15, disarm=ArmBy.YAW_LEFT, disarm_s=2, idle_s=15, self_test_s=20,
    signs=(Sign(means=Means.READY, colour=Colour.GREEN, blink=Blink.SLOW, tones="two beeps"), Sign(means=Means.LOW, tones="a long tone")),
    switches=(SwitchUse(name="B", up="manual", down="hold", start=Lever.DOWN, launch=Lever.DOWN), SwitchUse(name="C", up="off", middle="half", down="full", landing=Lever.DOWN)),
)  # fmt: skip


class Refused(unittest.TestCase):
    def test_what_cannot_be(self) -> None:
        for make, words in (
            (lambda: HowItWorks(arm_least_s=5, arm_most_s=5), "longest hold"),
            (lambda: Sign(means=Means.READY), "colour"),
            (lambda: HowItWorks(signs=(CARD.signs[0], CARD.signs[0])), "Two signs"),
            (
                lambda: HowItWorks(switches=(CARD.switches[0], CARD.switches[0].model_copy(update={"name": "b"}))),
                "Two switches",
            ),
            (lambda: SwitchUse(name="B"), "what switch B selects"),
            (lambda: SwitchUse(name="B", up="a", down="b", launch=Lever.MIDDLE), "no place “middle”"),
        ):
            with self.subTest(words), self.assertRaises(InputError) as caught:
                make()
            self.assertIn(words, caught.exception.message)


class Says(unittest.TestCase):
    def test_words(self) -> None:
        """Held about 5 s and not over 15 s, unarmed again after about 15 s idle: common practice, no source."""
        self.assertEqual(arm_words(CARD), "Arm: throttle down, yaw right, held for 5 s, never longer than 15 s.")
        self.assertEqual(
            disarm_words(CARD),
            "Disarm: throttle down, yaw left, held for 2 s. It disarms by itself after 15 s at idle.",
        )
        self.assertEqual(CARD.signs[0].words, "green, blinking slowly; two beeps")
        self.assertEqual(
            (held_words(None, None), held_words(None, 4), held_words(3, None)),
            ("", "never held longer than 4 s", "held for 3 s"),
        )

    def test_nothing_known_says_nothing(self) -> None:
        for check in CHECKS:
            said = words_at(HowItWorks(), check.id, frozenset())
            self.assertTrue(not said or check.id == "sensors.home_point", check.id)
            self.assertEqual(switches_at(HowItWorks(), check.id)[1], ())

    def test_each_place_is_a_check_of_the_library(self) -> None:
        ids = {check.id for check in CHECKS}
        for name in (
            "power.self_test",
            "power.arming_known",
            "power.ready_to_arm",
            "sensors.satellites",
            "link.polling",
            "first.rth_trial",
            "after.off",
            "power.mode",
            "power.inert_again",
            "first.step_back",
        ):
            self.assertIn(name, ids)
        self.assertEqual([s.name for s, _ in switches_at(CARD, "power.mode")[1]], ["B"])
        self.assertEqual(switches_at(CARD, "first.step_back")[0], "Before launch")
        self.assertIn("Arm:", words_at(CARD, "power.arming_known", QUAD.features())[0])
        self.assertIn("Ready to fly: green", words_at(CARD, "power.self_test", QUAD.features())[1])

    def test_when_home_is_set(self) -> None:
        self.assertEqual(home_set(frozenset({Trait.HOME_AT_ARMING})), HomeSet.AT_ARMING)
        self.assertEqual(home_set(frozenset({Trait.HOME_IN_HOVER})), HomeSet.IN_HOVER)
        self.assertEqual(home_set(frozenset()), HomeSet.AT_FIX)
