"""What the light of an aircraft shows while its compass is calibrated: entered once, said by the coach, and never guessed from a maker's name."""

from enum import StrEnum
from typing import Annotated

from walkround.core.base.value import Allowed, Value


class Shows(StrEnum):
    """What a light can tell."""

    TURN_LEVEL = "turn it level"
    TURN_ON = "turn it the next way"
    DONE = "done"
    FAILED = "failed"


class Colour(StrEnum):
    """Colours of a light."""

    GREEN = "green"
    RED = "red"
    AMBER = "amber"
    BLUE = "blue"
    WHITE = "white"
    PURPLE = "purple"


class Blink(StrEnum):
    """How it shines."""

    STEADY = "steady"
    SLOW = "blinking slowly"
    FAST = "blinking fast"
    TURNS = "with another colour in turn"


class Light(Value):
    """One thing that the light tells: in which colour, and how it shines."""

    shows: Shows
    colour: Colour
    blink: Blink = Blink.STEADY

    @property
    def words(self) -> str:
        """As the coach says it."""
        return (
            f"{self.colour.value} {self.blink.value}"
            if self.blink is Blink.STEADY
            else f"{self.colour.value}, {self.blink.value}"
        )


class Turning(Value):
    """How the compass of an aircraft is turned (a name of ``coach.Way``, empty: as usual for its like), and what its light shows meanwhile, each thing once."""

    way: Annotated[str, Allowed(max_length=20)] = ""
    lights: Annotated[tuple[Light, ...], Allowed(max_length=8)] = ()

    def light(self, shows: Shows) -> Light | None:
        """The light for one thing; None where it is not on record."""
        return next((one for one in self.lights if one.shows is shows), None)
