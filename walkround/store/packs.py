"""The box: readings of packs, changes of their state, and what is known of each in short."""

import json
from collections.abc import Iterable, Iterator, Sequence
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import Any, NamedTuple

import msgspec
from peewee import Select, fn

from walkround.core.base.clock import is_ahead, latest
from walkround.core.base.errors import InputError, MissingError
from walkround.core.base.kept import Same
from walkround.core.flight.estimate import LEAST_USED_PERCENT, Use
from walkround.core.packs.charge import from_reading
from walkround.core.packs.health import Flown, Health, health, left_in
from walkround.core.packs.pack import Pack, PackState, StateChange
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary, summarise
from walkround.core.round.consequences import PackConsequences
from walkround.store import hangar
from walkround.store.models import FlightRow, PackChangeRow, PackRow, ReadingRow, tuples
from walkround.store.statements import prepared, until_changed, write

MOST_READINGS = 5_000
USES = 30
SHOWN_READINGS, SHOWN_FLIGHTS = 30, 8


_COLUMNS = """r.id, r.pack_id, r.at, r.cells, r.total_v, r.percent, r.lights, r.resistance, r.temperature_c, r.recharged_mah,
    r.after, r.since_min, r.by, r.note, r.looked_over"""
_HERE = "(r.import_id IS NULL OR r.import_id IN (SELECT i.id FROM import_run i WHERE i.state = 'here'))"
_NEWEST = f"SELECT {_COLUMNS} FROM reading r WHERE r.pack_id = ? AND r.at <= ? AND {_HERE} ORDER BY r.at DESC LIMIT ?"
_BESIDE = _NEWEST.replace("ORDER BY", "AND r.import_id IS NOT ? ORDER BY")
_EVER = datetime.max.replace(tzinfo=UTC)
_OLDEST = f"SELECT {_COLUMNS} FROM reading r WHERE r.pack_id = ? AND r.at > ? AND {_HERE} ORDER BY r.at LIMIT ?"
PAGE_ROWS = 2_000
_AFTER = {after.value: after for after in After}


_floats = msgspec.json.Decoder(tuple[float, ...]).decode
"""A list of numbers as the table keeps it."""


def _reading(row: Sequence[Any]) -> Reading:
    """A reading from a row of ``_COLUMNS``. What the table holds was checked when it came in; there may be thousands."""
    _, _, at, cells, total, percent, lights, ohms, warm, recharged_mah, after, since, by, note, looked_over = row
    return Reading.trusted(
        at=datetime.fromisoformat(at),
        cells_v=_floats(cells) if cells else (),
        total_v=total,
        percent=percent,
        lights=lights,
        resistance_mohm=_floats(ohms) if ohms else (),
        temperature_c=warm,
        recharged_mah=recharged_mah,
        after=_AFTER[after],
        since_min=since,
        by=by,
        note=note,
        looked_over=bool(looked_over),
    )


_read_before = lru_cache(maxsize=1024)(_reading)
"""A reading before a flight: plans ask for the same ones again and again."""


def _newest(pack_id: int, limit: int, until: datetime = _EVER) -> list[Sequence[Any]]:
    database = ReadingRow._meta.database
    rows: list[Sequence[Any]] = database.execute_sql(_NEWEST, (pack_id, until.isoformat(), limit)).fetchall()
    return rows


def readings(pack_id: int, limit: int = MOST_READINGS, until: datetime = _EVER) -> list[Reading]:
    """The newest readings of a pack up to a moment, oldest first."""
    return [_reading(row) for row in reversed(_newest(pack_id, limit, until))]


def readings_beside(pack_id: int, number: int, until: datetime) -> list[Reading]:
    """As ``readings``, without those that came with the import of that number."""
    database = ReadingRow._meta.database
    rows = database.execute_sql(_BESIDE, (pack_id, until.isoformat(), number, MOST_READINGS)).fetchall()
    return [_reading(row) for row in reversed(rows)]


def each_reading(pack_id: int) -> Iterator[Reading]:
    """All readings of a pack, oldest first, one at a time; asked for in pages, so that whichever thread goes on may."""
    database = ReadingRow._meta.database
    last = ""
    while rows := database.execute_sql(_OLDEST, (pack_id, last, PAGE_ROWS)).fetchall():
        for row in rows:
            yield _reading(row)
        last = rows[-1][2]


