"""Sentences whose numbers follow the pilot's units.

A rule says ``Phrase.of("Gust {value} is over your limit of {limit}.", value=..., limit=...)``; the page that shows
it fills the numbers in. So a frozen record keeps inside units, and every page follows the settings of today.
"""

from walkround.core.base.units import Measure, Quantity, Units
from walkround.core.base.value import KeptStruct


class Phrase(KeptStruct, frozen=True, kw_only=True):
    """A sentence with named quantities in braces."""

    text: str
    numbers: dict[str, Quantity] = {}

    @classmethod
    def of(cls, text: str, **numbers: Quantity) -> "Phrase":
        """A sentence from its text and its quantities."""
        return cls(text=text, numbers=numbers)

    def say(self, units: Units) -> str:
        """The sentence in the pilot's units."""
        words = self.text
        for name, quantity in self.numbers.items():
            words = words.replace("{" + name + "}", quantity.say(units))
        return words


def speed(value_ms: float) -> Quantity:
    """A speed in m/s."""
    return Quantity(value=value_ms, measure=Measure.SPEED)


def height(value_m: float) -> Quantity:
    """A height or short distance in m."""
    return Quantity(value=value_m, measure=Measure.HEIGHT)


def distance(value_m: float) -> Quantity:
    """A long distance in m, shown in km or miles."""
    return Quantity(value=value_m, measure=Measure.DISTANCE)


def temperature(value_c: float) -> Quantity:
    """A temperature in degrees Celsius."""
    return Quantity(value=value_c, measure=Measure.TEMPERATURE)


def volt(value_v: float) -> Quantity:
    """A voltage in V."""
    return Quantity(value=value_v, measure=Measure.VOLT)


def percent(value: float) -> Quantity:
    """A share in per cent."""
    return Quantity(value=value, measure=Measure.PERCENT)


def count(value: float) -> Quantity:
    """A number of things."""
    return Quantity(value=value, measure=Measure.COUNT)


def degree(value_deg: float) -> Quantity:
    """An angle in degrees."""
    return Quantity(value=value_deg, measure=Measure.DEGREE)


def minute(value_min: float) -> Quantity:
    """A time in minutes."""
    return Quantity(value=value_min, measure=Measure.MINUTE)


def ratio(value: float) -> Quantity:
    """A number without unit, two decimals."""
    return Quantity(value=value, measure=Measure.RATIO)


def second(value_s: float) -> Quantity:
    """A time in seconds."""
    return Quantity(value=value_s, measure=Measure.SECOND)


def day(value: float) -> Quantity:
    """A number of days."""
    return Quantity(value=value, measure=Measure.DAY)
