"""Ways down without command: falling with drag, gliding straight or in a turn, drifting; many runs at once in moving air.

A path is an array of points by n runs by 3: east, north, height above launch, in m.
"""

from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.lost_link.air import STEPS, Draws, Moving, gust_states
from walkround.core.weather.atmosphere import GRAVITY_MS2, SEA_LEVEL_DENSITY

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

FALL_SLACK = 1.6
"""So many times the fall in still air is stepped: forward speed and gusts make drag, and it falls longer (no unit). Source: our choice."""


def terminal_ms(mass_kg: float, area_m2: Any, density: float = SEA_LEVEL_DENSITY) -> Any:
    """The speed in m/s at which drag carries a falling body (kg, drag area in m², density in kg/m³). Source: ``m g = rho A v² / 2``."""
    return np.sqrt(2 * mass_kg * GRAVITY_MS2 / (density * area_m2))


def fall_s(height_m: Any, terminal: Any) -> Any:
    """Seconds of a fall from rest with quadratic drag. Source: ``h = vt²/g ln cosh(g t / vt)``, closed form (textbook)."""
    return terminal / GRAVITY_MS2 * np.arccosh(np.exp(np.minimum(GRAVITY_MS2 * height_m / terminal**2, 300.0)))


def fall_ms(height_m: Any, terminal: Any) -> Any:
    """Speed in m/s after a fall from rest with quadratic drag. Source: ``v = vt sqrt(1 - exp(-2 g h / vt²))``, closed form (textbook)."""
    return terminal * np.sqrt(-np.expm1(-2 * GRAVITY_MS2 * height_m / terminal**2))


class Down(Struct, frozen=True, kw_only=True):
    """A way down: its path (points by n by 3, m), seconds of it (n), speed over the ground at the end in m/s (n)."""

    path: Any
    seconds: Any
    end_ms: Any


def _landed(path: Any, times: Any, speeds: Any) -> Down:
    """The path up to the ground: what comes after the crossing stays there."""
    below = path[:, :, 2] <= 0
    below[-1] = True
    first = np.maximum(below.argmax(axis=0), 1)
    runs = np.arange(path.shape[1])
    before, after = path[first - 1, runs], path[first, runs]
    drop = before[:, 2] - after[:, 2]
    share = np.where(drop > 1e-9, before[:, 2] / np.where(drop > 1e-9, drop, 1.0), 1.0)
    at = before + share[:, None] * (after - before)
    at[:, 2] = 0.0
    ended = np.arange(len(path))[:, None] >= first
    clipped = np.where(ended[:, :, None], at, path)
    seconds = times[first - 1, runs] + share * (times[first, runs] - times[first - 1, runs])
    ends = speeds[first - 1, runs] + share * (speeds[first, runs] - speeds[first - 1, runs])
    return Down(path=clipped, seconds=seconds, end_ms=ends)


BRAKING_STEPS, BRAKING_PARTS = 5, 4
"""The first steps of a fall, while drag brakes it hardest, are taken in so many parts. Source: against scipy's integrator."""


def fall(start: Any, velocity: Any, mass_kg: float, area_m2: Any, wind: Moving, chance: Draws) -> Down:
    """A fall with drag from places (n by 3, m) with velocities over the ground (n by 3, m/s): drag areas in m² (n). Runge-Kutta's fourth order.

    Raises InputError for a body without mass or area. Source: ``a = -g - rho A |u| u / (2 m)``, u against the air; physics.
    """
    if mass_kg <= 0 or np.any(np.asarray(area_m2) <= 0):
        raise InputError("A falling body needs a mass and an area.")
    density = wind.air.density
    pull = density * area_m2 / (2 * mass_kg)
    limit = terminal_ms(mass_kg, area_m2, density)
    rising_s = np.maximum(velocity[:, 2], 0) / GRAVITY_MS2
    height = np.maximum(start[:, 2], 0.01)
    step = (FALL_SLACK * fall_s(height, limit) + 2 * rising_s) / STEPS
    # A row for each axis: what is worked out for all runs at once lies side by side, at twice the speed.
    states = np.ascontiguousarray(gust_states(chance, step).transpose(0, 2, 1), dtype=float)
    place, moves = start.T.astype(float), velocity.T.astype(float)
    blows = wind.by_axis()
    path, times, speeds = [place], [np.zeros(len(start))], [_size(moves)]

    def pulled(at: Any, speed: Any, state: Any) -> Any:
        against = speed.copy()
        against[:2] -= blows(at[2], state)
        against *= -pull * _size(against)
        against[2] -= GRAVITY_MS2
        return against

    for i in range(STEPS):
        parts = BRAKING_PARTS if i < BRAKING_STEPS else 1
        dt, change = step / parts, (states[i + 1] - states[i]) / parts
        half = dt / 2
        for part in range(parts):
            begin = states[i] + part * change
            middle = begin + change / 2
            one = pulled(place, moves, begin)
            two = pulled(place + half * moves, moves + half * one, middle)
            three = pulled(place + half * (moves + half * one), moves + half * two, middle)
            four = pulled(place + dt * (moves + half * two), moves + dt * three, begin + change)
            inner = two + three
            place = place + dt * (moves + dt / 6 * (one + inner))
            moves = moves + dt / 6 * (one + 2 * inner + four)
        path.append(place)
        times.append(times[-1] + step)
        speeds.append(_size(moves))
    return _landed(np.stack(path).transpose(0, 2, 1), np.stack(times), np.stack(speeds))


