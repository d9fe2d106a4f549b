"""The rotor map against rigid-body and blade arithmetic done here, with numpy, from first principles."""

import unittest
from collections import deque
from itertools import combinations, product

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, said, variants
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.propeller_check import (
    RotorSeen,
    fewest_swaps,
    judge_propellers,
    judge_spins,
    thrust_sign,
    upside_down,
)
from walkround.core.aircraft.rotors import Rotation, rotor_layout
from walkround.core.aircraft.traits import Kind
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level

CW, CCW = Rotation.CLOCKWISE, Rotation.COUNTER
UP = np.array([0.0, 0.0, 1.0])
ROTORCRAFT = [a for a in variants() if a.kind is Kind.MULTIROTOR]


def plate_force(design: Rotation, turning: Rotation, flipped: bool) -> tuple[float, bool]:
    """Upward force on a pitched flat plate swept round, and whether its thick edge goes first (blade element, by hand).

    The plate lies along x at radius 1. Made for a sense, its thick edge points along that motion and is tilted up.
    """
    pitch, forward = np.radians(20), float(design.sign)  # counter-clockwise: the blade on +x moves along +y
    chord = np.array([0.0, forward * np.cos(pitch), np.sin(pitch)])  # from thin to thick edge
    if flipped:  # half a turn about the blade's own length
        chord = np.array([0.0, -chord[1], -chord[2]])
    normal = np.cross([1.0, 0.0, 0.0], chord)
    velocity = np.cross(turning.sign * UP, [1.0, 0.0, 0.0])
    force = -np.dot(velocity, normal) * normal
    return float(force[2]), bool(np.dot(chord, velocity) > 0)


class Blades(unittest.TestCase):
    def test_thrust_and_edge_follow_from_the_blade(self) -> None:
        for design, turning, flipped in product(Rotation, Rotation, (False, True)):
            with self.subTest(design=design, turning=turning, flipped=flipped):
                force, thick_first = plate_force(design, turning, flipped)
                self.assertEqual(thrust_sign(design, turning), np.sign(force))
                self.assertEqual(upside_down(design, turning, thick_first), flipped)


def fewest_by_search(rotations: tuple[Rotation, ...], wanted: tuple[Rotation, ...]) -> int:
    """Fewest exchanges and replacements, found by trying all of them, breadth first."""
    queue, seen = deque([(rotations, 0)]), {rotations}
    while queue:
        now, steps = queue.popleft()
        if now == wanted:
            return steps
        nexts = []
        for i, j in combinations(range(len(now)), 2):
            swapped = list(now)
            swapped[i], swapped[j] = swapped[j], swapped[i]
            nexts.append(tuple(swapped))
        nexts += [(*now[:i], now[i].other, *now[i + 1 :]) for i in range(len(now))]
        for state in nexts:
            if state not in seen:
                seen.add(state)
                queue.append((state, steps + 1))
    raise AssertionError("unreachable")


@st.composite
def mixed(draw: st.DrawFn) -> tuple[Aircraft, list[RotorSeen]]:
    aircraft = draw(st.sampled_from(ROTORCRAFT))
    seen = [
        RotorSeen(
            number=r.number,
            rotation=draw(st.sampled_from(list(Rotation))),
            edge_leads=draw(st.sampled_from([True, False])),
        )
        for r in rotor_layout(aircraft)
    ]
    return aircraft, seen


class Swaps(unittest.TestCase):
    @given(mixed())
    def test_they_always_lead_to_a_correct_rotor_and_none_is_too_many(
        self, case: tuple[Aircraft, list[RotorSeen]]
    ) -> None:
        aircraft, seen = case
        wanted = {r.number: r.spin for r in rotor_layout(aircraft)}
        rotations = {piece.number: piece.rotation for piece in seen}
        # A propeller of either hand is upside down exactly when its edge disagrees with its hand and the motor's sense.
        over = {p.number: upside_down(p.rotation, wanted[p.number], bool(p.edge_leads)) for p in seen if p.rotation}
        steps = fewest_swaps(aircraft, seen)
        turned = 0
        for step in steps:
            if len(step.rotors) == 2:
                a, b = step.rotors
                rotations[a], rotations[b] = rotations[b], rotations[a]
                over[a] = over[b] = False  # refitted the right way up
            elif rotations[step.rotors[0]] is step.rotation:
                over[step.rotors[0]] = False
                turned += 1
            else:
                rotations[step.rotors[0]], over[step.rotors[0]] = step.rotation, False
        self.assertEqual(rotations, wanted)
        self.assertFalse(any(over.values()))
        after = [RotorSeen(number=n, rotation=h, edge_leads=True) for n, h in rotations.items()]
        self.assertEqual(judge_propellers(aircraft, after)[0].level, Level.CLEAR)
        before = tuple(p.rotation for p in seen)
        self.assertEqual(len(steps) - turned, fewest_by_search(before, tuple(wanted[p.number] for p in seen)))  # type: ignore[arg-type]

    def test_words(self) -> None:
        right = {r.number: r.spin for r in rotor_layout(QUAD)}
        seen = [RotorSeen(number=n, rotation=s.other if n in (1, 2) else s, edge_leads=True) for n, s in right.items()]
        (finding,) = judge_propellers(QUAD, seen)
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertIn("Front right and rear right would push down", said(finding))
        self.assertIn("tip over to the right", said(finding))
        self.assertEqual(finding.remedy, "Swap the propellers rear right and front right.")
        seen = [RotorSeen(number=n, rotation=s, edge_leads=n != 3) for n, s in right.items()]
        (finding,) = judge_propellers(QUAD, seen)
        self.assertIn("Rear left: fitted upside down", said(finding))
        self.assertIn("Turn the propeller at rear left over", finding.remedy)
        seen = [RotorSeen(number=n, rotation=s.other, edge_leads=True) for n, s in right.items()]
        self.assertIn("It would not lift", said(judge_propellers(QUAD, seen)[0]))

    def test_what_was_not_looked_at_is_asked_for(self) -> None:
        with self.assertRaisesRegex(InputError, "Look at rear right, rear left and front left|Rear right"):
            judge_propellers(QUAD, [RotorSeen(number=1, rotation=CCW)])
        with self.assertRaisesRegex(InputError, "no rotor number 7"):
            judge_propellers(QUAD, [RotorSeen(number=7, rotation=CCW)])
        with self.assertRaisesRegex(InputError, "named twice"):
            judge_propellers(QUAD, [RotorSeen(number=1, rotation=CCW)] * 2)


