"""Opening a demo book: made when there is none, and found where it was left."""

import shutil
from datetime import UTC, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

from peewee import fn

from walkround.store.book import FILE_NAME, Book, BookError
from walkround.store.models import EventRow, EvidenceRow, FlightRow, ReadingRow, RoundRow, SnagRow

MARKER = "demo-book"
MORNING = datetime(2026, 5, 16, 9, 40, tzinfo=ZoneInfo("Europe/Vienna"))
"""When the demo day begins: a flyable hour, whenever it is opened."""


def ensure_demo(folder: Path, *, fresh: bool = False, now: datetime | None = None) -> None:
    """Make the demo book if there is none (or anew). Never touches a folder that holds another book."""
    marker = folder / MARKER
    if (folder / FILE_NAME).exists() and not marker.exists():
        raise BookError(f"{folder} holds your own data. The demo will not touch it. Choose another folder.")
    if fresh and marker.exists():
        shutil.rmtree(folder)
    if (folder / FILE_NAME).exists():
        return
    from walkround.demo.scenario import fill  # and all that it stands on, needed once

    folder.mkdir(parents=True, exist_ok=True)
    marker.write_text("This folder holds invented demo data and may be deleted.\n")
    book = Book(folder)
    with book.write():
        fill(now or datetime.now(UTC))
    book.close()


def left_off(folder: Path) -> datetime:
    """When something was last done in a demo book (aware), so that its clock never goes back behind what is in it."""
    book = Book(folder)
    done_at = (EvidenceRow.at, RoundRow.started_at, FlightRow.took_off_at, FlightRow.landed_at, ReadingRow.at, EventRow.at,
               SnagRow.opened_at, SnagRow.closed_at)  # fmt: skip
    newest = [column.model.select(fn.MAX(column)).scalar() for column in done_at]
    book.close()
    return max(datetime.fromisoformat(str(moment)) for moment in newest if moment is not None)
