"""Judging numbers that need the whole round, by the rule that a check names."""

from collections.abc import Callable

from walkround.core.aircraft.traits import Trait
from walkround.core.answers.home import HomeSeen
from walkround.core.answers.number import Band, judge_band
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, volt
from walkround.core.base.units import Measure, Quantity
from walkround.core.field.interference import judge_paced
from walkround.core.field.site import judge_launch_circle
from walkround.core.flight import return_to_home, rth_altitude
from walkround.core.flight.flight_plan import winds_at
from walkround.core.flight.speed_home import judge_getting_home, judge_turn_back
from walkround.core.lost_link import landing_circle
from walkround.core.lost_link.failsafe_rules import judge_hold
from walkround.core.packs import bands
from walkround.core.packs.chemistry import CELLS
from walkround.core.round import weather_rules
from walkround.core.round.context import Context
from walkround.core.sensors import satellites


def _bands(value: float, context: Context) -> tuple[Finding, ...]:
    need = context.situation.aircraft.bands or 8
    band = Band(
        ground_below=need,
        low="{value} bands hold the wing. This one needs {limit}.",
        good="{value} bands, stretched evenly.",
        remedy="Fit fresh bands until the count is right.",
    )
    return (judge_band(value, Measure.COUNT, "Rubber bands", band, "eight on a trainer; " + PRACTICE),)


def _centre_of_gravity(value: float, context: Context) -> tuple[Finding, ...]:
    aircraft = context.situation.aircraft
    if aircraft.cg_min_mm is None or aircraft.cg_max_mm is None:
        return (
            Finding(
                name="Centre of gravity",
                level=Level.CAUTION,
                value=Quantity(value=value, measure=Measure.MILLIMETRE),
                reason=Phrase.of("No CG range is entered for this aircraft."),
                remedy="Look it up in the manual and enter it in the hangar. Flying without a known CG range is guesswork.",
            ),
        )
    band = Band(
        ground_below=aircraft.cg_min_mm,
        ground_above=aircraft.cg_max_mm,
        low="CG {value} behind the leading edge, in front of the maker's {limit}: nose-heavy.",
        high="CG {value} behind the leading edge, behind the maker's {limit}: tail-heavy.",
        good="CG at {value}, within the maker's range.",
        remedy="Move the pack and measure again.",
    )
    return (judge_band(value, Measure.MILLIMETRE, "Centre of gravity", band, "the maker's manual"),)


RECEIVER_LEAST_V = 4.7
"""Less than this starves a receiver, in V. Source: common practice, no source."""
RECEIVER_MOST_V = 8.5
"""Above this most servos are not rated, in V: two full lithium cells. Source: our choice."""


def _receiver_voltage(value: float, context: Context) -> tuple[Finding, ...]:
    """With the servos moving: what the receiver needs, and what the cells of its pack may not fall below."""
    kind, cells = CELLS[context.situation.pack.chemistry], context.situation.pack.cells
    band = Band(
        ground_below=max(RECEIVER_LEAST_V, round(cells * kind.load_floor_v, 2)),
        caution_below=max(RECEIVER_LEAST_V + 0.1, round(cells * kind.bench_v, 2)),
        caution_above=RECEIVER_MOST_V,
        low="{value} with the servos moving. This pack needs {limit}.",
        high="{value} is above {limit}. Check the ratings of receiver and servos.",
        good="{value} with the servos moving.",
        remedy="Charge the receiver pack, or find the servo that binds.",
    )
    return (judge_band(value, Measure.VOLT, "Receiver voltage", band, "4.7 V: " + PRACTICE + "; cells: " + OUR_CHOICE),)


def _alarm(value: float, context: Context) -> tuple[Finding, ...]:
    """The alarm a cell, against what this chemistry may show under load and what a resting charged cell shows."""
    kind = CELLS[context.situation.pack.chemistry]
    band = Band(
        ground_below=kind.load_floor_v,
        caution_below=round((kind.load_floor_v + kind.alarm_v) / 2, 2),
        caution_above=kind.floor_v,
        low="The alarm at {value} comes too late. Set it to {limit} or more.",
        high="The alarm at {value} sounds too early and will be ignored.",
        good="The alarm sounds at {value}.",
        remedy="The flight-time page suggests a value for this pack.",
    )
    return (judge_band(value, Measure.VOLT, "Low-voltage alarm", band, "load floor from memory; bands our choice"),)


def _pack_temperature(value: float, context: Context) -> tuple[Finding, ...]:
    """The bands, and where the cells would sag below their floor: how warm the pack has to be for this aircraft."""
    load = context.load(value)
    warm_to_c = None if load is None or load.warm_to_c is None or load.warm_to_c <= value else load.warm_to_c
    found = bands.judge_pack_temperature(value, warm_to_c)
    if load is None or warm_to_c is None or load.full_v >= load.floor_v:
        return found
    sag = measured(
        "Cell at full throttle",
        volt(load.full_v),
        volt(load.floor_v),
        sense="min",
        level=Level.CAUTION,
        words="At full throttle a cell would drop to {value} (min {limit}).",
        remedy="Warm it first, fly gently and watch the voltage.",
        source="resting curve and resistance, Ohm's law; 3.3 V under load from memory",
    )
    return (*found, sag)


