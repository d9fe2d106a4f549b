"""The air judged: warmth for packs and fingers, fog, ice, and what thin air costs."""

import math

from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import OUR_CHOICE, Finding, Level, margin_of, measured
from walkround.core.base.phrase import Phrase, height, percent, temperature
from walkround.core.field.site import Terrain
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.weather import BY_HAND, Weather

ICE_CAUTION_C, ICE_GROUND_C = 5.0, 2.0
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
                    level=Level.CAUTION,
                    reason=Phrase.of(
                        "Temperature {t} and dew point {d} are close in light wind: fog may form.",
                        t=temperature(weather.temperature_c),
                        d=temperature(weather.dew_point_c),
                    ),
                    remedy="Stay close; land at the first sign of fog.",
                )
            )
    findings += _icing(weather)
    findings += _fingers(weather)
    if situation.site.indoors:
        return findings[:1]
    if weather.temperature_c is not None and weather.qnh_hpa is None and weather.text != BY_HAND:
        findings += _thickest(weather, situation)
    if weather.temperature_c is not None and weather.qnh_hpa is not None:
        value_m = atmosphere.density_altitude_m(
            weather.qnh_hpa, situation.site.elevation_m, weather.temperature_c, weather.dew_point_c
        )
        findings.append(
            measured(
                "Density altitude",
                height(value_m),
                height(limits.density_altitude_m),
                sense="max",
                words={
                    Level.CLEAR: "Density altitude {value}.",
                    Level.CAUTION: "Density altitude {value} (max {limit}).",
                    Level.GROUNDED: "Density altitude {value} (max {limit}).",
                },
                remedy="Expect less thrust and a shorter flight. Fly with little payload.",
                source="ICAO Doc 7488/3 for the value; the limit is yours",
            )
        )
        findings += _thin(weather, situation)
    return findings


FINGERS_CAUTION_C, FROSTBITE_C = 0.0, -27.0
"""Wind chill in °C at which bare fingers go slow, and at which skin may freeze within half an hour. Source: the second,
Environment Canada's wind chill hazards (from memory); the first is our choice."""


def _fingers(weather: Weather) -> list[Finding]:
    air_c, wind_ms = weather.temperature_c, weather.wind_ms
    if air_c is None or wind_ms is None:
        return []
    at_10_m = atmosphere.wind_at_height_ms(wind_ms, weather.wind_height_m, 10, Terrain.GRASS)
    felt_c = atmosphere.wind_chill_c(air_c, at_10_m)
    if felt_c >= FINGERS_CAUTION_C:
        return []
    return [
        measured(
            "Fingers",
            temperature(felt_c),
            temperature(FROSTBITE_C),
            sense="min",
            level=Level.GROUNDED if felt_c <= FROSTBITE_C else Level.CAUTION,
            words={
                Level.CAUTION: "Wind chill {value}: bare fingers will be slow.",
                Level.GROUNDED: "Wind chill {value}: bare skin may freeze within half an hour.",
            },
            remedy={
                Level.CAUTION: "Wear gloves with free tips or use a transmitter muff. Make short flights.",
                Level.GROUNDED: "Fly another day.",
            },
            source="wind chill 2001, Environment Canada and US NWS; frostbite from -27 °C (from memory); caution at 0 °C: our choice",
        )
    ]


LOWEST_HPA = 870.0
"""Lowest altimeter setting that is reckoned with where none is known, in hPa. Source: the lowest pressure ever measured at
sea level, 870 hPa (from memory)."""


def _thickest(weather: Weather, situation: Situation) -> list[Finding]:
    """What the density altitude may be at most where the pressure is not known: over the limit it grounds, else it is
    care, since the report did not say."""
    assert weather.temperature_c is not None
    value_m = atmosphere.density_altitude_m(
        LOWEST_HPA, situation.site.elevation_m, weather.temperature_c, weather.dew_point_c
    )
    over = value_m > situation.limits.density_altitude_m
    return [
        measured(
            "Density altitude",
            height(value_m),
            height(situation.limits.density_altitude_m),
            sense="max",
            level=Level.GROUNDED if over else Level.CAUTION,
            words="Without a pressure the density altitude may be up to {value} (max {limit}).",
            remedy="Enter the pressure (QNH).",
            source="ICAO Doc 7488/3, with the lowest pressure on record; " + OUR_CHOICE,
        )
    ]


def _thin(weather: Weather, situation: Situation) -> list[Finding]:
    """What thin air costs: thrust goes with density, the power to hover with one over its root."""
    assert weather.qnh_hpa is not None and weather.temperature_c is not None
    station_hpa = atmosphere.station_pressure_hpa(weather.qnh_hpa, situation.site.elevation_m)
    share = (
        atmosphere.air_density(station_hpa, weather.temperature_c, weather.dew_point_c) / atmosphere.SEA_LEVEL_DENSITY
    )
    if share > 1 - THIN_SHARE or not situation.aircraft.has(Trait.MOTOR):
        return []
    hovers = situation.aircraft.kind is not Kind.WING
    words = "Thin air: {thrust} less thrust than at sea level on a mild day"
    words += ", and {minutes} less flight time." if hovers and situation.aircraft.has(Trait.ELECTRIC) else "."
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
    if air_c is None or air_c > ICE_CAUTION_C:
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
            level=Level.GROUNDED if grounds else Level.CAUTION,
            reason=Phrase.of(
                f"{{t}} with {what}: ice may form on propellers and wings where you cannot see it.",
                t=temperature(air_c),
            ),
            remedy="Wait for drier or warmer air."
            if grounds
            else "Stay close and land early. Disconnect the pack before you check the blades for ice.",
            source="icing conditions from 5 °C and from 2 °C down in visible moisture, from memory; our choice",
        )
    ]


def _pairs(code: str) -> set[str]:
    """A weather group in its two-letter parts."""
    letters = code.lstrip("+-")
    return {letters[i : i + 2] for i in range(0, len(letters), 2)}


def _temperature(value_c: float, low_c: float, high_c: float) -> Finding:
    cold = margin_of(value_c, low_c, "min", 20) <= margin_of(value_c, high_c, "max", 20)
    return measured(
        "Temperature",
        temperature(value_c),
        temperature(low_c if cold else high_c),
        sense="min" if cold else "max",
        span=20,
        caution=0.25,
        words={
            Level.CLEAR: "Air at {value}.",
            Level.CAUTION: "Air at {value}. Your limit is {limit}.",
            Level.GROUNDED: "Air at {value}. Your limit is {limit}.",
        },
        remedy="Keep packs and fingers warm. Begin gently and watch the voltage."
        if cold
        else "Keep packs and pilot in the shade. Make short flights.",
        source="32 °F (0 °C): common practice, no source; upper limit our choice",
    )
