"""What is drawn on the plan of a field: where each thing stands, what it is, how high it reaches."""

import math
from enum import StrEnum
from typing import Annotated

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.field import planar_geometry

REACH_M = 6_000.0
"""What lies farther from the field than this, in m, is not drawn. Source: our choice."""
MOST_SPOTS = 60
MOST_HEIGHT_M = 600.0
MOST_RADIUS_M = 2_000.0
MOST_DISTANCE_M = 5_000.0


class Spot(Value):
    """A place on the plan: m east and north of the field's position."""

    east_m: Annotated[float, Allowed(ge=-REACH_M, le=REACH_M)]
    north_m: Annotated[float, Allowed(ge=-REACH_M, le=REACH_M)]

    @property
    def xy(self) -> planar_geometry.Point:
        """East and north in m."""
        return (self.east_m, self.north_m)


def spot(point: planar_geometry.Point) -> Spot:
    """A spot of the plan from east and north in m, to the centimetre.

    Raises InputError when it lies off the plan. Source: ``REACH_M``.
    """
    east, north = point
    if not (math.isfinite(east) and math.isfinite(north) and max(abs(east), abs(north)) <= REACH_M):
        raise InputError(f"That is outside the plan, which reaches {REACH_M / 1000:g} km from the field.", "plan")
    return Spot(east_m=round(east, 2) + 0.0, north_m=round(north, 2) + 0.0)


class MarkShape(StrEnum):
    """How a thing lies on the ground."""

    POINT = "point"
    LINE = "line"
    AREA = "area"


class MarkKind(StrEnum):
    """What stands or lies there."""

    TREE = "tree"
    TREES = "row of trees"
    WIRE = "wire"
    MAST = "mast"
    BUILDING = "building"
    FENCE = "fence"
    WATER = "water"
    CARS = "car park"
    TRANSFORMER = "transformer"
    RADIO = "radio transmitter"
    CONCRETE = "reinforced concrete"
    METAL = "pipe or rail"
    ROAD = "road or railway"
    PRIVATE = "private ground"
    HAZARD = "hazard"


class Nature(Struct, frozen=True, kw_only=True):
    """What is true of a kind: its shape, whether it has a height, the height in m it starts with, whether it lies round."""

    shape: MarkShape
    stands: bool
    usual_m: float = 0.0
    round: bool = False


NATURES: dict[MarkKind, Nature] = {
    MarkKind.TREE: Nature(shape=MarkShape.POINT, stands=True, usual_m=12, round=True),
    MarkKind.TREES: Nature(shape=MarkShape.LINE, stands=True, usual_m=15),
    MarkKind.WIRE: Nature(shape=MarkShape.LINE, stands=True, usual_m=12),
    MarkKind.MAST: Nature(shape=MarkShape.POINT, stands=True, usual_m=25),
    MarkKind.BUILDING: Nature(shape=MarkShape.AREA, stands=True, usual_m=8),
    MarkKind.FENCE: Nature(shape=MarkShape.LINE, stands=True, usual_m=1.5),
    MarkKind.WATER: Nature(shape=MarkShape.AREA, stands=False),
    MarkKind.CARS: Nature(shape=MarkShape.AREA, stands=True, usual_m=2),
    MarkKind.TRANSFORMER: Nature(shape=MarkShape.POINT, stands=True, usual_m=4),
    MarkKind.RADIO: Nature(shape=MarkShape.POINT, stands=True, usual_m=10),
    MarkKind.CONCRETE: Nature(shape=MarkShape.AREA, stands=False),
    MarkKind.METAL: Nature(shape=MarkShape.LINE, stands=False),
    MarkKind.ROAD: Nature(shape=MarkShape.LINE, stands=False),
    MarkKind.PRIVATE: Nature(shape=MarkShape.AREA, stands=False),
    MarkKind.HAZARD: Nature(shape=MarkShape.POINT, stands=False, round=True),
}
"""Heights to start with are usual ones, to be corrected. Source: from memory; our choice."""


