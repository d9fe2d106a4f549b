"""Judging numbers: against the bands of a check, or by the rule it names."""

from collections.abc import Callable

from walkround.core.base.finding import PRACTICE, Finding, Level, margin_above, margin_below
from walkround.core.base.phrase import Phrase, volt
from walkround.core.base.units import Measure, Quantity
from walkround.core.checklist.check import Band
from walkround.core.field.site import judge_interference, judge_launch_circle
from walkround.core.flight import home, return_height
from walkround.core.packs import bands
from walkround.core.round import weather_rules
from walkround.core.round.context import Context
from walkround.core.sensors import satellites


def half_width(band: Band) -> float | None:
    """Half of what lies between the inner bounds of a band that has both, in its unit; else None.

    A value in the middle is as far from biting as it can be. Source: definition of the margin in the design.
    """
    lows = [x for x in (band.ground_below, band.care_below) if x is not None]
    highs = [x for x in (band.care_above, band.ground_above) if x is not None]
    return (min(highs) - max(lows)) / 2 if lows and highs else None


def judge_band(value: float, measure: Measure, label: str, band: Band, source: str = PRACTICE) -> Finding:
    """Judge a number (in the measure's inside unit) against the bands of a check. Source: the check's own."""
    shown = Quantity(value=value, measure=measure)
    span = half_width(band)
    tight: list[tuple[float, Level, float, str, str]] = []  # margin, level, limit, sense, words
    low, high = band.low or "{value} is below {limit}.", band.high or "{value} is above {limit}."
    over = False
    for bound, level in ((band.ground_below, Level.GROUNDED), (band.care_below, Level.CARE)):
        if bound is not None and not over:
            over = value < bound
            tight.append((margin_above(value, bound, span), level if over else Level.CLEAR, bound, "min", low))
    over = False
    for bound, level in ((band.ground_above, Level.GROUNDED), (band.care_above, Level.CARE)):
        if bound is not None and not over:
            over = value > bound
            tight.append((margin_below(value, bound, span), level if over else Level.CLEAR, bound, "max", high))
    margin, level, limit_value, sense, words = max(tight, key=lambda t: (t[1], -t[0]))
    limit = Quantity(value=limit_value, measure=measure)
    return Finding(
        name=label,
        level=level,
        value=shown,
        limit=limit,
        sense="min" if sense == "min" else "max",
        margin=margin,
        reason=Phrase.of(band.good if level is Level.CLEAR else words, value=shown, limit=limit),
        remedy="" if level is Level.CLEAR else band.remedy,
        source=source,
    )


def _bands(value: float, context: Context) -> tuple[Finding, ...]:
    need = context.situation.aircraft.bands or 8
    band = Band(
        ground_below=need,
        low="{value} bands hold the wing; this one wants {limit}.",
        good="{value} bands, stretched evenly.",
        remedy="Fit fresh bands until the count is right.",
    )
    return (judge_band(value, Measure.COUNT, "Rubber bands", band, "eight on a trainer; " + PRACTICE),)


def _balance(value: float, context: Context) -> tuple[Finding, ...]:
    aircraft = context.situation.aircraft
    if aircraft.balance_min_mm is None or aircraft.balance_max_mm is None:
        return (
            Finding(
                name="Balance point",
                level=Level.CARE,
                value=Quantity(value=value, measure=Measure.MILLIMETRE),
                reason=Phrase.of("The maker's balance range is not entered for this aircraft."),
                remedy="Look it up in the manual and enter it in the hangar; a flight without it is guesswork.",
            ),
        )
    band = Band(
        ground_below=aircraft.balance_min_mm,
        ground_above=aircraft.balance_max_mm,
        low="It balances {value} behind the leading edge, ahead of the maker's {limit}: nose-heavy.",
        high="It balances {value} behind the leading edge, behind the maker's {limit}: tail-heavy.",
        good="It balances at {value}, inside the maker's range.",
        remedy="Move the pack and measure again.",
    )
    return (judge_band(value, Measure.MILLIMETRE, "Balance point", band, "the maker's manual"),)


