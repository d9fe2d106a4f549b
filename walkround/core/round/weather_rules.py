"""The weather judged against the pilot's limits, for this aircraft and field."""

from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import (
    OUR_CHOICE,
    PRACTICE,
    Finding,
    Level,
    level_of,
    margin_above,
    margin_below,
    measured,
)
from walkround.core.base.phrase import Phrase, distance, height, minute, speed
from walkround.core.field.sight import judge_seen
from walkround.core.round.air_rules import judge_air
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.beaufort import Force, force
from walkround.core.weather.weather import BY_HAND, Phenomenon, Weather

STALE_CARE_MIN, STALE_GROUND_MIN = 75.0, 180.0
"""Age of a report in minutes: past the first care, past the second it says nothing about now. Source: our choice
(reports come hourly or half-hourly)."""


def judge_weather(weather: Weather, situation: Situation) -> tuple[Finding, ...]:
    """Judge the weather (inside units) for this aircraft, field and these limits; one finding for each known part.

    Source: limits of the pilot; each finding names its own.
    """
    findings = [
        *_wind(weather, situation),
        *_sky(weather, situation),
        *judge_air(weather, situation),
        *_reliability(weather, situation),
    ]
    return tuple(findings)


def _limited(name: str, value_ms: float, limit_ms: float, words: str, source: str) -> Finding:
    margin = margin_below(value_ms, limit_ms)
    level = level_of(margin)
    value, limit = speed(value_ms), speed(limit_ms)
    tail = {
        Level.CLEAR: " is well below your limit of {limit}.",
        Level.CARE: " is close to your limit of {limit}.",
        Level.GROUNDED: " is over your limit of {limit}.",
    }[level]
    remedy = {
        Level.CLEAR: "",
        Level.CARE: "Stay near and low; come home while it is still easy.",
        Level.GROUNDED: "Wait, or go home: no flight is worth it.",
    }[level]
    return measured(
        name, level, value, limit, sense="max", margin=margin, words=words + tail, remedy=remedy, source=source
    )


def judge_wind(wind_ms: float, limit_ms: float) -> Finding:
    """Judge a wind in m/s against the pilot's limit in m/s; one finding. Source: 15 mph, common practice, no source."""
    return _limited("Wind", wind_ms, limit_ms, "Mean wind {value}", PRACTICE)


def _judge_felt(felt: Force, limit_ms: float) -> Finding:
    words = felt.words()
    source = f"Beaufort scale, from memory; limit: {PRACTICE}"
    found = _limited("Wind", felt.most_ms, limit_ms, f"{words.text}, and {{value}}", source)
    reason = Phrase(text=found.reason.text, numbers=found.reason.numbers | words.numbers)
    return found.model_copy(update={"reason": reason})


def wind_at_flight_height_ms(weather: Weather, situation: Situation) -> float | None:
    """Mean wind in m/s at the field's flying height, or None when the report has none.

    Source: ``atmosphere.wind_at_height_ms``.
    """
    if weather.wind_ms is None:
        return None
    site = situation.site
    return atmosphere.wind_at_height_ms(weather.wind_ms, weather.wind_height_m, site.flight_height_m, site.terrain)


def _wind(weather: Weather, situation: Situation) -> list[Finding]:
    limit_ms = situation.limits.wind_ms
    at_height_ms = wind_at_flight_height_ms(weather, situation)
    if weather.wind_ms is None or at_height_ms is None:
        return [
            Finding(
                name="Wind",
                level=Level.GROUNDED,
                reason=Phrase.of("The wind could not be read, so nothing can be said about your limit."),
                remedy="Hold up a wind meter and enter what it shows.",
                source=OUR_CHOICE,
            )
        ]
    findings = [
        judge_wind(weather.wind_ms, limit_ms) if weather.felt is None else _judge_felt(force(weather.felt), limit_ms)
    ]
    if weather.gust_ms is not None:
        findings.append(_limited("Gust", weather.gust_ms, limit_ms, "A gust of {value}", PRACTICE))
        findings += _gust_spread(weather.gust_ms - weather.wind_ms)
    findings += _crosswind(weather, situation)
    site = situation.site
    law = (
        f"wind power law from {weather.wind_height_m:.0f} m up, exponent "
        f"{atmosphere.WIND_EXPONENT[site.terrain]:.2f} over {site.terrain} (from memory); limit: {PRACTICE}"
    )
    half_m = site.flight_height_m / 2
    between_ms = atmosphere.wind_at_height_ms(weather.wind_ms, weather.wind_height_m, half_m, site.terrain)
    words = "The wind at {height} above ground, {value} ({between} half as high),"
    aloft = _limited("Wind aloft", at_height_ms, limit_ms, words, law)
    numbers = aloft.reason.numbers | {"height": height(site.flight_height_m), "between": speed(between_ms)}
    findings.append(aloft.model_copy(update={"reason": Phrase(text=aloft.reason.text, numbers=numbers)}))
    top_ms = situation.aircraft.top_speed_ms
    against_ms = max(at_height_ms, weather.gust_ms or 0)
    home_ms = atmosphere.ground_speed_home_ms(top_ms, against_ms)
    margin = margin_above(home_ms, top_ms / 3, top_ms * 2 / 3)
    value, limit = speed(home_ms), speed(top_ms / 3)
    level = Level.GROUNDED if home_ms <= 0 else level_of(margin)
    words = {
        Level.CLEAR: "Straight against the strongest wind it still makes {value} over the ground.",
        Level.CARE: "Straight against the strongest wind it makes only {value} over the ground.",
        Level.GROUNDED: "Against the strongest wind it makes {value} of its {top}: coming home is not sure.",
    }[level]
    findings.append(
        Finding(
            name="Way home",
            level=level,
            value=value,
            limit=limit,
            sense="min",
            margin=margin,
            reason=Phrase.of(words, value=value, top=speed(top_ms)),
            remedy="" if level is Level.CLEAR else "Fly upwind first, so that home lies downwind.",
            source="wind against top speed: common practice, no source; a third of top speed: our choice",
        )
    )
    return findings


