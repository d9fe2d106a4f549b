"""Backup and restore, using SQLite's own online backup. Nothing that was confirmed is lost on the way."""

import contextlib
import os
import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from walkround.store.book import FILE_NAME, BookError, make_private
from walkround.store.disk import PART, said
from walkround.store.wholeness import examine, sum_beside, sum_of

RUNNING = "Walk Round is still running with this data. Stop it, then restore."


def put_sum(path: Path, of: str = "") -> None:
    """Write the checksum of a file beside it, as ``sha256sum -c`` reads it; ``of``: the file's final name."""
    beside = sum_beside(path.with_name(of) if of else path)
    fresh = beside.with_name(beside.name + PART)
    fresh.write_text(f"{sum_of(path)}  {of or path.name}\n", encoding="ascii")
    fresh.replace(beside)


def backup(folder: Path, target: Path) -> Path:
    """Copy the book while it may be in use, look the copy over, put its checksum beside it. Raises BookError.

    Until it is whole the copy has another name, and is gone if it never becomes so.
    """
    source = folder / FILE_NAME
    if not source.exists():
        raise BookError(f"There is no data in {folder}.")
    if target.is_dir():
        target = target / f"walkround-{datetime.now(UTC):%Y%m%d-%H%M%S}.sqlite"
    if target.exists():
        raise BookError(f"{target} exists already. Choose another name.")
    part = target.with_name(target.name + PART)
    try:
        with said(f"{target} could not be written"):
            target.parent.mkdir(parents=True, exist_ok=True)
            _copied(source, part)
        examine(part)
        with said(f"{target} could not be written"):
            _settled(part)
            put_sum(part, target.name)
            part.replace(target)
    except BaseException:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
            if not target.exists():
                sum_beside(target).unlink(missing_ok=True)
        raise
    return target


def _copied(source: Path, target: Path) -> None:
    """A copy of a book, in one file, closed to others."""
    target.unlink(missing_ok=True)
    target.touch(mode=0o600)
    with (
        closing(sqlite3.connect(f"file:{source.resolve()}?mode=ro", uri=True)) as live,
        closing(sqlite3.connect(target)) as copy,
    ):
        live.backup(copy)
        copy.execute("PRAGMA journal_mode = delete")


def _settled(path: Path) -> None:
    """Wait until the disk has it."""
    with path.open("rb") as file:
        os.fsync(file.fileno())


def restore(source: Path, folder: Path) -> Path | None:
    """Replace the book by a backup, after looking over the backup and a copy of it. Returns where the old book went.

    The old book is kept with the log of its newest answers, both as they lie there, before anything opens them. Raises
    BookError and changes nothing when the backup is not sound or the disk refuses. Stop the application first.
    """
    examine(source)
    target = folder / FILE_NAME
    fresh = folder / (FILE_NAME + ".restoring")
    kept: list[Path] = []
    try:
        with said(f"{folder} could not be written"):
            make_private(folder)
            _copied(source, fresh)
            examine(fresh)
            _settled(fresh)
            if target.exists():
                kept = _kept_aside(target)
                _alone(target)
            for suffix in ("-wal", "-shm"):
                (folder / (FILE_NAME + suffix)).unlink(missing_ok=True)
            fresh.replace(target)
    except BaseException:
        with contextlib.suppress(OSError):
            for leftover in (fresh, *kept):
                leftover.unlink(missing_ok=True)
        raise
    return kept[0] if kept else None


def _kept_aside(target: Path) -> list[Path]:
    """Copies of the book and of its log, byte for byte, the book first."""
    stem = f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S-%f}.sqlite"
    made = []
    for suffix in ("", "-wal", "-shm"):
        old = target.with_name(target.name + suffix)
        if old.exists():
            made.append(Path(shutil.copy2(old, target.with_name(stem + suffix))))
    return made


def _alone(path: Path) -> None:
    """Make sure that nobody else has the book open: only then can its log be folded back. Raises BookError."""
    try:
        with closing(sqlite3.connect(path, timeout=1)) as old:
            mode = old.execute("PRAGMA journal_mode = delete").fetchone()[0]
    except sqlite3.OperationalError as error:
        raise BookError(RUNNING) from error
    except sqlite3.DatabaseError:
        return  # A damaged book is what a restore is for; its file is kept aside as it is.
    if mode != "delete":
        raise BookError(RUNNING)
