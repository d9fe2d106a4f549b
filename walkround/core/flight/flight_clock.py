"""The clock of a flight: when to turn back, when to land, where the reserve begins; and the same anew from a charge read in the air.

Counted on the side that bites: from the low end of what the pack may hold, with the dearest use that today's minutes allow. The wind takes its
share of the work, never of the way home: in a stronger wind nothing comes later.
"""

import math
from collections.abc import Callable
from typing import Literal

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.flight_plan import LANDING_MIN, FlightPlan
from walkround.core.flight.power import times_hover, usual_cruise_ms
from walkround.core.flight.speed_home import LEAST_SHARE
from walkround.core.packs.charge import ChargeRange, from_percent

STEPS = 40
LANDING_SHARE = 1 / 3
"""At most so much of a short flight is the landing (no unit). Source: our choice."""
LEAST_USED_PERCENT = 10.0
"""A reading after less use says little about the rate. Source: our choice."""
READ_MARGIN = 1.1
"""How much dearer the rest may be than what was used so far (no unit). Source: our choice."""


class FlightClock(Struct, frozen=True, kw_only=True):
    """Seconds after take-off: turn back, land, the charge may be at the reserve, it may be empty; and the likely charge at the turn in per
    cent. ``limit``: what sets the landing: the plan, the charge, or other gear that runs out first."""

    turn_s: float
    land_s: float
    reserve_s: float
    empty_s: float
    turn_percent: float
    limit: Literal["plan", "charge", "gear"]

    def turning_by(self, turn_s: float, limit: Literal["charge", "gear"]) -> "FlightClock":
        """The same, turning back at a second after take-off at the latest; what it lands earlier by, it turns earlier by."""
        earlier = self.turn_s - max(0.0, turn_s)
        if earlier <= 0:
            return self
        return replace(self, turn_s=self.turn_s - earlier, land_s=self.land_s - earlier, limit=limit)

    @property
    def timer_min(self) -> float:
        """The minutes to set on a timer: until the landing, to the half minute below."""
        minutes = self.land_s / 60
        return math.floor(2 * minutes + 1e-3) / 2 if minutes >= 1 else minutes


class ChargeRead(Struct, frozen=True, kw_only=True):
    """A charge read in the air: seconds after take-off, and per cent."""

    at_s: float
    percent: float


def latest_turn_s(known: Endurance, charge: ChargeRange, turn_percent: float) -> float:
    """The latest second after take-off at which a charge in per cent is still there, used as dearly as today's minutes allow; 0 where it never was.

    Source: the low end of the charge, of ``known.today`` too.
    """
    return max(0.0, (charge.low - turn_percent) * known.today.low / 100 * 60)


class _Legs(Struct, frozen=True, kw_only=True):
    """Minutes and shares in per cent: hovering, out, a minute of work, back from the far end."""

    hover_min: float
    out_min: float
    back_min: float
    hover: float
    out: float
    back: float
    rate: float

    def way_back(self, turn_min: float) -> float:
        """How much of the way back there is at a turn (0 to 1)."""
        if not self.back_min:
            return 0.0
        return min(1.0, max(0.0, turn_min - self.hover_min) / self.out_min) if self.out_min else 1.0

    def used(self, turn_min: float) -> float:
        """Per cent used until a turn."""
        if turn_min <= self.hover_min:
            return self.rate * turn_min
        return (
            self.hover
            + self.out * self.way_back(turn_min)
            + self.rate * max(0.0, turn_min - self.hover_min - self.out_min)
        )


def _legs(plan: FlightPlan, aircraft: Aircraft, known: Endurance, wind_ms: float, strongest_ms: float) -> _Legs:
    """The legs with the way home at a speed that keeps the cruise over the ground while the aircraft can.

    Source: wind on the nose; ``power``.
    """
    top_ms, cruise_ms = aircraft.top_speed_ms, usual_cruise_ms(aircraft)
    air_ms = min(top_ms, cruise_ms + strongest_ms)
    home_ms = max(air_ms - strongest_ms, LEAST_SHARE * top_ms)

    def share(minutes: float, airspeed_ms: float) -> float:
        return 100 * minutes * times_hover(aircraft, known.density, airspeed_ms) / known.today.mid

    out_min = plan.out_m / (cruise_ms + wind_ms) / 60
    back_min = plan.out_m / home_ms / 60
    # Never cheaper than the same way at any weaker wind: some aircraft use least a little above their cruise.
    dearest = max(share(1.0, cruise_ms), share(1.0, air_ms))
    return _Legs(
        hover_min=plan.hover_min, out_min=out_min, back_min=back_min,
        hover=share(plan.hover_min, 0.0), out=share(out_min, cruise_ms), back=back_min * dearest, rate=share(1.0, 0.0),
    )  # fmt: skip