class Mark(Value):
    """One thing on the plan. ``spots``: where it is, its line, or the corners of its outline; ``height_m``: its top above
    the launch point; ``radius_m``: how far it reaches round its spot (crown of a tree, circle of a hazard)."""

    id: Annotated[int, Allowed(ge=0)] = 0
    kind: MarkKind
    spots: Annotated[tuple[Spot, ...], Allowed(min_length=1, max_length=MOST_SPOTS)]
    height_m: float = 0.0
    radius_m: float = 0.0
    name: Annotated[str, Allowed(max_length=60)] = ""

    @whole
    def _fits(self) -> "Mark":
        """Refuse an outline that crosses itself, and what stands without a height."""
        nature = NATURES[self.kind]
        if nature.stands and not 0 < self.height_m <= MOST_HEIGHT_M:
            raise InputError(
                f"Enter its height, above 0 and up to {MOST_HEIGHT_M:g} m ({MOST_HEIGHT_M / 0.3048:,.0f} ft).", "height"
            )
        if not 0 <= self.radius_m <= MOST_RADIUS_M:
            raise InputError(f"The radius must be between 0 and {MOST_RADIUS_M:g} m.", "radius")
        if nature.shape is MarkShape.POINT and len(self.spots) > 1:
            raise InputError(f"A {self.kind.value} is a single place.", "plan")
        if nature.shape is MarkShape.AREA and len(self.spots) > 3 and planar_geometry.crosses_itself(self.points):
            raise InputError("Its outline crosses itself. Place the corners in order round the outside.", "plan")
        return self

    @property
    def nature(self) -> Nature:
        """What is true of its kind."""
        return NATURES[self.kind]

    @property
    def points(self) -> list[planar_geometry.Point]:
        """Its spots as east and north in m."""
        return [s.xy for s in self.spots]

    @property
    def closed(self) -> bool:
        """Whether its spots go round an area."""
        return self.nature.shape is MarkShape.AREA and len(self.spots) > 2

    @property
    def words(self) -> str:
        """Its name: its own name, or its kind."""
        return self.name or self.kind.value

    def nearest(self, point: planar_geometry.Point) -> tuple[float, planar_geometry.Point]:
        """How far it is from a point of the plan in m, and where it is nearest (east and north in m)."""
        away, at = planar_geometry.nearest(self.points, point, closed=self.closed)
        if self.radius_m and away > 0:
            part = min(1.0, self.radius_m / away)
            at = (at[0] + (point[0] - at[0]) * part, at[1] + (point[1] - at[1]) * part)
        return max(0.0, away - self.radius_m), at

    def gap_m(self, line: list[planar_geometry.Point], *, closed: bool = False) -> float:
        """How far it is from a line or an area of the plan, in m."""
        if len(self.spots) == 1:
            away = planar_geometry.nearest(line, self.spots[0].xy, closed=closed)[0]
        else:
            away = planar_geometry.gap(self.points, line, closed=self.closed, other_closed=closed)
        return max(0.0, away - self.radius_m)

    def within(self, box: tuple[float, float, float, float], most_m: float) -> bool:
        """Whether it may be as near as ``most_m`` (m) to what lies in a box (west, south, east, north in m); quick, and never
        wrong when it says no."""
        west, south, east, north = box
        reach = most_m + self.radius_m
        easts, norths = [s.east_m for s in self.spots], [s.north_m for s in self.spots]
        return (
            min(easts) <= east + reach
            and max(easts) >= west - reach
            and min(norths) <= north + reach
            and max(norths) >= south - reach
        )


def mark_at(
    kind: MarkKind,
    bearing_deg: float,
    distance_m: float,
    height_m: float = 0.0,
    *,
    origin: planar_geometry.Point = (0.0, 0.0),
    number: int = 0,
) -> Mark:
    """A thing in one spot, by bearing (degrees true) and distance (m) from a point of the plan; its top in m.

    Raises InputError in words when one of them cannot be. Source: ranges of a field one walks on; our choice.
    """
    if not (math.isfinite(bearing_deg) and 0 <= bearing_deg <= 360):
        raise InputError(f"Bearing {bearing_deg:g} is outside 0° to 360°.", "bearing")
    if not 0 <= distance_m <= MOST_DISTANCE_M:
        raise InputError(f"The distance must be between 0 and {MOST_DISTANCE_M:g} m.", "distance")
    return Mark(
        id=number, kind=kind, spots=(spot(planar_geometry.ahead(origin, bearing_deg, distance_m)),), height_m=height_m
    )
