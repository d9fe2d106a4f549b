"""Moving air for many flights at once: a mean wind that grows with height, gusts that come and go, a direction that is not exact."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.weather.atmosphere import REPORT_WIND_HEIGHT_M, SEA_LEVEL_DENSITY, WIND_EXPONENT
from walkround.core.weather.weather import Weather

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

GUST_S = 10.0
"""How long a gust lasts: time in s after which it is forgotten to a third. Source: from memory; our choice."""
PEAK = 2.5
"""A reported gust is so many standard deviations above the mean (no unit). Source: peak factor of 3 s gusts in ten minutes, 2.5 to 3; from memory."""
ACROSS = 0.75
"""Gusts across the wind over those along it (no unit). Source: tables of wind engineering, 0.75 to 0.8; from memory."""
DIRECTION_DEG = 15.0
"""Standard deviation of the direction at the field about the reported one, in degrees. Source: our choice."""


class Errors(Struct, frozen=True, kw_only=True):
    """How uncertain it all is, as standard deviations: gusts as a share of what the weather says, direction in degrees, place of the aircraft and home
    point in m along each axis, height in m, drag, sink and use as shares, bearing of the nose in degrees. All 0: one track."""

    gust: float = 1.0
    direction_deg: float = DIRECTION_DEG
    position_m: float = 3.0
    home_m: float = 2.5
    height_m: float = 2.0
    body: float = 0.15
    use: float = 0.12
    heading_deg: float = 10.0


EXACT = Errors(gust=0, direction_deg=0, position_m=0, home_m=0, height_m=0, body=0, use=0, heading_deg=0)
"""Nothing uncertain."""


class Air(Struct, frozen=True, kw_only=True):
    """The air over a field: mean wind in m/s at ``measured_m`` (m), the direction it comes from in degrees true (None: not known, any), the standard
    deviation of gusts along it in m/s, the exponent of its growth with height, density in kg/m³; ``known``: whether any wind is known."""

    wind_ms: float
    from_deg: float | None
    gust_ms: float
    measured_m: float = REPORT_WIND_HEIGHT_M
    exponent: float = 1 / 7
    density: float = SEA_LEVEL_DENSITY
    known: bool = True

    def mean_ms(self, height_m: Any) -> Any:
        """Mean wind in m/s at heights in m above ground, as an array. Source: ``atmosphere.wind_at_height_ms``."""
        above = np.maximum(height_m, self.measured_m) / self.measured_m
        return self.wind_ms * above**self.exponent


def air_of(weather: Weather | None, site: Site, density: float) -> Air:
    """The air over a field in a weather; still, and marked as not known, where no wind is known; still in a hall. Density in kg/m³.

    Without a reported gust the turbulence is as large a share of the wind as the exponent of the terrain. Source: turbulence intensity near the ground
    is about that exponent; from memory.
    """
    exponent = WIND_EXPONENT[site.terrain]
    if site.indoors or weather is None or weather.wind_ms is None:
        return Air(wind_ms=0.0, from_deg=0.0, gust_ms=0.0, exponent=exponent, density=density, known=site.indoors)
    strongest = weather.strongest_ms() or weather.wind_ms
    gust_ms = max((strongest - weather.wind_ms) / PEAK, weather.wind_ms * exponent)
    return Air(
        wind_ms=weather.wind_ms, from_deg=weather.steady_from_deg, gust_ms=gust_ms, measured_m=weather.wind_height_m,
        exponent=exponent, density=density,
    )  # fmt: skip


class Draws(Struct, frozen=True, kw_only=True):
    """What chance decides in n runs, as standard normal numbers (arrays of n; ``place`` and ``home``: n by 2; ``gusts``: steps by n by 2) and ``turn``, evenly from 0 to 1."""

    place: Any
    home: Any
    height: Any
    body: Any
    use: Any
    heading: Any
    direction: Any
    turn: Any
    gusts: Any

    @property
    def runs(self) -> int:
        """How many runs."""
        return len(self.height)


STEPS = 36
"""Steps of a way down. Source: our choice; halving them moves no landing by more than the tests say."""


def draws(runs: int, seed: int, *, gusty: bool = True) -> Draws:
    """Chance for so many runs; the same seed, the same chance. ``gusty``: gusts step by step too. Raises InputError for less than one run."""
    if runs < 1:
        raise InputError("At least one run is needed.")
    chance = np.random.default_rng(seed)
    one = chance.standard_normal((10, runs), dtype=np.float32).astype(float)
    return Draws(
        place=one[0:2].T, home=one[2:4].T, height=one[4], body=one[5], use=one[6], heading=one[7], direction=one[8],
        turn=chance.random(runs),
        gusts=chance.standard_normal((STEPS + 1, runs, 2), dtype=np.float32) if gusty else np.zeros((1, runs, 2), np.float32),
    )  # fmt: skip


def with_exact(chance: Draws) -> Draws:
    """The same chance with one run before it in which nothing is off: the track without errors, flown with the others."""
    return Draws(
        **{
            name: np.concatenate(
                [np.zeros_like(part[:, :1] if name == "gusts" else part[:1]), part], axis=1 if name == "gusts" else 0
            )
            for name in Draws.__struct_fields__
            for part in (getattr(chance, name),)
        }
    )


class Moving(Struct, frozen=True, kw_only=True):
    """The air of each of n runs: unit vectors towards which the mean wind blows and across it (n by 2), standard deviation of gusts in m/s."""

    air: Air
    along: Any
    across: Any
    gust_ms: float

    def mean(self, height_m: Any) -> Any:
        """Mean wind as vectors in m/s east and north (n by 2) at heights in m."""
        return self.air.mean_ms(height_m)[:, None] * self.along

    def gust(self, state: Any) -> Any:
        """Gusts as vectors in m/s from their state along and across (n by 2, standard deviations)."""
        return self.gust_ms * (state[:, :1] * self.along + ACROSS * state[:, 1:] * self.across)

    def by_axis(self) -> Callable[[Any, Any], Any]:
        """Mean wind and gust together, in m/s with a row for each axis (2 by n), from heights in m (n) and states (2 by n): the same as
        ``mean`` and ``gust``, laid out for what asks hundreds of times."""
        along, across = np.ascontiguousarray(self.along.T), np.ascontiguousarray(self.across.T)
        return lambda height_m, state: (
            (self.air.mean_ms(height_m) + self.gust_ms * state[0]) * along + (self.gust_ms * ACROSS * state[1]) * across
        )


def moving(air: Air, errors: Errors, chance: Draws) -> Moving:
    """The air of each run. An unknown direction is any. Source: vectors."""
    if air.from_deg is None:
        from_rad = 2 * np.pi * chance.turn
    else:
        from_rad = np.radians(air.from_deg + errors.direction_deg * chance.direction)
    along = -np.stack([np.sin(from_rad), np.cos(from_rad)], axis=1)
    return Moving(
        air=air, along=along, across=np.stack([along[:, 1], -along[:, 0]], axis=1), gust_ms=air.gust_ms * errors.gust
    )


def gust_states(chance: Draws, step_s: Any) -> Any:
    """States of gusts after each step of so many seconds (array of n): steps + 1 by n by 2, each of standard deviation 1, forgetting as ``GUST_S``.

    Source: Ornstein-Uhlenbeck process, exact update (textbook).
    """
    kept = np.exp(-np.asarray(step_s, dtype=float) / GUST_S)[:, None].astype(np.float32)
    fresh = np.sqrt(1 - kept * kept)
    states = np.empty_like(chance.gusts)
    states[0] = chance.gusts[0]
    for i in range(1, len(states)):
        states[i] = kept * states[i - 1] + fresh * chance.gusts[i]
    return states


def mean_gust_sigma(seconds: Any) -> Any:
    """Standard deviation of a gust averaged over so many seconds, as a share of that of the gust itself (0 to 1).

    Source: variance of the mean of an Ornstein-Uhlenbeck process (textbook).
    """
    x = np.maximum(np.asarray(seconds, dtype=float) / GUST_S, 1e-6)
    return np.sqrt(np.minimum(1.0, 2 * (x - 1 + np.exp(-x)) / (x * x)))
