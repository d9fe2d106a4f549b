"""Control directions against the handbook's words and against moments computed here with numpy."""

import unittest

import numpy as np

from tests.support import TRAINER, variants
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import (
    REVERSED,
    SHOWN,
    STILL,
    Stick,
    moment,
    rotor_speeds,
    stick_tests,
    surfaces,
    way,
)
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Kind, Trait

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
                call = next(c for c in stick_tests(wing(*traits)) if c.stick is stick)
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
                self.assertGreater(moved @ wanted, 0, f"{surface.part} {stick}")
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
                for r in rotor_layout(aircraft):
                    moment += np.cross([r.x_mm, r.y_mm, 0], [0, 0, more[r.number]])
                    moment += 1e-3 * np.array([0, 0, -r.spin.sign * more[r.number]])
                with self.subTest(f"{aircraft.name} {stick}"):
                    self.assertGreater(moment @ wanted, 0)

    def test_every_aircraft_with_something_to_move_has_its_calls(self) -> None:
        for aircraft in variants():
            sticks = [c.stick for c in stick_tests(aircraft)]
            self.assertEqual(len(sticks), len(set(sticks)))
            self.assertTrue(sticks, aircraft.name)
            for call in stick_tests(aircraft):
                self.assertTrue(call.motions and call.effect and call.words)


