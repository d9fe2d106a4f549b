"""Backup and restore, using SQLite's own online backup."""

import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from walkround.core.round.record import content_hash
from walkround.store.book import FILE_NAME, BookError
from walkround.store.migrations import MIGRATIONS


def backup(folder: Path, target: Path) -> Path:
    """Copy the book while it may be in use, and verify the copy. Raises BookError."""
    source = folder / FILE_NAME
    if not source.exists():
        raise BookError(f"There is no book in {folder}.")
    if target.is_dir():
        target = target / f"walkround-{datetime.now(UTC):%Y%m%d-%H%M%S}.sqlite"
    if target.exists():
        raise BookError(f"{target} exists already; choose another name.")
    target.parent.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(source)) as live, closing(sqlite3.connect(target)) as copy:
        live.backup(copy)
        copy.execute("PRAGMA journal_mode = delete")
    try:
        verify(target)
    except BookError:
        target.unlink(missing_ok=True)
        raise
    return target


def verify(path: Path) -> int:
    """Check that a file is a whole Walk Round book this program can read; returns its schema number.

    Integrity, foreign keys, schema and the hash of every signed round. Raises BookError.
    """
    if not path.is_file():
        raise BookError(f"There is no file {path}.")
    try:
        with closing(sqlite3.connect(f"file:{path.resolve()}?mode=ro", uri=True)) as db:
            state = db.execute("PRAGMA integrity_check").fetchone()[0]
            if state != "ok":
                raise BookError(f"{path} is damaged: {state}")
            if db.execute("PRAGMA foreign_key_check").fetchone() is not None:
                raise BookError(f"{path} is damaged: some rows point nowhere.")
            schema = int(db.execute("SELECT max(number) FROM migration").fetchone()[0] or 0)
            if not 1 <= schema <= MIGRATIONS[-1][0]:
                raise BookError(f"{path} has schema {schema}; this Walk Round knows {MIGRATIONS[-1][0]}.")
            for number, text, sha in db.execute("SELECT round_id, text, sha256 FROM record"):
                if content_hash(text) != sha:
                    raise BookError(f"{path}: the record of round {number} does not match its hash.")
    except sqlite3.DatabaseError as error:
        raise BookError(f"{path} is not a Walk Round book: {error}") from error
    return schema


def restore(source: Path, folder: Path) -> Path | None:
    """Replace the book by a backup, after verifying the backup and a copy of it. Returns where the old book went.

    Raises BookError and changes nothing when the backup is not whole. Stop the application first.
    """
    verify(source)
    folder.mkdir(parents=True, exist_ok=True)
    target = folder / FILE_NAME
    fresh = folder / (FILE_NAME + ".restoring")
    fresh.unlink(missing_ok=True)
    with (
        closing(sqlite3.connect(f"file:{source.resolve()}?mode=ro", uri=True)) as live,
        closing(sqlite3.connect(fresh)) as copy,
    ):
        live.backup(copy)
    try:
        verify(fresh)
    except BookError:
        fresh.unlink(missing_ok=True)
        raise
    kept = None
    if target.exists():
        kept = folder / f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S-%f}.sqlite"
        try:
            _alone(target)
        except BookError:
            fresh.unlink(missing_ok=True)
            raise
        shutil.copy2(target, kept)
    for suffix in ("-wal", "-shm"):
        (folder / (FILE_NAME + suffix)).unlink(missing_ok=True)
    fresh.replace(target)
    return kept


def _alone(path: Path) -> None:
    """Fold the write-ahead log back into the file; only the sole user of a book can. Raises BookError."""
    try:
        with closing(sqlite3.connect(path, timeout=1)) as old:
            mode = old.execute("PRAGMA journal_mode = delete").fetchone()[0]
    except sqlite3.OperationalError as error:
        raise BookError("Walk Round is still running with this book. Stop it, then restore.") from error
    except sqlite3.DatabaseError:
        return  # A damaged book is what a restore is for; its file is kept aside as it is.
    if mode != "delete":
        raise BookError("Walk Round is still running with this book. Stop it, then restore.")
