"""A fixed wing from above: high, low or flying wing, with one motor, two or none."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import motor_id, propeller_id
from walkround.core.aircraft.planform.shapes import (
    Planform,
    PlanformPart,
    PlanformShape,
    ShapePoint,
    blade,
    both_sides,
    camera,
    compass,
    mirror,
    pack_shapes,
    payload,
    rectangle,
    shift,
    tank,
    turn,
)
from walkround.core.aircraft.traits import Frame, Trait

_MOTORS = {0: "no propeller", 1: "one propeller", 2: "two propellers"}


class _Sizes:
    """Main measures of a wing in mm, from span and traits."""

    def __init__(self, a: Aircraft) -> None:
        glider = a.has(Trait.GLIDER)
        self.half = a.span_mm / 2
        self.chord = a.span_mm * (0.1 if glider else 0.17)
        self.length = a.span_mm * (0.5 if glider else 0.76)
        self.body = a.span_mm * (0.02 if glider else 0.04)
        # The balance point lies ahead of the middle of the body: everything is moved up by so much.
        ahead = self.length * 0.14
        self.nose = self.length * 0.36 + ahead
        self.end = -self.length * 0.64 + ahead
        self.lead = self.chord * 0.45 + ahead
        self.shoulder = ahead - self.chord * 0.7
        self.middle = ahead


def draw_wing(a: Aircraft) -> Planform:
    """The outline of a fixed wing, in mm. Source: proportions are our choice, sizes the pilot's."""
    return _flying_wing(a) if a.frame is Frame.FLYING_WING else _with_tail(a)


def _with_tail(a: Aircraft) -> Planform:
    s = _Sizes(a)
    right = ((0.55, s.nose), (1, s.nose - s.length * 0.08), (1, s.shoulder), (0.32, s.end))
    shell = tuple((x * s.body, y) for x, y in right)
    body = PlanformPart(
        key="body",
        name="Body",
        shapes=(PlanformShape(kind="polygon", role="shell", points=(*mirror(shell), *shell)),),
        pin=(0, (s.end + s.lead - s.chord) * 0.5),
    )
    wing = PlanformPart(key="wing", name="Wing", shapes=_plane(a, s), pin=(s.half * 0.45, s.lead - s.chord * 0.4))
    bay: ShapePoint = (0.0, s.nose - s.length * 0.19)
    pack = PlanformPart(key="pack", name="Pack", shapes=pack_shapes(*bay, s.body * 0.6, s.body * 1.5, a.cells), pin=bay)
    tail_chord = s.chord * (0.75 if a.has(Trait.GLIDER) else 0.62)
    tail = PlanformPart(
        key="tail",
        name="Tail",
        shapes=_tail(a, s.half * (0.2 if a.has(Trait.GLIDER) else 0.36), tail_chord, s.end),
        pin=(0, s.end + tail_chord / 2),
    )
    parts = [*_propulsion(a, s), *_gear(a, s)]
    # A low wing passes beneath the body, a high one above it.
    parts += [wing, body, pack, tail] if a.frame is Frame.LOW_WING else [body, pack, tail, wing]
    parts += [
        *payload(a, s.shoulder - s.body * 2, s.body * 0.6),
        *tank(a, s.nose - s.length * 0.09, s.body * 0.7),
        *_extras(a, s),
    ]
    motors = _MOTORS[a.rotors]
    return Planform(
        parts=tuple(parts),
        half_width_mm=s.half * 1.02,
        half_height_mm=max(s.length * 0.57, s.nose + s.body * 2, -s.end + tail_chord * 0.5),
        words=f"{a.name} from above: a {a.frame} of {a.span_mm:.0f} mm, {motors}.",
    )


