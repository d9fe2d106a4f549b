"""How far an aircraft can be seen, and how far its orientation can be seen."""

import math

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import height
from walkround.core.field.site import Site

ROTOR_TIMES, ROTOR_PLUS_M, WING_TIMES, WING_PLUS_M = 327.0, 20.0, 490.0, 30.0
SEEN_SHARE = 0.3
"""Which way it points is seen up to so many times its size and so many m; that it is there, up to this share of the
visibility. Source: European guidance on the size of operations within sight, ALOS and DLOS (from memory)."""


def attitude_sight_m(size_mm: float, kind: Kind) -> float:
    """How far away its orientation can be seen, in m, for its largest size in mm. Source: ``ROTOR_TIMES``."""
    if kind is Kind.WING:
        return WING_TIMES * size_mm / 1000 + WING_PLUS_M
    return ROTOR_TIMES * size_mm / 1000 + ROTOR_PLUS_M


def slant_m(site: Site, out_m: float = 0.0, top_m: float | None = None) -> float:
    """How far from the pilot's eyes the flight goes at most, in m: the farthest point of the field's flying area or the
    planned distance out, whichever is more, at the highest point of the flight. Source: Pythagoras."""
    away_m = max(site.farthest_m(), out_m + math.dist(site.pilot_spot.xy, site.launch.xy))
    return math.hypot(away_m, site.flight_height_m if top_m is None else top_m)


def judge_sight(site: Site, aircraft: Aircraft, out_m: float = 0.0, top_m: float | None = None) -> tuple[Finding, ...]:
    """Judge the farthest point of the flight (m) against how far one sees which way this aircraft points: beyond it is a caution,
    beyond twice of it grounds. Source: ``attitude_sight_m``; that twice grounds is our choice."""
    away, most = slant_m(site, out_m, top_m), attitude_sight_m(aircraft.span_mm, aircraft.kind)
    level = Level.GROUNDED if away > 2 * most else Level.CAUTION if away > most else Level.CLEAR
    words = {
        Level.CLEAR: "At its farthest ({value}) you can still see its orientation.",
        Level.CAUTION: "At its farthest it is {value} away. You can see the orientation of {name} up to {limit}.",
        Level.GROUNDED: "At its farthest it is {value} away. There {name} is only a dot: its orientation is visible up to "
        "{limit}.",
    }
    return (
        measured(
            "In sight",
            height(away),
            height(most),
            sense="max",
            level=level,
            words={key: text.replace("{name}", aircraft.name) for key, text in words.items()},
            remedy="Plan a closer flight, or stay in the near half of the flying box.",
            source="size of the aircraft, European guidance on flight within sight (from memory)",
        ),
    )


def judge_seen(visibility_m: float, away_m: float) -> tuple[Finding, ...]:
    """Judge a visibility (m) against the farthest point of the flight (m): an aircraft is made out up to three tenths of it.

    Nothing is said where that is far beyond. Source: ``SEEN_SHARE``.
    """
    most = SEEN_SHARE * visibility_m
    if most > 4 * away_m:
        return ()
    return (
        measured(
            "Visual range",
            height(most),
            height(away_m),
            sense="min",
            caution=0.5,
            words="In this visibility you can see it out to {value}, but the flight goes out to {limit}.",
            remedy="Stay closer, or wait for better visibility.",
            source="three tenths of the visibility, European guidance on flight within sight (from memory)",
        ),
    )
