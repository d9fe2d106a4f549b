"""Rows from chargers and checkers: a table of text becomes readings, its columns named once and remembered."""

import csv
import hashlib
import io
import re
from collections.abc import Callable, Iterator, Sequence
from datetime import datetime, timedelta
from typing import NamedTuple
from zoneinfo import ZoneInfo

from walkround.core.base.collecting import no_circles
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.struct import Struct
from walkround.core.base.value import Value
from walkround.core.packs.chemistry import CELLS
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import HIGHEST_MOHM, After, Reading
from walkround.core.packs.table_dates import DateOrder, order_of, read_when

MOST_ROWS = 200_000
MOST_COLUMNS, MOST_HEAD = 100, 20_000  # more columns, or a longer line of names, is no table of a charger
MOST_CELLS = 14
SHOWN_FAULTS = 20
MOST_KNOWN = 20_000
BY_TABLE = "table"
AHEAD = timedelta(minutes=10)
"""A reading this far ahead of the clock is a wrong clock, not a reading. Source: our choice."""

FIELDS: dict[str, str] = {
    "": "Leave out",
    "pack": "Pack label",
    "at": "Date and time",
    "date": "Date",
    "time": "Time of day",
    "total": "Total voltage",
    **{f"cell_{i}": f"Cell {i}" for i in range(1, MOST_CELLS + 1)},
    "percent": "Percentage",
    "recharged_mah": "mAh charged",
    "resistance": "Resistance of the pack (mΩ)",
    **{f"resistance_{i}": f"Resistance of cell {i} (mΩ)" for i in range(1, MOST_CELLS + 1)},
    "temperature": "Temperature (°C)",
}
"""What a column may hold. Source: our choice."""


class Columns(Value):
    """What each column of a table holds, by its place; the order of dates; what the packs did before."""

    fields: tuple[str, ...]
    dates: DateOrder = "iso"
    after: After = After.REST
    millivolts: bool = False


class Sheet(Struct, frozen=True, kw_only=True):
    """A table as read: its delimiter, header, and number of rows; ``key`` names tables of the same make."""

    delimiter: str
    header: tuple[str, ...]
    rows: int
    key: str


class RowFault(Struct, frozen=True, kw_only=True):
    """A row that cannot be taken: its line (the header is line 1) and why."""

    line: int
    words: str


class Taken(NamedTuple):
    """Readings by pack number, the rows that cannot be taken (the first few), how many of each there are."""

    rows: dict[int, list[Reading]]
    faults: tuple[RowFault, ...]
    bad: int
    good: int


def decode(data: bytes) -> str:
    """Text of a file: UTF-8 with or without its mark, UTF-16, else Western European.

    Raises InputError for a file that is no text. Source: byte-order marks of the Unicode standard.
    """
    for mark, code in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            try:
                return data.decode(code)
            except UnicodeDecodeError as error:
                raise InputError("The file is marked as Unicode text but is damaged.", "file") from error
    if b"\x00" in data[:4000]:
        raise InputError("That file is not text. Export the table as CSV.", "file")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def look(text: str) -> Sheet:
    """What kind of table a text is: delimiter, header, number of rows.

    Raises InputError for an empty table, one without a header line, and one too long.
    """
    lines = text.split("\n", 1)
    head = lines[0].strip("\r\n ")
    if not head:
        raise InputError("The first line is empty. It must hold the column names.", "file")
    delimiter = max(";\t,|", key=head.count)
    if head.count(delimiter) == 0:
        raise InputError("The first line must hold column names separated by commas, semicolons or tabs.", "file")
    try:
        header = tuple(name.strip() for name in next(csv.reader([head], delimiter=delimiter)))
    except csv.Error as error:
        raise InputError("The first line does not hold column names.", "file") from error
    if len(header) > MOST_COLUMNS or len(head) > MOST_HEAD:
        raise InputError(f"{len(header):,} columns; a table of readings has {MOST_COLUMNS} at most.", "file")
    if all(re.fullmatch(r"[-+\d.,: ]*", name) for name in header):
        raise InputError("The first line holds numbers. It must hold the column names.", "file")
    rows = sum(1 for line in lines[1].splitlines() if line.strip()) if len(lines) > 1 else 0
    if rows == 0:
        raise InputError("There is a header but no rows.", "file")
    if rows > MOST_ROWS:
        raise InputError(
            f"{rows:,} rows: more than the {MOST_ROWS:,} that can be imported at once. Split the file.", "file"
        )
    key = hashlib.sha256("|".join(header).lower().encode()).hexdigest()[:16]
    return Sheet(delimiter=delimiter, header=header, rows=rows, key=key)


