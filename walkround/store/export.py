"""Open formats out: the logbook as CSV, signed rounds, aircraft and the pilot's list as JSON."""

import csv
import hashlib
import io
import json
from collections.abc import Iterable, Iterator
from pathlib import Path

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.checklist.exchange import aircraft_file, list_file, text_of
from walkround.core.packs.pack import Pack
from walkround.store import hangar, logbook, packs, parts
from walkround.store import settings as store_settings
from walkround.store.disk import PART, said
from walkround.store.models import RecordRow

PIECE = 60_000
"""Characters in a piece of a long table. Source: our choice."""
COLUMNS = (
    "took_off_utc", "landed_utc", "minutes", "aircraft", "pack", "field", "left_percent", "left_v", "happened",
    "note", "round",
)  # fmt: skip


_FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n", "\uff1d", "\uff0b", "\uff0d", "\uff20", "\u2212", "|", "%")
"""What a spreadsheet may begin a formula with, full-width signs too."""


def safe(text: str) -> str:
    """A text that a spreadsheet will not take for a formula, whatever spaces or invisible signs stand before it."""
    bare = text.lstrip(" \u00a0\u200b\u200e\u200f\ufeff")
    return "'" + text if bare.startswith(_FORMULA) or text[:1] in _FORMULA else text


def logbook_csv() -> str:
    """The logbook as CSV, newest flight first."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(COLUMNS)
    for f in logbook.every_line():
        writer.writerow(
            (
                f.took_off_at.isoformat(timespec="seconds"),
                f.landed_at.isoformat(timespec="seconds"),
                f"{f.minutes:.1f}",
                safe(f.aircraft.name),
                safe(f.pack.label),
                safe(f.site.name),
                "" if f.left_percent is None else f"{f.left_percent:g}",
                "" if f.left_v is None else f"{f.left_v:g}",
                f.happened,
                safe(f.note),
                f.round_id,
            )
        )
    return buffer.getvalue()


READING_COLUMNS = (
    "pack", "at_utc", *(f"cell_{i}" for i in range(1, 15)), "total_v", "percent", "lights", "ir_pack_mohm", *(f"ir_{i}_mohm" for i in range(1, 15)),
    "temperature_c", "recharged_mah", "after", "since_min", "by", "note",
)  # fmt: skip


def readings_csv(pack_id: int = 0) -> Iterator[str]:
    """Readings as CSV in pieces, of one pack or of all (0), oldest first; the columns are among those a table is taken from."""
    wanted = [hangar.get(Pack, pack_id)] if pack_id else hangar.everything(Pack, retired=True)
    return _readings_csv(wanted)


def _readings_csv(wanted: list[Pack]) -> Iterator[str]:
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(READING_COLUMNS)
    for pack in wanted:
        label, cells_blank = safe(pack.label), [""] * 14
        for r in packs.each_reading(pack.id):
            count = len(r.cells_v)
            cells = [f"{v:g}" for v in r.cells_v] + cells_blank[count:]
            whole = len(r.resistance_mohm) == 1 < pack.cells
            each = [] if whole else [f"{x:g}" for x in r.resistance_mohm]
            ohms = [f"{r.resistance_mohm[0]:g}" if whole else "", *each, *cells_blank[len(each) :]]
            since = "" if r.since_min is None else f"{r.since_min:g}"
            writer.writerow(
                (label, r.at.isoformat(timespec="seconds"), *cells, _plain(r.total_v), _plain(r.percent), _plain(r.lights), *ohms,
                 _plain(r.temperature_c), _plain(r.recharged_mah), r.after.value, since, safe(r.by), safe(r.note))
            )  # fmt: skip
            if buffer.tell() > PIECE:
                yield buffer.getvalue()
                buffer.seek(0)
                buffer.truncate()
    yield buffer.getvalue()


def _plain(number: float | None) -> str:
    return "" if number is None else f"{number:g}"


def write_everything(folder: Path) -> int:
    """Write signed rounds, aircraft, packs with their readings, the pilot's list and the logbook into a folder, with a list
    of checksums (``sha256sum -c``); returns the number of rounds. Raises BookError when the disk refuses."""
    with said(f"{folder} could not be written"):
        folder.mkdir(parents=True, exist_ok=True)
        rounds = [(f"walk-round-{row.round_id}.json", [row.text]) for row in RecordRow.select().iterator()]
        planes = [
            (
                file_name(f"{aircraft.name}.aircraft.json"),
                [text_of(aircraft_file(aircraft, tuple(parts.of_aircraft(aircraft.id))))],
            )
            for aircraft in hangar.everything(Aircraft, retired=True)
        ]
        known_packs = [p.model_dump(mode="json") | {"changes": [c.model_dump(mode="json") for c in packs.changes(p.id)]}
               for p in hangar.everything(Pack, retired=True)]  # fmt: skip
        files: list[tuple[str, Iterable[str]]] = [
            *rounds,
            *planes,
            ("logbook.csv", [logbook_csv()]),
            ("readings.csv", readings_csv()),
            ("packs.json", [json.dumps(known_packs, indent=2)]),
            ("my.list.json", [text_of(list_file(store_settings.load().custom_checklist))]),
        ]
        sums = [f"{_written(folder / name, text)}  {name}\n" for name, text in files]
        _written(folder / "SHA256SUMS", sums)
    return len(rounds)


def _written(path: Path, texts: Iterable[str]) -> str:
    """Write a file under another name until it is whole; returns its SHA-256 in hex."""
    part, digest = path.with_name(path.name + PART), hashlib.sha256()
    try:
        with part.open("wb") as file:
            for text in texts:
                data = text.encode()
                digest.update(data)
                file.write(data)
        part.replace(path)
    except BaseException:
        part.unlink(missing_ok=True)
        raise
    return digest.hexdigest()


def file_name(name: str) -> str:
    """A file name that any system takes."""
    return "".join(c if c.isascii() and (c.isalnum() or c in ".-_") else "-" for c in name)
