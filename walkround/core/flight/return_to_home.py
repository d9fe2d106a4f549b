"""Coming home: the wind triangle, what the way back takes at each height, and the charge to turn at."""

import math
from collections.abc import Sequence

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, height, percent
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.site import ROUNDED_M, Site
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.flight_plan import LANDING_MIN
from walkround.core.flight.power import rotor_power_w, times_hover, usual_cruise_ms
from walkround.core.flight.rth_altitude import LEAST_RTH_ALTITUDE_M
from walkround.core.flight.speed_home import gets_home, strongest_at_ms
from walkround.core.pilot.limits import Limits
from walkround.core.weather.atmosphere import GRAVITY_MS2
from walkround.core.weather.weather import Weather

CLIMB_MS, DESCENT_MS = 3.0, 2.0
"""How fast it climbs and comes down by itself, in m/s. Source: from memory; common practice, no source."""
CLIMB_EFFICIENCY = 0.6
"""Share of the electric power that lifts while climbing (no unit). Source: figure of merit times drive, from memory."""
HEIGHTS = 25
CHEAPER_POINTS = 1.0
"""A height counts as cheaper when it saves so many points of the pack. Source: our choice."""


class Triangle(Struct, frozen=True, kw_only=True):
    """Flying a course through wind: speed over the ground in m/s and heading in degrees true."""

    ground_ms: float
    heading_deg: float


def wind_triangle(air_ms: float, course_deg: float, wind_ms: float, wind_from_deg: float) -> Triangle | None:
    """Ground speed (m/s) and heading (degrees true) on a course, from airspeed and wind (m/s, degrees true *from*).

    None where the wind across is more than the airspeed, or the wind on the nose leaves nothing: it cannot fly that
    course. Raises InputError for an airspeed not above 0. Source: the wind triangle; vectors.
    """
    if air_ms <= 0:
        raise InputError("An airspeed must be above 0.")
    angle = math.radians(wind_from_deg - course_deg)
    across, along = wind_ms * math.sin(angle), wind_ms * math.cos(angle)
    if abs(across) > air_ms:
        return None
    ground = math.sqrt(air_ms * air_ms - across * across) - along
    if ground <= 0:
        return None
    lean = math.degrees(math.asin(across / air_ms))
    return Triangle(ground_ms=ground, heading_deg=(course_deg + lean) % 360)


class Way(Struct, frozen=True, kw_only=True):
    """One way home at a height (m above launch): minutes and share of a full pack in per cent for each part.

    ``ground_ms``: over the ground on the way back, 0 when it does not come home; ``air_ms``: the airspeed that costs
    least; ``clearance_m``: above the tallest thing on the way.
    """

    height_m: float
    wind_ms: float
    air_ms: float
    ground_ms: float
    climb_min: float
    back_min: float
    descent_min: float
    climb_percent: float
    back_percent: float
    descent_percent: float
    clearance_m: float

    @property
    def home(self) -> bool:
        """Whether it comes home at all."""
        return self.ground_ms > 0

    @property
    def minutes(self) -> float:
        """Minutes in all."""
        return self.climb_min + self.back_min + self.descent_min

    @property
    def percent(self) -> float:
        """Share of a full pack in all, in per cent; 999 when it does not come home."""
        return self.climb_percent + self.back_percent + self.descent_percent if self.home else 999.0


class Trip(Struct, frozen=True, kw_only=True):
    """What every way home depends on: field, aircraft, its minutes today, weather (None: without wind), limits, and what the aircraft uses over what is computed
    (1: as computed)."""

    site: Site
    aircraft: Aircraft
    known: Endurance
    weather: Weather | None
    limits: Limits
    use_times: float = 1.0


class TurnPoint(Struct, frozen=True, kw_only=True):
    """Where it turns for home: distance from home in m, bearing from home in degrees true (None: the worst), height in m."""

    distance_m: float
    bearing_deg: float | None = None
    height_m: float = 30.0


def tallest_on_way(site: Site, bearing_deg: float | None, distance_m: float, allowance_m: float) -> float:
    """Top in m above launch of the tallest thing on the way home, ground included; 0 when nothing stands there.

    Without a bearing any way of that length counts, with a flying box any from within it. With a bearing (degrees true),
    what stands within ``allowance_m`` (m) of the straight way or of either end. Source: tallest between any point and
    home, with the position's error; common practice, no source.
    """
    home = site.launch.xy
    allowance_m += ROUNDED_M
    if bearing_deg is None:
        among = site.on_flight(allowance_m) if site.flight_area else site.standing
        on_way = [mark for mark in among if mark.nearest(home)[0] <= distance_m + allowance_m]
    else:
        way = [home, planar_geometry.ahead(home, bearing_deg, distance_m)]
        box = planar_geometry.bounding_box(way)
        near = (mark for mark in site.standing if mark.within(box, allowance_m))
        on_way = [mark for mark in near if mark.gap_m(way) <= allowance_m]
    return max([site.rise_m(bearing_deg, distance_m), *(mark.height_m for mark in on_way)])


def climb_times(aircraft: Aircraft, density: float) -> float:
    """Power of climbing at ``CLIMB_MS`` as a multiple of hover (no unit), in air of this density in kg/m³. Source: weight times rate of climb; ``CLIMB_EFFICIENCY``."""
    hover = rotor_power_w(aircraft, density)
    lift_w = aircraft.mass_g / 1000 * GRAVITY_MS2 * CLIMB_MS / CLIMB_EFFICIENCY
    return 2.0 if hover is None else 1 + lift_w / hover.mid


