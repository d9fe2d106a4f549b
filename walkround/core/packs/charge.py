"""How full a pack is: a range, wider when it was not rested, when it is cold, and on the flat middle of the curve."""

import math
from datetime import datetime
from functools import lru_cache

from walkround.core.base.errors import InputError
from walkround.core.base.value import KeptStruct
from walkround.core.packs.chemistry import CELLS, Chemistry, charge_percent
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import LIGHTS, After, CellReading, Reading

CHECKER_V = 0.01
"""What a cell checker may be off, in V. Source: common practice, no source."""
MAKE_V = {
    Chemistry.LIPO: 0.035,
    Chemistry.LIHV: 0.035,
    Chemistry.LIION: 0.05,
    Chemistry.LIFE: 0.03,
    Chemistry.NIMH: 0.03,
    Chemistry.UNKNOWN: 0.05,
}
"""How far resting curves of one chemistry differ from make to make, in V. Source: differences between published cell
parameter sets (see the tests), rounded up; nickel from memory."""
POINTS = 5.0
"""What a chart is off at best, in points of per cent. Source: our choice; common practice, no source."""
UNRESTED_V = 0.05
"""How far a cell is from its resting voltage just after work, in V. Source: from memory; common practice, no source."""
REST_MIN = 20.0
"""Minutes in which two thirds of that are gone. Source: from memory; common practice, no source."""
RESTED_MIN = 60.0
"""From here on a pack counts as rested. Source: common practice, no source."""
COLD_C = 10.0
"""Below it a pack settles slowly and the chart says less. Source: common practice, no source."""
SELF_LOSS_PERCENT_A_DAY = {Chemistry.NIMH: 1.0}
"""What a pack loses by itself, in points a day; lithium 0.1. Source: from memory; common practice, no source."""


class ChargeRange(KeptStruct, frozen=True, kw_only=True):
    """State of charge in per cent: what it is at least, most likely, and at most, and why the range is wide."""

    low: float
    mid: float
    high: float
    why: tuple[str, ...] = ()

    @property
    def width(self) -> float:
        """High less low, in points."""
        return self.high - self.low


FULL = ChargeRange(low=95, mid=100, high=100)
"""What a pack holds of which nothing else is known than that it was charged. Source: our choice."""


def from_lights(lights: int, of: int = LIGHTS) -> ChargeRange:
    """The range that a count of lit lights or bars stands for, in per cent: an equal share each; four of four is 75 to 100.

    Raises InputError for another count. Source: lights are a range, not a point; common practice, no source.
    """
    if not 0 <= lights <= of:
        raise InputError(f"A gauge has 0 to {of} LEDs. You entered {lights}.", "lights")
    step = 100 / of
    low, high = max(0.0, (lights - 1) * step), lights * step
    high = high or step / 2
    return ChargeRange(low=low, mid=(low + high) / 2, high=high, why=("LEDs show a range, not a value.",))


@lru_cache(maxsize=8192)
def from_volts(
    mean_v: float,
    chemistry: Chemistry,
    *,
    after: After = After.REST,
    since_min: float | None = None,
    temperature_c: float | None = None,
) -> ChargeRange:
    """State of charge in per cent from the mean cell voltage (V).

    A pack read soon after a flight shows less than it holds, one just charged shows more: the range grows to that side.
    ``since_min`` None: not known how rested; taken as half rested after work, as rested otherwise. Cold (°C) widens by
    half. Source: ``CELLS`` curves from memory; widths ``MAKE_V``, ``CHECKER_V``, ``UNRESTED_V``, ``POINTS``.
    """
    wide_v = CHECKER_V + MAKE_V[chemistry]
    why: list[str] = []
    kind = CELLS[chemistry]
    # Nickel and iron-phosphate move less; their unrest scales with how far apart full and empty rest.
    scale = (kind.full_v - kind.bench_v) / (CELLS[Chemistry.LIPO].full_v - CELLS[Chemistry.LIPO].bench_v)
    unrest_v = 0.0
    if after is not After.REST:
        gone = REST_MIN * 0.7 if since_min is None else since_min
        unrest_v = 0.0 if gone >= RESTED_MIN else UNRESTED_V * scale * math.exp(-gone / REST_MIN)
        if unrest_v and since_min is None:
            why.append("The rest time is not known.")
        elif unrest_v:
            word = "flown" if after is After.FLIGHT else "charged"
            why.append(f"Read {since_min:.0f} minutes after it was {word}: the pack has not rested.")
    if temperature_c is not None and temperature_c < COLD_C:
        wide_v *= 1.5
        why.append("Cold pack: voltage takes longer to settle.")
    down_v = wide_v + (unrest_v if after is After.CHARGE else 0.0)
    up_v = wide_v + (unrest_v if after is After.FLIGHT else 0.0)
    mid = charge_percent(mean_v, chemistry)
    low = max(0.0, charge_percent(mean_v - down_v, chemistry) - POINTS)
    high = min(100.0, charge_percent(mean_v + up_v, chemistry) + POINTS)
    if high - low > 40:
        why.append("The voltage curve is flat here, so this is only a rough estimate.")
    return ChargeRange(low=low, mid=mid, high=high, why=tuple(why))


def from_percent(shown: float) -> ChargeRange:
    """The range behind the per cent (0 to 100) a smart pack shows: its gauge counts, within five points.

    Source: our choice; common practice, no source.
    """
    return ChargeRange(low=max(0.0, shown - POINTS), mid=shown, high=min(100.0, shown + POINTS))


def from_reading(reading: Reading, pack: Pack) -> ChargeRange | None:
    """State of charge in per cent as a reading says it: per cent first, then volts, then lights; None without any.

    Source: ``from_percent``, ``from_volts``, ``from_lights``.
    """
    if reading.percent is not None:
        return from_percent(reading.percent)
    mean_v = reading.mean_v(pack)
    if mean_v is not None:
        return from_volts(
            mean_v,
            pack.chemistry,
            after=reading.after,
            since_min=reading.since_min,
            temperature_c=reading.temperature_c,
        )
    return None if reading.lights is None else from_lights(reading.lights)


def from_cells(reading: CellReading, pack: Pack) -> ChargeRange:
    """State of charge in per cent from cells read at rest in a round. Source: as ``from_volts``."""
    return from_volts(reading.mean_v(pack.cells), pack.chemistry)


def lost_percent(known_at: datetime, now: datetime, chemistry: Chemistry) -> float:
    """What standing from ``known_at`` to ``now`` (aware times) takes from a charge, in points of per cent; never below 0.

    Source: self-discharge from memory; common practice, no source.
    """
    return max(0.0, (now - known_at).total_seconds() / 86_400) * SELF_LOSS_PERCENT_A_DAY.get(chemistry, 0.1)


def standing(known: ChargeRange, known_at: datetime, now: datetime, chemistry: Chemistry) -> ChargeRange:
    """What is left of a charge (per cent) after standing from ``known_at`` to ``now`` (aware times).

    The lower end falls by twice what the chemistry loses a day, the middle by once, the upper end stays.
    Source: ``lost_percent``.
    """
    lost = lost_percent(known_at, now, chemistry)
    low, mid = max(0.0, known.low - 2 * lost), max(0.0, known.mid - lost)
    return ChargeRange(low=low, mid=mid, high=known.high, why=known.why)
