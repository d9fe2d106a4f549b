"""Whether a book is whole: every table and trigger is there, every stored shape parses, records are what was answered.

What cannot be checked is said; only a file with its checksum beside it, and nothing left unchecked, is called whole.
"""

import hashlib
import io
import json
import math
import sqlite3
import time
import zlib
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

import msgspec

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.airspace.zone import Zone
from walkround.core.base.later import Later, pattern
from walkround.core.base.units import Quantity
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.flight.session import Gear
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.reading import Reading
from walkround.core.packs.summary import Summary
from walkround.core.pilot.accident import Occurrence
from walkround.core.round.consequences import Happened
from walkround.core.round.record import Record, content_hash
from walkround.store import calibrations, evidence, recordings, upgrade
from walkround.store.book import MIGRATION_TABLE, BookError
from walkround.store.migrations import FIELD_TERMS
from walkround.store.migrations.steps import MIGRATIONS, run
from walkround.store.settings import Settings
from walkround.store.situation import situation_in
from walkround.store.upgrade import step_4
from walkround.store.wal import read_log

Image = Later("PIL.Image")

SUM_SUFFIX = ".sha256"
BLOCK = 1 << 20
READ_AGAIN = 3
_MOMENT = pattern(r"\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?(\+00:00|Z)")
_MOMENTS = ("at", "created_at", "started_at", "signed_at", "took_off_at", "landed_at", "logged_at", "opened_at", "closed_at",
            "fitted_at", "removed_at", "received_at", "read_at", "as_of", "taken_at")  # fmt: skip


class Whole(NamedTuple):
    """What was found of a book: its schema, how many signed rounds it holds, and what could not be checked, in words."""

    schema: int
    records: int
    unchecked: tuple[str, ...]

    @property
    def whole(self) -> bool:
        """Whether it may be called whole: everything was checked and held."""
        return not self.unchecked


def sum_of(path: Path) -> str:
    """SHA-256 of a file, in hex."""
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while block := file.read(BLOCK):
            digest.update(block)
    return digest.hexdigest()


def sum_beside(path: Path) -> Path:
    """Where the checksum of a file stands: one line as ``sha256sum`` writes and checks it."""
    return path.with_name(path.name + SUM_SUFFIX)


def examine(path: Path) -> Whole:
    """Look a book over. Raises BookError in words at the first thing that does not hold; reads only.

    A checksum beside the file is held against it. A book in use has none, and its newest answers may stand in the log.
    """
    with _in_words(path):
        return _examine(path)


def first_look(path: Path) -> None:
    """What can be said of a book of any size at once: its log and its tables. Raises BookError in words; reads only."""
    with _in_words(path):
        list(_log_holds(path))
        with closing(sqlite3.connect(f"file:{path.resolve()}?mode=ro", uri=True)) as db:
            _schema_holds(db, path)


@contextmanager
def _in_words(path: Path) -> Iterator[None]:
    if not path.is_file():
        raise BookError(f"There is no file {path}.")
    try:
        yield
    except BookError:
        raise
    except sqlite3.DatabaseError as error:
        raise BookError(f"{path} is not a Walk Round database: {error}") from error
    except OSError as error:
        raise BookError(f"{path} cannot be read: {error.strerror or error}.") from error
    except Exception as error:  # whatever stands in a damaged file, it is reported and never a crash
        raise BookError(f"{path} is damaged: {type(error).__name__}: {str(error)[:200]}") from error


