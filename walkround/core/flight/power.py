"""Power that rotors take: hover and forward flight by momentum theory, as a range over what is not known."""

import math
from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.rotors import propeller_radius_mm
from walkround.core.aircraft.traits import Frame, Kind
from walkround.core.base.struct import Struct
from walkround.core.weather.atmosphere import GRAVITY_MS2, SEA_LEVEL_DENSITY

FIGURE_OF_MERIT = {
    Kind.MULTIROTOR: (0.50, 0.60, 0.70),
    Kind.HELICOPTER: (0.25, 0.35, 0.50),
}
"""Ideal power over true power of a small rotor in hover: low, usual, high (no unit). Source: from memory; small
propellers lie between 0.4 and 0.75, model helicopters turn faster than hovering wants and are worse."""
DRIVE = (0.70, 0.78, 0.85)
"""Shaft power over electric power of motor and controller: low, usual, high (no unit). Source: from memory."""
COAXIAL_LOSS = 1.28
"""Two rotors of a coaxial pair need this much more induced power than apart (no unit).
Source: Leishman, Principles of Helicopter Aerodynamics, section on coaxial rotors: lower rotor in the developed wake
of the upper; from memory."""
TOP_TILT_DEG = 35.0
"""Lean at top speed, from which the drag area follows. Source: common practice, no source."""
BOARD_W_PER_KG = 4.0
"""What flight board, link and camera take, in W for each kg. Source: our choice; common practice, no source."""


class Estimate(Struct, frozen=True, kw_only=True):
    """A range: low, likeliest, high, in one unit."""

    low: float
    mid: float
    high: float

    def times(self, factor: float) -> "Estimate":
        """Every number times a factor (> 0)."""
        return Estimate(low=self.low * factor, mid=self.mid * factor, high=self.high * factor)


def disc_area_m2(aircraft: Aircraft) -> float | None:
    """Area of all rotor discs together in m², a coaxial pair counted twice; None for a wing.

    From the propeller's diameter where it is known, else the usual one for the frame. Source: circle area.
    """
    if aircraft.kind is Kind.WING:
        return None
    if aircraft.kind is Kind.HELICOPTER:
        return aircraft.rotors * math.pi * (aircraft.span_mm / 2000) ** 2
    return aircraft.rotors * math.pi * (propeller_radius_mm(aircraft) / 1000) ** 2


def ideal_hover_w(thrust_n: float, area_m2: float, density: float = SEA_LEVEL_DENSITY) -> float:
    """Ideal power in W to hover: ``T**1.5 / sqrt(2 rho A)``, thrust in N, disc area in m², density in kg/m³.

    Source: momentum theory; Leishman, Principles of Helicopter Aerodynamics, chapter 2 (from memory).
    """
    return float(thrust_n**1.5) / math.sqrt(2 * density * area_m2)


def induced_ms(thrust_n: float, area_m2: float, density: float, speed_ms: float, tilt_rad: float) -> float:
    """Induced velocity in m/s at an airspeed in m/s, the disc tilted forward by ``tilt_rad`` (radians, a unit of 1).

    Solves ``v = vh² / sqrt((V cos a)² + (V sin a + v)²)`` by Newton's method. Source: Glauert's momentum theory in forward
    flight; Leishman, chapter 2 (from memory).
    """
    hover_squared = thrust_n / (2 * density * area_m2)
    velocity = math.sqrt(hover_squared)  # in hover the whole answer, in forward flight from above
    if speed_ms == 0:
        return velocity
    along, through = speed_ms * math.cos(tilt_rad), speed_ms * math.sin(tilt_rad)
    for _ in range(STEPS):
        flow = math.hypot(along, through + velocity)
        over = velocity * flow - hover_squared
        step = over / (flow + velocity * (through + velocity) / flow)
        velocity -= step
        if abs(step) <= 1e-13 * velocity:
            break
    return velocity


STEPS = 60
"""Newton's steps at most; from above on a rising convex curve every step comes nearer, and six are enough as a rule."""


def drag_area_m2(aircraft: Aircraft) -> float:
    """Drag area in m² of a rotor aircraft: at its top speed the drag leans it by 35°.

    Source: ``D = W tan 35°`` in standard air; the angle common practice, no source.
    """
    weight_n = aircraft.mass_g / 1000 * GRAVITY_MS2
    return 2 * weight_n * math.tan(math.radians(TOP_TILT_DEG)) / (SEA_LEVEL_DENSITY * aircraft.top_speed_ms**2)


def rotor_power_w(aircraft: Aircraft, density: float, speed_ms: float = 0.0) -> Estimate | None:
    """Electric power in W of a rotor aircraft at an airspeed in m/s (0: hover), as a range; None for a wing.

    Induced power, drag times speed, the profile power that the figure of merit leaves in hover, the loss of coaxial
    pairs, drive and board. Density in kg/m³. Source: Leishman, chapters 2 and 5 (from memory); factors above.
    """
    area_m2 = disc_area_m2(aircraft)
    if area_m2 is None:
        return None
    paired = aircraft.frame in (Frame.Y_COAXIAL, Frame.X_COAXIAL, Frame.COAXIAL_ROTOR)
    return _power_w(aircraft.kind, aircraft.mass_g, area_m2, drag_area_m2(aircraft), paired, density, speed_ms)


@lru_cache(maxsize=8192)
def _power_w(
    kind: Kind, mass_g: float, area_m2: float, dragging_m2: float, paired: bool, density: float, speed_ms: float
) -> Estimate:
    weight_n = mass_g / 1000 * GRAVITY_MS2
    drag_n = 0.5 * density * dragging_m2 * speed_ms**2
    thrust_n = math.hypot(weight_n, drag_n)
    loss = COAXIAL_LOSS if paired else 1.0
    induced_w = loss * thrust_n * induced_ms(thrust_n, area_m2, density, speed_ms, math.atan2(drag_n, weight_n))
    hover_w = loss * ideal_hover_w(thrust_n, area_m2, density)

    def electric(merit: float, drive: float) -> float:
        shaft_w = induced_w + drag_n * speed_ms + (1 / merit - 1) * hover_w
        return shaft_w / drive + BOARD_W_PER_KG * mass_g / 1000

    # Both unknowns at their end at once is rare: halfway to it on each side.
    low, mid, high = (electric(m, d) for m, d in zip(FIGURE_OF_MERIT[kind], DRIVE, strict=True))
    return Estimate(low=(mid + high) / 2, mid=mid, high=(mid + low) / 2)


def times_hover(aircraft: Aircraft, density: float, airspeed_ms: float) -> float:
    """Power at an airspeed in m/s as a multiple of hover; a wing takes the same everywhere. Density in kg/m³.

    Source: ``rotor_power_w``.
    """
    hover, there = rotor_power_w(aircraft, density), rotor_power_w(aircraft, density, airspeed_ms)
    return 1.0 if hover is None or there is None else there.mid / hover.mid


def usual_cruise_ms(aircraft: Aircraft) -> float:
    """Cruise airspeed in m/s: as described, else half the top speed. Source: our choice; common practice, no source."""
    return aircraft.cruise_ms or aircraft.top_speed_ms / 2
