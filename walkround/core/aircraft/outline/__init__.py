"""The aircraft from above, drawn from its own traits: named parts as simple shapes, in mm."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.outline.helicopter import draw_helicopter
from walkround.core.aircraft.outline.multirotor import draw_multirotor
from walkround.core.aircraft.outline.shapes import Outline, Part, Point, Shape
from walkround.core.aircraft.outline.wing import draw_wing
from walkround.core.aircraft.traits import Kind

_DRAW = {Kind.MULTIROTOR: draw_multirotor, Kind.WING: draw_wing, Kind.HELICOPTER: draw_helicopter}


def outline(aircraft: Aircraft) -> Outline:
    """The outline of an aircraft from above, in mm. Source: proportions are our choice, sizes the pilot's."""
    return _DRAW[aircraft.kind](aircraft)


__all__ = ["Outline", "Part", "Point", "Shape", "outline"]
