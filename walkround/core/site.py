"""The field: where it is, what stands on it, what must stay clear."""

import math
from enum import StrEnum

from pydantic import Field, model_validator

from walkround.core.base import Value
from walkround.core.errors import InputError
from walkround.core.finding import OUR_CHOICE, PRACTICE, Finding, Level, margin_above
from walkround.core.geodesy import Position
from walkround.core.phrase import Phrase, height

LAUNCH_CIRCLE_M = 3.0
"""Radius kept clear round the launch point, in m. Source: 10 ft (3 m); common practice, no source."""


class ObstacleKind(StrEnum):
    """What stands there."""

    TREE = "tree"
    TREES = "row of trees"
    WIRE = "wire"
    MAST = "mast"
    BUILDING = "building"
    FENCE = "fence"


class Terrain(StrEnum):
    """What the wind blows over; sets how fast it grows with height."""

    WATER = "open water"
    GRASS = "open grass"
    HEDGES = "hedges and scattered trees"
    BUILT = "houses or woods"


class Stand(StrEnum):
    """What you launch from."""

    LAND = "firm land"
    MOVING = "a boat or a vehicle"
    COVER = "under cover or a balcony"


LOST_LINK = {
    Stand.LAND: "return: you stay where you launched",
    Stand.MOVING: "hover: home moves away under it",
    Stand.COVER: "do not launch: it comes back through the roof",
}
"""What it should do when the link is lost, by where you stand. Source: common practice, no source."""


class Obstacle(Value):
    """Something that sticks up: bearing in degrees true and distance in m from the launch point, top in m above it."""

    kind: ObstacleKind
    bearing_deg: float = Field(ge=0, lt=360)
    distance_m: float = Field(ge=0, le=5_000)
    height_m: float = Field(gt=0, le=600)


class Site(Value):
    """A field. Elevation in m above sea level; ``flight_radius_m`` is how far from the launch point flying is planned.
    ``ground_rise_m``: how far the ground within it rises above the launch point at most; ``stand``: what you launch from.
    ``strip_deg``: the direction of the strip, degrees true, whichever end; None without one.
    """

    id: int = 0
    name: str = Field(min_length=1, max_length=60)
    position: Position
    elevation_m: float = Field(default=0, ge=-430, le=6_000)
    timezone: str = "UTC"
    terrain: Terrain = Terrain.GRASS
    flight_radius_m: float = Field(default=120, ge=10, le=2_000)
    flight_height_m: float = Field(default=50, ge=2, le=500)
    ground_rise_m: float = Field(default=0, ge=0, le=400)
    stand: Stand = Stand.LAND
    strip_deg: float | None = Field(default=None, ge=0, le=360)
    over_water: bool = False
    obstacles: tuple[Obstacle, ...] = ()
    rules: str = Field(default="", max_length=500)
    emergency: str = Field(default="", max_length=500)
    station: str = Field(default="", max_length=4)

    @model_validator(mode="after")
    def station_has_four_letters(self) -> "Site":
        """Refuse what cannot be the name of a weather station."""
        if self.station and not (len(self.station) == 4 and self.station.isalnum()):
            words = "A station has four letters, like ZZTC. Leave it empty if you know none."
            raise InputError(words, "station")
        return self

    def tallest(self, allowance_m: float) -> Obstacle | None:
        """The tallest obstacle within the flying circle widened by ``allowance_m`` (m), or None.

        Source: return height is set above the tallest thing between any point of the flight and home;
        common practice, no source.
        """
        near = [o for o in self.obstacles if o.distance_m <= self.flight_radius_m + allowance_m]
        return max(near, key=lambda o: o.height_m, default=None)

    def nearest(self) -> Obstacle | None:
        """The obstacle nearest to the launch point, or None; distances in m. Source: the field's own plan."""
        return min(self.obstacles, key=lambda o: o.distance_m, default=None)


def judge_launch_circle(clear_m: float) -> tuple[Finding, ...]:
    """Judge the distance (m) from the launch point to the nearest thing standing, lying or hanging over.

    Below 3 m grounds, below 4 m is care. Source: 10 ft (3 m) radius; common practice, no source.
    """
    margin = margin_above(clear_m, LAUNCH_CIRCLE_M)
    if clear_m < LAUNCH_CIRCLE_M:
        level, words = Level.GROUNDED, "Only {value} clear round the launch point; it lands near, not on, that point."
    elif clear_m < LAUNCH_CIRCLE_M + 1:
        level, words = Level.CARE, "{value} clear round the launch point is close to the least, {limit}."
    else:
        level, words = Level.CLEAR, "{value} clear all round and above."
    value, limit = height(clear_m), height(LAUNCH_CIRCLE_M)
    return (
        Finding(
            name="Launch circle",
            level=level,
            value=value,
            limit=limit,
            sense="min",
            margin=margin,
            reason=Phrase.of(words, value=value, limit=limit),
            remedy="" if level is Level.CLEAR else "Move the launch point until nothing stands within ten feet (3 m).",
            source=PRACTICE,
        ),
    )


def judge_interference(distance_to_source_m: float) -> tuple[Finding, ...]:
    """Judge the distance (m) to the nearest power line, mast, transformer, fence or car.

    Below 15 m grounds, below 50 m is care. Source: our choice; common practice, no source.
    """
    grounds_m, care_m = 15.0, 50.0
    value = height(distance_to_source_m)
    if distance_to_source_m < grounds_m:
        level, words = Level.GROUNDED, "Iron or a transmitter {value} away bends the compass and deafens the link."
    elif distance_to_source_m < care_m:
        level, words = Level.CARE, "The nearest source is {value} away; keep the aircraft on the far side of you."
    else:
        level, words = Level.CLEAR, "Nothing within {value}."
    return (
        Finding(
            name="Interference",
            level=level,
            value=value,
            limit=height(grounds_m),
            sense="min",
            margin=margin_above(distance_to_source_m, grounds_m, care_m * 2),
            reason=Phrase.of(words, value=value),
            remedy="" if level is Level.CLEAR else "Walk away from it, then power up and look again.",
            source=OUR_CHOICE,
        ),
    )


def parse_obstacle(kind: str, bearing_deg: float, distance_m: float, height_m: float) -> Obstacle:
    """A checked obstacle: bearing in degrees true, distance and height in m.

    Raises InputError in words when one of them cannot be. Source: ranges of a field one walks on; our choice.
    """
    if kind not in set(ObstacleKind):
        raise InputError("Choose what the obstacle is.", "obstacle_kind")
    if not (math.isfinite(bearing_deg) and 0 <= bearing_deg <= 360):
        raise InputError(f"Bearing {bearing_deg:g} is outside 0 to 360 degrees.", "obstacle_bearing")
    if not 0 <= distance_m <= 5_000:
        raise InputError("The distance must lie between 0 and 5 km.", "obstacle_distance")
    if not 0 < height_m <= 600:
        raise InputError("The height must lie above 0 and below 600 m (1,970 ft).", "obstacle_height")
    return Obstacle(kind=ObstacleKind(kind), bearing_deg=bearing_deg % 360, distance_m=distance_m, height_m=height_m)
