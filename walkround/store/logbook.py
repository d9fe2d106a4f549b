"""The logbook: lines as asked for, what they add up to, and the months for its picture."""

from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any

from peewee import fn

from walkround.core.base.struct import Struct
from walkround.core.round.consequences import Happened
from walkround.store.models import AircraftRow, FlightRow, PackRow, SiteRow, tuples
from walkround.store.statements import until_changed

FINE = ("", Happened.NOTHING.value)
_MONTH = fn.SUBSTR(FlightRow.took_off_at, 1, 7)
"""Months are those of UTC: a flight by daylight is in the same one at its field."""


class Asked(Struct, frozen=True, kw_only=True):
    """Which flights: of an aircraft and a field (numbers, 0: any), a month ("2026-05", "": any), an outcome ("": any)."""

    aircraft: int = 0
    site: int = 0
    month: str = ""
    happened: str = ""


class MonthOfOne(Struct, frozen=True, kw_only=True):
    """What one aircraft flew in a month: flights, minutes, and how many of them were not fine."""

    month: str
    aircraft_id: int
    flights: int
    minutes: float
    odd: int


def _where(query: Any, asked: Asked) -> Any:
    query = query.where(FlightRow.logged_at.is_null(False))
    if asked.aircraft:
        query = query.where(FlightRow.aircraft == asked.aircraft)
    if asked.site:
        query = query.where(FlightRow.site == asked.site)
    if asked.month:
        query = query.where(
            FlightRow.took_off_at >= _text(asked.month), FlightRow.took_off_at < _text(next_month(asked.month))
        )
    if asked.happened:
        query = query.where(FlightRow.happened == asked.happened)
    return query


def _text(month: str) -> datetime:
    return datetime.fromisoformat(f"{month}-01T00:00:00+00:00")


def next_month(month: str) -> str:
    """The month after one ("2026-12": "2027-01")."""
    year, number = map(int, month.split("-"))
    return f"{year + number // 12:04d}-{number % 12 + 1:02d}"


def _named(asked: Asked) -> Any:
    query = (
        FlightRow.select(FlightRow, AircraftRow.name, PackRow.label, SiteRow.id, SiteRow.name)
        .join(AircraftRow)
        .switch(FlightRow)
        .join(PackRow)
        .switch(FlightRow)
        .join(SiteRow)
    )
    return _where(query, asked).order_by(FlightRow.took_off_at.desc())


def lines(asked: Asked = Asked(), limit: int = 50, offset: int = 0) -> list[FlightRow]:
    """Logged flights, newest first, with names loaded."""
    return list(_named(asked).limit(limit).offset(offset))


def every_line() -> Iterator[FlightRow]:
    """All logged flights, newest first, one at a time, for export."""
    found: Iterator[FlightRow] = _named(Asked()).iterator()
    return found


@until_changed
def totals(asked: Asked = Asked()) -> tuple[int, float]:
    """Number of logged flights and their minutes together."""
    count, minutes = _where(FlightRow.select(fn.COUNT(FlightRow.id), fn.SUM(FlightRow.minutes)), asked).scalar(
        as_tuple=True
    )
    return int(count), float(minutes or 0)


@until_changed
def months(asked: Asked, since: str) -> tuple[MonthOfOne, ...]:
    """What each aircraft flew in each month from one on ("2026-05"), in order; the month that is asked for does not narrow it."""
    odd = fn.SUM(FlightRow.happened.not_in(FINE))
    query = FlightRow.select(_MONTH, FlightRow.aircraft, fn.COUNT(FlightRow.id), fn.SUM(FlightRow.minutes), odd)
    query = _where(query, Asked(aircraft=asked.aircraft, site=asked.site, happened=asked.happened))
    query = (
        query.where(FlightRow.took_off_at >= _text(since))
        .group_by(_MONTH, FlightRow.aircraft)
        .order_by(_MONTH, FlightRow.aircraft)
    )
    return tuple(
        MonthOfOne(month=month, aircraft_id=aircraft, flights=flights, minutes=minutes or 0.0, odd=not_fine or 0)
        for month, aircraft, flights, minutes, not_fine in tuples(query)
    )


@until_changed
def since(moment: datetime) -> tuple[tuple[str, int, float], ...]:
    """Who flew since then: name of the aircraft, flights, minutes; the most flown first."""
    query = (
        FlightRow.select(AircraftRow.name, fn.COUNT(FlightRow.id), fn.SUM(FlightRow.minutes))
        .join(AircraftRow)
        .where(FlightRow.logged_at.is_null(False), FlightRow.took_off_at >= moment)
        .group_by(AircraftRow.id)
        .order_by(fn.COUNT(FlightRow.id).desc(), AircraftRow.name)
    )
    return tuple((name, count, minutes or 0.0) for name, count, minutes in tuples(query))


def year_before(now: datetime) -> str:
    """The month with which the last twelve begin."""
    first = now.replace(day=1)
    for _ in range(11):
        first = (first - timedelta(days=1)).replace(day=1)
    return f"{first:%Y-%m}"
