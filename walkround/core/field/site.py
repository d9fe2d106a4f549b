"""The field: where it is, where one stands on it, what must stay clear."""

import math
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.base.errors import InputError
from walkround.core.base.finding import PRACTICE, Finding, Level, measured
from walkround.core.base.geodesy import Position
from walkround.core.base.kept import kept
from walkround.core.base.phrase import height
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, Spot

LAUNCH_CIRCLE_M = 3.0
"""Radius kept clear round the launch point, in m. Source: 10 ft (3 m); common practice, no source."""


class Terrain(StrEnum):
    """What the wind blows over; sets how fast it grows with height."""

    WATER = "open water"
    GRASS = "open grass"
    HEDGES = "hedges and scattered trees"
    BUILT = "houses or woods"


class LaunchPlatform(StrEnum):
    """What you launch from."""

    LAND = "firm land"
    MOVING = "a boat or a vehicle"
    COVER = "under cover or a balcony"


LOST_LINK = {
    LaunchPlatform.LAND: "return: you stay where you launched",
    LaunchPlatform.MOVING: "hover: the home point moves with the boat",
    LaunchPlatform.COVER: "do not launch: it would return through the roof",
}
"""What it should do when the signal is lost, by where you stand. Source: common practice, no source."""


class GroundSurface(StrEnum):
    """What you lift from and come down on."""

    SHORT = "short grass"
    LONG = "long grass"
    HARD = "hard ground"
    LOOSE = "sand or loose ground"
    WATER = "water"
    DECK = "a deck or a roof"
    FLOOR = "a hall floor"
    CARPET = "carpet"


class Role(Value):
    """Who does what in the crew: kept with the field, said in the brief."""

    who: Annotated[str, Allowed(max_length=60)] = ""
    does: Annotated[str, Allowed(min_length=1, max_length=160)]


USUAL_CREW = (
    Role.trusted(who="", does="Pilot in command: decides, flies, and says aloud what happens."),
    Role.trusted(who="", does="Spotter: watches aircraft and sky, calls out people, birds and crewed aircraft."),
    Role.trusted(
        who="", does="Line: keeps people behind the line and dogs on a lead, and calls when somebody walks in."
    ),
)
"""A crew to start with. Source: common practice, no source."""

HERE = Spot.trusted(east_m=0.0, north_m=0.0)
MOST_MARKS = 500
CIRCLE_CORNERS = 36
ROUNDED_M = 0.02
"""Spots are kept to the centimetre; what lies at a limit to that still counts, in m. Source: rounding."""


