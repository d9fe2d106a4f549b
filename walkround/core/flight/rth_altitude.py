"""Link and coming home: how high the return must be, and how high it should not be."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.phrase import height
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.field.marks import Mark
from walkround.core.field.site import Site
from walkround.core.flight.speed_home import highest_home_m
from walkround.core.pilot.limits import Limits
from walkround.core.weather.weather import Weather

LEAST_RTH_ALTITUDE_M = 15.0
MOST_M = 1_000
"""Without any obstacle the return still climbs to this height, in m. Source: our choice."""


class RthAltitude(Struct, frozen=True, kw_only=True):
    """The lowest safe return height and, where wind asks for it, the highest sensible one; all in m above launch."""

    lowest_m: float
    highest_m: float
    tallest: Mark | None = None
    tallest_away_m: float = 0.0
    wind_limited: bool = False

    @property
    def lowest(self) -> Quantity:
        """The lowest safe return height as a quantity."""
        return height(self.lowest_m)


def rth_altitude(site: Site, aircraft: Aircraft, limits: Limits, weather: Weather | None) -> RthAltitude:
    """Lowest safe RTH altitude in m: tallest obstacle between any point of the flight and home, plus the margin.

    The flight may be anywhere within the field's flying circle, so every obstacle within that circle, widened by the
    position allowance, counts. Over open water with strong wind the *highest* sensible height is pulled down to where
    the aircraft still makes half its top speed against the wind, but never below the lowest safe one.
    Source: tallest obstacle plus margin, and lower over open water in strong wind: common practice, no source;
    half of top speed: our choice; wind by ``atmosphere.wind_at_height_ms``.
    """
    tallest = site.tallest(limits.position_allowance_m)
    tops = [top for top in (tallest.height_m if tallest else 0.0, site.ground_rise_m) if top > 0]
    lowest_m = max([LEAST_RTH_ALTITUDE_M, *(top + limits.return_margin_m for top in tops)])
    highest_m, limited = limits.height_max_m, False
    if site.over_water and weather is not None and weather.wind_ms is not None:
        highest_m = highest_home_m(aircraft, weather, site, lowest_m, limits.height_max_m)
        limited = highest_m < limits.height_max_m
    return RthAltitude(
        lowest_m=lowest_m,
        highest_m=highest_m,
        tallest=tallest,
        tallest_away_m=site.away(tallest)[0] if tallest else 0.0,
        wind_limited=limited,
    )


def judge_rth_altitude(
    setting_m: float, site: Site, aircraft: Aircraft, limits: Limits, weather: Weather | None
) -> tuple[Finding, ...]:
    """Judge the return height set in the aircraft (m above launch) against the lowest safe and highest sensible one.

    Raises InputError for a setting that cannot be. Source: as ``rth_altitude``.
    """
    if not 0 < setting_m <= MOST_M:
        raise InputError(f"An RTH altitude must be above 0 and below {MOST_M} m ({MOST_M / 0.3048:,.0f} ft).", "number")
    needs = rth_altitude(site, aircraft, limits, weather)
    value, lowest = height(setting_m), height(needs.lowest_m)
    findings = [_low(setting_m, needs)]
    if setting_m > limits.height_max_m:
        limit = height(limits.height_max_m)
        findings.append(
            measured(
                "Ceiling",
                value,
                limit,
                sense="max",
                level=Level.GROUNDED,
                words="Set to {value}, above your maximum height of {limit}.",
                remedy="Set it lower. If the obstacles need more, fly somewhere else.",
                source="Regulation (EU) 2019/947, 120 m; 14 CFR 107.51, 400 ft (from memory)",
            )
        )
    elif needs.wind_limited and setting_m > needs.highest_m:
        findings.append(_high(setting_m, needs))
    if needs.lowest_m > limits.height_max_m:
        findings.append(
            measured(
                "Obstacle",
                lowest,
                height(limits.height_max_m),
                sense="max",
                level=Level.GROUNDED,
                words="The lowest safe RTH altitude, {value}, is above your maximum height.",
                remedy="Plan a smaller flying circle, away from the tallest obstacle.",
                source=PRACTICE,
            )
        )
    return tuple(findings)


def _low(setting_m: float, needs: RthAltitude) -> Finding:
    more = {}
    if needs.tallest is None:
        what = "No obstacle is marked within the flying circle"
    else:
        what = f"The {needs.tallest.words} at {{away}} is {{tall}} high"
        more = {"away": height(needs.tallest_away_m), "tall": height(needs.tallest.height_m)}
    clear = (
        "; the RTH altitude is {value}."
        if needs.tallest is None
        else "; an RTH altitude of {value} clears it with your margin."
    )
    return measured(
        "RTH altitude",
        height(setting_m),
        height(needs.lowest_m),
        sense="min",
        level=Level.GROUNDED if setting_m < needs.lowest_m else Level.CLEAR,
        words={
            Level.CLEAR: what + clear,
            Level.GROUNDED: what + "; the RTH altitude is {value} (min {limit}).",
        },
        remedy="Set it higher in the aircraft, check the setting, and enter it again.",
        source=PRACTICE,
        numbers=more,
    )


def _high(setting_m: float, needs: RthAltitude) -> Finding:
    return measured(
        "Wind at RTH altitude",
        height(setting_m),
        height(needs.highest_m),
        sense="max",
        level=Level.CAUTION,
        words="Set to {value}. Over open water in this wind, {limit} would use less battery and is faster.",
        remedy="Lower the RTH altitude, but not below the lowest safe one.",
        source=PRACTICE + "; half of top speed: " + OUR_CHOICE,
    )
