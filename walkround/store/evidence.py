"""Evidence of rounds: rows that are only ever added, read into values once a row."""

import json
from datetime import datetime
from functools import lru_cache
from typing import Any

from peewee import Select

from walkround.core.round.evidence import Evidence
from walkround.store import upgrade
from walkround.store.models import EvidenceRow
from walkround.store.statements import moment_text, prepared, write

_ADD = "INSERT INTO evidence (round_id, check_id, at, by, answer) VALUES (?, ?, ?, ?, ?)"


def of_round(round_id: int, situation_text: str) -> tuple[Evidence, ...]:
    """All evidence of a round, oldest first, undone pieces too; ``situation_text``: its situation as stored."""
    return tuple(piece_of(row, situation_text) for row in _rows(round_id))


def keep(round_id: int, piece: Evidence, situation_text: str) -> Evidence:
    """Keep a piece of evidence; returns it with its number, the very value that ``of_round`` will give."""
    text = json.dumps(piece.answer.model_dump(mode="json"))
    number = int(write(_ADD, round_id, piece.check_id, moment_text(piece.at), piece.by, text).lastrowid)
    return piece_of((number, piece.check_id, piece.at, piece.by, text), situation_text)


def piece_of(row: tuple[int, str, datetime, str, str], situation_text: str) -> Evidence:
    """A piece of evidence from its row (number, check, time, by whom, answer) in a round with this stored situation. Raises
    ValueError when it is none."""
    return _piece(row, *_measure_of(situation_text))


@prepared
def _rows(round_: Any) -> Select:
    columns = (EvidenceRow.id, EvidenceRow.check_id, EvidenceRow.at, EvidenceRow.by, EvidenceRow.answer)
    return EvidenceRow.select(*columns).where(EvidenceRow.round == round_).order_by(EvidenceRow.id)


@lru_cache(maxsize=64)
def _measure_of(situation_text: str) -> tuple[int, float]:
    """Format of a stored situation, and the flying height of its field in m."""
    situation = json.loads(situation_text)
    return upgrade.format_of(situation), float(situation["site"]["flight_height_m"])


@lru_cache(maxsize=4096)
def _piece(row: tuple[int, str, datetime, str, str], begun: int, height_m: float) -> Evidence:
    """One piece of evidence from its row. The same row gives the same value again."""
    number, stored_id, at, by, text = row
    check_id, given = upgrade.answer(stored_id, json.loads(text), begun, height_m)
    return Evidence.model_validate({"id": number, "check_id": check_id, "at": at, "by": by, "answer": given})