class Motors(unittest.TestCase):
    def judged(self, spins: dict[int, Rotation], aircraft: Aircraft = QUAD):  # type: ignore[no-untyped-def]
        return judge_spins(aircraft, [RotorSeen(number=n, spin=s) for n, s in spins.items()])

    def test_as_drawn_some_wrong_and_all_wrong(self) -> None:
        right = {r.number: r.spin for r in rotor_layout(QUAD)}
        self.assertEqual([f.level for f in self.judged(right)], [Level.CLEAR])
        one = self.judged({**right, 2: right[2].other})
        self.assertEqual([f.name for f in one], ["Sense", "Yaw torque"])
        self.assertIn("Rear right turns the wrong way", said(one[0]))
        self.assertIn(
            "yaw clockwise by itself", said(one[1])
        )  # three turn counter-clockwise, the frame goes the other way
        self.assertIn("three wires", one[0].remedy)
        everything = self.judged({n: s.other for n, s in right.items()})
        self.assertEqual([f.name for f in everything], ["Sense"])
        self.assertIn("Every motor turns the other way: this aircraft is set up in reverse", said(everything[0]))

    def test_every_motor_is_run(self) -> None:
        with self.assertRaisesRegex(InputError, "Test the motor at rear right too"):
            self.judged({1: CCW})


class LeftAndRight(unittest.TestCase):
    """By hand: a rotor that pushes down pulls its own corner down; motors turn the airframe against their own sense."""

    def seen(self, aircraft, wrong=(), spins=(), over=()):  # type: ignore[no-untyped-def]
        return [
            RotorSeen(
                number=r.number,
                rotation=other(r.spin) if r.name in wrong else r.spin,
                edge_leads=r.name not in over,
                spin=other(r.spin) if r.name in spins else r.spin,
            )
            for r in rotor_layout(aircraft)
        ]

    def test_the_corner_that_drops(self) -> None:
        for corner in ("front left", "front right", "rear left", "rear right"):
            (finding,) = judge_propellers(QUAD, self.seen(QUAD, (corner,)))
            self.assertIn(f"It would tip over to the {corner}.", said(finding))
            self.assertTrue(said(finding).startswith(corner.capitalize() + " would push down"))
        for pair, side in ((("front left", "front right"), "front"), (("rear left", "rear right"), "rear"),
                           (("front left", "rear left"), "left"), (("front right", "rear right"), "right")):  # fmt: skip
            self.assertIn(f"It would tip over to the {side}.", said(judge_propellers(QUAD, self.seen(QUAD, pair))[0]))
        for pair in (("front left", "rear right"), ("front right", "rear left")):
            self.assertIn("It would not lift off.", said(judge_propellers(QUAD, self.seen(QUAD, pair))[0]))

    def test_the_way_it_turns_by_itself(self) -> None:
        """Four motors, two each way; one reversed leaves three one way: the airframe turns the other."""
        for rotor in rotor_layout(QUAD):
            found = judge_spins(QUAD, self.seen(QUAD, spins=(rotor.name,)))
            self.assertEqual([f.name for f in found], ["Sense", "Yaw torque"])
            self.assertIn(f"{rotor.name.capitalize()} turns the wrong way", said(found[0]))
            airframe = rotor.spin  # three now turn against this one's own sense
            self.assertIn(f"it would yaw {airframe.value} by itself", said(found[1]))
        two = judge_spins(QUAD, self.seen(QUAD, spins=("front left", "front right")))
        self.assertIn("Front right and front left turn the wrong way: their propellers would push down.", said(two[0]))
        self.assertEqual([f.name for f in two], ["Sense"])

    def test_upside_down(self) -> None:
        (finding,) = judge_propellers(QUAD, self.seen(QUAD, over=("rear left",)))
        self.assertEqual(
            (finding.name, said(finding)), ("Upside down", "Rear left: fitted upside down, so it lifts poorly.")
        )
        self.assertEqual(finding.remedy, "Turn the propeller at rear left over: it is upside down.")

    def test_neighbours_are_exchanged_first(self) -> None:
        """Three clockwise ones and one other wrong: the exchange is with the nearer one."""
        for pair in (("front left", "front right"), ("rear left", "rear right"), ("front left", "rear left")):
            steps = fewest_swaps(QUAD, self.seen(QUAD, pair))
            self.assertEqual([set(rotor_names(s.rotors)) for s in steps], [set(pair)])


def rotor_names(numbers) -> list[str]:  # type: ignore[no-untyped-def]
    by_number = {r.number: r.name for r in rotor_layout(QUAD)}
    return [by_number[n] for n in numbers]


def other(spin: Rotation) -> Rotation:
    return Rotation.COUNTER if spin is Rotation.CLOCKWISE else Rotation.CLOCKWISE
