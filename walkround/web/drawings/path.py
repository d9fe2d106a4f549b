"""The walk path: a footpath round the aircraft with its eleven stations, and its strip on the phone."""

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from walkround.core.aircraft.planform import ShapePoint
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import STATION_TITLES, Phase, Station
from walkround.core.round.walk import Walk

WIDTH, HEIGHT = 800, 744
GATE, LINE = (118.0, 760.0), (566.0, 760.0)
SPOTS: dict[Station, tuple[float, float, str]] = {
    Station.BENCH: (166, 652, "right"),
    Station.BAG: (92, 556, "right"),
    Station.FIELD: (64, 434, "right"),
    Station.SKY: (96, 306, "right"),
    Station.AIRFRAME: (194, 196, "above"),
    Station.PACK: (352, 128, "above"),
    Station.POWER: (528, 148, "above"),
    Station.SENSORS: (664, 238, "left"),
    Station.LINK: (726, 366, "left"),
    Station.CONTROLS: (708, 502, "left"),
    Station.FIRST_MINUTE: (622, 630, "left"),
}
"""Where each station stands in the picture, and on which side its name is written."""
MIDDLE, HALF_WIDTH, HALF_HEIGHT = (392.0, 408.0), 224.0, 208.0
STRIDE = 15.0
STRIP_WIDTH, STRIP_HEIGHT, STRIP_STEP = 390, 118, 86


class Stop(Struct, frozen=True):
    """One station in the picture."""

    station: str
    title: str
    x: float
    y: float
    label_x: float
    label_y: float
    anchor: str
    state: str  # open, clear, caution, grounded
    here: bool
    done: int
    of: int
    arc: str  # progress round an open marker


class Footpath(Struct, frozen=True):
    """The whole picture of the path."""

    outline: str
    stops: tuple[Stop, ...]
    feet: str
    leader: str


Counts = Mapping[Station, tuple[int, int, str]]


def all_counts(walk: Walk, *, flight: bool) -> Counts:
    """Done, all, and the state of each station; checks of the flight count only once it is signed (``flight``)."""
    levels: dict[Station, list[Level | None]] = {station: [] for station in Station}
    for state in walk.states:
        if flight or state.planned.check.phase is Phase.BEFORE:
            levels[state.planned.check.station].append(state.level)
    return {station: _counted(of) for station, of in levels.items()}


def _counted(levels: Sequence[Level | None]) -> tuple[int, int, str]:
    given = [level for level in levels if level is not None]
    worst = max(given, default=Level.CLEAR)
    if worst > Level.CLEAR:
        state = "caution" if worst is Level.CAUTION else "grounded"
    else:
        state = "clear" if levels and len(given) == len(levels) else "open"
    return len(given), len(levels), state


def _curve(points: Sequence[ShapePoint]) -> list[tuple[ShapePoint, ShapePoint, ShapePoint, ShapePoint]]:
    """Bezier pieces of a smooth line through the points (Catmull-Rom)."""
    pieces = []
    for i in range(len(points) - 1):
        before = points[max(i - 1, 0)]
        a, b = points[i], points[i + 1]
        after = points[min(i + 2, len(points) - 1)]
        first = (a[0] + (b[0] - before[0]) / 6, a[1] + (b[1] - before[1]) / 6)
        second = (b[0] - (after[0] - a[0]) / 6, b[1] - (after[1] - a[1]) / 6)
        pieces.append((a, first, second, b))
    return pieces


def _text(pieces: Sequence[tuple[ShapePoint, ShapePoint, ShapePoint, ShapePoint]]) -> str:
    if not pieces:
        return ""
    start = pieces[0][0]
    parts = [f"M{start[0]:.0f},{start[1]:.0f}"]
    parts += [f"C{b[0]:.0f},{b[1]:.0f} {c[0]:.0f},{c[1]:.0f} {d[0]:.0f},{d[1]:.0f}" for _, b, c, d in pieces]
    return " ".join(parts)


def _feet(pieces: Sequence[tuple[ShapePoint, ShapePoint, ShapePoint, ShapePoint]]) -> str:
    """Footprints at even strides along the pieces, left and right of the line in turn: short strokes of one path."""
    feet: list[str] = []
    carried, left = 0.0, False
    for a, b, c, d in pieces:
        last = a
        for i in range(1, 41):
            t = i / 40
            u = 1 - t
            x = u**3 * a[0] + 3 * u * u * t * b[0] + 3 * u * t * t * c[0] + t**3 * d[0]
            y = u**3 * a[1] + 3 * u * u * t * b[1] + 3 * u * t * t * c[1] + t**3 * d[1]
            step = math.hypot(x - last[0], y - last[1])
            carried += step
            if carried >= STRIDE and step > 0:
                carried -= STRIDE
                left = not left
                heading = math.atan2(y - last[1], x - last[0])
                side = -4.2 if left else 4.2
                foot_x, foot_y = x - side * math.sin(heading), y + side * math.cos(heading)
                feet.append(f"M{foot_x:.1f},{foot_y:.1f}l{4 * math.cos(heading):.1f},{4 * math.sin(heading):.1f}")
            last = (x, y)
    return "".join(feet)


