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
    reach, body_half = a.span_mm / 2, 0.1 * a.span_mm
    angles = rotor_angles_deg(a.rotors)
    hubs = [_at(angle, reach) for angle in angles]
    disc = min(0.44 * 2 * reach * math.sin(math.pi / a.rotors), 0.33 * a.span_mm)
    shell = Shape(
        kind="polygon", role="shell", points=_rounded(body_half, 0.24 * a.span_mm, -0.25 * a.span_mm, 0.5, 0.8)
    )
    motors = tuple(Shape(kind="circle", role="motor", points=(hub,), radius_mm=a.span_mm * 0.028) for hub in hubs)
    bay = (0.0, -0.1 * a.span_mm)
    parts = [
        Part(key="propellers", name="Propellers", shapes=_rotors(a, hubs, angles, disc), pin=hubs[-1]),
        Part(key="arms", name="Arms", shapes=_arms(a, angles, body_half), pin=_at(angles[0], reach * 0.5)),
        Part(key="motors", name="Motors", shapes=motors, pin=hubs[0]),
        Part(key="body", name="Shell", shapes=(shell,), pin=(0, 0.06 * a.span_mm)),
        Part(key="pack", name="Pack", shapes=_pack(*bay, body_half * 0.58, 0.105 * a.span_mm, a.cells), pin=bay),
        _antennas(a, body_half),
    ]
    if a.has(Trait.COMPASS):
        parts.append(_compass(a))
    if a.has(Trait.GIMBAL_CAMERA):
        parts.append(_gimbal(a, body_half))
    tall = reach * max(abs(math.cos(math.radians(x))) for x in angles) + disc * 1.12
    turning = "clockwise" if a.front_left_clockwise else "counter-clockwise"
    return Outline(
        parts=tuple(parts),
        half_width_mm=reach * max(math.sin(math.radians(x)) for x in angles) + disc * 1.12,
        half_height_mm=max(tall, 0.3 * a.span_mm),
        words=f"{a.name} from above: {a.rotors} rotors, front left turning {turning}.",
    )


def _rotors(a: Aircraft, hubs: list[Point], angles: tuple[float, ...], disc: float) -> tuple[Shape, ...]:
    """Discs, blades and arrows. The rotor in front on the left comes last; its neighbours turn against each other."""
    shapes: list[Shape] = []
    for index, (hub, angle) in enumerate(zip(hubs, angles, strict=True)):
        clockwise = ((a.rotors - 1 - index) % 2 == 0) == a.front_left_clockwise
        blade = _blade(disc, clockwise)
        lean = angle + (28 if clockwise else -28)
        shapes += [
            Shape(kind="circle", role="disc", points=(hub,), radius_mm=disc),
            Shape(kind="polygon", role="blade", points=_shift(_turn(blade, lean), hub)),
            Shape(kind="polygon", role="blade", points=_shift(_turn(blade, lean + 180), hub)),
            *_spin_arrow(hub, disc * 1.08, angle, clockwise),
        ]
    return tuple(shapes)


def _arms(a: Aircraft, angles: tuple[float, ...], body_half: float) -> tuple[Shape, ...]:
    shapes: list[Shape] = []
    for angle in angles:
        ends = (_at(angle, body_half * 0.9), _at(angle, a.span_mm / 2))
        shapes.append(Shape(kind="line", role="arm", points=ends))
        if a.has(Trait.FOLDING):
            hinge = _at(angle, a.span_mm * 0.18)
            shapes.append(Shape(kind="circle", role="hinge", points=(hinge,), radius_mm=body_half * 0.16))
    return tuple(shapes)


def _antennas(a: Aircraft, body_half: float) -> Part:
    tip = (body_half * 1.35, -0.3 * a.span_mm)
    root = (body_half * 0.8, -0.2 * a.span_mm)
    wires = tuple(
        Shape(kind="line", role="wire", points=((side * root[0], root[1]), (side * tip[0], tip[1]))) for side in (-1, 1)
    )
    return Part(key="antennas", name="Antennas", shapes=wires, pin=tip)


def _compass(a: Aircraft) -> Part:
    middle, needle = (0.0, 0.075 * a.span_mm), 0.035 * a.span_mm
    arrow = ((0.0, middle[1] + needle * 0.8), (needle * 0.28, middle[1]), (-needle * 0.28, middle[1]))
    shapes = (
        Shape(kind="circle", role="instrument", points=(middle,), radius_mm=needle),
        Shape(kind="polygon", role="needle", points=arrow),
    )
    return Part(key="compass", name="Compass", shapes=shapes, pin=middle)


