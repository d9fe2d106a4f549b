"""Queries that pages ask all the time: built and compiled once, bound to their values at each call.

Most of what a small query costs is making its text. A prepared one is written like any other::

    @prepared
    def _minutes(pack, limit):
        return FlightRow.select(FlightRow.took_off_at, FlightRow.minutes).where(FlightRow.pack == pack).limit(limit)

    for at, minutes in _minutes(7, 10): ...

The function runs once; its parameters stand for values that come later, so it may put them into a query and do nothing else
with them. What was found is kept until anything in the book changes, through whatever program: see ``until_changed``.
"""

import inspect
import threading
from collections.abc import Callable, Hashable
from datetime import datetime
from functools import wraps
from typing import Any, ParamSpec, TypeVar

from peewee import BooleanField, ColumnBase, Select

from walkround.store.models import MomentField, database

P = ParamSpec("P")
R = TypeVar("R")
MOST_ANSWERS, MOST_ROWS = 500, 1_000
"""How many answers are kept for a connection, and the longest list of rows among them."""


class _Kept(threading.local):
    """What one connection has been told since the book last changed."""

    def __init__(self) -> None:
        self.connection: Any = None
        self.version: tuple[int, int] = (0, 0)
        self.found: dict[Hashable, Any] = {}


_kept = _Kept()


def _since_the_change() -> dict[Hashable, Any] | None:
    """What is known of the book as it is now, to be read and added to; None inside a change, when nothing is certain.

    Source: SQLite, ``PRAGMA data_version``: another value once any other connection has committed; ``total_changes``: rows that
    this one has changed.
    """
    connection = database.connection()
    if connection.in_transaction:
        return None
    version = (connection.execute("PRAGMA data_version").fetchone()[0], connection.total_changes)
    if _kept.connection is not connection or _kept.version != version or len(_kept.found) > MOST_ANSWERS:
        _kept.connection, _kept.version, _kept.found = connection, version, {}
    return _kept.found


def until_changed(work: Callable[P, R]) -> Callable[P, R]:
    """Keep what a function finds in the book, by its arguments, until anything in the book changes. What it gives is shared by
    all who ask, so it must be a value; it may look at nothing but the book and its arguments."""

    @wraps(work)
    def asked(*given: P.args, **named: P.kwargs) -> R:
        found = _since_the_change()
        if found is None:
            return work(*given, **named)
        key = (work, given, *named.items())
        if key not in found:
            found[key] = work(*given, **named)
        known: R = found[key]
        return known

    return asked


class _Slot(ColumnBase):
    """Where a value is put in later. What the query compares it with says how it is kept."""

    def __init__(self, place: int) -> None:
        self.place = place
        self.keep: Callable[[Any], Any] | None = None

    def __sql__(self, ctx: Any) -> Any:
        bound = _Slot(self.place)
        bound.keep = ctx.state.converter
        ctx._values.append(bound)
        return ctx.literal(ctx.state.param or "?")


def _reader(column: Any) -> Callable[[Any], Any] | None:
    """How a column's value is read; None where SQLite gives what is wanted."""
    if isinstance(column, MomentField):
        return column.python_value
    return bool if isinstance(column, BooleanField) else None


class Prepared:
    """A query that has been compiled, or will be at its first call."""

    def __init__(self, build: Callable[..., Select]) -> None:
        self.build = build
        self.__doc__ = build.__doc__
        self._text = ""

    def _compile(self) -> None:
        slots = [_Slot(i) for i in range(len(inspect.signature(self.build).parameters))]
        query: Any = self.build(*slots)
        text, values = database.get_sql_context().sql(query).query()
        columns = [c.unalias() if hasattr(c, "unalias") else c for c in query._returning]
        self._readers = [(i, read) for i, c in enumerate(columns) if (read := _reader(c)) is not None]
        self._values, self._model = values, query.model
        self._names = [getattr(c, "name", "") for c in columns]
        self._text = text

    def __call__(self, *given: Any) -> list[tuple[Any, ...]]:
        """The rows, as tuples."""
        found = _since_the_change()
        if found is None:
            return self._asked(given)
        rows = found.get((self, given))
        if rows is None:
            rows = self._asked(given)
            if len(rows) <= MOST_ROWS:
                found[self, given] = tuple(rows)
        return list(rows)

    def _asked(self, given: tuple[Any, ...]) -> list[tuple[Any, ...]]:
        if not self._text:
            self._compile()
        bound = [
            (given[v.place] if v.keep is None else v.keep(given[v.place])) if isinstance(v, _Slot) else v
            for v in self._values
        ]
        rows: list[tuple[Any, ...]] = database.execute_sql(self._text, bound).fetchall()
        if not self._readers:
            return rows
        made = []
        for row in rows:
            values = list(row)
            for i, read in self._readers:
                if values[i] is not None:
                    values[i] = read(values[i])
            made.append(tuple(values))
        return made

    def one(self, *given: Any) -> Any:
        """The first row as a model, or None: for queries that select columns of a single table."""
        row = self.first(*given)
        return None if row is None else self._model(__no_default__=1, **dict(zip(self._names, row, strict=True)))

    def models(self, *given: Any) -> list[Any]:
        """Every row as a model: for queries that select columns of a single table."""
        return [self._model(__no_default__=1, **dict(zip(self._names, row, strict=True))) for row in self(*given)]

    def first(self, *given: Any) -> tuple[Any, ...] | None:
        """The first row, or None."""
        return next(iter(self(*given)), None)

    def value(self, *given: Any) -> Any:
        """The first column of the first row, or None."""
        row = self.first(*given)
        return None if row is None else row[0]


def write(text: str, *values: Any) -> Any:
    """Run a written-out change; its cursor tells how many rows it touched and the number of a new one. Times are given as
    ``moment_text`` has them, lists of numbers as JSON for ``json_each``."""
    return database.execute_sql(text, values)


def moment_text(moment: datetime) -> str:
    """An aware time as tables keep it."""
    return str(_MOMENT.db_value(moment))


_MOMENT = MomentField()


def prepared(build: Callable[..., Select]) -> Prepared:
    """A query that is compiled once: see above."""
    return Prepared(build)
