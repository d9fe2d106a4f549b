"""Shapes that outlines are made of, and small helpers to lay them.

Coordinates in mm: x to the right wing, y towards the nose, origin at the middle. What turns them into a picture is
not our business here.
"""

import math
from typing import Literal

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.struct import Struct

ShapePoint = tuple[float, float]


class PlanformShape(Struct, frozen=True, kw_only=True):
    """A circle (one point and radius in mm), a closed polygon or an open line; ``role`` says what it is made of.

    ``part``: the id of the one part it shows, "" where its whole group is one part.
    """

    kind: Literal["circle", "polygon", "line"]
    role: str
    points: tuple[ShapePoint, ...]
    radius_mm: float = 0
    part: str = ""


class PlanformPart(Struct, frozen=True, kw_only=True):
    """A part that checks point at: its key, its name in words, its shapes, and where a pin would go."""

    key: str
    name: str
    shapes: tuple[PlanformShape, ...]
    pin: ShapePoint


class Planform(Struct, frozen=True, kw_only=True):
    """All parts from the lowest to the topmost, and the box they fill (half widths in mm)."""

    parts: tuple[PlanformPart, ...]
    half_width_mm: float
    half_height_mm: float
    words: str


def polar(angle_deg: float, radius_mm: float) -> ShapePoint:
    """A point in mm at an angle in degrees clockwise from the nose."""
    angle = math.radians(angle_deg)
    return (radius_mm * math.sin(angle), radius_mm * math.cos(angle))


def shift(points: tuple[ShapePoint, ...], by: ShapePoint) -> tuple[ShapePoint, ...]:
    """Points in mm moved by so much."""
    return tuple((x + by[0], y + by[1]) for x, y in points)


def turn(points: tuple[ShapePoint, ...], angle_deg: float) -> tuple[ShapePoint, ...]:
    """Points in mm turned clockwise about the origin by degrees."""
    angle = math.radians(angle_deg)
    cos, sin = math.cos(angle), math.sin(angle)
    return tuple((x * cos + y * sin, -x * sin + y * cos) for x, y in points)


def mirror(points: tuple[ShapePoint, ...]) -> tuple[ShapePoint, ...]:
    """Points in mm on the other side of the middle line."""
    return tuple((-x, y) for x, y in reversed(points))


def both_sides(
    role: str, points: tuple[ShapePoint, ...], left: str = "", right: str = ""
) -> tuple[PlanformShape, PlanformShape]:
    """A polygon on the right (points in mm) and its mirror on the left, with the ids of the parts that they show."""
    return (
        PlanformShape(kind="polygon", role=role, points=mirror(points), part=left),
        PlanformShape(kind="polygon", role=role, points=points, part=right),
    )


def blade(radius_mm: float, clockwise: bool) -> tuple[ShapePoint, ...]:
    """One blade along +y, in mm; the bulging edge is the leading one, so it shows the spin."""
    side = 1 if clockwise else -1
    profile = ((0.06, 0.03), (0.25, 0.12), (0.5, 0.13), (0.8, 0.08), (1.0, 0.02))
    back = ((1.0, -0.01), (0.6, -0.03), (0.25, -0.045), (0.06, -0.03))
    return tuple((side * w * radius_mm, r * radius_mm) for r, w in (*profile, *back))


def rotor_blade(radius_mm: float, clockwise: bool) -> tuple[ShapePoint, ...]:
    """One slender blade of a helicopter along +y, in mm; the rounded edge leads."""
    side = 1 if clockwise else -1
    points = ((0.045, 0.06), (0.045, 0.95), (0.02, 1.0), (-0.015, 1.0), (-0.02, 0.2), (-0.012, 0.06))
    return tuple((side * w * radius_mm, r * radius_mm) for w, r in points)


