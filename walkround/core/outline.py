"""The aircraft from above, drawn from its own traits: named parts as simple shapes.

Coordinates in mm: x to the right wing, y towards the nose, origin at the middle. What turns them into a picture is
not our business here.
"""

import math
from typing import Literal

from walkround.core.aircraft import Aircraft, Kind, Trait
from walkround.core.base import Value

Point = tuple[float, float]


class Shape(Value):
    """A circle (one point and radius in mm), a closed polygon or an open line; ``role`` says what it is made of."""

    kind: Literal["circle", "polygon", "line"]
    role: str
    points: tuple[Point, ...]
    radius_mm: float = 0


class Part(Value):
    """A part that checks point at: its key, its name in words, its shapes, and where a pin would go."""

    key: str
    name: str
    shapes: tuple[Shape, ...]
    pin: Point


class Outline(Value):
    """All parts from the lowest to the topmost, and the box they fill (half widths in mm)."""

    parts: tuple[Part, ...]
    half_width_mm: float
    half_height_mm: float
    words: str


def outline(aircraft: Aircraft) -> Outline:
    """The outline of an aircraft from above, in mm. Source: proportions are our choice, sizes the pilot's."""
    return _multirotor(aircraft) if aircraft.kind is Kind.MULTIROTOR else _wing(aircraft)


def rotor_angles_deg(rotors: int) -> tuple[float, ...]:
    """Angles of the arms in degrees clockwise from the nose, none pointing straight ahead for even numbers.

    Source: common layouts (X for four); our choice.
    """
    start = 180 / rotors if rotors % 2 == 0 else 360 / rotors / 2
    return tuple((start + 360 / rotors * i) % 360 for i in range(rotors))


def _at(angle_deg: float, radius_mm: float) -> Point:
    angle = math.radians(angle_deg)
    return (radius_mm * math.sin(angle), radius_mm * math.cos(angle))


def _shift(points: tuple[Point, ...], by: Point) -> tuple[Point, ...]:
    return tuple((x + by[0], y + by[1]) for x, y in points)


def _turn(points: tuple[Point, ...], angle_deg: float) -> tuple[Point, ...]:
    angle = math.radians(angle_deg)
    cos, sin = math.cos(angle), math.sin(angle)
    return tuple((x * cos + y * sin, -x * sin + y * cos) for x, y in points)


def _blade(radius_mm: float, clockwise: bool) -> tuple[Point, ...]:
    """One blade along +y; the bulging edge is the leading one, so it shows the direction of spin."""
    side = 1 if clockwise else -1
    profile = ((0.06, 0.03), (0.25, 0.12), (0.5, 0.13), (0.8, 0.08), (1.0, 0.02))
    back = ((1.0, -0.01), (0.6, -0.03), (0.25, -0.045), (0.06, -0.03))
    return tuple((side * w * radius_mm, r * radius_mm) for r, w in (*profile, *back))


def _rounded(half_width: float, top: float, bottom: float, nose: float, tail: float) -> tuple[Point, ...]:
    """A body: straight sides, rounded ends given as shares of the half width."""
    points: list[Point] = []
    for i in range(9):
        angle = math.pi * i / 8
        points.append((-half_width * math.cos(angle), top - half_width * nose + half_width * nose * math.sin(angle)))
    for i in range(9):
        angle = math.pi * i / 8
        points.append((half_width * math.cos(angle), bottom + half_width * tail - half_width * tail * math.sin(angle)))
    return tuple(points)


def _box(x: float, y: float, half_width: float, half_height: float) -> tuple[Point, ...]:
    return (
        (x - half_width, y - half_height),
        (x + half_width, y - half_height),
        (x + half_width, y + half_height),
        (x - half_width, y + half_height),
    )


