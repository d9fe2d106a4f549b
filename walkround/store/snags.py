"""Snags: opened, with a photo if wanted, and closed by what was done."""

from datetime import datetime
from typing import Any

from peewee import fn

from walkround.core.base.errors import MissingError
from walkround.core.checklist.history import Snag, SnagOn
from walkround.store.models import PhotoRow, SnagRow, tuples
from walkround.store.photos import Photo


def _snag(row: SnagRow) -> Snag:
    on = SnagOn.PACK if row.pack_id else SnagOn.AIRCRAFT
    return Snag(
        id=row.id,
        on=on,
        title=row.title,
        grounds=row.grounds,
        check_id=row.check_id,
        parts=tuple(row.parts.split()),
        opened_at=row.opened_at,
    )


def open_ones(aircraft_id: int | None = None, pack_id: int | None = None) -> list[Snag]:
    """Open snags of an aircraft and a pack, oldest first."""
    wanted = None
    if aircraft_id:
        wanted = SnagRow.aircraft == aircraft_id
    if pack_id:
        wanted = SnagRow.pack == pack_id if wanted is None else (wanted | (SnagRow.pack == pack_id))
    query = SnagRow.select().where(SnagRow.closed_at.is_null()).order_by(SnagRow.opened_at, SnagRow.id)
    return [_snag(row) for row in (query if wanted is None else query.where(wanted))]


def for_round(aircraft_id: int, pack_id: int, evidence_ids: list[int]) -> list[Snag]:
    """Snags that a round in progress must ask about, oldest first.

    What is open now on its aircraft and pack, wherever it was opened, but not what this round's own answers opened; and
    what this round's own answers closed, because it was asked here.
    """
    own = (SnagRow.aircraft == aircraft_id) | (SnagRow.pack == pack_id)
    still = SnagRow.closed_at.is_null() | SnagRow.closed_by.in_(evidence_ids)
    elsewhere = SnagRow.opened_by.is_null() | SnagRow.opened_by.not_in(evidence_ids)
    query = SnagRow.select().where(own & still & elsewhere).order_by(SnagRow.opened_at, SnagRow.id)
    return [_snag(row) for row in query]


def all_open(limit: int = 200) -> list[tuple[SnagRow, str]]:
    """Open snags of everything with the name of what carries them, grounding ones first, then oldest first."""
    query: Any = SnagRow.select().where(SnagRow.closed_at.is_null()).order_by(SnagRow.grounds.desc(), SnagRow.opened_at)
    return [(row, row.aircraft.name if row.aircraft_id else f"Pack {row.pack.label}") for row in query.limit(limit)]


def open_counts() -> dict[int, int]:
    """How many snags are open on each aircraft that has any, by its number."""
    rows = SnagRow.select(SnagRow.aircraft, fn.COUNT(SnagRow.id)).where(
        SnagRow.closed_at.is_null() & SnagRow.aircraft.is_null(False)
    )
    return dict(tuples(rows.group_by(SnagRow.aircraft)))


def grounded_packs() -> set[int]:
    """Numbers of packs with an open grounding snag."""
    rows = SnagRow.select(SnagRow.pack).where(
        SnagRow.closed_at.is_null() & SnagRow.grounds & SnagRow.pack.is_null(False)
    )
    return {number for (number,) in tuples(rows)}


def grounding_titles() -> dict[int, str]:
    """The oldest open grounding snag of each pack that has one: its words, by the pack's number."""
    rows = SnagRow.select(SnagRow.pack, SnagRow.title).where(
        SnagRow.closed_at.is_null() & SnagRow.grounds & SnagRow.pack.is_null(False)
    )
    return dict(tuples(rows.order_by(SnagRow.opened_at.desc())))


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


def with_photo() -> set[int]:
    """Numbers of the snags that have a photo."""
    return {row[0] for row in tuples(PhotoRow.select(PhotoRow.snag))}


def close(snag_id: int, how: str, at: datetime, evidence_id: int | None = None) -> None:
    """Close a snag with what was done. Raises MissingError when it does not exist; a closed one stays closed."""
    if SnagRow.get_or_none(SnagRow.id == snag_id) is None:
        raise MissingError(f"There is no snag number {snag_id}.")
    SnagRow.update(closed_at=at, closed_how=how, closed_by=evidence_id).where(
        (SnagRow.id == snag_id) & SnagRow.closed_at.is_null()
    ).execute()


def closed(aircraft_id: int | None = None, pack_id: int | None = None, limit: int = 20) -> list[SnagRow]:
    """Closed snags of an aircraft or pack, newest first, for their pages."""
    owner = SnagRow.aircraft == aircraft_id if aircraft_id else SnagRow.pack == pack_id
    query = SnagRow.select().where(owner & SnagRow.closed_at.is_null(False))
    return list(query.order_by(SnagRow.closed_at.desc()).limit(limit))