def numbered(pack_id: int, limit: int = 30) -> list[tuple[int, Reading]]:
    """The newest readings of a pack with their numbers, newest first, for its page."""
    return [(row[0], _reading(row)) for row in _newest(pack_id, limit)]


def flown(pack_id: int, until: datetime = _EVER) -> list[Flown]:
    """Logged flights of a pack that ended up to a moment, oldest first."""
    return [
        Flown(at=at, minutes=minutes or 0.0, left_percent=percent, left_v=volts)
        for at, minutes, percent, volts in _flown(pack_id, until)
    ]


@prepared
def _flown(pack: Any, until: Any) -> Select:
    return (
        FlightRow.select(FlightRow.landed_at, FlightRow.minutes, FlightRow.left_percent, FlightRow.left_v)
        .where((FlightRow.pack == pack) & FlightRow.logged_at.is_null(False) & (FlightRow.landed_at <= until))
        .order_by(FlightRow.took_off_at)
    )


def _values(reading: Reading) -> dict[str, Any]:
    return {
        "at": reading.at,
        "cells": json.dumps(list(reading.cells_v)) if reading.cells_v else "",
        "total_v": reading.total_v,
        "percent": reading.percent,
        "resistance": json.dumps(list(reading.resistance_mohm)) if reading.resistance_mohm else "",
        "temperature_c": reading.temperature_c,
        "recharged_mah": reading.recharged_mah,
        "after": reading.after.value,
    }


def add_reading(pack_id: int, reading: Reading, now: datetime, evidence_id: int | None = None) -> int:
    """Keep a reading and bring what is known of the pack up to date; returns its number.

    Raises InputError when the pack has a reading of that very moment.
    """
    if ReadingRow.select().where((ReadingRow.pack == pack_id) & (ReadingRow.at == reading.at)).exists():
        raise InputError("There is already a reading of this pack at that time.", "at")
    number = keep(pack_id, reading, evidence_id)
    refresh(pack_id, now)
    return number


def keep(pack_id: int, reading: Reading, evidence_id: int | None = None) -> int:
    """Keep a reading, nothing else: whoever keeps many brings the pack up to date once; returns its number."""
    more = {"lights": reading.lights, "since_min": reading.since_min, "by": reading.by, "note": reading.note}
    return int(ReadingRow.insert(pack=pack_id, evidence=evidence_id, **_values(reading), **more).execute())


def looked_over(pack_id: int, faults: Sequence[str], at: datetime) -> None:
    """Keep that a pack was looked over, and what was found."""
    note = "Inspected: " + ("; ".join(faults) if faults else "sound") + "."
    ReadingRow.insert(pack=pack_id, at=at, note=note[:300], looked_over=True).execute()
    refresh(pack_id, at)


def drop_reading(reading_id: int, now: datetime) -> int:
    """Take back a reading typed by hand; returns the number of its pack.

    Raises MissingError, and InputError for a reading that belongs to a round.
    """
    row = ReadingRow.get_or_none(ReadingRow.id == reading_id)
    if row is None:
        raise MissingError("That reading has been deleted already.")
    if row.evidence_id is not None:
        raise InputError("That reading belongs to a walk round and cannot be deleted.")
    pack_id = int(row.pack_id)
    row.delete_instance()
    refresh(pack_id, now)
    return pack_id


def refresh(pack_id: int, now: datetime, read: Sequence[Reading] | None = None) -> Summary:
    """Bring what is known of a pack in short up to date; what is dated ahead of the clock does not count. ``read``: its readings,
    when they are at hand."""
    known = made_now(pack_id, now, read)
    PackRow.update(summary=known.model_dump_json()).where(PackRow.id == pack_id).execute()
    return known


class Known(NamedTuple):
    """Everything known of a pack: in short, how it ages, its newest readings with their numbers and its newest flights, newest
    first, and the latest time of them all (aware; None: there is nothing)."""

    short: Summary
    aged: Health
    readings: tuple[tuple[int, Reading], ...]
    flights: tuple[Flown, ...]
    latest: datetime | None


