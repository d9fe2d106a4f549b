"""The whole flying area: the link lost at each of its points, and what comes of it; what would make it safer."""

import math
from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING, Any

from walkround.core.base.finding import Level
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.site import Site
from walkround.core.lost_link.air import Air, Draws, Errors, draws
from walkround.core.lost_link.bodies import Body
from walkround.core.lost_link.flown import Lost, Plan, fly
from walkround.core.lost_link.ground import Ground, inside
from walkround.core.lost_link.outcomes import Outcome, badness, level_of, outcomes, shares, worst_outcome

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

POINTS, RUNS, SEED = 400, 100, 29
AT_ONCE = 40
"""So many points are flown at once, so that progress is told and a tap can stop it. Source: our choice."""


class Cell(Struct, frozen=True, kw_only=True):
    """One point of the area: m east and north, the outcome that counts there, the shares of runs (0 to 1) that end worse than in the area, and that end in what
    grounds, and the thing hit most."""

    east_m: float
    north_m: float
    outcome: Outcome
    bad: float
    grounds: float
    hit: str = ""

    @property
    def level(self) -> Level:
        """What the place is worth."""
        return level_of(self.outcome, self.grounds, self.bad)


class Area(Struct, frozen=True, kw_only=True):
    """Points of the flying area with their outcomes, and how far apart they are in m; ``known``: whether the wind is."""

    cells: tuple[Cell, ...]
    step_m: float
    known: bool

    @property
    def least(self) -> Level:
        """No place is worth less than this: in unknown wind none is clear."""
        return Level.CLEAR if self.known else Level.CAUTION

    def share(self, level: Level) -> float:
        """The share of all runs (0 to 1) whose ending is worth a level."""
        grounds, bad = self.badness
        return {Level.CLEAR: 1 - bad, Level.CAUTION: bad - grounds, Level.GROUNDED: grounds}[level]

    @property
    def badness(self) -> tuple[float, float]:
        """Shares of all runs that end in what grounds, and that are not clear (0 to 1): the less, the better."""
        many = len(self.cells)
        return sum(cell.grounds for cell in self.cells) / many, sum(cell.bad for cell in self.cells) / many

    def worst(self, most: int = 3) -> tuple[Cell, ...]:
        """The worst points that are not clear, one for each outcome, the worst first."""
        found: dict[Outcome, Cell] = {}
        for cell in sorted(self.cells, key=lambda c: (-c.level, -c.outcome, -c.bad)):
            if cell.level is not Level.CLEAR:
                found.setdefault(cell.outcome, cell)
        return tuple(found.values())[:most]


def grid(site: Site, points: int = POINTS, *, shrink: float = 1.0) -> tuple[Any, float]:
    """Points of the flying area, evenly apart: n by 2 (m east and north), at most ``points``, and their distance in m; of an area shrunk about its middle by a
    factor (0 to 1)."""
    ring = np.array(site.flight_polygon())
    if shrink < 1:
        middle = ring.mean(axis=0)
        ring = middle + shrink * (ring - middle)
    corners = [(float(x), float(y)) for x, y in ring]
    west, south, east, north = planar_geometry.bounding_box(corners)
    step = math.sqrt(max((east - west) * (north - south), 1.0) / points)
    while True:
        x, y = np.meshgrid(np.arange(west + step / 2, east, step), np.arange(south + step / 2, north, step))
        within = inside(corners, x.ravel(), y.ravel())
        found = np.stack([x.ravel()[within], y.ravel()[within]], axis=1)
        if 0 < len(found) <= points:
            return found, step
        step *= 1.03 if len(found) else 0.5


def colour(
    site: Site, plan: Plan, body: Body, air: Air, ground: Ground, *, height_m: float, speed_ms: float, charge_percent: float, errors: Errors | None = None,
    points: int = POINTS, runs: int = RUNS, shrink: float = 1.0, seed: int = SEED,
) -> Iterator[float | Area]:  # fmt: skip
    """The area coloured: first the share that is done (0 to 1), again and again, then the area. Height in m above launch, speed in m/s with any heading."""
    places, step = grid(site, points, shrink=shrink)
    errors = errors or Errors()
    chance = draws(runs, seed)
    cells: list[Cell] = []
    for begin in range(0, len(places), AT_ONCE):
        part = places[begin : begin + AT_ONCE]
        together = _for_each(chance, len(part))
        n = len(part) * runs
        lost = Lost(
            east_m=np.repeat(part[:, 0], runs), north_m=np.repeat(part[:, 1], runs), height_m=height_m, speed_ms=speed_ms,
            heading_deg=np.tile(360 * chance.turn, len(part)) if speed_ms else 0.0, charge_percent=charge_percent,
        )  # fmt: skip
        met = outcomes(fly(lost, plan, body, air, errors, together), ground, overflown=False)
        assert len(met.outcome) == n
        for (east, north), outcome, hit in zip(
            part, met.outcome.reshape(len(part), runs), met.hit.reshape(len(part), runs), strict=True
        ):
            found = shares(outcome)
            things = hit[hit >= 0]
            named = ground.marks[int(np.bincount(things).argmax())].words if len(things) else ""
            grounds, bad = badness(found)
            outcome_here = worst_outcome(found)
            cells.append(
                Cell(
                    east_m=float(east),
                    north_m=float(north),
                    outcome=outcome_here,
                    bad=bad,
                    grounds=grounds,
                    hit=named if outcome_here is Outcome.OBSTACLE else "",
                )  # fmt: skip
            )
        yield min(1.0, (begin + len(part)) / len(places))
    yield Area(cells=tuple(cells), step_m=step, known=air.known)


def finished(parts: Iterable[float | Area]) -> Area:
    """The area at the end of what ``colour`` tells, without the progress."""
    *_, area = parts
    assert isinstance(area, Area)
    return area


def _for_each(chance: Draws, points: int) -> Draws:
    """The same chance at each of so many points, so that points differ by their place alone."""
    if points == 1:
        return chance
    return Draws(
        place=np.tile(chance.place, (points, 1)), home=np.tile(chance.home, (points, 1)), height=np.tile(chance.height, points),
        body=np.tile(chance.body, points), use=np.tile(chance.use, points), heading=np.tile(chance.heading, points),
        direction=np.tile(chance.direction, points), turn=np.tile(chance.turn, points), gusts=np.tile(chance.gusts, (1, points, 1)),
    )  # fmt: skip