def _plane(a: Aircraft, s: _Sizes) -> tuple[PlanformShape, ...]:
    """The wing with its moving surfaces, the centre joint, and what holds it."""
    right = ((0.97, s.lead), (1, s.lead - s.chord * 0.2), (0.985, s.lead - s.chord))
    outer = tuple((x * s.half, y) for x, y in right)
    shapes = [PlanformShape(kind="polygon", role="surface", points=(*mirror(outer), *outer))]
    rear = s.lead - s.chord * 0.88
    if a.has(Trait.AILERONS) or a.has(Trait.ELEVONS):
        shapes += both_sides(
            "control", rectangle(s.half * 0.72, rear, s.half * 0.22, s.chord * 0.12), *_outer_surface(a)
        )
    if a.has(Trait.FLAPS):
        flap = rectangle(s.half * 0.3, rear, s.half * 0.17, s.chord * 0.12)
        shapes += both_sides("flap", flap, "left-flap", "right-flap")
    shapes.append(PlanformShape(kind="line", role="joint", points=((0, s.lead), (0, s.lead - s.chord))))
    if a.has(Trait.BANDS):
        shapes += _bands(a, s)
    if a.has(Trait.BOLTS):
        shapes += [
            PlanformShape(kind="circle", role="bolt", points=((x, s.lead - s.chord * 0.82),), radius_mm=s.body * 0.18)
            for x in (-s.body * 0.5, s.body * 0.5)
        ]
    return tuple(shapes)


def _outer_surface(a: Aircraft) -> tuple[str, str]:
    """Ids of the surfaces near the tips."""
    kind = "aileron" if a.has(Trait.AILERONS) else "elevon"
    return (f"left-{kind}", f"right-{kind}")


