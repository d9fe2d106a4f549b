"""The field as a grid: how high things reach and what lies there, so that many paths can be held against it at once."""

import math
from collections.abc import Sequence
from enum import IntFlag
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, MarkKind
from walkround.core.field.site import LAUNCH_CIRCLE_M, Site

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

BESIDE_M = 400.0
"""So far round the flying area the field is looked at, in m. Source: our choice."""
MOST_CELLS, LEAST_CELL_M = 500, 2.0
LOOK_CELLS = 1.0
"""So many cells apart a path is looked at. Source: our choice."""
AIRCRAFT_M = 0.5
"""Half of what an aircraft is wide, in m. Source: our choice."""
ROAD_HALF_M = 4.0
"""Half of what a road with its verges is wide, in m. Source: our choice."""
BEHIND_M, BEFORE_M = 30.0, 2.0
"""People stand so far behind the spectator line, and so little before it, in m. Source: our choice."""


class Lies(IntFlag):
    """What lies at a place."""

    OPEN = 0
    AREA = 1
    LAUNCH = 2
    WATER = 4
    ROAD = 8
    PRIVATE = 16
    HAZARD = 32
    PEOPLE = 64
    OFF = 128


LIES = {
    MarkKind.WATER: Lies.WATER, MarkKind.ROAD: Lies.ROAD, MarkKind.PRIVATE: Lies.PRIVATE, MarkKind.HAZARD: Lies.HAZARD, MarkKind.CARS: Lies.ROAD,
}  # fmt: skip


class Ground(Struct, frozen=True, kw_only=True):
    """A grid of cells of ``cell_m`` (m) with a rim of one cell that is off the field, from ``west_m`` and ``south_m`` (its rim's corner): tops in m above launch (0:
    nothing stands there), what lies there (``Lies``), and the number of the thing whose top it is, -1 for none; each flat, row by row."""

    west_m: float
    south_m: float
    cell_m: float
    wide: int
    high: int
    tops: Any
    lies: Any
    thing: Any
    marks: tuple[Mark, ...]

    def columns(self, east: Any) -> Any:
        """Places east (m) as columns, with fractions."""
        return (east - self.west_m) / self.cell_m

    def rows(self, north: Any) -> Any:
        """Places north (m) as rows, with fractions."""
        return (north - self.south_m) / self.cell_m

    def number(self, column: Any, row: Any) -> Any:
        """Numbers of the cells at columns and rows; of the rim where they are beyond it."""
        across = np.clip(column, 0, self.wide - 1).astype(np.int32)
        up = np.clip(row, 0, self.high - 1).astype(np.int32)
        return up * self.wide + across

    def at(self, east: Any, north: Any) -> Any:
        """What lies at places (m), as numbers of ``Lies``."""
        return self.lies[self.number(self.columns(east), self.rows(north))]

    def top(self, east: Any, north: Any) -> Any:
        """How high things reach at places (m), in m above launch; 0 off the field."""
        return self.tops[self.number(self.columns(east), self.rows(north))]


def _distance(points: Sequence[planar_geometry.Point], closed: bool, east: Any, north: Any) -> Any:
    """Distance in m from places to a line or an outline, 0 inside of it."""
    best = np.full(east.shape, np.inf)
    if len(points) == 1:
        return np.hypot(east - points[0][0], north - points[0][1])
    for (ax, ay), (bx, by) in planar_geometry.segments(points, closed=closed):
        dx, dy = bx - ax, by - ay
        square = dx * dx + dy * dy or 1.0
        t = np.clip(((east - ax) * dx + (north - ay) * dy) / square, 0, 1)
        best = np.minimum(best, np.hypot(ax + t * dx - east, ay + t * dy - north))
    return np.where(inside(points, east, north), 0.0, best) if closed else best


def inside(ring: Sequence[planar_geometry.Point], east: Any, north: Any) -> Any:
    """Whether places (m) lie inside an outline. Source: even-odd rule."""
    odd = np.zeros(east.shape, dtype=bool)
    for (ax, ay), (bx, by) in planar_geometry.segments(ring, closed=True):
        if ay == by:
            continue
        crosses = (ay > north) != (by > north)
        odd ^= crosses & (east < ax + (north - ay) * (bx - ax) / (by - ay))
    return odd


