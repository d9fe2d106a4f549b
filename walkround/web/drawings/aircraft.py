"""The aircraft from above, scaled into a picture."""

from collections.abc import Iterable, Mapping
from functools import lru_cache

from msgspec import field

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import unit_of
from walkround.core.aircraft.planform import Planform, PlanformPart, PlanformShape, ShapePoint, planform
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.checklist.history import Snag
from walkround.core.round.plan import snag_group
from walkround.core.round.walk import CheckState

OPEN_PATHS = {"line"}
SMALL = (360, 190)
"""Width and height of the picture on a card."""


class DrawnShape(Struct, frozen=True):
    """One shape in picture units: a circle or a list of points as text."""

    kind: str
    role: str
    points: str = ""
    cx: float = 0
    cy: float = 0
    r: float = 0
    part: str = ""
    middle: ShapePoint = (0.0, 0.0)


class DrawnPart(Struct, frozen=True):
    """One part: shapes, where its pin goes, how it stands ("", "open", "clear", "caution", "grounded"), and the check to
    open when it is tapped."""

    key: str
    name: str
    shapes: tuple[DrawnShape, ...]
    pin: ShapePoint
    state: str = ""
    here: bool = False
    check: str = ""


class Picture(Struct, frozen=True):
    """A whole aircraft in picture units, with its words."""

    parts: tuple[DrawnPart, ...]
    words: str
    flags: tuple[tuple[float, float, str], ...] = field(default=())


@lru_cache(maxsize=128)
def place(aircraft: Aircraft, middle: ShapePoint, half_width: float, half_height: float) -> Picture:
    """The aircraft scaled to fit round ``middle`` within the half sizes (picture units, y down)."""
    return _scaled(planform(aircraft), middle, half_width, half_height)


def _scaled(plan: Planform, middle: ShapePoint, half_width: float, half_height: float) -> Picture:
    scale = min(half_width / plan.half_width_mm, half_height / plan.half_height_mm)

    def at(point: ShapePoint) -> ShapePoint:
        return (round(middle[0] + point[0] * scale, 1), round(middle[1] - point[1] * scale, 1))

    def shape(s: PlanformShape) -> DrawnShape:
        if s.kind == "circle":
            x, y = at(s.points[0])
            return DrawnShape(
                kind="circle", role=s.role, cx=x, cy=y, r=round(s.radius_mm * scale, 1), part=s.part, middle=(x, y)
            )
        points = [at(point) for point in s.points]
        kind = "polyline" if s.kind in OPEN_PATHS else "polygon"
        middle = (sum(x for x, _ in points) / len(points), sum(y for _, y in points) / len(points))
        text = " ".join(f"{x:g},{y:g}" for x, y in points)
        return DrawnShape(kind=kind, role=s.role, points=text, part=s.part, middle=middle)

    def part(p: PlanformPart) -> DrawnPart:
        return DrawnPart(key=p.key, name=p.name, shapes=tuple(shape(s) for s in p.shapes), pin=at(p.pin))

    return Picture(parts=tuple(part(p) for p in plan.parts), words=plan.words)


_STATE = {Level.CLEAR: "clear", Level.CAUTION: "caution", Level.GROUNDED: "grounded"}


def walked(
    aircraft: Aircraft,
    states: Iterable[CheckState],
    here: frozenset[str],
    middle: ShapePoint,
    half_width: float,
    half_height: float,
) -> Picture:
    """The aircraft with the state of the checks on each part; ``here``: the parts in hand."""
    picture = place(aircraft, middle, half_width, half_height)
    by_part: dict[str, list[CheckState]] = {}
    for state in states:
        if state.planned.check.part:
            by_part.setdefault(state.planned.check.part, []).append(state)
    parts = tuple(_with_state(part, by_part, here) for part in picture.parts)
    pins = {part.key: part.pin for part in picture.parts}
    shapes = {shape.part: shape.middle for part in picture.parts for shape in reversed(part.shapes) if shape.part}
    flags = tuple(
        (*_shown_at(shapes, s.planned.snag, pins[s.planned.check.part]), s.planned.snag.title)
        for s in (state for group in by_part.values() for state in group)
        if s.planned.snag is not None and s.planned.check.part in pins
    )
    return Picture(parts=parts, words=picture.words, flags=flags)


