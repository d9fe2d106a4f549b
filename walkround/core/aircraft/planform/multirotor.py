"""A multi-rotor from above: flat or coaxial, X, plus, H or Y."""

import math

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import arm_id, motor_id, propeller_id
from walkround.core.aircraft.planform.shapes import (
    Planform,
    PlanformPart,
    PlanformShape,
    ShapePoint,
    blade,
    camera,
    compass,
    pack_shapes,
    payload,
    polar,
    rounded,
    shift,
    spin_arrow,
    tank,
    turn,
)
from walkround.core.aircraft.rotors import Rotation, Rotor, hubs_mm, propeller_radius_mm, rotor_layout
from walkround.core.aircraft.traits import Frame, Trait

_WORDS = {3: "three", 4: "four", 6: "six", 8: "eight"}


def drawn_radius_mm(a: Aircraft) -> float:
    """Radius of the discs as drawn, in mm: that of the propellers, where they just clear each other without their number.

    Source: ``rotors.propeller_radius_mm``; drawn no larger than neighbours allow.
    """
    return min(propeller_radius_mm(a), propeller_radius_mm(a.model_copy(update={"propeller_mm": None})))


def draw_multirotor(a: Aircraft) -> Planform:
    """The outline of a multi-rotor, in mm. Source: proportions are our choice, sizes the pilot's."""
    body_half = (0.085 if a.has(Trait.RACING) else 0.1) * a.span_mm
    hubs, disc = hubs_mm(a), drawn_radius_mm(a)
    shell = PlanformShape(
        kind="polygon", role="shell", points=rounded(body_half, 0.24 * a.span_mm, -0.25 * a.span_mm, 0.5, 0.8)
    )
    motors = tuple(
        PlanformShape(kind="circle", role="motor", points=(hub,), radius_mm=a.span_mm * 0.028, part=motor_id(i))
        for i, hub in enumerate(hubs, 1)
    )
    bay = (0.0, -0.1 * a.span_mm)
    parts = []
    if a.has(Trait.LEGS):
        parts.append(_legs(a, body_half))
    parts += [
        PlanformPart(key="propellers", name="Propellers", shapes=_rotors(a, disc), pin=hubs[-1]),
        PlanformPart(
            key="arms", name="Arms", shapes=_arms(a, hubs, body_half), pin=(hubs[0][0] * 0.5, hubs[0][1] * 0.5)
        ),
        PlanformPart(key="motors", name="Motors", shapes=motors, pin=hubs[0]),
        PlanformPart(key="body", name="Shell", shapes=(shell,), pin=(0, 0.06 * a.span_mm)),
        PlanformPart(
            key="pack", name="Pack", shapes=pack_shapes(*bay, body_half * 0.58, 0.105 * a.span_mm, a.cells), pin=bay
        ),
        _antennas(a, body_half),
    ]
    if a.has(Trait.GUARDS):
        rings = tuple(PlanformShape(kind="circle", role="guard", points=(hub,), radius_mm=disc * 1.06) for hub in hubs)
        parts.insert(1, PlanformPart(key="guards", name="Propeller guards", shapes=rings, pin=hubs[0]))
    parts += payload(a, 0.02 * a.span_mm, body_half * 0.5)
    if a.has(Trait.COMPASS):
        parts.append(compass(0.115 * a.span_mm if a.has(Trait.PAYLOAD) else 0.075 * a.span_mm, 0.035 * a.span_mm))
    if a.has(Trait.GIMBAL_CAMERA) or a.has(Trait.FIXED_CAMERA):
        parts.append(camera(0.245 * a.span_mm, body_half * (0.52 if a.has(Trait.GIMBAL_CAMERA) else 0.34)))
    parts += tank(a, 0.17 * a.span_mm, body_half * 0.3)
    return Planform(
        parts=tuple(parts),
        half_width_mm=max(abs(x) for x, _ in hubs) + disc * 1.12,
        half_height_mm=max(max(abs(y) for _, y in hubs) + disc * 1.12, 0.3 * a.span_mm),
        words=_words(a),
    )


