"""The weather judged against the pilot's limits, for this aircraft and field."""

from datetime import datetime, timedelta

from msgspec.structs import replace

from walkround.core.aircraft.traits import Trait
from walkround.core.base.clock import LEEWAY, is_ahead
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, distance, height, minute, speed
from walkround.core.base.units import Quantity
from walkround.core.base.wording import capital
from walkround.core.field.sight import judge_seen, slant_m
from walkround.core.round.air_rules import judge_air
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.beaufort import Force, force
from walkround.core.weather.weather import BY_HAND, Phenomenon, Weather

STALE_CAUTION_MIN, STALE_GROUND_MIN = 75.0, 180.0
"""Age of a report in minutes: past the first care, past the second it says nothing about now. Source: our choice
(reports come hourly or half-hourly)."""


def judge_weather(
    weather: Weather, situation: Situation, now: datetime | None = None, top_m: float | None = None, out_m: float = 0.0
) -> tuple[Finding, ...]:
    """Judge the weather (inside units) for this aircraft, field and these limits; one finding for each known part.

    ``now``: the moment of the flight (aware), that of the situation unless given; ``top_m``: the highest point of the
    flight in m above ground, the field's flying height unless given; ``out_m``: the planned distance out in m. Source: limits of the pilot; each finding names its
    own.
    """
    top_m = situation.site.flight_height_m if top_m is None else top_m
    if situation.site.indoors:
        return tuple(judge_air(weather, situation))
    return (
        *_wind(weather, situation, top_m),
        *_sky(weather, situation, top_m, out_m),
        *judge_air(weather, situation),
        *_reliability(weather, now or situation.now),
    )


_REMEDY = {
    Level.CAUTION: "Stay close and low, and land early.",
    Level.GROUNDED: "Wait, or do not fly today.",
}


def _limited(
    name: str,
    value_ms: float,
    limit_ms: float,
    words: str,
    source: str,
    *,
    remedy: dict[Level, str] | None = None,
    most: Level = Level.GROUNDED,
    numbers: dict[str, Quantity] | None = None,
) -> Finding:
    return measured(
        name,
        speed(value_ms),
        speed(limit_ms),
        sense="max",
        most=most,
        words={
            Level.CLEAR: words + " is well below your limit of {limit}.",
            Level.CAUTION: words
            + (" is close to your limit of {limit}." if value_ms <= limit_ms else " may be over {limit}."),
            Level.GROUNDED: words + " is over your limit of {limit}.",
        },
        remedy=remedy or _REMEDY,
        source=source,
        numbers=numbers,
    )


def wind_limit_ms(situation: Situation) -> float:
    """The most wind in m/s for this flight: the aircraft's own limit, else the pilot's."""
    return situation.aircraft.wind_max_ms or situation.limits.wind_ms


def judge_wind(wind_ms: float, limit_ms: float, name: str = "Wind", words: str = "Mean wind {value}") -> Finding:
    """Judge a wind in m/s against the limit in m/s; one finding. Source: 15 mph, common practice, no source."""
    return _limited(name, wind_ms, limit_ms, words, PRACTICE)


FELT_REMEDY = {
    Level.CAUTION: "This is an estimate: measure the wind before you fly.",
    Level.GROUNDED: "Wait, or do not fly today.",
}


def _judge_felt(felt: Force, limit_ms: float) -> Finding:
    """An estimate is a range: over the limit from its lower end on grounds, only with its upper end asks for a meter."""
    words = felt.words()
    most = Level.GROUNDED if felt.least_ms > limit_ms else Level.CAUTION
    return _limited(
        "Wind",
        felt.most_ms,
        limit_ms,
        f"{words.text}, and {{value}}",
        f"Beaufort scale, from memory; limit: {PRACTICE}",
        remedy=FELT_REMEDY,
        most=most,
        numbers=words.numbers,
    )


def _estimated(weather: Weather) -> bool:
    """Whether the wind was only felt, so that what follows from it is an estimate too."""
    return weather.felt is not None


