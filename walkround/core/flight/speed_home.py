"""Whether it can get home: the one rule for wind against airspeed, used by every page and check."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, height, percent, speed
from walkround.core.field.site import LOST_LINK, LaunchPlatform, Site
from walkround.core.weather.atmosphere import ground_speed_home_ms, wind_at_height_ms
from walkround.core.weather.weather import Weather

LEAST_SHARE, CAUTION_SHARE = 1 / 3, 1 / 2
"""Of its top speed, what must be left over the ground against the strongest wind: less than the first is no way home, less
than the second is a caution. Source: wind against top speed, common practice, no source; the shares are our choice."""


NO_RETURN = {
    Kind.MULTIROTOR: "It has no return to home: it drops or lands where it is. Watch it and note two landmarks.",
    Kind.HELICOPTER: "It has no return to home: the failsafe cuts the throttle. Watch it and note two landmarks.",
    Kind.WING: "It has no return to home: the failsafe cuts the throttle and sets a gentle turn. Watch it and note two landmarks.",
}
"""What an aircraft without return-home does when its link is lost. Source: common practice, no source; its setting prevails."""
NO_RETURN_NO_MOTOR = (
    "It has no return to home: the failsafe sets a gentle descending turn. Watch it and note two landmarks."
)


def when_link_lost(aircraft: Aircraft, site: Site, action: Action | None = None) -> str:
    """What this aircraft does when the signal is lost: as its failsafe is set, else what it should do for where you stand; only one with return-home is
    said to return.

    Source: its settings; ``site.LOST_LINK``, ``NO_RETURN``.
    """
    action = action or (aircraft.failsafe.action if aircraft.failsafe is not None else None)
    if action is not None:
        stays = action is Action.RETURN and site.launch_platform is not LaunchPlatform.LAND
        advice = f" From {site.launch_platform.value}: {LOST_LINK[site.launch_platform]}." if stays else ""
        return f"As set: {action.value}.{advice}"
    if aircraft.has(Trait.RETURN_HOME):
        return f"From {site.launch_platform.value}: {LOST_LINK[site.launch_platform]}."
    return NO_RETURN_NO_MOTOR if aircraft.has(Trait.NO_MOTOR) else NO_RETURN[aircraft.kind]


def strongest_at_ms(weather: Weather | None, site: Site, height_m: float) -> float:
    """The strongest wind in m/s at a height in m above ground, mean and gust both raised to it; 0 where none is known.

    Source: ``atmosphere.wind_at_height_ms``.
    """
    strongest = None if weather is None else weather.strongest_ms()
    if weather is None or strongest is None:
        return 0.0
    return wind_at_height_ms(strongest, weather.wind_height_m, height_m, site.terrain)


def gets_home(ground_ms: float, top_speed_ms: float) -> bool:
    """Whether a speed over the ground in m/s on the way home is enough for an aircraft of this top speed (m/s).

    Source: ``LEAST_SHARE``.
    """
    return ground_ms >= LEAST_SHARE * top_speed_ms


def highest_home_m(aircraft: Aircraft, weather: Weather, site: Site, least_m: float, most_m: float) -> float:
    """The greatest height in m, in steps of 1 m, at which the way home is not slowed to care; ``least_m`` at least.

    Source: ``CAUTION_SHARE``; wind by ``atmosphere.wind_at_height_ms``.
    """
    top_m = most_m
    while top_m > least_m:
        wind_ms = strongest_at_ms(weather, site, top_m)
        if ground_speed_home_ms(aircraft.top_speed_ms, wind_ms) >= CAUTION_SHARE * aircraft.top_speed_ms:
            break
        top_m -= 1.0
    return max(top_m, least_m)


def judge_getting_home(aircraft: Aircraft, weather: Weather | None, site: Site, height_m: float) -> tuple[Finding, ...]:
    """Judge the way home straight against the strongest wind at the greatest height of flight and return (m above ground).

    Speeds over the ground in m/s; nothing is said where no wind is known, since that has a finding of its own.
    Source: the wind triangle with the wind on the nose; ``LEAST_SHARE``.
    """
    if weather is None or weather.wind_ms is None or site.indoors:
        return ()
    top_ms = aircraft.top_speed_ms
    wind_ms = strongest_at_ms(weather, site, height_m)
    home_ms = ground_speed_home_ms(top_ms, wind_ms)
    estimate = weather.felt is not None
    return (
        measured(
            "Way home",
            speed(home_ms),
            speed(LEAST_SHARE * top_ms),
            sense="min",
            span=(1 - LEAST_SHARE) * top_ms,
            caution=(CAUTION_SHARE - LEAST_SHARE) / (1 - LEAST_SHARE),
            most=Level.CAUTION if estimate and home_ms > 0 else Level.GROUNDED,
            words={
                Level.CLEAR: "Against {wind} at {height} its ground speed home is {value}.",
                Level.CAUTION: "Against {wind} at {height} its ground speed home is only {value} (min {limit}).",
                Level.GROUNDED: "Against {wind} at {height} it cannot get home: ground speed {value} (min {limit}).",
            },
            remedy={
                Level.CAUTION: "Fly upwind first, stay low and close, and turn back early.",
                Level.GROUNDED: "Wait for less wind, or plan a lower flight and RTH altitude.",
            },
            source=f"wind against top speed: {PRACTICE}; a third of top speed: {OUR_CHOICE}",
            wind=speed(wind_ms),
            height=height(height_m),
        ),
    )


def judge_turn_back(set_percent: float, computed_percent: float | None) -> tuple[Finding, ...]:
    """Judge the charge at which it turns for home against the one computed for this flight and wind, both in per cent.

    ``computed_percent`` None: no charge is enough. Source: ``home.turn_backs``.
    """
    if computed_percent is None:
        return (
            Finding(
                name="Turn-back charge",
                level=Level.GROUNDED,
                value=percent(set_percent),
                reason=Phrase.of("From the farthest point it cannot get home against this wind, whatever the charge."),
                remedy="Plan a closer and lower flight, or wait for less wind.",
                source="way home as calculated",
            ),
        )
    return (
        measured(
            "Turn-back charge",
            percent(set_percent),
            percent(computed_percent),
            sense="min",
            span=100.0,
            caution=0.03,
            words={
                Level.CLEAR: "Turning back at {value} is early enough: from the farthest point it needs {limit}, reserve included.",
                Level.CAUTION: "Turning back at {value} leaves almost nothing: from the farthest point it needs {limit}.",
                Level.GROUNDED: "Turning back at {value} is too late: from the farthest point it needs {limit}, reserve included.",
            },
            remedy="Set it higher, or plan a closer flight.",
            source="way home and reserve as calculated",
        ),
    )
