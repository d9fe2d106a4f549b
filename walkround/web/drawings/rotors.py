"""The rotor map: every rotor as it must be, and what it looks like when something else was seen there."""

import math

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.planform import ShapePoint, planform
from walkround.core.aircraft.planform.shapes import blade, spin_arrow, turn
from walkround.core.aircraft.rotors import Rotation, Rotor, rotor_layout
from walkround.core.aircraft.traits import Kind
from walkround.core.base.struct import Struct
from walkround.web.drawings.aircraft import DrawnPart, place

WIDTH, HEIGHT, NOSE = 420, 400, 16
ROOM = 1.16
"""How far a rotor reaches with its arrow, in radii."""
SHORT = {Rotation.CLOCKWISE: "CW", Rotation.COUNTER: "CCW"}


class BladeView(Struct, frozen=True):
    """One way a rotor can look: blades and arrow as path data."""

    spin: str
    blades: str
    arrow: str
    head: str


class DrawnRotor(Struct, frozen=True):
    """One rotor of the map: where it stands, what belongs there, and both ways it can look."""

    number: int
    name: str
    spin: str
    short: str
    x: float
    y: float
    r: float
    leader: str
    looks: tuple[BladeView, ...]


class RotorMap(Struct, frozen=True):
    """The whole map: the frame without its propellers, and the rotors."""

    parts: tuple[DrawnPart, ...]
    rotors: tuple[DrawnRotor, ...]
    words: str


def _path(points: tuple[ShapePoint, ...], *, closed: bool) -> str:
    text = " L".join(f"{x:.1f},{-y:.1f}" for x, y in points)
    return f"M{text}{'z' if closed else ''}"


def _look(spin: Rotation, radius: float, outward_deg: float, arrow_deg: float) -> BladeView:
    """Blades, arrow and head about the hub, in picture units."""
    clockwise = spin is Rotation.CLOCKWISE
    lean = outward_deg + (28 if clockwise else -28)
    blades = " ".join(_path(turn(blade(radius * 0.94, clockwise), lean + half), closed=True) for half in (0, 180))
    arc, head = spin_arrow((0.0, 0.0), radius * 1.1, arrow_deg, clockwise)
    return BladeView(
        spin=spin.value, blades=blades, arrow=_path(arc.points, closed=False), head=_path(head.points, closed=True)
    )


def _spots(rotors: tuple[Rotor, ...], disc_mm: float) -> dict[int, tuple[float, float, float]]:
    """Where each rotor is drawn, in mm, and its radius: lower ones of pairs stand outward of their upper ones."""
    spots = {}
    for rotor in rotors:
        low = rotor.level == "lower"
        outward = math.atan2(rotor.x_mm, rotor.y_mm)
        away = disc_mm * 1.75 if low else 0.0
        spots[rotor.number] = (
            rotor.x_mm + away * math.sin(outward),
            rotor.y_mm + away * math.cos(outward),
            disc_mm * (0.8 if low else 1.0),
        )
    return spots


def rotor_map(aircraft: Aircraft) -> RotorMap | None:
    """The map of a multi-rotor, None for other kinds; scaled so that every rotor and its arrow lies inside."""
    if aircraft.kind is not Kind.MULTIROTOR:
        return None
    rotors, plan = rotor_layout(aircraft), planform(aircraft)
    disc_mm = next(s for p in plan.parts for s in p.shapes if s.role == "disc").radius_mm
    spots = _spots(rotors, disc_mm)
    left, right = (f(x + s * ROOM * r for x, _, r in spots.values()) for f, s in ((min, -1), (max, 1)))
    low, high = (f(y + s * ROOM * r for _, y, r in spots.values()) for f, s in ((min, -1), (max, 1)))
    scale = min(WIDTH / (right - left), (HEIGHT - NOSE) / (high - low))
    middle = (WIDTH / 2 - (left + right) / 2 * scale, (HEIGHT + NOSE) / 2 + (low + high) / 2 * scale)
    picture = place(aircraft, middle, scale * plan.half_width_mm, scale * plan.half_height_mm)
    return RotorMap(
        parts=tuple(part for part in picture.parts if part.key not in ("propellers", "guards")),
        rotors=tuple(_drawn(rotor, middle, scale, spots[rotor.number]) for rotor in rotors),
        words=f"{aircraft.name} from above with the direction of rotation of each rotor.",
    )


def rotors_on(aircraft: Aircraft, middle: ShapePoint, half_width: float, half_height: float) -> tuple[DrawnRotor, ...]:
    """The rotors where ``place`` draws them in a larger picture; none for coaxial pairs, which would cover each other."""
    if aircraft.kind is not Kind.MULTIROTOR or aircraft.arms != aircraft.rotors:
        return ()
    plan = planform(aircraft)
    disc_mm = next(s for p in plan.parts for s in p.shapes if s.role == "disc").radius_mm
    scale = min(half_width / plan.half_width_mm, half_height / plan.half_height_mm)
    return tuple(_drawn(r, middle, scale, (r.x_mm, r.y_mm, disc_mm)) for r in rotor_layout(aircraft))


def _drawn(rotor: Rotor, middle: ShapePoint, scale: float, spot: tuple[float, float, float]) -> DrawnRotor:
    x, y, radius = middle[0] + spot[0] * scale, middle[1] - spot[1] * scale, spot[2] * scale
    hub = (middle[0] + rotor.x_mm * scale, middle[1] - rotor.y_mm * scale)
    outward = math.degrees(math.atan2(rotor.x_mm, rotor.y_mm))
    # The arrow of an upper rotor stands aside, where its lower one does not cover it.
    aside = 90 if rotor.level == "upper" else 0
    return DrawnRotor(
        number=rotor.number,
        name=rotor.name,
        spin=rotor.spin.value,
        short=SHORT[rotor.spin],
        x=round(x, 1),
        y=round(y, 1),
        r=round(radius, 1),
        leader=f"M{hub[0]:.1f},{hub[1]:.1f} L{x:.1f},{y:.1f}" if rotor.level == "lower" else "",
        looks=tuple(_look(spin, radius, outward, outward + aside) for spin in Rotation),
    )
