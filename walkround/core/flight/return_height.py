"""Link and coming home: how high the return must be, and how high it should not be."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, margin_above, margin_below, measured
from walkround.core.base.phrase import Phrase, height, speed
from walkround.core.base.units import Quantity
from walkround.core.base.value import Value
from walkround.core.field.marks import Mark
from walkround.core.field.site import Site
from walkround.core.pilot.limits import Limits
from walkround.core.weather.atmosphere import ground_speed_home_ms, wind_at_height_ms
from walkround.core.weather.weather import Weather

STRONG_WIND_SHARE = 0.5
"""Wind at the return height above this share of top speed counts as strong. Source: our choice."""
LEAST_RETURN_M = 15.0
"""Without any obstacle the return still climbs to this height, in m. Source: our choice."""
STEP_M = 1.0


class ReturnHeight(Value):
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


def return_height(site: Site, aircraft: Aircraft, limits: Limits, weather: Weather | None) -> ReturnHeight:
    """Lowest safe return height in m: tallest obstacle between any point of the flight and home, plus the margin.

    The flight may be anywhere within the field's flying circle, so every obstacle within that circle, widened by the
    position allowance, counts. Over open water with strong wind the *highest* sensible height is pulled down to where
    the aircraft still makes half its top speed against the wind, but never below the lowest safe one.
    Source: tallest obstacle plus margin, and lower over open water in strong wind: common practice, no source;
    half of top speed: our choice; wind by ``atmosphere.wind_at_height_ms``.
    """
    tallest = site.tallest(limits.position_allowance_m)
    tops = [top for top in (tallest.height_m if tallest else 0.0, site.ground_rise_m) if top > 0]
    lowest_m = max([LEAST_RETURN_M, *(top + limits.return_margin_m for top in tops)])
    highest_m, limited = limits.height_max_m, False
    strongest_ms = None if weather is None else weather.strongest_ms()
    if site.over_water and weather is not None and strongest_ms is not None:
        most_ms = aircraft.top_speed_ms * STRONG_WIND_SHARE
        top_m = highest_m
        while top_m > lowest_m and (
            wind_at_height_ms(strongest_ms, weather.wind_height_m, top_m, site.terrain) > most_ms
        ):
            top_m -= STEP_M
        limited = top_m < highest_m
        highest_m = max(top_m, lowest_m)
    return ReturnHeight(
        lowest_m=lowest_m,
        highest_m=highest_m,
        tallest=tallest,
        tallest_away_m=site.away(tallest)[0] if tallest else 0.0,
        wind_limited=limited,
    )


def judge_return_height(
    setting_m: float, site: Site, aircraft: Aircraft, limits: Limits, weather: Weather | None
) -> tuple[Finding, ...]:
    """Judge the return height set in the aircraft (m above launch) against the lowest safe and highest sensible one.

    Raises InputError for a setting that cannot be. Source: as ``return_height``.
    """
    if not 0 < setting_m <= 1_000:
        raise InputError("A return height lies above 0 and below 1,000 m (3,280 ft).", "number")
    needs = return_height(site, aircraft, limits, weather)
    value, lowest = height(setting_m), height(needs.lowest_m)
    findings = [_low(setting_m, needs)]
    if setting_m > limits.height_max_m:
        limit = height(limits.height_max_m)
        findings.append(
            measured(
                "Ceiling",
                Level.GROUNDED,
                value,
                limit,
                sense="max",
                margin=margin_below(setting_m, limits.height_max_m),
                words="Set to {value}, above your ceiling of {limit}.",
                remedy="Set it lower. If the obstacles need more, fly somewhere else.",
                source="Regulation (EU) 2019/947, 120 m; 14 CFR 107.51, 400 ft (from memory)",
            )
        )
    elif needs.wind_limited and setting_m > needs.highest_m:
        findings.append(_high(setting_m, needs, aircraft, site, weather))
    if needs.lowest_m > limits.height_max_m:
        findings.append(
            Finding(
                name="Obstacle",
                level=Level.GROUNDED,
                value=lowest,
                limit=height(limits.height_max_m),
                sense="max",
                margin=margin_below(needs.lowest_m, limits.height_max_m),
                reason=Phrase.of("The lowest safe return, {value}, lies above your ceiling.", value=lowest),
                remedy="Plan a smaller flying circle, away from the tallest obstacle.",
                source=PRACTICE,
            )
        )
    return tuple(findings)


def _low(setting_m: float, needs: ReturnHeight) -> Finding:
    value, limit = height(setting_m), height(needs.lowest_m)
    numbers = {"value": value, "limit": limit}
    if needs.tallest is None:
        what = "No obstacle is marked within the flying circle"
    else:
        what = f"The {needs.tallest.words} at {{away}} is {{tall}} high"
        numbers |= {"away": height(needs.tallest_away_m), "tall": height(needs.tallest.height_m)}
    margin = margin_above(setting_m, needs.lowest_m)
    if setting_m < needs.lowest_m:
        level, words = Level.GROUNDED, "; the return is set to {value} and must be at least {limit}."
    else:
        level, words = Level.CLEAR, "; the return at {value} clears it with your margin."
        if needs.tallest is None:
            words = "; the return is set to {value}."
    return Finding(
        name="Return height",
        level=level,
        value=value,
        limit=limit,
        sense="min",
        margin=margin,
        reason=Phrase(text=what + words, numbers=numbers),
        remedy="" if level is Level.CLEAR else "Set it higher in the aircraft, read it back, and enter it again.",
    )


def _high(setting_m: float, needs: ReturnHeight, aircraft: Aircraft, site: Site, weather: Weather | None) -> Finding:
    assert weather is not None
    wind_ms = wind_at_height_ms(weather.strongest_ms() or 0, weather.wind_height_m, setting_m, site.terrain)
    home_ms = ground_speed_home_ms(aircraft.top_speed_ms, wind_ms)
    value, limit = height(setting_m), height(needs.highest_m)
    return measured(
        "Wind at return height",
        Level.GROUNDED if home_ms <= 0 else Level.CARE,
        value,
        limit,
        sense="max",
        margin=margin_below(setting_m, needs.highest_m),
        words="At {value} the wind is {wind} and it comes home at {home}. Over open water {limit} costs less.",
        remedy="Pull the return height down, but not below the lowest safe one.",
        source=PRACTICE + "; half of top speed: " + OUR_CHOICE,
        wind=speed(wind_ms),
        home=speed(home_ms),
    )
