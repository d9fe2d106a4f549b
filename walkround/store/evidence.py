"""Evidence of rounds: rows that are only ever added, read into values once a row."""

import json
from collections.abc import Iterable
from datetime import datetime
from functools import lru_cache
from itertools import repeat
from typing import Any

from peewee import Select

from walkround.core.round.evidence import Evidence
from walkround.store import upgrade
from walkround.store.models import EvidenceRow, database
from walkround.store.statements import moment_text, prepared, write

_THESE = "IN (SELECT value FROM json_each(?1))"
_FOLLOWED = " OR ".join(
    f"EXISTS (SELECT 1 FROM {table} WHERE {column} {_THESE})"
    for table, column in (
        ("snag", "opened_by"),
        ("event", "evidence_id"),
        ("reading", "evidence_id"),
        ("pack_change", "evidence_id"),
    )
)
_ADD = "INSERT INTO evidence (round_id, check_id, at, by, answer) VALUES (?, ?, ?, ?, ?)"


def of_round(round_id: int, situation_text: str) -> tuple[Evidence, ...]:
    """All evidence of a round, oldest first, undone pieces too; ``situation_text``: its situation as stored."""
    return pieces_of(_rows(round_id), situation_text)


def pieces_of(rows: Iterable[tuple[int, str, str, str, str]], situation_text: str) -> tuple[Evidence, ...]:
    """Evidence from rows as they stand in the book (number, check, time, by whom, answer), in a round with this stored situation.
    Raises ValueError for a row that is none."""
    begun, height_m = _measure_of(situation_text)
    return tuple(map(_piece, rows, repeat(begun), repeat(height_m)))


def keep(round_id: int, piece: Evidence, situation_text: str) -> Evidence:
    """Keep a piece of evidence; returns it with its number, the very value that ``of_round`` will give."""
    text, at = json.dumps(piece.answer.model_dump(mode="json")), moment_text(piece.at)
    number = int(write(_ADD, round_id, piece.check_id, at, piece.by, text).lastrowid)
    return _piece((number, piece.check_id, at, piece.by, text), *_measure_of(situation_text))


def has_followed(numbers: Iterable[int]) -> bool:
    """Whether anything stands in the book because of these pieces: snags, calibrations, readings, changes of a pack."""
    return bool(database.execute_sql(f"SELECT {_FOLLOWED}", (json.dumps(list(numbers)),)).fetchone()[0])


@prepared
def _rows(round_: Any) -> Select:
    at = EvidenceRow.at.cast("TEXT")  # as it stands: read once, with the piece
    columns = (EvidenceRow.id, EvidenceRow.check_id, at, EvidenceRow.by, EvidenceRow.answer)
    return EvidenceRow.select(*columns).where(EvidenceRow.round == round_).order_by(EvidenceRow.id)


@lru_cache(maxsize=64)
def _measure_of(situation_text: str) -> tuple[int, float]:
    """Format of a stored situation, and the flying height of its field in m."""
    situation = json.loads(situation_text)
    return upgrade.format_of(situation), float(situation["site"]["flight_height_m"])


@lru_cache(maxsize=4096)
def _piece(row: tuple[int, str, str, str, str], begun: int, height_m: float) -> Evidence:
    """One piece of evidence from its row: number, check, time, by whom, answer. The same row gives the same value again."""
    number, stored_id, at, by, text = row
    check_id, given = upgrade.answer(stored_id, json.loads(text), begun, height_m)
    told = {"id": number, "check_id": check_id, "at": datetime.fromisoformat(at), "by": by, "answer": given}
    return Evidence.model_validate(told)
