"""Queries that pages ask all the time: built and compiled once, bound to their values at each call.

Most of what a small query costs is making its text. A prepared one is written like any other::

    @prepared
    def _minutes(pack, limit):
        return FlightRow.select(FlightRow.took_off_at, FlightRow.minutes).where(FlightRow.pack == pack).limit(limit)

    for at, minutes in _minutes(7, 10): ...

The function runs once; its parameters stand for values that come later, so it may put them into a query and do nothing else
with them. Every call asks the database anew: nothing is kept but the text.
"""

import inspect
from collections.abc import Callable
from datetime import datetime
from typing import Any

from peewee import BooleanField, ColumnBase, Select

from walkround.store.models import MomentField, database


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
