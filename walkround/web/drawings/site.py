"""The plan of a field, north up, in metres: x to the east, y to the south, so that the drawing is to scale by itself."""

import math
from collections.abc import Sequence

from walkround.core.base.struct import Struct
from walkround.core.base.units import Measure, Quantity, Units
from walkround.core.field import field_editor, planar_geometry
from walkround.core.field.glare import SunSession
from walkround.core.field.interference import DISTURBS
from walkround.core.field.marks import Mark, MarkShape
from walkround.core.field.site import LAUNCH_CIRCLE_M, Site

STRIP_M = 80.0
"""How long a strip is drawn; its true length is not asked."""
LEAST_HALF_M, FAR_M = 45.0, 700.0
PAPER_PX = 560.0
CROWN_M = 3.0
"""Crown of a tree whose width is not known, as drawn."""


class DrawnThing(Struct, frozen=True):
    """One thing: its key and look, its outline, where its symbol stands, how far it reaches, its words, its corners and
    the middles of its edges."""

    key: str
    look: str
    path: str
    x: float
    y: float
    r: float
    label: str
    words: str
    corners: tuple[tuple[float, float], ...]
    middles: tuple[tuple[float, float], ...]
    below: bool
    whole: bool


class SitePlan(Struct, frozen=True):
    """The plan: what is in view at first, everything on it, the thing in hand, what the sun does."""

    x: float
    y: float
    wide: float
    high: float
    things: tuple[DrawnThing, ...]
    area: str
    launch_r: float
    strip: str
    slope: str
    rings: tuple[tuple[float, str], ...]
    rings_x: float
    rings_y: float
    sun_sector: str
    suns: tuple[tuple[float, float, str], ...]
    words: str

    @property
    def paper_m(self) -> float:
        """Metres for one pixel where it is printed, not moved."""
        return round(self.wide / PAPER_PX, 3)


def _xy(point: planar_geometry.Point) -> tuple[float, float]:
    return (round(point[0], 2) + 0.0, round(-point[1], 2) + 0.0)


def path_of(points: Sequence[planar_geometry.Point], *, closed: bool) -> str:
    """A path through points (m east and north)."""
    return "M" + " L".join(f"{x:g},{y:g}" for x, y in map(_xy, points)) + ("Z" if closed else "")


