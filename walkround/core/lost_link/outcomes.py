"""What becomes of each run: what it meets on its way, and where it comes down; and what that is worth."""

import math
from enum import IntEnum
from typing import TYPE_CHECKING, Any

from walkround.core.base.finding import Level
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.lost_link.flown import Flown
from walkround.core.lost_link.ground import LOOK_CELLS, Ground, Lies

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

MOST_BETWEEN = 400
"""At most so many looks along one straight part of a path. Source: our choice."""
TOLD_SHARE, BAD_SHARE = 0.005, 0.05
"""From these shares of the runs on an ending is told, and is a caution if it is bad; and grounds if it is one that does. People ground as soon as they are told.
Source: our choice."""


class Outcome(IntEnum):
    """How a run ends, the worse the higher."""

    HOME = 0
    AREA = 1
    OUTSIDE = 2
    PRIVATE = 3
    WATER = 4
    HAZARD = 5
    ROAD = 6
    OBSTACLE = 7
    AWAY = 8
    PEOPLE = 9


OUTCOME_WORDS = {
    Outcome.HOME: "lands at the launch point",
    Outcome.AREA: "comes down inside the flying area",
    Outcome.OUTSIDE: "comes down outside the flying area",
    Outcome.PRIVATE: "comes down on private ground",
    Outcome.WATER: "comes down in the water",
    Outcome.HAZARD: "comes down on a marked hazard",
    Outcome.ROAD: "comes down on a road or a car park",
    Outcome.OBSTACLE: "hits an obstacle",
    Outcome.AWAY: "flies off or does not get home",
    Outcome.PEOPLE: "comes down among the spectators",
}
OUTCOME_LEVEL = {
    Outcome.HOME: Level.CLEAR,
    Outcome.AREA: Level.CLEAR,
    Outcome.OUTSIDE: Level.CAUTION,
    Outcome.PRIVATE: Level.CAUTION,
    Outcome.WATER: Level.CAUTION,
    Outcome.HAZARD: Level.GROUNDED,
    Outcome.ROAD: Level.GROUNDED,
    Outcome.OBSTACLE: Level.GROUNDED,
    Outcome.AWAY: Level.GROUNDED,
    Outcome.PEOPLE: Level.GROUNDED,
}
"""What each is worth. Source: our choice; people and traffic before things; common practice, no source."""
_ON_GROUND = (
    (Lies.AREA, Outcome.AREA), (Lies.PRIVATE, Outcome.PRIVATE), (Lies.WATER, Outcome.WATER), (Lies.HAZARD, Outcome.HAZARD), (Lies.ROAD, Outcome.ROAD),
)  # fmt: skip


class Met(Struct, frozen=True, kw_only=True):
    """What n runs meet: outcome of each (n), the number of the thing hit (n, -1: none), what each path passes over (n, ``Lies``), and where each ends (n by 3)."""

    outcome: Any
    hit: Any
    over: Any
    ends: Any