def _behind(site: Site, east: Any, north: Any) -> Any:
    """Whether places lie among the spectators: behind their line as seen from the launch point, and just before it."""
    line = [spot.xy for spot in site.spectator_line]
    away = _distance(line, False, east, north)
    lx, ly = site.launch.xy
    far = np.zeros(east.shape, dtype=bool)
    nearest = np.full(east.shape, np.inf)
    for (ax, ay), (bx, by) in planar_geometry.segments(line, closed=False):
        dx, dy = bx - ax, by - ay
        square = dx * dx + dy * dy or 1.0
        t = np.clip(((east - ax) * dx + (north - ay) * dy) / square, 0, 1)
        gap = np.hypot(ax + t * dx - east, ay + t * dy - north)
        side = dx * (north - ay) - dy * (east - ax)
        home = dx * (ly - ay) - dy * (lx - ax)
        nearer = gap < nearest
        far = np.where(nearer, side * home < 0, far)
        nearest = np.minimum(nearest, gap)
    return np.where(far, away <= BEHIND_M, away <= BEFORE_M)


@lru_cache(maxsize=8)
def ground_of(site: Site) -> Ground:
    """The grid of a field. A cell counts for a thing when any part of it may touch it. Source: the field's own plan."""
    area = site.flight_polygon()
    around = [*area, site.launch.xy, *(spot.xy for spot in site.spectator_line)]
    west, south, east_end, north_end = planar_geometry.bounding_box(around)
    west, south = west - BESIDE_M, south - BESIDE_M
    wide, high = east_end + BESIDE_M - west, north_end + BESIDE_M - south
    cell = max(LEAST_CELL_M, max(wide, high) / MOST_CELLS)
    columns, rows = math.ceil(wide / cell), math.ceil(high / cell)
    east = west + cell * (np.arange(columns) + 0.5)
    north = south + cell * (np.arange(rows) + 0.5)
    tops = np.zeros((rows, columns))
    lies = np.zeros((rows, columns), dtype=np.int16)
    thing = np.full((rows, columns), -1, dtype=np.int16)
    # Wide enough that a path with a look every ``LOOK_CELLS`` cannot pass within ``AIRCRAFT_M`` of a thing unseen.
    half = cell / math.sqrt(2) + math.hypot(LOOK_CELLS * cell / 2, AIRCRAFT_M) - AIRCRAFT_M
    for number, mark in enumerate(site.marks):
        reach = mark.radius_m + half + AIRCRAFT_M + (ROAD_HALF_M if mark.kind is MarkKind.ROAD else 0.0)
        left, bottom, right, top = planar_geometry.bounding_box(mark.points)
        xs = slice(*np.searchsorted(east, (left - reach, right + reach)))
        ys = slice(*np.searchsorted(north, (bottom - reach, top + reach)))
        if xs.start == xs.stop or ys.start == ys.stop:
            continue
        grid_east, grid_north = np.meshgrid(east[xs], north[ys])
        hit = _distance(mark.points, mark.closed, grid_east, grid_north) <= reach
        if mark.kind in LIES:
            lies[ys, xs] |= np.where(hit, int(LIES[mark.kind]), 0).astype(np.int16)
        if mark.height_m > 0:
            higher = hit & (mark.height_m > tops[ys, xs])
            tops[ys, xs] = np.where(higher, mark.height_m, tops[ys, xs])
            thing[ys, xs] = np.where(higher, number, thing[ys, xs])
    grid_east, grid_north = np.meshgrid(east, north)
    lies |= np.where(inside(area, grid_east, grid_north), int(Lies.AREA), 0).astype(np.int16)
    lx, ly = site.launch.xy
    if site.over_water and not any(mark.kind is MarkKind.WATER for mark in site.marks):
        lies |= int(Lies.WATER)  # where it begins is not drawn: all of it counts
    lies |= np.where(
        np.hypot(grid_east - lx, grid_north - ly) <= max(LAUNCH_CIRCLE_M, cell), int(Lies.LAUNCH), 0
    ).astype(np.int16)
    if site.spectator_line:
        lies |= np.where(_behind(site, grid_east, grid_north), int(Lies.PEOPLE), 0).astype(np.int16)
    return Ground(
        west_m=west - cell, south_m=south - cell, cell_m=cell, wide=columns + 2, high=rows + 2,
        tops=np.pad(tops, 1).ravel(), lies=np.pad(lies, 1, constant_values=int(Lies.OFF)).ravel(), thing=np.pad(thing, 1, constant_values=-1).ravel(),
        marks=site.marks,
    )  # fmt: skip
