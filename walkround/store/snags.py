"""Snags: opened, with a photo if wanted, and closed by what was done."""

import json
from collections.abc import Mapping
from datetime import datetime
from functools import lru_cache
from typing import Any

from peewee import SQL, Select, Value, fn

from walkround.core.base.errors import MissingError
from walkround.core.base.struct import Struct
from walkround.core.checklist.history import DECIDES, Snag, SnagOn
from walkround.store.models import AircraftRow, FlightRow, PackRow, PartRow, PhotoRow, SnagRow, tuples
from walkround.store.photos import Photo
from walkround.store.statements import prepared

_COLUMNS = (
    SnagRow.id,
    SnagRow.pack,
    SnagRow.title,
    SnagRow.grounds,
    SnagRow.check_id,
    SnagRow.parts,
    SnagRow.opened_at,
)


@lru_cache(maxsize=1024)
def _snag(row: tuple[Any, ...]) -> Snag:
    number, pack_id, title, grounds, check_id, parts, opened_at = row
    return Snag(
        id=number,
        on=SnagOn.PACK if pack_id else SnagOn.AIRCRAFT,
        title=title,
        grounds=grounds,
        check_id=check_id,
        parts=tuple(parts.split()),
        opened_at=opened_at,
    )


def open_ones(aircraft_id: int | None = None, pack_id: int | None = None) -> list[Snag]:
    """Open snags of an aircraft and a pack, oldest first."""
    anything = not (aircraft_id or pack_id)
    return [_snag(row) for row in _open(aircraft_id or 0, pack_id or 0, anything)]


@prepared
def _open(aircraft: Any, pack: Any, anything: Any) -> Select:
    wanted = (SnagRow.aircraft == aircraft) | (SnagRow.pack == pack) | (Value(True) == anything)
    return SnagRow.select(*_COLUMNS).where(SnagRow.closed_at.is_null() & wanted).order_by(SnagRow.opened_at, SnagRow.id)


def for_round(aircraft_id: int, pack_id: int, evidence_ids: list[int]) -> list[Snag]:
    """Snags that a round in progress must ask about, oldest first.

    What is open now on its aircraft and pack, wherever it was opened, but not what this round's own answers opened; and
    what this round's own answers closed, because it was asked here.
    """
    return [_snag(row) for row in _for_round(aircraft_id, pack_id, json.dumps(evidence_ids))]


@prepared
def _for_round(aircraft: Any, pack: Any, answers: Any) -> Select:
    own = (SnagRow.aircraft == aircraft) | (SnagRow.pack == pack)
    still = SnagRow.closed_at.is_null() | SnagRow.closed_by.in_(_listed(answers))
    elsewhere = SnagRow.opened_by.is_null() | SnagRow.opened_by.not_in(_listed(answers))
    return SnagRow.select(*_COLUMNS).where(own & still & elsewhere).order_by(SnagRow.opened_at, SnagRow.id)


def _listed(numbers: Any) -> Select:
    """Numbers in a JSON list, as a query: a prepared one has room for any number of them."""
    each = fn.json_each(numbers).alias("each")
    return Select([each], [SQL("value")])


def all_open(limit: int = 200) -> list[tuple[SnagRow, str]]:
    """Open snags of everything with the name of what carries them, grounding ones first, then oldest first."""
    query: Any = SnagRow.select().where(SnagRow.closed_at.is_null()).order_by(SnagRow.grounds.desc(), SnagRow.opened_at)
    names, labels = (
        dict(tuples(one))
        for one in (AircraftRow.select(AircraftRow.id, AircraftRow.name), PackRow.select(PackRow.id, PackRow.label))
    )
    return [
        (row, names[row.aircraft_id] if row.aircraft_id else f"Pack {labels[row.pack_id]}")
        for row in query.limit(limit)
    ]


def how_many_open() -> int:
    """How many snags are open on anything."""
    return int(SnagRow.select().where(SnagRow.closed_at.is_null()).count())


def open_counts() -> dict[int, int]:
    """How many snags are open on each aircraft that has any, by its number."""
    rows = SnagRow.select(SnagRow.aircraft, fn.COUNT(SnagRow.id)).where(
        SnagRow.closed_at.is_null() & SnagRow.aircraft.is_null(False)
    )
    return dict(tuples(rows.group_by(SnagRow.aircraft)))


