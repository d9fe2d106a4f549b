"""The field as a small plan: north up, launch circle, flying circle, obstacles."""

import math
from dataclasses import dataclass

from walkround.core.site import LAUNCH_CIRCLE_M, Site

SIZE = 320.0
STRIP_M = 80.0
"""How long a strip is drawn; its true length is not asked."""


@dataclass(frozen=True)
class Spot:
    """One obstacle in picture units."""

    x: float
    y: float
    r: float
    kind: str
    index: int


@dataclass(frozen=True)
class SitePlan:
    """The plan in picture units: radius of the circles, obstacles, the length of the scale bar and its metres."""

    middle: float
    flying_r: float
    launch_r: float
    spots: tuple[Spot, ...]
    scale_length: float
    scale_m: float
    strip: str
    words: str


def site_plan(site: Site) -> SitePlan:
    """The plan of a field, scaled so that everything marked is on it."""
    farthest = max([site.flight_radius_m, *(o.distance_m for o in site.obstacles)])
    scale = (SIZE / 2 - 22) / farthest
    middle = SIZE / 2
    spots = tuple(
        Spot(
            x=round(middle + o.distance_m * scale * math.sin(math.radians(o.bearing_deg)), 1),
            y=round(middle - o.distance_m * scale * math.cos(math.radians(o.bearing_deg)), 1),
            r=round(5 + min(9.0, o.height_m / 5), 1),
            kind=o.kind.value,
            index=i + 1,
        )
        for i, o in enumerate(site.obstacles)
    )
    scale_m = 10.0 ** math.floor(math.log10(farthest))
    return SitePlan(
        middle=middle,
        flying_r=round(site.flight_radius_m * scale, 1),
        launch_r=round(max(3.5, LAUNCH_CIRCLE_M * scale), 1),
        spots=spots,
        scale_length=round(scale_m * scale, 1),
        scale_m=scale_m,
        strip=_strip(site.strip_deg, middle, max(16.0, STRIP_M / 2 * scale)),
        words=f"{site.name} from above, north up, with {len(site.obstacles)} obstacles marked.",
    )


def _strip(strip_deg: float | None, middle: float, half: float) -> str:
    """A line through the launch point, as a path; empty without a strip."""
    if strip_deg is None:
        return ""
    dx, dy = half * math.sin(math.radians(strip_deg)), -half * math.cos(math.radians(strip_deg))
    return f"M{middle - dx:.1f},{middle - dy:.1f} L{middle + dx:.1f},{middle + dy:.1f}"
