"""Rows of a table: shown all at once, others in between, nothing left of an import that was killed."""

import contextlib
import sqlite3
import threading
import time
from datetime import timedelta
from random import Random

from peewee import fn

from tests.store.test_turns import ended, held_elsewhere
from tests.support import BookCase
from walkround.core.base.clock import latest
from walkround.core.base.errors import PilotError
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import Reading
from walkround.core.packs.table import BY_TABLE
from walkround.store import hangar, imports, packs
from walkround.store.book import IMPORT_NAME, Book
from walkround.store.models import ImportRow, PackRow, ReadingRow
from walkround.store.turns import FileLock


class Imports(BookCase):
    def rows(self, count: int) -> dict[int, list[Reading]]:
        return {
            self.numbers["H1"]: [
                Reading(at=self.now - timedelta(minutes=i), cells_v=(4.0, 4.0, 4.0), by=BY_TABLE) for i in range(count)
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
        new = imports.add_rows(self.book, self.rows(20_000), self.now).new
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
        self.assertEqual(imports.add_rows(self.book, self.rows(50), self.now).new, 50)

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

    def test_what_came_is_counted_as_what_is_read_back(self) -> None:
        """Whatever was there before, came twice, lies ahead of the clock, or is gone again: the summaries are those of the book."""
        dice = Random(7)
        at_hand = 0
        for turn in range(60):
            come: dict[int, list[Reading]] = {}
            for label in ("H1", "S1", "S2"):
                pack = hangar.get(Pack, self.numbers[label])
                come[pack.id or 0] = [self.one(dice, pack, turn) for _ in range(dice.randrange(1, 9))]
            before = self.one(dice, hangar.get(Pack, self.numbers["S1"]), turn)
            with contextlib.suppress(PilotError), self.book.write():
                packs.keep(self.numbers["S1"], before)
            added = imports.add_rows(self.book, come, self.now)
            if turn % 5 == 0:
                with self.book.write():
                    last = ReadingRow.select(fn.MAX(ReadingRow.id)).scalar()
                    ReadingRow.delete().where(ReadingRow.id == last).execute()
            until = latest(self.now)
            at_hand += sum(imports._with_those(*one, added.number, until) is not None for one in come.items())
            imports.refresh_all(self.book, come, added.number, self.now)
            for pack_id in come:
                kept = packs.read_summary(PackRow.get_by_id(pack_id).summary)
                self.assertEqual(kept, packs.made_now(pack_id, self.now), (turn, pack_id))
        self.assertTrue(60 < at_hand < 180, at_hand)

    def one(self, dice: Random, pack: Pack, turn: int) -> Reading:
        """A reading of a table, at one of a few moments, some of them still to come."""
        return Reading(
            at=self.now + timedelta(minutes=30 * dice.randrange(-60 - turn, 2), seconds=turn),
            cells_v=tuple(round(dice.uniform(3.6, 4.2), 3) for _ in range(pack.cells)),
            resistance_mohm=(round(dice.uniform(4, 9), 1),) if dice.random() < 0.5 else (),
            temperature_c=dice.choice([None, 12.0, 30.0]),
            recharged_mah=dice.choice([None, None, 900.0]),
            by=BY_TABLE,
        )
