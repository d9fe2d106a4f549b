"""Why a multirotor answers its controls wrongly: every single cause enumerated by its sign matrix, and which test tells two causes apart.

Frames: x to the right, y to the nose. A motor at (x, y) that pushes more rolls the aircraft away from it; yaw follows its reaction torque.
"""

from collections.abc import Mapping, Sequence
from enum import StrEnum

from walkround.core.base.struct import Struct

Matrix = tuple[tuple[int, int, int], tuple[int, int, int], tuple[int, int, int]]
MOTORS: tuple[tuple[str, int, int, int], ...] = (
    ("front left", -1, 1, 1),
    ("front right", 1, 1, -1),
    ("rear left", -1, -1, -1),
    ("rear right", 1, -1, 1),
)
"""Motors of an X or H frame: name, x, y, and whether more thrust there yaws it right (1) or left (-1) where the front left one turns counter-clockwise (``layout`` 1). Source: geometry; diagonal
motors turn alike."""


def layout_of(front_left_clockwise: bool) -> int:
    """The layout of an aircraft by how its front left propeller turns seen from above: 1 where it turns counter-clockwise, -1 where clockwise, which yaws it left. Source: reaction torque."""
    return -1 if front_left_clockwise else 1


class Test(StrEnum):
    """One test of the controls: what is done."""

    TILT_NOSE = "Propellers off, motors idling: tilt its nose down by hand. Which motors speed up?"
    TILT_RIGHT = "Propellers off, motors idling: roll it to the right by hand. Which motors speed up?"
    STICK_FORWARD = "Propellers off, motors idling: pitch stick forward. Which motors speed up?"
    STICK_RIGHT = "Propellers off, motors idling: roll stick to the right. Which motors speed up?"
    STICK_YAW = "Propellers off, motors idling: yaw stick to the right. Which motors speed up?"
    SPIN = "Propellers off, motors idling: does each motor turn as on the drawing of this aircraft?"


class Seen(StrEnum):
    """What is seen, as the way in which the motors that speed up push it."""

    FORWARD = "forward"
    BACK = "back"
    LEFT = "left"
    RIGHT = "right"
    TURNS_RIGHT = "turns right"
    TURNS_LEFT = "turns left"
    NOTHING = "nothing"
    AS_DRAWN = "as drawn"
    OTHER_WAY = "the other way"


MOTORS_FOR = {
    Seen.FORWARD: "the rear ones",
    Seen.BACK: "the front ones",
    Seen.LEFT: "the right ones",
    Seen.RIGHT: "the left ones",
    Seen.TURNS_RIGHT: "the pair that turns counter-clockwise",
    Seen.TURNS_LEFT: "the pair that turns clockwise",
    Seen.NOTHING: "none of them",
}
"""Which motors speed up when it is pushed that way: those on the other side."""
EXPECTED = {
    Test.TILT_NOSE: Seen.BACK,
    Test.TILT_RIGHT: Seen.LEFT,
    Test.STICK_FORWARD: Seen.FORWARD,
    Test.STICK_RIGHT: Seen.RIGHT,
    Test.STICK_YAW: Seen.TURNS_RIGHT,
    Test.SPIN: Seen.AS_DRAWN,
}
"""What a sound aircraft does: against the hand, with the stick. Source: common practice, no source."""


class Cause(Struct, frozen=True, kw_only=True):
    """A cause: its words and what to do; how its board is turned (quarter turns clockwise), which output drives each motor, which of roll, pitch, yaw are reversed."""

    words: str
    remedy: str
    quarter_turns: int = 0
    outputs: tuple[int, int, int, int] = (0, 1, 2, 3)
    reversed_axes: tuple[int, int, int] = (1, 1, 1)
    spins: int = 1


SOUND = Cause(words="Nothing: every answer is right.", remedy="")


def _swap(i: int, j: int) -> tuple[int, int, int, int]:
    order = [0, 1, 2, 3]
    order[i], order[j] = order[j], order[i]
    return (order[0], order[1], order[2], order[3])


def _causes() -> tuple[Cause, ...]:
    found = [SOUND]
    for turns, words in ((1, "turned by 90° to the right"), (2, "turned by 180°"), (3, "turned by 90° to the left")):
        found.append(
            Cause(
                words=f"The flight controller is {words}.",
                remedy="Turn it so that its arrow points to the nose, or set its direction in the controller.",
                quarter_turns=turns,
            )
        )
    for i in range(4):
        for j in range(i + 1, 4):
            words = f"The leads of the {MOTORS[i][0]} and {MOTORS[j][0]} motors are swapped."
            found.append(
                Cause(
                    words=words,
                    remedy="Swap their signal leads at the flight controller. Then check the direction of rotation again.",
                    outputs=_swap(i, j),
                )
            )
    for turned in ((1, 3, 0, 2), (2, 0, 3, 1), (3, 2, 1, 0)):
        words = (
            "All motors are plugged in one place on, round the frame."
            if turned != (3, 2, 1, 0)
            else "Every motor is plugged in at the opposite corner."
        )
        found.append(
            Cause(words=words, remedy="Plug the signal leads in as the controller numbers them.", outputs=turned)
        )
    for axis, name in enumerate(("roll", "pitch", "yaw")):
        signs = [1, 1, 1]
        signs[axis] = -1
        found.append(
            Cause(
                words=f"The {name} channel is reversed.",
                remedy=f"Reverse {name} in the transmitter, and compare with the bars of the controller.",
                reversed_axes=(signs[0], signs[1], signs[2]),
            )
        )
    found.append(
        Cause(
            words="All motors turn the other way than the controller expects.",
            remedy="Set the direction of rotation in the controller, or swap two leads of every motor and the propellers with them.",
            spins=-1,
        )
    )
    return tuple(found)