def _size(vectors: Any) -> Any:
    """The size of vectors of which each axis is a row."""
    return np.sqrt(vectors[0] * vectors[0] + vectors[1] * vectors[1] + vectors[2] * vectors[2])


def glide(
    start: Any,
    heading_deg: Any,
    air_ms: Any,
    sink_ms: Any,
    turn_deg_s: Any,
    wind: Moving,
    chance: Draws,
    *,
    seconds: Any | None = None,
) -> Down:
    """A glide from places (n by 3, m) with headings in degrees true, airspeed and sink in m/s, turning in degrees a second; each arrays of n.

    ``seconds``: so long it flies, at its height where it does not sink, instead of down to the ground. Source: arcs in moving air; vectors.
    """
    sink = np.broadcast_to(np.asarray(sink_ms, dtype=float), (len(start),))
    level = np.sqrt(np.maximum(np.square(air_ms) - sink**2, 0.0))
    lasts = (
        np.maximum(start[:, 2], 0.01) / np.maximum(sink, 1e-9) if seconds is None else np.asarray(seconds, dtype=float)
    )
    step = lasts / STEPS
    states = gust_states(chance, step)
    turned = np.radians(turn_deg_s) * step
    # The chord of an arc is shorter than the arc.
    chord = np.where(np.abs(turned) > 1e-6, np.sin(turned / 2) / np.where(np.abs(turned) > 1e-6, turned / 2, 1.0), 1.0)
    heading = np.radians(heading_deg)
    place = start.astype(float).copy()
    path, times, speeds = [place], [np.zeros(len(place))], []
    for i in range(STEPS):
        mid = heading + turned / 2
        own = level * chord
        drift = wind.mean(np.maximum(place[:, 2] - sink * step / 2, 0.0)) + wind.gust((states[i] + states[i + 1]) / 2)
        moved = np.empty_like(place)
        moved[:, 0] = (own * np.sin(mid) + drift[:, 0]) * step
        moved[:, 1] = (own * np.cos(mid) + drift[:, 1]) * step
        moved[:, 2] = -sink * step
        place = place + moved
        heading = heading + turned
        path.append(place)
        times.append(times[-1] + step)
        now = np.stack([level * np.sin(heading) + drift[:, 0], level * np.cos(heading) + drift[:, 1], sink], axis=1)
        speeds.append(np.linalg.norm(now, axis=1))
    speeds.insert(0, speeds[0])
    if seconds is not None:
        return Down(path=np.stack(path), seconds=lasts, end_ms=speeds[-1])
    return _landed(np.stack(path), np.stack(times), np.stack(speeds))


def drift(start: Any, sink_ms: Any, wind: Moving, chance: Draws, *, seconds: Any | None = None) -> Down:
    """Coming down, or staying at its height for so many seconds, with the wind: an aircraft that does not hold its place. Sink in m/s."""
    still = np.zeros(len(start))
    return glide(start, still, sink_ms, sink_ms, still, wind, chance, seconds=seconds)


def straight(start: Any, end: Any) -> Any:
    """A path of two points (2 by n by 3)."""
    return np.stack([start, end])


def energy_j(mass_kg: float, speed_ms: Any) -> Any:
    """Energy of motion in J of a mass in kg at speeds in m/s. Source: ``m v² / 2``."""
    return 0.5 * mass_kg * np.square(speed_ms)


def harm_j() -> float:
    """The number of J at the ground above which it is called heavy, without unit. Source: Regulation (EU) 2019/945, class C1: below 80 J; from memory."""
    return 80.0
