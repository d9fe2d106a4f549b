"""What the pilot owns and where they fly: aircraft, packs, fields, with their events and snags."""

import json
from datetime import datetime
from typing import Any, TypeVar

from peewee import Field, IntegrityError

from walkround.core.aircraft import Aircraft
from walkround.core.errors import InputError, MissingError
from walkround.core.geodesy import Position
from walkround.core.history import Event, EventKind, Snag, SnagOn
from walkround.core.packs import Pack
from walkround.core.site import Site
from walkround.store.models import AircraftRow, EventRow, PackRow, SiteRow, SnagRow

Thing = TypeVar("Thing", Aircraft, Pack, Site)

_WORDS = {Aircraft: "aircraft", Pack: "pack", Site: "field"}
_A = {Aircraft: "an aircraft", Pack: "a pack", Site: "a field"}
_ROWS = {Aircraft: AircraftRow, Pack: PackRow, Site: SiteRow}
_NAME = {Aircraft: "name", Pack: "label", Site: "name"}


def _columns(kind: type[Thing]) -> list[Field]:
    table = _ROWS[kind]
    columns = [table.id, getattr(table, _NAME[kind]), table.spec]
    return columns if kind is Site else [*columns, table.retired]


def _read(kind: type[Thing], row: tuple[Any, ...]) -> Thing:
    """A core value from a row of ``_columns``."""
    number, name, spec, *retired = row
    data = json.loads(spec) | {"id": number, _NAME[kind]: name}
    if retired:
        data["retired"] = bool(retired[0])
    return kind.model_validate(data)


def get(kind: type[Thing], number: int) -> Thing:
    """One aircraft, pack or field by number. Raises MissingError."""
    row = _ROWS[kind].select(*_columns(kind)).where(_ROWS[kind].id == number).tuples().first()
    if row is None:
        raise MissingError(f"There is no {_WORDS[kind]} number {number}.")
    return _read(kind, row)


def everything(kind: type[Thing], *, retired: bool = False) -> list[Thing]:
    """All aircraft, packs or fields by name; retired ones only when asked for."""
    table = _ROWS[kind]
    query = table.select(*_columns(kind)).order_by(getattr(table, _NAME[kind])).tuples()
    if kind is not Site and not retired:
        query = query.where(~table.retired)
    return [_read(kind, row) for row in query]


def save(thing: Thing, at: datetime) -> int:
    """Add (id 0) or change one; returns its number. Raises InputError when the name is taken."""
    kind = type(thing)
    table, name = _ROWS[kind], _NAME[kind]
    data = thing.model_dump(mode="json", exclude={"id", name, "retired"})
    values = {name: getattr(thing, name), "spec": json.dumps(data)}
    if kind is not Site:
        values["retired"] = thing.retired  # type: ignore[union-attr]
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
) -> None:
    """Note an event of an aircraft."""
    EventRow.create(
        aircraft=aircraft_id,
        kind=kind.value,
        at=at,
        detail=detail,
        lat_deg=position.lat_deg if position else None,
        lon_deg=position.lon_deg if position else None,
        site=site,
        evidence=evidence_id,
    )


def events(aircraft_id: int, limit: int = 100) -> list[Event]:
    """Events of an aircraft, newest first."""
    rows = EventRow.select().where(EventRow.aircraft == aircraft_id).order_by(EventRow.at.desc()).limit(limit)
    return [
        Event(
            kind=EventKind(row.kind),
            at=row.at,
            detail=row.detail,
            position=None if row.lat_deg is None else Position(lat_deg=row.lat_deg, lon_deg=row.lon_deg),
            site=row.site,
        )
        for row in rows
    ]


def latest_events(aircraft_id: int) -> list[Event]:
    """The newest event of each kind, newest first: all that a plan asks for."""
    newest: dict[EventKind, Event] = {}
    for event in events(aircraft_id, limit=400):
        newest.setdefault(event.kind, event)
    return list(newest.values())


def _snag(row: SnagRow) -> Snag:
    on = SnagOn.PACK if row.pack_id else SnagOn.AIRCRAFT
    return Snag(id=row.id, on=on, title=row.title, grounds=row.grounds, check_id=row.check_id, opened_at=row.opened_at)


def open_snags(aircraft_id: int | None = None, pack_id: int | None = None) -> list[Snag]:
    """Open snags of an aircraft and a pack, oldest first."""
    wanted = None
    if aircraft_id:
        wanted = SnagRow.aircraft == aircraft_id
    if pack_id:
        wanted = SnagRow.pack == pack_id if wanted is None else (wanted | (SnagRow.pack == pack_id))
    query = SnagRow.select().where(SnagRow.closed_at.is_null()).order_by(SnagRow.opened_at, SnagRow.id)
    return [_snag(row) for row in (query if wanted is None else query.where(wanted))]


def all_open_snags(limit: int = 200) -> list[tuple[SnagRow, str]]:
    """Open snags of everything with the name of what carries them, grounding ones first, then oldest first."""
    query = SnagRow.select().where(SnagRow.closed_at.is_null()).order_by(SnagRow.grounds.desc(), SnagRow.opened_at)
    return [(row, row.aircraft.name if row.aircraft_id else f"Pack {row.pack.label}") for row in query.limit(limit)]


def grounded_packs() -> set[int]:
    """Numbers of packs with an open grounding snag."""
    rows = SnagRow.select(SnagRow.pack).where(
        SnagRow.closed_at.is_null() & SnagRow.grounds & SnagRow.pack.is_null(False)
    )
    return {row.pack_id for row in rows}


def open_snag(
    on: SnagOn,
    owner_id: int,
    title: str,
    *,
    grounds: bool,
    at: datetime,
    check_id: str = "",
    evidence_id: int | None = None,
) -> None:
    """Open a snag on an aircraft or a pack."""
    SnagRow.create(
        aircraft=owner_id if on is SnagOn.AIRCRAFT else None,
        pack=owner_id if on is SnagOn.PACK else None,
        title=title[:200],
        grounds=grounds,
        check_id=check_id,
        opened_at=at,
        opened_by=evidence_id,
    )


def close_snag(snag_id: int, how: str, at: datetime, evidence_id: int | None = None) -> None:
    """Close a snag with what was done. Raises MissingError when it does not exist; a closed one stays closed."""
    if SnagRow.get_or_none(SnagRow.id == snag_id) is None:
        raise MissingError(f"There is no snag number {snag_id}.")
    SnagRow.update(closed_at=at, closed_how=how, closed_by=evidence_id).where(
        (SnagRow.id == snag_id) & SnagRow.closed_at.is_null()
    ).execute()


def closed_snags(aircraft_id: int | None = None, pack_id: int | None = None, limit: int = 20) -> list[SnagRow]:
    """Closed snags of an aircraft or pack, newest first, for their pages."""
    owner = SnagRow.aircraft == aircraft_id if aircraft_id else SnagRow.pack == pack_id
    query = SnagRow.select().where(owner & SnagRow.closed_at.is_null(False))
    return list(query.order_by(SnagRow.closed_at.desc()).limit(limit))
