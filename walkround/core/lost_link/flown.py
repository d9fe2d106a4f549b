"""The failsafe flown from a place: what it does after the delay, many times at once; where, when and with what charge it comes down."""

from typing import TYPE_CHECKING, Any, Literal

from walkround.core.aircraft.failsafe import Action, Climb
from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.flight.return_to_home import CLIMB_MS, DESCENT_MS
from walkround.core.flight.speed_home import LEAST_SHARE
from walkround.core.lost_link.air import Air, Draws, Errors, Moving, mean_gust_sigma, moving
from walkround.core.lost_link.bodies import Body
from walkround.core.lost_link.ways_down import Down, drift, fall, fall_ms, glide, straight, terminal_ms

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

USUAL_DELAY_S = 1.5
"""From the loss of the signal to the action, where the setting is not known, in s. Source: common practice, no source."""
LAND_MS = 0.5
"""How fast it touches down by itself in m/s. Source: our choice; common practice, no source."""
EMPTY = 1e-6


class Lost(Struct, frozen=True, kw_only=True):
    """Where it is when the signal is lost, arrays of n or one number for all: m east and north, m above launch, speed in m/s over the ground, heading
    in degrees true; the charge in per cent of a full pack."""

    east_m: Any
    north_m: Any
    height_m: Any
    speed_ms: Any = 0.0
    heading_deg: Any = 0.0
    charge_percent: Any = 60.0


class Plan(Struct, frozen=True, kw_only=True):
    """What the failsafe is set to: the action, its delay in s, RTH altitude in m above launch, and where home is (m east and north);
    ``landing_m``: standard deviation of its landings along each axis in m."""

    action: Action
    home: tuple[float, float]
    delay_s: float = USUAL_DELAY_S
    rth_altitude_m: float = 30.0
    climb: Climb = Climb.FIRST
    landing_m: float = 1.5


Ending = Literal["home", "down", "empty", "away"]


class Flown(Struct, frozen=True, kw_only=True):
    """n runs: path (points by n by 3, m), seconds from the loss to the ground, charge in per cent then, speed at the ground in m/s, and whether each came
    home (n of bool), ran out of charge on the way, or could not make headway."""

    path: Any
    seconds: Any
    charge_percent: Any
    end_ms: Any
    home: Any
    empty: Any
    away: Any

    @property
    def landings(self) -> Any:
        """Where they come down, n by 2, m east and north."""
        return self.path[-1, :, :2]


def _array(value: Any, runs: int) -> Any:
    return np.broadcast_to(np.asarray(value, dtype=float), (runs,))


def fly(lost: Lost, plan: Plan, body: Body, air: Air, errors: Errors, chance: Draws) -> Flown:
    """Fly the failsafe of ``plan`` from where the signal is lost, once for each run of ``chance``. Raises InputError for a height below the ground or a
    delay below 0. Source: ``ways_down``, wind triangle, use as the aircraft's own."""
    n = chance.runs
    heights = _array(lost.height_m, n)
    if plan.delay_s < 0:
        raise InputError("A delay cannot be negative.", "delay")
    if np.any(heights < 0) or not np.all(np.isfinite(heights)):
        raise InputError("The height must be above the ground.", "height")
    wind = moving(air, errors, chance)
    heading = np.radians(_array(lost.heading_deg, n) + errors.heading_deg * chance.heading)
    speed = _array(lost.speed_ms, n)
    velocity = np.stack([speed * np.sin(heading), speed * np.cos(heading), np.zeros(n)], axis=1)
    start = np.empty((n, 3))
    start[:, 0] = _array(lost.east_m, n) + errors.position_m * chance.place[:, 0]
    start[:, 1] = _array(lost.north_m, n) + errors.position_m * chance.place[:, 1]
    start[:, 2] = np.maximum(heights + errors.height_m * chance.height, 0.5)
    use = np.exp(errors.use * chance.use)
    charge = _array(lost.charge_percent, n) - body.hover_rate * use * plan.delay_s / 60
    after = start + velocity * plan.delay_s
    case = _Case(after=after, velocity=velocity, heading=np.degrees(heading), charge=charge, use=use, wind=wind)
    if plan.action is Action.RETURN:
        ended = _return(case, plan, body, errors, chance)
    elif plan.action in (Action.HOVER, Action.LAND):
        ended = _stay(case, plan, body, chance)
    elif plan.action is Action.STOP:
        ended = _drop(case, body, errors, chance)
    elif plan.action is Action.LOITER:
        ended = _loiter(case, body, errors, chance)
    elif plan.action is Action.HOLD:
        ended = _hold(case, body, errors, chance)
    else:
        ended = _of_glide(case, body, errors, chance)
    return Flown(
        path=np.concatenate([start[None], ended.path]), seconds=plan.delay_s + ended.seconds,
        charge_percent=np.maximum(ended.charge_percent, 0.0), end_ms=ended.end_ms, home=ended.home, empty=ended.empty, away=ended.away,
    )  # fmt: skip


