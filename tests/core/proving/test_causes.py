"""Causes by an independent simulation of the frame with vectors, and what narrows them."""

import itertools
import math
import unittest

import numpy as np

from walkround.core.proving.causes import (
    CAUSES,
    EXPECTED,
    SOUND,
    Cause,
    Seen,
    Test,
    choices,
    foretold,
    layout_of,
    narrow,
    outcome_of,
    separating,
    sticks_matrix,
    tilt_matrix,
)

PLACES = np.array([(-1.0, 1.0, 0.0), (1.0, 1.0, 0.0), (-1.0, -1.0, 0.0), (1.0, -1.0, 0.0)])
"""Front left, front right, rear left, rear right; x right, y to the nose, z up."""
SPINS = (1.0, -1.0, -1.0, 1.0)
"""Counter-clockwise propellers push the frame clockwise seen from above, which is a yaw to the right."""


def torque(thrusts: np.ndarray, spins: int, layout: int = 1) -> np.ndarray:
    """Roll right, pitch forward, yaw right from forces at the arms, by cross products: r × F with F up."""
    moment = sum(np.cross(place, (0, 0, t)) for place, t in zip(PLACES, thrusts, strict=True))
    # About y (to the nose), right-handed, positive lifts the left side: rolls right. About x (to the right), positive lifts the nose.
    return np.array([moment[1], -moment[0], spins * layout * sum(s * t for s, t in zip(SPINS, thrusts, strict=True))])


def mix(demand: np.ndarray, layout: int) -> np.ndarray:
    """Outputs of a controller: the least thrusts that give a demand, by the pseudo-inverse of the sound frame."""
    frame = np.array([torque(np.eye(4)[i], 1, layout) for i in range(4)]).T
    return np.linalg.pinv(frame) @ demand


def by_vectors(cause: Cause, axis: int, layout: int, *, tilt: bool) -> tuple[int, ...]:
    demand = np.zeros(3)
    demand[axis] = cause.reversed_axes[axis] if not tilt else 1
    if tilt:
        # What the board feels: the rate in its own frame, turned clockwise by so many quarter turns; then it pushes against it.
        angle = math.radians(90 * cause.quarter_turns)
        rate = np.array([demand[1] * -1, demand[0]])  # as a vector (about x to the right: nose up; about y: roll right)
        own = np.array(
            [
                rate[0] * math.cos(angle) - rate[1] * math.sin(angle),
                rate[0] * math.sin(angle) + rate[1] * math.cos(angle),
            ]
        )
        demand = -np.array([own[1], -own[0], demand[2]])
    outputs = mix(demand, layout)
    moved = torque(np.array([outputs[cause.outputs[i]] for i in range(4)]), cause.spins, layout)
    return tuple(int(np.sign(round(float(v), 9))) for v in moved)


