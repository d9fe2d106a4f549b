"""What the volts do in flight: sag under load, cold packs, and where to set the alarm."""

import math
from functools import lru_cache

from walkround.core.base.struct import Struct
from walkround.core.packs.chemistry import CELLS, Chemistry, resting_v
from walkround.core.packs.pack import Pack

USUAL_MOHM_AH = {
    Chemistry.LIPO: 15.0,
    Chemistry.LIHV: 15.0,
    Chemistry.LIION: 60.0,
    Chemistry.LIFE: 25.0,
    Chemistry.NIMH: 30.0,
    Chemistry.UNKNOWN: 60.0,
}
"""Internal resistance of one cell in mΩ times its capacity in Ah, where none was measured. Source: from memory."""
WARM_C = 25.0
"""Temperature at which resistances are compared. Source: common practice, no source."""
COLD_GROWTH_PER_K = 0.03
"""Resistance grows by this share for each kelvin below ``WARM_C``: twice at freezing. Source: from memory."""
FULL_THROTTLE = 2.0**1.5
"""Power at full throttle over hover power: twice the thrust, and power goes as thrust to 3/2. Source: momentum theory;
twice the weight is common practice, no source."""
ALARM_STEP_V = 0.05

_USABLE = ((-45.0, 0.10), (-20.0, 0.50), (-10.0, 0.70), (0.0, 0.85), (10.0, 0.94), (20.0, 1.0), (45.0, 1.05))


@lru_cache(maxsize=1024)
def resistance_factor(temperature_c: float) -> float:
    """Resistance at a pack temperature in °C over that at 25 °C, 0.55 at least.

    Source: ``COLD_GROWTH_PER_K``, from memory.
    """
    return max(0.55, math.exp(COLD_GROWTH_PER_K * (WARM_C - temperature_c)))


def usable_share(temperature_c: float) -> float:
    """Share of its capacity that a pack gives at its temperature in °C: 1 at 20 °C, 0.85 at freezing.

    It never falls with warmth, so that a colder pack never promises more. Source: from memory; common practice.
    """
    if temperature_c <= _USABLE[0][0]:
        return _USABLE[0][1]
    for (low_c, low), (high_c, high) in zip(_USABLE, _USABLE[1:], strict=False):
        if temperature_c <= high_c:
            return low + (high - low) * (temperature_c - low_c) / (high_c - low_c)
    return _USABLE[-1][1]


def cell_mohm(pack: Pack, measured_mohm: float | None, temperature_c: float) -> float:
    """Resistance of one cell in mΩ at a temperature in °C, from a reading at 25 °C or from the pack's size.

    Source: ``USUAL_MOHM_AH`` where nothing was measured, from memory.
    """
    at_warm = measured_mohm or USUAL_MOHM_AH[pack.chemistry] / (pack.capacity_mah / 1000)
    return at_warm * resistance_factor(temperature_c)


def loaded_v(rest_v: float, cell_mohm_: float, cell_w: float) -> float:
    """Voltage in V of one cell giving ``cell_w`` watts, resting at ``rest_v`` V with a resistance in mΩ.

    Solves ``V = V0 - R P / V``; where no voltage gives that much power, the voltage of most power (half). Source: Ohm.
    """
    inside = rest_v * rest_v - 4 * cell_mohm_ / 1000 * cell_w
    return rest_v / 2 if inside <= 0 else (rest_v + math.sqrt(inside)) / 2


class UnderLoad(Struct, frozen=True, kw_only=True):
    """Volts of one cell at hover (or cruise) and at full throttle; what is needed before the load and where to warn.

    ``charge_percent``: for this charge. ``warm_to_c``: temperature the pack needs, None: as warm as it is it will do.
    ``alarm_v``: proposed low-voltage alarm a cell. ``measured``: whether the resistance was read on this pack.
    ``full_a``: current at full throttle; ``rated_a``: what its discharge rating allows, None where that is not known.
    """

    charge_percent: float
    temperature_c: float
    cell_mohm: float
    hover_v: float
    full_v: float
    floor_v: float
    warm_to_c: float | None
    alarm_v: float
    measured: bool
    full_a: float
    rated_a: float | None

    @property
    def over_rated(self) -> bool:
        """Whether full throttle draws more than the discharge rating allows."""
        return self.rated_a is not None and self.full_a > self.rated_a


def under_load(
    pack: Pack,
    *,
    power_w: float,
    charge_percent: float,
    temperature_c: float,
    measured_mohm: float | None = None,
    reserve_percent: float = 20.0,
) -> UnderLoad:
    """What one cell shows at hover and full throttle: power in W, charge in per cent, pack temperature in °C.

    The alarm is what a hovering cell shows when the reserve (per cent) begins, to the lower 0.05 V, never below the
    chemistry's load floor. Source: resting curves and resistances from memory, Ohm; the floor 3.3 V from memory.
    """
    kind = CELLS[pack.chemistry]
    cell_w = power_w / pack.cells

    def at(charge: float, share: float, warm_c: float) -> float:
        return loaded_v(resting_v(charge, pack.chemistry), cell_mohm(pack, measured_mohm, warm_c), cell_w * share)

    warm_to = None
    if at(charge_percent, FULL_THROTTLE, temperature_c) < kind.load_floor_v:
        degrees = range(math.ceil(temperature_c), 41)
        warm_to = next((float(c) for c in degrees if at(charge_percent, FULL_THROTTLE, c) >= kind.load_floor_v), 40.0)
    if temperature_c < 10:
        warm_to = max(warm_to or 0.0, 15.0)
    alarm = math.floor(at(reserve_percent, 1.0, max(temperature_c, 10.0)) / ALARM_STEP_V + 1e-6) * ALARM_STEP_V
    return UnderLoad(
        charge_percent=charge_percent,
        temperature_c=temperature_c,
        cell_mohm=cell_mohm(pack, measured_mohm, temperature_c),
        hover_v=at(charge_percent, 1.0, temperature_c),
        full_v=at(charge_percent, FULL_THROTTLE, temperature_c),
        floor_v=kind.load_floor_v,
        warm_to_c=warm_to,
        alarm_v=round(max(alarm, kind.load_floor_v), 2),
        measured=measured_mohm is not None,
        full_a=cell_w * FULL_THROTTLE / at(charge_percent, FULL_THROTTLE, temperature_c),
        rated_a=pack.c_rate * pack.capacity_mah / 1000 if pack.c_rate else None,
    )