GUST_SPREAD_MS = 5.144
"""Gusts more than this above the mean, in m/s, make a day gusty. Source: 10 kt, from which on reports name gusts, ICAO Annex
3 (from memory)."""


def _gust_spread(spread_ms: float) -> list[Finding]:
    """How much the wind jumps; care, never more: the gust itself is held to the limit."""
    margin = margin_below(spread_ms, GUST_SPREAD_MS)
    level = Level.CARE if margin <= 0 else Level.CLEAR
    value, limit = speed(spread_ms), speed(GUST_SPREAD_MS)
    words = "Gusts lie {value} above the mean"
    return [
        measured(
            "Gust spread",
            level,
            value,
            limit,
            sense="max",
            margin=max(margin, 0.0),
            words=words + (": it is thrown about." if level else "."),
            remedy="Land with height and speed to spare, away from trees and roofs." if level else "",
            source="10 kt, from which on reports name gusts: ICAO Annex 3 (from memory)",
        )
    ]


def _crosswind(weather: Weather, situation: Situation) -> list[Finding]:
    """For an aircraft on wheels at a field with a strip."""
    strip_deg, strongest_ms = situation.site.strip_deg, weather.strongest_ms()
    if strip_deg is None or strongest_ms is None or not situation.aircraft.has(Trait.WHEELS):
        return []
    across_ms, along_ms = atmosphere.strip_wind_ms(strongest_ms, weather.wind_from_deg, strip_deg)
    found = _limited(
        "Crosswind",
        across_ms,
        situation.limits.crosswind_ms,
        "Across the strip {value}",
        "components of the wind; " + OUR_CHOICE,
    )
    towards = f"{(strip_deg if along_ms >= 0 else strip_deg + 180) % 360:.0f}°"
    way = (
        " Its direction is not known, so all of it counts."
        if weather.wind_from_deg is None
        else f" Into the wind is towards {towards}."
    )
    reason = Phrase(text=found.reason.text + way, numbers=found.reason.numbers)
    remedy = {
        Level.CLEAR: "",
        Level.CARE: "Hold aileron into it on the roll.",
        Level.GROUNDED: "Wait until it turns or eases, or use another strip.",
    }[found.level]
    return [found.model_copy(update={"reason": reason, "remedy": remedy})]


def _sky(weather: Weather, situation: Situation) -> list[Finding]:
    findings = [] if weather.phenomena is None else [_falling(weather.phenomena, situation)]
    limits = situation.limits
    if weather.visibility_m is not None:
        margin = margin_above(weather.visibility_m, limits.visibility_m)
        level = level_of(margin)
        value, limit = distance(weather.visibility_m), distance(limits.visibility_m)
        words = "Visibility {value}." if level is Level.CLEAR else "Visibility {value} against your {limit}."
        findings.append(
            measured(
                "Visibility",
                level,
                value,
                limit,
                sense="min",
                margin=margin,
                words=words,
                remedy="Keep it closer than you think, or wait for better air.",
                source="14 CFR 107.51, three statute miles (from memory); your own limit",
            )
        )
        findings += judge_seen(weather.visibility_m, situation.site)
    if weather.ceiling_m is None:
        findings += _reckoned_base(weather, situation)
    else:
        needed_m = situation.site.flight_height_m + limits.cloud_clearance_m
        margin = margin_above(weather.ceiling_m, needed_m)
        level = level_of(margin)
        value, limit = height(weather.ceiling_m), height(needed_m)
        words = "Cloud base {value}; your flying height and clearance ask for {limit}."
        findings.append(
            measured(
                "Cloud base",
                level,
                value,
                limit,
                sense="min",
                margin=margin,
                words=words,
                remedy="Stay lower, or wait until it lifts.",
                source="14 CFR 107.51, 500 ft below cloud (from memory)",
            )
        )
    return findings