def _wind(value: float, context: Context) -> tuple[Finding, ...]:
    limit_ms = weather_rules.wind_limit_ms(context.situation)
    return (weather_rules.judge_wind(value, limit_ms, "Wind here", "The strongest here, {value},"),)


def _rth_altitude(value: float, context: Context) -> tuple[Finding, ...]:
    s = context.situation
    return return_findings(context, return_to_home.TurnPoint(distance_m=s.site.reach_m, height_m=context.top_m), value)


def return_findings(
    context: Context,
    place: return_to_home.TurnPoint,
    setting_m: float,
    way: return_to_home.Homeward | None = None,
) -> tuple[Finding, ...]:
    """Judge a return height (m above launch) for the way home from a place: clearance, ceiling, wind there, cost. ``way``: that
    way home if at hand.

    The height is judged only where the aircraft has return-home.
    """
    s = context.situation
    way = way or return_to_home.homeward(context.trip, place, setting_m)
    returns = s.aircraft.has(Trait.RETURN_HOME)
    return (
        *(rth_altitude.judge_rth_altitude(setting_m, s.site, s.aircraft, s.limits, context.weather) if returns else ()),
        *judge_getting_home(s.aircraft, context.weather, s.site, max(setting_m, context.highest_m)),
        *return_to_home.judge_cost(way, setting_m=setting_m),
    )


def _turn_back(value: float, context: Context) -> tuple[Finding, ...]:
    return judge_turn_back(value, context.turn_back_percent)


def _max_height(value: float, context: Context) -> tuple[Finding, ...]:
    band = Band(
        ground_above=context.situation.limits.height_max_m,
        high="{value} is above your maximum height of {limit}.",
        good="{value} at the highest, below your maximum height.",
        remedy="Plan a lower flight. The height counts from the ground below.",
    )
    return (
        judge_band(value, Measure.HEIGHT, "Height", band, "your maximum height; the authority's current text prevails"),
    )


def _people(value: float, context: Context) -> tuple[Finding, ...]:
    least = context.situation.limits.people_m
    band = Band(
        ground_below=least,
        caution_below=least * 1.25,
        low="{value} to the nearest person. Your spectator line is at {limit}.",
        good="{value} to the nearest person.",
        remedy="Move the line back, or the flying box away.",
    )
    return (judge_band(value, Measure.HEIGHT, "People", band, "your limit; the authority and the club prevail"),)


CARD_FLOOR_GB = 8.0
"""A card with less free space than this is a caution where the camera's bit rate is not known. Source: our choice."""


def _card(value: float, context: Context) -> tuple[Finding, ...]:
    """Free space as minutes at the camera's bit rate, against the planned flight twice over."""
    rate = context.situation.aircraft.record_mbits
    if rate is None:
        band = Band(
            caution_below=CARD_FLOOR_GB,
            low="{value} free. A flight may need more than {limit}.",
            good="{value} free.",
            remedy="Empty it or use another card.",
        )
        return (judge_band(value, Measure.GIGABYTE, "Free space", band, "our choice; common practice, no source"),)
    minutes = value * 8_000 / rate / 60
    band = Band(
        caution_below=2 * context.planned_min,
        low="The card holds {value} of recording. Two flights need {limit}.",
        good="The card holds {value} of recording.",
        remedy="Empty it or use another card.",
    )
    return (judge_band(minutes, Measure.MINUTE, "Recording", band, "1 GB is 8,000 Mbit; margin our choice"),)


def _landing_circle(value: float, context: Context) -> tuple[Finding, ...]:
    """Where it would land, by the fix, the paces and the home point of this round."""
    home = context.answers.get("sensors.home_point")
    at = home.answer if home is not None and isinstance(home.answer, HomeSeen) else HomeSeen(option="here")
    return landing_circle.judge_landing(
        context.situation.site, context.landing_spread, context.paced_clear_m, at.offset_m, at.toward_deg
    )


def _hold_last(value: float, context: Context) -> tuple[Finding, ...]:
    s, plan = context.situation, context.flight_plan
    wind_ms, _ = winds_at(context.weather, s.site, plan.height_m)
    settings = s.aircraft.failsafe
    return judge_hold(
        s.aircraft, context.endurance(), context.charge.mid, wind_ms,
        throttle_percent=None if settings is None else settings.throttle_percent, height_m=plan.height_m,
    )  # fmt: skip


RULES: dict[str, Callable[[float, Context], tuple[Finding, ...]]] = {
    "launch_circle": lambda value, context: judge_launch_circle(value),
    "people": _people,
    "interference": lambda value, context: judge_paced(value, context.situation.aircraft, context.situation.site),
    "turn_back": _turn_back,
    "heading": lambda value, context: satellites.heading_finding(value),
    "charge_percent": lambda value, context: bands.judge_charge_percent(
        value, context.situation.methods.charge, context.situation.pack
    ),
    "pack_temperature": _pack_temperature,
    "card": _card,
    "max_height": _max_height,
    "wind": _wind,
    "bands": _bands,
    "receiver_voltage": _receiver_voltage,
    "alarm": _alarm,
    "cg": _centre_of_gravity,
    "rth_altitude": _rth_altitude,
    "hold_last": _hold_last,
    "landing_circle": _landing_circle,
}
"""Rules for numbers, by the name a check gives. Source: each rule names its own."""