_GUESSES = (
    (r"(cell|zelle|c)[\s_#-]*(\d+).*(ir|res|ohm|mω|ri)|(ir|res|ri)\w*[\s_#-]*(\d+)", "resistance_"),
    (r"(cell|zelle|^c)[\s_#-]*(\d+)", "cell_"),
    (r"pack|label|battery|name", "pack"),
    (r"^date$|^datum$|^day$", "date"),
    (r"^time$|^zeit$|^clock$", "time"),
    (r"date|time|stamp|zeit|^at\b|^at_", "at"),
    (r"mah|capacity|charged|put", "recharged_mah"),
    (r"ohm|resist|^ir|mω", "resistance"),
    (r"temp|°c", "temperature"),
    (r"%|percent|per cent|soc|charge", "percent"),
    (r"total|pack v|volt|sum|^v$|\(v\)", "total"),
)


def guess(sheet: Sheet, first_rows: Sequence[Sequence[str]]) -> Columns:
    """A first guess at what the columns hold, from their names and the first rows; the pilot puts it right."""
    fields: list[str] = []
    for name in sheet.header:
        low = name.lower()
        found = ""
        for pattern, field in _GUESSES:
            match = re.search(pattern, low)
            if match is None:
                continue
            if field.endswith("_"):
                number = next((g for g in match.groups() if g and g.isdigit()), "")
                field = f"{field}{int(number)}" if number and 1 <= int(number) <= MOST_CELLS else ""
            found = field
            break
        fields.append("" if found in fields else found)
    if "at" not in fields and "date" not in fields and "time" in fields:
        fields[fields.index("time")] = "at"
    dates: DateOrder = "iso"
    for field in ("at", "date"):
        if field in fields:
            texts = [row[fields.index(field)] for row in first_rows if len(row) > fields.index(field)]
            dates = order_of(texts)
    cells = [i for i, f in enumerate(fields) if f.startswith("cell_")]
    volts = [row[cells[0]] for row in first_rows if cells and len(row) > cells[0]]
    milli = bool(volts) and all(re.fullmatch(r"\d{3,4}", v.strip()) for v in volts)
    return Columns(fields=tuple(fields), dates=dates, millivolts=milli)


def rows_of(text: str, sheet: Sheet) -> Iterator[list[str]]:
    """The rows below the header, empty ones left out. Raises InputError where the text is no table.

    Source: RFC 4180 with the table's own delimiter.
    """
    reader = csv.reader(io.StringIO(text), delimiter=sheet.delimiter)
    try:
        next(reader)
        for row in reader:
            if "".join(row).strip():
                yield row
    except csv.Error as error:
        raise InputError(f"Line {reader.line_num} cannot be read: {error}.", "file") from error


def missing(columns: Columns, one_pack: bool) -> str:
    """What the columns lack to be readings, as a sentence; "" when nothing."""
    have = set(columns.fields)
    if not have & {"at", "date"}:
        return "No column is marked as the date."
    if "pack" not in have and not one_pack:
        return "No column is marked as the pack label. Mark one, or choose a pack for all rows."
    if not have - {"", "at", "date", "time", "pack"}:
        return "No column is marked as a measured value. Mark at least one."
    twice = next((f for f in columns.fields if f and columns.fields.count(f) > 1), None)
    return f"Two columns are both “{FIELDS[twice]}”. Leave one out." if twice else ""


def take(
    text: str,
    sheet: Sheet,
    columns: Columns,
    packs: Sequence[Pack],
    *,
    zone: ZoneInfo,
    now: datetime,
    one_pack: Pack | None = None,
    progress: Callable[[int], None] = lambda rows: None,
) -> Taken:
    """Readings from a table: volts (or mV), mAh, mΩ, °C, aware times. A row that cannot be is named with its line.

    ``one_pack``: every row is of this pack. ``progress`` hears how many rows are read. Raises InputError when columns
    are missing. Source: the table; what a reading can be as in ``reading``.
    """
    lacking = missing(columns, one_pack is not None)
    if lacking:
        raise InputError(lacking, "columns")
    reader = _RowReader(columns, packs, one_pack, zone, now)
    found: dict[int, list[Reading]] = {}
    faults: list[RowFault] = []
    bad = good = 0
    with no_circles():
        for line, row in enumerate(rows_of(text, sheet), 2):
            if line % 2000 == 0:
                progress(line - 2)
            try:
                pack, taken = reader.read(row)
            except PilotError as error:
                bad += 1
                if len(faults) < SHOWN_FAULTS:
                    faults.append(RowFault(line=line, words=error.message))
                continue
            found.setdefault(pack.id, []).append(taken)
            good += 1
    progress(bad + good)
    return Taken(rows=found, faults=tuple(faults), bad=bad, good=good)


