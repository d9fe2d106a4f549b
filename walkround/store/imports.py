"""Rows of a table into the book: in parts, so that others write in between, and shown all at once."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from functools import cache
from itertools import chain, islice
from operator import attrgetter
from typing import Any, NamedTuple

import msgspec

from walkround.core.base.clock import latest, utc_text
from walkround.core.base.collecting import no_circles
from walkround.core.packs.reading import Reading
from walkround.store import packs
from walkround.store.book import IMPORT_NAME, Book
from walkround.store.models import ImportRow, PackRow, ReadingRow
from walkround.store.turns import LONGEST_WAIT_S, FileLock

PART_ROWS = 2_000
"""So many rows of a table are written at a turn, so that an answer beside it need not wait long. Source: measured."""
REFRESHED = 25
"""So many packs are brought up to date at a turn."""
AT_ONCE = 50
"""So many rows go with one statement: two thirds of the time of one each. Source: measured."""


class Added(NamedTuple):
    """What an import came to: its number, and how many readings were new."""

    number: int
    new: int


def add_rows(book: Book, rows: dict[int, list[Reading]], at: datetime, name: str = "") -> Added:
    """Keep the rows of a table, all or nothing. No table says lights, minutes, notes, or that a pack was looked over.

    They come in parts, others write in between, and show all at once; an import that never comes to its end is taken away
    when the book is next opened. A reading of the same pack at the same moment is there already and is passed over. One
    import at a time. Raises BusyError.
    """
    with FileLock(book.folder / IMPORT_NAME).held(LONGEST_WAIT_S):
        with book.write():
            number = int(ImportRow.insert(at=at, name=name[:60]).execute())
        try:
            new = _add_parts(book, rows, number)
            with book.write():
                ImportRow.update(state="here").where(ImportRow.id == number).execute()
                PackRow.update(summary=None).where(PackRow.id.in_(list(rows))).execute()
        except BaseException:
            _take_away(book, number)
            raise
        return Added(number, new)


def _add_parts(book: Book, rows: dict[int, list[Reading]], number: int) -> int:
    plain = ((*_plain(pack_id, row), number) for pack_id, own in rows.items() for row in own)
    new = 0
    with no_circles():
        while part := list(islice(plain, PART_ROWS)):
            with book.write():
                new += _insert(book, part)
    return new


def _insert(book: Book, rows: Sequence[tuple[Any, ...]]) -> int:
    """Write rows, many with each statement; returns how many were new."""
    connection = book.database.connection()
    whole = len(rows) - len(rows) % AT_ONCE
    values, step = list(chain.from_iterable(rows[:whole])), AT_ONCE * len(_COLUMNS)
    many = (values[start : start + step] for start in range(0, len(values), step))
    new: int = connection.executemany(_statement(AT_ONCE), many).rowcount if whole else 0
    new += connection.executemany(_statement(1), rows[whole:]).rowcount if rows[whole:] else 0
    return new


def refresh_all(book: Book, come: Mapping[int, Sequence[Reading]], number: int, now: datetime) -> None:
    """Bring many packs up to date after an import of that number, some in each transaction, so that others may write in between.

    ``come``: the readings that came, by pack. They are at hand and not read back where all of them are in the book still.
    """
    left = list(come)
    with no_circles():
        for start in range(0, len(left), REFRESHED):
            with book.write():
                for pack_id in left[start : start + REFRESHED]:
                    packs.refresh(pack_id, now, _with_those(pack_id, come[pack_id], number, latest(now)))


def _with_those(pack_id: int, come: Sequence[Reading], number: int, until: datetime) -> list[Reading] | None:
    """As ``packs.readings``, when these came with an import; None when the book does not hold every one of them as it came."""
    if _there(pack_id, number) != len(come):
        return None
    others = packs.readings_beside(pack_id, number, until)
    all_of_them = others + [reading for reading in come if reading.at <= until]
    all_of_them.sort(key=attrgetter("at"))
    return all_of_them[-packs.MOST_READINGS :]


def _there(pack_id: int, number: int) -> int:
    """How many readings of a pack that came with an import are in the book; looked for by pack (so the plus), not by import."""
    many = "SELECT COUNT(*) FROM reading WHERE pack_id = ? AND +import_id = ?"
    ((there,),) = ReadingRow._meta.database.execute_sql(many, (pack_id, number)).fetchall()
    return int(there)


def _take_away(book: Book, number: int) -> None:
    with book.write():
        ReadingRow.delete().where(ReadingRow.come_with == number).execute()
        ImportRow.delete().where(ImportRow.id == number).execute()


_COLUMNS = (
    "pack_id", "at", "cells", "total_v", "percent", "resistance", "temperature_c", "recharged_mah", "after", '"by"', "import_id"
)  # fmt: skip


@cache
def _statement(rows: int) -> str:
    one = f"({', '.join('?' * len(_COLUMNS))})"
    return f"INSERT OR IGNORE INTO reading ({', '.join(_COLUMNS)}) VALUES {', '.join([one] * rows)}"


def _plain(pack_id: int, row: Reading) -> tuple[Any, ...]:
    """A row as the table keeps it."""
    return (
        pack_id, utc_text(row.at), _list(row.cells_v), row.total_v, row.percent,
        _list(row.resistance_mohm), row.temperature_c, row.recharged_mah, row.after.value, row.by,
    )  # fmt: skip


_written = msgspec.json.Encoder().encode


def _list(values: tuple[float, ...]) -> str:
    return _written(values).decode() if values else ""
