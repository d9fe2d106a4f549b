"""Where it would land: launch point, home point, the spread of its landings and what stands near, north up, in metres."""

import math

from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.site import Site
from walkround.core.field.sky_mask import CROWN_M
from walkround.web.drawings.site import path_of

LEAST_HALF_M, ROOM = 12.0, 1.25


class NearThing(Struct, frozen=True):
    """Something near: its outline or its place and radius, in m east and south of the launch point, and its words."""

    path: str
    x: float
    y: float
    r: float
    words: str


class LandingDrawn(Struct, frozen=True):
    """The picture: half its width in m, the home point, the radius of its landings, the clear radius, what stands near."""

    half_m: float
    home_x: float
    home_y: float
    spread_m: float
    clear_m: float
    near: tuple[NearThing, ...]
    words: str

    @property
    def view(self) -> str:
        """Its window in the picture, for SVG."""
        return f"{-self.half_m:g} {-self.half_m:g} {2 * self.half_m:g} {2 * self.half_m:g}"

    @property
    def across_m(self) -> float:
        """Diameter of the ring in m."""
        return 2 * self.spread_m

    @property
    def cross(self) -> str:
        """A cross at the launch point as a path."""
        arm = round(self.half_m / 24, 2)
        return f"M{-arm:g},0 h{2 * arm:g} M0,{-arm:g} v{2 * arm:g}"

    @property
    def dot(self) -> float:
        """Radius of the dot at the home point."""
        return round(self.half_m / 30, 2)


def draw_landing(
    site: Site, spread_m: float, clear_m: float | None, offset_m: float | None, toward_deg: float | None
) -> LandingDrawn:
    """The landing of a home point so far (m) from the launch point towards a bearing (degrees true); with a distance alone it is drawn to the north."""
    off = offset_m or 0.0
    home = planar_geometry.ahead((0.0, 0.0), toward_deg or 0.0, off)
    half = ROOM * max(LEAST_HALF_M, off + spread_m, min(clear_m or 0.0, 60.0))
    here = site.launch.xy
    near = []
    for mark in site.standing:
        if mark.nearest(here)[0] > half * math.sqrt(2):
            continue
        points = [(x - here[0], y - here[1]) for x, y in mark.points]
        x, y = points[0]
        line = len(points) > 1
        near.append(
            NearThing(
                path=path_of(points, closed=mark.closed) if line else "", x=round(x, 1), y=round(-y, 1),
                r=0.0 if line else mark.radius_m or (CROWN_M if mark.nature.round else 0.8), words=mark.words,
            )
        )  # fmt: skip
    return LandingDrawn(
        half_m=round(half, 1), home_x=round(home[0], 2) + 0.0, home_y=round(-home[1], 2) + 0.0, spread_m=round(spread_m, 2), clear_m=round(min(clear_m or 0.0, 2 * half), 2), near=tuple(near),
        words="Launch point and home point from above, north up, with the ring in which 95 of 100 landings lie.",
    )  # fmt: skip