def _pack(x: float, y: float, half_width: float, half_height: float, cells: int) -> tuple[Shape, ...]:
    shapes = [Shape(kind="polygon", role="pack", points=_box(x, y, half_width, half_height))]
    shown = min(cells, 6)
    step = 2 * half_height * 0.86 / shown
    for i in range(shown):
        middle = y + half_height * 0.86 - step * (i + 0.5)
        shapes.append(Shape(kind="polygon", role="cell", points=_box(x, middle, half_width * 0.72, step * 0.4)))
    return tuple(shapes)


def _multirotor(a: Aircraft) -> Outline:
    reach = a.span_mm / 2
    angles = rotor_angles_deg(a.rotors)
    gap = 2 * reach * math.sin(math.pi / a.rotors)
    disc = min(0.44 * gap, 0.33 * a.span_mm)
    body_half = 0.1 * a.span_mm
    # The rotor in front on the left is the one with the largest angle; its neighbours alternate.
    spins = [
        (a.rotors - 1 - i) % 2 == 0 if a.front_left_clockwise else (a.rotors - 1 - i) % 2 == 1 for i in range(a.rotors)
    ]
    hubs = [_at(angle, reach) for angle in angles]
    arms, motors, propellers = [], [], []
    for hub, angle, clockwise in zip(hubs, angles, spins, strict=True):
        arms.append(Shape(kind="line", role="arm", points=(_at(angle, body_half * 0.9), hub)))
        if a.has(Trait.FOLDING):
            arms.append(
                Shape(kind="circle", role="hinge", points=(_at(angle, reach * 0.36),), radius_mm=body_half * 0.16)
            )
        propellers.append(Shape(kind="circle", role="disc", points=(hub,), radius_mm=disc))
        blade = _blade(disc, clockwise)
        lean = angle + (28 if clockwise else -28)
        propellers += [
            Shape(kind="polygon", role="blade", points=_shift(_turn(blade, lean), hub)),
            Shape(kind="polygon", role="blade", points=_shift(_turn(blade, lean + 180), hub)),
        ]
        propellers += _spin_arrow(hub, disc * 1.08, angle, clockwise)
        motors.append(Shape(kind="circle", role="motor", points=(hub,), radius_mm=a.span_mm * 0.028))
    body = (
        Shape(kind="polygon", role="shell", points=_rounded(body_half, 0.24 * a.span_mm, -0.25 * a.span_mm, 0.5, 0.8)),
    )
    parts = [
        Part(key="propellers", name="Propellers", shapes=tuple(propellers), pin=hubs[-1]),
        Part(key="arms", name="Arms", shapes=tuple(arms), pin=_at(angles[0], reach * 0.5)),
        Part(key="motors", name="Motors", shapes=tuple(motors), pin=hubs[0]),
        Part(key="body", name="Shell", shapes=body, pin=(0, 0.06 * a.span_mm)),
        Part(
            key="pack",
            name="Pack",
            shapes=_pack(0, -0.1 * a.span_mm, body_half * 0.58, 0.105 * a.span_mm, a.cells),
            pin=(0, -0.1 * a.span_mm),
        ),
        Part(
            key="antennas",
            name="Antennas",
            shapes=(
                Shape(
                    kind="line",
                    role="wire",
                    points=((-body_half * 0.8, -0.2 * a.span_mm), (-body_half * 1.35, -0.3 * a.span_mm)),
                ),
                Shape(
                    kind="line",
                    role="wire",
                    points=((body_half * 0.8, -0.2 * a.span_mm), (body_half * 1.35, -0.3 * a.span_mm)),
                ),
            ),
            pin=(body_half * 1.35, -0.3 * a.span_mm),
        ),
    ]
    if a.has(Trait.COMPASS):
        middle = (0.0, 0.075 * a.span_mm)
        needle = 0.035 * a.span_mm
        parts.append(
            Part(
                key="compass",
                name="Compass",
                shapes=(
                    Shape(kind="circle", role="instrument", points=(middle,), radius_mm=needle),
                    Shape(
                        kind="polygon",
                        role="needle",
                        points=((0, middle[1] + needle * 0.8), (needle * 0.28, middle[1]), (-needle * 0.28, middle[1])),
                    ),
                ),
                pin=middle,
            )
        )
    if a.has(Trait.GIMBAL_CAMERA):
        front = (0.0, 0.245 * a.span_mm)
        parts.append(
            Part(
                key="gimbal",
                name="Gimbal and camera",
                shapes=(
                    Shape(kind="polygon", role="gimbal", points=_box(0, front[1], body_half * 0.52, body_half * 0.3)),
                    Shape(
                        kind="circle",
                        role="lens",
                        points=((0, front[1] + body_half * 0.08),),
                        radius_mm=body_half * 0.17,
                    ),
                ),
                pin=front,
            )
        )
    half = reach * max(math.sin(math.radians(x)) for x in angles) + disc * 1.12
    tall = reach * max(abs(math.cos(math.radians(x))) for x in angles) + disc * 1.12
    turning = "clockwise" if a.front_left_clockwise else "counter-clockwise"
    return Outline(
        parts=tuple(parts),
        half_width_mm=half,
        half_height_mm=max(tall, 0.3 * a.span_mm),
        words=f"{a.name} from above: {a.rotors} rotors, front left turning {turning}.",
    )


