"""A helicopter from above: one rotor with a tail rotor, or two coaxial rotors with or without a stabiliser bar."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import motor_id
from walkround.core.aircraft.planform.shapes import (
    Planform,
    PlanformPart,
    PlanformShape,
    blade,
    camera,
    compass,
    mirror,
    pack_shapes,
    payload,
    polar,
    rectangle,
    rotor_blade,
    shift,
    spin_arrow,
    tank,
    turn,
)
from walkround.core.aircraft.traits import Frame, Trait
from walkround.core.base.wording import plural


def draw_helicopter(a: Aircraft) -> Planform:
    """The outline of a helicopter, in mm; ``span_mm`` is the rotor's diameter. Source: our drawing, sizes the pilot's."""
    radius, body_half = a.span_mm / 2, a.span_mm * 0.085
    coaxial = a.frame is Frame.COAXIAL_ROTOR
    nose, cabin, end = radius * 0.5, -radius * 0.28, -radius * (0.95 if coaxial else 1.2)
    shell = ((0.35 * body_half, nose), (body_half, nose * 0.55), (body_half, cabin * 0.5), (0.2 * body_half, cabin))
    boom = rectangle(0, (cabin + end) / 2, body_half * 0.2, (cabin - end) / 2 + body_half * 0.3)
    bay = (0.0, nose * 0.45)
    skids = [PlanformShape(kind="line", role="skid", points=((s * body_half * 1.5, nose * 0.6), (s * body_half * 1.5, cabin))) for s in (-1, 1)]  # fmt: skip
    parts = [
        PlanformPart(key="wheels", name="Skids", shapes=tuple(skids), pin=(body_half * 1.5, cabin)),
        PlanformPart(key="tail", name="Tail", shapes=_tail(a, boom, end, radius), pin=(0, end)),
        PlanformPart(
            key="body",
            name="Cabin",
            shapes=(PlanformShape(kind="polygon", role="shell", points=(*mirror(shell), *shell)),),
            pin=(0, cabin * 0.6),
        ),
        PlanformPart(
            key="pack",
            name="Pack",
            shapes=pack_shapes(*bay, body_half * 0.5, body_half * 0.95, a.cells),
            pin=bay,
        ),
        PlanformPart(
            key="motors",
            name=plural(a.rotors, "Motor"),
            shapes=(
                PlanformShape(
                    kind="circle",
                    role="motor",
                    points=((0, -body_half * 0.9),),
                    radius_mm=body_half * 0.34,
                    part=motor_id(1),
                ),
            ),
            pin=(0, -body_half * 0.9),
        ),
        PlanformPart(key="rotor", name="Rotor head and blades", shapes=_rotor(a, radius), pin=polar(60, radius * 0.6)),
    ]
    wire = ((body_half * 0.2, end * 0.55), (body_half * 1.2, end * 0.72))
    parts.append(
        PlanformPart(
            key="antennas", name="Antenna", shapes=(PlanformShape(kind="line", role="wire", points=wire),), pin=wire[1]
        )
    )
    parts += payload(a, cabin * 0.9, body_half * 0.35)
    parts += tank(a, cabin * 0.2, body_half * 0.3)
    if a.has(Trait.COMPASS):
        parts.append(compass(end * 0.45, body_half * 0.4))
    if a.has(Trait.CAMERA):
        parts.append(camera(nose, body_half * 0.4))
    rotors = "two coaxial rotors" if coaxial else "one rotor and a tail rotor"
    bar = ", with a flybar" if a.has(Trait.FLYBAR) else ""
    return Planform(
        parts=tuple(parts),
        half_width_mm=radius * 1.1,
        half_height_mm=max(radius * 1.1, -end + radius * 0.2),
        words=f"{a.name} from above: {rotors}{bar}.",
    )


def _rotor(a: Aircraft, radius: float) -> tuple[PlanformShape, ...]:
    """Disc, blades, hub and bar; of coaxial rotors the lower one is paler and turns the other way."""
    middle = (0.0, 0.0)
    upper = "upper-rotor" if a.frame is Frame.COAXIAL_ROTOR else "main-rotor"
    shapes = [PlanformShape(kind="circle", role="sweep", points=(middle,), radius_mm=radius)]
    if a.frame is Frame.COAXIAL_ROTOR:
        shapes += [
            PlanformShape(
                kind="polygon", role="blade-low", points=turn(rotor_blade(radius, False), x), part="lower-rotor"
            )
            for x in (20, 200)
        ]
        shapes += spin_arrow(middle, radius * 0.92, 200, False)
    shapes += [
        PlanformShape(kind="polygon", role="blade", points=turn(rotor_blade(radius, True), x), part=upper)
        for x in (60, 240)
    ]
    shapes += spin_arrow(middle, radius * 1.04, 20, True)
    if a.has(Trait.FLYBAR):
        bar = (polar(150, radius * 0.42), polar(330, radius * 0.42))
        shapes.append(PlanformShape(kind="line", role="flybar", points=bar))
        shapes += [PlanformShape(kind="circle", role="weight", points=(p,), radius_mm=radius * 0.035) for p in bar]
    shapes.append(PlanformShape(kind="circle", role="spinner", points=(middle,), radius_mm=radius * 0.06))
    return tuple(shapes)


def _tail(a: Aircraft, boom: tuple[tuple[float, float], ...], end: float, radius: float) -> tuple[PlanformShape, ...]:
    shapes = [PlanformShape(kind="polygon", role="boom", points=boom)]
    fin = rectangle(0, end + radius * 0.12, radius * 0.12, radius * 0.035)
    shapes.append(PlanformShape(kind="polygon", role="surface", points=fin))
    if a.frame is Frame.SINGLE_ROTOR:
        hub = (radius * 0.06, end)
        shapes += [
            PlanformShape(
                kind="polygon",
                role="blade",
                points=shift(turn(blade(radius * 0.2, True), x), hub),
                part="tail-rotor",
            )
            for x in (0, 180)
        ]
        shapes.append(PlanformShape(kind="line", role="fin", points=((0, end), hub)))
    return tuple(shapes)
