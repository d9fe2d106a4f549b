"""The book: one SQLite file that holds everything. Opens it, brings its schema up to date, guards its writes."""

import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import UTC, datetime
from pathlib import Path

from peewee import DatabaseError, OperationalError, SqliteDatabase

from walkround.core.base.errors import BusyError, DiskError, PilotError
from walkround.store import models
from walkround.store.migrations import NEWEST
from walkround.store.turns import LONGEST_WAIT_S, FileLock, Turns

FILE_NAME = "walkround.sqlite"
MIGRATION_TABLE = "CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, name TEXT, at TEXT)"
PRAGMAS = {
    "journal_mode": "wal",
    "foreign_keys": 1,
    "synchronous": 2,  # FULL: what was shown as saved survives a kill and a power cut
    "busy_timeout": 5000,
    "temp_store": "memory",
}


PEN_NAME, IMPORT_NAME = "walkround.pen", "walkround.import"
"""Files that are locked while somebody writes, and while an import is running; they hold nothing."""
REFUSED = {
    "disk is full": "the disk is full",
    "disk I/O error": "the disk cannot be written",
    "readonly database": "your data cannot be written",
}
"""What SQLite says of a disk that takes nothing more, and what the pilot is told."""


def make_private(folder: Path) -> None:
    """Make a folder that only its owner may look into; one that is there already is closed to others."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    with suppress(OSError):  # somebody else's folder, or a file system without owners
        folder.chmod(0o700)


class BookError(PilotError):
    """The book cannot be opened or used; the message says why."""


def data_folder() -> Path:
    """Where the book lives: ``WALKROUND_DATA`` if set, else the user's data folder."""
    chosen = os.environ.get("WALKROUND_DATA")
    if chosen:
        return Path(chosen).expanduser()
    base = os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share"
    return Path(base) / "walkround"


def _refused(error: BaseException | None) -> str:
    """Why the disk takes nothing more, by an error or what led to it: SQLite may have rolled back already, and then the
    rollback that follows fails in its place."""
    while error is not None:
        if why := next((why for sign, why in REFUSED.items() if sign in str(error)), ""):
            return why
        error = error.__cause__ or error.__context__
    return ""


SETTLED_MS = 300
"""So long the log waits for another program to let go of it when this one ends."""


class Book:
    """An open book. Every query goes through its database; every write through ``write``."""

    def __init__(self, folder: Path) -> None:
        make_private(folder)
        self.folder = folder
        self.path = folder / FILE_NAME
        self.path.touch(mode=0o600, exist_ok=True)
        self.turns = Turns()
        self.pen = FileLock(folder / PEN_NAME)
        self.database = SqliteDatabase(str(self.path), pragmas=PRAGMAS, autoconnect=True)
        models.database.initialize(self.database)
        try:
            self._migrate()
        except DatabaseError as error:
            raise BookError(f"{self.path} is not a Walk Round database: {error}") from error
        with suppress(OSError):
            self.path.chmod(0o600)
        self.sweep()

    @contextmanager
    def write(self) -> Iterator[None]:
        """One write transaction, all or nothing. Whoever asks first writes first, here and beside other programs.

        Raises BusyError when no turn comes for ``LONGEST_WAIT_S``, DiskError when the disk takes nothing more.
        """
        if self.turns.mine:
            with self.database.atomic():
                yield
            return
        with self.turns.turn(LONGEST_WAIT_S), self.pen.held(LONGEST_WAIT_S):
            begun = False
            try:
                with self.database.atomic("IMMEDIATE"):
                    begun = True
                    yield
            except OperationalError as error:
                if not begun and "locked" in str(error):
                    raise BusyError from error
                if why := _refused(error):
                    raise DiskError(why) from error
                raise

    def close(self) -> None:
        """Close this thread's connection."""
        if not self.database.is_closed():
            self.database.close()

    def settle(self) -> None:
        """Write what stands in the log into the book itself, so that the next start has nothing to look through. Where another
        program uses the book too, the log stays as it is."""
        with suppress(DatabaseError):
            self.database.execute_sql(f"PRAGMA busy_timeout = {SETTLED_MS}")
            self.database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")

    def sweep(self) -> None:
        """Take away what an import left behind that never came to its end, unless one is running beside this program."""
        importing = FileLock(self.folder / IMPORT_NAME)
        coming = "SELECT id FROM import_run WHERE state = 'coming'"
        if importing.try_now() and self.database.execute_sql(coming).fetchone():
            with self.write():
                self.database.execute_sql(f"DELETE FROM reading WHERE import_id IN ({coming})")
                self.database.execute_sql("DELETE FROM import_run WHERE state = 'coming'")
        importing.free()

    def schema(self) -> int:
        """Number of the newest migration that ran."""
        row = self.database.execute_sql("SELECT max(number) FROM migration").fetchone()
        return int(row[0] or 0)

    def _migrate(self) -> None:
        db = self.database
        with self.write():
            db.execute_sql(MIGRATION_TABLE)
            have = self.schema()
            if have > NEWEST:
                raise BookError(
                    f"{self.path} was written by a newer Walk Round (schema {have}; this one reads up to {NEWEST}). "
                    "Update Walk Round, or restore an older backup."
                )
        if have == NEWEST:
            return
        from walkround.store.migrations.steps import MIGRATIONS, run

        for number, name, statements in MIGRATIONS:
            if number <= have:
                continue
            with self.write():
                run(statements, db.execute_sql)
                db.execute_sql(
                    "INSERT INTO migration (number, name, at) VALUES (?, ?, ?)",
                    (number, name, datetime.now(UTC).isoformat()),
                )