class Matrices(unittest.TestCase):
    def test_every_cause_against_vectors(self) -> None:
        for cause, axis, layout in itertools.product(CAUSES, range(3), (1, -1)):
            with self.subTest(f"{cause.words} {axis} {layout}"):
                sticks, tilt = sticks_matrix(cause, layout), tilt_matrix(cause, layout)
                self.assertEqual(tuple(row[axis] for row in sticks), by_vectors(cause, axis, layout, tilt=False))
                self.assertEqual(tuple(row[axis] for row in tilt), by_vectors(cause, axis, layout, tilt=True))

    def test_the_layout_decides_which_way_swapped_motors_twist(self) -> None:
        """A front left propeller that turns clockwise pushes the frame to the left: reaction torque, textbook."""
        self.assertEqual((layout_of(True), layout_of(False)), (-1, 1))
        twisted = next(
            c for c in CAUSES if c.words == "The leads of the front left and front right motors are swapped."
        )
        both = {foretold(twisted, Test.STICK_RIGHT, layout) for layout in (1, -1)}
        self.assertEqual(both, {Seen.TURNS_LEFT, Seen.TURNS_RIGHT})
        for cause in CAUSES:
            found = narrow({test: foretold(cause, test, -1) for test in Test}, -1)
            self.assertEqual(found.causes, (cause,))

    def test_a_sound_one_obeys_the_stick_and_resists_the_hand(self) -> None:
        self.assertEqual(sticks_matrix(SOUND), ((1, 0, 0), (0, 1, 0), (0, 0, 1)))
        self.assertEqual(tilt_matrix(SOUND), ((-1, 0, 0), (0, -1, 0), (0, 0, -1)))
        self.assertEqual({test: foretold(SOUND, test) for test in Test}, EXPECTED)

    def test_facts_of_the_trade(self) -> None:
        """Common practice, no source: a turned board obeys the stick at first but pushes the wrong way when it is tilted; a reversed channel is the other way about; two swapped motors
        of one side make it twist."""
        for cause in CAUSES:
            obeys = sticks_matrix(cause) == sticks_matrix(SOUND)
            resists = tilt_matrix(cause) == tilt_matrix(SOUND)
            if cause.quarter_turns:
                self.assertTrue(obeys and not resists)
            if -1 in cause.reversed_axes:
                self.assertTrue(resists and not obeys)
        twisted = next(
            c for c in CAUSES if c.words == "The leads of the front left and front right motors are swapped."
        )
        self.assertIn(foretold(twisted, Test.STICK_RIGHT), (Seen.TURNS_LEFT, Seen.TURNS_RIGHT))


class Narrows(unittest.TestCase):
    def test_all_tests_together_name_each_cause_alone(self) -> None:
        for cause in CAUSES:
            found = narrow({test: foretold(cause, test) for test in Test})
            self.assertEqual(found.causes, (cause,), cause.words)
            self.assertIsNone(found.next_test)

    def test_following_the_advice_always_ends_at_the_cause(self) -> None:
        longest = 0
        for cause in CAUSES:
            seen: dict[Test, Seen] = {}
            found = narrow(seen)
            while found.next_test is not None:
                seen[found.next_test] = foretold(cause, found.next_test)
                found = narrow(seen)
            self.assertEqual(found.causes, (cause,))
            longest = max(longest, len(seen))
        self.assertLessEqual(longest, len(Test))

    def test_one_more_answer_never_adds_a_cause(self) -> None:
        for cause, tests in itertools.product(CAUSES[::3], itertools.combinations(Test, 3)):
            sizes = [len(narrow({test: foretold(cause, test) for test in tests[:n]}).causes) for n in range(4)]
            self.assertEqual(sizes, sorted(sizes, reverse=True))

    def test_nothing_fits_two_faults(self) -> None:
        self.assertEqual(
            narrow(
                {Test.STICK_RIGHT: Seen.LEFT, Test.STICK_FORWARD: Seen.BACK, Test.STICK_YAW: Seen.TURNS_LEFT}
            ).causes,
            (),
        )

    def test_what_separates_two(self) -> None:
        yaw = [
            c
            for c in CAUSES
            if c.words in ("The yaw channel is reversed.", "All motors turn the other way than the controller expects.")
        ]
        self.assertIs(separating(yaw, list(Test)), Test.SPIN)
        self.assertIsNone(separating(yaw, [Test.STICK_YAW]), "both show the same")

    def test_passed_only_when_every_test_is_done_and_right(self) -> None:
        for test in Test:
            rest = {one: what for one, what in EXPECTED.items() if one is not test}
            self.assertEqual(outcome_of(rest), "open")
            self.assertEqual(outcome_of(rest | {test: Seen.NOTHING}), "open")
        self.assertEqual(outcome_of(EXPECTED), "right")

    def test_choices_hold_every_answer_that_can_be_foretold(self) -> None:
        for cause, test in itertools.product(CAUSES, Test):
            self.assertIn(foretold(cause, test), [one for one, _ in choices(test)])
