"""A better launch spot, proposed from the plan: clear circle, open sky, away from sources, sun behind."""

import math
from collections.abc import Sequence
from datetime import datetime
from typing import TYPE_CHECKING, Any

from walkround.core.base.finding import Level
from walkround.core.base.later import Later
from walkround.core.base.phrase import Phrase, height, percent
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.interference import DISTURBS
from walkround.core.field.marks import Mark, Spot, spot
from walkround.core.field.site import LAUNCH_CIRCLE_M, Site
from walkround.core.field.sky_mask import NOT_ON, WALK_M, hidden_deg, open_percent, walkable
from walkround.core.field.sun import sun_at

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

WANTED_M = 10.0
"""Clear ground round it beyond this, in m, makes a launch point no better. Source: our choice."""


class Launch(Struct, frozen=True, kw_only=True):
    """What a launch point is worth. ``clear_m``: to the nearest thing that stands; ``sky_percent``: share of the sky above
    the mask that is open; ``source_m``: to the source that counts most, None without one; ``sun_deg``: how far the sun
    stands off the way to the flight, degrees, None when it is down or nothing says where the flight is."""

    at: Spot
    clear_m: float
    sky_percent: float
    source_m: float | None
    source: str
    disturbed: Level
    sun_deg: float | None
    walk_m: float

    @property
    def behind(self) -> bool:
        """Whether the sun stands behind the pilot, or does not count."""
        return self.sun_deg is None or self.sun_deg >= 90


class Proposal(Struct, frozen=True, kw_only=True):
    """A better launch point, and why, sentence by sentence."""

    found: Launch
    present: Launch
    reasons: tuple[Phrase, ...]

    @property
    def shift(self) -> planar_geometry.Point:
        """From the present launch point to the better one, m east and north."""
        new, old = self.found.at, self.present.at
        return (round(new.east_m - old.east_m, 2), round(new.north_m - old.north_m, 2))


def _distances(marks: Sequence[Mark], points: Any) -> Any:
    """Distance in m from each of n points to each of k marks, as an array of n by k."""
    out = np.empty((len(points), len(marks)))
    for k, mark in enumerate(marks):
        best = np.full(len(points), np.inf)
        for (ax, ay), (bx, by) in planar_geometry.segments(mark.points, closed=mark.closed):
            dx, dy = bx - ax, by - ay
            square = dx * dx + dy * dy or 1.0
            t = np.clip(((points[:, 0] - ax) * dx + (points[:, 1] - ay) * dy) / square, 0, 1)
            best = np.minimum(best, np.hypot(ax + t * dx - points[:, 0], ay + t * dy - points[:, 1]))
        if mark.closed:
            ring = mark.points
            best = np.where([planar_geometry.inside(ring, (float(x), float(y))) for x, y in points], 0.0, best)
        out[:, k] = np.maximum(0.0, best - mark.radius_m)
    return out


def launches(site: Site, places: Sequence[planar_geometry.Point], sun_bearing_deg: float | None) -> list[Launch]:
    """What each place (m east and north) is worth as a launch point; the sun's bearing in degrees true, None when it is down.

    Source: clear circle, open sky, away from sources, sun behind: common practice, no source.
    """
    points = np.array(places, dtype=float).reshape(-1, 2)
    here = site.launch.xy
    near = [mark for mark in site.marks if mark.nearest(here)[0] <= WALK_M + 400]
    away = _distances(near, points) if near else np.empty((len(points), 0))
    standing = [k for k, mark in enumerate(near) if mark.height_m > 0 or mark.kind in NOT_ON]
    sky = open_percent(hidden_deg([m for m in near if m.height_m > 0], points))
    area = site.flight_polygon()
    middle = (sum(x for x, _ in area) / len(area), sum(y for _, y in area) / len(area))
    found = []
    for i, place in enumerate(places):
        worst, source_m, source = Level.CLEAR, None, ""
        nearest = math.inf
        for k, mark in enumerate(near):
            does = DISTURBS.get(mark.kind)
            for effect in (does.compass, does.link) if does else ():
                if effect is None:
                    continue
                m = float(away[i, k])
                level = (
                    Level.CLEAR if m >= effect.caution_m else Level.GROUNDED if m < effect.ground_m else Level.CAUTION
                )
                share = m / effect.caution_m
                if (-level, share) < (-worst, nearest):
                    worst, nearest, source_m, source = level, share, m, mark.words
        sun = None
        if sun_bearing_deg is not None and site.flight_area:
            sun = abs((sun_bearing_deg - planar_geometry.bearing(place, middle) + 180) % 360 - 180)
        found.append(
            Launch(
                at=spot(place),
                clear_m=float(away[i, standing].min()) if standing else 500.0,
                sky_percent=float(sky[i]),
                source_m=source_m,
                source=source,
                disturbed=worst,
                sun_deg=sun,
                walk_m=math.dist(place, here),
            )
        )
    return found


def better_launch(site: Site, sun_bearing_deg: float | None) -> Proposal | None:
    """A better launch point within a short walk (m), or None when the present one is as good.

    What counts, in this order: no source near, the sun behind, a clear circle of 3 m and a metre more, open sky, a short
    walk. Never nearer to the spectators than they are allowed, never on water or inside a hazard. Sun in degrees true.
    Source: what counts is common practice, no source; the order is our choice.
    """
    grid = walkable(site)
    worth = launches(site, grid, sun_bearing_deg)
    present = next(one for one in worth if one.walk_m == 0)

    def rank(one: Launch) -> tuple[float, ...]:
        tight = one.clear_m < LAUNCH_CIRCLE_M + 1
        ground = min(one.clear_m, WANTED_M)
        return (tight, one.disturbed, not one.behind, -round(one.sky_percent / 4 + ground), one.walk_m)

    best = min(worth, key=rank)
    if rank(best)[:4] >= rank(present)[:4]:
        return None
    reasons = []
    if best.disturbed < present.disturbed and present.source_m is not None:
        words = f"Away from the {present.source}, which is {{before}} from the present point."
        reasons.append(Phrase.of(words, before=height(present.source_m)))
    if best.behind and not present.behind:
        reasons.append(Phrase(text="There the sun is behind you."))
    if min(best.clear_m, WANTED_M) > min(present.clear_m, WANTED_M) + 0.5:
        pair = {"now": height(min(best.clear_m, 500)), "before": height(present.clear_m)}
        reasons.append(Phrase.of("{now} clear all round, where it was {before}.", **pair))
    if best.sky_percent > present.sky_percent + 2:
        pair = {"now": percent(best.sky_percent), "before": percent(present.sky_percent)}
        reasons.append(Phrase.of("{now} of the sky is open to satellites, where it was {before}.", **pair))
    return Proposal(found=best, present=present, reasons=tuple(reasons)) if reasons else None


def better_launch_at(site: Site, moment: datetime) -> Proposal | None:
    """As ``better_launch`` (m), with the sun where it stands at an aware time; below the horizon it does not count.

    Source: ``sun.sun_at``.
    """
    sun = sun_at(site.position, moment)
    return better_launch(site, sun.bearing_deg if sun.elevation_deg > 0 else None)
