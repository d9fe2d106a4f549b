"""The flight as a path: from take-off past the turn to the landing, and what lies behind it."""

import math
from functools import cache

from walkround.core.base.struct import Struct
from walkround.core.base.wording import minutes_words
from walkround.core.flight.flight_clock import FlightClock

WIDE, HIGH = 360.0, 190.0
CURVES = (
    ((20.0, 148.0), (60.0, 62.0), (104.0, 42.0), (150.0, 44.0)),
    ((150.0, 44.0), (196.0, 46.0), (222.0, 106.0), (266.0, 102.0)),
    ((266.0, 102.0), (306.0, 98.0), (324.0, 62.0), (342.0, 32.0)),
)
"""A field path of our own, as cubic curves in picture units."""
BEYOND = 1.18
"""The path goes on so far past the landing (no unit)."""
SAMPLES = 60
Point = tuple[float, float]


class FlightPathDrawn(Struct, frozen=True, kw_only=True):
    """The path: ``d`` of the line, the end in seconds, shares of it (0 to 1) at the turn and the landing, places, words."""

    d: str
    end_s: float
    turn_share: float
    land_share: float
    turn: Point
    land: Point
    land_dash: float
    flag_top: float
    turn_text: tuple[float, float, float]
    beyond: str
    words: str


def _curve(curve: tuple[Point, Point, Point, Point], t: float) -> Point:
    (a, b, c, d), u = curve, 1 - t
    weights = (u**3, 3 * u * u * t, 3 * u * t * t, t**3)
    return (
        sum(w * p[0] for w, p in zip(weights, (a, b, c, d), strict=True)),
        sum(w * p[1] for w, p in zip(weights, (a, b, c, d), strict=True)),
    )


@cache
def _points() -> tuple[Point, ...]:
    return tuple(_curve(curve, i / SAMPLES) for curve in CURVES for i in range(SAMPLES + 1))


def at_share(share: float) -> Point:
    """The point after a share (0 to 1) of the length of the path, in picture units. Source: de Casteljau's cubic; chords summed."""
    points = _points()
    lengths = [math.dist(a, b) for a, b in zip(points, points[1:], strict=False)]
    left = min(1.0, max(0.0, share)) * sum(lengths)
    for a, b, length in zip(points, points[1:], lengths, strict=False):
        if left <= length and length:
            part = left / length
            return (round(a[0] + part * (b[0] - a[0]), 1), round(a[1] + part * (b[1] - a[1]), 1))
        left -= length
    return points[-1]


def draw_flight_path(clock: FlightClock) -> FlightPathDrawn:
    """The path of a flight by its clock."""
    end_s = clock.land_s * BEYOND
    turn, land = clock.turn_s / end_s, clock.land_s / end_s
    first = CURVES[0][0]
    d = f"M{first[0]:g} {first[1]:g}" + "".join(
        f"C{b[0]:g} {b[1]:g} {c[0]:g} {c[1]:g} {e[0]:g} {e[1]:g}" for _, b, c, e in CURVES
    )
    beyond = "reserve" if clock.reserve_s <= end_s else "over the plan"
    flag = at_share(turn)
    return FlightPathDrawn(
        d=d,
        end_s=end_s,
        turn_share=turn,
        land_share=land,
        turn=flag,
        land=at_share(land),
        land_dash=round(1000 * land, 1),
        flag_top=round(flag[1] - 34, 1),
        turn_text=(min(268.0, max(84.0, flag[0])), round(flag[1] - 40, 1), round(flag[1] + 36, 1)),
        beyond=beyond,
        words=f"Turn back at {minutes_words(clock.turn_s)}, land at {minutes_words(clock.land_s)}.",
    )
