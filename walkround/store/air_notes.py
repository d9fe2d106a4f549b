"""What is noted in the air: landed, a charge, where it was last seen. Each has the id its device gave it: sent twice, it is there once."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from peewee import Select

from walkround.core.base.errors import InputError, MissingError
from walkround.core.base.later import pattern
from walkround.core.flight.flight_clock import ChargeRead
from walkround.store import flights
from walkround.store.air_models import AirNoteRow
from walkround.store.models import FlightRow
from walkround.store.statements import prepared

KINDS = ("landed", "charge", "seen")
AHEAD = timedelta(seconds=30)
"""So far a phone's clock may run ahead. Source: our choice."""
_UID = pattern(r"[0-9a-zA-Z-]{8,64}")


def keep(
    round_id: int,
    uid: str,
    kind: str,
    *,
    at: datetime,
    now: datetime,
    percent: float | None = None,
    bearing_deg: float | None = None,
    words: str = "",
) -> bool:
    """Keep a note of the flight of a round, made at an aware time and received now; whether it was new.

    Bearing in degrees true from the pilot, charge in per cent. Raises InputError, and MissingError where the round did not take off. A note
    of a time that cannot be is kept with the nearest that can.
    """
    if not _UID.fullmatch(uid) or kind not in KINDS:
        raise InputError("This note cannot be read.")
    flight = flights.of_round(round_id)
    if flight is None:
        raise MissingError("This round has no flight yet.")
    if AirNoteRow.get_or_none(AirNoteRow.uid == uid) is not None:
        return False
    if kind == "charge" and (percent is None or not 0 <= percent <= 100):
        raise InputError("Enter a charge between 0 and 100.", "percent")
    if kind == "seen" and bearing_deg is None and not words:
        raise InputError("Choose a direction, or say what it was near.", "bearing")
    if bearing_deg is not None and not 0 <= bearing_deg < 360:
        raise InputError("Choose one of the directions.", "bearing")
    moment = max(min(at, now), flight.took_off_at)  # in the countdown it has not taken off yet
    AirNoteRow.create(
        round=round_id,
        uid=uid,
        kind=kind,
        at=moment,
        received_at=now,
        percent=percent,
        bearing_deg=bearing_deg,
        words=words,
    )
    if kind == "landed":
        flights.land(round_id, moment)
    return True


def of_round(round_id: int) -> list[AirNoteRow]:
    """The notes of a round's flight, in order."""
    return _of_round.models(round_id)


@prepared
def _of_round(round_: Any) -> Select:
    return AirNoteRow.select().where(AirNoteRow.round == round_).order_by(AirNoteRow.at, AirNoteRow.id)


def charge_read(flight: FlightRow, notes: Iterable[AirNoteRow]) -> ChargeRead | None:
    """The newest charge read in a flight, by its notes, in seconds after take-off and per cent; None where there is none."""
    read = [(note.at, note.percent) for note in notes if note.percent is not None]
    if not read:
        return None
    at, percent = read[-1]
    return ChargeRead(at_s=(at - flight.took_off_at).total_seconds(), percent=percent)
