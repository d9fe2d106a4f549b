"""The box: readings of packs, changes of their state, and what is known of each in short."""

import json
from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from typing import Any

from peewee import fn

from walkround.core.endurance.estimate import LEAST_USED_PERCENT, Use
from walkround.core.errors import InputError, MissingError
from walkround.core.follow import PackFollows
from walkround.core.packs.charge import from_reading
from walkround.core.packs.health import Flown, left_in
from walkround.core.packs.pack import Pack, PackState, StateChange
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary, summarise
from walkround.core.packs.table import BY_TABLE, Row
from walkround.store import hangar
from walkround.store.models import FlightRow, PackChangeRow, PackRow, ReadingRow

MOST_READINGS = 5_000
BATCH = 1_000
USES = 30


def _reading(row: ReadingRow) -> Reading:
    # What the table holds was checked when it came in.
    return Reading.model_construct(
        at=row.at,
        cells_v=tuple(json.loads(row.cells)) if row.cells else (),
        total_v=row.total_v,
        percent=row.percent,
        lights=row.lights,
        resistance_mohm=tuple(json.loads(row.resistance)) if row.resistance else (),
        temperature_c=row.temperature_c,
        put_back_mah=row.put_back_mah,
        after=After(row.after),
        since_min=row.since_min,
        by=row.by,
        note=row.note,
        looked_over=row.looked_over,
    )


def readings(pack_id: int, limit: int = MOST_READINGS) -> list[Reading]:
    """The newest readings of a pack, oldest first."""
    rows = ReadingRow.select().where(ReadingRow.pack == pack_id).order_by(ReadingRow.at.desc()).limit(limit)
    return [_reading(row) for row in rows][::-1]


def numbered(pack_id: int, limit: int = 30) -> list[tuple[int, Reading]]:
    """The newest readings of a pack with their numbers, newest first, for its page."""
    rows = ReadingRow.select().where(ReadingRow.pack == pack_id).order_by(ReadingRow.at.desc()).limit(limit)
    return [(row.id, _reading(row)) for row in rows]


def flown(pack_id: int) -> list[Flown]:
    """Logged flights of a pack, oldest first."""
    rows = (
        FlightRow.select(FlightRow.landed_at, FlightRow.minutes, FlightRow.left_percent, FlightRow.left_v)
        .where((FlightRow.pack == pack_id) & FlightRow.logged_at.is_null(False) & FlightRow.landed_at.is_null(False))
        .order_by(FlightRow.took_off_at)
        .tuples()
    )
    return [
        Flown.model_construct(at=at, minutes=minutes or 0.0, left_percent=percent, left_v=volts)
        for at, minutes, percent, volts in rows
    ]


def _values(reading: Reading | Row) -> dict[str, Any]:
    return {
        "at": reading.at,
        "cells": json.dumps(list(reading.cells_v)) if reading.cells_v else "",
        "total_v": reading.total_v,
        "percent": reading.percent,
        "resistance": json.dumps(list(reading.resistance_mohm)) if reading.resistance_mohm else "",
        "temperature_c": reading.temperature_c,
        "put_back_mah": reading.put_back_mah,
        "after": reading.after.value,
    }


def add_reading(pack_id: int, reading: Reading, evidence_id: int | None = None) -> int:
    """Keep a reading and bring what is known of the pack up to date; returns its number.

    Raises InputError when the pack has a reading of that very moment.
    """
    if ReadingRow.select().where((ReadingRow.pack == pack_id) & (ReadingRow.at == reading.at)).exists():
        raise InputError("There is a reading of this pack at that very moment already.", "at")
    number = keep(pack_id, reading, evidence_id)
    refresh(pack_id)
    return number


def keep(pack_id: int, reading: Reading, evidence_id: int | None = None) -> int:
    """Keep a reading, nothing else: whoever keeps many brings the pack up to date once; returns its number."""
    more = {"lights": reading.lights, "since_min": reading.since_min, "by": reading.by, "note": reading.note}
    return int(ReadingRow.insert(pack=pack_id, evidence=evidence_id, **_values(reading), **more).execute())


def looked_over(pack_id: int, faults: Sequence[str], at: datetime) -> None:
    """Keep that a pack was looked over, and what was found."""
    note = "Looked over: " + ("; ".join(faults) if faults else "sound") + "."
    ReadingRow.insert(pack=pack_id, at=at, note=note[:300], looked_over=True).execute()
    refresh(pack_id)