def progress_arc(radius: float, share: float) -> str:
    """An arc round the origin from the top, clockwise, for a share of 0 to 1; empty at either end."""
    if not 0 < share < 1:
        return ""
    angle = 2 * math.pi * share
    end = (radius * math.sin(angle), -radius * math.cos(angle))
    large = 1 if share > 0.5 else 0
    return f"M0,{-radius:.1f} A{radius:g},{radius:g} 0 {large} 1 {end[0]:.1f},{end[1]:.1f}"


_LABELS = {"above": (0.0, -32.0, "middle"), "left": (-30.0, 6.0, "end"), "right": (30.0, 6.0, "start")}
"""Where a name is written, from its station, and how it is anchored."""


@lru_cache(maxsize=256)
def _laid(walked: tuple[int, ...]) -> tuple[str, str]:
    """The line of the path, and the footprints to the stations (by number) where something was done."""
    points: list[ShapePoint] = [GATE, *((x, y) for x, y, _ in SPOTS.values()), LINE]
    pieces = _curve(points)
    return _text(pieces), _feet([piece for i, piece in enumerate(pieces) if i in walked])


def _walked(counts: Counts) -> tuple[int, ...]:
    """The numbers of the stations where something was done."""
    return tuple(i for i, station in enumerate(SPOTS) if counts[station][0])


def _strip_spot(index: int, middle: int) -> ShapePoint:
    return (STRIP_WIDTH / 2 + (index - middle) * STRIP_STEP, 46 + 11 * math.sin(index * 1.35))


@lru_cache(maxsize=256)
def _strip_laid(middle: int, first: int, last: int, walked: tuple[int, ...]) -> tuple[str, str]:
    """The line of the strip, and the footprints to the stations (by number) where something was done."""
    pieces = _curve([_strip_spot(i, middle) for i in range(first - 1, last + 2)])
    return _text(pieces), _feet([piece for i, piece in enumerate(pieces) if first + i in walked])


def footpath(counts: Counts, here: Station, *, pin: ShapePoint | None) -> Footpath:
    """The path with its stations as they stand; ``pin`` is the part of the check in hand, in picture units."""
    line, feet = _laid(_walked(counts))
    stops = []
    for station, (x, y, side) in SPOTS.items():
        done, of, state = counts[station]
        label_x, label_y, anchor = _LABELS[side]
        stops.append(
            Stop(
                station=station.value,
                title=STATION_TITLES[station][0],
                x=x,
                y=y,
                label_x=label_x,
                label_y=label_y,
                anchor=anchor,
                state=state,
                here=station is here,
                done=done,
                of=of,
                arc=progress_arc(14, done / of if of else 0),
            )
        )
    leader = ""
    if pin is not None:
        x, y, _ = SPOTS[here]
        middle = ((x + pin[0]) / 2 + (pin[1] - y) * 0.12, (y + pin[1]) / 2 - (pin[0] - x) * 0.12)
        leader = f"M{x:.0f},{y:.0f} Q{middle[0]:.0f},{middle[1]:.0f} {pin[0]:.0f},{pin[1]:.0f}"
    return Footpath(outline=line, stops=tuple(stops), feet=feet, leader=leader)


def strip(counts: Counts, here: Station) -> Footpath:
    """The path as a strip: the station in hand in the middle, two and a half on each side."""
    order = list(Station)
    middle = order.index(here)
    first, last = max(0, middle - 3), min(len(order) - 1, middle + 3)
    line, feet = _strip_laid(middle, first, last, _walked(counts))
    stops = []
    for index in range(first, last + 1):
        station = order[index]
        done, of, state = counts[station]
        x, y = _strip_spot(index, middle)
        stops.append(
            Stop(
                station=station.value,
                title=STATION_TITLES[station][0],
                x=round(x, 1),
                y=round(y, 1),
                label_x=0,
                label_y=round(104 - y, 1),
                anchor="middle",
                state=state,
                here=station is here,
                done=done,
                of=of,
                arc=progress_arc(14, done / of if of else 0),
            )
        )
    return Footpath(outline=line, stops=tuple(stops), feet=feet, leader="")
