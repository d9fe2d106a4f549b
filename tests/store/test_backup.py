"""Backup while in use, restore only what is whole."""

import shutil
import sqlite3
from contextlib import closing

from tests.support import BookCase, broken_records
from walkround.core.base.errors import PilotError
from walkround.store import backup as backups
from walkround.store import hangar, snags
from walkround.store.book import FILE_NAME, Book, BookError
from walkround.store.migrations import MIGRATIONS
from walkround.store.models import EvidenceRow, RecordRow


class Backup(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.target = self.folder / "copies" / "one.sqlite"

    def refuse(self, words: str, source) -> None:  # type: ignore[no-untyped-def]
        before = (self.folder / FILE_NAME).read_bytes()
        with self.assertRaises(PilotError) as caught:
            backups.restore(source, self.folder)
        self.assertIn(words, caught.exception.message)
        self.assertEqual((self.folder / FILE_NAME).read_bytes(), before, "the book is untouched")

    def test_a_copy_of_a_book_in_use_is_whole(self) -> None:
        with self.book.write():
            hangar.add_event(self.numbers["Sandpiper"], hangar.EventKind.REPAIR, self.now)
        self.assertEqual(backups.backup(self.folder, self.target), self.target)
        self.assertEqual(backups.verify(self.target), self.book.schema())
        with closing(sqlite3.connect(self.target)) as copy:
            count = copy.execute("SELECT count(*) FROM evidence").fetchone()[0]
            self.assertEqual(count, EvidenceRow.select().count())
            self.assertEqual(
                copy.execute("SELECT count(*) FROM event WHERE kind = 'repair or setting changed'").fetchone(), (1,)
            )

    def test_into_a_folder_and_never_over_a_file(self) -> None:
        written = backups.backup(self.folder, self.folder)
        self.assertTrue(written.name.startswith("walkround-"))
        with self.assertRaises(BookError):
            backups.backup(self.folder, written)
        with self.assertRaises(BookError):
            backups.backup(self.folder / "nowhere", self.target)

    def test_restore_brings_everything_back_and_keeps_the_old_book(self) -> None:
        backups.backup(self.folder, self.target)
        records = RecordRow.select().count()
        with self.book.write():
            snags.close(1, "polished", self.now)
        self.book.close()
        kept = backups.restore(self.target, self.folder)
        self.assertTrue(kept and kept.exists())
        self.book = Book(self.folder)
        self.assertIn("Hairline crack beside the nose wheel block", [s.title for s in snags.open_ones()])
        self.assertEqual((RecordRow.select().count(), broken_records()), (records, []))

    def test_into_an_empty_place(self) -> None:
        backups.backup(self.folder, self.target)
        fresh = self.folder / "fresh"
        self.assertIsNone(backups.restore(self.target, fresh))
        self.assertEqual(backups.verify(fresh / FILE_NAME), MIGRATIONS[-1][0])

    def test_what_is_not_whole_is_refused(self) -> None:
        backups.backup(self.folder, self.target)
        self.book.close()
        missing = self.folder / "missing.sqlite"
        self.refuse("There is no file", missing)
        garbage = self.folder / "garbage.sqlite"
        garbage.write_bytes(b"nothing " * 400)
        self.refuse("not a Walk Round book", garbage)
        torn = self.folder / "torn.sqlite"
        shutil.copy(self.target, torn)
        with torn.open("r+b") as file:
            file.seek(20_000)
            file.write(b"\xff" * 6_000)
        self.refuse("", torn)
        forged = self.folder / "forged.sqlite"
        shutil.copy(self.target, forged)
        with closing(sqlite3.connect(forged)) as db:
            db.execute("DROP TRIGGER record_is_frozen")
            db.execute("UPDATE record SET text = text || ' '")
            db.commit()
        self.refuse("does not match its hash", forged)
        newer = self.folder / "newer.sqlite"
        shutil.copy(self.target, newer)
        with closing(sqlite3.connect(newer)) as db:
            db.execute("INSERT INTO migration VALUES (99, 'x', 'x')")
            db.commit()
        self.refuse("schema 99", newer)

    def test_a_book_in_use_is_not_replaced(self) -> None:
        backups.backup(self.folder, self.target)
        self.book.database.execute_sql("SELECT 1")
        self.refuse("still running", self.target)
        self.assertEqual(EvidenceRow.select().count() > 0, True)