def _words(a: Aircraft) -> str:
    turning = "clockwise" if a.front_left_clockwise else "counter-clockwise"
    first = "front" if a.frame is Frame.PLUS else "front left"
    pairs = f", two on each of {_WORDS[a.arms]} arms" if a.arms != a.rotors else ""
    return f"{a.name} from above: {_WORDS[a.rotors]} rotors{pairs}, {first} turning {turning}."


def _rotors(a: Aircraft, disc: float) -> tuple[PlanformShape, ...]:
    """Discs, blades and arrows; of coaxial pairs the lower ones first, a little smaller so that both are seen."""
    shapes: list[PlanformShape] = []
    for rotor in sorted(rotor_layout(a), key=lambda r: r.level != "lower"):
        shapes += [replace(shape, part=propeller_id(rotor.number)) for shape in _rotor(rotor, disc)]
    return tuple(shapes)


def _rotor(rotor: Rotor, disc: float) -> list[PlanformShape]:
    hub: ShapePoint = (rotor.x_mm, rotor.y_mm)
    clockwise = rotor.spin is Rotation.CLOCKWISE
    outward = math.degrees(math.atan2(*hub))
    low = rotor.level == "lower"
    size = disc * (0.82 if low else 1)
    # The lower blades stand across the upper ones, which turn the other way.
    lean = outward + (28 if clockwise is not low else -28) + (90 if low else 0)
    shapes = [] if low else [PlanformShape(kind="circle", role="disc", points=(hub,), radius_mm=disc)]
    for half in (0, 180):
        points = shift(turn(blade(size, clockwise), lean + half), hub)
        shapes.append(PlanformShape(kind="polygon", role="blade-low" if low else "blade", points=points))
    # The lower rotor's arrow runs on the inner side, so that both of a pair can be read.
    return [*shapes, *spin_arrow(hub, disc * (0.9 if low else 1.08), outward + (180 if low else 0), clockwise)]


def _arms(a: Aircraft, hubs: tuple[ShapePoint, ...], body_half: float) -> tuple[PlanformShape, ...]:
    shapes: list[PlanformShape] = []
    if a.frame is Frame.H:
        x = hubs[0][0]
        ends = [hubs[0][1] * 1.04, hubs[0][1] * -1.04]
        for side in (-1, 1):
            rail = tuple((side * x, y) for y in ends)
            shapes.append(PlanformShape(kind="line", role="arm", points=rail))
        for y in (hubs[0][1] * 0.42, hubs[0][1] * -0.42):
            shapes.append(PlanformShape(kind="line", role="arm", points=((-x, y), (x, y))))
        return tuple(shapes)
    for number, hub in enumerate(hubs, 1):
        angle = math.degrees(math.atan2(*hub))
        shapes.append(
            PlanformShape(kind="line", role="arm", points=(polar(angle, body_half * 0.9), hub), part=arm_id(number))
        )
        if a.has(Trait.FOLDING):
            hinge = polar(angle, a.span_mm * 0.18)
            shapes.append(
                PlanformShape(
                    kind="circle", role="hinge", points=(hinge,), radius_mm=body_half * 0.16, part=arm_id(number)
                )
            )
    return tuple(shapes)


def _legs(a: Aircraft, body_half: float) -> PlanformPart:
    """Two skids beside the body."""
    x, reach = body_half * 1.55, a.span_mm * 0.22
    shapes = [
        PlanformShape(kind="line", role="skid", points=((side * x, reach), (side * x, -reach * 1.1)))
        for side in (-1, 1)
    ]
    for y in (reach * 0.6, -reach * 0.7):
        shapes.append(PlanformShape(kind="line", role="arm-thin", points=((-x, y), (x, y))))
    return PlanformPart(key="wheels", name="Legs", shapes=tuple(shapes), pin=(x, -reach * 0.9))


def _antennas(a: Aircraft, body_half: float) -> PlanformPart:
    tip = (body_half * 1.35, -0.3 * a.span_mm)
    root = (body_half * 0.8, -0.2 * a.span_mm)
    wires = tuple(
        PlanformShape(kind="line", role="wire", points=((side * root[0], root[1]), (side * tip[0], tip[1])))
        for side in (-1, 1)
    )
    return PlanformPart(key="antennas", name="Antennas", shapes=wires, pin=tip)