BASE_M_PER_C = 125.0
"""Cloud base above ground in m for each °C between temperature and dew point. Source: Espy's rule; 400 ft for each °C in
pilots' handbooks (from memory)."""


def _reckoned_base(weather: Weather, situation: Situation) -> list[Finding]:
    """The cloud base from the dew point where nobody reported or measured one; care at most, there may be no cloud at all."""
    known = weather.ceiling_known and weather.text != BY_HAND
    if known or weather.temperature_c is None or weather.dew_point_c is None:
        return []
    base_m = BASE_M_PER_C * max(0.0, weather.temperature_c - weather.dew_point_c)
    needed_m = situation.site.flight_height_m + situation.limits.cloud_clearance_m
    margin = margin_above(base_m, needed_m)
    value, limit = height(base_m), height(needed_m)
    level = Level.CARE if level_of(margin) is not Level.CLEAR else Level.CLEAR
    words = "Nobody measured the cloud base. By the dew point, cloud that forms lies from {value} up; you need {limit}."
    return [
        measured(
            "Cloud base",
            level,
            value,
            limit,
            sense="min",
            margin=max(margin, 0.0),
            words=words,
            remedy="Look up: if it hangs low, stay lower or wait.",
            source="125 m for each °C of dew-point spread, Espy's rule (from memory)",
        )
    ]


def _falling(phenomena: tuple[Phenomenon, ...], situation: Situation) -> Finding:
    here = [p for p in phenomena if not p.nearby]
    names = ", ".join(p.words for p in phenomena)
    sealed = situation.aircraft.has(Trait.SEALED)
    level, remedy = Level.CLEAR, ""
    words = "Nothing falls from the sky." if not phenomena else f"Reported: {names}."
    if any(p.thunder for p in phenomena):
        level, words, remedy = (
            Level.GROUNDED,
            f"Reported: {names}. Lightning reaches far.",
            "Pack up and get under cover.",
        )
    elif any(p.freezing for p in here):
        level, words, remedy = Level.GROUNDED, f"Reported: {names}. Ice takes the lift away.", "Another day."
    elif any(p.precipitation for p in here):
        if sealed:
            level, words = Level.CARE, f"Reported: {names}. This aircraft is sealed; you and the screen are not."
            remedy = "Dry it afterwards, contacts first."
        else:
            level, words = Level.GROUNDED, f"Reported: {names}. This aircraft is not sealed against rain."
            remedy = "Wait until it is dry."
    elif any(p.nearby for p in phenomena):
        level, remedy = Level.CARE, "Watch it come; land before it is here."
    return Finding(
        name="Precipitation",
        level=level,
        reason=Phrase.of(words),
        remedy=remedy,
        source="any precipitation grounds an unsealed aircraft; common practice, no source",
    )


def _reliability(weather: Weather, situation: Situation) -> list[Finding]:
    findings = []
    age_min = (situation.now - weather.at).total_seconds() / 60
    if age_min > STALE_CARE_MIN:
        level = Level.GROUNDED if age_min > STALE_GROUND_MIN else Level.CARE
        limit_min = STALE_GROUND_MIN if level is Level.GROUNDED else STALE_CARE_MIN
        value = minute(age_min)
        findings.append(
            Finding(
                name="Age of the report",
                level=level,
                value=value,
                limit=minute(limit_min),
                sense="max",
                margin=margin_below(age_min, limit_min),
                reason=Phrase.of("The weather is {value} old; the sky has moved on.", value=value),
                remedy="Fetch a newer report, or enter what you see.",
                source=OUR_CHOICE,
            )
        )
    if weather.missing or weather.notes:
        gaps = f"Not in the report, or not readable: {', '.join(weather.missing)}." if weather.missing else ""
        findings.append(
            Finding(
                name="Not read",
                level=Level.CARE,
                reason=Phrase.of(
                    " ".join([gaps, *(f"{note[0].upper()}{note[1:]}." for note in weather.notes)]).strip()
                ),
                remedy="Look and measure these yourself before you trust the rest.",
                source=OUR_CHOICE,
            )
        )
    if weather.trend:
        findings.append(
            Finding(
                name="Change ahead",
                level=Level.CARE,
                reason=Phrase.of(f"The report expects a change: {weather.trend}."),
                remedy="Plan to be down before it comes.",
            )
        )
    return findings