CAUSES = _causes()


def _pushes(thrusts: Sequence[int], spins: int, layout: int) -> tuple[int, int, int]:
    """Roll to the right, pitch forward, yaw to the right that thrusts at the four motors make."""
    roll = sum(-x * t for (_, x, _, _), t in zip(MOTORS, thrusts, strict=True))
    pitch = sum(-y * t for (_, _, y, _), t in zip(MOTORS, thrusts, strict=True))
    yaw = sum(spins * layout * s * t for (_, _, _, s), t in zip(MOTORS, thrusts, strict=True))
    return roll, pitch, yaw


def _asked(roll: int, pitch: int, yaw: int, layout: int) -> list[int]:
    """What the controller sends to its four outputs for a demand."""
    return [-x * roll - y * pitch + layout * s * yaw for _, x, y, s in MOTORS]


def _driven(cause: Cause, roll: int, pitch: int, yaw: int, layout: int) -> tuple[int, int, int]:
    outputs = _asked(roll, pitch, yaw, layout)
    return _pushes([outputs[cause.outputs[i]] for i in range(4)], cause.spins, layout)


def sticks_matrix(cause: Cause, layout: int = 1) -> Matrix:
    """What it does (roll right, pitch forward, yaw right) for each stick (roll, pitch, yaw), as signs. Source: geometry of the frame."""
    columns = []
    for axis in range(3):
        demand = [0, 0, 0]
        demand[axis] = cause.reversed_axes[axis]
        columns.append([_sign(value) for value in _driven(cause, demand[0], demand[1], demand[2], layout)])
    return _by_rows(columns)


def tilt_matrix(cause: Cause, layout: int = 1) -> Matrix:
    """What its motors do about being turned by hand (roll right, pitch forward, yaw right), as signs: a sound one pushes back. Source: geometry of the frame."""
    columns = []
    for axis in range(3):
        roll, pitch, yaw = (int(axis == i) for i in range(3))
        for _ in range(cause.quarter_turns):
            roll, pitch = (
                -pitch,
                roll,
            )  # its nose points to what is right of the aircraft: a roll to the right is a pitch forward to it
        columns.append([_sign(value) for value in _driven(cause, -roll, -pitch, -yaw, layout)])
    return _by_rows(columns)


def _by_rows(columns: list[list[int]]) -> Matrix:
    rows = [(columns[0][i], columns[1][i], columns[2][i]) for i in range(3)]
    return (rows[0], rows[1], rows[2])


def _sign(value: int) -> int:
    return (value > 0) - (value < 0)


def foretold(cause: Cause, test: Test, layout: int = 1) -> Seen:
    """What a cause makes a test show. Source: its matrices."""
    if test is Test.SPIN:
        return Seen.AS_DRAWN if cause.spins > 0 else Seen.OTHER_WAY
    tilt = test in (Test.TILT_NOSE, Test.TILT_RIGHT)
    matrix = tilt_matrix(cause, layout) if tilt else sticks_matrix(cause, layout)
    axis = {Test.TILT_RIGHT: 0, Test.STICK_RIGHT: 0, Test.TILT_NOSE: 1, Test.STICK_FORWARD: 1, Test.STICK_YAW: 2}[test]
    roll, pitch, yaw = (matrix[i][axis] for i in range(3))
    if roll:
        return Seen.RIGHT if roll > 0 else Seen.LEFT
    if pitch:
        return Seen.FORWARD if pitch > 0 else Seen.BACK
    return Seen.NOTHING if not yaw else Seen.TURNS_RIGHT if yaw > 0 else Seen.TURNS_LEFT


class Narrowed(Struct, frozen=True, kw_only=True):
    """What is left: the causes that fit everything that was seen, and the next test that tells most of them apart, None where none does."""

    causes: tuple[Cause, ...]
    next_test: Test | None

    @property
    def sound(self) -> bool:
        """Whether only a sound aircraft fits."""
        return self.causes == (SOUND,)


def narrow(seen: Mapping[Test, Seen], layout: int = 1) -> Narrowed:
    """The single causes that fit what was seen; none fits where two things are wrong at once. Source: enumeration of ``CAUSES``."""
    left = tuple(cause for cause in CAUSES if all(foretold(cause, test, layout) is what for test, what in seen.items()))
    return Narrowed(causes=left, next_test=separating(left, [test for test in Test if test not in seen], layout))


def separating(causes: Sequence[Cause], tests: Sequence[Test], layout: int = 1) -> Test | None:
    """The test whose outcome leaves the fewest causes at worst; None where no test tells any two apart. Source: enumeration."""
    if len(causes) < 2:
        return None
    best, least = None, len(causes)
    for test in tests:
        shown = [foretold(cause, test, layout) for cause in causes]
        worst = max(shown.count(one) for one in set(shown))
        if worst < least:
            best, least = test, worst
    return best


def choices(test: Test) -> tuple[tuple[Seen, str], ...]:
    """What can be seen at a test, in words. Source: ``MOTORS_FOR``."""
    if test is Test.SPIN:
        return (Seen.AS_DRAWN, "all as drawn"), (Seen.OTHER_WAY, "all the other way")
    able = [one for one in Seen if one not in (Seen.AS_DRAWN, Seen.OTHER_WAY)]
    return tuple((one, MOTORS_FOR[one]) for one in able)


def outcome_of(seen: Mapping[Test, Seen]) -> str:
    """What came of the tests as a whole: "right" only once every one was done and is as it should be, else "open". Source: ``EXPECTED``."""
    return "right" if dict(seen) == EXPECTED else "open"
