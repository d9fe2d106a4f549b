"""Prepared queries say what written ones say, and what is kept of their answers is gone with the first change."""

import subprocess
import sys
import tempfile
import threading
import unittest
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

from peewee import Select, fn

from tests.support import NOW, BookCase
from walkround.store import statements
from walkround.store.book import Book
from walkround.store.models import EventRow, FlightRow, PackRow, SnagRow
from walkround.store.statements import MOST_ANSWERS, moment_text, prepared, until_changed, write


@prepared
def _flights(pack: Any, until: Any, limit: Any) -> Select:
    """Flights of a pack."""
    of_it = FlightRow.select(FlightRow.took_off_at, FlightRow.minutes)
    return of_it.where((FlightRow.pack == pack) & (FlightRow.took_off_at <= until)).order_by(FlightRow.id).limit(limit)


@prepared
def _retired(retired: Any) -> Select:
    return PackRow.select().where(PackRow.retired == retired).order_by(PackRow.id)


@prepared
def _between(low: Any) -> Select:
    """The same value in two places."""
    return PackRow.select(PackRow.id).where((PackRow.id >= low) & (PackRow.id <= fn.COALESCE(low, 0)))


class Prepared(BookCase):
    def test_the_same_rows_as_the_query_itself(self) -> None:
        for pack in PackRow.select():
            for until in (NOW, NOW - timedelta(days=40), datetime.min.replace(tzinfo=NOW.tzinfo) + timedelta(days=700)):
                written = (
                    FlightRow.select(FlightRow.took_off_at, FlightRow.minutes)
                    .where((FlightRow.pack == pack.id) & (FlightRow.took_off_at <= until))
                    .order_by(FlightRow.id)
                    .limit(3)
                )
                with self.subTest(pack=pack.label, until=until):
                    self.assertEqual(_flights(pack.id, until, 3), list(written.tuples()))
        self.assertGreater(len(_flights(self.numbers["S1"], NOW, 3)), 0)

    def test_values_are_read_as_their_columns_say(self) -> None:
        ((at, minutes), *_) = _flights(self.numbers["S1"], NOW, 1)
        self.assertIs(type(at), datetime)
        self.assertEqual(at.utcoffset(), timedelta(0))
        self.assertIs(type(minutes), float)
        self.assertEqual(_retired(False)[0][3], False)
        self.assertIs(type(_retired(False)[0][3]), bool)

    def test_a_row_as_a_model(self) -> None:
        found, written = _retired.one(False), PackRow.select().where(~PackRow.retired).order_by(PackRow.id).first()
        self.assertEqual({f: getattr(found, f) for f in ("id", "label", "spec", "retired", "created_at")},
                         {f: getattr(written, f) for f in ("id", "label", "spec", "retired", "created_at")})  # fmt: skip
        self.assertIsNone(_flights.first(10**6, NOW, 1))
        self.assertIsNone(_flights.value(10**6, NOW, 1))

    def test_one_value_in_two_places(self) -> None:
        self.assertEqual(_between(2), [(2,)])

    def test_a_change_that_is_written_out(self) -> None:
        with self.book.write():
            cursor = write("UPDATE snag SET closed_at = ? WHERE closed_at IS NULL", moment_text(NOW))
        self.assertEqual(cursor.rowcount, SnagRow.select().where(SnagRow.closed_at == NOW).count())
        self.assertGreater(cursor.rowcount, 0)
        self.assertEqual(moment_text(NOW), EventRow.at.db_value(NOW))

    def test_what_is_given_out_may_be_changed_by_who_has_it(self) -> None:
        before = _retired(False)
        _retired(False).clear()
        self.assertEqual(_retired(False), before)


class Kept(BookCase):
    """What was found is kept until the book changes, and no longer."""

    def setUp(self) -> None:
        super().setUp()
        self.asked = 0

        @until_changed
        def longest(pack: int) -> float:
            self.asked += 1
            return max(minutes or 0 for _, minutes in _flights(pack, NOW, 99))

        self.longest = longest
        self.pack = self.numbers["S1"]
        self.was = longest(self.pack)

    def holds(self, minutes: float) -> None:
        """Both ways of asking know the new length, and the second time costs nothing."""
        self.assertEqual({m for _, m in _flights(self.pack, NOW, 99)}, {minutes})
        self.assertEqual(self.longest(self.pack), minutes)
        asked = self.asked
        self.assertEqual((self.longest(self.pack), self.asked), (minutes, asked))

    def test_nothing_is_asked_twice(self) -> None:
        with mock.patch.object(self.book.database, "execute_sql", side_effect=AssertionError):
            self.assertEqual((self.longest(self.pack), self.asked), (self.was, 1))
            _flights(self.pack, NOW, 99)

    def test_a_change_of_our_own(self) -> None:
        with self.book.write():
            FlightRow.update(minutes=99.5).execute()
        self.holds(99.5)

    def test_a_change_that_is_taken_back_and_what_is_read_meanwhile(self) -> None:
        with self.assertRaises(ZeroDivisionError), self.book.write():
            FlightRow.update(minutes=99.5).execute()
            self.holds_inside(99.5)
            raise ZeroDivisionError
        self.assertEqual(self.longest(self.pack), self.was)
        self.assertNotIn(99.5, {m for _, m in _flights(self.pack, NOW, 99)})

    def holds_inside(self, minutes: float) -> None:
        """Inside a change every question is asked anew."""
        self.assertEqual((self.longest(self.pack), self.longest(self.pack)), (minutes, minutes))
        self.assertEqual(self.asked, 3)

    def test_another_program_writes(self) -> None:
        code = f"import sqlite3; c = sqlite3.connect({str(self.book.path)!r}); c.execute('UPDATE flight SET minutes = 77.5'); c.commit()"
        subprocess.run([sys.executable, "-c", code], check=True)
        self.holds(77.5)

    def test_another_thread_writes(self) -> None:
        def change() -> None:
            with self.book.write():
                FlightRow.update(minutes=66.5).execute()
            self.book.close()

        thread = threading.Thread(target=change)
        thread.start()
        thread.join()
        self.holds(66.5)

    def test_another_book_is_opened(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            other = Book(Path(folder))
            self.assertEqual(_flights(self.pack, NOW, 99), [])
            other.close()

    def test_it_is_bounded(self) -> None:
        for limit in range(3 * MOST_ANSWERS):
            _flights(self.pack, NOW, limit)
        self.assertLessEqual(len(statements._kept.found), MOST_ANSWERS + 1)


if __name__ == "__main__":
    unittest.main()
