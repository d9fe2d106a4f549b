"""A year of the logbook as a picture: a column a month, a piece an aircraft, a mark where something was not fine."""

from collections.abc import Sequence

from walkround.core.base.struct import Struct
from walkround.core.base.wording import counted
from walkround.store.logbook import MonthOfOne, next_month

WIDE, HIGH, BASE = 720.0, 210.0, 178.0
MOST_APART = 5
"""So many aircraft have a colour of their own; the rest share one. Source: our choice, as many as are told apart."""
NAMES = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


class PieceOfMonth(Struct, frozen=True):
    """One aircraft in a month, in picture units; ``shade``: which colour."""

    y: float
    high: float
    shade: int


class MonthDrawn(Struct, frozen=True):
    """A month: where it stands, its pieces from below, whether something was not fine, and the words."""

    month: str
    name: str
    x: float
    middle: float
    pieces: tuple[PieceOfMonth, ...]
    mark_y: float | None
    words: str


class YearDrawn(Struct, frozen=True):
    """Twelve months, the width of a column, and the legend: aircraft (number, 0: all others), name, shade, flights, minutes."""

    months: tuple[MonthDrawn, ...]
    wide: float
    legend: tuple[tuple[int, str, int, int, float], ...]
    top_minutes: float


def draw_year(rows: Sequence[MonthOfOne], first: str, names: dict[int, str]) -> YearDrawn:
    """Twelve months from the first one on, with minutes as heights."""
    flown: dict[int, list[float]] = {}
    for row in rows:
        kept = flown.setdefault(row.aircraft_id, [0, 0.0])
        kept[0] += row.flights
        kept[1] += row.minutes
    ranked = sorted(flown, key=lambda number: (-flown[number][1], number))
    shades = {number: min(rank, MOST_APART) for rank, number in enumerate(ranked)}
    by_month: dict[str, list[MonthOfOne]] = {}
    for row in rows:
        by_month.setdefault(row.month, []).append(row)
    top = max((sum(row.minutes for row in month) for month in by_month.values()), default=0.0) or 1.0
    step, month, drawn = WIDE / 12, first, []
    for i in range(12):
        drawn.append(
            _month(
                month, i * step, step, sorted(by_month.get(month, ()), key=lambda r: shades[r.aircraft_id]), shades, top
            )
        )
        month = next_month(month)
    legend = [
        (number, names.get(number, "a retired aircraft"), shades[number], int(flown[number][0]), flown[number][1])
        for number in ranked[:MOST_APART]
    ]
    if len(ranked) > MOST_APART:
        rest = ranked[MOST_APART:]
        legend.append((0, "others", MOST_APART, int(sum(flown[n][0] for n in rest)), sum(flown[n][1] for n in rest)))
    return YearDrawn(months=tuple(drawn), wide=round(step - 12, 1), legend=tuple(legend), top_minutes=top)


def _month(month: str, x: float, step: float, rows: list[MonthOfOne], shades: dict[int, int], top: float) -> MonthDrawn:
    pieces, y = [], BASE
    for row in rows:
        high = (BASE - 30) * row.minutes / top
        y -= high
        pieces.append(PieceOfMonth(round(y, 1), round(high, 1), shades[row.aircraft_id]))
    flights, minutes, odd = (sum(getattr(row, name) for row in rows) for name in ("flights", "minutes", "odd"))
    name = NAMES[int(month[5:]) - 1]
    words = f"{name} {month[:4]}: {counted(flights, 'flight')}, {minutes:.0f} min" + (
        f", {odd} not fine" if odd else ""
    )
    return MonthDrawn(
        month=month, name=name, x=round(x + 6, 1), middle=round(x + step / 2, 1), pieces=tuple(pieces),
        mark_y=round(y - 12, 1) if odd else None, words=words,
    )  # fmt: skip
