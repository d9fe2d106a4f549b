"""Parts of an aircraft: fitted, flown, given new firmware, replaced."""

from datetime import datetime
from typing import Any

from peewee import JOIN, Select, fn

from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.base.errors import InputError, MissingError
from walkround.core.checklist.history import EventKind
from walkround.store import hangar
from walkround.store.models import FlightRow, PartRow
from walkround.store.statements import prepared

_TEXTS = ("part_id", "name", "place", "rotation", "size", "firmware")


def _part(row: PartRow, flights: int = 0, minutes: float = 0) -> Part:
    return Part(
        id=row.id,
        kind=PartKind(row.kind),
        fitted_at=row.fitted_at,
        removed_at=row.removed_at,
        why_removed=row.why_removed,
        flights=flights,
        minutes=minutes,
        **{name: getattr(row, name) for name in _TEXTS},
    )


def of_aircraft(aircraft_id: int, *, removed: bool = False, limit: int = 200) -> list[Part]:
    """Parts on an aircraft, or those that were taken off, with the flights each has made there."""
    during = (
        (FlightRow.aircraft == PartRow.aircraft)
        & (FlightRow.took_off_at >= PartRow.fitted_at)
        & (PartRow.removed_at.is_null() | (FlightRow.took_off_at < PartRow.removed_at))
        & FlightRow.minutes.is_null(False)
    )
    flights = fn.COUNT(FlightRow.id)
    minutes = fn.COALESCE(fn.SUM(FlightRow.minutes), 0)
    query: Any = (
        PartRow.select(PartRow, flights.alias("flights"), minutes.alias("flown"))
        .join(FlightRow, JOIN.LEFT_OUTER, on=during)
        .where((PartRow.aircraft == aircraft_id) & PartRow.removed_at.is_null(not removed))
        .group_by(PartRow.id)
        .order_by(PartRow.removed_at.desc() if removed else PartRow.kind, PartRow.place, PartRow.id)
        .limit(limit)
        .objects()
    )
    return [_part(row, row.flights, row.flown) for row in query]


def _row(aircraft_id: int, part_id: int) -> PartRow:
    row = PartRow.get_or_none((PartRow.id == part_id) & (PartRow.aircraft == aircraft_id))
    if row is None:
        raise MissingError("This aircraft has no such part.")
    return row


def firmware_of(aircraft_id: int) -> tuple[str, ...]:
    """What firmware is on the parts of an aircraft, in words."""
    return tuple(" ".join(word for word in row if word) for row in _firmware(aircraft_id))


@prepared
def _firmware(aircraft: Any) -> Select:
    on = (PartRow.aircraft == aircraft) & PartRow.removed_at.is_null() & (PartRow.firmware != "")
    return PartRow.select(PartRow.kind, PartRow.place, PartRow.firmware).where(on).order_by(PartRow.kind, PartRow.place)


def get(aircraft_id: int, part_id: int) -> Part:
    """One part of an aircraft, without its count of flights. Raises MissingError."""
    return _part(_row(aircraft_id, part_id))


def fit(aircraft_id: int, part: Part) -> int:
    """Fit a part; its count begins at its own time. Returns its number."""
    values = {name: getattr(part, name) for name in _TEXTS}
    return int(PartRow.insert(aircraft=aircraft_id, kind=part.kind.value, fitted_at=part.fitted_at, **values).execute())


def replace(aircraft_id: int, part_id: int, new: Part, why: str) -> int:
    """Take a part off and fit a new one in its place, whose count begins anew; an event of the aircraft.

    Raises MissingError, and InputError when it was taken off already.
    """
    old = _row(aircraft_id, part_id)
    if old.removed_at is not None:
        raise InputError("That part has been removed already.")
    number = fit(aircraft_id, new)
    PartRow.update(removed_at=new.fitted_at, why_removed=why, followed_by=number).where(PartRow.id == old.id).execute()
    hangar.add_event(aircraft_id, EventKind.PART_REPLACED, new.fitted_at, detail=new.words(), part=new.kind)
    return number


def take_off(aircraft_id: int, part_id: int, why: str, at: datetime) -> None:
    """Take a part off without another in its place. Raises as ``replace``."""
    old = _row(aircraft_id, part_id)
    if old.removed_at is not None:
        raise InputError("That part has been removed already.")
    PartRow.update(removed_at=at, why_removed=why).where(PartRow.id == old.id).execute()


def set_firmware(aircraft_id: int, part_id: int, firmware: str, at: datetime) -> None:
    """Note the firmware of a part; a change is an event of the aircraft. Raises MissingError."""
    row = _row(aircraft_id, part_id)
    if row.firmware == firmware:
        return
    PartRow.update(firmware=firmware).where(PartRow.id == row.id).execute()
    if firmware:
        hangar.add_event(aircraft_id, EventKind.FIRMWARE, at, detail=f"{firmware} ({row.kind})")
