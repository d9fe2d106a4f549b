"""How fast this pilot walks: the times of the answers in the last rounds."""

from datetime import datetime
from functools import lru_cache

from peewee import Select, fn

from walkround.core.round.stages import Pace, learn
from walkround.store.models import RoundRow, database
from walkround.store.statements import prepared

LAST_ROUNDS = 12
"""The pace is that of so many last signed rounds. Source: our choice."""
_ANSWERS = """
    SELECT round_id, check_id, at FROM evidence
    WHERE round_id IN (SELECT id FROM round WHERE state = 'signed' AND id <= ? ORDER BY id DESC LIMIT ?)
        AND json_extract(answer, '$.kind') NOT IN ('undone', 'beside')
    ORDER BY round_id, id"""


@prepared
def _newest() -> Select:
    return RoundRow.select(fn.MAX(RoundRow.id)).where(RoundRow.state == "signed")


def pace() -> Pace:
    """The pace of the pilot of this book, as of the last signed round. Source: ``stages.learn``."""
    return _until(str(database.database), _newest.value() or 0)


@lru_cache(maxsize=8)
def _until(book: str, newest: int) -> Pace:
    """The pace up to a round of a book: what is signed does not change."""
    by_round: dict[int, list[tuple[str, datetime]]] = {}
    for round_id, check_id, at in database.execute_sql(_ANSWERS, (newest, LAST_ROUNDS)):
        by_round.setdefault(round_id, []).append((check_id, datetime.fromisoformat(at)))
    return learn(by_round.values())
