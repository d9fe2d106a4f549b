"""Judging what the sticks moved: every fault its sentence, and mixing mended with the fewest steps."""

import unittest
from itertools import product

import numpy as np

from tests.support import TRAINER, said
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_direction_rules import judge_control_directions, mixing_fault
from walkround.core.aircraft.control_directions import (
    REVERSED,
    SHOWN,
    STILL,
    Stick,
    StickSeen,
    stick_tests,
)
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level

# FAA-H-8083-25, Pilot's Handbook of Aeronautical Knowledge, chapter on flight controls (from memory): stick right, right
# aileron up and left down; stick back, elevator up; right pedal, rudder right. Ruddervators: both up for stick back; for
# right rudder the right one goes down and the left one up. Elevons (delta wings): the sum of aileron and elevator.
HANDBOOK: tuple[tuple[str, frozenset[Trait], Stick, dict[str, int]], ...] = (
    ("ailerons", frozenset({Trait.AILERONS}), Stick.RIGHT_AILERON, {"left-aileron": -1, "right-aileron": 1}),
    ("elevator", frozenset({Trait.ELEVATOR}), Stick.BACK_ELEVATOR, {"elevator": 1}),
    ("rudder", frozenset({Trait.RUDDER}), Stick.RIGHT_RUDDER, {"rudder": 1}),
    ("V-tail, back", frozenset({Trait.V_TAIL}), Stick.BACK_ELEVATOR, {"left-tail-panel": 1, "right-tail-panel": 1}),
    ("V-tail, right rudder", frozenset({Trait.V_TAIL}), Stick.RIGHT_RUDDER, {"left-tail-panel": 1, "right-tail-panel": -1}),
    ("elevons, back", frozenset({Trait.ELEVONS}), Stick.BACK_ELEVATOR, {"left-elevon": 1, "right-elevon": 1}),
    ("elevons, right", frozenset({Trait.ELEVONS}), Stick.RIGHT_AILERON, {"left-elevon": -1, "right-elevon": 1}),
    ("flaps", frozenset({Trait.FLAPS}), Stick.FLAPS_DOWN, {"left-flap": -1, "right-flap": -1}),
)  # fmt: skip
WANTED = {
    Stick.RIGHT_AILERON: np.array([0, 1, 0]),  # right wing down: about the forward axis
    Stick.BACK_ELEVATOR: np.array([1, 0, 0]),  # nose up: about the axis to the right
    Stick.RIGHT_RUDDER: np.array([0, 0, -1]),  # nose right: clockwise from above
}


def wing(*traits: Trait) -> Aircraft:
    return TRAINER.model_copy(update={"traits": frozenset(traits)})


