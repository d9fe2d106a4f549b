"""How a position wanders while the aircraft lies still: the circles that hold half and 95 of a hundred fixes, jumps, fixes lost on the way."""

import math
from collections.abc import Sequence
from functools import cache
from statistics import NormalDist
from typing import Annotated

from walkround.core.base.geodesy import Position, to_plane
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

WINDOW_S = 60.0
"""The last so many s of a reading count as at rest; before them it may have been carried. Source: our choice."""
LEAST_FIXES = 10
"""Fewer fixes than this say nothing of a scatter. Source: our choice."""
MOST_SPOTS = 120
CLOSE = 1e-9
"""So close to a share of fixes a circle is looked for."""
NEXT_S = 2.5
"""Two fixes so close together (s) that what lies between them is a jump. Source: our choice."""
DAY_S = 86_400.0


@cache
def _nodes() -> tuple[float, ...]:
    """Squares of standard normal values of equal weight; the other half of them mirrors these."""
    return tuple(NormalDist().inv_cdf((i + 0.5) / 400) ** 2 for i in range(200))


class Epoch(Struct, frozen=True, kw_only=True):
    """One fix of a reading: s since its first sentence, place, height above the sea in m, speed in m/s; None where it is not told."""

    at_s: float
    position: Position | None = None
    altitude_m: float | None = None
    speed_ms: float | None = None


class Rest(Value):
    """What the fixes of the last minute do. ``spread_50_m``, ``spread_95_m``: radii about their middle, None for fewer than ``LEAST_FIXES``;
    ``long_m``, ``wide_m``, ``along_deg``: half axes of the ellipse that holds 95 of a hundred, and where it points; ``jump_m``: the largest step between two
    fixes; ``height_m``: from the lowest to the highest; ``lost``: fixes that failed to come once there was one; ``spots``: m east and north of the middle.
    """

    seconds: Annotated[float, Allowed(ge=0)]
    fixes: Annotated[int, Allowed(ge=0)]
    spread_50_m: float | None = None
    spread_95_m: float | None = None
    long_m: float = 0.0
    wide_m: float = 0.0
    along_deg: float = 0.0
    jump_m: float = 0.0
    height_m: float = 0.0
    speed_most_ms: float | None = None
    lost: int = 0
    spots: Annotated[tuple[tuple[float, float], ...], Allowed(max_length=MOST_SPOTS)] = ()


def radius_holding(share: float, sigma_long: float, sigma_wide: float) -> float:
    """The radius about its middle that holds a share (between 0 and 1) of a normal scatter with these standard deviations along its axes, in their unit.

    Source: probability of a circle under a bivariate normal distribution, by quadrature over one axis; that of a line and that of a round scatter,
    both in closed form, lie on either side of it. The false position in between, halving the weight of an end that stays (Illinois).
    """
    a, b = max(sigma_long, sigma_wide), min(sigma_long, sigma_wide)
    if a <= 0:
        return 0.0
    narrow = (b / a) ** 2 / 2

    def over(r: float) -> float:
        """How much more than the share a radius holds, in units of the longer axis."""
        half = r * r / 2
        return sum(math.erf(math.sqrt(max(0.0, half - narrow * square))) for square in _nodes()) / len(_nodes()) - share

    one, other = 0.9 * NormalDist().inv_cdf((1 + share) / 2), 1.1 * math.sqrt(-2 * math.log(1 - share))
    by_one, by_other = over(one), over(other)
    while abs(by_other) > CLOSE:
        r = (by_one * other - by_other * one) / (by_one - by_other)
        found = over(r)
        one, by_one = (other, by_other) if found * by_other < 0 else (one, by_one / 2)
        other, by_other = r, found
    return a * other


CHI_95 = math.sqrt(-2 * math.log(0.05))
"""Half axes of the ellipse that holds 95 of a hundred, in standard deviations. Source: chi-squared with two degrees of freedom, closed form."""


def at_rest(epochs: Sequence[Epoch]) -> Rest | None:
    """What the fixes of the last ``WINDOW_S`` of a reading do (m, s, m/s); None without a fix. Source: ``radius_holding``; the sample's covariance."""
    if not epochs:
        return None
    last_s = max(epoch.at_s for epoch in epochs)
    window = [epoch for epoch in epochs if epoch.at_s >= last_s - WINDOW_S]
    fixes = [epoch for epoch in window if epoch.position is not None]
    if not fixes:
        return None
    origin = fixes[-1].position
    assert origin is not None
    points = [to_plane(origin, epoch.position) for epoch in fixes if epoch.position is not None]
    n = len(points)
    east, north = sum(x for x, _ in points) / n, sum(y for _, y in points) / n
    spots = [(x - east, y - north) for x, y in points]
    steps = [math.dist(points[i], points[i - 1]) for i in range(1, n) if fixes[i].at_s - fixes[i - 1].at_s <= NEXT_S]
    heights = [epoch.altitude_m for epoch in fixes if epoch.altitude_m is not None]
    speeds = [epoch.speed_ms for epoch in window if epoch.speed_ms is not None]
    first = window.index(fixes[0])
    told = {
        "seconds": round(fixes[-1].at_s - fixes[0].at_s, 1),
        "fixes": n,
        "jump_m": round(max(steps, default=0.0), 2),
        "height_m": round(max(heights) - min(heights), 2) if heights else 0.0,
        "speed_most_ms": max(speeds, default=None),
        "lost": sum(epoch.position is None for epoch in window[first:]),
        "spots": tuple((round(x, 2), round(y, 2)) for x, y in spots[-MOST_SPOTS:]),
    }
    return Rest.model_validate(told | _spread(spots) if n >= LEAST_FIXES else told)


def _spread(spots: list[tuple[float, float]]) -> dict[str, float]:
    """Circles and ellipse of a scatter about its middle, in m; never less than what it did: the circles also hold their share of the fixes themselves."""
    n = len(spots)
    xx = sum(x * x for x, _ in spots) / (n - 1)
    yy = sum(y * y for _, y in spots) / (n - 1)
    xy = sum(x * y for x, y in spots) / (n - 1)
    middle, off = (xx + yy) / 2, math.hypot((xx - yy) / 2, xy)
    long_s, wide_s = math.sqrt(middle + off), math.sqrt(max(0.0, middle - off))
    away = sorted(math.hypot(x, y) for x, y in spots)
    return {
        "spread_50_m": round(max(radius_holding(0.5, long_s, wide_s), away[math.ceil(0.5 * n) - 1]), 2),
        "spread_95_m": round(max(radius_holding(0.95, long_s, wide_s), away[math.ceil(0.95 * n) - 1]), 2),
        "long_m": round(CHI_95 * long_s, 2),
        "wide_m": round(CHI_95 * wide_s, 2),
        "along_deg": round(math.degrees(math.atan2(2 * xy, yy - xx)) / 2 % 180, 1),
    }