def _wind(weather: Weather, situation: Situation, top_m: float) -> list[Finding]:
    limit_ms = wind_limit_ms(situation)
    if weather.wind_ms is None:
        return [
            Finding(
                name="Wind",
                level=Level.GROUNDED,
                reason=Phrase.of("The wind could not be read, so it cannot be compared with your limit."),
                remedy="Measure the wind and enter it.",
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

    def up(height_m: float) -> float:
        return atmosphere.wind_at_height_ms(weather.wind_ms or 0.0, weather.wind_height_m, height_m, site.terrain)

    least_ms = force(weather.felt).least_ms if weather.felt is not None else weather.wind_ms
    least_aloft = atmosphere.wind_at_height_ms(least_ms, weather.wind_height_m, top_m, site.terrain)
    findings.append(
        _limited(
            "Wind aloft",
            up(top_m),
            limit_ms,
            "The wind at {height} above ground, {value} ({between} at half that height),",
            law,
            remedy=FELT_REMEDY if _estimated(weather) else None,
            most=Level.CAUTION if _estimated(weather) and least_aloft <= limit_ms else Level.GROUNDED,
            numbers={"height": height(top_m), "between": speed(up(top_m / 2))},
        )
    )
    return findings


GUST_SPREAD_MS = 5.144
"""Gusts more than this above the mean, in m/s, make a day gusty. Source: 10 kt, from which on reports name gusts, ICAO Annex
3 (from memory)."""


def _gust_spread(spread_ms: float) -> list[Finding]:
    """How much the wind jumps; care, never more: the gust itself is held to the limit."""
    words = "Gusts are {value} above the mean wind"
    return [
        measured(
            "Gust spread",
            speed(spread_ms),
            speed(GUST_SPREAD_MS),
            sense="max",
            level=Level.CLEAR,
            words={Level.CLEAR: words + ".", Level.CAUTION: words + ": expect turbulence."},
            remedy="Carry extra speed on approach, clear of trees and buildings.",
            source="10 kt, from which on reports name gusts: ICAO Annex 3 (from memory)",
        )
    ]


def _crosswind(weather: Weather, situation: Situation) -> list[Finding]:
    """For an aircraft on wheels at a field with a strip."""
    strip_deg, strongest_ms = situation.site.strip_deg, weather.strongest_ms()
    if strip_deg is None or strongest_ms is None or not situation.aircraft.has(Trait.WHEELS):
        return []
    across_ms, along_ms = atmosphere.strip_wind_ms(
        strongest_ms, weather.wind_from_deg, strip_deg, weather.wind_sector_deg
    )
    towards = f"{(strip_deg if along_ms >= 0 else strip_deg + 180) % 360:.0f}°"
    way = f" Into the wind is towards {towards}."
    if weather.wind_sector_deg is not None:
        way = " Its direction varies, so the strongest crosswind counts."
    elif weather.wind_from_deg is None:
        way = " Its direction is not known, so all of it counts as crosswind."
    found = _limited(
        "Crosswind",
        across_ms,
        situation.limits.crosswind_ms,
        "Crosswind {value}",
        "components of the wind; " + OUR_CHOICE,
        remedy={
            Level.CAUTION: "Hold aileron into the wind on the take-off run.",
            Level.GROUNDED: "Wait until it turns or eases, or use another runway.",
        },
    )
    reason = Phrase(text=found.reason.text + way, numbers=found.reason.numbers)
    return [replace(found, reason=reason)]


def _sky(weather: Weather, situation: Situation, top_m: float, out_m: float) -> list[Finding]:
    findings = [] if weather.phenomena is None else [_falling(weather.phenomena, situation)]
    limits = situation.limits
    if weather.visibility_m is not None:
        findings.append(
            measured(
                "Visibility",
                distance(weather.visibility_m),
                distance(limits.visibility_m),
                sense="min",
                words={
                    Level.CLEAR: "Visibility {value}.",
                    **dict.fromkeys((Level.CAUTION, Level.GROUNDED), "Visibility {value} (min {limit})."),
                },
                remedy="Stay closer than planned, or wait for better visibility.",
                source="14 CFR 107.51, three statute miles (from memory); your own limit",
            )
        )
        findings += judge_seen(weather.visibility_m, slant_m(situation.site, out_m, top_m))
    needed_m = top_m + limits.cloud_clearance_m
    if weather.ceiling_m is None:
        findings += _computed_base(weather, needed_m)
    else:
        findings.append(
            measured(
                "Cloud base",
                height(weather.ceiling_m),
                height(needed_m),
                sense="min",
                words="Cloud base {value}. Your flying height and clearance need {limit}.",
                remedy="Stay lower, or wait until it lifts.",
                source="14 CFR 107.51, 500 ft below cloud (from memory)",
            )
        )
    return findings


BASE_M_PER_C = 125.0
"""Cloud base above ground in m for each °C between temperature and dew point. Source: Espy's rule; 400 ft for each °C in
pilots' handbooks (from memory)."""


def _computed_base(weather: Weather, needed_m: float) -> list[Finding]:
    """The cloud base from the dew point where nobody reported or measured one; care at most, there may be no cloud at all."""
    known = weather.ceiling_known and weather.text != BY_HAND
    if known or weather.temperature_c is None or weather.dew_point_c is None:
        return []
    base_m = BASE_M_PER_C * max(0.0, weather.temperature_c - weather.dew_point_c)
    words = "Cloud base not reported. From temperature and dew point, cloud would form at {value}. You need {limit}."
    return [
        measured(
            "Cloud base",
            height(base_m),
            height(needed_m),
            sense="min",
            most=Level.CAUTION,
            words=words,
            remedy="Look up. If it is low, stay lower or wait.",
            source="125 m for each °C of dew-point spread, Espy's rule (from memory)",
        )
    ]


def _falling(phenomena: tuple[Phenomenon, ...], situation: Situation) -> Finding:
    here = [p for p in phenomena if not p.nearby]
    names = ", ".join(p.words for p in phenomena)
    sealed = situation.aircraft.has(Trait.SEALED)
    level, remedy = Level.CLEAR, ""
    words = "No precipitation." if not phenomena else f"Reported: {names}."
    if any(p.thunder for p in phenomena):
        level, words = Level.GROUNDED, f"Reported: {names}. Lightning reaches far."
        remedy = "Pack up and go into a car or a building, never under trees. Wait 30 minutes after the last thunder."
    elif any(p.severe for p in phenomena):
        level, words, remedy = Level.GROUNDED, f"Reported: {names}.", "Pack up, take cover and fly another day."
    elif any(p.freezing for p in phenomena):
        level, words, remedy = Level.GROUNDED, f"Reported: {names}. Icing destroys lift.", "Fly another day."
    elif any(p.precipitation for p in here):
        if sealed:
            level, words = (
                Level.CAUTION,
                f"Reported: {names}. This aircraft is sealed, but your transmitter and screen are not.",
            )
            remedy = "Dry it afterwards, contacts first."
        else:
            level, words = Level.GROUNDED, f"Reported: {names}. This aircraft is not sealed against rain."
            remedy = "Wait until it is dry."
    elif any(p.nearby or p.blowing for p in phenomena):
        level, remedy = Level.CAUTION, "Keep watching it, and land before it arrives."
    return Finding(
        name="Precipitation",
        level=level,
        reason=Phrase.of(words),
        remedy=remedy,
        source="any precipitation grounds an unsealed aircraft; common practice, no source",
    )


MEASURE_YOURSELF = "Measure and enter these yourself, or paste a whole report."
_NEEDED = frozenset({"visibility", "temperature", "time"})
"""What a report must say before it can be judged at all, the wind apart, which has a finding of its own."""


def _reliability(weather: Weather, now: datetime) -> list[Finding]:
    findings = []
    age_min = (now - weather.at).total_seconds() / 60
    if is_ahead(weather.at, now):
        findings.append(
            measured(
                "Age of the report",
                minute(-age_min),
                minute(LEEWAY / timedelta(minutes=1)),
                sense="max",
                level=Level.GROUNDED,
                words="The weather is dated {value} ahead of the clock. One of them is wrong.",
                remedy="Set the clock, then fetch the weather again.",
                source=OUR_CHOICE,
            )
        )
    elif age_min > STALE_CAUTION_MIN:
        grounds = age_min > STALE_GROUND_MIN
        findings.append(
            measured(
                "Age of the report",
                minute(age_min),
                minute(STALE_GROUND_MIN if grounds else STALE_CAUTION_MIN),
                sense="max",
                level=Level.GROUNDED if grounds else Level.CAUTION,
                words="The weather is {value} old and no longer current.",
                remedy="Fetch a newer report, or enter what you see.",
                source=OUR_CHOICE,
            )
        )
    by_hand = weather.text == BY_HAND
    lost = [] if by_hand else [name for name in weather.missing if name in _NEEDED]
    if weather.missing or weather.notes or weather.unread:
        gaps = f"Not in the report, or not readable: {', '.join(weather.missing)}." if weather.missing else ""
        unread = f"Not understood: {'; '.join(weather.unread)}." if weather.unread else ""
        said = [f"{capital(note)}." for note in weather.notes]
        findings.append(
            Finding(
                name="Not read",
                level=Level.GROUNDED if lost or weather.unread else Level.CAUTION,
                reason=Phrase.of(" ".join(part for part in (unread, gaps, *said) if part)),
                remedy=MEASURE_YOURSELF,
                source="an unknown never reads as clear; " + OUR_CHOICE,
            )
        )
    if weather.trend:
        findings.append(
            Finding(
                name="Change ahead",
                level=Level.CAUTION,
                reason=Phrase.of(f"The report expects a change: {weather.trend}."),
                remedy="Plan to land before it comes.",
            )
        )
    return findings
