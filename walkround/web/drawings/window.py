"""The hours ahead as a strip: one row for each limit, night and day above it, the best slot framed."""

from zoneinfo import ZoneInfo

from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.base.units import Units
from walkround.core.round.window import Window, is_dark

CELL, ROW, LEFT, TOP = 24.0, 30.0, 130.0, 64.0
_LEVEL = {Level.CLEAR: "clear", Level.CAUTION: "caution", Level.GROUNDED: "grounded"}


class Square(Struct, frozen=True):
    """One limit in one hour."""

    x: float
    y: float
    level: str
    words: str


class Light(Struct, frozen=True):
    """The sky over one hour: day, twilight or night."""

    x: float
    kind: str


class WindowDrawn(Struct, frozen=True):
    """The strip in picture units and in words; ``best``: left end, width and height of the frame round the best slot."""

    width: float
    height: float
    cell: float
    rows: tuple[tuple[float, str], ...]
    squares: tuple[Square, ...]
    lights: tuple[Light, ...]
    hours: tuple[tuple[float, str], ...]
    days: tuple[tuple[float, str], ...]
    best: tuple[float, float, float] | None
    best_hours: int
    words: str


def draw_window(found: Window, zone: str, units: Units) -> WindowDrawn:
    """The strip on the field's own clock."""
    clock = [h.at.astimezone(ZoneInfo(zone)) for h in found.hours]
    rows = ("All together", *found.rows)
    squares = []
    for column, hour in enumerate(found.hours):
        x = LEFT + CELL * column
        at = f"{clock[column]:%a %H:%M}"
        squares.append(Square(x=x, y=TOP, level=_LEVEL[hour.level], words=f"{at}: limited by {hour.limiting.lower()}"))
        for index, f in enumerate(hour.found):
            words = f"{at}, {found.rows[index].lower()}"
            words += f": {f.reason.say(units)}" if f else ": no data"
            squares.append(
                Square(x=x, y=TOP + ROW * (index + 1) + 8, level=_LEVEL[f.level] if f else "unsaid", words=words)
            )
    best, hours = None, 0
    if found.best is not None:
        first = next(i for i, h in enumerate(found.hours) if h.at == found.best.begin)
        hours = round((found.best.end - found.best.begin).total_seconds() / 3600)
        best = (LEFT + CELL * first - 2, CELL * hours + 2, TOP + ROW * len(rows) + 14 - 66)
    lights = tuple(
        Light(x=LEFT + CELL * i, kind="night" if is_dark(h.sun_deg) else "twilight" if h.sun_deg < 0 else "day")
        for i, h in enumerate(found.hours)
    )
    flyable = "; ".join(
        f"{s.begin.astimezone(ZoneInfo(zone)):%a %H:%M} to {s.end.astimezone(ZoneInfo(zone)):%H:%M}"
        for s in found.slots
    )
    return WindowDrawn(
        width=LEFT + CELL * len(found.hours) + 6,
        height=TOP + ROW * len(rows) + 14,
        cell=CELL - 2,
        rows=tuple((TOP + ROW * i + (8 if i else 0) + 19, name) for i, name in enumerate(rows)),
        squares=tuple(squares),
        lights=lights,
        hours=tuple((LEFT + CELL * i, f"{c:%H}") for i, c in enumerate(clock) if c.hour % 3 == 0),
        days=tuple((LEFT + CELL * i, f"{c:%A %d %b}") for i, c in enumerate(clock) if i == 0 or c.hour == 0),
        best=best,
        best_hours=hours,
        words=f"{len(found.hours)} hours ahead. Flyable: {flyable or 'none'}.",
    )