def way_home(trip: Trip, place: TurnPoint, return_m: float, tallest_m: float | None = None) -> Way:
    """The way home from a place at a return height (m above launch): climb to it, fly back, come down.

    Wind grows with height; the strongest known counts, from its own direction if bearing and direction are known, on the
    nose otherwise. ``tallest_m``: the tallest thing on the way where it is known already. Of cruise and top speed the one that takes less is flown. A place above the return height does not
    come down first. Source: ``wind_triangle``, ``atmosphere.wind_at_height_ms``, ``endurance.power``.
    """
    site, aircraft, known, weather = trip.site, trip.aircraft, trip.known, trip.weather
    top_m = max(return_m, place.height_m)
    if tallest_m is None:
        tallest_m = tallest_on_way(site, place.bearing_deg, place.distance_m, trip.limits.position_allowance_m)
    wind_ms = strongest_at_ms(weather, site, top_m)
    from_deg = None if weather is None else weather.steady_from_deg
    course = 0.0
    if place.bearing_deg is None or from_deg is None:
        from_deg = 0.0  # on the nose
    else:
        course = (place.bearing_deg + 180) % 360

    def share(minutes: float, times: float) -> float:
        return 100 * minutes * times * trip.use_times / known.today.mid

    best: tuple[float, float, float, float] | None = None  # percent, minutes, airspeed, ground
    for air_ms in dict.fromkeys((usual_cruise_ms(aircraft), aircraft.top_speed_ms)):
        triangle = wind_triangle(air_ms, course, wind_ms, from_deg)
        if triangle is None or not gets_home(triangle.ground_ms, aircraft.top_speed_ms):
            continue
        minutes = place.distance_m / triangle.ground_ms / 60
        tried = (share(minutes, times_hover(aircraft, known.density, air_ms)), minutes, air_ms, triangle.ground_ms)
        best = tried if best is None or tried < best else best
    climb_min, down_min = (top_m - place.height_m) / CLIMB_MS / 60, top_m / DESCENT_MS / 60 + LANDING_MIN
    return Way(
        height_m=top_m,
        wind_ms=wind_ms,
        air_ms=best[2] if best else aircraft.top_speed_ms,
        ground_ms=best[3] if best else 0.0,
        climb_min=climb_min,
        back_min=best[1] if best else 0.0,
        descent_min=down_min,
        climb_percent=share(climb_min, climb_times(aircraft, known.density)),
        back_percent=best[0] if best else 0.0,
        descent_percent=share(down_min, 1.0),
        clearance_m=top_m - tallest_m,
    )


class Homeward(Struct, frozen=True, kw_only=True):
    """The way at the height looked at (m above launch), that height, the lowest safe height, what each height takes, the cheapest of the safe ones."""

    way: Way
    return_m: float
    lowest_m: float
    ways: tuple[Way, ...]
    cheapest: Way | None


def homeward(trip: Trip, place: TurnPoint, return_m: float | None) -> Homeward:
    """What the way home takes at every sensible height (m above launch), from the lowest safe one to the ceiling.

    ``return_m``: the height that is looked at; None: the lowest safe one. Source: ``way_home``, ``tallest_on_way``; margin and ceiling are the pilot's limits.
    """
    limits = trip.limits
    top = tallest_on_way(trip.site, place.bearing_deg, place.distance_m, limits.position_allowance_m)
    lowest = max(LEAST_RTH_ALTITUDE_M, top + limits.return_margin_m) if top > 0 else LEAST_RTH_ALTITUDE_M
    asked_m = return_m or lowest
    ceiling = max(lowest, limits.height_max_m)
    steps = [lowest + (ceiling - lowest) * i / (HEIGHTS - 1) for i in range(HEIGHTS)]
    ways = tuple(way_home(trip, place, step, top) for step in steps)
    able = [way for way in ways if way.home]
    return Homeward(
        way=way_home(trip, place, asked_m, top),
        return_m=asked_m,
        lowest_m=lowest,
        ways=ways,
        cheapest=min(able, key=lambda way: (way.percent, way.height_m), default=None),
    )


class TurnBack(Struct, frozen=True, kw_only=True):
    """The last charge (per cent of a full pack) to turn at, at a distance from home in m, and the minutes of the way home; None: no way home from there, or
    no charge is enough."""

    distance_m: float
    percent: float | None
    minutes: float | None = None


def turn_backs(trip: Trip, distances_m: Sequence[float], place: TurnPoint, return_m: float) -> tuple[TurnBack, ...]:
    """The last charge to turn at, in per cent, for distances in m: what the way home takes at worst, and the reserve.

    At worst: the low end of today's minutes. Source: ``way_home``; the reserve is the pilot's limit.
    """
    worst = trip.known.today.mid / trip.known.today.low
    turns = []
    for distance in distances_m:
        way = way_home(trip, replace(place, distance_m=distance), return_m)
        charge = math.ceil(trip.limits.reserve_percent + way.percent * worst) if way.home else None
        turns.append(
            TurnBack(
                distance_m=distance,
                percent=charge if charge is not None and charge <= 100 else None,
                minutes=way.minutes if way.home else None,
            )
        )
    return tuple(turns)


def judge_cost(found: Homeward, *, setting_m: float) -> tuple[Finding, ...]:
    """Say whether a lower return than the one set (m above launch) costs less charge and is still clear of everything.

    Clearance and wind have their own judges. Source: ``way_home``.
    """
    way, best = found.way, found.cheapest
    if not way.home or best is None or best.height_m >= setting_m or way.percent - best.percent <= CHEAPER_POINTS:
        return ()
    return (
        Finding(
            name="Battery used by altitude",
            level=Level.CLEAR,
            reason=Phrase.of(
                "The way home takes {value} of a full pack; from {lower} it would take {less}, and still clear the obstacles.",
                value=percent(way.percent),
                lower=height(best.height_m),
                less=percent(best.percent),
            ),
            source="climb, wind and descent as computed",
        ),
    )
