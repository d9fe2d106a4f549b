"""Prepared queries ask what written ones ask, anew each time."""

import unittest
from datetime import datetime, timedelta
from typing import Any

from peewee import Select, fn

from tests.support import NOW, BookCase
from walkround.store.models import EventRow, FlightRow, PackRow, SnagRow
from walkround.store.statements import moment_text, prepared, write


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

    def test_nothing_is_kept_but_the_text(self) -> None:
        before = _flights(self.numbers["S1"], NOW, 1)
        with self.book.write():
            FlightRow.update(minutes=99.5).execute()
        self.assertEqual(_flights(self.numbers["S1"], NOW, 1), [(before[0][0], 99.5)])

    def test_a_change_that_is_written_out(self) -> None:
        with self.book.write():
            cursor = write("UPDATE snag SET closed_at = ? WHERE closed_at IS NULL", moment_text(NOW))
        self.assertEqual(cursor.rowcount, SnagRow.select().where(SnagRow.closed_at == NOW).count())
        self.assertGreater(cursor.rowcount, 0)
        self.assertEqual(moment_text(NOW), EventRow.at.db_value(NOW))


if __name__ == "__main__":
    unittest.main()