def outcomes(flown: Flown, ground: Ground, *, overflown: bool = True) -> Met:
    """What the runs meet on a field. A thing in the way ends the run where it is met; who leaves the grid flies off. Without ``overflown``, what is
    passed high above is not looked at. Source: the field's own plan."""
    path = flown.path
    runs = path.shape[1]
    hit = np.full(runs, -1, dtype=np.int32)
    over = np.zeros(runs, dtype=np.int32)
    gone = np.zeros(runs, dtype=bool)
    ends = path[-1].copy()
    highest = float(ground.tops.max(initial=0.0))
    for a_all, b_all in zip(path[:-1], path[1:], strict=True):
        if not overflown and min(float(a_all[:, 2].min()), float(b_all[:, 2].min())) > highest:
            continue
        live = np.flatnonzero((hit < 0) & ~gone)
        if not len(live):
            break
        a, b = a_all[live], b_all[live]
        column, row, up = ground.columns(a[:, 0]), ground.rows(a[:, 1]), a[:, 2]
        over_columns, over_rows, rise = ground.columns(b[:, 0]) - column, ground.rows(b[:, 1]) - row, b[:, 2] - up
        longest = float(np.max(np.hypot(over_columns, over_rows)))
        looks = min(MOST_BETWEEN, max(1, math.ceil(longest / LOOK_CELLS)))
        parts = (np.arange(1, looks + 1) / looks)[:, None]
        cells = ground.number(column + parts * over_columns, row + parts * over_rows)
        struck = up + parts * rise < ground.tops[cells]
        met = struck.any(axis=0)
        first = struck.argmax(axis=0)
        if overflown:
            passed = ground.lies[cells]
            if met.any():
                passed = np.where((np.arange(looks)[:, None] <= first) | ~met, passed, 0)
            over[live] |= np.bitwise_or.reduce(passed, axis=0)
        if met.any():
            at, where = live[met], first[met]
            hit[at] = ground.thing[cells[where, np.flatnonzero(met)]]
            ends[at] = a[met] + parts[where] * (b[met] - a[met])
        gone[live[(ground.at(b[:, 0], b[:, 1]) == int(Lies.OFF)) & (hit[live] < 0)]] = True
    lies = ground.at(ends[:, 0], ends[:, 1])
    found = np.full(runs, int(Outcome.OUTSIDE))
    for flag, outcome in _ON_GROUND:
        found = np.where(lies & int(flag) != 0, int(outcome), found)
    found = np.where(
        flown.home & (lies & int(Lies.LAUNCH | Lies.AREA) != 0) & (found <= Outcome.AREA), int(Outcome.HOME), found
    )
    found = np.where(flown.home & (found == Outcome.OUTSIDE), int(Outcome.HOME), found)
    found = np.where(hit >= 0, int(Outcome.OBSTACLE), found)
    found = np.where(flown.away | gone | (lies & int(Lies.OFF) != 0), int(Outcome.AWAY), found)
    found = np.where(lies & int(Lies.PEOPLE) != 0, int(Outcome.PEOPLE), found)
    return Met(outcome=found, hit=hit, over=over, ends=ends)


def shares(outcome: Any) -> dict[Outcome, float]:
    """The share of runs of each outcome that happens (0 to 1), the most frequent first."""
    numbers, counts = np.unique(outcome, return_counts=True)
    found = {Outcome(int(number)): float(count) / len(outcome) for number, count in zip(numbers, counts, strict=True)}
    return dict(sorted(found.items(), key=lambda item: -item[1]))


def counts(outcome: Outcome, share: float) -> bool:
    """Whether an outcome of that share of the runs (0 to 1) counts in full. Source: ``BAD_SHARE``; people at once."""
    return share >= (TOLD_SHARE if outcome is Outcome.PEOPLE else BAD_SHARE)


def worst_outcome(found: dict[Outcome, float]) -> Outcome:
    """The worst outcome whose share counts."""
    return max([outcome for outcome, share in found.items() if counts(outcome, share)] or found)


def badness(found: dict[Outcome, float]) -> tuple[float, float]:
    """Shares of the runs (0 to 1) that end in what grounds, and that are not clear: the less, the better."""
    grounds = sum(share for o, share in found.items() if OUTCOME_LEVEL[o] is Level.GROUNDED)
    return grounds, grounds + sum(share for o, share in found.items() if OUTCOME_LEVEL[o] is Level.CAUTION)


def level_of(worst: Outcome, grounds: float, bad: float) -> Level:
    """What a place is worth, from its worst outcome that counts and from ``badness``: many rare bad endings ground as one frequent one does, and what ends badly
    now and then is never clear. Source: ``BAD_SHARE``, ``TOLD_SHARE``."""
    if grounds >= BAD_SHARE:
        return Level.GROUNDED
    return max(OUTCOME_LEVEL[worst], Level.CAUTION if bad >= TOLD_SHARE else Level.CLEAR)
