"""The aircraft as a body without command: how it falls, how it glides, how it holds itself, what it uses."""

import math

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.struct import Struct
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.power import times_hover, usual_cruise_ms
from walkround.core.flight.return_to_home import climb_times
from walkround.core.weather.atmosphere import GRAVITY_MS2

FALL_AREA_SHARE = {Kind.MULTIROTOR: 0.35, Kind.HELICOPTER: 0.12, Kind.WING: 0.15}
"""Drag area of a tumbling aircraft over the square of its span (no unit). Source: our choice; a quad of 1.2 kg and 350 mm then ends at 21 m/s, and drop
tests of such quads found 18 to 22 m/s (from memory)."""
GLIDE_RATIO = {Frame.HIGH_WING: 8.0, Frame.LOW_WING: 7.0, Frame.FLYING_WING: 8.0}
GLIDER_RATIO, BRAKES_RATIO = 16.0, 4.0
"""Metres along for each metre down. Source: from memory; common practice, no source."""
BANK_DEG = 20.0
"""Bank of a gentle turn. Source: our choice."""
HALF_THROTTLE = 50.0
HELD_BIAS_DEG_S, GLIDE_BIAS_DEG_S = 0.05, 1.5
"""By how much an aircraft that nobody flies turns off line, as a standard deviation in degrees a second, held and gliding. Source: our choice."""


class Body(Struct, frozen=True, kw_only=True):
    """An aircraft as a body: mass in kg, drag area of its fall in m², airspeed and sink of its glide in m/s, its turn in degrees a second (0: straight),
    whether it holds its place against the wind, its airspeed on the way home, usual and against a strong wind, in m/s, and what it uses in per cent of a full pack a minute: hovering, climbing, home
    and fast. ``hold_min``: minutes that a full pack lasts with the throttle held, 0 without a motor."""

    mass_kg: float
    fall_area_m2: float
    glide_ms: float
    sink_ms: float
    turn_deg_s: float
    bias_deg_s: float
    holds: bool
    home_ms: float
    fast_ms: float
    hover_rate: float
    home_rate: float
    fast_rate: float
    climb_rate: float
    hold_min: float


def glide_ratio(aircraft: Aircraft, action: Action) -> float:
    """Metres along for each metre down. Source: ``GLIDE_RATIO``."""
    if action is Action.BRAKES:
        return BRAKES_RATIO
    return GLIDER_RATIO if aircraft.has(Trait.GLIDER) else GLIDE_RATIO.get(aircraft.frame, 7.0)


def glide_ms(aircraft: Aircraft) -> float:
    """Airspeed of the glide in m/s: its cruise as described, else under half of its top speed. Source: our choice."""
    return aircraft.cruise_ms or 0.45 * aircraft.top_speed_ms


def hold_minutes(aircraft: Aircraft, known: Endurance, throttle_percent: float | None) -> float:
    """Minutes that a full pack lasts at a held throttle in per cent (None: half), from what it lasts as it is usually flown, taken as half throttle.

    Source: power goes as the cube of the revolutions, those as the root of the throttle's voltage share to the current: taken as the power 1.5; our choice.
    """
    if aircraft.has(Trait.NO_MOTOR):
        return 0.0
    throttle = max(10.0, HALF_THROTTLE if throttle_percent is None else throttle_percent)
    return known.today.high * float((HALF_THROTTLE / throttle) ** 1.5)


def body_of(
    aircraft: Aircraft,
    known: Endurance,
    action: Action,
    *,
    home_ms: float | None = None,
    throttle_percent: float | None = None,
) -> Body:
    """The body of an aircraft for an action; ``home_ms``: the airspeed set for the way home in m/s, None: the usual. Source: each number above."""
    ratio, air_ms = glide_ratio(aircraft, action), glide_ms(aircraft)
    turn, bias = 0.0, GLIDE_BIAS_DEG_S
    if action in (Action.CIRCLE, Action.LOITER):
        bank = math.radians(BANK_DEG)
        turn, bias = math.degrees(GRAVITY_MS2 * math.tan(bank) / air_ms), 0.0
        ratio *= math.cos(bank)
    if action is Action.HOLD:
        bias = HELD_BIAS_DEG_S
    way_ms = min(aircraft.top_speed_ms, home_ms or usual_cruise_ms(aircraft))
    fast_ms = way_ms if home_ms else aircraft.top_speed_ms
    minute = 100 / known.today.mid
    return Body(
        mass_kg=aircraft.mass_g / 1000,
        fall_area_m2=FALL_AREA_SHARE[aircraft.kind] * (aircraft.span_mm / 1000) ** 2,
        glide_ms=air_ms,
        sink_ms=air_ms / math.hypot(1.0, ratio),
        turn_deg_s=turn,
        bias_deg_s=bias,
        holds=aircraft.has(Trait.SATNAV) and aircraft.has(Trait.FLIGHT_CONTROLLER),
        home_ms=way_ms,
        fast_ms=fast_ms,
        hover_rate=minute,
        home_rate=minute * times_hover(aircraft, known.density, way_ms),
        fast_rate=minute * times_hover(aircraft, known.density, fast_ms),
        climb_rate=minute * climb_times(aircraft, known.density),
        hold_min=hold_minutes(aircraft, known, throttle_percent),
    )