def _thing(site: Site, key: str, units: Units, mark: Mark | None = None) -> DrawnThing:
    points = mark.points if mark is not None else [s.xy for s in field_editor.spots_of(site, key)]
    closed = key == field_editor.FLIGHT_AREA or (mark is not None and mark.closed)
    line = len(points) > 1
    edges = planar_geometry.segments(points, closed=closed) if line else []
    label, words = "", field_editor.WORDS.get(key, "")
    if mark is not None:
        away, bearing = site.away(mark)
        size = Quantity(value=mark.height_m, measure=Measure.HEIGHT).say(units)
        label = f"{mark.words} {size}" if mark.height_m else mark.words
        at = Quantity(value=away, measure=Measure.HEIGHT).say(units)
        tall = f", {size} high" if mark.height_m else ""
        words = f"{mark.words}{tall}, at {bearing:.0f}° and {at} from the launch point"
    below = (sum(x for x, _ in points) / len(points), min(y for _, y in points))
    x, y = _xy(points[0] if not line else below if closed else points[len(points) // 2])
    look = mark.kind.name.lower() if mark is not None else key
    r = 0.0
    if mark is not None and mark.nature.round:
        r = mark.radius_m or (CROWN_M if mark.nature.stands else 0.0)
    return DrawnThing(
        key=key,
        look=look if line or mark is None or mark.nature.shape is MarkShape.POINT else f"{look} lone",
        path=path_of(points, closed=closed) if line else "",
        x=x,
        y=y,
        r=r,
        label=label,
        words=words,
        corners=tuple(map(_xy, points)),
        middles=tuple(_xy(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) for a, b in edges),
        below=closed or not line,
        whole=not line,
    )


def site_plan(site: Site, units: Units, selected: str = "", sun: SunSession | None = None) -> SitePlan:
    """The plan of a field, with one thing in hand and the sun of a session where they are given."""
    things = []
    if site.flight_area:
        things.append(_thing(site, field_editor.FLIGHT_AREA, units))
    things += [_thing(site, field_editor.key_of(mark), units, mark) for mark in site.marks]
    if site.spectator_line:
        things.append(_thing(site, field_editor.SPECTATOR_LINE, units))
    things += [_thing(site, field_editor.LAUNCH, units), _thing(site, field_editor.PILOT, units)]
    area = site.flight_polygon()
    here = site.launch.xy
    near = [*area, here, site.pilot_spot.xy, *(s.xy for s in site.spectator_line)]
    near += [p for mark in site.marks for p in mark.points if math.dist(p, here) <= FAR_M]
    west, east = min(x for x, _ in near), max(x for x, _ in near)
    south, north = min(y for _, y in near), max(y for _, y in near)
    half = max(LEAST_HALF_M, (east - west) / 2, (north - south) / 2) * 1.14
    middle = _xy(((west + east) / 2, (south + north) / 2))
    sector, suns = _sun(site, sun, half * 0.62)
    held = next((m for m in site.marks if field_editor.key_of(m) == selected), None)
    rings_x, rings_y = _xy(held.points[0]) if held is not None else (0.0, 0.0)
    return SitePlan(
        x=round(middle[0] - half, 1),
        y=round(middle[1] - half, 1),
        wide=round(2 * half, 1),
        high=round(2 * half, 1),
        things=tuple(things),
        area="" if site.flight_area else path_of(area, closed=True),
        launch_r=LAUNCH_CIRCLE_M,
        strip=_line(here, site.strip_deg, STRIP_M / 2),
        slope=_slope(site),
        rings=_rings(held) if held is not None and len(held.spots) == 1 else (),
        rings_x=rings_x,
        rings_y=rings_y,
        sun_sector=sector,
        suns=suns,
        words=f"{site.name} from above, north up, with {len(site.marks)} features marked.",
    )


def _rings(mark: Mark) -> tuple[tuple[float, str], ...]:
    """How far it is felt, for a thing that disturbs and stands in one spot."""
    does = DISTURBS.get(mark.kind)
    if does is None:
        return ()
    reach = [effect for effect in (does.compass, does.link) if effect is not None]
    return (
        (max(e.caution_m for e in reach) + mark.radius_m, "caution"),
        (max(e.ground_m for e in reach) + mark.radius_m, "grounds"),
    )


def _line(here: planar_geometry.Point, bearing_deg: float | None, half_m: float) -> str:
    if bearing_deg is None:
        return ""
    ends = [planar_geometry.ahead(here, bearing_deg + 180, half_m), planar_geometry.ahead(here, bearing_deg, half_m)]
    return path_of(ends, closed=False)


def _slope(site: Site) -> str:
    """Three arrowheads up the slope, from the launch point on."""
    if not site.ground_rise_m or site.uphill_deg is None:
        return ""
    heads = []
    for i in (2, 3, 4):
        tip = planar_geometry.ahead(site.launch.xy, site.uphill_deg, i * site.reach_m / 6)
        sides = [planar_geometry.ahead(tip, site.uphill_deg + side, site.reach_m / 16) for side in (140, -140)]
        heads.append(path_of([sides[0], tip, sides[1]], closed=False))
    return " ".join(heads)


def _sun(site: Site, sun: SunSession | None, radius: float) -> tuple[str, tuple[tuple[float, float, str], ...]]:
    """The sector in which the pilot looks into the sun, and the sun at its begin, middle and end, as seen from them."""
    if sun is None or sun.sector is None:
        return "", ()
    begin, end = sun.sector
    wide = (end - begin) % 360
    stands = site.pilot_spot.xy
    arc = [planar_geometry.ahead(stands, begin + wide * i / 24, radius) for i in range(25)]
    up = [m for m in sun.moments if m.sun.elevation_deg > -0.833]
    shown = {0: up[0], 1: up[len(up) // 2], 2: up[-1]}.values()
    discs = [(*_xy(planar_geometry.ahead(stands, m.sun.bearing_deg, radius)), m.at.isoformat()) for m in shown]
    return path_of([stands, *arc], closed=True), tuple(dict.fromkeys(discs))
