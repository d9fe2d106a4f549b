"""How much of the sky the things on a plan hide from a spot on the ground, what that costs a position, and where near it the sky opens."""

import math
from collections.abc import Sequence
from datetime import datetime
from typing import TYPE_CHECKING, Any

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, MarkKind, Spot, spot
from walkround.core.field.site import Site
from walkround.core.sensors.nominal import TypicalDay, typical_day

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

SECTORS = 72
MASK_DEG = 10.0
"""Sky lower than this counts for nothing, in degrees: satellites there are weak. Source: usual elevation mask, from memory."""
CROWN_M = 3.0
"""Radius of a crown whose width is not drawn, in m. Source: our choice."""
THIN = frozenset({MarkKind.WIRE, MarkKind.MAST, MarkKind.RADIO})
"""Too thin to hide a satellite. Source: our choice."""
NOT_ON = frozenset(
    {MarkKind.WATER, MarkKind.HAZARD, MarkKind.CONCRETE, MarkKind.CARS, MarkKind.BUILDING, MarkKind.ROAD, MarkKind.PRIVATE}
)  # fmt: skip
"""What nobody launches from."""
WALK_M, STEP_M = 60.0, 4.0
"""How far from the present launch point one looks, and how finely, in m. Source: our choice."""
SPECTATORS_M = 15.0
"""A launch point is kept so far (m) from the spectators. Source: our choice."""
FAR_M = 460.0
OPEN_PERCENT = 92.0
"""So much of the sky above the mask is an open sky, in per cent. Source: our choice."""


class Blocker(Struct, frozen=True, kw_only=True):
    """A thing that hides sky: its words, how high it reaches over the horizon, and towards where it is highest, in degrees."""

    words: str
    top_deg: float
    bearing_deg: float


class SkyMask(Struct, frozen=True, kw_only=True):
    """The sky over a spot: by sector, clockwise from north, how high it is hidden in degrees; the open share above the mask in per cent; what hides it, worst first."""

    at: Spot
    hidden_deg: tuple[float, ...]
    open_percent: float
    blockers: tuple[Blocker, ...] = ()

    def below_deg(self, bearings: Any) -> Any:
        """Below which elevation the sky is hidden or too low to count at bearings (an array), all in degrees."""
        mask = np.array(self.hidden_deg)
        return np.maximum(mask[(bearings / (360 / SECTORS)).astype(int) % SECTORS], MASK_DEG)


class Opening(Struct, frozen=True, kw_only=True):
    """Where the sky opens: the spot, how far to walk in m and towards where in degrees true, and its sky."""

    mask: SkyMask
    walk_m: float
    bearing_deg: float


def hidden_deg(marks: Sequence[Mark], points: Any) -> Any:
    """How high the sky is hidden in each sector, in degrees, from each of n points (m east and north), as an array of n by ``SECTORS``; 90 under a crown or a roof.

    Source: the nearest edge in the middle of each sector, and every corner; a level ground.
    """
    out = np.zeros((len(points), SECTORS))
    turn = np.radians((np.arange(SECTORS) + 0.5) * 360 / SECTORS)
    east, north = np.sin(turn), np.cos(turn)
    for mark in marks:
        if mark.height_m <= 0 or mark.kind in THIN:
            continue
        near = _nearest_along(mark, points, east, north)
        under = near <= 0
        up = np.degrees(np.arctan2(mark.height_m, np.where(under, 1.0, near)))
        np.maximum(out, np.where(under, 90.0, up), out=out)
    return out


def _nearest_along(mark: Mark, points: Any, east: Any, north: Any) -> Any:
    """How far a mark is from each point along each direction, in m: 0 within it, infinite where it is not met."""
    near = np.full((len(points), len(east)), np.inf)
    if len(mark.spots) == 1:
        radius = mark.radius_m or CROWN_M
        dx, dy = mark.points[0][0] - points[:, :1], mark.points[0][1] - points[:, 1:]
        along, aside = dx * east + dy * north, dx * north - dy * east
        inside = np.hypot(dx, dy) <= radius
        half = np.sqrt(np.maximum(0.0, radius**2 - aside**2))
        met = (np.abs(aside) <= radius) & (along > 0)
        near = np.where(met, np.maximum(along - half, 0.01), near)
        return np.where(inside, 0.0, near)
    for (ax, ay), (bx, by) in planar_geometry.segments(mark.points, closed=mark.closed):
        ex, ey = bx - ax, by - ay
        cross = east * ey - north * ex
        px, py = ax - points[:, :1], ay - points[:, 1:]
        with np.errstate(divide="ignore", invalid="ignore"):
            along, share = (px * ey - py * ex) / cross, (px * north - py * east) / cross
        met = (cross != 0) & (along > 0) & (share >= 0) & (share <= 1)
        near = np.where(met & (along < near), np.maximum(along, 0.01), near)
        away = np.hypot(px, py)[:, 0]
        sector = (np.degrees(np.arctan2(px, py))[:, 0] % 360 / (360 / SECTORS)).astype(int) % SECTORS
        rows = np.arange(len(points))
        near[rows, sector] = np.minimum(near[rows, sector], np.maximum(away, 0.01))
    if mark.closed:
        ring = mark.points
        inside = np.array([planar_geometry.inside(ring, (float(x), float(y))) for x, y in points])
        near = np.where(inside[:, None], 0.0, near)
    return near