def rounded(half_width: float, top: float, bottom: float, nose: float, tail: float) -> tuple[ShapePoint, ...]:
    """A body in mm: straight sides, rounded ends given as shares of the half width."""
    points: list[ShapePoint] = []
    for i in range(9):
        angle = math.pi * i / 8
        points.append((-half_width * math.cos(angle), top - half_width * nose + half_width * nose * math.sin(angle)))
    for i in range(9):
        angle = math.pi * i / 8
        points.append((half_width * math.cos(angle), bottom + half_width * tail - half_width * tail * math.sin(angle)))
    return tuple(points)


def rectangle(x: float, y: float, half_width: float, half_height: float) -> tuple[ShapePoint, ...]:
    """A rectangle in mm about its middle."""
    return (
        (x - half_width, y - half_height),
        (x + half_width, y - half_height),
        (x + half_width, y + half_height),
        (x - half_width, y + half_height),
    )


def pack_shapes(x: float, y: float, half_width: float, half_height: float, cells: int) -> tuple[PlanformShape, ...]:
    """A pack with its cells, in mm about its middle."""
    shapes = [PlanformShape(kind="polygon", role="pack", points=rectangle(x, y, half_width, half_height))]
    shown = min(cells, 6)
    step = 2 * half_height * 0.86 / shown
    for i in range(shown):
        middle = y + half_height * 0.86 - step * (i + 0.5)
        shapes.append(
            PlanformShape(kind="polygon", role="cell", points=rectangle(x, middle, half_width * 0.72, step * 0.4))
        )
    return tuple(shapes)


def spin_arrow(hub: ShapePoint, radius: float, outward_deg: float, clockwise: bool) -> list[PlanformShape]:
    """An arc with an arrowhead outside a disc (mm), showing the direction of spin."""
    side = 1 if clockwise else -1
    start, end = outward_deg - side * 24, outward_deg + side * 24
    arc = tuple(shift((polar(start + (end - start) * i / 8, radius),), hub)[0] for i in range(9))
    tip = shift((polar(end + side * 9, radius),), hub)[0]
    inner = shift((polar(end, radius * 0.93),), hub)[0]
    outer = shift((polar(end, radius * 1.07),), hub)[0]
    return [
        PlanformShape(kind="line", role="spin", points=arc),
        PlanformShape(kind="polygon", role="spin-head", points=(tip, inner, outer)),
    ]


def camera(y: float, half_width: float) -> PlanformPart:
    """A camera at the nose, in mm: its box and its eye."""
    eye = (0.0, y + half_width * 0.16)
    shapes = (
        PlanformShape(kind="polygon", role="gimbal", points=rectangle(0, y, half_width, half_width * 0.58)),
        PlanformShape(kind="circle", role="lens", points=(eye,), radius_mm=half_width * 0.33),
    )
    return PlanformPart(key="gimbal", name="Camera", shapes=shapes, pin=(0.0, y))


def payload(aircraft: Aircraft, y: float, half_width: float) -> list[PlanformPart]:
    """The payload, in mm, for an aircraft that carries one."""
    if not aircraft.has(Trait.PAYLOAD):
        return []
    shape = PlanformShape(kind="polygon", role="payload", points=rectangle(0, y, half_width, half_width * 0.7))
    return [PlanformPart(key="payload", name="Payload", shapes=(shape,), pin=(0.0, y))]


def tank(aircraft: Aircraft, y: float, half_width: float) -> list[PlanformPart]:
    """The fuel tank, in mm, for an aircraft that has one."""
    if not aircraft.has(Trait.LIQUID_FUEL):
        return []
    shape = PlanformShape(kind="polygon", role="tank", points=rectangle(0, y, half_width * 0.9, half_width))
    return [PlanformPart(key="fuel", name="Tank", shapes=(shape,), pin=(0.0, y))]


def compass(y: float, needle: float) -> PlanformPart:
    """The compass with its needle, in mm."""
    arrow = ((0.0, y + needle * 0.8), (needle * 0.28, y), (-needle * 0.28, y))
    shapes = (
        PlanformShape(kind="circle", role="instrument", points=((0.0, y),), radius_mm=needle),
        PlanformShape(kind="polygon", role="needle", points=arrow),
    )
    return PlanformPart(key="compass", name="Compass", shapes=shapes, pin=(0.0, y))
