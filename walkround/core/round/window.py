"""The hours ahead: each limit its own row, the sun with it, when it is flyable, the best slot, and what one limit does."""

import csv
import io
import math
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.plain import read_json, sensible
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity, parse_number
from walkround.core.field.sun import CIVIL_TWILIGHT_DEG, height_at, judge_daylight
from walkround.core.flight.speed_home import judge_getting_home
from walkround.core.round.context import Context
from walkround.core.round.situation import Situation
from walkround.core.round.weather_rules import judge_weather
from walkround.core.weather import atmosphere
from walkround.core.weather.taf import decode_forecast, hours_of
from walkround.core.weather.weather import Weather, by_hand

MOST_HOURS = 72
COMFORTABLE = 0.4
"""From this margin on, sooner beats wider. Source: our choice."""
ROWS = (
    "Wind", "Gust", "Gust spread", "Crosswind", "Wind aloft", "Way home", "Precipitation", "Visibility", "Visual range", "Cloud base", "Fog risk", "Icing", "Temperature", "Fingers",
    "Density altitude", "Daylight", "Not read",
)  # fmt: skip
"""What has a row of its own, in this order. Source: the findings of ``weather_rules`` and ``sun``."""
FIELDS = (
    "wind_ms", "gust_ms", "wind_from_deg", "visibility_m", "ceiling_m", "temperature_c", "dew_point_c", "qnh_hpa",
)  # fmt: skip


class Hour(Struct, frozen=True, kw_only=True):
    """One hour: its start (aware), the worst finding of each row (None: nothing is known against it), the worst level, the
    row that bites, the sun's height in degrees."""

    at: datetime
    found: tuple[Finding | None, ...]
    level: Level
    limiting: str
    margin: float
    sun_deg: float


class FlyingSlot(Struct, frozen=True, kw_only=True):
    """Hours in a row that can be flown: from, to (aware), the worst level in it, its tightest row and margin."""

    begin: datetime
    end: datetime
    level: Level
    limiting: str
    margin: float


class Moved(Struct, frozen=True, kw_only=True):
    """What moving one limit alone would give: the row, how many hours more, and where the limit would have to be."""

    row: str
    hours: int
    limit: Quantity
    wanted: Quantity


class Window(Struct, frozen=True, kw_only=True):
    """The hours ahead, the slots that can be flown, the best one for the planned length, and what one limit would do."""

    rows: tuple[str, ...]
    hours: tuple[Hour, ...]
    slots: tuple[FlyingSlot, ...]
    best: FlyingSlot | None
    moved: tuple[Moved, ...]


def window(series: Sequence[Sequence[Weather]], situation: Situation, planned_min: float) -> Window:
    """The hours ahead judged for this aircraft, field and these limits, one hour after the other (inside units).

    ``series``: for each hour, oldest first, the weather, or everything that may hold in it: then the worst of each limit
    counts; ``planned_min``: minutes that the slot must hold. A row appears if any
    hour knows it. The best slot is clear before careful, then the one whose tightest margin is widest, up to comfortable, then the
    soonest.
    Source: ``weather_rules``, ``sun``; the choice is ours.
    """
    context = Context(situation, {})
    judged = [_judge(may_hold, context) for may_hold in series]
    rows = tuple(name for name in ROWS if any(name in found for found, _ in judged))
    hours = tuple(_hour(hour[0].at, found, sun, rows) for hour, (found, sun) in zip(series, judged, strict=True))
    need = max(1, math.ceil(planned_min / 60))
    return Window(rows=rows, hours=hours, slots=_slots(hours), best=_best(hours, need), moved=_moved(hours, rows))


def _judge(may_hold: Sequence[Weather], context: Context) -> tuple[dict[str, Finding], float]:
    """The worst findings of one hour by row, and the sun's height in degrees at its darker end."""
    situation, begin = context.situation, may_hold[0].at
    sun_deg = min(height_at(situation.site.position, at) for at in (begin, begin + timedelta(hours=1)))
    light = () if situation.site.indoors else judge_daylight(sun_deg)
    found: dict[str, Finding] = {}
    for weather in may_hold:
        found_now = (
            *judge_weather(weather, situation, begin, context.highest_m, context.flight_plan.out_m),
            *judge_getting_home(situation.aircraft, weather, situation.site, context.home_height_m),
            *light,
        )
        for f in found_now:
            old = found.get(f.name)
            if f.name in ROWS and (old is None or _rank(f) < _rank(old)):
                found[f.name] = f
    return found, sun_deg


def _rank(finding: Finding) -> tuple[int, float]:
    """The worse, the lower."""
    return -finding.level, finding.margin if finding.margin is not None else 1.0


def _hour(at: datetime, found: dict[str, Finding], sun_deg: float, rows: tuple[str, ...]) -> Hour:
    ranked = [(0, 1.0, row) if (f := found.get(row)) is None else (*_rank(f), row) for row in rows]
    level, margin, limiting = min(ranked)
    judged = tuple(found.get(row) for row in rows)
    return Hour(at=at, found=judged, level=Level(-level), limiting=limiting, margin=margin, sun_deg=sun_deg)


def _slot(hours: Sequence[Hour]) -> FlyingSlot:
    worst = min(hours, key=lambda h: (-h.level, h.margin))
    return FlyingSlot(
        begin=hours[0].at,
        end=hours[-1].at + timedelta(hours=1),
        level=worst.level,
        limiting=worst.limiting,
        margin=min(h.margin for h in hours),
    )


def _slots(hours: Sequence[Hour]) -> tuple[FlyingSlot, ...]:
    """Runs of hours that nothing grounds."""
    runs: list[list[Hour]] = []
    for hour in hours:
        if hour.level is Level.GROUNDED:
            continue
        if runs and runs[-1][-1].at + timedelta(hours=1) == hour.at:
            runs[-1].append(hour)
        else:
            runs.append([hour])
    return tuple(_slot(run) for run in runs)


