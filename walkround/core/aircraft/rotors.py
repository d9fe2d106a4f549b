"""Rotors of a multi-rotor: where they stand, which way each must turn, what thrust and torque do.

Axes: x to the right, y towards the nose, z up; a turn is counted positive counter-clockwise seen from above.
"""

import math
from collections.abc import Iterable, Mapping
from enum import StrEnum

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Frame, Kind
from walkround.core.base.struct import Struct


class Rotation(StrEnum):
    """A sense of rotation, seen from above; also the hand of a propeller that lifts when it turns so."""

    CLOCKWISE = "clockwise"
    COUNTER = "counter-clockwise"

    @property
    def other(self) -> "Rotation":
        """The opposite sense."""
        return Rotation.COUNTER if self is Rotation.CLOCKWISE else Rotation.CLOCKWISE

    @property
    def sign(self) -> int:
        """+1 counter-clockwise, -1 clockwise, as the axes of this module count."""
        return 1 if self is Rotation.COUNTER else -1


class Rotor(Struct, frozen=True, kw_only=True):
    """One rotor: its number, name in words, hub in mm, level, and the sense in which it must turn."""

    number: int
    name: str
    x_mm: float
    y_mm: float
    level: str = ""
    spin: Rotation


def arm_angles_deg(frame: Frame, arms: int) -> tuple[float, ...]:
    """Angles of the arms in degrees clockwise from the nose, in order.

    A plus frame has an arm straight ahead; the others have the nose between two arms, and an H frame none that spread.
    Source: common layouts; common practice, no source.
    """
    start = 0.0 if frame is Frame.PLUS else 180 / arms
    return tuple((start + 360 / arms * i) % 360 for i in range(arms))


def hubs_mm(aircraft: Aircraft) -> tuple[tuple[float, float], ...]:
    """Hub of each arm in mm, (x right, y forward), clockwise from the front. Source: sizes the pilot's, shapes common."""
    half = aircraft.span_mm / 2
    if aircraft.frame is Frame.H:
        rows = aircraft.arms // 2
        x, y = half * math.sin(math.radians(50)), half * math.cos(math.radians(50))
        steps = [y - 2 * y * i / (rows - 1) for i in range(rows)]
        return (*((x, step) for step in steps), *((-x, step) for step in reversed(steps)))
    angles = arm_angles_deg(aircraft.frame, aircraft.arms)
    return tuple((half * math.sin(math.radians(a)), half * math.cos(math.radians(a))) for a in angles)


def _place(x: float, y: float) -> str:
    """A hub in words: its larger share first."""
    angle = math.degrees(math.atan2(x, y)) % 360
    names = (
        (1, "front"), (44, "front right"), (46, "front right"), (89, "right front"), (91, "right"), (134, "right rear"),
        (136, "rear right"), (179, "rear right"), (181, "rear"), (224, "rear left"), (226, "rear left"), (269, "left rear"),
        (271, "left"), (314, "left front"), (316, "front left"), (359, "front left"), (361, "front"),
    )  # fmt: skip
    return next(name for limit, name in names if angle < limit)


def rotor_layout(aircraft: Aircraft) -> tuple[Rotor, ...]:
    """All rotors of a multi-rotor (hubs in mm): arms clockwise from the front, of coaxial pairs the upper ones first.

    Neighbours turn against each other, beginning with the front left one (the front one of a plus) as the aircraft
    says; the lower rotor of a pair turns against its upper one; a coaxial Y has all its upper ones alike.
    Raises ValueError for other kinds. Source: common layouts; common practice, no source.
    """
    if aircraft.kind is not Kind.MULTIROTOR:
        raise ValueError("Only multi-rotors have a rotor layout.")
    first = Rotation.CLOCKWISE if aircraft.front_left_clockwise else Rotation.COUNTER
    hubs = hubs_mm(aircraft)
    count = len(hubs)
    begin = 0 if aircraft.frame is Frame.PLUS else count - 1
    alike = aircraft.frame is Frame.Y_COAXIAL
    spins = [first if alike or (index - begin) % 2 == 0 else first.other for index in range(count)]
    pairs = aircraft.frame in (Frame.Y_COAXIAL, Frame.X_COAXIAL)
    upper = [
        Rotor(
            number=i + 1,
            name=_place(x, y) + (", upper" if pairs else ""),
            x_mm=x,
            y_mm=y,
            level="upper" if pairs else "",
            spin=spin,
        )
        for i, ((x, y), spin) in enumerate(zip(hubs, spins, strict=True))
    ]
    lower = [
        replace(
            rotor,
            number=rotor.number + count,
            name=rotor.name.replace("upper", "lower"),
            level="lower",
            spin=rotor.spin.other,
        )
        for rotor in upper
        if pairs
    ]
    return (*upper, *lower)


def yaw_torque(rotors: Iterable[tuple[Rotation, float]]) -> float:
    """Reaction torque on the airframe about the upward axis, as a share of one rotor's torque.

    Each rotor drags the frame against its own turn: positive is counter-clockwise. ``rotors``: sense and share of the
    usual torque. Source: action and reaction; rigid-body mechanics.
    """
    return sum(-spin.sign * share for spin, share in rotors)


def balanced(aircraft: Aircraft, spins: Mapping[int, Rotation]) -> bool:
    """Whether the reaction torques cancel with the rotors turning so (by number).

    Three rotors never cancel: the odd one is held by tilting the rear rotor. Source: rigid-body mechanics.
    """
    left_over = abs(yaw_torque((spins[r.number], 1.0) for r in rotor_layout(aircraft)))
    return left_over <= (1 if aircraft.rotors % 2 else 0)


def propeller_radius_mm(aircraft: Aircraft) -> float:
    """Radius of a propeller of a multi-rotor in mm: as described, else the largest usual one with which neighbours clear
    each other. Source: the description; 0.44 of the distance between neighbours, our choice."""
    if aircraft.propeller_mm:
        return aircraft.propeller_mm / 2
    hubs = hubs_mm(aircraft)
    nearest = min(math.dist(a, b) for i, a in enumerate(hubs) for b in hubs[i + 1 :])
    return min(0.44 * nearest, 0.33 * aircraft.span_mm)