def _pack_temperature(value: float, context: Context) -> tuple[Finding, ...]:
    """The bands, and where the cells would sag below their floor: how warm the pack has to be for this aircraft."""
    load = context.load(value)
    warm_to_c = None if load is None or load.warm_to_c is None or load.warm_to_c <= value else load.warm_to_c
    found = bands.judge_pack_temperature(value, warm_to_c)
    if load is None or warm_to_c is None or load.full_v >= load.floor_v:
        return found
    shown, floor = volt(load.full_v), volt(load.floor_v)
    sag = Finding(
        name="Cell at full throttle",
        level=Level.CARE,
        value=shown,
        limit=floor,
        sense="min",
        margin=margin_above(load.full_v, load.floor_v),
        reason=Phrase.of("At full throttle a cell would show {value}, below {limit}.", value=shown, limit=floor),
        remedy="Warm it first, fly gently, and watch the volts.",
        source="resting curve and resistance, Ohm's law; 3.3 V under load from memory",
    )
    return (*found, sag)


def _wind(value: float, context: Context) -> tuple[Finding, ...]:
    finding = weather_rules.judge_wind(value, context.situation.limits.wind_ms)
    reason = Phrase(
        text=finding.reason.text.replace("Mean wind", "The strongest here,"), numbers=finding.reason.numbers
    )
    return (finding.model_copy(update={"name": "Wind here", "reason": reason}),)


def _return_height(value: float, context: Context) -> tuple[Finding, ...]:
    s = context.situation
    found = return_height.judge_return_height(value, s.site, s.aircraft, s.limits, context.weather)
    place = home.Place(distance_m=s.site.reach_m, height_m=s.site.flight_height_m)
    way = home.homeward(context.trip, place, value)
    return (*found, *home.judge_home(way, setting_m=value))


def _ceiling(value: float, context: Context) -> tuple[Finding, ...]:
    band = Band(
        ground_above=context.situation.limits.height_max_m,
        high="{value} is above the ceiling of {limit}.",
        good="{value} at the highest, below the ceiling.",
        remedy="Plan it lower; the ceiling counts from the ground below it.",
    )
    return (judge_band(value, Measure.HEIGHT, "Height", band, "your ceiling; the authority's current text prevails"),)


def _people(value: float, context: Context) -> tuple[Finding, ...]:
    least = context.situation.limits.people_m
    band = Band(
        ground_below=least,
        care_below=least * 1.25,
        low="{value} to the nearest person; your line stands at {limit}.",
        good="{value} to the nearest person.",
        remedy="Move the line back, or the box away.",
    )
    return (judge_band(value, Measure.HEIGHT, "People", band, "your limit; the authority and the club prevail"),)


CARD_FLOOR_GB = 8.0
"""A card with less free space than this is care where the camera's bit rate is not known. Source: our choice."""


def _card(value: float, context: Context) -> tuple[Finding, ...]:
    """Free space as minutes at the camera's bit rate, against the planned flight twice over."""
    rate = context.situation.aircraft.record_mbits
    if rate is None:
        band = Band(
            care_below=CARD_FLOOR_GB,
            low="{value} free; a flight may want more than {limit}.",
            good="{value} free.",
            remedy="Empty it or take the second card.",
        )
        return (judge_band(value, Measure.GIGABYTE, "Free space", band, "our choice; common practice, no source"),)
    minutes = value * 8_000 / rate / 60
    band = Band(
        care_below=2 * context.planned_min,
        low="The card holds {value} of recording; two such flights want {limit}.",
        good="The card holds {value} of recording.",
        remedy="Empty it or take the second card.",
    )
    return (judge_band(minutes, Measure.MINUTE, "Recording", band, "1 GB is 8,000 Mbit; margin our choice"),)


RULES: dict[str, Callable[[float, Context], tuple[Finding, ...]]] = {
    "launch_circle": lambda value, context: judge_launch_circle(value),
    "people": _people,
    "interference": lambda value, context: judge_interference(value),
    "heading": lambda value, context: satellites.judge_heading(value),
    "charge_percent": lambda value, context: bands.judge_charge_percent(value, context.situation.practices.charge),
    "pack_temperature": _pack_temperature,
    "card": _card,
    "ceiling": _ceiling,
    "wind": _wind,
    "bands": _bands,
    "balance": _balance,
    "return_height": _return_height,
}
"""Rules for numbers, by the name a check gives. Source: each rule names its own."""