def open_percent(hidden: Any) -> Any:
    """Open share of the sky above ``MASK_DEG`` in per cent, for each row of what is hidden (degrees by sector). Source: area of a zone of a sphere, 2πR²(1 − sin h)."""
    floor = math.sin(math.radians(MASK_DEG))
    return 100 * (1 - np.maximum(np.sin(np.radians(hidden)), floor).mean(axis=1)) / (1 - floor)


def sky_mask(site: Site, at: Spot | None = None) -> SkyMask:
    """The sky over the launch point of a field, or over another spot (m). Source: ``hidden_deg``."""
    place = at or site.launch
    marks = [mark for mark in site.standing if mark.nearest(place.xy)[0] <= FAR_M]
    points = np.array([place.xy], dtype=float)
    hidden = hidden_deg(marks, points)
    blockers = []
    for mark in marks:
        own = hidden_deg([mark], points)[0]
        top = int(own.argmax())
        if own[top] > MASK_DEG:
            bearing = planar_geometry.bearing(place.xy, mark.nearest(place.xy)[1])
            blockers.append(Blocker(words=mark.words, top_deg=float(own[top]), bearing_deg=bearing))
    blockers.sort(key=lambda one: -one.top_deg)
    return SkyMask(
        at=place, hidden_deg=tuple(round(float(value), 1) for value in hidden[0]), open_percent=float(open_percent(hidden)[0]), blockers=tuple(blockers)
    )  # fmt: skip


def walkable(site: Site) -> list[planar_geometry.Point]:
    """Spots within a short walk of the launch point, itself among them (m east and north), off water, roads, roofs and the like and away from the spectators. Source: ``NOT_ON``."""
    here = site.launch.xy
    steps = int(WALK_M / STEP_M)
    grid = [
        (here[0] + i * STEP_M, here[1] + j * STEP_M)
        for i in range(-steps, steps + 1)
        for j in range(-steps, steps + 1)
        if math.hypot(i, j) * STEP_M <= WALK_M
    ]
    crowd = [s.xy for s in site.spectator_line]
    return [p for p in grid if p == here or not crowd or planar_geometry.nearest(crowd, p)[0] >= SPECTATORS_M]


def where_it_opens(site: Site) -> Opening | None:
    """The nearest spot within a walk whose sky is open, else the one with most of it; None where the launch point is as good. Distances in m.

    Source: ``OPEN_PERCENT``; our choice.
    """
    here = sky_mask(site)
    if here.open_percent >= OPEN_PERCENT:
        return None
    marks = [mark for mark in site.standing if mark.nearest(site.launch.xy)[0] <= FAR_M]
    shut = [mark for mark in site.marks if mark.kind in NOT_ON]
    spots = [p for p in walkable(site) if all(mark.nearest(p)[0] > 0 for mark in shut)]
    if not spots:
        return None
    sky = open_percent(hidden_deg(marks, np.array(spots, dtype=float)))
    best = float(sky.max())
    enough = min(OPEN_PERCENT, best - 1.0)
    if best < here.open_percent + 2:
        return None
    walk, i = min((math.dist(p, site.launch.xy), i) for i, p in enumerate(spots) if sky[i] >= enough)
    return Opening(
        mask=sky_mask(site, spot(spots[i])), walk_m=walk, bearing_deg=planar_geometry.bearing(site.launch.xy, spots[i])
    )


def what_it_costs(site: Site, mask: SkyMask, day: datetime) -> tuple[TypicalDay, TypicalDay]:
    """Satellites and HDOP of a typical sky over a day from an aware time on: with nothing in the way, and under this mask.

    Source: ``nominal.typical_day``.
    """
    return (
        typical_day(site.position, day, lambda bearings: np.full_like(bearings, MASK_DEG)),
        typical_day(site.position, day, mask.below_deg),
    )
