"""A lost link on the plan of a field: the path, where it comes down, the whole area by outcome. North up, x to the east, y to the south, in m."""

import math
from collections.abc import Sequence

from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.lost_link.area import Area, Cell
from walkround.core.lost_link.outcomes import OUTCOME_LEVEL, OUTCOME_WORDS
from walkround.core.lost_link.what_if import Oval, WhatIf

DOTS = 60
LOOKS = {Level.CLEAR: "clear", Level.CAUTION: "caution", Level.GROUNDED: "grounds"}


ENDINGS = {
    Level.CLEAR: "in the area",
    Level.CAUTION: "outside, water, private ground",
    Level.GROUNDED: "people, road, obstacle, lost",
}
"""How runs end that are worth a level."""


class LostDrawn(Struct, frozen=True):
    """Where it is, its path, the ovals of 50 and 95 % of the landings, some of these, and where the launch point may have moved to (its middle, the radius, where its words are, the words)."""

    x: float
    y: float
    heading_deg: float
    path: str
    half: str
    most: str
    dots: tuple[tuple[float, float], ...]
    rings: tuple[tuple[float, float, float, float, str], ...]
    words: str


class CellDrawn(Struct, frozen=True):
    """A cell of the area: its corner, its look, its words."""

    x: float
    y: float
    look: str
    words: str


class AreaDrawn(Struct, frozen=True):
    """The area by outcome: cells of ``size`` m, the view round them, shares of the runs in per cent by their ending, each with its look, the worst points; whether all of it is clear."""

    cells: tuple[CellDrawn, ...]
    size: float
    view: str
    shares: tuple[tuple[str, int, str], ...]
    worst: tuple[tuple[float, float, str, str], ...]
    words: str
    clear: bool


def path_d(points: Sequence[tuple[float, float, float]]) -> str:
    """A path on the plan through points (m east, north, up)."""
    return "M" + " L".join(f"{x:.1f},{-y:.1f}" for x, y, _ in points)


def _oval(one: Oval) -> str:
    return "M" + " L".join(f"{x:.1f},{-y:.1f}" for x, y in one.outline()) + "Z"


def draw_lost(
    place: tuple[float, float],
    heading_deg: float,
    found: WhatIf,
    launch: tuple[float, float],
    reach: Sequence[tuple[float, float]] = (),
) -> LostDrawn:
    """A what-if on the plan: its place in m east and north; ``reach``: minutes, and how far in m the launch point may have moved by then."""
    every = max(1, len(found.landings) // DOTS)
    dots = tuple((round(float(x), 1), round(-float(y), 1)) for x, y in found.landings[::every])
    return LostDrawn(
        x=round(place[0], 1),
        y=round(-place[1], 1),
        heading_deg=round(heading_deg) % 360,
        path=path_d(found.path),
        half=_oval(found.half),
        most=_oval(found.most),
        dots=dots,
        rings=tuple(
            (launch[0], -launch[1], round(metres, 1), round(-launch[1] - metres, 1), f"{minutes:g} min")
            for minutes, metres in reach
        ),
        words=f"The signal is lost {math.hypot(*place):.0f} m from the middle of the plan; it {OUTCOME_WORDS[found.worst]}.",
    )


STRENGTHS = ((0.1, "few"), (0.4, "some"), (1.01, "most"))
"""How strongly a cell is coloured, by the share of its runs that ground. Source: our choice."""


def _look(cell: Cell, least: Level) -> str:
    level = max(cell.level, least)
    if level is not Level.GROUNDED:
        return LOOKS[level]
    return f"{LOOKS[level]} {next(words for below, words in STRENGTHS if cell.grounds < below)}"


def _words(cell: Cell) -> str:
    thing = f" ({cell.hit})" if cell.hit else ""
    words = f"Lost here it {OUTCOME_WORDS[cell.outcome]}{thing}."
    rare = cell.level > OUTCOME_LEVEL[cell.outcome]
    return f"{words} {_percent(cell.bad)} % of the runs end worse." if rare else words


def _percent(share: float) -> int:
    """A share (0 to 1) in per cent; never rounded to nothing or to all."""
    return round(100 * share) if min(share, 1 - share) < 1e-9 else min(99, max(1, round(100 * share)))


def draw_area(area: Area, launch: tuple[float, float], least: Level = Level.CLEAR) -> AreaDrawn:
    """The area by outcome, with its worst points from the launch point (m east and north); none is worth less than ``least``, what is said besides the runs."""
    least = max(least, area.least)
    half = area.step_m / 2
    cells = tuple(
        CellDrawn(
            x=round(c.east_m - half, 1),
            y=round(-c.north_m - half, 1),
            look=_look(c, least),
            words=_words(c),
        )  # fmt: skip
        for c in area.cells
    )
    west, east = min(c.x for c in cells), max(c.x for c in cells) + area.step_m
    north, south = min(c.y for c in cells), max(c.y for c in cells) + area.step_m
    pad = area.step_m
    shares = tuple((LOOKS[max(level, least)], _percent(area.share(level)), ENDINGS[level]) for level in Level)
    worst = []
    for cell in area.worst():
        away = math.dist(launch, (cell.east_m, cell.north_m))
        bearing = math.degrees(math.atan2(cell.east_m - launch[0], cell.north_m - launch[1])) % 360
        worst.append((away, bearing, LOOKS[cell.level], _words(cell)))
    return AreaDrawn(
        cells=cells,
        size=round(area.step_m, 1),
        view=f"{west - pad:.0f} {north - pad:.0f} {east - west + 2 * pad:.0f} {south - north + 2 * pad:.0f}",
        shares=shares,
        worst=tuple(worst),
        words=", ".join(f"{share} % {ending}" for _, share, ending in shares if share),
        clear=least is Level.CLEAR and not worst,
    )
