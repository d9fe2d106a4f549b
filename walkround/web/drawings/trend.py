"""A measured quantity over time: its readings as dots, the line with its interval, the limit, where they meet."""

import math
from datetime import datetime, timedelta

from walkround.core.base.struct import Struct
from walkround.core.packs.health import Series

WIDE, TALL = 560.0, 190.0
LEFT, RIGHT, TOP, BOTTOM = 64.0, 12.0, 14.0, 30.0
AHEAD = 0.35
"""How much of the width lies ahead of the last reading."""
STEPS = 24


class Tick(Struct, frozen=True):
    """A line of the scale: where, and what stands beside it."""

    at: float
    text: str


class TrendDrawn(Struct, frozen=True):
    """The picture: dots, the line and its band as paths, the limit, both scales, the jump, and the words."""

    width: float
    height: float
    dots: tuple[tuple[float, float], ...]
    line: str
    band: str
    limit_y: float | None
    now_x: float
    jump_x: float | None
    levels: tuple[Tick, ...]
    dates: tuple[Tick, ...]
    words: str


def _round_step(span: float) -> float:
    rough = span / 3 or 1.0
    power: float = 10.0 ** math.floor(math.log10(rough))
    return next(m * power for m in (1, 2, 5, 10) if m * power >= rough)


def draw_trend(series: Series, limit: float, *, unit: str, decimals: int = 0, name: str = "") -> TrendDrawn | None:
    """A series against its limit in its own unit; None while there is nothing to draw."""
    if not series.points or series.last_at is None:
        return None
    first, last = series.points[0].at, series.last_at
    days = max((last - first).total_seconds() / 86_400, 1.0)
    line = series.line if series.line is not None and not series.line.few else None
    ahead = days * AHEAD if line else days * 0.04
    values = [p.value for p in series.points] + [limit]
    if line:
        values += [line.at(ahead)[0], line.at(ahead)[2]]
    low, high = min(values), max(values)
    spare = (high - low or abs(high) or 1.0) * 0.08
    low, high = low - spare, high + spare

    def x(day: float) -> float:
        return round(LEFT + (WIDE - LEFT - RIGHT) * day / (days + ahead), 1)

    def y(value: float) -> float:
        return round(TOP + (TALL - TOP - BOTTOM) * (high - value) / (high - low), 1)

    dots = tuple((x((p.at - first).total_seconds() / 86_400), y(p.value)) for p in series.points)
    path = band = ""
    jump_x = None
    if line:
        begin = -line.days
        marks = [begin + (ahead - begin) * i / STEPS for i in range(STEPS + 1)]
        upper = [f"{x(days + d)},{y(line.at(d)[2])}" for d in marks]
        lower = [f"{x(days + d)},{y(line.at(d)[0])}" for d in reversed(marks)]
        band = "M" + " L".join([*upper, *lower]) + "Z"
        path = f"M{x(days + begin)},{y(line.at(begin)[1])} L{x(days + ahead)},{y(line.at(ahead)[1])}"
        if line.jump:
            jump_x = x(days - line.days)
    step = _round_step(high - low)
    levels = tuple(
        Tick(at=y(v), text=f"{v:.{decimals}f}")
        for v in (step * k for k in range(math.ceil(low / step), math.floor(high / step) + 1))
    )
    words = f"{name}: {series.count} readings, the newest {series.latest:.{decimals}f} {unit}, limit {limit:.{decimals}f} {unit}"
    return TrendDrawn(
        width=WIDE,
        height=TALL,
        dots=dots,
        line=path,
        band=band,
        limit_y=y(limit),
        now_x=x(days),
        jump_x=jump_x,
        levels=levels,
        dates=_dates(first, last, x, days),
        words=words,
    )


def _dates(first: datetime, last: datetime, x, days: float) -> tuple[Tick, ...]:  # type: ignore[no-untyped-def]
    form = "%d %b" if days < 300 else "%b %Y"
    ends = (first, first + timedelta(days=days / 2), last) if days > 20 else (first, last)
    return tuple(Tick(at=x((d - first).total_seconds() / 86_400), text=f"{d:{form}}") for d in ends)