class Site(Value):
    """A field. ``position`` is where its plan begins: everything drawn is m east and north of it.

    Elevation in m above sea level; ``launch``: the launch point; ``pilot``: where the pilot stands, None: at the launch
    point; ``flight_area``: corners of the flying box, none: the flying circle, ``flight_radius_m`` round the launch point;
    ``spectator_line``: the spectator line; ``ground_rise_m``: how far the ground rises above the launch point within the flight at
    most, ``uphill_deg``: towards where, degrees true, None: anywhere; ``launch_platform``: what you launch from; ``strip_deg``: the
    direction of the strip, degrees true, whichever end, None without one; ``indoors``: a hall, where weather, sun and airspace do not count, with an
    ``open_door`` that lets the wind in, and with ``nets`` between flight and people; ``walked_at``: when its path was last walked.
    """

    id: int = 0
    name: Annotated[str, Allowed(min_length=1, max_length=60)]
    position: Position
    elevation_m: Annotated[float, Allowed(ge=-430, le=6_000)] = 0.0
    timezone: str = "UTC"
    terrain: Terrain = Terrain.GRASS
    surface: GroundSurface = GroundSurface.SHORT
    flight_radius_m: Annotated[float, Allowed(ge=10, le=2_000)] = 120.0
    flight_height_m: Annotated[float, Allowed(ge=2, le=500)] = 50.0
    ground_rise_m: Annotated[float, Allowed(ge=0, le=400)] = 0.0
    uphill_deg: Annotated[float | None, Allowed(ge=0, le=360)] = None
    launch_platform: LaunchPlatform = LaunchPlatform.LAND
    strip_deg: Annotated[float | None, Allowed(ge=0, le=360)] = None
    over_water: bool = False
    indoors: bool = False
    open_door: bool = False
    nets: bool = False
    launch: Spot = HERE
    pilot: Spot | None = None
    flight_area: Annotated[tuple[Spot, ...], Allowed(max_length=30)] = ()
    spectator_line: Annotated[tuple[Spot, ...], Allowed(max_length=30)] = ()
    marks: Annotated[tuple[Mark, ...], Allowed(max_length=MOST_MARKS)] = ()
    rules: Annotated[str, Allowed(max_length=500)] = ""
    notes: Annotated[str, Allowed(max_length=1000)] = ""
    access: Annotated[str, Allowed(max_length=500)] = ""
    emergency: Annotated[str, Allowed(max_length=500)] = ""
    station: Annotated[str, Allowed(max_length=4)] = ""
    crew: Annotated[tuple[Role, ...], Allowed(max_length=8)] = ()
    walked_at: datetime | None = None

    @whole
    def station_has_four_letters(self) -> "Site":
        """Refuse what cannot be the name of a weather station."""
        if self.station and not (len(self.station) == 4 and self.station.isalnum()):
            words = "A station has four letters, for example ZZTC. Leave it empty if you know none."
            raise InputError(words, "station")
        return self

    @whole
    def plan_is_whole(self) -> "Site":
        """Refuse a flying box without an inside, and a spectator line of one point."""
        if self.flight_area and len(self.flight_area) < 3:
            raise InputError("A flying box needs at least three corners.", "plan")
        if self.flight_area and planar_geometry.crosses_itself([s.xy for s in self.flight_area]):
            raise InputError("The flying box crosses itself. Place the corners in order round the outside.", "plan")
        if len(self.spectator_line) == 1:
            raise InputError("A spectator line needs two ends.", "plan")
        return self

    @property
    def pilot_spot(self) -> Spot:
        """Where the pilot stands."""
        return self.pilot or self.launch

    @property
    @kept
    def standing(self) -> tuple[Mark, ...]:
        """What sticks up."""
        return tuple(mark for mark in self.marks if mark.height_m > 0)

    def flight_polygon(self) -> list[planar_geometry.Point]:
        """Corners of the flying box, or of the flying circle, east and north in m."""
        return list(self._corners())

    @kept
    def _corners(self) -> list[planar_geometry.Point]:
        if self.flight_area:
            return [s.xy for s in self.flight_area]
        # Its sides touch the circle from outside, so that nothing within the circle lies outside the polygon.
        corner_m = self.flight_radius_m / math.cos(math.pi / CIRCLE_CORNERS)
        return [
            planar_geometry.ahead(self.launch.xy, i * 360 / CIRCLE_CORNERS, corner_m) for i in range(CIRCLE_CORNERS)
        ]

    @property
    @kept
    def reach_m(self) -> float:
        """How far from the launch point the flight goes at most, in m."""
        if not self.flight_area:
            return self.flight_radius_m
        return max(math.dist(self.launch.xy, s.xy) for s in self.flight_area)

    @kept
    def farthest_m(self) -> float:
        """How far from the pilot the flight goes at most, in m."""
        launch_platforms = self.pilot_spot.xy
        if not self.flight_area:
            return self.flight_radius_m + math.dist(launch_platforms, self.launch.xy)
        return max(math.dist(launch_platforms, s.xy) for s in self.flight_area)

    def away(self, mark: Mark) -> tuple[float, float]:
        """How far a thing is from the launch point, in m, and its bearing from there in degrees true."""
        away, at = mark.nearest(self.launch.xy)
        return away, planar_geometry.bearing(self.launch.xy, at)

    @kept
    def on_flight(self, allowance_m: float) -> tuple[Mark, ...]:
        """What stands on any way between the flight and the launch point, widened by an allowance in m.

        Source: return height is set above the tallest thing between any point of the flight and home; common practice,
        no source.
        """
        if not self.flight_area:
            most = self.flight_radius_m + allowance_m + ROUNDED_M
            return tuple(mark for mark in self.standing if self.away(mark)[0] <= most)
        swept = planar_geometry.hull([*self.flight_polygon(), self.launch.xy])
        box, most = planar_geometry.bounding_box(swept), allowance_m + ROUNDED_M
        near = (mark for mark in self.standing if mark.within(box, most))
        return tuple(mark for mark in near if mark.gap_m(swept, closed=True) <= most)

    @kept
    def tallest(self, allowance_m: float) -> Mark | None:
        """The tallest thing on the flight and its ways home, widened by ``allowance_m`` (m), or None. Source: ``on_flight``."""
        return max(self.on_flight(allowance_m), key=lambda mark: mark.height_m, default=None)

    @kept
    def nearest(self) -> Mark | None:
        """What stands nearest to the launch point, or None; distances in m."""
        return min(self.standing, key=lambda mark: self.away(mark)[0], default=None)

    def rise_m(self, bearing_deg: float | None, distance_m: float) -> float:
        """How far the ground rises above the launch point on a way of so many m, in m; on the worst way without a
        bearing (degrees true). An even slope where its direction is known."""
        if self.uphill_deg is None or bearing_deg is None:
            return self.ground_rise_m
        share = math.cos(math.radians(bearing_deg - self.uphill_deg)) * distance_m / self.reach_m
        return max(0.0, self.ground_rise_m * share)


