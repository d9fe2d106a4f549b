"""The wind as it is felt and seen on land: Beaufort's forces with their ranges."""

from walkround.core.base.errors import InputError
from walkround.core.base.phrase import Phrase, speed
from walkround.core.base.struct import Struct


class Force(Struct, frozen=True, kw_only=True):
    """One force: its number, what is seen on land, and its mean wind from least to most in m/s at 10 m."""

    number: int
    seen: str
    least_ms: float
    most_ms: float

    def words(self) -> Phrase:
        """What is seen and the wind it means, in m/s inside."""
        return Phrase.of(f"{self.seen}: {{least}} to {{most}}", least=speed(self.least_ms), most=speed(self.most_ms))


FORCES: tuple[Force, ...] = (
    Force(number=0, seen="Smoke rises straight up", least_ms=0.0, most_ms=0.2),
    Force(number=1, seen="Smoke drifts, wind vanes do not move", least_ms=0.3, most_ms=1.5),
    Force(number=2, seen="Felt on the face, leaves rustle", least_ms=1.6, most_ms=3.3),
    Force(number=3, seen="Leaves move constantly, a light flag extends", least_ms=3.4, most_ms=5.4),
    Force(number=4, seen="Dust and loose paper fly, small branches move", least_ms=5.5, most_ms=7.9),
    Force(number=5, seen="Small trees in leaf sway", least_ms=8.0, most_ms=10.7),
    Force(number=6, seen="Large branches move, wires whistle", least_ms=10.8, most_ms=13.8),
    Force(number=7, seen="Whole trees move, walking into it is hard", least_ms=13.9, most_ms=17.1),
    Force(number=8, seen="Twigs break off, or worse", least_ms=17.2, most_ms=20.7),
)
"""Forces 0 to 8 on land. Source: Beaufort scale of the WMO (No. 306, table 1100), from memory; the words are ours."""


def force(number: int) -> Force:
    """The force of that number, its range in m/s. Raises InputError outside 0 to 8. Source: ``FORCES``."""
    if not 0 <= number < len(FORCES):
        raise InputError("Choose the wind that you see.", "felt")
    return FORCES[number]