def _bands(a: Aircraft, s: _Sizes) -> list[PlanformShape]:
    """Rubber bands crossing over the wing, as many as there are."""
    pairs = max(1, min(a.bands, 12) // 2)
    front, back = s.lead + s.chord * 0.1, s.lead - s.chord * 1.1
    shapes = []
    for i in range(pairs):
        x = s.body * (0.5 + 0.9 * i / (pairs - 1)) if pairs > 1 else s.body
        shapes += [
            PlanformShape(kind="line", role="band", points=((side * x, front), (-side * x, back))) for side in (-1, 1)
        ]
    return shapes


def _tail(a: Aircraft, half: float, chord: float, end: float) -> tuple[PlanformShape, ...]:
    top = end + chord
    if a.has(Trait.V_TAIL):
        panel = ((0.0, top), (half * 0.95, top - chord * 0.25), (half, end - chord * 0.1), (0.0, end + chord * 0.15))
        mover = ((half * 0.08, end + chord * 0.15), (half, end - chord * 0.1), (half, end - chord * 0.32), (half * 0.08, end - chord * 0.08))  # fmt: skip
        return (*both_sides("surface", panel), *both_sides("control", mover, "left-tail-panel", "right-tail-panel"))
    plane = ((-half * 0.8, top), (half * 0.8, top), (half, end), (-half, end))
    shapes = [PlanformShape(kind="polygon", role="surface", points=plane)]
    if a.has(Trait.ELEVATOR):
        shapes.append(
            PlanformShape(
                kind="polygon",
                role="control",
                points=rectangle(0, end - chord * 0.14, half * 0.96, chord * 0.15),
                part="elevator",
            )
        )
    shapes.append(PlanformShape(kind="line", role="fin", points=((0, top + chord * 0.35), (0, end - chord * 0.1))))
    if a.has(Trait.RUDDER):
        shapes.append(
            PlanformShape(
                kind="line", role="rudder", points=((0, end - chord * 0.1), (0, end - chord * 0.42)), part="rudder"
            )
        )
    return tuple(shapes)


def _propeller(hub: ShapePoint, radius: float, spinner: float, number: int = 1) -> tuple[PlanformShape, ...]:
    """A propeller seen from above: two blades across and its spinner."""
    part = propeller_id(number)
    return (
        PlanformShape(kind="polygon", role="blade", points=shift(turn(blade(radius, True), 90), hub), part=part),
        PlanformShape(kind="polygon", role="blade", points=shift(turn(blade(radius, True), 270), hub), part=part),
        PlanformShape(kind="circle", role="spinner", points=(hub,), radius_mm=spinner, part=part),
    )


def _propulsion(a: Aircraft, s: _Sizes) -> list[PlanformPart]:
    if not a.rotors:
        return []
    radius = s.half * 0.21
    if a.rotors == 2:
        x, y = s.half * 0.3, s.lead + s.chord * 0.42
        nacelles = both_sides(
            "motor", rectangle(x, s.lead - s.chord * 0.05, s.body * 0.5, s.chord * 0.45), motor_id(1), motor_id(2)
        )
        blades = (
            *_propeller((-x, y), radius * 0.85, s.body * 0.4),
            *_propeller((x, y), radius * 0.85, s.body * 0.4, 2),
        )
        return [
            PlanformPart(key="propellers", name="Propellers", shapes=blades, pin=(x, y + s.body)),
            PlanformPart(key="motors", name="Motors", shapes=nacelles, pin=(x, s.lead)),
        ]
    y = s.end - s.body if a.has(Trait.PUSHER) else s.nose + s.body * 0.4
    inside = s.end + s.body * 0.7 if a.has(Trait.PUSHER) else s.nose - s.body * 0.7
    motor = PlanformShape(
        kind="circle", role="motor", points=((0.0, inside),), radius_mm=s.body * 0.42, part=motor_id(1)
    )
    return [
        PlanformPart(key="propellers", name="Propeller", shapes=_propeller((0.0, y), radius, s.body * 0.5), pin=(0, y)),
        PlanformPart(key="motors", name="Motor", shapes=(motor,), pin=(0.0, inside)),
    ]


def _gear(a: Aircraft, s: _Sizes) -> list[PlanformPart]:
    """Main wheels on their legs, the nose or tail wheel; none for what is launched by hand without any."""
    if not a.has(Trait.WHEELS):
        return []
    tail = a.has(Trait.TAIL_WHEEL)
    y = s.lead - s.chord * (0.1 if tail else 1.12)
    x = s.half * 0.3 if a.has(Trait.RETRACTS) else s.body * 2.1
    shapes: list[PlanformShape] = []
    if not a.has(Trait.RETRACTS):
        shapes += [
            PlanformShape(kind="line", role="arm-thin", points=((side * s.body * 0.6, y), (side * x, y)))
            for side in (-1, 1)
        ]
    shapes += both_sides("wheel", rectangle(x, y, s.body * 0.28, s.body * 0.75), "left-wheel", "right-wheel")
    if tail or a.has(Trait.NOSE_WHEEL):
        other = s.end + s.body * 0.6 if tail else s.nose - s.length * 0.06
        size = 0.4 if tail else 0.6
        shapes.append(
            PlanformShape(
                kind="polygon",
                role="wheel",
                points=rectangle(0, other, s.body * 0.2, s.body * size),
                part="tail-wheel" if tail else "nose-wheel",
            )
        )
    return [PlanformPart(key="wheels", name="Wheels", shapes=tuple(shapes), pin=(x, y))]


def _extras(a: Aircraft, s: _Sizes) -> list[PlanformPart]:
    tip = (s.body * 1.6, s.middle - s.chord * 2)
    wire = PlanformShape(kind="line", role="wire", points=((s.body * 0.3, s.middle - s.chord * 1.4), tip))
    parts = [PlanformPart(key="antennas", name="Antenna", shapes=(wire,), pin=tip)]
    if a.has(Trait.COMPASS):
        parts.append(compass(s.shoulder - s.body, s.body * 0.6))
    if a.has(Trait.CAMERA):
        parts.append(camera(s.nose - s.length * 0.03, s.body * 0.5))
    return parts


def _flying_wing(a: Aircraft) -> Planform:
    """One swept panel a side, elevons at the back, a fin at each tip."""
    half, root = a.span_mm / 2, a.span_mm * 0.34
    tip, sweep = root * 0.5, root * 0.72
    nose, end = root * 0.62, -root * 0.38
    panel = (
        (0.0, nose),
        (half * 0.1, nose - root * 0.08),
        (half, nose - sweep),
        (half, nose - sweep - tip),
        (0.0, end),
    )
    back = nose - sweep - tip
    slope = (back - end) / half

    def rear(x: float) -> float:
        return end + slope * x

    inner, outer, deep = half * 0.22, half * 0.9, root * 0.16
    elevon = ((inner, rear(inner)), (outer, rear(outer)), (outer, rear(outer) - deep), (inner, rear(inner) - deep))
    fin = both_sides("fin-tip", rectangle(half, back + tip * 0.4, half * 0.012, tip * 0.62))
    shapes: tuple[PlanformShape, ...] = (
        *both_sides("surface", panel),
        PlanformShape(kind="line", role="joint", points=((0, nose), (0, end))),
    )
    if a.has(Trait.ELEVONS) or a.has(Trait.AILERONS):
        shapes = (*shapes, *both_sides("control", elevon, *_outer_surface(a)))
    body_half = half * 0.085
    bay: ShapePoint = (0.0, nose - root * 0.3)
    parts = []
    if a.rotors:
        y = end - body_half * 0.9 if a.has(Trait.PUSHER) else nose + body_half * 0.7
        hub = (0.0, y)
        blades = _propeller(hub, half * 0.2, body_half * 0.5)
        motor = PlanformShape(
            kind="circle",
            role="motor",
            points=((0.0, end + body_half * 0.3),),
            radius_mm=body_half * 0.5,
            part=motor_id(1),
        )
        parts = [PlanformPart(key="propellers", name="Propeller", shapes=blades, pin=hub)]
        engine = PlanformPart(key="motors", name="Motor", shapes=(motor,), pin=(0.0, end + body_half * 0.3))
    parts += [
        PlanformPart(key="wing", name="Wing", shapes=shapes, pin=(half * 0.5, nose - sweep * 0.7)),
        PlanformPart(key="tail", name="Fins", shapes=fin, pin=(half, back)),
        PlanformPart(
            key="body",
            name="Body",
            shapes=(
                PlanformShape(
                    kind="polygon", role="shell", points=rectangle(0, nose - root * 0.5, body_half, root * 0.42)
                ),
            ),
            pin=(0, nose - root * 0.7),
        ),
        PlanformPart(key="pack", name="Pack", shapes=pack_shapes(*bay, body_half * 0.6, root * 0.14, a.cells), pin=bay),
    ]
    if a.rotors:
        parts.append(engine)
    if a.has(Trait.WHEELS):
        wheels = both_sides(
            "wheel",
            rectangle(half * 0.16, nose - root * 0.62, body_half * 0.16, body_half * 0.42),
            "left-wheel",
            "right-wheel",
        )
        front = PlanformShape(
            kind="polygon",
            role="wheel",
            points=rectangle(0, nose - root * 0.02, body_half * 0.14, body_half * 0.34),
            part="nose-wheel",
        )
        under = (*wheels, front) if a.has(Trait.NOSE_WHEEL) else wheels
        parts.insert(0, PlanformPart(key="wheels", name="Wheels", shapes=under, pin=(half * 0.16, nose - root * 0.62)))
    parts += payload(a, end + root * 0.16, body_half * 0.7)
    parts += tank(a, nose - root * 0.62, body_half * 0.7)
    wire = ((half * 0.3, nose - sweep * 0.6), (half * 0.46, nose - sweep * 0.95))
    parts.append(
        PlanformPart(
            key="antennas", name="Antenna", shapes=(PlanformShape(kind="line", role="wire", points=wire),), pin=wire[1]
        )
    )
    if a.has(Trait.COMPASS):
        parts.append(compass(end + root * 0.3, body_half * 0.5))
    if a.has(Trait.CAMERA):
        parts.append(camera(nose - root * 0.06, body_half * 0.6))
    return Planform(
        parts=tuple(parts),
        half_width_mm=half * 1.04,
        half_height_mm=max(nose + body_half * 2, -back + deep, -end + half * 0.2),
        words=f"{a.name} from above: a flying wing of {a.span_mm:.0f} mm, {_MOTORS[a.rotors]}.",
    )
