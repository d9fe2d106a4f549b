"""Backup while in use, restore only what is whole."""

import random
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path
from unittest import mock

from tests.support import BookCase, broken_records
from walkround.core.base.errors import PilotError
from walkround.store import backup as backups
from walkround.store import hangar, snags
from walkround.store.book import FILE_NAME, Book, BookError
from walkround.store.migrations.steps import MIGRATIONS
from walkround.store.models import EvidenceRow, RecordRow
from walkround.store.wholeness import examine, sum_beside

KILLED = """
import os, signal, sys
from datetime import UTC, datetime
from pathlib import Path
from walkround.core.checklist.history import EventKind
from walkround.store import hangar
from walkround.store.book import Book
book = Book(Path(sys.argv[1]))
for _ in range(2):
    with book.write():
        hangar.add_event(1, EventKind.REPAIR, datetime.now(UTC), detail="kept in the log")
os.kill(os.getpid(), signal.SIGKILL)
"""


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
        found = examine(self.target)
        self.assertEqual(
            (found.schema, found.records, found.whole), (self.book.schema(), RecordRow.select().count(), True)
        )
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
        found = examine(fresh / FILE_NAME)
        self.assertEqual((found.schema, found.whole), (MIGRATIONS[-1][0], False))
        self.assertIn("no checksum", found.unchecked[0])

    def test_what_is_not_whole_is_refused(self) -> None:
        backups.backup(self.folder, self.target)
        self.book.close()
        missing = self.folder / "missing.sqlite"
        self.refuse("There is no file", missing)
        garbage = self.folder / "garbage.sqlite"
        garbage.write_bytes(b"nothing " * 400)
        self.refuse("is not a Walk Round database", garbage)
        torn = self.folder / "torn.sqlite"
        shutil.copy(self.target, torn)
        with torn.open("r+b") as file:
            file.seek(20_000)
            file.write(b"\xff" * 6_000)
        self.refuse("", torn)
        forged = self.folder / "forged.sqlite"
        shutil.copy(self.target, forged)
        with closing(sqlite3.connect(forged)) as db:
            trigger = db.execute("SELECT sql FROM sqlite_master WHERE name = 'record_is_frozen'").fetchone()[0]
            db.execute("DROP TRIGGER record_is_frozen")
            db.execute("UPDATE record SET text = text || ' '")
            db.execute(trigger)
            db.commit()
        self.refuse("does not match its hash", forged)
        newer = self.folder / "newer.sqlite"
        shutil.copy(self.target, newer)
        with closing(sqlite3.connect(newer)) as db:
            db.execute("INSERT INTO migration VALUES (99, 'x', 'x')")
            db.commit()
        self.refuse("schema 99", newer)

    def changed(self, *statements: str, keep_triggers: bool = True) -> Path:
        """A copy of the backup with some statements run on it, its triggers put back."""
        if not self.target.exists():
            backups.backup(self.folder, self.target)
        copy = self.folder / "changed.sqlite"
        shutil.copy(self.target, copy)
        with closing(sqlite3.connect(copy)) as db:
            triggers = db.execute("SELECT name, sql FROM sqlite_master WHERE type = 'trigger'").fetchall()
            for name, _ in triggers:
                db.execute(f"DROP TRIGGER {name}")
            for statement in statements:
                db.execute(statement)
            for _, sql in triggers if keep_triggers else ():
                db.execute(sql)
            db.commit()
        return copy

    def test_what_is_missing_or_does_not_parse_is_named(self) -> None:
        """Each of what an earlier version called whole, and their relatives: refused in words, the book untouched."""
        rows = (
            ("round 1 is signed and has no record", ["DELETE FROM record"], True),
            ("other evidence", ["PRAGMA foreign_keys = 0", "UPDATE snag SET opened_by = NULL, closed_by = NULL", "UPDATE reading SET evidence_id = NULL", "UPDATE event SET evidence_id = NULL", "UPDATE pack_change SET evidence_id = NULL", "DELETE FROM evidence"], True),
            ("other evidence", ["DELETE FROM evidence WHERE id = (SELECT min(id) FROM evidence WHERE id NOT IN (SELECT evidence_id FROM reading WHERE evidence_id IS NOT NULL) AND id NOT IN (SELECT evidence_id FROM event WHERE evidence_id IS NOT NULL))"], True),
            ("other evidence", ["UPDATE evidence SET at = '2020-01-01T00:00:00.000000+00:00' WHERE id = 3"], True),
            ("other evidence", ["UPDATE evidence SET answer = '{\"kind\":\"fault\",\"note\":\"x\"}' WHERE id = 3"], True),
            ("round 1", ["UPDATE round SET situation = 'not json'"], True),
            ("aircraft 1", ["UPDATE aircraft SET spec = 'not json' WHERE id = 1"], True),
            ("aircraft 1", ["UPDATE aircraft SET spec = json_set(spec, '$.mass_g', -4) WHERE id = 1"], True),
            ("pack 1", ["UPDATE pack SET spec = '{}' WHERE id = 1"], True),
            ("site 1", ["UPDATE site SET spec = json_remove(spec, '$.position') WHERE id = 1"], True),
            ("opened_at is not a time", ["UPDATE snag SET opened_at = 'soon'"], True),
            ("event", ["UPDATE event SET kind = 'kind of'"], True),
            ("calibration", ["UPDATE calibration SET body = '{}' WHERE id = 1"], True),
            ("recording", ["UPDATE recording SET body = x'00'"], True),
            ("reading", ["UPDATE reading SET cells = '[4.1' WHERE id = 1"], True),
            ("reading", ["UPDATE reading SET percent = 400 WHERE id = 1"], True),
            ("Settings", ["UPDATE setting SET value = '7' WHERE name = 'pilot'"], True),
            ("setting", ["DROP TABLE setting"], True),
            ("trigger", [], False),
            ("index flight_by_time is missing", ["DROP INDEX flight_by_time"], True),
            ("does not belong in a book", ["CREATE TABLE more (x)"], True),
            ("schema", ["DELETE FROM migration WHERE number = 2"], True),
            ("used twice", ["UPDATE sqlite_sequence SET seq = 1 WHERE name = 'evidence'"], True),
            ("who, when or the verdict differ", ["UPDATE round SET level = level + 1 WHERE state = 'signed'"], True),
            ("who, when or the verdict differ", ["UPDATE record SET signed_by = 'Somebody'"], True),
            ("belongs to no signed round", ["UPDATE round SET state = 'left' WHERE state = 'signed'"], True),
        )  # fmt: skip
        self.book.close()
        for words, statements, keep in rows:
            with self.subTest(f"{words} {statements[-1:]}"):
                self.refuse(words, self.changed(*statements, keep_triggers=keep))

    def test_a_file_with_two_tables_is_no_book(self) -> None:
        bare = self.folder / "bare.sqlite"
        with closing(sqlite3.connect(bare)) as db:
            db.execute("CREATE TABLE migration (number INTEGER PRIMARY KEY, name TEXT, at TEXT)")
            db.execute("INSERT INTO migration VALUES (1, 'first', '2026-01-01')")
            db.execute("CREATE TABLE record (round_id INTEGER PRIMARY KEY, text TEXT, sha256 TEXT)")
            db.commit()
        self.book.close()
        self.refuse("damaged", bare)

    def test_no_flipped_bit_passes_in_a_backup_with_its_checksum(self) -> None:
        """SHA-256 of the whole file (FIPS 180-4) beside it: any bit, anywhere."""
        backups.backup(self.folder, self.target)
        data, dice = self.target.read_bytes(), random.Random(11)
        for _ in range(60):
            at, bit = dice.randrange(len(data)), 1 << dice.randrange(8)
            self.target.write_bytes(data[:at] + bytes([data[at] ^ bit]) + data[at + 1 :])
            with self.assertRaises(BookError, msg=f"byte {at}"):
                examine(self.target)
        self.target.write_bytes(data)
        self.assertTrue(examine(self.target).whole)
        sum_beside(self.target).write_text("no sum at all")
        with self.assertRaises(BookError):
            examine(self.target)
        sum_beside(self.target).unlink()
        self.assertFalse(examine(self.target).whole, "without it that is not said")

    def test_a_damaged_file_is_reported_and_never_a_crash(self) -> None:
        """Without a checksum too: whatever a few changed bytes do, it is words or an honest look, and quick."""
        backups.backup(self.folder, self.target)
        sum_beside(self.target).unlink()
        data, dice, refused = self.target.read_bytes(), random.Random(12), 0
        for _ in range(40):
            torn = bytearray(data)
            for _ in range(dice.randrange(1, 6)):
                torn[dice.randrange(len(torn))] = dice.randrange(256)
            self.target.write_bytes(bytes(torn))
            try:
                self.assertFalse(examine(self.target).whole)
            except BookError as error:
                self.assertTrue(error.message)
                refused += 1
        self.assertGreater(refused, 10)

    def test_a_full_disk_or_a_closed_folder_is_said_and_leaves_nothing(self) -> None:
        full = OSError(28, "No space left on device")
        for place in (
            "walkround.store.backup._settled",
            "walkround.store.backup.put_sum",
            "walkround.store.backup._copied",
        ):
            with self.subTest(place), mock.patch(place, side_effect=full), self.assertRaises(BookError) as caught:
                backups.backup(self.folder, self.target)
            self.assertIn("no space left on device", caught.exception.message)
            self.assertEqual(list(self.target.parent.glob("*")) if self.target.parent.exists() else [], [])
        with (
            mock.patch(
                "walkround.store.backup._copied", side_effect=sqlite3.OperationalError("database or disk is full")
            ),
            self.assertRaises(BookError) as caught,
        ):
            backups.backup(self.folder, self.target)
        self.assertIn("disk is full", caught.exception.message)

    def test_a_restore_that_the_disk_refuses_changes_nothing(self) -> None:
        backups.backup(self.folder, self.target)
        self.book.close()
        files = {p.name: p.read_bytes() for p in self.folder.glob(FILE_NAME + "*")}
        for place in ("_settled", "_kept_aside", "_copied"):
            with mock.patch(f"walkround.store.backup.{place}", side_effect=OSError(28, "No space left on device")):
                self.refuse("no space left", self.target)
            now = {p.name: p.read_bytes() for p in self.folder.glob(FILE_NAME + "*")}
            self.assertEqual(
                {n: d for n, d in now.items() if not n.endswith("-shm")},
                {n: d for n, d in files.items() if not n.endswith("-shm")},
            )
            self.assertEqual(list(self.folder.glob("before-restore*")), [])

    def test_answers_that_stood_only_in_the_log_are_kept_aside_too(self) -> None:
        """A program that was killed leaves its newest answers in the log beside the file; restore keeps both."""
        backups.backup(self.folder, self.target)
        self.book.close()
        killed = subprocess.run([sys.executable, "-c", KILLED, str(self.folder)], check=False)
        self.assertEqual(killed.returncode, -9)
        self.assertTrue((self.folder / (FILE_NAME + "-wal")).stat().st_size > 0)
        kept = backups.restore(self.target, self.folder)
        assert kept is not None
        with closing(sqlite3.connect(kept)) as old:
            self.assertEqual(
                old.execute("SELECT count(*) FROM event WHERE detail = 'kept in the log'").fetchone(), (2,)
            )
        with closing(sqlite3.connect(self.folder / FILE_NAME)) as new:
            self.assertEqual(
                new.execute("SELECT count(*) FROM event WHERE detail = 'kept in the log'").fetchone(), (0,)
            )

    def test_only_its_owner_may_look_into_it(self) -> None:
        backups.backup(self.folder, self.target)
        for path in (self.folder / FILE_NAME, self.target):
            self.assertEqual(path.stat().st_mode & 0o077, 0, path)
        self.assertEqual(self.folder.stat().st_mode & 0o077, 0)

    def test_a_book_in_use_is_not_replaced(self) -> None:
        backups.backup(self.folder, self.target)
        self.book.database.execute_sql("SELECT 1")
        self.refuse("still running", self.target)
        self.assertEqual(EvidenceRow.select().count() > 0, True)
