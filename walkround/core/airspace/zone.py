"""A zone of airspace: its outline on the earth, its heights, when it holds, and what it asks."""

import math
from collections.abc import Sequence
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position, course, degree_lengths_m, distance_m
from walkround.core.base.value import Allowed, Value
from walkround.core.field import planar_geometry

Ring = tuple[tuple[float, float], ...]
"""Longitude and latitude in degrees of each corner, the first not repeated; longitudes run on over 180 where it crosses."""
METRES_A_DEGREE = 111_320.0
"""Length of a degree of latitude in m, rounded, for the size of boxes only. Source: 40,075 km / 360."""


class Rule(StrEnum):
    """What a zone means for a model."""

    CLOSED = "closed"
    ASK = "ask first"
    UP_TO = "allowed up to"
    CAUTION = "caution"


class Ref(StrEnum):
    """What a height counts from."""

    GROUND = "ground"
    SEA = "sea"


class Edge(Value):
    """Floor or ceiling: m above the ground or above the sea."""

    height_m: Annotated[float, Allowed(ge=-500, le=100_000)]
    ref: Ref = Ref.GROUND


class ActivePeriod(Value):
    """When it holds, aware times; an open end holds on."""

    begin: datetime | None = None
    end: datetime | None = None


class Terms(Value):
    """A zone without its outline. ``max_height`` None: no upper end; ``periods`` empty: always; ``up_to_m``: allowed up to so
    many m above ground; ``asks``: what it asks, in words."""

    name: Annotated[str, Allowed(min_length=1, max_length=120)]
    rule: Rule
    floor: Edge = Edge.trusted(height_m=0.0, ref=Ref.GROUND)
    max_height: Edge | None = None
    up_to_m: Annotated[float | None, Allowed(ge=0, le=10_000)] = None
    periods: Annotated[tuple[ActivePeriod, ...], Allowed(max_length=200)] = ()
    asks: Annotated[str, Allowed(max_length=500)] = ""


class Zone(Value):
    """A zone: outlines with their holes (the first ring is the outline), or a circle about a place with its radius in m."""

    terms: Terms
    polygons: tuple[tuple[Ring, ...], ...] = ()
    centre: Position | None = None
    radius_m: Annotated[float, Allowed(ge=0, le=500_000)] = 0.0

    def box(self) -> tuple[float, float, float, float]:
        """West, east, south, north in degrees; east may lie beyond 180. Source: corners; for a circle its radius.

        A circle that reaches a pole has every longitude.
        """
        if self.centre is not None:
            up = self.radius_m / (METRES_A_DEGREE * 0.99)
            south, north = self.centre.lat_deg - up, self.centre.lat_deg + up
            widest = max(abs(south), abs(north))
            wide = 180.0 if widest >= 89 else up / math.cos(math.radians(widest))
            return (self.centre.lon_deg - wide, self.centre.lon_deg + wide, south, north)
        lons = [lon for rings in self.polygons for lon, _ in rings[0]]
        lats = [lat for rings in self.polygons for _, lat in rings[0]]
        return (min(lons), max(lons), min(lats), max(lats))


class Nearby(Value):
    """A zone near a flight: how far its edge is from the flying area in m, 0 where it reaches in; in which direction from
    the launch point, degrees true; whether the launch point lies in it."""

    terms: Terms
    away_m: float
    bearing_deg: float
    over_launch: bool


def unwrapped(ring: Sequence[tuple[float, float]]) -> Ring:
    """A ring whose longitudes run on from corner to corner by less than half a turn, so that it may cross the date line.

    Degrees; the closing corner is dropped. Source: the shorter way round; RFC 7946, section 3.1.9, on the antimeridian.
    """
    points = list(ring[:-1]) if len(ring) > 1 and ring[0] == ring[-1] else list(ring)
    out = [points[0]]
    for lon, lat in points[1:]:
        step = (lon - out[-1][0] + 180) % 360 - 180
        out.append((out[-1][0] + step, lat))
    return tuple(out)


def winding(ring: Sequence[planar_geometry.Point], point: planar_geometry.Point) -> int:
    """How often a ring goes round a point (any unit); 0: outside. A crossed ring encloses all that it goes round.

    Source: winding number; D. Sunday, Inclusion of a Point in a Polygon (2001).
    """
    x, y = point
    count = 0
    ax, ay = ring[-1]
    for bx, by in ring:
        side = (bx - ax) * (y - ay) - (x - ax) * (by - ay)
        if ay <= y < by and side > 0:
            count += 1
        elif by <= y < ay and side < 0:
            count -= 1
        ax, ay = bx, by
    return count


