"""Accidents and near misses as they were written down, with the event and the snag that follow."""

from collections.abc import Sequence
from datetime import datetime

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, MissingError
from walkround.core.pilot.accident import Occurrence
from walkround.core.round.consequences import after_occurrence
from walkround.store import hangar, snags
from walkround.store.air_models import OccurrencePhotoRow, OccurrenceRow
from walkround.store.photos import Photo

MOST_PHOTOS = 12


def keep(
    kind: Occurrence,
    *,
    aircraft_id: int,
    site_id: int | None,
    at: datetime,
    what: str,
    witnesses: str,
    now: datetime,
    photos: Sequence[Photo] = (),
) -> int:
    """Write an occurrence down; its number. The first photo stands with its snag too.

    Raises MissingError for an aircraft that is not there, InputError for too many photos.
    """
    hangar.get(Aircraft, aircraft_id)
    event, snag = after_occurrence(kind, what)
    row = OccurrenceRow.create(
        aircraft=aircraft_id, site=site_id, kind=kind.value, at=at, what=what, witnesses=witnesses, created_at=now
    )
    add_photos(int(row.id), photos, now)
    if snag is not None:
        photo = photos[0] if photos else None
        snags.open_one(snag.on, aircraft_id, snag.title, grounds=snag.grounds, at=at, photo=photo)
    if event is not None:
        hangar.add_event(aircraft_id, event, at, detail=what)
    return int(row.id)


def add_photos(number: int, photos: Sequence[Photo], now: datetime) -> None:
    """Keep photos of an occurrence. Raises MissingError, and InputError for too many."""
    get(number)
    have = OccurrencePhotoRow.select().where(OccurrencePhotoRow.occurrence == number).count()
    if have + len(photos) > MOST_PHOTOS:
        raise InputError(f"A report holds {MOST_PHOTOS} photos.", "photo")
    for photo in photos:
        OccurrencePhotoRow.create(
            occurrence=number, jpeg=photo.jpeg, width=photo.width, height=photo.height, taken_at=now
        )


def photos_of(number: int) -> list[int]:
    """Numbers of the photos of an occurrence, in order."""
    rows = OccurrencePhotoRow.select(OccurrencePhotoRow.id).where(OccurrencePhotoRow.occurrence == number)
    return [int(row.id) for row in rows.order_by(OccurrencePhotoRow.id)]


def photo(number: int, photo_number: int) -> bytes:
    """One photo of an occurrence as JPEG. Raises MissingError."""
    row = OccurrencePhotoRow.get_or_none(
        (OccurrencePhotoRow.id == photo_number) & (OccurrencePhotoRow.occurrence == number)
    )
    if row is None:
        raise MissingError("There is no such photo.")
    return bytes(row.jpeg)


def get(number: int) -> OccurrenceRow:
    """One occurrence. Raises MissingError."""
    row: OccurrenceRow | None = OccurrenceRow.get_or_none(OccurrenceRow.id == number)
    if row is None:
        raise MissingError(f"There is no report number {number}.")
    return row


def everything() -> list[OccurrenceRow]:
    """All occurrences, newest first."""
    return list(OccurrenceRow.select().order_by(OccurrenceRow.at.desc(), OccurrenceRow.id.desc()))
