"""Accidents and near misses as they were written down, with the event and the snag that follow."""

from datetime import datetime

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import MissingError
from walkround.core.checklist.history import SnagOn
from walkround.core.pilot.accident import Occurrence
from walkround.core.round.consequences import after_occurrence
from walkround.store import hangar, snags
from walkround.store.air_models import OccurrenceRow
from walkround.store.photos import Photo


def keep(
    kind: Occurrence,
    *,
    aircraft_id: int,
    site_id: int | None,
    at: datetime,
    what: str,
    witnesses: str,
    photo: Photo | None,
    now: datetime,
) -> int:
    """Write an occurrence down; its number. A photo of a near miss, which leaves no snag, opens one that does not ground.

    Raises MissingError for an aircraft that is not there.
    """
    hangar.get(Aircraft, aircraft_id)
    event, snag = after_occurrence(kind, what)
    snag_id = None
    if snag is not None:
        snag_id = snags.open_one(snag.on, aircraft_id, snag.title, grounds=snag.grounds, at=at, photo=photo)
    elif photo is not None:
        snag_id = snags.open_one(SnagOn.AIRCRAFT, aircraft_id, f"Near miss: {what}", grounds=False, at=at, photo=photo)
    if event is not None:
        hangar.add_event(aircraft_id, event, at, detail=what)
    row = OccurrenceRow.create(
        aircraft=aircraft_id,
        site=site_id,
        kind=kind.value,
        at=at,
        what=what,
        witnesses=witnesses,
        snag=snag_id,
        created_at=now,
    )
    return int(row.id)


def get(number: int) -> OccurrenceRow:
    """One occurrence. Raises MissingError."""
    row: OccurrenceRow | None = OccurrenceRow.get_or_none(OccurrenceRow.id == number)
    if row is None:
        raise MissingError(f"There is no report number {number}.")
    return row


def everything() -> list[OccurrenceRow]:
    """All occurrences, newest first."""
    return list(OccurrenceRow.select().order_by(OccurrenceRow.at.desc(), OccurrenceRow.id.desc()))