class _Case(Struct, frozen=True, kw_only=True):
    """Each run when the failsafe begins."""

    after: Any
    velocity: Any
    heading: Any
    charge: Any
    use: Any
    wind: Moving


def _ended(down: Down, charge: Any, *, before: Any = None, before_s: Any = 0.0, empty: Any = None) -> Flown:
    no = np.zeros(len(down.seconds), dtype=bool)
    path = down.path if before is None else np.concatenate([before, down.path])
    return Flown(
        path=path, seconds=before_s + down.seconds, charge_percent=charge, end_ms=down.end_ms,
        home=no, empty=no if empty is None else empty, away=no,
    )  # fmt: skip


def _drop(case: _Case, body: Body, errors: Errors, chance: Draws) -> Flown:
    area = body.fall_area_m2 * np.exp(errors.body * chance.body)
    return _ended(fall(case.after, case.velocity, body.mass_kg, area, case.wind, chance), case.charge)


def _of_glide(case: _Case, body: Body, errors: Errors, chance: Draws) -> Flown:
    sink = body.sink_ms * np.exp(errors.body * chance.body)
    bias = body.bias_deg_s * chance.heading * (errors.heading_deg > 0)
    down = glide(case.after, case.heading, body.glide_ms, sink, body.turn_deg_s + bias, case.wind, chance)
    return _ended(down, case.charge)


def _stay(case: _Case, plan: Plan, body: Body, chance: Draws) -> Flown:
    """Hovering until the pack is empty, or coming down at once; in its place where it holds it, with the wind where not."""
    rate = body.hover_rate * case.use / 60
    hover_s = np.zeros(len(case.after))
    path, place = None, case.after
    if plan.action is Action.HOVER:
        down_s = case.after[:, 2] / DESCENT_MS
        hover_s = np.maximum(np.maximum(case.charge, 0) / rate - down_s, 0.0)
        if not body.holds:
            held = drift(place, np.zeros(len(place)), case.wind, chance, seconds=hover_s)
            path, place = held.path, held.path[-1]
    if body.holds:
        end = place.copy()
        end[:, 2] = 0
        down = Down(path=straight(place, end), seconds=place[:, 2] / DESCENT_MS, end_ms=np.full(len(place), LAND_MS))
    else:
        down = drift(place, np.full(len(place), DESCENT_MS), case.wind, chance)
    left = case.charge - rate * (hover_s + down.seconds)
    return _ended(down, left, before=path, before_s=hover_s, empty=left <= EMPTY)


def _hold(case: _Case, body: Body, errors: Errors, chance: Draws) -> Flown:
    """Flying on as the controls were, until the charge is gone; then down: gliding, or falling where there is no wing."""
    seconds = 60 * body.hold_min * np.maximum(case.charge, 0) / 100 / case.use
    bias = body.bias_deg_s * chance.heading * (errors.heading_deg > 0)
    none = np.zeros(len(case.after))
    on = glide(case.after, case.heading, body.home_ms, none, bias, case.wind, chance, seconds=seconds)
    end = on.path[-1]
    heading = case.heading + bias * seconds
    down = glide(end, heading, body.glide_ms, body.sink_ms * np.exp(errors.body * chance.body), bias, case.wind, chance)
    return _ended(down, none, before=on.path, before_s=seconds, empty=np.ones(len(none), dtype=bool))


