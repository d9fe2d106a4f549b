"""The aircraft from above, drawn from its own traits: named parts as simple shapes, in mm."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.planform.helicopter import draw_helicopter
from walkround.core.aircraft.planform.multirotor import draw_multirotor
from walkround.core.aircraft.planform.shapes import Planform, PlanformPart, PlanformShape, ShapePoint
from walkround.core.aircraft.planform.wing import draw_wing
from walkround.core.aircraft.traits import Kind

_DRAW = {Kind.MULTIROTOR: draw_multirotor, Kind.WING: draw_wing, Kind.HELICOPTER: draw_helicopter}


def planform(aircraft: Aircraft) -> Planform:
    """The outline of an aircraft from above, in mm. Source: proportions are our choice, sizes the pilot's."""
    return _DRAW[aircraft.kind](aircraft)


__all__ = ["Planform", "PlanformPart", "PlanformShape", "ShapePoint", "planform"]
