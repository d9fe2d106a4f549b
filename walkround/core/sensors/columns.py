"""Text in columns, however it was written: CSV with comma, semicolon or tab, numbers between blanks, one JSON object a line."""

import io
import json
from collections.abc import Iterable, Iterator
from itertools import islice

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct

MOST_ROWS = 50_000
"""So many rows are read of a file; a longer one is thinned out evenly. Source: our choice."""
MOST_BYTES = 32_000_000
LONGEST_NAME = 24
OTHERS = ("a", "g")
"""So begin columns of acceleration and gyro."""


class Columns(Struct, frozen=True, kw_only=True):
    """Rows of text in columns: the names in small letters, none where the first row is one of numbers already; how many rows there were before they were thinned."""

    names: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    total: int
    mark: str | None = None

    def place(self, names: Iterable[str], starts: tuple[str, ...] = ()) -> int | None:
        """The column with one of the names, or else with a name that starts so; None where there is none."""
        wanted = set(names)
        exact = next((i for i, name in enumerate(self.names) if name in wanted), None)
        if exact is not None or not starts:
            return exact
        return next((i for i, name in enumerate(self.names) if name.startswith(starts)), None)

    def triple(self, starts: tuple[str, ...], *, alone: bool = False) -> tuple[int, int, int] | None:
        """Where x, y and z of a quantity stand, by the beginning of its name; with ``alone`` also columns that do not say of which quantity they are. None where one is missing."""
        places = []
        for axis in "xyz":
            mine = [i for i, name in enumerate(self.names) if _axis_of(name) == axis]
            named = [i for i in mine if self.names[i].startswith(starts)]
            other = [i for i in mine if alone and not self.names[i].startswith(OTHERS)]
            if not (named or other):
                return None
            places.append((named or other)[0])
        return (places[0], places[1], places[2])

    def number(self, row: tuple[str, ...], place: int | None) -> float | None:
        """A number of a row (it may be infinite or not a number), None where there is none."""
        if place is None or place >= len(row):
            return None
        return _value(row[place], self.mark)

    def numbers(self, row: tuple[str, ...]) -> list[float]:
        """Every number of a row."""
        return [value for part in row if (value := _value(part, self.mark)) is not None]

    def three(self, row: tuple[str, ...], places: tuple[int, int, int] | None) -> tuple[float, float, float] | None:
        """The three numbers of a row at these places, the last three where the columns have no names; None where they are not there."""
        if places is None:
            found = [] if self.names else self.numbers(row)
            return (found[-3], found[-2], found[-1]) if len(found) >= 3 else None
        x, y, z = (self.number(row, place) for place in places)
        return None if x is None or y is None or z is None else (x, y, z)


def read_columns(text: str) -> Columns:
    """Columns of a pasted text or a file; lines that begin with ``#`` are passed over. Raises InputError where there is nothing, or far too much."""
    if len(text) > MOST_BYTES:
        raise InputError("This file is too large to be read here. Cut it to the minutes that matter.")
    first = next(_lines(text), "")
    if not first:
        raise InputError("There is nothing to read.")
    if first.lstrip().startswith("{"):
        return _from_json(text)
    mark = next((one for one in (";", "\t", ",") if one in first), None)
    names = _split(first, mark)
    named = not any(_value(part, mark) is not None for part in names)
    total = sum(1 for _ in _lines(text)) - named
    step = max(1, -(-total // MOST_ROWS))
    return Columns(
        names=tuple(part.lower().strip('"') for part in names) if named else (),
        rows=tuple(tuple(_split(line, mark)) for line in islice(_lines(text), int(named), None, step)),
        total=total,
        mark=mark,
    )


def _lines(text: str) -> Iterator[str]:
    """The lines that say something, one by one: a file of a million rows is never twice in memory."""
    return (line for line in io.StringIO(text, newline=None) if line.strip() and not line.lstrip().startswith("#"))


def _from_json(text: str) -> Columns:
    """Lines of JSON: a column for each name in any of them. Raises InputError where they are none."""
    total = sum(1 for _ in _lines(text))
    found = list[dict[str, object]]()
    cut = False
    for line in islice(_lines(text), 0, None, max(1, -(-total // MOST_ROWS))):
        try:
            row = None if cut else json.loads(line)
        except ValueError:
            cut = bool(
                found
            )  # a recording that was cut off ends in the middle of a line; in any other place it is none
            row = None
            if cut:
                continue
        if not isinstance(row, dict):
            raise InputError(_NO_JSON)
        found.append(row)
    names = list(dict.fromkeys(name for row in found for name in row))
    rows = tuple(tuple(_text(row.get(name)) for name in names) for row in found)
    return Columns(names=tuple(name.lower() for name in names), rows=rows, total=total - cut)


_NO_JSON = "These lines begin like JSON and are none. One object a line, each with x, y and z."


def throttle_share(value: float, top: float) -> float:
    """A throttle as a share, 0 to 1, from whichever of shares, per cent and microseconds of a pulse it is by the largest of its recording.

    Source: pulses of 1,000 to 2,000 µs, common practice, no source.
    """
    share = (value - 1000) / 1000 if top > 200 else value / 100 if top > 1.5 else value
    return min(1.0, max(0.0, share))


def _text(value: object) -> str:
    return "" if value is None else " | ".join(map(str, value)) if isinstance(value, list) else str(value)


def _axis_of(name: str) -> str:
    """The axis that a column is of: its last letter, whatever unit follows in brackets; "" where it is of none."""
    bare = name.split("[")[0].split("(")[0].strip("_ ")
    return bare[-1] if bare and len(name) <= LONGEST_NAME and bare[-1] in "xyz" and not bare[:-1].isdigit() else ""


def _split(line: str, mark: str | None) -> list[str]:
    return [part.strip() for part in (line.split(mark) if mark else line.split())]


def _value(part: str, mark: str | None) -> float | None:
    try:
        return float(part.replace(",", ".") if mark == ";" else part)
    except ValueError:
        return None