def grounded_packs() -> set[int]:
    """Numbers of packs with an open grounding snag."""
    return {number for (number, _) in _grounding()}


@prepared
def _grounding() -> Select:
    rows = SnagRow.select(SnagRow.pack, SnagRow.title).where(
        SnagRow.closed_at.is_null() & SnagRow.grounds & SnagRow.pack.is_null(False)
    )
    return rows.order_by(SnagRow.opened_at.desc())


def grounding_titles() -> dict[int, str]:
    """The oldest open grounding snag of each pack that has one: its words, by the pack's number."""
    return dict(_grounding())


def open_one(
    on: SnagOn,
    owner_id: int,
    title: str,
    *,
    grounds: bool,
    at: datetime,
    check_id: str = "",
    parts: tuple[str, ...] = (),
    evidence_id: int | None = None,
    photo: Photo | None = None,
) -> int:
    """Open a snag on an aircraft or a pack, with its photo if there is one; returns its number."""
    row = SnagRow.create(
        aircraft=owner_id if on is SnagOn.AIRCRAFT else None,
        pack=owner_id if on is SnagOn.PACK else None,
        title=title[:200],
        grounds=grounds,
        check_id=check_id,
        parts=" ".join(parts),
        opened_at=at,
        opened_by=evidence_id,
    )
    if photo is not None:
        keep_photo(int(row.id), photo, at)
    return int(row.id)


def keep_photo(snag_id: int, photo: Photo, at: datetime) -> None:
    """Keep the photo of a snag; a newer one takes the place of the older. Raises MissingError."""
    if SnagRow.get_or_none(SnagRow.id == snag_id) is None:
        raise MissingError(f"There is no snag number {snag_id}.")
    PhotoRow.replace(  # type: ignore[no-untyped-call]
        snag=snag_id, jpeg=photo.jpeg, width=photo.width, height=photo.height, taken_at=at
    ).execute()


def photo_of(snag_id: int) -> bytes:
    """The photo of a snag as JPEG. Raises MissingError."""
    row = PhotoRow.get_or_none(PhotoRow.snag == snag_id)
    if row is None:
        raise MissingError("That snag has no photo.")
    return bytes(row.jpeg)


def photos_of(aircraft_id: int, part_id: str, most: int = 3) -> list[tuple[int, str, datetime]]:
    """The newest photos of snags on a part of an aircraft, open or closed: number and words of the snag, and when it was taken (aware)."""
    rows: Any = (
        PhotoRow.select(SnagRow.id, SnagRow.title, PhotoRow.taken_at, SnagRow.parts)
        .join(SnagRow, on=(PhotoRow.snag == SnagRow.id))
        .where((SnagRow.aircraft == aircraft_id) & SnagRow.parts.contains(part_id))
        .order_by(PhotoRow.taken_at.desc())
    )
    found = [(number, title, at) for number, title, at, parts in tuples(rows) if part_id in parts.split()]
    return found[:most]


class ClosedSnag(Struct, frozen=True):
    """A closed snag: its number and words, when (aware) it was opened and closed, and how."""

    id: int
    title: str
    opened_at: datetime
    closed_at: datetime
    closed_how: str


def closed_on(aircraft_id: int, part_id: str, most: int = 50) -> list[ClosedSnag]:
    """Closed snags on one part of an aircraft, newest first."""
    return [ClosedSnag(*row) for row in _closed_on(aircraft_id, f" {part_id} ", most)]


@prepared
def _closed_on(aircraft: Any, part: Any, most: Any) -> Select:
    named = fn.INSTR(fn.PRINTF(" %s ", SnagRow.parts), part) > 0
    on = (SnagRow.aircraft == aircraft) & SnagRow.closed_at.is_null(False) & named
    rows = SnagRow.select(SnagRow.id, SnagRow.title, SnagRow.opened_at, SnagRow.closed_at, SnagRow.closed_how)
    return rows.where(on).order_by(SnagRow.closed_at.desc()).limit(most)


def with_photo() -> frozenset[int]:
    """Numbers of the snags that have a photo."""
    return frozenset(row[0] for row in _with_photo())