def next_id(site: Site) -> int:
    """The number of the next thing on a plan, without unit. Source: counting."""
    return max((mark.id for mark in site.marks), default=0) + 1


def judge_launch_circle(clear_m: float) -> tuple[Finding, ...]:
    """Judge the distance (m) from the launch point to the nearest thing standing, lying or hanging over.

    Below 3 m grounds, below 4 m is a caution. Source: 10 ft (3 m) radius; common practice, no source.
    """
    return (
        measured(
            "Launch circle",
            height(clear_m),
            height(LAUNCH_CIRCLE_M),
            sense="min",
            caution=1 / LAUNCH_CIRCLE_M,
            words={
                Level.CLEAR: "{value} clear all round and above ({across} across).",
                Level.CAUTION: "{value} clear round the launch point ({across} across) is close to the minimum of {limit}.",
                Level.GROUNDED: "Only {value} clear round the launch point; it lands near that point, not on it.",
            },
            remedy="Move the launch point until nothing is within 3 m (10 ft), a circle 6 m (20 ft) across.",
            source=PRACTICE,
            numbers={"across": height(2 * clear_m)},
        ),
    )


def people_gap_m(site: Site) -> float | None:
    """From the spectator line to the flight in m, None without a line. A flying circle counts as the circle it is.

    Source: the field's own plan; distance from a point to a line less the radius.
    """
    if not site.spectator_line:
        return None
    line = [s.xy for s in site.spectator_line]
    if not site.flight_area:
        return max(0.0, planar_geometry.nearest(line, site.launch.xy)[0] - site.flight_radius_m)
    return planar_geometry.gap(line, site.flight_polygon(), other_closed=True)


def judge_spectators(site: Site, people_m: float) -> tuple[Finding, ...]:
    """Judge the spectator line against the flying area: nearer than the pilot's limit (m) grounds; nothing without a line.

    Source: the field's own plan; the limit is the pilot's, from the rules of the region.
    """
    away = people_gap_m(site)
    if away is None:
        return ()
    return (
        measured(
            "People",
            height(away),
            height(people_m),
            sense="min",
            words={
                Level.CLEAR: "The spectator line is {value} from the flight.",
                Level.CAUTION: "The spectator line is {value} from the flight, close to your {limit}.",
                Level.GROUNDED: "The spectator line is only {value} from the flight; your limit is {limit}.",
            },
            remedy="Move the line back, or the flying box away from it.",
            source="your limit, from the rules of the region; the authority and the club prevail",
        ),
    )
