"""Plane geometry in metres east and north: what lies inside, how near it is, whether a ring crosses itself."""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

Point = tuple[float, float]
"""East and north in m."""


@lru_cache(maxsize=4096)
def _shape(points: tuple[Point, ...], closed: bool) -> Any:
    """A point, a line or an area of shapely; points in m. The library is imported where it is first needed."""
    import shapely

    if len(points) == 1:
        return shapely.Point(points[0])
    return shapely.Polygon(points) if closed and len(points) > 2 else shapely.LineString(points)


def inside(ring: Sequence[Point], point: Point) -> bool:
    """Whether a point (m) lies inside a closed ring of corners (m); on the edge counts either way."""
    import shapely

    return bool(shapely.contains_xy(_shape(tuple(ring), True), *point))


def nearest_on_segment(a: Point, b: Point, point: Point) -> Point:
    """The point of the segment from ``a`` to ``b`` that lies nearest to ``point``; all in m. Source: projection."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    square = dx * dx + dy * dy
    if square == 0:
        return a
    t = max(0.0, min(1.0, ((point[0] - a[0]) * dx + (point[1] - a[1]) * dy) / square))
    return (a[0] + t * dx, a[1] + t * dy)


def segments(spots: Sequence[Point], *, closed: bool) -> list[tuple[Point, Point]]:
    """The edges of a line or of a closed ring (m); a single point is an edge of no length."""
    if len(spots) == 1:
        return [(spots[0], spots[0])]
    pairs = list(zip(spots, spots[1:], strict=False))
    return [*pairs, (spots[-1], spots[0])] if closed and len(spots) > 2 else pairs


def nearest(spots: Sequence[Point], point: Point, *, closed: bool = False) -> tuple[float, Point]:
    """Distance in m from a point to a line or an area, and where that is; 0 inside an area. Source: projection."""
    if closed and len(spots) > 2 and inside(spots, point):
        return 0.0, point
    best = (math.inf, spots[0])
    for a, b in segments(spots, closed=closed):
        at = nearest_on_segment(a, b, point)
        best = min(best, (math.dist(at, point), at))
    return best


def gap(one: Sequence[Point], other: Sequence[Point], *, closed: bool = False, other_closed: bool = False) -> float:
    """Smallest distance in m between two lines or areas; 0 where they touch, cross or one lies in the other."""
    import shapely

    away = float(shapely.distance(_shape(tuple(one), closed), _shape(tuple(other), other_closed)))
    return round(away, 6)  # what is 30 m apart is not 29.999999999999996


def crosses_itself(ring: Sequence[Point]) -> bool:
    """Whether two edges of a closed ring (m) cross; corners that touch another edge are no crossing."""
    import shapely

    edges = shapely.linestrings(segments(ring, closed=True))
    return bool(shapely.crosses(edges[:, None], edges[None, :]).any())


def hull(points: Sequence[Point]) -> list[Point]:
    """The corners of the convex hull of points (m), in order; the points themselves where they lie on one line."""
    import shapely

    found = shapely.convex_hull(shapely.MultiPoint(list(points)))
    corners = [(float(x), float(y)) for x, y in shapely.get_coordinates(found)]
    return corners[:-1] if found.geom_type == "Polygon" else corners


def bounding_box(points: Sequence[Point]) -> tuple[float, float, float, float]:
    """West, south, east and north end of points, in m."""
    easts, norths = [x for x, _ in points], [y for _, y in points]
    return min(easts), min(norths), max(easts), max(norths)


def bearing(a: Point, b: Point) -> float:
    """Bearing in degrees, clockwise from north, from one point (m) to another."""
    return math.degrees(math.atan2(b[0] - a[0], b[1] - a[1])) % 360


def ahead(a: Point, bearing_deg: float, distance_m: float) -> Point:
    """The point a distance (m) away on a bearing (degrees)."""
    angle = math.radians(bearing_deg)
    return (a[0] + distance_m * math.sin(angle), a[1] + distance_m * math.cos(angle))


def turned(points: Sequence[Point], about: Point, by_deg: float) -> list[Point]:
    """Points (m) turned clockwise about one of them by degrees. Source: rotation of the plane."""
    angle = math.radians(by_deg)
    cos, sin = math.cos(angle), math.sin(angle)
    x0, y0 = about
    return [(x0 + (x - x0) * cos + (y - y0) * sin, y0 - (x - x0) * sin + (y - y0) * cos) for x, y in points]
