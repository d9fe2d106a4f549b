"""What would make a lost link safer here: another action or height, a smaller or lower flight, another launch point; tried over the whole area."""

import math
from collections.abc import Iterable, Iterator

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.marks import spot
from walkround.core.field.site import LaunchPlatform, Site
from walkround.core.flight.estimate import Endurance
from walkround.core.lost_link.air import Air
from walkround.core.lost_link.area import POINTS, RUNS, Area, colour, finished
from walkround.core.lost_link.bodies import Body, body_of
from walkround.core.lost_link.flown import Plan
from walkround.core.lost_link.ground import ground_of

LOWER, SMALLER = 0.5, 0.7
"""Of its height and of its size, a flight that is tried. Source: our choice."""
MOVED_M = 15.0
"""So far the launch point is moved away from the spectators, in m. Source: our choice."""
TRIED_POINTS, TRIED_RUNS = 90, 40
LEAST_BETTER = 0.02
"""From this share of the area on, a change is an improvement (0 to 1). Source: our choice."""
MOST = 3


class Setup(Struct, frozen=True, kw_only=True):
    """What is flown where: field, aircraft, its minutes, the air, what the failsafe does, height in m above launch, speed in m/s, charge in per cent, how much of the
    flying area is used (0 to 1), throttle of a held position in per cent."""

    site: Site
    aircraft: Aircraft
    known: Endurance
    air: Air
    plan: Plan
    height_m: float
    speed_ms: float
    charge_percent: float
    shrink: float = 1.0
    home_ms: float | None = None
    throttle_percent: float | None = None


class Proposal(Struct, frozen=True, kw_only=True):
    """A change in words, what it makes of the setup, and the area that comes of it."""

    words: str
    setup: Setup
    area: Area


def body_for(setup: Setup) -> Body:
    """The body that flies a setup."""
    return body_of(
        setup.aircraft, setup.known, setup.plan.action, home_ms=setup.home_ms, throttle_percent=setup.throttle_percent
    )


def area_of(setup: Setup, *, points: int = POINTS, runs: int = RUNS) -> Iterator[float | Area]:
    """The area of a setup: how much is done (0 to 1), again and again, then the area. Source: ``area.colour``."""
    return colour(
        setup.site, setup.plan, body_for(setup), setup.air, ground_of(setup.site), points=points, runs=runs,
        height_m=setup.height_m, speed_ms=setup.speed_ms, charge_percent=setup.charge_percent, shrink=setup.shrink,
    )  # fmt: skip


def whole_area(setup: Setup, *, points: int = POINTS, runs: int = RUNS) -> Area:
    """As ``area_of``, without the progress."""
    return finished(area_of(setup, points=points, runs=runs))


def _moved(site: Site) -> Site | None:
    """The field with its launch point farther from the spectators, or None without a line."""
    if not site.spectator_line:
        return None
    _, at = planar_geometry.nearest([s.xy for s in site.spectator_line], site.launch.xy)
    gap = math.dist(at, site.launch.xy)
    if gap < 1:
        return None
    east = site.launch.east_m + MOVED_M * (site.launch.east_m - at[0]) / gap
    north = site.launch.north_m + MOVED_M * (site.launch.north_m - at[1]) / gap
    return site.model_copy(update={"launch": spot((east, north))})


def candidates(setup: Setup, lowest_rth_m: float) -> Iterable[tuple[str, Setup]]:
    """Changes worth trying, with their words; the lowest safe RTH altitude in m. Hovering counts only from what moves, and nothing under cover."""
    site, plan = setup.site, setup.plan
    for action in actions(setup.aircraft.kind, setup.aircraft.features()):
        if (
            action is plan.action
            or action is Action.HOLD
            or (action is Action.RETURN and site.launch_platform is not LaunchPlatform.LAND)
        ):
            continue
        altitude = max(plan.rth_altitude_m, lowest_rth_m) if action is Action.RETURN else plan.rth_altitude_m
        yield (
            f"Set the failsafe to: {action.value}",
            replace(setup, plan=replace(plan, action=action, rth_altitude_m=altitude)),
        )
    if plan.action is Action.RETURN and plan.rth_altitude_m < lowest_rth_m:
        yield (
            f"Set the RTH altitude to {lowest_rth_m:.0f} m",
            replace(setup, plan=replace(plan, rth_altitude_m=lowest_rth_m)),
        )
    yield f"Fly at half the height, {LOWER * setup.height_m:.0f} m", replace(setup, height_m=LOWER * setup.height_m)
    yield "Fly in the inner part of the flying area", replace(setup, shrink=SMALLER * setup.shrink)
    moved = _moved(site)
    if moved is not None:
        yield (
            f"Move the launch point {MOVED_M:.0f} m away from the spectators",
            replace(setup, site=moved, plan=replace(plan, home=moved.launch.xy)),
        )


def proposals(setup: Setup, lowest_rth_m: float, most: int = MOST) -> tuple[Proposal, ...]:
    """The changes that make the area safer, the best first; heights in m. Tried on fewer points than the area itself, all on the same.

    Source: ``area``; fewer points that ground first, then fewer that are not clear.
    """
    now = whole_area(setup, points=TRIED_POINTS, runs=TRIED_RUNS).badness
    found = []
    for words, changed in candidates(setup, lowest_rth_m):
        area = whole_area(changed, points=TRIED_POINTS, runs=TRIED_RUNS)
        better = now[0] - area.badness[0] >= LEAST_BETTER or (
            area.badness[0] <= now[0] and now[1] - area.badness[1] >= LEAST_BETTER
        )
        if better:
            found.append(Proposal(words=words, setup=changed, area=area))
    return tuple(sorted(found, key=lambda one: one.area.badness)[:most])
