"""Plane geometry written out by hand, to check what a library says of a field."""

import math
from collections.abc import Sequence

from walkround.core.field.planar_geometry import Point, nearest_on_segment, segments


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


def _turn(a: Point, b: Point, c: Point) -> float:
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
    return least


def crossing(ring: Sequence[Point]) -> tuple[int, int] | None:
    """Two edges of a closed ring (m) that cross, as numbers from 0; None where none do. Source: ``segments_cross``."""
    edges = segments(ring, closed=True)
    for i, (a, b) in enumerate(edges):
        for j in range(i + 2, len(edges)):
            if not (i == 0 and j == len(edges) - 1) and segments_cross(a, b, *edges[j]):
                return i, j
    return None


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