def known_of(pack: Pack, now: datetime) -> Known:
    """Everything known of a pack. Readings ahead of the clock are listed and do not count."""
    known = _ever_known(Same(pack))
    return known if known.latest is None or not is_ahead(known.latest, now) else _known_until(pack, latest(now))


@until_changed
def _ever_known(pack: Same) -> Known:
    (one,) = pack.things
    return _known_until(one, _EVER)


def _known_until(pack: Pack, until: datetime) -> Known:
    numbered = [(row[0], _reading(row)) for row in _newest(pack.id, MOST_READINGS)]
    read = [reading for _, reading in reversed(numbered) if reading.at <= until]
    flights = flown(pack.id, until)
    aged = health(pack, read, flights)
    times = [r.at for _, r in numbered[:1]] + [f.at for f in flights]
    shown = tuple(numbered[:SHOWN_READINGS]), tuple(flights[-SHOWN_FLIGHTS:][::-1])
    return Known(summarise(pack, read, flights, aged), aged, *shown, max(times, default=None))


@lru_cache(maxsize=4096)
def read_summary(text: str) -> Summary:
    """What is kept of a pack in short."""
    return Summary.model_validate_json(text)


def in_short(pack_id: int, now: datetime) -> Summary:
    """What is known of one pack in short. A summary that is not there yet, or speaks of times ahead, is made for this page."""
    text = _kept.value(pack_id)
    known = read_summary(text) if text else None
    return made_now(pack_id, now) if known is None or known.is_ahead(now) else known


@prepared
def _kept(pack: Any) -> Select:
    return PackRow.select(PackRow.summary).where(PackRow.id == pack)


def made_now(pack_id: int, now: datetime, read: Sequence[Reading] | None = None) -> Summary:
    """What is known of a pack at an aware time, made of its readings (``read``, when they are at hand) and flights until then."""
    until = latest(now)
    read = readings(pack_id, until=until) if read is None else read
    return summarise(hangar.get(Pack, pack_id), read, flown(pack_id, until))


def firmware_of(cells: int) -> tuple[str, ...]:
    """What firmware the smart packs of so many cells carry, in words, those that may fly."""
    return tuple(f"pack {label} {version}" for label, version in _firmware(cells))


@prepared
def _firmware(cells: Any) -> Select:
    spec = PackRow.spec
    firmware = fn.json_extract(spec, "$.firmware")
    rows = PackRow.select(PackRow.label, firmware).where(
        ~PackRow.retired
        & (fn.json_extract(spec, "$.cells") == cells)
        & (fn.json_extract(spec, "$.smart") == 1)
        & (firmware != "")
    )
    return rows.order_by(PackRow.label).limit(12)


def change_state(
    pack_id: int,
    state: PackState,
    reason: str,
    at: datetime,
    *,
    condemned: bool = False,
    evidence_id: int | None = None,
) -> None:
    """Change the state of a pack, with the reason. Raises InputError without one, and for a pack that is out for good."""
    pack = hangar.get(Pack, pack_id)
    if not reason.strip():
        raise InputError("Enter a reason. It stays with the pack.", "reason")
    if pack.condemned:
        raise InputError(f"Pack {pack.label} is retired for good. It cannot return to service.", "state")
    PackChangeRow.create(
        pack=pack_id, state=state.value, at=at, reason=reason.strip()[:300], condemned=condemned, evidence=evidence_id
    )
    hangar.save(pack.model_copy(update={"state": state, "condemned": condemned}), at)


def changes(pack_id: int) -> list[StateChange]:
    """Changes of state of a pack, newest first."""
    rows = PackChangeRow.select().where(PackChangeRow.pack == pack_id).order_by(PackChangeRow.id.desc())
    return [StateChange(state=PackState(r.state), at=r.at, reason=r.reason, condemned=r.condemned) for r in rows]


def reasons() -> dict[int, str]:
    """Why each pack is in the state it is in: the newest reason, by its number."""
    newest = tuples(PackChangeRow.select(PackChangeRow.pack, fn.MAX(PackChangeRow.id)).group_by(PackChangeRow.pack))
    numbers = [number for _, number in newest]
    rows = tuples(PackChangeRow.select(PackChangeRow.pack, PackChangeRow.reason).where(PackChangeRow.id.in_(numbers)))
    return dict(rows)


