"""Measures, the pilot's units, and the words for a number.

Inside everything is SI (plus percent, degrees and counts, which need no conversion). Numbers are turned into the
pilot's units only when they are shown, and back only when they are typed.
"""

import math
from enum import StrEnum
from typing import Literal

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.value import KeptStruct, Value

KNOT_MS = 1852 / 3600
"""One knot in m/s. Source: SI Brochure, 9th edition, table 8: nautical mile 1852 m exactly."""
MPH_MS = 1609.344 / 3600
"""One mile an hour in m/s. Source: international yard and pound agreement of 1959: mile 1609.344 m exactly."""
KMH_MS = 1000 / 3600
"""One kilometre an hour in m/s. Source: definition."""
FOOT_M = 0.3048
"""One foot in m. Source: international yard and pound agreement of 1959, exact."""
MILE_M = 1609.344
"""One statute mile in m. Source: international yard and pound agreement of 1959, exact."""


class Measure(StrEnum):
    """What kind of number it is; decides conversion, decimals and the unit shown."""

    SPEED = "speed"  # m/s, wind and ground speed
    HEIGHT = "height"  # m, heights and short distances
    DISTANCE = "distance"  # m, shown in km or miles
    TEMPERATURE = "temperature"  # degrees Celsius
    TEMPERATURE_STEP = "temperature step"  # difference of two temperatures, kelvin
    VOLT = "volt"
    PERCENT = "percent"
    SECOND = "second"
    MINUTE = "minute"
    DEGREE = "degree"
    COUNT = "count"
    RATIO = "ratio"
    PRESSURE = "pressure"  # hPa
    MILLIMETRE = "millimetre"
    GIGABYTE = "gigabyte"
    DAY = "day"
    SIGNAL = "signal"  # dBm
    SIGNAL_STEP = "signal step"  # difference of two signals, dB


STEPS = {Measure.TEMPERATURE: Measure.TEMPERATURE_STEP, Measure.SIGNAL: Measure.SIGNAL_STEP}
"""What a difference of two is, where it is shown otherwise than the values themselves."""


class Units(Value):
    """The pilot's choice of units."""

    speed: Literal["m/s", "kt", "mph", "km/h"] = "m/s"
    height: Literal["m", "ft"] = "m"
    temperature: Literal["°C", "°F"] = "°C"


_SPEED = {"m/s": 1.0, "kt": KNOT_MS, "mph": MPH_MS, "km/h": KMH_MS}
_FIXED: dict[Measure, tuple[str, int]] = {
    Measure.VOLT: ("V", 2),
    Measure.PERCENT: ("%", 0),
    Measure.SECOND: ("s", 0),
    Measure.MINUTE: ("min", 1),
    Measure.DEGREE: ("°", 0),
    Measure.COUNT: ("", 0),
    Measure.RATIO: ("", 2),
    Measure.PRESSURE: ("hPa", 0),
    Measure.MILLIMETRE: ("mm", 0),
    Measure.GIGABYTE: ("GB", 1),
    Measure.DAY: ("days", 0),
    Measure.SIGNAL: ("dBm", 0),
    Measure.SIGNAL_STEP: ("dB", 0),
}


def unit_of(measure: Measure, units: Units) -> str:
    """The unit in which this measure is shown and typed."""
    if measure is Measure.SPEED:
        return units.speed
    if measure is Measure.HEIGHT:
        return units.height
    if measure is Measure.DISTANCE:
        return "km" if units.height == "m" else "mi"
    if measure in (Measure.TEMPERATURE, Measure.TEMPERATURE_STEP):
        return units.temperature
    return _FIXED[measure][0]


LONG_MIN = 30.0
"""From so many minutes on, tenths are not said. Source: common practice, no source."""


def decimals_of(measure: Measure, units: Units) -> int:
    """How many decimals are honest for this measure in these units. Source: common practice, no source."""
    if measure is Measure.SPEED:
        return 1 if units.speed == "m/s" else 0
    if measure is Measure.HEIGHT:
        return 0
    if measure is Measure.DISTANCE:
        return 1
    if measure in (Measure.TEMPERATURE, Measure.TEMPERATURE_STEP):
        return 0
    return _FIXED[measure][1]


def to_pilot(value: float, measure: Measure, units: Units) -> float:
    """Convert an inside value (SI) to the pilot's unit.

    Source: exact definitions named beside the constants; Fahrenheit = 1.8 Celsius + 32.
    """
    if measure is Measure.SPEED:
        return value / _SPEED[units.speed]
    if measure is Measure.HEIGHT:
        return value if units.height == "m" else value / FOOT_M
    if measure is Measure.DISTANCE:
        return value / 1000 if units.height == "m" else value / MILE_M
    if measure is Measure.TEMPERATURE:
        return value if units.temperature == "°C" else value * 1.8 + 32
    if measure is Measure.TEMPERATURE_STEP:
        return value if units.temperature == "°C" else value * 1.8
    return value


def from_pilot(value: float, measure: Measure, units: Units) -> float:
    """Convert a value typed in the pilot's unit to the inside (SI) value; the inverse of ``to_pilot``.

    Source: as ``to_pilot``.
    """
    if measure is Measure.SPEED:
        return value * _SPEED[units.speed]
    if measure is Measure.HEIGHT:
        return value if units.height == "m" else value * FOOT_M
    if measure is Measure.DISTANCE:
        return value * 1000 if units.height == "m" else value * MILE_M
    if measure is Measure.TEMPERATURE:
        return value if units.temperature == "°C" else (value - 32) / 1.8
    if measure is Measure.TEMPERATURE_STEP:
        return value if units.temperature == "°C" else value / 1.8
    return value