def drop_reading(reading_id: int) -> int:
    """Take back a reading typed by hand; returns the number of its pack.

    Raises MissingError, and InputError for a reading that belongs to a round.
    """
    row = ReadingRow.get_or_none(ReadingRow.id == reading_id)
    if row is None:
        raise MissingError("That reading is gone already.")
    if row.evidence_id is not None:
        raise InputError("That reading belongs to a walk round and stays with it.")
    pack_id = int(row.pack_id)
    row.delete_instance()
    refresh(pack_id)
    return pack_id


def add_rows(rows: dict[int, list[Row]]) -> int:
    """Keep the rows of a table, all or nothing (in the caller's transaction); returns how many were new.

    A reading of the same pack at the same moment is there already and is passed over.
    """
    new = 0
    columns = (
        "pack_id",
        "at",
        "cells",
        "total_v",
        "percent",
        "resistance",
        "temperature_c",
        "put_back_mah",
        "after",
        "by",
    )
    named, marks = ", ".join(f'"{name}"' for name in columns), ", ".join("?" for _ in columns)
    database = ReadingRow._meta.database  # type: ignore[attr-defined]
    moment = ReadingRow.at.db_value
    cursor = database.connection().cursor()
    for pack_id, own in rows.items():
        before = ReadingRow.select().where(ReadingRow.pack == pack_id).count()
        cursor.executemany(
            f"INSERT OR IGNORE INTO reading ({named}) VALUES ({marks})",
            ((pack_id, *(_values(row) | {"at": moment(row.at)}).values(), BY_TABLE) for row in own),
        )
        new += ReadingRow.select().where(ReadingRow.pack == pack_id).count() - before
    PackRow.update(summary=None).where(PackRow.id.in_(list(rows))).execute()
    return new


def refresh(pack_id: int) -> Summary:
    """Bring what is known of a pack in short up to date."""
    pack = hangar.get(Pack, pack_id)
    known = summarise(pack, readings(pack_id), flown(pack_id), points=False)
    PackRow.update(summary=known.model_dump_json()).where(PackRow.id == pack_id).execute()
    return known


def known_of(pack: Pack) -> Summary:
    """What is known of a pack, with every point to draw."""
    return summarise(pack, readings(pack.id), flown(pack.id))


def in_short(pack_id: int) -> Summary:
    """What is known of one pack in short."""
    text = PackRow.select(PackRow.summary).where(PackRow.id == pack_id).scalar()
    return Summary.model_validate_json(text) if text else _made(pack_id)


def _made(pack_id: int) -> Summary:
    """A summary that is not there yet is made for this page; the next write keeps it."""
    pack = hangar.get(Pack, pack_id)
    return summarise(pack, readings(pack_id), flown(pack_id), points=False)


def box(*, retired: bool = True) -> list[tuple[Pack, Summary]]:
    """All packs by label with what is known of each."""
    texts = dict(PackRow.select(PackRow.id, PackRow.summary).tuples())
    return [
        (pack, Summary.model_validate_json(texts[pack.id]) if texts[pack.id] else _made(pack.id))
        for pack in hangar.everything(Pack, retired=retired)
    ]


def change_state(
    pack_id: int,
    state: PackState,
    reason: str,
    at: datetime,
    *,
    for_good: bool = False,
    evidence_id: int | None = None,
) -> None:
    """Change the state of a pack, with the reason. Raises InputError without one, and for a pack that is out for good."""
    pack = hangar.get(Pack, pack_id)
    if not reason.strip():
        raise InputError("Say why; the reason stays with the pack.", "reason")
    if pack.for_good:
        raise InputError(f"Pack {pack.label} is out for good. Nothing brings it back.", "state")
    PackChangeRow.create(
        pack=pack_id, state=state.value, at=at, reason=reason.strip()[:300], for_good=for_good, evidence=evidence_id
    )
    hangar.save(pack.model_copy(update={"state": state, "for_good": for_good}), at)


def changes(pack_id: int) -> list[StateChange]:
    """Changes of state of a pack, newest first."""
    rows = (
        PackChangeRow.select()
        .where(PackChangeRow.pack == pack_id)
        .order_by(PackChangeRow.at.desc(), PackChangeRow.id.desc())
    )
    return [StateChange(state=PackState(r.state), at=r.at, reason=r.reason, for_good=r.for_good) for r in rows]


def reasons() -> dict[int, str]:
    """Why each pack is in the state it is in: the newest reason, by its number."""
    newest = PackChangeRow.select(PackChangeRow.pack, fn.MAX(PackChangeRow.id)).group_by(PackChangeRow.pack).tuples()
    numbers = [number for _, number in newest]
    rows = PackChangeRow.select(PackChangeRow.pack, PackChangeRow.reason).where(PackChangeRow.id.in_(numbers)).tuples()
    return dict(rows)