class Judged(unittest.TestCase):
    def seen(self, aircraft: Aircraft, **results: str) -> tuple[StickSeen, ...]:
        return tuple(StickSeen(stick=c.stick, result=results.get(c.stick.name, SHOWN)) for c in stick_tests(aircraft))

    def test_as_shown_is_clear(self) -> None:
        for aircraft in PRESETS.values():
            findings = judge_control_directions(aircraft, self.seen(aircraft))
            self.assertEqual([f.level for f in findings], [Level.CLEAR], aircraft.name)

    def test_reversed_grounds_and_names_the_channel(self) -> None:
        rows = (
            ("RIGHT_AILERON", REVERSED, "Left aileron and right aileron move the wrong way", "Reverse the aileron channel"),
            ("BACK_ELEVATOR", REVERSED, "Elevator moves the wrong way", "Reverse the elevator channel"),
            ("RIGHT_RUDDER", STILL, "nothing moves", "Check lead, servo and link, then the model memory"),
            ("RIGHT_AILERON", "left reversed", "the left aileron moves the wrong way, the other is right",
             "Reverse the channel of the left aileron alone"),
        )  # fmt: skip
        for stick, result, words, remedy in rows:
            with self.subTest(f"{stick} {result}"):
                (finding,) = judge_control_directions(TRAINER, self.seen(TRAINER, **{stick: result}))
                self.assertEqual(finding.level, Level.GROUNDED)
                self.assertIn(words, said(finding))
                self.assertIn(remedy, finding.remedy)

    def test_the_whole_sentence_of_each_kind_of_fault(self) -> None:
        rows = (
            ("RIGHT_AILERON", "right reversed", "Aileron stick right: the right aileron moves the wrong way, the other is right.",
             "Reverse the channel of the right aileron alone, or turn its servo arm round."),
            ("RIGHT_AILERON", REVERSED, "Aileron stick right: Left aileron and right aileron move the wrong way.",
             "Reverse the aileron channel in the transmitter, or select the right model memory."),
            ("BACK_ELEVATOR", REVERSED, "Elevator stick back: Elevator moves the wrong way.",
             "Reverse the elevator channel in the transmitter, or select the right model memory."),
            ("BACK_ELEVATOR", STILL, "Elevator stick back: nothing moves.", "Check lead, servo and link, then the model memory."),
        )  # fmt: skip
        for stick, result, words, remedy in rows:
            (finding,) = judge_control_directions(TRAINER, self.seen(TRAINER, **{stick: result}))
            self.assertEqual((said(finding), finding.remedy, finding.level), (words, remedy, Level.GROUNDED))
        (good,) = judge_control_directions(TRAINER, self.seen(TRAINER))
        self.assertEqual(said(good), "All 3 controls move correctly.")
        two = judge_control_directions(TRAINER, self.seen(TRAINER, RIGHT_AILERON=REVERSED, BACK_ELEVATOR=STILL))
        self.assertEqual([f.name for f in two], ["Aileron stick right", "Elevator stick back"])
        quad = PRESETS["race-quad"]
        (still,) = judge_control_directions(quad, self.seen(quad, TURN_RIGHT=STILL))
        self.assertEqual(said(still), "A little yaw right: nothing moves.")
        for name, stick, channel in (
            ("twin", "FLAPS_DOWN", "flap"), ("foam-trainer", "RIGHT_RUDDER", "rudder"), ("heli-single", "TAIL_RIGHT", "tail"),
            ("heli-single", "CYCLIC_FORWARD", "cyclic pitch"),
        ):  # fmt: skip
            plane = PRESETS[name]
            self.assertIn(
                f"Reverse the {channel} channel",
                judge_control_directions(plane, self.seen(plane, **{stick: REVERSED}))[0].remedy,
            )

    def test_helicopter_and_multirotor(self) -> None:
        heli, quad = PRESETS["heli-single"], PRESETS["race-quad"]
        (finding,) = judge_control_directions(heli, self.seen(heli, CYCLIC_RIGHT=REVERSED))
        self.assertIn("Reverse the cyclic roll channel", finding.remedy)
        (finding,) = judge_control_directions(quad, self.seen(quad, LEAN_FORWARD=REVERSED))
        self.assertIn("Check motor order and rotation, propellers, and flight-controller", finding.remedy)

    def test_bad_answers(self) -> None:
        with self.assertRaisesRegex(InputError, "Not tested yet: Elevator stick back, Rudder"):
            judge_control_directions(TRAINER, [StickSeen(stick=Stick.RIGHT_AILERON, result=SHOWN)])
        for stick, result in (
            (Stick.BACK_ELEVATOR, "left reversed"),
            (Stick.TAIL_RIGHT, SHOWN),
            (Stick.RIGHT_RUDDER, "odd"),
        ):
            with self.assertRaisesRegex(InputError, "is not an answer for"):
                judge_control_directions(TRAINER, [StickSeen(stick=stick, result=result)])