class Quantity(KeptStruct, frozen=True, kw_only=True):
    """A number with its measure, in inside units."""

    value: float
    measure: Measure

    def say(self, units: Units) -> str:
        """The number in the pilot's unit, with its unit: "6.7 m/s", "22 mph", "143°". Below 10 m half metres count."""
        shown = to_pilot(self.value, self.measure, units)
        long = self.measure is Measure.MINUTE and abs(shown) >= LONG_MIN
        number = f"{shown:.{0 if long else decimals_of(self.measure, units)}f}"
        if self.measure is Measure.HEIGHT and units.height == "m" and abs(shown) < 10:
            number = f"{shown:.1f}".removesuffix(".0")
        if float(number) == 0:
            number = number.lstrip("-")
        unit = unit_of(self.measure, units)
        if not unit:
            return number
        if unit == "days" and number == "1":
            unit = "day"
        if unit.startswith("°"):
            return number + ("\u202f" + unit if len(unit) > 1 else unit)
        return f"{number}\u202f{unit}"


_NUMBER = pattern(r"^[+-]?(\d+([.,]\d*)?|[.,]\d+)$")


def parse_number(text: str, label: str, field: str = "") -> float:
    """Read a typed number; a decimal comma counts as a point.

    Raises InputError when the text is empty, no number, or too long to be one.
    Source: common practice, no source.
    """
    cleaned = text.strip().replace("\u2212", "-").replace("\u202f", "").replace("\u00a0", "")
    if not cleaned:
        raise InputError(f"{label} is empty. Type a number.", field)
    if len(cleaned) > 20 or not _NUMBER.match(cleaned):
        shown = cleaned if len(cleaned) <= 20 else cleaned[:17] + "..."
        raise InputError(f"{label}: “{shown}” is not a number. Use digits with a point or comma.", field)
    value = float(cleaned.replace(",", "."))
    if not math.isfinite(value):
        raise InputError(f"{label}: “{cleaned}” is not a number.", field)
    return value


_INSIDE: dict[Measure, dict[str, float]] = {
    Measure.SPEED: {
        "m/s": 1.0, "ms": 1.0, "mps": 1.0, "kt": KNOT_MS, "kts": KNOT_MS, "kn": KNOT_MS, "knots": KNOT_MS, "mph": MPH_MS,
        "km/h": KMH_MS, "kmh": KMH_MS, "kph": KMH_MS,
    },
    Measure.HEIGHT: {"m": 1.0, "ft": FOOT_M, "feet": FOOT_M, "km": 1000.0, "mi": MILE_M, "sm": MILE_M, "cm": 0.01, "yd": 0.9144},
    Measure.VOLT: {"v": 1.0, "mv": 0.001},
    Measure.PERCENT: {"%": 1.0, "percent": 1.0},
    Measure.SECOND: {"s": 1.0, "sec": 1.0, "min": 60.0},
    Measure.MINUTE: {"min": 1.0, "minutes": 1.0, "h": 60.0, "s": 1 / 60, "sec": 1 / 60},
    Measure.DEGREE: {"°": 1.0, "deg": 1.0},
    Measure.PRESSURE: {"hpa": 1.0, "mbar": 1.0, "mb": 1.0, "inhg": 33.8639},
    Measure.MILLIMETRE: {"mm": 1.0, "cm": 10.0, "in": 25.4, "m": 1000.0},
    Measure.GIGABYTE: {"gb": 1.0, "mb": 0.001, "tb": 1000.0},
    Measure.DAY: {"d": 1.0, "day": 1.0, "days": 1.0},
}  # fmt: skip
_INSIDE[Measure.DISTANCE] = _INSIDE[Measure.HEIGHT]
"""What one of each unit is in the inside unit of its measure. Source: definitions; inch of mercury at 0 °C, from memory."""
_WITH_UNIT = pattern(r"^([+\-\u2212]?[\d.,]+)[\s\u202f\u00a0]*([^\d\s.,+-].{0,15})$")


def parse_quantity(text: str, label: str, measure: Measure, units: Units, field: str = "") -> float:
    """Read a number in inside units from what was typed: in the pilot's unit, or with a unit of its own, which is converted.

    Raises InputError when it is not a number, and when the unit is not one of the measure; then the right one is offered.
    Source: ``_INSIDE``; Fahrenheit = 1.8 Celsius + 32.
    """
    match = _WITH_UNIT.match(text.strip())
    if match is None:
        return from_pilot(parse_number(text, label, field), measure, units)
    number, unit = parse_number(match[1], label, field), match[2].strip().rstrip(".").lower()
    if measure in (Measure.TEMPERATURE, Measure.TEMPERATURE_STEP):
        if unit.lstrip("°") == "c":
            return number
        if unit.lstrip("°") == "f":
            return (number - 32) / 1.8 if measure is Measure.TEMPERATURE else number / 1.8
    elif unit in _INSIDE.get(measure, {}):
        return number * _INSIDE[measure][unit]
    right = unit_of(measure, units)
    tell = f"give it in {right}" if right else "give the number alone"
    offer = {field: f"{match[1]} {right}".strip()} if field else {}
    raise InputError(f"{label}: “{text.strip()[:20]}” has a unit that does not fit; {tell}.", field, offer)