def flat(ring: Ring, here: Position) -> list[planar_geometry.Point]:
    """A ring in m about a place, by a map that keeps straight what is straight in degrees: exact for inside and outside,
    good to a fifth of a per cent for distances of some km. The turn of the globe nearest to the place.

    Source: ``geodesy.degree_lengths_m``.
    """
    tall, wide = degree_lengths_m(here.lat_deg)
    middle = sum(lon for lon, _ in ring) / len(ring)
    shift = here.lon_deg + round((middle - here.lon_deg) / 360) * 360
    return [((lon - shift) * wide, (lat - here.lat_deg) * tall) for lon, lat in ring]


def contains(zone: Zone, here: Position) -> bool:
    """Whether a place (degrees) lies in a zone; its holes do not. Edges are straight in degrees, as RFC 7946 says.

    Source: ``winding``; circles by the geodesic.
    """
    if zone.centre is not None:
        return distance_m(zone.centre, here) <= zone.radius_m
    for rings in zone.polygons:
        if any(_within(ring, here) for ring in rings[:1]) and not any(_within(ring, here) for ring in rings[1:]):
            return True
    return False


def _within(ring: Ring, here: Position) -> bool:
    west, east = min(lon for lon, _ in ring), max(lon for lon, _ in ring)
    # A ring may lie any number of whole turns away, and a wide one covers the place in more than one.
    turns = range(math.floor((west - here.lon_deg) / 360), math.ceil((east - here.lon_deg) / 360) + 1)
    return any(winding(ring, (here.lon_deg + 360 * turn, here.lat_deg)) != 0 for turn in turns)


def nearby(
    zone: Zone,
    here: Position,
    launch: planar_geometry.Point,
    area: Sequence[planar_geometry.Point],
    far_m: float = math.inf,
) -> Nearby | None:
    """How a zone lies to a flight: ``here`` the field's position in degrees, launch point and flying area in m from it;
    None where it is farther off than ``far_m`` (m).

    Distances of polygons are good to a fifth of a per cent. Source: ``planar_geometry.gap`` in the map of ``flat``; circles by the
    geodesic, as ``geodesy.course``.
    """
    tall, wide = degree_lengths_m(here.lat_deg)
    start = Position(lat_deg=here.lat_deg + launch[1] / tall, lon_deg=here.lon_deg + launch[0] / wide)
    over = contains(zone, start)
    if zone.centre is not None:
        middle, towards = course(start, zone.centre)
        away = (
            planar_geometry.nearest(area, planar_geometry.ahead(launch, towards, middle), closed=True)[0]
            - zone.radius_m
        )
        away = 0.0 if over else max(0.0, away)
        return Nearby(terms=zone.terms, away_m=away, bearing_deg=towards, over_launch=over) if away <= far_m else None
    if over:
        return Nearby(terms=zone.terms, away_m=0.0, bearing_deg=0.0, over_launch=True)
    best, at = math.inf, launch
    reach = max(math.dist(launch, p) for p in area)
    for rings in zone.polygons:
        outline, *holes = (flat(ring, here) for ring in rings)
        gap, point, first = _gap(area, reach, launch, [outline, *holes])
        # Where no edge is as near as the area reaches, the area lies on one side of all of them, with the launch point.
        if first <= reach and any(winding(outline, p) and not any(winding(hole, p) for hole in holes) for p in area):
            gap = 0.0
        if gap < best:
            best, at = gap, point
    if best > far_m:
        return None
    return Nearby(terms=zone.terms, away_m=best, bearing_deg=planar_geometry.bearing(launch, at), over_launch=False)


def _gap(
    area: Sequence[planar_geometry.Point],
    reach: float,
    launch: planar_geometry.Point,
    rings: list[list[planar_geometry.Point]],
) -> tuple[float, planar_geometry.Point, float]:
    """From the flying area to the nearest edge of any ring, the point of the rings nearest to the launch point, and how
    far that is.

    No edge farther from the launch point than the nearest one and the reach of the area can be nearer to the area.
    """
    edges = [(math.dist(launch, p), a, b, p) for r in rings for a, b in planar_geometry.segments(r, closed=True)
             for p in (planar_geometry.nearest_on_segment(a, b, launch),)]  # fmt: skip
    first, *_, at = min(edges)
    if first > reach + 2_000:
        return first - reach, at, first
    gap = min(planar_geometry.gap(area, (a, b), closed=True) for away, a, b, _ in edges if away <= first + reach)
    return gap, at, first


def checked(zone: Zone) -> Zone:
    """The zone, once its outlines make sense: corners on the earth in degrees. Raises InputError in words. Source: ranges."""
    if zone.centre is None and not zone.polygons:
        raise InputError(f"{zone.terms.name}: it has no outline.", "zones")
    if zone.terms.rule is Rule.UP_TO and zone.terms.up_to_m is None:
        raise InputError(f"{zone.terms.name}: allowed up to what height? up_to_m is missing.", "zones")
    floor, max_height = zone.terms.floor, zone.terms.max_height
    if max_height is not None and max_height.ref is floor.ref and max_height.height_m < floor.height_m:
        raise InputError(f"{zone.terms.name}: its upper limit is below its lower limit.", "zones")
    return zone