def why_down(pack: Pack) -> str:
    """Why a pack may not fly, in words; "" when it may."""
    if pack.usable:
        return ""
    reason = reasons().get(pack.id, "")
    return f"Pack {pack.label} is {'out for good' if pack.for_good else pack.state.value}" + (
        f": {reason}." if reason else "."
    )


def keep_following(pack_id: int, follows: PackFollows, evidence_id: int, at: datetime) -> None:
    """What an answer of a round brings for its pack: a reading, a change of state."""
    if follows.reading is not None:
        free = ReadingRow.select().where((ReadingRow.pack == pack_id) & (ReadingRow.at == at)).exists()
        moment = at + timedelta(microseconds=evidence_id % 900 + 1) if free else at
        add_reading(pack_id, follows.reading.model_copy(update={"at": moment}), evidence_id)
    if follows.state is not None and not hangar.get(Pack, pack_id).for_good:
        change_state(pack_id, follows.state, follows.reason, at, for_good=follows.for_good, evidence_id=evidence_id)


def take_back(pack_id: int, evidence_ids: Iterable[int], at: datetime) -> None:
    """Take back what answers brought for a pack: as if they had never been given."""
    numbers = list(evidence_ids)
    if ReadingRow.delete().where(ReadingRow.evidence.in_(numbers)).execute():
        refresh(pack_id)
    if PackChangeRow.delete().where(PackChangeRow.evidence.in_(numbers)).execute():
        before = changes(pack_id)
        state, for_good = (before[0].state, before[0].for_good) if before else (PackState.IN_SERVICE, False)
        pack = hangar.get(Pack, pack_id)
        hangar.save(pack.model_copy(update={"state": state, "for_good": for_good}), at)


def uses(aircraft_id: int) -> tuple[Use, ...]:
    """What the newest logged flights of an aircraft used, newest first.

    A flight starts with what was read on its pack since that pack last flew, else full; flights without what was left
    say nothing.
    """
    earlier = FlightRow.alias()
    before = earlier.select(fn.MAX(earlier.landed_at)).where(
        (earlier.pack == FlightRow.pack) & (earlier.took_off_at < FlightRow.took_off_at)
    )
    read_at = ReadingRow.select(fn.MAX(ReadingRow.at)).where(
        (ReadingRow.pack == FlightRow.pack) & (ReadingRow.at <= FlightRow.took_off_at)
    )
    rows = (
        FlightRow.select(
            FlightRow, PackRow.id, PackRow.label, PackRow.spec, before.alias("before"), read_at.alias("read_at")
        )
        .join(PackRow)
        .where(
            (FlightRow.aircraft == aircraft_id)
            & FlightRow.logged_at.is_null(False)
            & (FlightRow.left_percent.is_null(False) | FlightRow.left_v.is_null(False))
        )
        .order_by(FlightRow.took_off_at.desc())
        .limit(USES)
    )
    flights = list(rows)
    starts = _readings_at([(f.pack_id, f.read_at) for f in flights if f.read_at is not None])
    found = []
    for flight in flights:
        pack = Pack.model_validate(json.loads(flight.pack.spec) | {"id": flight.pack_id, "label": flight.pack.label})
        left = left_in(
            pack,
            Flown.model_construct(
                at=flight.landed_at, minutes=flight.minutes, left_percent=flight.left_percent, left_v=flight.left_v
            ),
        )
        reading = starts.get((flight.pack_id, flight.read_at))
        fresh = reading is not None and (flight.before is None or flight.read_at > flight.before)
        held = from_reading(reading, pack) if fresh and reading is not None else None
        used = (held.mid if held is not None else 100.0) - (left.mid if left is not None else 100.0)
        if used < LEAST_USED_PERCENT or not flight.minutes:
            continue
        found.append(
            Use(
                at=flight.took_off_at,
                minutes=flight.minutes,
                used_percent=used,
                capacity_mah=pack.capacity_mah,
                pack=flight.pack.label,
                mass_g=flight.mass_g,
            )
        )
    return tuple(found)


def _readings_at(moments: Sequence[tuple[int, str]]) -> dict[tuple[int, str], Reading]:
    """Readings of packs at moments as the table writes them."""
    if not moments:
        return {}
    packs, times = {pack for pack, _ in moments}, {datetime.fromisoformat(at) for _, at in moments}
    rows = ReadingRow.select().where(ReadingRow.pack.in_(packs) & ReadingRow.at.in_(times))
    return {(row.pack_id, ReadingRow.at.db_value(row.at)): _reading(row) for row in rows}
