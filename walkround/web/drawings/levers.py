"""Switches drawn: a lever on its plate, seen from the front, up, in the middle or down."""

from walkround.core.aircraft.how_it_works import Lever, SwitchUse
from walkround.core.base.struct import Struct

_ENDS = {Lever.UP: -18.0, Lever.MIDDLE: 0.0, Lever.DOWN: 18.0}


class LeverDrawn(Struct, frozen=True):
    """A switch: its name, where the lever ends (picture units below its middle), where the other places are, and its words."""

    name: str
    end_y: float
    others: tuple[float, ...]
    words: str


def draw_lever(switch: SwitchUse, lever: Lever) -> LeverDrawn:
    """A switch with its lever in a place."""
    others = tuple(_ENDS[place] for place, _ in switch.places if place is not lever)
    return LeverDrawn(switch.name, _ENDS[lever], others, f"{lever.value}: {switch.selects(lever)}")