class _RowReader:
    """Reads one row after the other; what depends on the columns alone is worked out once."""

    def __init__(
        self, columns: Columns, packs: Sequence[Pack], one_pack: Pack | None, zone: ZoneInfo, now: datetime
    ) -> None:
        places = {field: place for place, field in enumerate(columns.fields) if field}
        self.packs = {pack.label.casefold(): pack for pack in packs}
        self.one_pack, self.zone, self.latest, self.columns = one_pack, zone, now + AHEAD, columns
        self.pack_place = places.pop("pack", None)
        self.when = [places.pop(field) for field in ("at", "date", "time") if field in places]
        self.unit = 0.001 if columns.millivolts else 1.0
        self.cells = [places[f] for f in (f"cell_{i}" for i in range(1, MOST_CELLS + 1)) if f in places]
        ohms = [places[f] for f in (f"resistance_{i}" for i in range(1, MOST_CELLS + 1)) if f in places]
        self.ohms = ohms or [places[f] for f in ("resistance",) if f in places]
        self.total, self.percent = places.get("total"), places.get("percent")
        self.recharged_mah, self.temperature = places.get("recharged_mah"), places.get("temperature")
        self.known: dict[str, float | None] = {}

    def number(self, row: list[str], place: int) -> float | None:
        """A number with point or comma, thousands never; None when empty. A table says few numbers, and each many times."""
        text = row[place] if place < len(row) else ""
        if text not in self.known:
            if len(self.known) > MOST_KNOWN:
                self.known.clear()
            self.known[text] = self._number(text, place)
        return self.known[text]

    def numbers(self, row: list[str], places: Sequence[int]) -> list[float]:
        """Those of several places that are not empty."""
        found, known, width = [], self.known, len(row)
        for place in places:
            text = row[place] if place < width else ""
            value = known[text] if text in known else self.number(row, place)
            if value is not None:
                found.append(value)
        return found

    def _number(self, text: str, place: int) -> float | None:
        text = text.strip()
        if not text or text == "-":
            return None
        try:
            return float(text if "." in text else text.replace(",", "."))
        except ValueError:
            title = FIELDS[self.columns.fields[place]]
            raise InputError(f"{title}: “{text[:20]}” is not a number.") from None

    def read(self, row: list[str]) -> tuple[Pack, Reading]:
        """The pack and the reading of a row. Raises InputError."""
        pack = self.one_pack
        if pack is None:
            label = row[self.pack_place] if self.pack_place is not None and self.pack_place < len(row) else ""
            pack = self.packs.get(label) or self.packs.get(label.strip().casefold())
            if pack is None:
                raise InputError(f"There is no pack “{label.strip()[:20]}” on record.")
            self.packs[label] = pack
        when = " ".join([row[place] for place in self.when if place < len(row)])
        at = read_when(when, self.columns.dates, self.zone)
        if at > self.latest:
            raise InputError(f"{when.strip()[:30]} is in the future. Check the clock of the checker.")
        cells = self._cells(row, pack)
        total = None if self.total is None else self.number(row, self.total)
        if total is not None and not 0 <= total * self.unit <= CELLS[pack.chemistry].highest_v * pack.cells:
            raise InputError(f"Total: {total * self.unit:g} V does not fit {pack.cells} cells.")
        ohms = self.numbers(row, self.ohms)[: pack.cells]
        if ohms and not 0 < min(ohms) <= max(ohms) <= HIGHEST_MOHM * pack.cells:
            raise InputError("A resistance is not plausible.")
        percent = None if self.percent is None else self.number(row, self.percent)
        recharged_mah = None if self.recharged_mah is None else self.number(row, self.recharged_mah)
        temperature = None if self.temperature is None else self.number(row, self.temperature)
        if percent is not None and not 0 <= percent <= 100:
            raise InputError(f"{percent:g} % is outside 0 to 100.")
        if recharged_mah is not None and not 0 <= recharged_mah <= 60_000:
            raise InputError(f"{recharged_mah:g} mAh is not a plausible charge.")
        if temperature is not None and not -40 <= temperature <= 90:
            raise InputError(f"{temperature:g} °C is not a plausible pack temperature.")
        if not cells and not ohms and total is percent is temperature is None and not recharged_mah:
            raise InputError("The row has no values.")
        after = After.CHARGE if recharged_mah else self.columns.after
        total = None if total is None else total * self.unit
        return pack, Reading.trusted(
            at=at,
            cells_v=cells,
            total_v=total,
            percent=percent,
            resistance_mohm=tuple(ohms),
            temperature_c=temperature,
            recharged_mah=recharged_mah or None,
            after=after,
            by=BY_TABLE,
        )

    def _cells(self, row: list[str], pack: Pack) -> tuple[float, ...]:
        cells = self.numbers(row, self.cells)
        if not cells:
            return ()
        # Checkers fill cells that a pack has not with nought.
        while len(cells) > pack.cells and cells[-1] == 0:
            cells.pop()
        if len(cells) != pack.cells:
            raise InputError(f"Pack {pack.label} has {pack.cells} cells; the row has {len(cells)}.")
        if self.unit != 1.0:
            cells = [round(volts * self.unit, 4) for volts in cells]
        low, high = min(cells), max(cells)
        if low < 0:
            number = cells.index(low) + 1
            raise InputError(f"Cell {number}: {low:g} V is negative. Were the leads reversed?")
        if high > CELLS[pack.chemistry].highest_v:
            hint = " Is it millivolts?" if high > 900 else ""
            raise InputError(f"Cell {cells.index(high) + 1}: {high:g} V cannot be one {pack.chemistry} cell.{hint}")
        return tuple(cells)
