"""Recordings of an aircraft, kept as they came: the newest few of each, compressed; also those of a kind that is not known here."""

import zlib
from contextlib import suppress
from datetime import datetime
from enum import StrEnum

from walkround.core.base.errors import InputError, MissingError
from walkround.core.base.struct import Struct
from walkround.core.calibration.samples import IN_UT, FieldUnit, likely_unit
from walkround.core.sensors.recording import Recording, Sensor, read_recording
from walkround.store.part_models import RecordingRow

MOST = 12
MOST_KEPT_BYTES = 8_000_000
"""Of one recording, compressed: about a million rows. Source: our choice."""
LONGEST_NAME = 60
SIMULATED = "# simulated"
"""So begins a recording of a stand-in, wherever it is taken."""


class Kind(StrEnum):
    """What a text was told to be."""

    FRAMES = "frames"
    MESSAGES = "messages"
    UNKNOWN = "not known here"


class Kept(Struct, frozen=True, kw_only=True):
    """A recording as it is listed: its number, when it came (aware), its name, what it was told to be, what is in it, its rows, and whether a stand-in made it."""

    id: int
    at: datetime
    name: str
    kind: Kind
    sensors: frozenset[Sensor]
    total: int
    simulated: bool

    def has(self, *sensors: Sensor) -> bool:
        """Whether all these are in it."""
        return self.sensors.issuperset(sensors)


_LISTED = (RecordingRow.id, RecordingRow.at, RecordingRow.name, RecordingRow.kind, RecordingRow.sensors, RecordingRow.total, RecordingRow.simulated)  # fmt: skip


def _kept(row: RecordingRow) -> Kept:
    return Kept(
        id=row.id,
        at=row.at,
        name=row.name,
        kind=Kind(row.kind),
        sensors=frozenset(Sensor(one) for one in row.sensors.split("|") if one),
        total=row.total,
        simulated=row.simulated,
    )


def of_aircraft(aircraft_id: int) -> list[Kept]:
    """The recordings of an aircraft, newest first."""
    rows = RecordingRow.select(*_LISTED).where(RecordingRow.aircraft == aircraft_id)
    return [_kept(row) for row in rows.order_by(RecordingRow.at.desc(), RecordingRow.id.desc())]


class Coming(Struct, frozen=True, kw_only=True):
    """A recording that is about to be kept: compressed, and told what it is. Making one takes its time, keeping it takes none."""

    body: bytes
    name: str
    kind: Kind
    sensors: frozenset[Sensor]
    total: int
    simulated: bool


def coming(given: str | bytes, name: str, *, kind: Kind | None = None) -> Coming:
    """What came from an aircraft, text or not, told what it is unless that is known. Raises InputError when it is far too large."""
    text = given if isinstance(given, str) else None
    body = zlib.compress(given.encode() if isinstance(given, str) else given, 6)
    if len(body) > MOST_KEPT_BYTES:
        raise InputError("This file is too large to be kept. Cut it to the minutes that matter.")
    told, sensors = kind or Kind.UNKNOWN, frozenset[Sensor]()
    total = 0 if text is None else text.count("\n") + 1
    if kind is None and text is not None:
        with suppress(InputError):
            found = read_recording(text)
            told, sensors, total = Kind.FRAMES, found.sensors, found.total
    simulated = text is not None and text.startswith(SIMULATED)
    name = (name.strip() or "Pasted")[:LONGEST_NAME]
    return Coming(body=body, name=name, kind=told, sensors=sensors, total=total, simulated=simulated)


def keep(aircraft_id: int, new: Coming, at: datetime) -> Kept:
    """Keep a recording of an aircraft at an aware moment, in the caller's transaction: once, however often it comes; the oldest beyond the newest few go."""
    there = RecordingRow.get_or_none((RecordingRow.aircraft == aircraft_id) & (RecordingRow.body == new.body))
    if there is not None:
        return _kept(there)
    row = RecordingRow.create(
        aircraft=aircraft_id,
        at=at,
        name=new.name,
        kind=new.kind.value,
        sensors="|".join(sorted(new.sensors)),
        total=new.total,
        simulated=new.simulated,
        body=new.body,
    )
    newest = RecordingRow.select(RecordingRow.id).where(RecordingRow.aircraft == aircraft_id)
    newest = newest.order_by(RecordingRow.at.desc(), RecordingRow.id.desc()).limit(MOST)
    RecordingRow.delete().where((RecordingRow.aircraft == aircraft_id) & RecordingRow.id.not_in(newest)).execute()
    return _kept(row)


def _row(aircraft_id: int, number: int) -> RecordingRow:
    row = RecordingRow.get_or_none((RecordingRow.id == number) & (RecordingRow.aircraft == aircraft_id))
    if row is None:
        raise MissingError("That recording is not here any more: only the newest are kept.")
    found: RecordingRow = row
    return found


def get(aircraft_id: int, number: int) -> Kept:
    """One recording of an aircraft. Raises MissingError."""
    return _kept(_row(aircraft_id, number))


def data_of(aircraft_id: int, number: int) -> bytes:
    """A recording as it came, text or not. Raises MissingError."""
    return zlib.decompress(_row(aircraft_id, number).body)


def text_of(aircraft_id: int, number: int) -> str:
    """The text of a recording, as it came. Raises MissingError."""
    return data_of(aircraft_id, number).decode("utf-8-sig")


def played(aircraft_id: int, number: int) -> Recording:
    """The frames of a recording, its field in µT where its unit is told by its size. Raises MissingError, and InputError where it has none."""
    text = text_of(aircraft_id, number)
    found = read_recording(text)
    field = [frame.field_ut for frame in found.frames if frame.field_ut is not None]
    unit = likely_unit(field) if field else None
    return found if unit in (None, FieldUnit.MICROTESLA) else read_recording(text, IN_UT[unit])


def remove(aircraft_id: int, number: int) -> None:
    """Throw a recording away, in the caller's transaction. Raises MissingError."""
    _row(aircraft_id, number).delete_instance()