def _examine(path: Path) -> Whole:
    unchecked = [*_sum_holds(path), *_log_holds(path)]
    with closing(sqlite3.connect(f"file:{path.resolve()}?mode=ro", uri=True)) as db:
        db.row_factory = sqlite3.Row
        db.execute("BEGIN")  # one moment of the book, also while it is in use
        state = db.execute("PRAGMA integrity_check").fetchone()[0]
        if state != "ok":
            raise BookError(f"{path} is damaged: {state}")
        if db.execute("PRAGMA foreign_key_check").fetchone() is not None:
            raise BookError(f"{path} is damaged: some rows point nowhere.")
        schema = _schema_holds(db, path)
        tables = {row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        for table in sorted(tables & set(_SHAPES)):
            for row in db.execute(f'SELECT * FROM "{table}"'):
                _row_holds(path, table, dict(row) if schema >= FIELD_TERMS else step_4.row(table, dict(row)))
        rows = {r["name"]: json.loads(r["value"]) for r in db.execute("SELECT * FROM setting")}
        Settings.model_validate(rows if schema >= FIELD_TERMS else dict(step_4.setting(n, v) for n, v in rows.items()))
        records = _records_hold(db, path)
        _zones_hold(db, path, tables)
    return Whole(schema, records, tuple(unchecked))


def _sum_holds(path: Path) -> Iterator[str]:
    beside = sum_beside(path)
    if not beside.exists():
        yield "There is no checksum beside it: so a change that keeps every rule cannot be detected."
        return
    told = beside.read_text(encoding="ascii", errors="replace").split()
    if not told or told[0] != sum_of(path):
        raise BookError(f"{path} is damaged: it is not the file that its checksum was made of.")


def _log_holds(path: Path) -> Iterator[str]:
    log = read_log(path.with_name(path.name + "-wal"))
    for _ in range(READ_AGAIN if log.damaged else 0):
        time.sleep(0.05)  # a book in use: the log may have begun anew while it was read
        log = read_log(path.with_name(path.name + "-wal"))
    if log.damaged:
        raise BookError(
            f"{path}: its write-ahead log is damaged after {log.good} pages; answers that were saved last are in {log.bad} "
            "pages that cannot be read. Restore a backup, or keep the file with its -wal beside it for help."
        )
    if log.bad:
        yield "The last transaction in its write-ahead log is not complete; it was never confirmed."


def _schema_holds(db: sqlite3.Connection, path: Path) -> int:
    """Every migration up to a number ran, and every table, index and trigger is as they made it."""
    numbers = [row[0] for row in db.execute("SELECT number FROM migration ORDER BY number")]
    newest = MIGRATIONS[-1][0]
    schema = numbers[-1] if numbers else 0
    if not 1 <= schema <= newest or numbers != list(range(1, schema + 1)):
        raise BookError(f"{path} has schema {schema}; this Walk Round reads {newest}.")
    with closing(sqlite3.connect(":memory:")) as fresh:
        fresh.execute(MIGRATION_TABLE)
        for number, _, statements in MIGRATIONS:
            if number <= schema:
                run(statements, fresh.execute)
        wanted, have = _parts(fresh), _parts(db)
    for (kind, name), text in wanted.items():
        if have.get((kind, name)) != text:
            gone = "is missing" if (kind, name) not in have else "is not as this program made it"
            raise BookError(f"{path} is damaged: its {kind} {name} {gone}.")
    if extra := set(have) - set(wanted):
        raise BookError(f"{path} is damaged: {', '.join(sorted(name for _, name in extra))} does not belong in a book.")
    return int(schema)


def _parts(db: sqlite3.Connection) -> dict[tuple[str, str], str]:
    rows = db.execute("SELECT type, name, sql FROM sqlite_master WHERE name NOT LIKE 'sqlite_%'")
    return {(kind, name): " ".join(str(sql).split()) for kind, name, sql in rows}


def _row_holds(path: Path, table: str, data: dict[str, Any]) -> None:
    """The times, the numbers and the stored shape of one row."""
    try:
        for name in _MOMENTS:
            moment = data.get(name)
            if moment is not None and table != "migration":
                if not isinstance(moment, str) or not _MOMENT.fullmatch(moment):
                    raise ValueError(f"{name} is not a time: {str(moment)[:40]}")
                datetime.fromisoformat(moment)
        for name, value in data.items():
            if isinstance(value, float) and not math.isfinite(value):
                raise ValueError(f"{name} is not a number")
        _SHAPES[table](data)
    except Exception as error:
        key = data.get("id", data.get("round_id", data.get("name", "")))
        raise BookError(f"{path} is damaged: {table} {key}: {str(error)[:200]}") from error


def _thing(kind: Any, word: str, name: str, data: dict[str, Any]) -> None:
    spec = json.loads(data["spec"]) | {"id": data["id"], name: data[name]}
    if word == "pack" and data["retired"]:
        spec.setdefault("state", "retired")
    kind.model_validate(upgrade.read(word, spec))
    if data.get("summary") is not None:
        Summary.model_validate_json(data["summary"])


def _reading(data: dict[str, Any]) -> None:
    lists = {name: json.loads(data[column]) if data[column] else [] for name, column in (("cells_v", "cells"), ("resistance_mohm", "resistance"))}  # fmt: skip
    plain = ("at", "total_v", "percent", "lights", "temperature_c", "recharged_mah", "after", "since_min", "by", "note")
    Reading.model_validate({name: data[name] for name in plain} | lists | {"looked_over": bool(data["looked_over"])})


def _flight(data: dict[str, Any]) -> None:
    if data["logged_at"] is not None and data["happened"]:
        Happened(data["happened"])
    if data["minutes"] is not None and not 0 <= data["minutes"] <= 24 * 60:
        raise ValueError("minutes in the air")


def _photo(data: dict[str, Any]) -> None:
    with Image.open(io.BytesIO(data["jpeg"]), formats=("JPEG",)) as image:
        image.load()
        if image.size != (data["width"], data["height"]):
            raise ValueError("the photo has another size")


def _part(data: dict[str, Any]) -> None:
    PartKind(data["kind"])


def _event(data: dict[str, Any]) -> None:
    EventKind(data["kind"])
    if data.get("part"):
        PartKind(data["part"])


def _nothing(data: dict[str, Any]) -> None:
    """Times and numbers are all there is to it."""


def _calibration(data: dict[str, Any]) -> None:
    calibrations.KINDS[data["kind"]].model_validate_json(data["body"])


def _recording(data: dict[str, Any]) -> None:
    recordings.Kind(data["kind"])
    zlib.decompress(data["body"])


_SHAPES: dict[str, Callable[[dict[str, Any]], object]] = {
    "aircraft": partial(_thing, Aircraft, "aircraft", "name"),
    "pack": partial(_thing, Pack, "pack", "label"),
    "site": partial(_thing, Site, "site", "name"),
    "site_past": lambda d: _thing(Site, "site", "name", d | {"id": d["site_id"]}),
    "zone": lambda d: Zone.model_validate_json(d["spec"]) and None,
    "zone_set": _nothing,
    "round": lambda d: situation_in(d["situation"]) and None,
    "evidence": _nothing,
    "record": _nothing,
    "flight": _flight,
    "air_note": _nothing,
    "occurrence_photo": _photo,
    "gear_reading": lambda d: Gear(d["gear"]) and None,
    "occurrence": lambda d: Occurrence(d["kind"]) and None,
    "event": _event,
    "calibration": _calibration,
    "recording": _recording,
    "snag": _nothing,
    "photo": _photo,
    "part": _part,
    "reading": _reading,
    "import_run": _nothing,
    "pack_change": lambda d: PackState(d["state"]) and None,
    "done": lambda d: msgspec.json.decode(d["value"], type=Quantity) and None if d["value"] else None,
}
"""What a row of each table has to be."""


def _records_hold(db: sqlite3.Connection, path: Path) -> int:
    """Signed rounds and records one to one; each record is its hash, its round and exactly the evidence kept for it."""
    signed = {row["id"]: row for row in db.execute("SELECT * FROM round WHERE state = 'signed'")}
    count = 0
    for row in db.execute("SELECT * FROM record"):
        number, where = row["round_id"], f"{path}: the record of round {row['round_id']}"
        if content_hash(row["text"]) != row["sha256"]:
            raise BookError(f"{where} does not match its hash.")
        round_ = signed.pop(number, None)
        if round_ is None:
            raise BookError(f"{where} belongs to no signed round.")
        record = Record.model_validate(upgrade.record(json.loads(row["text"])))
        same = (
            record.round_id == number
            and record.signed_by == row["signed_by"]
            and record.signed_at
            == datetime.fromisoformat(row["signed_at"])
            == datetime.fromisoformat(round_["signed_at"])
            and int(record.verdict.level) == round_["level"]
        )
        if not same:
            raise BookError(f"{where} is not that of its round: who, when or the verdict differ.")
        kept = _evidence_of(db, number, round_["situation"], record.through)
        if kept != {e.id: (e.check_id, e.at, e.by, e.answer) for e in record.evidence}:
            raise BookError(f"{where} holds other evidence than is stored for it.")
        count += 1
    if signed:
        raise BookError(f"{path}: round {min(signed)} is signed and has no record.")
    for row in db.execute("SELECT id, situation FROM round WHERE state <> 'signed'"):
        _evidence_of(db, row["id"], row["situation"], None)
    last = db.execute("SELECT seq FROM sqlite_sequence WHERE name = 'evidence'").fetchone()
    top = db.execute("SELECT max(id) FROM evidence").fetchone()[0] or 0
    if (last[0] if last else 0) < top:
        raise BookError(f"{path} is damaged: numbers of evidence would be used twice.")
    return count


def _evidence_of(db: sqlite3.Connection, number: int, situation_text: str, through: int | None) -> dict[int, Any]:
    """The evidence of a round as kept, up to a number; what came later is parsed too."""
    rows = map(tuple, db.execute("SELECT id, check_id, at, by, answer FROM evidence WHERE round_id = ?", (number,)))
    return {
        piece.id: (piece.check_id, piece.at, piece.by, piece.answer)
        for piece in evidence.pieces_of(rows, situation_text)
        if through is None or piece.id <= through
    }


def _zones_hold(db: sqlite3.Connection, path: Path, tables: set[str]) -> None:
    """Zones and their boxes one to one."""
    if "zone" not in tables:
        return
    alone = db.execute("SELECT (SELECT count(*) FROM zone WHERE id NOT IN (SELECT id FROM zone_box)) + "
                       "(SELECT count(*) FROM zone_box WHERE id NOT IN (SELECT id FROM zone))").fetchone()[0]  # fmt: skip
    if alone:
        raise BookError(f"{path} is damaged: {alone} zones are not in the index of places.")
