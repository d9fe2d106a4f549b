"""The book: one SQLite file that holds everything. Opens it, brings its schema up to date, guards its writes."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from peewee import DatabaseError, SqliteDatabase

from walkround.core.base.errors import PilotError
from walkround.store import models
from walkround.store.migrations import MIGRATIONS

FILE_NAME = "walkround.sqlite"
PRAGMAS = {
    "journal_mode": "wal",
    "foreign_keys": 1,
    "synchronous": 2,  # FULL: what was shown as saved survives a kill and a power cut
    "busy_timeout": 5000,
    "temp_store": "memory",
}


class BookError(PilotError):
    """The book cannot be opened or used; the message says why."""


def data_folder() -> Path:
    """Where the book lives: ``WALKROUND_DATA`` if set, else the user's data folder."""
    chosen = os.environ.get("WALKROUND_DATA")
    if chosen:
        return Path(chosen).expanduser()
    base = os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share"
    return Path(base) / "walkround"


class Book:
    """An open book. Every query goes through its database; every write through ``write``."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.folder = folder
        self.path = folder / FILE_NAME
        self.database = SqliteDatabase(str(self.path), pragmas=PRAGMAS, autoconnect=True)
        models.database.initialize(self.database)
        try:
            self._migrate()
        except DatabaseError as error:
            raise BookError(f"{self.path} is not a Walk Round book: {error}") from error

    @contextmanager
    def write(self) -> Iterator[None]:
        """One write transaction, all or nothing; waits for another writer instead of failing."""
        with self.database.atomic("IMMEDIATE"):
            yield

    def close(self) -> None:
        """Close this thread's connection."""
        if not self.database.is_closed():
            self.database.close()

    def schema(self) -> int:
        """Number of the newest migration that ran."""
        row = self.database.execute_sql("SELECT max(number) FROM migration").fetchone()
        return int(row[0] or 0)

    def _migrate(self) -> None:
        db = self.database
        with self.write():
            db.execute_sql("CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, name TEXT, at TEXT)")
            have = self.schema()
            newest = MIGRATIONS[-1][0]
            if have > newest:
                raise BookError(
                    f"{self.path} was written by a newer Walk Round (schema {have}; this one knows {newest}). "
                    "Update Walk Round, or restore an older backup."
                )
        for number, name, statements in MIGRATIONS:
            if number <= have:
                continue
            with self.write():
                for statement in statements:
                    db.execute_sql(statement)
                db.execute_sql(
                    "INSERT INTO migration (number, name, at) VALUES (?, ?, ?)",
                    (number, name, datetime.now(UTC).isoformat()),
                )
