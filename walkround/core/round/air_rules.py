"""The air judged: warmth for packs and fingers, fog, ice, and what thin air costs."""

import math

from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import Finding, Level, level_of, margin_above, margin_below, measured
from walkround.core.base.phrase import Phrase, height, percent, temperature
from walkround.core.field.site import Terrain
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.weather import Weather

ICE_CARE_C, ICE_GROUND_C = 5.0, 2.0
"""Air in °C at and below which wings and propellers may ice in visible moisture: engines and propellers are held to icing
from 5 °C down, airframes from 2 °C. Source: icing conditions in flight manuals and pilot reports, from memory; that the
second grounds is our choice."""
THIN_SHARE = 0.03
"""Less than this share of thrust lost is not spoken of (no unit). Source: our choice."""
FOG_SPREAD_C = 2.0
"""Temperature less dew point, in °C, at which fog becomes likely. Source: common practice, no source."""


def judge_air(weather: Weather, situation: Situation) -> list[Finding]:
    """Judge the air itself (°C, hPa): its warmth for pack and fingers, damp, ice, and how thin it is.

    Source: each finding names its own.
    """
    limits, findings = situation.limits, []
    if weather.temperature_c is not None:
        findings.append(_temperature(weather.temperature_c, limits.temperature_min_c, limits.temperature_max_c))
    if weather.temperature_c is not None and weather.dew_point_c is not None:
        spread_c = weather.temperature_c - weather.dew_point_c
        if spread_c <= FOG_SPREAD_C and (weather.wind_ms or 0) < 3:
            findings.append(
                Finding(
                    name="Fog risk",
                    level=Level.CARE,
                    reason=Phrase.of(
                        "Temperature {t} and dew point {d} lie close together in light wind: fog may form.",
                        t=temperature(weather.temperature_c),
                        d=temperature(weather.dew_point_c),
                    ),
                    remedy="Stay close; land at the first wisp.",
                )
            )
    findings += _icing(weather)
    findings += _fingers(weather)
    if weather.temperature_c is not None and weather.pressure_hpa is not None:
        value_m = atmosphere.density_altitude_m(
            weather.pressure_hpa, situation.site.elevation_m, weather.temperature_c, weather.dew_point_c
        )
        margin = margin_below(value_m, limits.density_altitude_m)
        level = level_of(margin)
        value, limit = height(value_m), height(limits.density_altitude_m)
        words = "Density altitude {value}." if level is Level.CLEAR else "Density altitude {value} against {limit}."
        findings.append(
            measured(
                "Density altitude",
                level,
                value,
                limit,
                sense="max",
                margin=margin,
                words=words,
                remedy="Expect less thrust and fewer minutes; fly light.",
                source="ICAO Doc 7488/3 for the value; the limit is yours",
            )
        )
        findings += _thin(weather, situation)
    return findings


FINGERS_CARE_C, FROSTBITE_C = 0.0, -27.0
"""Wind chill in °C at which bare fingers go slow, and at which skin may freeze within half an hour. Source: the second,
Environment Canada's wind chill hazards (from memory); the first is our choice."""


def _fingers(weather: Weather) -> list[Finding]:
    air_c, wind_ms = weather.temperature_c, weather.wind_ms
    if air_c is None or wind_ms is None:
        return []
    at_10_m = atmosphere.wind_at_height_ms(wind_ms, weather.wind_height_m, 10, Terrain.GRASS)
    felt_c = atmosphere.wind_chill_c(air_c, at_10_m)
    if felt_c >= FINGERS_CARE_C:
        return []
    grounds = felt_c <= FROSTBITE_C
    value, limit = temperature(felt_c), temperature(FROSTBITE_C)
    words = "On bare fingers the air feels like {value}" + (
        ": skin may freeze within half an hour." if grounds else "; they grow slow."
    )
    return [
        measured(
            "Fingers",
            Level.GROUNDED if grounds else Level.CARE,
            value,
            limit,
            sense="min",
            margin=margin_above(felt_c, FROSTBITE_C),
            words=words,
            remedy="Another day." if grounds else "Gloves with free tips, a muff over the transmitter, short flights.",
            source="wind chill 2001, Environment Canada and US NWS; frostbite from -27 °C (from memory); care at 0 °C: our choice",
        )
    ]


def _thin(weather: Weather, situation: Situation) -> list[Finding]:
    """What thin air costs: thrust goes with density, the power to hover with one over its root."""
    assert weather.pressure_hpa is not None and weather.temperature_c is not None
    station_hpa = atmosphere.station_pressure_hpa(weather.pressure_hpa, situation.site.elevation_m)
    share = (
        atmosphere.air_density(station_hpa, weather.temperature_c, weather.dew_point_c) / atmosphere.SEA_LEVEL_DENSITY
    )
    if share > 1 - THIN_SHARE or not situation.aircraft.has(Trait.MOTOR):
        return []
    hovers = situation.aircraft.kind is not Kind.WING
    words = "Thin air: {thrust} less thrust than at the sea in mild air"
    words += ", and {minutes} fewer minutes." if hovers and situation.aircraft.has(Trait.ELECTRIC) else "."
    numbers = {"thrust": percent(100 * (1 - share)), "minutes": percent(100 * (1 - math.sqrt(share)))}
    return [
        Finding(
            name="Thin air",
            level=Level.CLEAR,
            reason=Phrase.of(words, **numbers),
            source="thrust by density, hover power by momentum theory; ICAO Doc 7488/3 for the density",
        )
    ]


def _icing(weather: Weather) -> list[Finding]:
    air_c = weather.temperature_c
    if air_c is None or air_c > ICE_CARE_C:
        return []
    wet = [
        p.words for p in weather.phenomena or () if not p.nearby and (p.precipitation or {"FG", "BR"} & _pairs(p.code))
    ]
    damp = weather.dew_point_c is not None and air_c - weather.dew_point_c <= FOG_SPREAD_C
    if not wet and not (damp and air_c <= ICE_GROUND_C):
        return []
    grounds = bool(wet) and air_c <= ICE_GROUND_C
    what = ", ".join(wet) if wet else "damp air"
    return [
        Finding(
            name="Icing",
            level=Level.GROUNDED if grounds else Level.CARE,
            reason=Phrase.of(
                f"{{t}} with {what}: propellers and wings may ice, unseen from below.", t=temperature(air_c)
            ),
            remedy="Wait for drier or warmer air."
            if grounds
            else "Stay near; land early, unplug, then feel the blades.",
            source="icing conditions from 5 °C and from 2 °C down in visible moisture, from memory; our choice",
        )
    ]


def _pairs(code: str) -> set[str]:
    """A weather group in its two-letter parts."""
    letters = code.lstrip("+-")
    return {letters[i : i + 2] for i in range(0, len(letters), 2)}


def _temperature(value_c: float, low_c: float, high_c: float) -> Finding:
    cold, hot = margin_above(value_c, low_c, 20), margin_above(high_c, value_c, 20)
    value = temperature(value_c)
    if cold <= hot:
        margin, limit, remedy = cold, temperature(low_c), "Warm packs and fingers; hover first and watch the volts."
    else:
        margin, limit, remedy = hot, temperature(high_c), "Shade for packs and pilot; short flights."
    level = level_of(margin, care=0.25)
    words = "Air at {value}." if level is Level.CLEAR else "Air at {value}, your limit is {limit}."
    return measured(
        "Temperature",
        level,
        value,
        limit,
        sense="min" if cold <= hot else "max",
        margin=margin,
        words=words,
        remedy=remedy,
        source="32 °F (0 °C): common practice, no source; upper limit our choice",
    )
