"""The sky from below, north up: satellites, and what hides it; and how a fix wandered at rest."""

import math
from collections.abc import Sequence

from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.field.sky_mask import MASK_DEG, SECTORS, Opening, SkyMask
from walkround.core.sensors.scatter import Rest
from walkround.core.sensors.sky import Constellation, SkySatellite, counted

R = 100.0
"""Radius of the horizon in the picture; straight up is its middle."""
_SHAPES = {
    Constellation.GPS: "M-5,0 a5,5 0 1 0 10,0 a5,5 0 1 0 -10,0Z", Constellation.GALILEO: "M-4.5,-4.5 h9 v9 h-9Z", Constellation.GLONASS: "M0,-6 L6,0 0,6 -6,0Z",
    Constellation.BEIDOU: "M0,-6 L5.5,4.5 -5.5,4.5Z",
}  # fmt: skip
OTHER_SHAPE = "M-5.5,-4.5 L5.5,-4.5 0,6Z"


class Dot(Struct, frozen=True):
    """A satellite: its place and shape in picture units, whether it is used, whether its sky is hidden, its words."""

    x: float
    y: float
    shape: str
    used: bool
    hidden: bool
    words: str


class SkyDrawn(Struct, frozen=True):
    """The plot: what hides the sky as a path, the satellites, and counts by constellation: shape, name, used, in view."""

    mask: str
    dots: tuple[Dot, ...]
    counts: tuple[tuple[str, str, int, int], ...]
    words: str


def _at(elevation_deg: float, bearing_deg: float) -> tuple[float, float]:
    away, turn = R * (90 - max(0.0, elevation_deg)) / 90, math.radians(bearing_deg)
    return round(away * math.sin(turn), 1) + 0.0, round(-away * math.cos(turn), 1) + 0.0


def _mask_path(mask: SkyMask) -> str:
    """All that is hidden, from the horizon up, as one ring with the open sky as its hole."""
    inner = []
    for i, hidden in enumerate(mask.hidden_deg):
        for turn in (i, i + 1):
            inner.append(_at(min(90.0, hidden), turn * 360 / SECTORS))
    hole = "M" + " L".join(f"{x:g},{y:g}" for x, y in inner) + "Z"
    return f"M{-R:g},0 a{R:g},{R:g} 0 1 0 {2 * R:g},0 a{R:g},{R:g} 0 1 0 {-2 * R:g},0Z {hole}"


def draw_sky(satellites: Sequence[SkySatellite], mask: SkyMask | None = None, *, all_used: bool = False) -> SkyDrawn:
    """Satellites that are placed, and a mask where one is known. ``all_used``: a typical sky, in which every one above the mask would be used."""
    dots = []
    for one in satellites:
        if one.elevation_deg is None or one.bearing_deg is None:
            continue
        sector = int(one.bearing_deg / (360 / SECTORS)) % SECTORS
        hidden = mask is not None and one.elevation_deg < max(mask.hidden_deg[sector], MASK_DEG)
        x, y = _at(one.elevation_deg, one.bearing_deg)
        used = not hidden if all_used else one.used
        strength = "" if one.strength_db is None else f", {one.strength_db:.0f} dB-Hz"
        words = (
            f"{one.whose.value} {one.number}, {one.elevation_deg:.0f}° up{strength}, {'used' if used else 'not used'}"
        )
        dots.append(Dot(x, y, _SHAPES.get(one.whose, OTHER_SHAPE), used, hidden, words))
    counts = tuple(
        (_SHAPES.get(whose, OTHER_SHAPE), whose.value, used, seen) for whose, used, seen in counted(satellites)
    )
    return SkyDrawn(
        _mask_path(mask) if mask is not None else "", tuple(dots), counts,
        f"Sky plot, north up: {sum(dot.used for dot in dots)} of {len(dots)} satellites used.",
    )  # fmt: skip


class ScatterDrawn(Struct, frozen=True):
    """Fixes about their middle: half the width in m, dots, half axes and turn of the ellipse, a ring of so many m."""

    half_m: float
    dots: tuple[tuple[float, float], ...]
    long_m: float
    wide_m: float
    turn_deg: float
    ring_m: float

    @property
    def view(self) -> str:
        """Its window in the picture, for SVG."""
        return f"{-self.half_m:g} {-self.half_m:g} {2 * self.half_m:g} {2 * self.half_m:g}"

    @property
    def dot(self) -> float:
        """Radius of a fix."""
        return round(self.half_m / 36, 3)


def draw_scatter(rest: Rest) -> ScatterDrawn | None:
    """The fixes of the last minute; None where too few were read."""
    if rest.spread_95_m is None:
        return None
    half = 1.15 * max(1.0, rest.long_m, rest.spread_95_m, *(max(abs(x), abs(y)) for x, y in rest.spots))
    ring = next((size for size in (1.0, 2.0, 5.0, 10.0, 20.0, 50.0) if size >= 0.4 * half), 100.0)
    return ScatterDrawn(
        round(half, 2), tuple((x, -y) for x, y in rest.spots), rest.long_m, rest.wide_m, rest.along_deg - 90, ring
    )


class WalkDrawn(Struct, frozen=True):
    """The way to where the sky opens on the plan: a path, its end, the radius of a mark there."""

    path: str
    x: float
    y: float
    r: float


def draw_walk(site: Site, found: Opening | None, paper_m: float) -> WalkDrawn | None:
    """The way from the launch point to an opening (m east and south), at so many m a pixel; None without one."""
    if found is None:
        return None
    launch, end = site.launch, found.mask.at
    x, y = end.east_m, -end.north_m + 0.0
    return WalkDrawn(f"M{launch.east_m:g},{-launch.north_m + 0.0:g} L{x:g},{y:g}", x, y, round(7 * paper_m, 2))
