"""Records of signed rounds, as they were frozen: read, checked against their hash."""

import json
from functools import lru_cache
from typing import Any

from peewee import Select

from walkround.core.base.errors import InputError, MissingError
from walkround.core.round.record import Record, content_hash
from walkround.store import upgrade
from walkround.store.models import RecordRow
from walkround.store.statements import prepared


def record_of(round_id: int) -> Record:
    """The frozen record of a signed round. Raises MissingError, or InputError when its hash does not match."""
    text, sha256 = record_text(round_id)
    if content_hash(text) != sha256:
        raise InputError(f"The record of round {round_id} does not match its hash: it was changed from outside.")
    return _read_record(text)


@lru_cache(maxsize=8)
def _read_record(text: str) -> Record:
    """A record from its text; the newest few are kept, because a flight asks for its own at every tap."""
    return Record.model_validate(upgrade.record(json.loads(text)))


def record_text(round_id: int) -> tuple[str, str]:
    """Canonical text and hash of a signed round. Raises MissingError."""
    found = _text.first(round_id)
    if found is None:
        raise MissingError(f"Round {round_id} is not signed.")
    text, sha256 = found
    return text, sha256


@prepared
def _text(round_: Any) -> Select:
    return RecordRow.select(RecordRow.text, RecordRow.sha256).where(RecordRow.round == round_)