class Mixing(unittest.TestCase):
    """A wing with elevons is built here with every combination of reversals; the tool must name one that mends it."""

    def observed(self, left: int, right: int, pitch: int, roll: int) -> dict[Stick, str]:
        words = {(1, 1): SHOWN, (-1, -1): REVERSED, (-1, 1): "left reversed", (1, -1): "right reversed"}
        return {
            Stick.BACK_ELEVATOR: words[left * pitch, right * pitch],
            Stick.RIGHT_AILERON: words[left * roll, right * roll],
        }

    def test_every_combination_is_mended_with_the_fewest_steps(self) -> None:
        plane = PRESETS["flying-wing"]
        for signs in product((1, -1), repeat=4):
            left, right, pitch, roll = signs
            found = mixing_fault(plane, self.observed(*signs))
            with self.subTest(signs):
                if left * pitch == right * pitch == left * roll == right * roll == 1:
                    self.assertIsNone(found)
                    continue
                assert found is not None
                remedy = found[2].lower()
                mended = [
                    left * (-1 if "reverse the left elevon servo" in remedy else 1),
                    right * (-1 if "reverse the right elevon servo" in remedy else 1),
                    pitch * (-1 if "reverse elevator in the mixer" in remedy else 1),
                    roll * (-1 if "reverse aileron in the mixer" in remedy else 1),
                ]
                after = self.observed(*mended)
                self.assertEqual(set(after.values()), {SHOWN})
                self.assertLessEqual(remedy.count("reverse "), min(signs.count(-1), 4 - signs.count(-1)))

    def test_what_no_reversal_explains(self) -> None:
        plane = PRESETS["flying-wing"]
        odd = {Stick.BACK_ELEVATOR: "left reversed", Stick.RIGHT_AILERON: SHOWN}
        found = mixing_fault(plane, odd)
        assert found is not None
        self.assertIn("No reversal explains that", found[2])

    def test_nothing_is_mixed_while_one_stick_moves_nothing_or_was_not_tried(self) -> None:
        wing_ = PRESETS["flying-wing"]
        first, second = Stick.BACK_ELEVATOR, Stick.RIGHT_AILERON
        for given in (
            {first: STILL, second: REVERSED},
            {first: REVERSED, second: STILL},
            {first: REVERSED},
            {second: REVERSED},
        ):
            self.assertIsNone(mixing_fault(wing_, given), given)
        self.assertIsNone(mixing_fault(TRAINER, {first: REVERSED, second: REVERSED}))

    def test_words_of_a_mixing_fault(self) -> None:
        rows = (
            (REVERSED, SHOWN, "Reverse elevator in the mixer; then test both sticks again."),
            (SHOWN, REVERSED, "Reverse aileron in the mixer, or swap the two elevon servo leads if they are crossed; then test both sticks again."),
            ("left reversed", "left reversed", "Reverse the left elevon servo; then test both sticks again."),
            ("right reversed", "right reversed", "Reverse the right elevon servo; then test both sticks again."),
            (REVERSED, REVERSED, ("Reverse elevator in the mixer and reverse aileron in the mixer; then test both sticks again.",
                                  "Reverse the left elevon servo and reverse the right elevon servo; then test both sticks again.")),
        )  # fmt: skip
        for pitch, roll, remedy in rows:
            found = mixing_fault(PRESETS["flying-wing"], {Stick.BACK_ELEVATOR: pitch, Stick.RIGHT_AILERON: roll})
            assert found is not None
            self.assertIn(found[2], (remedy,) if isinstance(remedy, str) else remedy)
            self.assertEqual(found[1], f"Elevator stick back: {pitch}. Aileron stick right: {roll}.")
            self.assertEqual(found[0], ("Elevator stick back", "Aileron stick right"))

    def test_it_replaces_the_two_plain_findings(self) -> None:
        plane = PRESETS["flying-wing"]
        seen = [
            StickSeen(stick=Stick.BACK_ELEVATOR, result=SHOWN),
            StickSeen(stick=Stick.RIGHT_AILERON, result=REVERSED),
        ]
        (finding,) = judge_control_directions(plane, seen)
        self.assertEqual(finding.name, "Mixing")
        self.assertIn("or swap the two elevon servo leads", finding.remedy)
        glider = PRESETS["glider"]
        tail = [
            StickSeen(stick=c.stick, result=REVERSED if c.stick is Stick.RIGHT_RUDDER else SHOWN)
            for c in stick_tests(glider)
        ]
        self.assertIn("everse rudder in the mixer", judge_control_directions(glider, tail)[0].remedy)
