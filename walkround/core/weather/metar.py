"""A front for weather report texts (METAR): reads what can be read and says what was not.

It cuts single reports out of what was pasted, and the trend and the remarks away from what is *now*; ``groups`` reads the
single groups (see docs/decisions/0004).
"""

import calendar
from datetime import UTC, datetime, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.units import KNOT_MS
from walkround.core.weather.groups import NAMES, READERS, STATION, TIME, Sorted, has, phenomenon, read_all
from walkround.core.weather.weather import Weather

MAX_REPORT_CHARS = 2_000
_TREND_WORDS = ("TEMPO", "BECMG")


def _observed_at(groups: list[str], now: datetime) -> tuple[datetime | None, list[str]]:
    """The time of observation: the latest such day and hour that is not more than an hour ahead of now."""
    for group in groups:
        match = TIME.match(group)
        if not match:
            continue
        day, hour, minute = (int(part) for part in match.groups())
        if not (1 <= day <= 31 and hour <= 23 and minute <= 59):
            return None, [f"{group} is not a time of day"]
        year, month = now.year, now.month
        for _ in range(3):
            if day <= calendar.monthrange(year, month)[1]:
                moment = datetime(year, month, day, hour, minute, tzinfo=UTC)
                if moment <= now + timedelta(hours=1):
                    return moment, []
            year, month = (year, month - 1) if month > 1 else (year - 1, 12)
    return None, []


_FORECAST = pattern(r"^(\d{4}/\d{4}|FM\d{6}|PROB\d{2})$")
_CORRECTION = pattern(r"^(COR|CC[A-Z])$")


def split_reports(text: str) -> list[str]:
    """The single reports in a pasted text, each from its station on. Source: a station is followed by day and time."""
    groups = " ".join(text.upper().replace("=", " ").split()).split()
    heads = ("METAR", "SPECI", "COR")
    begins = []
    for index in range(1, len(groups)):
        if TIME.match(groups[index]) and STATION.match(groups[index - 1]) and groups[index - 1] not in heads:
            start = index - 1
            while start > 0 and groups[start - 1] in heads:
                start -= 1
            begins.append(start)
    if len(begins) < 2:
        return [" ".join(groups)]
    cuts = [0, *begins[1:], len(groups)]
    return [" ".join(groups[a:b]) for a, b in zip(cuts, cuts[1:], strict=False)]


def decode_report(text: str, now: datetime, station: str = "") -> Weather:
    """Read a pasted text of one weather report or several as it stood at ``now`` (aware). Inside units: m/s, m, °C, hPa.

    Of several of the same station the newest counts, a correction before its original. ``station``: that of the field.
    What could not be read, contradicts itself or is missing is named in ``unread``, ``missing`` and ``notes``, never
    guessed. Raises InputError when nothing at all can be read, for a forecast, and for reports of several stations, with
    that of the field's station as the offer.
    Source: WMO-No. 306, Manual on Codes, FM 15 (from memory); single groups through the ``metar`` package.
    """
    if len(text) > MAX_REPORT_CHARS:
        raise InputError("That is too long for one weather report. Paste a single report.", "report")
    groups = text.upper().split()
    if "TAF" in groups[:2] or any(_FORECAST.match(group) for group in groups):
        raise InputError("This is a forecast (TAF), not a report of now. Paste it under Hours ahead.", "report")
    newest: dict[str, tuple[tuple[datetime, bool, int], str, Weather]] = {}
    for order, single in enumerate(split_reports(text)):
        weather = _decode_one(single, now)
        corrected = any(_CORRECTION.match(group) for group in single.split()[:5])
        key = (weather.at, corrected, order)
        if "time" in weather.missing:
            key = (datetime.max.replace(tzinfo=UTC), corrected, order)  # it cannot be called older than another
        have = newest.get(weather.station)
        if have is None or key > have[0]:
            newest[weather.station] = (key, single, weather)
    if len(newest) == 1:
        return next(iter(newest.values()))[2]
    names = sorted(newest)
    chosen = station if station in newest else names[0]
    words = (
        f"Reports of several stations: {', '.join(name or 'one without a name' for name in names)}. Keep the nearest."
    )
    raise InputError(words, "report", {"report": newest[chosen][1]})


def _decode_one(text: str, now: datetime) -> Weather:
    """One report, in capitals and with single spaces."""
    body, trend, remarks = _without_trend(text.split())
    if "NIL" in body:
        raise InputError("The station reports nothing (NIL).", "report")
    at, notes = _observed_at(body, now)
    groups = Sorted(body)
    values: dict[str, Any] = {}
    unread = read_all(READERS, groups, values, notes)
    if not values:
        raise InputError(
            "This text is not a weather report. A report starts with a station and a time, for example "
            "“METAR XXYY 251150Z 24008KT 9999 BKN030 11/06 Q1016”.",
            "report",
        )
    notes += [f"recent weather: {group}" for group in groups.recent]
    _read_remarks(remarks, values, notes)
    missing = [name for kind, name in NAMES.items() if not has(kind, values)]
    if at is None:
        missing.append("time")
    if not groups.station:
        missing.append("station")
    return Weather(
        at=at or now,
        station=groups.station,
        text=text,
        trend=trend,
        missing=tuple(missing),
        notes=tuple(dict.fromkeys(notes)),
        unread=tuple(dict.fromkeys(unread)),
        **values,
    )


def _without_trend(groups: list[str]) -> tuple[list[str], str, list[str]]:
    """Split what is now from trend and remarks."""
    end = next((i for i, group in enumerate(groups) if group in ("RMK", "RMKS")), len(groups))
    trend = next((i for i, group in enumerate(groups[:end]) if group in _TREND_WORDS), end)
    return groups[:trend], " ".join(groups[trend:end]), groups[end + 1 :]


_LIGHTNING = pattern(r"^(LTG\S*|TS([BE]\d+)*|CB(MAM)?|TORNADO|FUNNEL|WATERSPOUT)$")
_PEAK = pattern(r"^(\d{3})?(\d{2,3})/\d{2,4}$")


def _read_remarks(remarks: list[str], values: dict[str, Any], notes: list[str]) -> None:
    """What remarks say that matters: lightning and towering cloud seen, the peak wind of the last hour.

    Source: FMH-1, chapter 12, remarks (from memory).
    """
    seen = [group for group in remarks if _LIGHTNING.match(group)]
    if seen:
        notes.append(f"remarks speak of {' '.join(seen)}")
    for index, group in enumerate(remarks[:-2]):
        peak = _PEAK.match(remarks[index + 2])
        if group == "PK" and remarks[index + 1] == "WND" and peak is not None:
            peak_ms = float(peak[2]) * KNOT_MS
            notes.append(f"peak wind {remarks[index + 2]} in the last hour counts as a gust")
            values["gust_ms"] = max(peak_ms, values.get("gust_ms") or 0.0, values.get("wind_ms") or 0.0)


__all__ = ["decode_report", "phenomenon", "split_reports"]