def _shown_at(shapes: Mapping[str, ShapePoint], snag: Snag, otherwise: ShapePoint) -> ShapePoint:
    """Where a snag is shown: on its part, or on the part that its detail belongs to."""
    part_id = next(iter(snag.parts), "")
    return shapes.get(part_id, shapes.get(unit_of(part_id), otherwise))


class SmallPicture(Struct, frozen=True):
    """The aircraft for a card, and the part of the picture that is shown."""

    parts: tuple[DrawnPart, ...]
    view: str = f"0 0 {SMALL[0]} {SMALL[1]}"


def small(aircraft: Aircraft, states: Iterable[CheckState], here: frozenset[str]) -> SmallPicture:
    """The aircraft for a card, the parts in hand marked."""
    width, height = SMALL
    return SmallPicture(
        parts=walked(aircraft, states, here, (width / 2, height / 2), width / 2 - 10, height / 2 - 8).parts
    )


def _with_state(part: DrawnPart, by_part: Mapping[str, list[CheckState]], here: frozenset[str]) -> DrawnPart:
    group = by_part.get(part.key, [])
    levels = [s.level for s in group if s.level is not None]
    if not group:
        state = ""
    elif levels and max(levels) > Level.CLEAR:
        state = _STATE[max(levels)]
    elif len(levels) == len(group):
        state = "clear"
    else:
        state = "open"
    first = next((s for s in group if s.level is None), group[0] if group else None)
    return DrawnPart(
        key=part.key,
        name=part.name,
        shapes=part.shapes,
        pin=part.pin,
        state=state,
        here=part.key in here,
        check=first.planned.check.id if first else "",
    )


class Callout(Struct, frozen=True):
    """A snag on the drawing: where it is, whether it grounds, its words on lines, where the line to them ends, where their first line is, and on which side."""

    x: float
    y: float
    grounds: bool
    lines: tuple[str, ...]
    text_x: float
    text_y: float
    first_y: float
    right: bool


CALLOUT_LETTERS, CALLOUT_APART, MOST_CALLOUTS, LINE = 22, 46.0, 8, 17.0
"""Letters on a line beside the drawing, how far callouts are apart in picture units, how many are drawn, and how far lines are apart."""


def _lines(text: str) -> tuple[str, ...]:
    """A text on two lines at most."""
    words, lines = text.split(), [""]
    for word in words:
        longer = f"{lines[-1]} {word}".strip()
        if len(longer) <= CALLOUT_LETTERS or not lines[-1]:
            lines[-1] = longer
        else:
            lines.append(word)
    return tuple(lines) if len(lines) <= 2 else (lines[0], f"{lines[1]} …")


def with_snags(
    aircraft: Aircraft, snags: Iterable[Snag], width: float, height: float
) -> tuple[Picture, tuple[Callout, ...]]:
    """The aircraft in the middle of a picture, with its open snags beside it: each points at its part, words to its own side, none over another."""
    picture = place(aircraft, (width / 2, height / 2), width * 0.3, height * 0.44)
    pins = {part.key: part.pin for part in picture.parts}
    shapes = {shape.part: shape.middle for part in picture.parts for shape in reversed(part.shapes) if shape.part}
    placed = []
    for snag in list(snags)[:MOST_CALLOUTS]:
        on_body = pins.get("body", (width / 2, height / 2))
        x, y = _shown_at(shapes, snag, pins.get(snag_group(snag, aircraft), on_body))
        placed.append((x >= width / 2, y, x, snag))
    callouts = []
    for side in (False, True):
        below = 40.0
        for right, y, x, snag in sorted((one for one in placed if one[0] is side), key=lambda one: one[1]):
            text_y = max(below, min(y, height - 40))
            below = text_y + CALLOUT_APART
            text_x = width - 12 if right else 12
            lines = _lines(snag.title)
            first_y = round(text_y - 8 - LINE * (len(lines) - 1), 1)
            callouts.append(Callout(x, y, snag.grounds, lines, text_x, round(text_y, 1), first_y, right))
    return picture, tuple(callouts)
