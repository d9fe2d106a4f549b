"""What a close-up is made of: strokes in picture units, and a target for each part that no thumb confuses with its neighbour.

A close-up is 360 wide and 300 high: on a phone one unit is about one pixel. Y runs down.
"""

import math
from collections.abc import Mapping

from walkround.core.base.struct import Struct

WIDTH, HEIGHT = 360.0, 300.0
TARGET_R = 25.0
"""Radius of a target: 50 units across, so that it is 48 pixels or more on a phone. Source: WCAG 2.2, 2.5.8 asks for 24 and 2.5.5 for 44; more for a thumb in the wind."""
APART = 52.0
"""Centres of two targets are at least so far apart."""
Point = tuple[float, float]


class Stroke(Struct, frozen=True):
    """One line or shape: what it is made of, and its path."""

    role: str
    path: str


class Spot(Struct, frozen=True):
    """The target of a part: its centre, and the place on the drawing that it means."""

    part_id: str
    x: float
    y: float
    at_x: float
    at_y: float

    @property
    def apart(self) -> bool:
        """Whether a line must lead from the target to its place."""
        return math.hypot(self.x - self.at_x, self.y - self.at_y) > 6


class CloseUp(Struct, frozen=True):
    """A stop drawn: strokes, and the targets in the order of the hand."""

    strokes: tuple[Stroke, ...]
    spots: tuple[Spot, ...]


def line(*points: Point, role: str = "thin") -> Stroke:
    """An open line, in picture units."""
    return Stroke(role, "M" + " L".join(f"{x:g},{y:g}" for x, y in points))


def shape(*points: Point, role: str = "body") -> Stroke:
    """A closed shape, in picture units."""
    return Stroke(role, "M" + " L".join(f"{x:g},{y:g}" for x, y in points) + "Z")


def box(x: float, y: float, half_width: float, half_height: float, role: str = "body", round_: float = 6) -> Stroke:
    """A box with rounded corners about its middle, in picture units."""
    r = min(round_, half_width, half_height)
    w, h = 2 * (half_width - r), 2 * (half_height - r)
    return Stroke(
        role,
        f"M{x - half_width + r:g},{y - half_height:g} h{w:g} a{r:g},{r:g} 0 0 1 {r:g},{r:g} v{h:g} a{r:g},{r:g} 0 0 1 {-r:g},{r:g}"
        f" h{-w:g} a{r:g},{r:g} 0 0 1 {-r:g},{-r:g} v{-h:g} a{r:g},{r:g} 0 0 1 {r:g},{-r:g}Z",
    )


def ring(x: float, y: float, rx: float, ry: float | None = None, role: str = "metal") -> Stroke:
    """A circle or an ellipse about its middle, in picture units."""
    ry = rx if ry is None else ry
    return Stroke(role, f"M{x - rx:g},{y:g} a{rx:g},{ry:g} 0 1 0 {2 * rx:g},0 a{rx:g},{ry:g} 0 1 0 {-2 * rx:g},0Z")


def blade(root: Point, tip: Point, chord: float, *, straight: bool = False) -> Stroke:
    """A blade from root to tip, in picture units: straight, or swelling towards its middle."""
    (x0, y0), (x1, y1) = root, tip
    long = math.hypot(x1 - x0, y1 - y0)
    nx, ny = -(y1 - y0) / long * chord, (x1 - x0) / long * chord

    def at(share: float, side: float) -> str:
        return f"{x0 + (x1 - x0) * share + nx * side:.1f},{y0 + (y1 - y0) * share + ny * side:.1f}"

    if straight:
        return Stroke(
            "blade",
            f"M{at(0, 0.35)} L{at(0.12, 0.6)} L{at(0.97, 0.6)} L{at(1, 0)} L{at(0.97, -0.6)} L{at(0.12, -0.6)} L{at(0, -0.35)}Z",
        )
    return Stroke(
        "blade",
        f"M{at(0, 0.3)} C{at(0.2, 1.1)} {at(0.6, 0.9)} {at(1, 0.1)} C{at(0.7, -0.6)} {at(0.3, -0.7)} {at(0, -0.3)}Z",
    )


def mirrored(strokes: tuple[Stroke, ...], anchors: Mapping[str, Point]) -> tuple[tuple[Stroke, ...], dict[str, Point]]:
    """The same seen from the other side: what was left is right. The strokes are turned by the picture's own transform."""
    turned = tuple(Stroke(f"{stroke.role} mirrored", stroke.path) for stroke in strokes)
    return turned, {part_id: (WIDTH - x, y) for part_id, (x, y) in anchors.items()}


def spread(anchors: Mapping[str, Point]) -> tuple[Spot, ...]:
    """Targets as near to their places as they can be without touching each other or the edge.

    Neighbours are pushed apart again and again; where there is no room left for that, rows and columns take them, each the nearest that is free.
    """
    low, right, bottom = TARGET_R + 1, WIDTH - TARGET_R - 1, HEIGHT - TARGET_R - 1
    ids = list(anchors)
    at = [[min(max(anchors[i][0], low), right), min(max(anchors[i][1], low), bottom)] for i in ids]
    for _ in range(400):
        moved = False
        for i in range(len(at)):
            for j in range(i):
                dx, dy = at[i][0] - at[j][0], at[i][1] - at[j][1]
                far = math.hypot(dx, dy)
                if far >= APART:
                    continue
                moved = True
                if far < 0.5:
                    dx, dy, far = math.cos(i), math.sin(i), 1.0
                push = (APART + 0.5 - far) / 2
                for one, sign in ((i, 1), (j, -1)):
                    at[one][0] = min(max(at[one][0] + sign * dx / far * push, low), right)
                    at[one][1] = min(max(at[one][1] + sign * dy / far * push, low), bottom)
        if not moved:
            break
    else:
        at = _in_rows([anchors[i] for i in ids], low, right, bottom)
    return tuple(
        Spot(part_id, round(x, 1), round(y, 1), *anchors[part_id]) for part_id, (x, y) in zip(ids, at, strict=True)
    )


def _in_rows(places: list[Point], low: float, right: float, bottom: float) -> list[list[float]]:
    columns, rows = int((right - low) // APART) + 1, int((bottom - low) // APART) + 1
    free = [
        (low + c * (right - low) / (columns - 1), low + r * (bottom - low) / (rows - 1))
        for r in range(rows)
        for c in range(columns)
    ]
    found = []
    for x, y in places:
        nearest = min(free, key=lambda one: math.hypot(one[0] - x, one[1] - y))
        free.remove(nearest)
        found.append(list(nearest))
    return found


MOST = 30
"""A close-up has room for so many targets."""
