"""The rotor map: every rotor as it must be, and what it looks like when something else was seen there."""

import math
from dataclasses import dataclass

from walkround.core.aircraft import Aircraft
from walkround.core.outline import Point, outline
from walkround.core.outline.shapes import blade, shift, spin_arrow, turn
from walkround.core.rotors import Rotor, Spin, layout
from walkround.core.traits import Kind
from walkround.web.drawings.aircraft import DrawnPart, place

WIDTH, HEIGHT = 420, 400
SHORT = {Spin.CLOCKWISE: "CW", Spin.COUNTER: "CCW"}


@dataclass(frozen=True)
class Look:
    """One way a rotor can look: blades and arrow as path data."""

    spin: str
    blades: str
    arrow: str
    head: str


@dataclass(frozen=True)
class DrawnRotor:
    """One rotor of the map: where it stands, what belongs there, and both ways it can look."""

    number: int
    name: str
    spin: str
    short: str
    x: float
    y: float
    r: float
    leader: str
    looks: tuple[Look, ...]


@dataclass(frozen=True)
class RotorMap:
    """The whole map: the frame without its propellers, and the rotors."""

    parts: tuple[DrawnPart, ...]
    rotors: tuple[DrawnRotor, ...]
    words: str


def _path(points: tuple[Point, ...], *, closed: bool) -> str:
    text = " L".join(f"{x:.1f},{-y:.1f}" for x, y in points)
    return f"M{text}{'z' if closed else ''}"


def _look(spin: Spin, radius: float, outward_deg: float) -> Look:
    """Blades, arrow and head about the hub, in picture units."""
    clockwise = spin is Spin.CLOCKWISE
    lean = outward_deg + (28 if clockwise else -28)
    blades = " ".join(_path(turn(blade(radius * 0.94, clockwise), lean + half), closed=True) for half in (0, 180))
    arc, head = spin_arrow((0.0, 0.0), radius * 1.1, outward_deg, clockwise)
    return Look(
        spin=spin.value, blades=blades, arrow=_path(arc.points, closed=False), head=_path(head.points, closed=True)
    )


def rotor_map(aircraft: Aircraft) -> RotorMap | None:
    """The map of a multi-rotor, None for other kinds. Lower rotors of pairs stand beside their upper ones, outward."""
    if aircraft.kind is not Kind.MULTIROTOR:
        return None
    rotors = layout(aircraft)
    pairs = any(rotor.level for rotor in rotors)
    room = 0.66 if pairs else 0.94
    middle = (WIDTH / 2, HEIGHT / 2)
    half_width, half_height = WIDTH / 2 * room, HEIGHT / 2 * room
    plan = outline(aircraft)
    scale = min(half_width / plan.half_width_mm, half_height / plan.half_height_mm)
    disc = next(s for p in plan.parts for s in p.shapes if s.role == "disc").radius_mm * scale
    picture = place(aircraft, middle, half_width, half_height)
    return RotorMap(
        parts=tuple(part for part in picture.parts if part.key not in ("propellers", "guards")),
        rotors=tuple(_drawn(rotor, middle, scale, disc) for rotor in rotors),
        words=f"{aircraft.name} from above with the sense in which each rotor must turn.",
    )


def _drawn(rotor: Rotor, middle: Point, scale: float, disc: float) -> DrawnRotor:
    outward = math.degrees(math.atan2(rotor.x_mm, rotor.y_mm))
    away = disc * 1.75 if rotor.level == "lower" else 0.0
    x = middle[0] + rotor.x_mm * scale + away * math.sin(math.radians(outward))
    y = middle[1] - rotor.y_mm * scale - away * math.cos(math.radians(outward))
    hub = shift(((rotor.x_mm * scale + middle[0], middle[1] - rotor.y_mm * scale),), (0.0, 0.0))[0]
    radius = disc * (0.8 if rotor.level == "lower" else 1.0)
    return DrawnRotor(
        number=rotor.number,
        name=rotor.name,
        spin=rotor.spin.value,
        short=SHORT[rotor.spin],
        x=round(x, 1),
        y=round(y, 1),
        r=round(radius, 1),
        leader=f"M{hub[0]:.1f},{hub[1]:.1f} L{x:.1f},{y:.1f}" if away else "",
        looks=tuple(_look(spin, radius, outward) for spin in Spin),
    )