def _spin_arrow(hub: Point, radius: float, outward_deg: float, clockwise: bool) -> list[Shape]:
    """An arc with an arrowhead outside the disc, showing the direction of spin."""
    side = 1 if clockwise else -1
    start, end = outward_deg - side * 24, outward_deg + side * 24
    arc = tuple(_shift((_at(start + (end - start) * i / 8, radius),), hub)[0] for i in range(9))
    tip = _shift((_at(end + side * 9, radius),), hub)[0]
    inner = _shift((_at(end, radius * 0.93),), hub)[0]
    outer = _shift((_at(end, radius * 1.07),), hub)[0]
    return [
        Shape(kind="line", role="spin", points=arc),
        Shape(kind="polygon", role="spin-head", points=(tip, inner, outer)),
    ]


def _wing(a: Aircraft) -> Outline:
    half, chord, length = a.span_mm / 2, a.span_mm * 0.17, a.span_mm * 0.76
    # The balance point of such a wing lies ahead of the middle of the body: everything is moved up by so much.
    ahead = length * 0.14
    nose, tail_end = length * 0.36 + ahead, -length * 0.64 + ahead
    lead = chord * 0.45 + ahead
    body_half = a.span_mm * 0.04
    body_points = (
        (-body_half * 0.55, nose), (body_half * 0.55, nose), (body_half, nose - length * 0.08), (body_half, ahead - chord * 0.7),
        (body_half * 0.32, tail_end), (-body_half * 0.32, tail_end), (-body_half, ahead - chord * 0.7), (-body_half, nose - length * 0.08),
    )  # fmt: skip
    wing_points = (
        (-half * 0.97, lead), (half * 0.97, lead), (half, lead - chord * 0.2), (half * 0.985, lead - chord),
        (-half * 0.985, lead - chord), (-half, lead - chord * 0.2),
    )  # fmt: skip
    wing_shapes = [Shape(kind="polygon", role="surface", points=wing_points)]
    if a.has(Trait.AILERONS):
        for side in (-1, 1):
            middle = side * half * 0.68
            wing_shapes.append(
                Shape(
                    kind="polygon", role="control", points=_box(middle, lead - chord * 0.88, half * 0.26, chord * 0.12)
                )
            )
    wing_shapes.append(Shape(kind="line", role="joint", points=((0, lead), (0, lead - chord))))
    if a.has(Trait.BANDS):
        pairs = max(1, min(a.bands, 12) // 2)
        for i in range(pairs):
            offset = body_half * (0.5 + 0.9 * i / max(1, pairs - 1)) if pairs > 1 else body_half
            wing_shapes += [
                Shape(kind="line", role="band", points=((-offset, lead + chord * 0.1), (offset, lead - chord * 1.1))),
                Shape(kind="line", role="band", points=((offset, lead + chord * 0.1), (-offset, lead - chord * 1.1))),
            ]
    tail_half, tail_chord = half * 0.36, chord * 0.62
    top = tail_end + tail_chord
    tail_shapes = [
        Shape(
            kind="polygon",
            role="surface",
            points=((-tail_half * 0.8, top), (tail_half * 0.8, top), (tail_half, tail_end), (-tail_half, tail_end)),
        ),
        Shape(kind="line", role="fin", points=((0, top + tail_chord * 0.35), (0, tail_end - tail_chord * 0.1))),
    ]
    if a.has(Trait.ELEVATOR):
        tail_shapes.insert(
            1,
            Shape(
                kind="polygon",
                role="control",
                points=_box(0, tail_end - tail_chord * 0.14, tail_half * 0.96, tail_chord * 0.15),
            ),
        )
    disc = a.span_mm * 0.105
    propeller = (
        Shape(kind="polygon", role="blade", points=_shift(_turn(_blade(disc, True), 90), (0, nose + body_half * 0.45))),
        Shape(
            kind="polygon", role="blade", points=_shift(_turn(_blade(disc, True), 270), (0, nose + body_half * 0.45))
        ),
        Shape(kind="circle", role="spinner", points=((0, nose + body_half * 0.35),), radius_mm=body_half * 0.5),
    )
    wheels = [
        Shape(
            kind="polygon",
            role="wheel",
            points=_box(side * body_half * 2.1, lead - chord * 1.12, body_half * 0.28, body_half * 0.75),
        )
        for side in (-1, 1)
    ]
    legs = [
        Shape(
            kind="line",
            role="arm-thin",
            points=((side * body_half * 0.6, lead - chord * 1.12), (side * body_half * 2.1, lead - chord * 1.12)),
        )
        for side in (-1, 1)
    ]
    if a.has(Trait.NOSE_WHEEL):
        wheels.append(
            Shape(kind="polygon", role="wheel", points=_box(0, nose - length * 0.06, body_half * 0.22, body_half * 0.6))
        )
    parts = (
        Part(key="propellers", name="Propeller", shapes=propeller, pin=(0, nose + body_half)),
        Part(key="wheels", name="Wheels", shapes=(*legs, *wheels), pin=(body_half * 2.1, lead - chord * 1.12)),
        Part(key="body", name="Body", shapes=(Shape(kind="polygon", role="shell", points=body_points),), pin=(0, (tail_end + lead - chord) * 0.5)),
        Part(key="motors", name="Motor", shapes=(Shape(kind="circle", role="motor", points=((0, nose - body_half * 0.7),), radius_mm=body_half * 0.42),), pin=(0, nose - body_half * 0.7)),
        Part(key="pack", name="Pack", shapes=_pack(0, nose - length * 0.19, body_half * 0.6, body_half * 1.5, a.cells), pin=(0, nose - length * 0.19)),
        Part(key="tail", name="Tail", shapes=tuple(tail_shapes), pin=(0, tail_end + tail_chord * 0.5)),
        Part(key="wing", name="Wing", shapes=tuple(wing_shapes), pin=(half * 0.45, lead - chord * 0.4)),
        Part(key="antennas", name="Antenna", shapes=(Shape(kind="line", role="wire", points=((body_half * 0.3, ahead - chord * 1.4), (body_half * 1.6, ahead - chord * 2.0))),), pin=(body_half * 1.6, ahead - chord * 2.0)),
    )  # fmt: skip
    return Outline(
        parts=parts,
        half_width_mm=half * 1.02,
        half_height_mm=length * 0.57,
        words=f"{a.name} from above: a high wing of {a.span_mm:.0f} mm, one propeller in front.",
    )
