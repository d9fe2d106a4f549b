"""Open formats out: the logbook as CSV, signed rounds, aircraft and the pilot's list as JSON."""

import csv
import io
import json
from pathlib import Path

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.checklist.exchange import aircraft_file, list_file, text_of
from walkround.core.packs.pack import Pack
from walkround.store import flights, hangar, packs, parts
from walkround.store import settings as store_settings
from walkround.store.models import RecordRow

COLUMNS = (
    "took_off_utc", "landed_utc", "minutes", "aircraft", "pack", "field", "left_percent", "left_v", "happened",
    "note", "round",
)  # fmt: skip


def safe(text: str) -> str:
    """A text that a spreadsheet will not take for a formula."""
    return "'" + text if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def logbook_csv() -> str:
    """The logbook as CSV, newest flight first."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(COLUMNS)
    for f in flights.every_line():
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
    "temperature_c", "put_back_mah", "after", "since_min", "by", "note",
)  # fmt: skip


def readings_csv(pack_id: int = 0) -> str:
    """Readings as CSV, of one pack or of all (0), oldest first; the columns are among those a table is taken from."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(READING_COLUMNS)
    wanted = [hangar.get(Pack, pack_id)] if pack_id else hangar.everything(Pack, retired=True)
    for pack in wanted:
        for r in packs.readings(pack.id, limit=10**9):
            cells = [f"{v:g}" for v in r.cells_v] + [""] * (14 - len(r.cells_v))
            numbers = ("" if x is None else f"{x:g}" for x in (r.total_v, r.percent, r.lights))
            whole = [f"{r.resistance_mohm[0]:g}"] if len(r.resistance_mohm) == 1 < pack.cells else [""]
            each = [f"{x:g}" for x in r.resistance_mohm] if whole == [""] else []
            ohms = whole + each + [""] * (14 - len(each))
            rest = ("" if x is None else f"{x:g}" for x in (r.temperature_c, r.put_back_mah))
            since = "" if r.since_min is None else f"{r.since_min:g}"
            at = r.at.isoformat(timespec="seconds")
            writer.writerow(
                (safe(pack.label), at, *cells, *numbers, *ohms, *rest, r.after.value, since, safe(r.by), safe(r.note))
            )
    return buffer.getvalue()


def write_everything(folder: Path) -> int:
    """Write signed rounds, aircraft, packs with their readings, the pilot's list and the logbook into a folder; returns
    the number of rounds."""
    folder.mkdir(parents=True, exist_ok=True)
    count = 0
    for row in RecordRow.select().iterator():
        (folder / f"walk-round-{row.round_id}.json").write_text(row.text, encoding="utf-8")
        count += 1
    (folder / "logbook.csv").write_text(logbook_csv(), encoding="utf-8", newline="")
    for plane in hangar.everything(Aircraft, retired=True):
        file = aircraft_file(plane, tuple(parts.of_aircraft(plane.id)))
        (folder / file_name(f"{plane.name}.aircraft.json")).write_text(text_of(file), encoding="utf-8")
    (folder / "readings.csv").write_text(readings_csv(), encoding="utf-8", newline="")
    box = [p.model_dump(mode="json") | {"changes": [c.model_dump(mode="json") for c in packs.changes(p.id)]}
           for p in hangar.everything(Pack, retired=True)]  # fmt: skip
    (folder / "packs.json").write_text(json.dumps(box, indent=2), encoding="utf-8")
    own = store_settings.load().own
    (folder / "my.list.json").write_text(text_of(list_file(own)), encoding="utf-8")
    return count


def file_name(name: str) -> str:
    """A file name that any system takes."""
    return "".join(c if c.isascii() and (c.isalnum() or c in ".-_") else "-" for c in name)
