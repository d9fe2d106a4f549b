"""Rows of a table: shown all at once, others in between, nothing left of an import that was killed."""

import sqlite3
import threading
import time
from datetime import timedelta

from tests.store.test_turns import ended, held_elsewhere
from tests.support import BookCase
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.table import TableRow
from walkround.store import imports, packs
from walkround.store.book import IMPORT_NAME, Book
from walkround.store.models import ImportRow, ReadingRow
from walkround.store.turns import FileLock


class Imports(BookCase):
    def rows(self, count: int) -> dict[int, list[TableRow]]:
        return {
            self.numbers["H1"]: [
                TableRow(self.now - timedelta(minutes=i), (4.0, 4.0, 4.0), None, None, (), None, None, After.REST)
                for i in range(count)
            ]
        }

    def open_again(self) -> None:
        self.book.close()
        self.book = Book(self.folder)
        self.addCleanup(self.book.close)

    def test_rows_show_all_at_once_and_others_write_in_between(self) -> None:
        pack, seen, waits = self.numbers["H1"], set(), []
        before = len(packs.readings(pack))
        done = threading.Event()

        def look() -> None:
            i = 0
            while not done.is_set():
                seen.add(len(packs.readings(pack, 10**6)))
                begun = time.monotonic()
                with self.book.write():
                    packs.keep(self.numbers["S1"], Reading(at=self.now - timedelta(seconds=7 * i), percent=50))
                waits.append(time.monotonic() - begun)
                i += 1
            self.book.close()

        thread = threading.Thread(target=look)
        thread.start()
        new = imports.add_rows(self.book, self.rows(20_000), self.now)
        done.set()
        thread.join()
        self.assertLessEqual(seen, {before, before + new}, "none of them, or all")
        self.assertGreater(len(waits), 5, "others had their turns")
        self.assertEqual(len(packs.readings(pack, 10**6)), before + new)

    def test_what_a_killed_import_left_is_taken_away_and_is_never_shown(self) -> None:
        pack = self.numbers["H1"]
        before = packs.readings(pack)
        with self.book.write():
            number = ImportRow.insert(at=self.now, name="x").execute()
        imports._add_parts(self.book, self.rows(50), number)
        self.assertEqual(packs.readings(pack), before)
        self.assertEqual(packs.in_short(pack, self.now), packs.made_now(pack, self.now))
        running = held_elsewhere(self.folder / IMPORT_NAME, 60)
        self.addCleanup(ended, running)
        self.open_again()
        self.assertEqual(ReadingRow.select().where(ReadingRow.come_with == number).count(), 50, "one that runs goes on")
        running.kill()
        running.wait()
        self.open_again()
        self.assertEqual(ReadingRow.select().where(ReadingRow.come_with == number).count(), 0)
        self.assertEqual(imports.add_rows(self.book, self.rows(50), self.now), 50)

    def test_one_that_fails_leaves_nothing(self) -> None:
        broken = self.rows(30)
        broken[10**6] = broken[self.numbers["H1"]]
        before = ReadingRow.select().count()
        with self.assertRaises(sqlite3.IntegrityError):
            imports.add_rows(self.book, broken, self.now)
        self.assertEqual((ReadingRow.select().count(), ImportRow.select().count()), (before, 0))
        lock = FileLock(self.folder / IMPORT_NAME)
        self.assertTrue(lock.try_now())
        lock.free()
