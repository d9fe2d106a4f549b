"""What a module of this room declares about the device that it plays."""

from collections.abc import Callable, Mapping
from typing import Any

from msgspec import field

from walkround.core.base.struct import Struct

OFF = "off"


class Simulator(Struct, frozen=True, kw_only=True):
    """A device that can be played: who asks for it, what it can play, and what to do where there is none.

    ``interface`` is a class of ``core.sensors.devices``; ``make`` gives an object of it, playing a condition.
    ``setting`` names the pilot's choice of condition; two simulators may share one and then tell the same story.
    ``conditions`` maps each condition to its words; only the owner of a setting has a title and conditions.
    """

    interface: type[Any]
    setting: str
    make: Callable[[str], Any]
    absent: str
    title: str = ""
    use: str = ""
    conditions: Mapping[str, str] = field(default_factory=dict)