class Said(unittest.TestCase):
    """What each stick must move, in words with their sides: FAA-H-8083-25 for surfaces (from memory), mechanics for rotors."""

    def words(self, name: str) -> dict[Stick, tuple[list[str], str]]:
        return {c.stick: ([m.words for m in c.motions], c.effect) for c in stick_tests(PRESETS[name])}

    def test_wings(self) -> None:
        roll, pitch, yaw = "rolls to the right", "raises the nose", "turns the nose to the right"
        self.assertEqual(self.words("foam-trainer"), {
            Stick.RIGHT_AILERON: (["left aileron down", "right aileron up"], roll),
            Stick.BACK_ELEVATOR: (["elevator up"], pitch),
            Stick.RIGHT_RUDDER: (["rudder right", "nose wheel steers right"], yaw),
        })  # fmt: skip
        self.assertEqual(self.words("low-wing")[Stick.RIGHT_RUDDER][0], ["rudder right", "tail wheel steers right"])
        flaps = (["left flap down", "right flap down"], "adds lift and drag, both sides alike")
        self.assertEqual(self.words("twin")[Stick.FLAPS_DOWN], flaps)
        self.assertEqual(self.words("flying-wing"), {
            Stick.RIGHT_AILERON: (["left elevon down", "right elevon up"], roll),
            Stick.BACK_ELEVATOR: (["left elevon up", "right elevon up"], pitch),
        })  # fmt: skip
        self.assertEqual(
            self.words("glider")[Stick.RIGHT_RUDDER], (["left tail panel up", "right tail panel down"], yaw)
        )
        self.assertEqual(
            self.words("glider")[Stick.BACK_ELEVATOR], (["left tail panel up", "right tail panel up"], pitch)
        )

    def test_rotors(self) -> None:
        for name, plate, turning in (
            ("heli-single", "swashplate", "tail blades pitch so that the tail is pushed to the left"),
            ("heli-coaxial", "lower swashplate", "upper and lower rotor change speed against each other"),
        ):
            self.assertEqual(self.words(name), {
                Stick.CYCLIC_RIGHT: ([f"{plate} tilts down to the right"], "rolls to the right"),
                Stick.CYCLIC_FORWARD: ([f"{plate} tilts down at the front"], "lowers the nose"),
                Stick.TAIL_RIGHT: ([turning], "turns the nose to the right"),
            })  # fmt: skip
        self.assertEqual([m.words for c in stick_tests(PRESETS["race-quad"]) for m in c.motions], [
            "it leans forward: the tail lifts", "it leans right: the left side lifts", "it turns right: the nose goes right",
        ])  # fmt: skip

    def test_a_wheel_alone_still_answers_the_rudder_stick(self) -> None:
        (call,) = [c for c in stick_tests(wing(Trait.WHEELS, Trait.ELEVATOR)) if c.stick is Stick.RIGHT_RUDDER]
        self.assertEqual([m.words for m in call.motions], ["tail wheel steers right"])
        self.assertEqual([c.stick for c in stick_tests(wing(Trait.ELEVATOR))], [Stick.BACK_ELEVATOR])

    def test_every_motion_goes_its_way_and_stands_where_it_is(self) -> None:
        """Left lies to the left of the middle, and a mirrored pair mirrors; what is shown points the way it is said."""
        traits = (Trait.AILERONS, Trait.ELEVATOR, Trait.RUDDER, Trait.V_TAIL, Trait.FLAPS, Trait.ELEVONS)
        by_key = {s.part: s for s in surfaces(wing(*traits))}
        for key, surface in by_key.items():
            sign = {"left": -1, "right": 1, "": 0}[surface.side]
            self.assertEqual(np.sign(surface.r[0]), sign, key)
            if surface.side:
                other = by_key[key.replace("left", "x").replace("right", "left").replace("x", "right")]
                self.assertEqual(other.r, (-surface.r[0], *surface.r[1:]))
                self.assertEqual(other.n, (-surface.n[0], *surface.n[1:]))
            self.assertLess(surface.r[1], 0, "rear edges lie behind the centre of gravity")
        for aircraft in variants():
            for call in stick_tests(aircraft):
                for motion in call.motions:
                    up = {"up": 1, "down": -1, "right": 1, "left": -1}.get(motion.words.split()[-1])
                    if up is not None and aircraft.kind is Kind.WING:
                        self.assertEqual(up, motion.way, motion.words)

    def test_where_they_stand(self) -> None:
        """Shares of the span from the centre of gravity, and the way each looks: the drawing stands on them. Our choice."""
        traits = (Trait.AILERONS, Trait.ELEVATOR, Trait.RUDDER, Trait.V_TAIL, Trait.FLAPS, Trait.ELEVONS)
        places = {s.part: (s.r, s.n) for s in surfaces(wing(*traits)) if s.side != "left"}
        self.assertEqual(places, {
            "right-aileron": ((0.36, -0.06, 0), (0, 0, 1)), "right-elevon": ((0.3, -0.16, 0), (0, 0, 1)),
            "right-tail-panel": ((0.1, -0.5, 0.08), (-0.64, 0, 0.77)), "elevator": ((0, -0.5, 0), (0, 0, 1)),
            "rudder": ((0, -0.5, 0.08), (1, 0, 0)), "right-flap": ((0.15, -0.06, 0), (0, 0, 1)),
        })  # fmt: skip
        for surface in surfaces(wing(*traits)):
            for ours, theirs in zip(moment(surface), np.cross(surface.r, -np.array(surface.n)), strict=True):
                self.assertAlmostEqual(ours, theirs)

    def test_answers_offered(self) -> None:
        by_stick = {c.stick: c.results() for c in stick_tests(TRAINER)}
        sides = (SHOWN, REVERSED, "left reversed", "right reversed", STILL)
        self.assertEqual(by_stick[Stick.RIGHT_AILERON], sides)
        self.assertEqual(by_stick[Stick.RIGHT_RUDDER], (SHOWN, REVERSED, STILL))

    def test_a_rotor_on_the_axis_stays(self) -> None:
        """On a plus frame the front and rear rotors do nothing for a lean to the right, the side ones nothing forward."""
        plus = next(a for a in variants() if a.frame == "plus" and a.rotors == 4)
        places = {r.number: (round(r.x_mm), round(r.y_mm)) for r in rotor_layout(plus)}
        for number, (x, y) in places.items():
            self.assertEqual(rotor_speeds(plus, Stick.LEAN_RIGHT)[number], -np.sign(x))
            self.assertEqual(rotor_speeds(plus, Stick.LEAN_FORWARD)[number], -np.sign(y))
            self.assertNotEqual(rotor_speeds(plus, Stick.TURN_RIGHT)[number], 0)