def _gimbal(a: Aircraft, body_half: float) -> Part:
    front = (0.0, 0.245 * a.span_mm)
    eye = (0.0, front[1] + body_half * 0.08)
    shapes = (
        Shape(kind="polygon", role="gimbal", points=_box(0, front[1], body_half * 0.52, body_half * 0.3)),
        Shape(kind="circle", role="lens", points=(eye,), radius_mm=body_half * 0.17),
    )
    return Part(key="gimbal", name="Gimbal and camera", shapes=shapes, pin=front)


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
    half, chord, length, body_half = a.span_mm / 2, a.span_mm * 0.17, a.span_mm * 0.76, a.span_mm * 0.04
    # The balance point of such a wing lies ahead of the middle of the body: everything is moved up by so much.
    ahead = length * 0.14
    nose, tail_end, lead = length * 0.36 + ahead, -length * 0.64 + ahead, chord * 0.45 + ahead
    shoulder = ahead - chord * 0.7
    right = ((0.55, nose), (1, nose - length * 0.08), (1, shoulder), (0.32, tail_end))
    body = (*((-x * body_half, y) for x, y in reversed(right)), *((x * body_half, y) for x, y in right))
    motor, bay = (0.0, nose - body_half * 0.7), (0.0, nose - length * 0.19)
    tip = (body_half * 1.6, ahead - chord * 2)
    wire = Shape(kind="line", role="wire", points=((body_half * 0.3, ahead - chord * 1.4), tip))
    spinner = Shape(kind="circle", role="motor", points=(motor,), radius_mm=body_half * 0.42)
    tail_chord = chord * 0.62
    parts = (
        Part(key="propellers", name="Propeller", shapes=_tractor(a, nose, body_half), pin=(0, nose + body_half)),
        _gear(a, body_half, lead - chord * 1.12, nose - length * 0.06),
        Part(
            key="body",
            name="Body",
            shapes=(Shape(kind="polygon", role="shell", points=body),),
            pin=(0, (tail_end + lead - chord) * 0.5),
        ),
        Part(key="motors", name="Motor", shapes=(spinner,), pin=motor),
        Part(key="pack", name="Pack", shapes=_pack(*bay, body_half * 0.6, body_half * 1.5, a.cells), pin=bay),
        Part(
            key="tail",
            name="Tail",
            shapes=_tail(a, half * 0.36, tail_chord, tail_end),
            pin=(0, tail_end + tail_chord / 2),
        ),
        Part(
            key="wing",
            name="Wing",
            shapes=_plane(a, half, chord, lead, body_half),
            pin=(half * 0.45, lead - chord * 0.4),
        ),
        Part(key="antennas", name="Antenna", shapes=(wire,), pin=tip),
    )
    return Outline(
        parts=parts,
        half_width_mm=half * 1.02,
        half_height_mm=length * 0.57,
        words=f"{a.name} from above: a high wing of {a.span_mm:.0f} mm, one propeller in front.",
    )


def _tractor(a: Aircraft, nose: float, body_half: float) -> tuple[Shape, ...]:
    """The propeller in front, seen from above as two blades and a spinner."""
    hub, blade = (0.0, nose + body_half * 0.45), _blade(a.span_mm * 0.105, True)
    return (
        Shape(kind="polygon", role="blade", points=_shift(_turn(blade, 90), hub)),
        Shape(kind="polygon", role="blade", points=_shift(_turn(blade, 270), hub)),
        Shape(kind="circle", role="spinner", points=((0, nose + body_half * 0.35),), radius_mm=body_half * 0.5),
    )


def _gear(a: Aircraft, body_half: float, main_y: float, nose_y: float) -> Part:
    """Main wheels on their legs behind the wing, and the nose wheel if there is one."""
    shapes = [
        Shape(kind="line", role="arm-thin", points=((side * body_half * 0.6, main_y), (side * body_half * 2.1, main_y)))
        for side in (-1, 1)
    ]
    shapes += [
        Shape(
            kind="polygon",
            role="wheel",
            points=_box(side * body_half * 2.1, main_y, body_half * 0.28, body_half * 0.75),
        )
        for side in (-1, 1)
    ]
    if a.has(Trait.NOSE_WHEEL):
        shapes.append(Shape(kind="polygon", role="wheel", points=_box(0, nose_y, body_half * 0.22, body_half * 0.6)))
    return Part(key="wheels", name="Wheels", shapes=tuple(shapes), pin=(body_half * 2.1, main_y))


def _tail(a: Aircraft, half: float, chord: float, end: float) -> tuple[Shape, ...]:
    top = end + chord
    plane = ((-half * 0.8, top), (half * 0.8, top), (half, end), (-half, end))
    shapes = [Shape(kind="polygon", role="surface", points=plane)]
    if a.has(Trait.ELEVATOR):
        shapes.append(
            Shape(kind="polygon", role="control", points=_box(0, end - chord * 0.14, half * 0.96, chord * 0.15))
        )
    shapes.append(Shape(kind="line", role="fin", points=((0, top + chord * 0.35), (0, end - chord * 0.1))))
    return tuple(shapes)


def _plane(a: Aircraft, half: float, chord: float, lead: float, body_half: float) -> tuple[Shape, ...]:
    """The wing with its ailerons, the centre joint, and the rubber bands crossing over it."""
    right = ((0.97, lead), (1, lead - chord * 0.2), (0.985, lead - chord))
    outer = (*((-x * half, y) for x, y in reversed(right)), *((x * half, y) for x, y in right))
    shapes = [Shape(kind="polygon", role="surface", points=outer)]
    if a.has(Trait.AILERONS):
        shapes += [
            Shape(
                kind="polygon",
                role="control",
                points=_box(side * half * 0.68, lead - chord * 0.88, half * 0.26, chord * 0.12),
            )
            for side in (-1, 1)
        ]
    shapes.append(Shape(kind="line", role="joint", points=((0, lead), (0, lead - chord))))
    if a.has(Trait.BANDS):
        pairs = max(1, min(a.bands, 12) // 2)
        front, back = lead + chord * 0.1, lead - chord * 1.1
        for i in range(pairs):
            x = body_half * (0.5 + 0.9 * i / (pairs - 1)) if pairs > 1 else body_half
            shapes += [
                Shape(kind="line", role="band", points=((side * x, front), (-side * x, back))) for side in (-1, 1)
            ]
    return tuple(shapes)