def why_down(pack: Pack) -> str:
    """Why a pack may not fly, in words; "" when it may."""
    if pack.usable:
        return ""
    reason = reasons().get(pack.id, "")
    return f"Pack {pack.label} is {'retired for good' if pack.condemned else pack.state.value}" + (
        f": {reason}." if reason else "."
    )


def keep_consequences(
    pack_id: int, consequences: PackConsequences, evidence_id: int, at: datetime, now: datetime
) -> None:
    """What an answer of a round, given at a moment, brings for its pack: a reading, a change of state."""
    if consequences.reading is not None:
        free = ReadingRow.select().where((ReadingRow.pack == pack_id) & (ReadingRow.at == at)).exists()
        moment = at + timedelta(microseconds=evidence_id % 900 + 1) if free else at
        add_reading(pack_id, consequences.reading.model_copy(update={"at": moment}), now, evidence_id)
    if consequences.state is not None and not hangar.get(Pack, pack_id).condemned:
        change_state(
            pack_id,
            consequences.state,
            consequences.reason,
            at,
            condemned=consequences.condemned,
            evidence_id=evidence_id,
        )


def take_back(pack_id: int, evidence_ids: Iterable[int], at: datetime) -> None:
    """Take back what answers brought for a pack: as if they had never been given."""
    numbers = json.dumps(list(evidence_ids))
    if write("DELETE FROM reading WHERE evidence_id IN (SELECT value FROM json_each(?))", numbers).rowcount:
        refresh(pack_id, at)
    if write("DELETE FROM pack_change WHERE evidence_id IN (SELECT value FROM json_each(?))", numbers).rowcount:
        before = changes(pack_id)
        state, condemned = (before[0].state, before[0].condemned) if before else (PackState.IN_SERVICE, False)
        pack = hangar.get(Pack, pack_id)
        hangar.save(pack.model_copy(update={"state": state, "condemned": condemned}), at)


_USES = f"""
    SELECT f.took_off_at, f.landed_at, f.minutes, f.left_percent, f.left_v, f.mass_g, p.id, p.label, p.spec,
        {_COLUMNS},
        (SELECT e.landed_at FROM flight e WHERE e.pack_id = f.pack_id AND e.took_off_at < f.took_off_at
         ORDER BY e.took_off_at DESC LIMIT 1)
    FROM flight f JOIN pack p ON p.id = f.pack_id
        LEFT JOIN reading r ON r.pack_id = f.pack_id AND r.at =
            (SELECT max(r.at) FROM reading r WHERE r.pack_id = f.pack_id AND r.at <= f.took_off_at AND {_HERE})
    WHERE f.aircraft_id = ? AND f.logged_at IS NOT NULL AND f.landed_at IS NOT NULL
        AND (f.left_percent IS NOT NULL OR f.left_v IS NOT NULL)
    ORDER BY f.took_off_at DESC LIMIT ?"""


@until_changed
def uses(aircraft_id: int) -> tuple[Use, ...]:
    """What the newest logged flights of an aircraft used, newest first.

    A flight starts with what was read on its pack since that pack last flew, else full; flights without what was left
    say nothing. In one question of its own: a plan asks it each time.
    """
    database = FlightRow._meta.database
    packs: dict[int, Pack] = {}
    found = []
    for row in database.execute_sql(_USES, (aircraft_id, USES)).fetchall():
        off, landed, minutes, percent, volts, mass_g, pack_id, label, spec, *read, last = row
        pack = packs.get(pack_id)
        if pack is None:
            pack = packs[pack_id] = hangar.pack_of((pack_id, label, spec, False))
        left = left_in(pack, percent, volts)
        held = None
        if read[0] is not None and (last is None or read[2] > last):
            held = from_reading(_read_before(tuple(read)), pack)
        used = (held.mid if held is not None else 100.0) - (left.mid if left is not None else 100.0)
        if used < LEAST_USED_PERCENT or not minutes or landed is None:
            continue
        found.append(
            Use.trusted(
                at=datetime.fromisoformat(off),
                minutes=minutes,
                used_percent=used,
                capacity_mah=pack.capacity_mah,
                pack=label,
                mass_g=mass_g,
            )
        )
    return tuple(found)