def _best(hours: Sequence[Hour], need: int) -> FlyingSlot | None:
    tries = []
    for start in range(len(hours) - need + 1):
        run = hours[start : start + need]
        whole = run[-1].at - run[0].at == timedelta(hours=need - 1)
        if whole and all(h.level is not Level.GROUNDED for h in run):
            slot = _slot(run)
            tries.append(((slot.level, -min(COMFORTABLE, round(slot.margin, 2)), slot.begin), slot))
    return min(tries, key=lambda t: t[0])[1] if tries else None


def _moved(hours: Sequence[Hour], rows: tuple[str, ...]) -> tuple[Moved, ...]:
    """For each measured row that alone grounds some hours: how many, and the limit that would free all of them."""
    found = []
    for index, row in enumerate(rows):
        alone = [
            f
            for h in hours
            if (f := h.found[index]) is not None
            and f.level is Level.GROUNDED
            and all(o is None or o.level is not Level.GROUNDED for o in h.found if o is not f)
        ]
        measured = [c for c in alone if c.value is not None and c.limit is not None]
        if row == "Daylight" or not measured:
            continue
        limit = measured[0].limit
        assert limit is not None
        values = [c.value.value for c in measured if c.value is not None]
        over = values[0] > limit.value
        wanted = Quantity(value=max(values) if over else min(values), measure=limit.measure)
        found.append(Moved(row=row, hours=len(measured), limit=limit, wanted=wanted))
    return tuple(sorted(found, key=lambda m: -m.hours))


def is_dark(sun_deg: float) -> bool:
    """Whether the sun (height in degrees) is below civil twilight."""
    return sun_deg < CIVIL_TWILIGHT_DEG


def parse_ahead(text: str, now: datetime) -> tuple[tuple[Weather, ...], ...]:
    """The hours ahead from a text: a forecast (TAF), or hourly weather as JSON or CSV (inside units, aware times).

    Raises InputError in words. Source: ``forecast``, ``parse_series``.
    """
    if text.lstrip()[:4].upper().startswith("TAF"):
        return hours_of(decode_forecast(text, now), now)
    return tuple((weather,) for weather in parse_series(text))


def parse_series(text: str) -> tuple[Weather, ...]:
    """Hourly weather from JSON or CSV text: ``at`` (ISO time with its zone) and what is known of ``FIELDS`` (their units
    in their names), ``sky`` one of dry, mist, drizzle, rain, snow, thunder.

    Raises InputError in words with the row: no table, no time, a value that cannot be, hours out of order, too many.
    Source: a plain table; ranges as in ``weather.by_hand``.
    """
    rows = _rows(text.strip())
    if not rows:
        raise InputError("It contains no hours.", "series")
    if len(rows) > MOST_HOURS:
        raise InputError(f"{len(rows)} hours: more than the {MOST_HOURS} that are used.", "series")
    series: list[Weather] = []
    for number, row in enumerate(rows, 1):
        try:
            series.append(_one(row))
        except InputError as error:
            raise InputError(f"Hour {number}: {error.message}", "series") from error
        if len(series) > 1 and series[-1].at <= series[-2].at:
            raise InputError(f"Hour {number} is not later than the one before it.", "series")
    return tuple(series)


def _rows(text: str) -> list[dict[str, Any]]:
    if not text:
        raise InputError("Paste hourly weather as JSON or CSV.", "series")
    if text[0] in "[{":
        data = read_json(text, "That JSON is damaged. Is the end missing?", "series")
        hours = data.get("hours") if isinstance(data, dict) else data
        if not isinstance(hours, list) or not all(isinstance(row, dict) for row in hours):
            raise InputError("The JSON has no list of hours.", "series")
        return hours
    delimiter = ";" if text.split("\n", 1)[0].count(";") > text.split("\n", 1)[0].count(",") else ","
    try:
        return [
            {str(k).strip(): v for k, v in row.items() if k}
            for row in csv.DictReader(io.StringIO(text), delimiter=delimiter)
        ]
    except csv.Error as error:
        raise InputError("That is not a table.", "series") from error


def _one(row: dict[str, Any]) -> Weather:
    numbers: dict[str, Any] = {}
    for name in FIELDS:
        value = row.get(name)
        blank = value is None or str(value).strip() == ""
        numbers[name] = None if blank else parse_number(str(value), name)
    when = str(row.get("at") or "").strip()
    try:
        at = datetime.fromisoformat(when)
    except ValueError as error:
        raise InputError(f"“{when[:30]}” is not a time like 2026-05-16T09:00+02:00.") from error
    if at.tzinfo is None:
        raise InputError(f"“{when[:30]}” has no time zone.")
    sensible(at, f"“{when[:30]}” is not a time like 2026-05-16T09:00+02:00.")
    wind, warm = numbers.pop("wind_ms"), numbers.pop("temperature_c")
    if wind is None or warm is None:
        raise InputError("wind_ms and temperature_c are needed.")
    sky = str(row.get("sky") or "").strip()
    weather = by_hand(at, wind_ms=wind, temperature_c=warm, sky=sky or "dry", **numbers)
    absent = {
        "visibility": weather.visibility_m is None,
        "present weather": not sky,
        "pressure": weather.qnh_hpa is None,
    }
    update: dict[str, Any] = {
        "wind_height_m": atmosphere.REPORT_WIND_HEIGHT_M, "text": "hourly series",
        "missing": tuple(name for name, lacks in absent.items() if lacks),
    }  # fmt: skip
    return weather.model_copy(update=update if sky else update | {"phenomena": None})
