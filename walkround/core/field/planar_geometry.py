"""Plane geometry in metres east and north: what lies inside, how near it is, whether a ring crosses itself.

Written out, because nearly every page asks it of a few corners: loading a geometry library would cost the first page a tenth of
a second. The tests hold it against one.
"""

import math
from collections.abc import Sequence

Point = tuple[float, float]
"""East and north in m."""


def inside(ring: Sequence[Point], point: Point) -> bool:
    """Whether a point (m) lies inside a closed ring of corners (m); on the edge counts either way.

    Source: crossing number; M. Shimrat, Algorithm 112, Comm. ACM 5 (1962).
    """
    x, y = point
    found = False
    ax, ay = ring[-1]
    for bx, by in ring:
        if (ay > y) != (by > y) and x < (bx - ax) * (y - ay) / (by - ay) + ax:
            found = not found
        ax, ay = bx, by
    return found


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


def _turn(a: Point, b: Point, c: Point) -> float:
    """Twice the area of a triangle in m²: above 0 where the way from ``a`` over ``b`` to ``c`` turns left."""
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def segments_cross(a: Point, b: Point, c: Point, d: Point) -> bool:
    """Whether two segments (m) cross in a point inside both. Source: signs of the four turns."""
    return _turn(a, b, c) * _turn(a, b, d) < 0 and _turn(c, d, a) * _turn(c, d, b) < 0


def gap(one: Sequence[Point], other: Sequence[Point], *, closed: bool = False, other_closed: bool = False) -> float:
    """Smallest distance in m between two lines or areas; 0 where they touch, cross or one lies in the other.

    Source: the nearest of two segments that do not cross lies at an end of one of them.
    """
    if closed and len(one) > 2 and inside(one, other[0]):
        return 0.0
    if other_closed and len(other) > 2 and inside(other, one[0]):
        return 0.0
    least = math.inf
    others = segments(other, closed=other_closed)
    for a, b in segments(one, closed=closed):
        for c, d in others:
            if segments_cross(a, b, c, d):
                return 0.0
            least = min(
                least,
                math.dist(nearest_on_segment(a, b, c), c),
                math.dist(nearest_on_segment(a, b, d), d),
                math.dist(nearest_on_segment(c, d, a), a),
                math.dist(nearest_on_segment(c, d, b), b),
            )
    return round(least, 6)  # what is 30 m apart is not 29.999999999999996


def crosses_itself(ring: Sequence[Point]) -> bool:
    """Whether two edges of a closed ring (m) cross; corners that touch another edge are no crossing.

    Source: ``segments_cross`` of every two edges that are no neighbours.
    """
    edges = segments(ring, closed=True)
    return any(segments_cross(a, b, c, d) for i, (a, b) in enumerate(edges) for c, d in edges[i + 2 :])


def hull(points: Sequence[Point]) -> list[Point]:
    """The convex hull of points (m), counter-clockwise. Source: A. M. Andrew, Inf. Proc. Letters 9 (1979)."""
    ordered = sorted(set(points))
    if len(ordered) < 3:
        return ordered
    chains: list[list[Point]] = []
    for way in (ordered, ordered[::-1]):
        chain: list[Point] = []
        for p in way:
            while len(chain) > 1 and _turn(chain[-2], chain[-1], p) <= 0:
                chain.pop()
            chain.append(p)
        chains.append(chain[:-1])
    return chains[0] + chains[1]


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
