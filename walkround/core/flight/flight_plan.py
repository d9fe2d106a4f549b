"""The plan of a flight against the pack: hover, out, work, back, reserve; when to turn back, what the timer is set to."""

import math
from typing import Annotated

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import percent
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.field.site import Site
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.power import times_hover, usual_cruise_ms
from walkround.core.flight.speed_home import LEAST_SHARE, gets_home, strongest_at_ms
from walkround.core.packs.bands import judge_use, used_share
from walkround.core.packs.charge import ChargeRange
from walkround.core.weather.atmosphere import wind_at_height_ms
from walkround.core.weather.weather import Weather

LANDING_MIN = 0.5
"""Coming down and landing, in minutes, kept for after the way home. Source: our choice; common practice, no source."""


class FlightPlan(Value):
    """What is planned: minutes hovering, the distance out in m, minutes of work out there, height in m above ground."""

    hover_min: Annotated[float, Allowed(ge=0, le=600)] = 0.0
    out_m: Annotated[float, Allowed(ge=0, le=20_000)] = 0.0
    work_min: Annotated[float, Allowed(ge=0, le=600)] = 0.0
    height_m: Annotated[float, Allowed(gt=0, le=500)] = 30.0

    @whole
    def goes_somewhere(self) -> "FlightPlan":
        """Refuse a plan without a minute in it."""
        if self.hover_min + self.work_min <= 0 and self.out_m <= 0:
            raise InputError("Enter at least one minute, or a distance.", "work_min")
        return self


class Leg(Struct, frozen=True, kw_only=True):
    """One leg: its name, minutes, speed over the ground in m/s (0: on the spot), share of a full pack in per cent."""

    name: str
    minutes: float
    ground_ms: float
    percent: float


class FlightNeeds(Struct, frozen=True, kw_only=True):
    """What a plan asks. Shares in per cent of a full pack; minutes; winds in m/s at the planned height.

    ``home``: whether the wind lets it come home; ``turn_back_percent``: charge at which it turns back at the far end; ``left``: what is left after landing as low, mid, high; ``used_of_charge``: what
    the plan takes of what the pack holds now.
    """

    legs: tuple[Leg, ...]
    planned_min: float
    planned_percent: float
    wind_ms: float
    strongest_ms: float
    cruise_ms: float
    home: bool
    turn_back_percent: float
    reserve_percent: float
    used_of_charge: float
    left: tuple[float, float, float]


def winds_at(weather: Weather | None, site: Site, height_m: float) -> tuple[float, float]:
    """Mean wind and strongest gust in m/s at a height in m above ground; 0 where no weather is known.

    Source: ``atmosphere.wind_at_height_ms``, ``getting_home.strongest_at_ms``.
    """
    mean_ms = 0.0
    if weather is not None and weather.wind_ms is not None:
        mean_ms = wind_at_height_ms(weather.wind_ms, weather.wind_height_m, height_m, site.terrain)
    return mean_ms, strongest_at_ms(weather, site, height_m)


def needs(
    plan: FlightPlan,
    aircraft: Aircraft,
    known: Endurance,
    charge: ChargeRange,
    *,
    wind_ms: float = 0.0,
    strongest_ms: float = 0.0,
    reserve_percent: float = 20.0,
) -> FlightNeeds:
    """What a plan takes of this pack: legs, shares, turn-back charge, timer. Winds in m/s at the height, reserve in %.

    Out is flown downwind and back against the wind: which way it will be is not known, and this is the way that bites.
    Back and turn-back are counted with the strongest wind. Forward flight takes its own power (momentum theory), scaled
    as this aircraft's own use says; a wing takes the same everywhere.
    Source: wind on the nose; ``power``; ``estimate``.
    """
    cruise_ms = usual_cruise_ms(aircraft)
    back_ms = cruise_ms
    if not gets_home(cruise_ms - strongest_ms, aircraft.top_speed_ms):
        back_ms = aircraft.top_speed_ms

    def share(minutes: float, airspeed_ms: float) -> float:
        return 100 * minutes * times_hover(aircraft, known.density, airspeed_ms) / known.today.mid

    home_ms = back_ms - strongest_ms
    home = gets_home(home_ms, aircraft.top_speed_ms)
    out_min = plan.out_m / (cruise_ms + wind_ms) / 60
    back_min = plan.out_m / max(home_ms, LEAST_SHARE * aircraft.top_speed_ms) / 60
    rows = [
        ("Hover", plan.hover_min, 0.0, 0.0),
        ("Out", out_min, cruise_ms, cruise_ms + wind_ms),
        ("Work", plan.work_min, 0.0, 0.0),
        ("Back", back_min, back_ms, home_ms),
    ]
    legs = [
        Leg(name=name, minutes=minutes, ground_ms=ground if minutes else 0.0, percent=share(minutes, air))
        for name, minutes, air, ground in rows
        if minutes > 0
    ]
    total = sum(leg.percent for leg in legs)
    minutes = sum(leg.minutes for leg in legs)
    back = share(back_min, back_ms) if plan.out_m else 0.0
    turn = min(100.0, reserve_percent + back + share(LANDING_MIN, 0.0))
    # The wider the range of today's minutes, the more the same plan may take.
    most, least = total * known.today.mid / known.today.low, total * known.today.mid / known.today.high
    return FlightNeeds(
        legs=tuple(legs),
        planned_min=minutes,
        planned_percent=total,
        wind_ms=wind_ms,
        strongest_ms=strongest_ms,
        cruise_ms=cruise_ms,
        home=home,
        turn_back_percent=math.ceil(turn),
        reserve_percent=reserve_percent,
        used_of_charge=used_share(total, charge.mid),
        left=(charge.low - most, charge.mid - total, charge.high - least),
    )


def judge_flight(asked: FlightNeeds, *, grounds_half: bool, holder: str = "this pack") -> tuple[Finding, ...]:
    """Judge a plan: planned use of what the pack holds (per cent), what is left against the reserve; ``holder``: what holds the energy, in words.

    Half the pack under the method *enough for the plan* grounds (``grounds_half``), else it is a caution. The wind on the way
    home has its own judge, ``getting_home``. Source: half the pack, common practice, no source; the reserve is the pilot's
    own limit.
    """
    return (judge_use(asked.used_of_charge, grounds=grounds_half, holder=holder), _reserve(asked))


def _reserve(asked: FlightNeeds) -> Finding:
    low, mid, _ = asked.left
    level = (
        Level.GROUNDED if mid < asked.reserve_percent else Level.CAUTION if low < asked.reserve_percent else Level.CLEAR
    )
    return measured(
        "Left at landing",
        percent(mid),
        percent(asked.reserve_percent),
        sense="min",
        level=level,
        span=100 - asked.reserve_percent,
        words={
            Level.CLEAR: "You would land with {value}, {low} at worst. Your reserve is {limit}.",
            Level.CAUTION: "You would land with {value}, but perhaps only {low}. Your reserve is {limit}.",
            Level.GROUNDED: "You would land with {value}. Your reserve is {limit}.",
        },
        remedy={
            Level.CAUTION: "Watch the charge rather than the timer, and turn back early.",
            Level.GROUNDED: "Plan a shorter flight, or use a fuller pack.",
        },
        source="the reserve is your own limit; flight time as calculated",
        low=percent(max(0.0, low)),
    )