@prepared
def _with_photo() -> Select:
    return PhotoRow.select(PhotoRow.snag)


def close(snag_id: int, how: str, at: datetime, evidence_id: int | None = None) -> None:
    """Close a snag with what was done. Raises MissingError when it does not exist; a closed one stays closed."""
    if SnagRow.get_or_none(SnagRow.id == snag_id) is None:
        raise MissingError(f"There is no snag number {snag_id}.")
    SnagRow.update(closed_at=at, closed_how=how, closed_by=evidence_id).where(
        (SnagRow.id == snag_id) & SnagRow.closed_at.is_null()
    ).execute()


def fixes(aircraft_id: int, limit: int = 60) -> list[tuple[datetime, str]]:
    """When (aware) what was fixed on an aircraft, newest first: the parts of its closed snags, else their words."""
    return [
        (at, part.replace("-", " ").replace("/", ", "))
        for at, parts, title in _fixed(aircraft_id, limit)
        for part in (parts.split() or [title.lower()])
    ]


@prepared
def _fixed(aircraft: Any, limit: Any) -> Select:
    done = (SnagRow.aircraft == aircraft) & SnagRow.closed_at.is_null(False)
    return (
        SnagRow.select(SnagRow.closed_at, SnagRow.parts, SnagRow.title)
        .where(done)
        .order_by(SnagRow.closed_at.desc())
        .limit(limit)
    )


def fixed_lately(aircraft_id: int, part_id: str, flights: int) -> list[str]:
    """Titles of the snags on a part of an aircraft (ids) that were closed since the take-off of its so-manieth newest flight and since the part was fitted.

    With fewer flights than that, ever. What a test closed was no fix.
    """
    flown: Any = FlightRow.select(FlightRow.took_off_at).where(FlightRow.aircraft == aircraft_id)
    fitted: Any = PartRow.select(PartRow.fitted_at).where(
        (PartRow.aircraft == aircraft_id) & (PartRow.part_id == part_id) & PartRow.removed_at.is_null()
    )
    newest = flown.order_by(FlightRow.took_off_at.desc()).offset(flights - 1).limit(1)
    since = [at for rows in (newest, fitted) for (at,) in tuples(rows)]
    fixed = (SnagRow.aircraft == aircraft_id) & SnagRow.closed_at.is_null(False) & ~SnagRow.check_id.startswith(DECIDES)
    if since:
        fixed &= SnagRow.closed_at > max(since)
    rows = tuples(SnagRow.select(SnagRow.title, SnagRow.parts).where(fixed))
    return [title for title, parts in rows if part_id in parts.split()]


def parts_since(moment: datetime) -> set[tuple[int, str]]:
    """Number of the aircraft and id of the part of every snag on a part that was opened since, closed or not; not those that wait for a test."""
    told = SnagRow.aircraft.is_null(False) & (SnagRow.opened_at >= moment) & (SnagRow.parts != "")
    told &= ~SnagRow.check_id.startswith(DECIDES)
    rows = tuples(SnagRow.select(SnagRow.aircraft, SnagRow.parts).where(told).distinct())
    return {(number, part) for number, parts in rows for part in parts.split()}


def decide(aircraft_id: int, passed: Mapping[str, datetime], at: datetime) -> None:
    """Close the snags of an aircraft that waited for a check (id) which was passed since (aware times); now: ``at``."""
    for snag in open_ones(aircraft_id):
        if snag.decided_by in passed and passed[snag.decided_by] >= snag.opened_at:
            close(snag.id, "Tested, nothing found", at)


def closed(aircraft_id: int | None = None, pack_id: int | None = None, limit: int = 20) -> list[SnagRow]:
    """Closed snags of an aircraft or pack, newest first, for their pages."""
    return _closed.models(aircraft_id or -1, -1 if aircraft_id else pack_id, limit)


@prepared
def _closed(aircraft: Any, pack: Any, most: Any) -> Select:
    owner = (SnagRow.aircraft == aircraft) | (SnagRow.pack == pack)
    return (
        SnagRow.select().where(owner & SnagRow.closed_at.is_null(False)).order_by(SnagRow.closed_at.desc()).limit(most)
    )
