"""What the pilot owns and where they fly: aircraft, packs, fields, and the events of aircraft."""

import json
from datetime import datetime
from functools import lru_cache
from typing import Any, TypeVar

from peewee import Field, IntegrityError, Select, fn

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.base.clock import latest
from walkround.core.base.errors import InputError, MissingError
from walkround.core.base.geodesy import Position
from walkround.core.checklist.history import SETTLING, Event, EventKind
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.store import upgrade
from walkround.store.models import AircraftRow, EventRow, PackRow, SiteRow
from walkround.store.statements import Prepared, prepared

Thing = TypeVar("Thing", Aircraft, Pack, Site)

_WORDS = {Aircraft: "aircraft", Pack: "pack", Site: "field"}
_A = {Aircraft: "an aircraft", Pack: "a pack", Site: "a field"}
_ROWS = {Aircraft: AircraftRow, Pack: PackRow, Site: SiteRow}
_UPGRADED = {Aircraft: "aircraft", Pack: "pack", Site: "site"}
_NAME = {Aircraft: "name", Pack: "label", Site: "name"}


def _table(kind: type[Thing]) -> Any:
    return _ROWS[kind]


def _columns(kind: type[Thing]) -> list[Field]:
    table = _table(kind)
    columns: list[Field] = [table.id, getattr(table, _NAME[kind]), table.spec]
    return columns if kind is Site else [*columns, table.retired]


@lru_cache(maxsize=4096)
def _read(kind: type[Thing], row: tuple[Any, ...]) -> Thing:
    """A core value from a row of ``_columns``. Values never change, so the same row may give the same value again."""
    number, name, spec, *retired = row
    data = json.loads(spec) | {"id": number, _NAME[kind]: name}
    if retired and kind is Aircraft:
        data["retired"] = bool(retired[0])
    elif retired and retired[0]:
        data.setdefault("state", "retired")  # the column came before the states of packs
    made: Thing = kind.model_validate(upgrade.read(_UPGRADED[kind], data))
    return made


def _one(kind: type[Thing]) -> Prepared:
    return Prepared(lambda number: _table(kind).select(*_columns(kind)).where(_table(kind).id == number))


def _every(kind: type[Thing], *, in_use: bool = False) -> Prepared:
    table = _table(kind)
    query = table.select(*_columns(kind)).order_by(getattr(table, _NAME[kind]))
    return Prepared(lambda: query.where(~table.retired) if in_use else query)


_ONE: dict[Any, Prepared] = {Aircraft: _one(Aircraft), Pack: _one(Pack), Site: _one(Site)}
_EVERY: dict[Any, Prepared] = {Aircraft: _every(Aircraft), Pack: _every(Pack), Site: _every(Site)}
_IN_USE: dict[Any, Prepared] = {Aircraft: _every(Aircraft, in_use=True), Pack: _every(Pack, in_use=True)}


def get(kind: type[Thing], number: int) -> Thing:
    """One aircraft, pack or field by number. Raises MissingError."""
    row = _ONE[kind].first(number)
    if row is None:
        raise MissingError(f"There is no {_WORDS[kind]} number {number}.")
    found: Thing = _read(kind, row)
    return found


def pack_of(row: tuple[Any, ...]) -> Pack:
    """A pack from its number, label, spec and whether it is retired."""
    found: Pack = _read(Pack, row)
    return found


def everything(kind: type[Thing], *, retired: bool = False) -> list[Thing]:
    """All aircraft, packs or fields by name; retired ones only when asked for."""
    rows = _EVERY[kind]() if retired or kind is Site else _IN_USE[kind]()
    return [_read(kind, row) for row in rows]


def save(thing: Thing, at: datetime) -> int:
    """Add (id 0) or change one; returns its number. Raises InputError when the name is taken."""
    kind = type(thing)
    table, name = _table(kind), _NAME[kind]
    data = thing.model_dump(mode="json", exclude={"id", name, "retired"})
    values = {name: getattr(thing, name), "spec": json.dumps(upgrade.marked(data))}
    if not isinstance(thing, Site):
        values["retired"] = thing.retired
    try:
        if thing.id:
            table.update(**values).where(table.id == thing.id).execute()
            return thing.id
        return int(table.insert(created_at=at, **values).execute())
    except IntegrityError as error:
        raise InputError(f"There is already {_A[kind]} called {getattr(thing, name)}.", name) from error


def add_event(
    aircraft_id: int,
    kind: EventKind,
    at: datetime,
    detail: str = "",
    position: Position | None = None,
    site: str = "",
    evidence_id: int | None = None,
    part: PartKind | None = None,
) -> None:
    """Note an event of an aircraft."""
    EventRow.create(
        aircraft=aircraft_id,
        kind=kind.value,
        at=at,
        detail=detail,
        part=part or "",
        lat_deg=position.lat_deg if position else None,
        lon_deg=position.lon_deg if position else None,
        site=site,
        evidence=evidence_id,
    )


def events(aircraft_id: int, limit: int = 100) -> list[Event]:
    """Events of an aircraft, newest first."""
    return [_event(row) for row in _events(aircraft_id, limit)]


_COLUMNS = (
    EventRow.kind,
    EventRow.at,
    EventRow.detail,
    EventRow.part,
    EventRow.lat_deg,
    EventRow.lon_deg,
    EventRow.site,
)


@prepared
def _events(aircraft: Any, limit: Any) -> Select:
    return EventRow.select(*_COLUMNS).where(EventRow.aircraft == aircraft).order_by(EventRow.at.desc()).limit(limit)


@lru_cache(maxsize=4096)
def _event(row: tuple[Any, ...]) -> Event:
    kind, at, detail, part, lat_deg, lon_deg, site = row[: len(_COLUMNS)]
    return Event(
        kind=EventKind(kind),
        at=at,
        detail=detail,
        part=PartKind(part) if part else None,
        position=None if lat_deg is None else Position(lat_deg=lat_deg, lon_deg=lon_deg),
        site=site,
    )


def latest_events(aircraft_id: int, now: datetime) -> list[Event]:
    """The newest event of each kind (of replaced parts, of each kind of part), newest first: all a plan asks for.

    A calibration dated ahead of the clock settles nothing; what raises checks counts whatever its date.
    """
    found = (_event(row) for row in _newest_events(aircraft_id, latest(now)))
    return sorted(found, key=lambda event: event.at, reverse=True)


@prepared
def _newest_events(aircraft: Any, until: Any) -> Select:
    counts = (EventRow.at <= until) | EventRow.kind.not_in([kind.value for kind in SETTLING])
    # With MAX and GROUP BY the other columns come from the row that holds the maximum.
    newest = EventRow.select(*_COLUMNS, fn.MAX(EventRow.at)).where((EventRow.aircraft == aircraft) & counts)
    return newest.group_by(EventRow.kind, EventRow.part)