def _loiter(case: _Case, body: Body, errors: Errors, chance: Draws) -> Flown:
    """Circling over the place until the charge is gone, then gliding down in the same turn."""
    seconds = 60 * np.maximum(case.charge, 0) / (body.hover_rate * case.use)
    heading = case.heading + body.turn_deg_s * seconds
    down = glide(
        case.after,
        heading,
        body.glide_ms,
        body.sink_ms * np.exp(errors.body * chance.body),
        body.turn_deg_s,
        case.wind,
        chance,
    )
    none = np.zeros(len(seconds))
    return _ended(down, none, before_s=seconds, empty=np.ones(len(none), dtype=bool))


def _return(case: _Case, plan: Plan, body: Body, errors: Errors, chance: Draws) -> Flown:
    """Climbing to the RTH altitude (never down to it), flying home through the wind, coming down there; on the ground on the way where the charge ends."""
    start, rate = case.after, case.use / 60
    n = len(start)
    home = np.asarray(plan.home) + np.hypot(errors.home_m, plan.landing_m if errors.home_m else 0.0) * chance.home
    top = np.maximum(start[:, 2], plan.rth_altitude_m)
    climb_s = (top - start[:, 2]) / CLIMB_MS
    way = home - start[:, :2]
    distance = np.hypot(way[:, 0], way[:, 1])
    course = way / np.maximum(distance, 1e-9)[:, None]
    roughly_s = distance / body.home_ms
    averaged = mean_gust_sigma(roughly_s)[:, None]
    blows = case.wind.mean(top) + averaged * case.wind.gust(chance.gusts[0])
    along = np.einsum("ij,ij->i", blows, course)
    across = blows[:, 0] * course[:, 1] - blows[:, 1] * course[:, 0]
    least = LEAST_SHARE * body.fast_ms

    def over_ground(air_ms: float) -> Any:
        made = np.sqrt(np.maximum(air_ms**2 - across**2, 0.0)) + along
        return np.where(np.abs(across) >= air_ms, -1.0, made)

    slow = over_ground(body.home_ms)
    fast = (slow < least) & (body.fast_ms > body.home_ms)
    ground = np.where(fast, over_ground(body.fast_ms), slow)
    home_ms, home_rate = np.where(fast, body.fast_ms, body.home_ms), np.where(fast, body.fast_rate, body.home_rate)
    comes = (ground > 0.05) | (distance < 1.0)
    back_s = np.where(comes, distance / np.maximum(ground, 0.05), 0.0)
    if plan.climb is Climb.ON_THE_WAY:
        back_s = np.maximum(back_s, climb_s)
        climbing = np.zeros(n)
    else:
        climbing = climb_s
    down_s = top / DESCENT_MS
    needs = np.stack([body.climb_rate * climbing, home_rate * back_s, body.hover_rate * down_s]) * rate
    have = np.maximum(case.charge, 0.0)
    # How far it comes of each part with the charge it has.
    rest, shares = have, []
    for need in needs:
        shares.append(np.where(need > 0, np.clip(rest / np.maximum(need, 1e-9), 0, 1), 1.0))
        rest = np.maximum(rest - need, 0.0)
    away = ~comes
    over = start.copy()
    over[:, 2] = start[:, 2] + shares[0] * (top - start[:, 2]) if plan.climb is Climb.FIRST else start[:, 2]
    over_home = np.concatenate([home, top[:, None]], axis=1)
    part = np.where(away, 0.0, shares[1])[:, None]
    there = over + part * (over_home - over)
    # No headway: it is carried off until the charge ends.
    carried_s = np.where(away, np.maximum(have - needs[0], 0.0) / (home_rate * rate), 0.0)
    drifted = (course * home_ms[:, None] + blows) * carried_s[:, None]
    there[:, :2] += np.where(away[:, None], drifted, 0.0)
    end = there.copy()
    end[:, 2] = 0.0
    empty = away | (shares[1] < 1) | (shares[0] < 1)
    seconds = shares[0] * climbing + np.where(away, carried_s, shares[1] * back_s) + there[:, 2] / DESCENT_MS
    path = np.stack([start, over, there, end])
    limit = terminal_ms(body.mass_kg, body.fall_area_m2, case.wind.air.density)
    hits = fall_ms(np.maximum(there[:, 2], 0.01), limit)
    return Flown(
        path=path, seconds=seconds, charge_percent=np.where(empty, 0.0, rest), end_ms=np.where(empty, hits, LAND_MS),
        home=~empty, empty=empty, away=empty,
    )  # fmt: skip
