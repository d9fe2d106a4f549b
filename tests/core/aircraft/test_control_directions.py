"""Control directions against the handbook's words and against moments computed here with numpy."""

import unittest
from itertools import product

import numpy as np

from tests.support import TRAINER, said, variants
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import (
    REVERSED,
    SHOWN,
    STILL,
    MoveSeen,
    Stick,
    calls,
    judge_moves,
    mixing_fault,
    rotor_speeds,
    surfaces,
    way,
)
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.rotors import layout
from walkround.core.aircraft.traits import Kind, Trait
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


class Directions(unittest.TestCase):
    def test_the_handbook_s_words(self) -> None:
        for name, traits, stick, expected in HANDBOOK:
            with self.subTest(name):
                call = next(c for c in calls(wing(*traits)) if c.stick is stick)
                self.assertEqual({m.key: m.way for m in call.motions}, expected)

    def test_moments_by_numpy(self) -> None:
        everything = surfaces(wing(Trait.AILERONS, Trait.ELEVATOR, Trait.RUDDER, Trait.V_TAIL, Trait.FLAPS))
        checked = 0
        for surface in (*everything, *surfaces(wing(Trait.ELEVONS))):
            for stick, wanted in WANTED.items():
                moment = np.cross(surface.r, -np.array(surface.n))
                if abs(moment @ wanted) < 1e-9:
                    continue
                moved = way(surface, stick) * moment
                self.assertGreater(moved @ wanted, 0, f"{surface.key} {stick}")
                checked += 1
        self.assertGreater(checked, 12)

    def test_rotors_speed_up_where_the_lean_lifts_and_against_the_turn(self) -> None:
        for aircraft in (a for a in variants() if a.kind is Kind.MULTIROTOR):
            for stick, wanted in (
                (Stick.LEAN_RIGHT, np.array([0, 1, 0])), (Stick.LEAN_FORWARD, np.array([-1, 0, 0])),
                (Stick.TURN_RIGHT, np.array([0, 0, -1])),
            ):  # fmt: skip
                more = rotor_speeds(aircraft, stick)
                moment = np.zeros(3)
                for r in layout(aircraft):
                    moment += np.cross([r.x_mm, r.y_mm, 0], [0, 0, more[r.number]])
                    moment += 1e-3 * np.array([0, 0, -r.spin.sign * more[r.number]])
                with self.subTest(f"{aircraft.name} {stick}"):
                    self.assertGreater(moment @ wanted, 0)

    def test_every_aircraft_with_something_to_move_has_its_calls(self) -> None:
        for aircraft in variants():
            sticks = [c.stick for c in calls(aircraft)]
            self.assertEqual(len(sticks), len(set(sticks)))
            self.assertTrue(sticks, aircraft.name)
            for call in calls(aircraft):
                self.assertTrue(call.motions and call.effect and call.words)


class Judged(unittest.TestCase):
    def seen(self, aircraft: Aircraft, **results: str) -> tuple[MoveSeen, ...]:
        return tuple(MoveSeen(stick=c.stick, result=results.get(c.stick.name, SHOWN)) for c in calls(aircraft))

    def test_as_shown_is_clear(self) -> None:
        for aircraft in PRESETS.values():
            findings = judge_moves(aircraft, self.seen(aircraft))
            self.assertEqual([f.level for f in findings], [Level.CLEAR], aircraft.name)

    def test_reversed_grounds_and_names_the_channel(self) -> None:
        rows = (
            ("RIGHT_AILERON", REVERSED, "Left aileron and right aileron move the wrong way", "Reverse the aileron channel"),
            ("BACK_ELEVATOR", REVERSED, "Elevator moves the wrong way", "Reverse the elevator channel"),
            ("RIGHT_RUDDER", STILL, "nothing moves", "Lead, servo, link"),
            ("RIGHT_AILERON", "left reversed", "the left aileron moves the wrong way, the other is right",
             "Reverse the channel of the left aileron alone"),
        )  # fmt: skip
        for stick, result, words, remedy in rows:
            with self.subTest(f"{stick} {result}"):
                (finding,) = judge_moves(TRAINER, self.seen(TRAINER, **{stick: result}))
                self.assertEqual(finding.level, Level.GROUNDED)
                self.assertIn(words, said(finding))
                self.assertIn(remedy, finding.remedy)

    def test_helicopter_and_multirotor(self) -> None:
        heli, quad = PRESETS["heli-single"], PRESETS["race-quad"]
        (finding,) = judge_moves(heli, self.seen(heli, CYCLIC_RIGHT=REVERSED))
        self.assertIn("Reverse the cyclic roll channel", finding.remedy)
        (finding,) = judge_moves(quad, self.seen(quad, LEAN_FORWARD=REVERSED))
        self.assertIn("direction the board is mounted", finding.remedy)

    def test_bad_answers(self) -> None:
        with self.assertRaisesRegex(InputError, "Still to try: Elevator stick back, Rudder"):
            judge_moves(TRAINER, [MoveSeen(stick=Stick.RIGHT_AILERON, result=SHOWN)])
        for stick, result in (
            (Stick.BACK_ELEVATOR, "left reversed"),
            (Stick.TAIL_RIGHT, SHOWN),
            (Stick.RIGHT_RUDDER, "odd"),
        ):
            with self.assertRaisesRegex(InputError, "is no answer for"):
                judge_moves(TRAINER, [MoveSeen(stick=stick, result=result)])


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

    def test_it_replaces_the_two_plain_findings(self) -> None:
        plane = PRESETS["flying-wing"]
        seen = [MoveSeen(stick=Stick.BACK_ELEVATOR, result=SHOWN), MoveSeen(stick=Stick.RIGHT_AILERON, result=REVERSED)]
        (finding,) = judge_moves(plane, seen)
        self.assertEqual(finding.name, "Mixing")
        self.assertIn("or exchange the two elevon servo leads", finding.remedy)
        glider = PRESETS["glider"]
        tail = [
            MoveSeen(stick=c.stick, result=REVERSED if c.stick is Stick.RIGHT_RUDDER else SHOWN) for c in calls(glider)
        ]
        self.assertIn("everse rudder in the mixer", judge_moves(glider, tail)[0].remedy)
