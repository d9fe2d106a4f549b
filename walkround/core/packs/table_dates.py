"""Dates as chargers and checkers write them: in which order, and when that was."""

import re
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import Literal
from zoneinfo import ZoneInfo

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.plain import EARLIEST_YEAR, LATEST_YEAR, sensible
from walkround.core.base.wording import lower_first

DateOrder = Literal["iso", "day", "month"]
DATE_ORDERS: dict[str, str] = {
    "iso": "Year first: 2026-05-16 09:40",
    "day": "Day first: 16.05.2026 09:40",
    "month": "Month first: 05/16/2026 9:40 AM",
}


def order_of(texts: Sequence[str]) -> DateOrder:
    """How dates in these texts are written: a four-digit year first, else what the numbers allow.

    Dots mean day first; with slashes a first number above 12 does; else month first.
    """
    for text in texts:
        if re.match(r"\s*\d{4}\D", text):
            return "iso"
        parts = re.match(r"\s*(\d{1,2})([./-])(\d{1,2})\D\d", text)
        if parts and (parts[2] == "." or int(parts[1]) > 12):
            return "day"
        if parts and int(parts[3]) > 12:
            return "month"
    return "month" if any("/" in text for text in texts) else "iso"


_WHEN = pattern(
    r"\s*(\d{1,4})[-./](\d{1,2})[-./](\d{1,4})"
    r"(?:[T ,]+(\d{1,2})[:.](\d{2})(?:[:.](\d{2})(?:[.,](\d{1,6})\d*)?)?\s*([AaPp][Mm])?)?\s*(Z|[+-]\d{2}:?\d{2})?\s*$"
)


def read_when(text: str, order: DateOrder, zone: ZoneInfo) -> datetime:
    """As ``read_any``, which reads the quarter of an hour; what comes beside it in a table is counted on from there."""
    hour, _, rest = text.partition(":")
    past = _past(rest) if len(rest) == 5 else None
    start = None if past is None else _quarter(hour, past[0], order, zone)
    return read_any(text, order, zone) if past is None or start is None else start + past[1]


@lru_cache(maxsize=4096)
def _past(clock: str) -> tuple[int, timedelta] | None:
    """Quarter of an hour, counted from nought, and how far into it, of minutes and seconds such as 40:05; None for anything else."""
    if not re.fullmatch("[0-5][0-9]:[0-5][0-9]", clock):
        return None
    quarter, minutes = divmod(int(clock[:2]), QUARTER_MIN)
    return quarter, timedelta(minutes=minutes, seconds=int(clock[3:]))


@lru_cache(maxsize=4096)
def _quarter(hour: str, quarter: int, order: DateOrder, zone: ZoneInfo) -> datetime | None:
    """When a quarter of an hour began, of a date and hour as written; None when it cannot be read."""
    try:
        return read_any(f"{hour}:{quarter * QUARTER_MIN:02d}:00", order, zone)
    except InputError:
        return None


def read_any(text: str, order: DateOrder, zone: ZoneInfo) -> datetime:
    """An aware time from a date with or without a time of day, in the zone of the pilot where the text names none.

    Raises InputError for a text that is no date in this order, and for an hour that was left out when the clocks went
    forward: it would fall on the readings of the next. Source: ISO 8601 and the two usual orders.
    """
    match = _WHEN.match(text)
    if match is None:
        raise InputError(_no_date(text, order))
    one, two, three, hour, minute, second, fraction, half, offset = match.groups()
    if order == "iso":
        year, month, day = int(one), int(two), int(three)
    elif order == "day":
        year, month, day = int(three), int(two), int(one)
    else:
        year, month, day = int(three), int(one), int(two)
    if year < 100:
        year += 2000
    clock = int(hour or 0)
    if half:
        clock = clock % 12 + (12 if half.lower() == "pm" else 0)
    try:
        micro = int(fraction.ljust(6, "0")) if fraction else 0
        shown = datetime(year, month, day, clock, int(minute or 0), int(second or 0), micro, UTC)
    except ValueError as error:
        raise InputError(_no_date(text, order)) from error
    if not EARLIEST_YEAR < year < LATEST_YEAR:
        sensible(shown, _no_date(text, order))
    try:
        quarter = int(minute or 0) // QUARTER_MIN
        ahead = _written_offset(offset) if offset else _offset(zone, year, month, day, clock, quarter)
    except ValueError as error:
        raise InputError(_no_date(text, order)) from error
    if ahead is None:
        said = f"“{text.strip()[:30]}”"
        raise InputError(f"{said} does not exist: the clocks went forward. Add its time zone, for example +01:00.")
    return shown - ahead


def _no_date(text: str, order: DateOrder) -> str:
    return f"“{text.strip()[:30]}” is not a date like {lower_first(DATE_ORDERS[order].split(':')[0])}."


QUARTER_MIN = 15
"""Clocks are changed on the quarter of an hour: within one the offset is the same. Source: IANA time zone database, since 1972."""


@lru_cache(maxsize=4096)
def _offset(zone: ZoneInfo, year: int, month: int, day: int, hour: int, quarter: int) -> timedelta | None:
    """How far a zone's clock is ahead of UTC in a quarter of an hour that it shows, the earlier where it shows it twice; None
    where it was left out."""
    shown = datetime(year, month, day, hour, quarter * QUARTER_MIN, tzinfo=zone)
    if shown.astimezone(UTC).astimezone(zone).replace(tzinfo=None) != shown.replace(tzinfo=None):
        return None
    return shown.utcoffset()


@lru_cache(maxsize=64)
def _written_offset(offset: str) -> timedelta | None:
    """An offset as written, Z or +01:00."""
    return datetime.fromisoformat(f"2000-01-01T00:00:00{'+00:00' if offset == 'Z' else offset}").utcoffset()