def _latest(most_min: float, least_min: float, fits: Callable[[float], bool]) -> float:
    """The latest turn in minutes between two that still fits; ``least_min`` where none does."""
    if fits(most_min):
        return most_min
    low, high = least_min, most_min
    for _ in range(STEPS):
        mid = (low + high) / 2
        low, high = (mid, high) if fits(mid) else (low, mid)
    return low


def _clock(
    legs: _Legs, charge: ChargeRange, stretch: float, reserve: float, still_min: float, most_turn_min: float
) -> FlightClock:
    landing = min(LANDING_MIN, still_min * LANDING_SHARE)

    def land_at(turn_min: float) -> float:
        return turn_min + legs.way_back(turn_min) * legs.back_min + landing

    def spent(turn_min: float) -> float:
        return stretch * (legs.used(turn_min) + legs.way_back(turn_min) * legs.back + legs.rate * landing)

    in_plan = _latest(most_turn_min, 0.0, lambda turn: land_at(turn) <= still_min + 1e-9)
    turn = _latest(in_plan, 0.0, lambda turn: charge.low - spent(turn) >= reserve)
    return _told(
        legs,
        charge.mid - legs.used(turn),
        charge.low - spent(turn),
        turn,
        land_at(turn),
        stretch,
        reserve,
        turn < in_plan,
    )


def _told(
    legs: _Legs,
    turn_percent: float,
    left: float,
    turn_min: float,
    land_min: float,
    stretch: float,
    reserve: float,
    by_charge: bool,
) -> FlightClock:
    minute = stretch * legs.rate
    return FlightClock(
        turn_s=60 * turn_min,
        land_s=60 * land_min,
        reserve_s=60 * (land_min + max(0.0, left - reserve) / minute),
        empty_s=60 * (land_min + max(0.0, left) / minute),
        turn_percent=max(0.0, turn_percent),
        limit="charge" if by_charge else "plan",
    )


def flight_clock(
    plan: FlightPlan,
    aircraft: Aircraft,
    known: Endurance,
    charge: ChargeRange,
    *,
    wind_ms: float = 0.0,
    strongest_ms: float = 0.0,
    reserve_percent: float = 20.0,
    read: ChargeRead | None = None,
) -> FlightClock:
    """The clock of a planned flight with what the pack holds at take-off, winds in m/s at the height, reserve in per cent.

    ``read``: a charge read in the air: what was used until then sets the rate of the rest, and the plan is never made longer by it.
    Raises InputError for a reading before take-off. Source: wind on the nose; ``power``.
    """
    stretch = known.today.mid / known.today.low
    planned_min = plan.hover_min + 2 * plan.out_m / usual_cruise_ms(aircraft) / 60 + plan.work_min
    longest = 1e6
    calm = _clock(_legs(plan, aircraft, known, 0.0, 0.0), charge, stretch, reserve_percent, planned_min, longest)
    legs = _legs(plan, aircraft, known, wind_ms, strongest_ms)
    before = _clock(legs, charge, stretch, reserve_percent, min(planned_min, calm.land_s / 60), longest)
    before = replace(before, limit="charge" if "charge" in (calm.limit, before.limit) else "plan")
    return before if read is None else _from_reading(before, legs, charge, stretch, reserve_percent, planned_min, read)


def _from_reading(
    before: FlightClock,
    legs: _Legs,
    charge: ChargeRange,
    stretch: float,
    reserve: float,
    planned_min: float,
    read: ChargeRead,
) -> FlightClock:
    """The rest of the flight from a reading, the aircraft wherever the plan has it."""
    if read.at_s < 0:
        raise InputError("A charge in the air is read after take-off.", "percent")
    held, flown = from_percent(read.percent), read.at_s / 60
    guessed = legs.used(flown)
    used = charge.mid - held.mid
    rate = READ_MARGIN * max(used, 0.0) / guessed if guessed and used >= LEAST_USED_PERCENT else stretch
    rate = max(rate, READ_MARGIN)
    landing = min(LANDING_MIN, planned_min * LANDING_SHARE)

    def spent(turn_min: float) -> float:
        rest = max(0.0, legs.used(turn_min) - guessed)
        return rate * (rest + legs.way_back(turn_min) * legs.back + legs.rate * landing)

    most = max(flown, before.turn_s / 60)
    turn = _latest(most, flown, lambda turn: held.low - spent(turn) >= reserve)
    land = turn + legs.way_back(turn) * legs.back_min + landing
    likely = held.mid - max(0.0, legs.used(turn) - guessed)
    return _told(
        legs, likely, held.low - spent(turn), turn, land, rate, reserve, turn < most or before.limit == "charge"
    )
