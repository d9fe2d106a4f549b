"""The way home in side view: ground, what stands there, the path at its height, and what each height takes."""

from collections.abc import Sequence

from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.flight.return_to_home import Homeward, TurnBack, TurnPoint
from walkround.core.pilot.limits import Limits

WIDE, TALL, LEFT, RIGHT, TOP, BOTTOM = 640.0, 250.0, 52.0, 20.0, 14.0, 34.0
COST_WIDE = 200.0


class Standing(Struct, frozen=True):
    """Something on the way, in picture units: its path, for a tree the middle and half sizes of its crown, and its words."""

    x: float
    kind: str
    words: str
    path: str
    pole: bool = False
    crown: tuple[float, float, float] | None = None


class HomeDrawn(Struct, frozen=True):
    """The side view and the cost beside it, in picture units, with the words for both."""

    width: float
    height: float
    floor: float
    ground_y: float
    ground: str
    path: str
    place_x: float
    place_y: float
    home_x: float
    return_y: float
    lowest_y: float
    ceiling_y: float | None
    things: tuple[Standing, ...]
    scale: tuple[tuple[float, str], ...]
    heights: tuple[tuple[float, str], ...]
    cost: str
    cost_x: float | None
    cost_scale: tuple[tuple[float, str], ...]
    safe: bool
    words: str


def _standing(x: float, top: float, ground: float, kind: str, words: str) -> Standing:
    """How one kind of thing looks from the side, standing at ``x`` from the ground to its top."""
    tall = round(ground - top, 1)
    if kind in ("tree", "trees"):
        crown = (round(top + tall * 0.42, 1), 15.0 if kind == "trees" else 9.0, round(tall * 0.42, 1))
        return Standing(x, kind, words, path=f"M{x},{ground} v-{tall * 0.3:.1f}", crown=crown)
    if kind == "building":
        wall, roof = f"{tall * 0.65:.1f}", f"{tall * 0.35:.1f}"
        return Standing(x, kind, words, path=f"M{x - 13:.1f},{ground} v-{wall} l13,-{roof} l13,{roof} v{wall}Z")
    if kind in ("fence", "cars", "transformer"):
        return Standing(x, kind, words, path=f"M{x - 10:.1f},{ground} v-{tall} h20 v{tall}Z")
    return Standing(x, kind, words, path=f"M{x},{ground} v-{tall} m-7,4 h14", pole=True)


def draw_home(place: TurnPoint, found: Homeward, site: Site, limits: Limits) -> HomeDrawn:
    """The way home of one place at one height."""
    way = found.way
    span = max(place.distance_m, 20.0)
    away = [(site.away(mark)[0], mark) for mark in site.standing]
    near = [(m, mark) for m, mark in away if m <= place.distance_m + limits.position_allowance_m]
    top = max([way.height_m, found.lowest_m, *(mark.height_m for _, mark in near)]) * 1.22

    def x(metres: float) -> float:
        return round(LEFT + (WIDE - LEFT - RIGHT) * min(metres, span * 1.04) / (span * 1.04), 1)

    def y(metres: float) -> float:
        return round(TOP + (TALL - TOP - BOTTOM) * (1 - metres / top), 1)

    path = f"M{x(place.distance_m)},{y(place.height_m)} V{y(way.height_m)} H{x(0)} V{y(0)}"
    things = tuple(
        _standing(x(m), y(o.height_m), y(0), o.kind.name.lower(), f"{o.words}, {o.height_m:g} m high at {m:.0f} m")
        for m, o in sorted(near, key=lambda pair: -pair[1].height_m)[:40]
    )
    costs = [(w.height_m, w.percent) for w in found.ways if w.home]
    most = max([w for _, w in costs] + ([way.percent] if way.home else []), default=10.0) * 1.15

    def cx(value: float) -> float:
        return round(14 + (COST_WIDE - 34) * value / most, 1)

    curve = " ".join(f"{'M' if i == 0 else 'L'}{cx(value)},{y(h)}" for i, (h, value) in enumerate(costs) if h <= top)
    step = next(s for s in (5, 10, 20, 50, 100, 200) if top / s <= 6)
    along = next(s for s in (10, 20, 50, 100, 200, 500, 1000, 5000) if span / s <= 6)
    steps = next(s for s in (1, 2, 5, 10, 20, 50, 1000) if most / s <= 4)
    comes = "gets home" if way.home else "does not get home"
    return HomeDrawn(
        width=WIDE,
        height=TALL,
        floor=TALL - BOTTOM,
        ground_y=y(0),
        ground=f"M{LEFT},{y(0)} L{x(span)},{y(site.rise_m(place.bearing_deg, place.distance_m))} V{TALL - BOTTOM + 8} H{LEFT}Z",
        path=path,
        place_x=x(place.distance_m),
        place_y=y(place.height_m),
        home_x=x(0),
        return_y=y(way.height_m),
        lowest_y=y(found.lowest_m),
        ceiling_y=y(limits.height_max_m) if limits.height_max_m <= top else None,
        things=things,
        scale=tuple((x(m), f"{m}") for m in range(0, int(span) + 1, along)),
        heights=tuple((y(m), f"{m}") for m in range(0, int(top) + 1, step)),
        cost=curve,
        cost_x=cx(way.percent) if way.home else None,
        cost_scale=tuple((cx(p), f"{p} %") for p in range(0, int(most) + 1, steps)),
        safe=way.height_m >= found.lowest_m,
        words=(
            f"From {place.distance_m:.0f} m away it climbs to {way.height_m:.0f} m and {comes}, "
            f"{way.clearance_m:.0f} m above the tallest obstacle on the way; {len(near)} obstacles there."
        ),
    )


class TurnBar(Struct, frozen=True):
    """The charge to turn at, at one distance, and the time on the clock of the flight."""

    distance_m: float
    width: float
    text: str
    clock: str
    none: bool


def turn_bars(turns: Sequence[tuple[TurnBack, float | None]]) -> tuple[TurnBar, ...]:
    """One bar for each distance; the bar is the charge that must still be there, the clock in seconds after take-off."""
    return tuple(
        TurnBar(
            distance_m=t.distance_m,
            width=100.0 if t.percent is None else round(t.percent, 1),
            text="no way home" if t.percent is None else f"{t.percent:.0f} %",
            clock="" if at_s is None else f"{int(at_s) // 60}:{int(at_s) % 60:02d}",
            none=t.percent is None,
        )
        for t, at_s in turns
    )
