"""Gathering a situation from the book."""

import sqlite3
from contextlib import closing
from datetime import timedelta

from tests.support import BookCase
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.store import hangar, snags
from walkround.store.book import FILE_NAME
from walkround.store.situation import day_bounds, gather


class Gathering(BookCase):
    def gather(self, aircraft: str = "Sandpiper", pack: str = "S1", site: str = "Teasel Common", **more):  # type: ignore[no-untyped-def]
        n = self.numbers
        return gather(n[aircraft], n[pack], n[site], now=self.now, settings=self.settings, **more)

    def test_history_is_a_summary(self) -> None:
        history = self.gather().history
        self.assertEqual((history.pack_flights_today, history.pack_typical_flights), (0, 2))
        self.assertAlmostEqual(history.pack_typical_min, (9.5 + 8.4) / 2, delta=0.06)
        self.assertEqual(history.pilot_last_flight_at.date(), (self.now - timedelta(days=9)).date())
        snags.open_one(SnagOn.PACK, self.numbers["H1"], "A lead is nicked", grounds=True, at=self.now)
        self.assertIn("A lead is nicked", [s.title for s in self.gather("Haymaker", "H1").history.snags])

    def test_only_the_newest_event_of_each_kind(self) -> None:
        for days in (3, 2, 1):
            hangar.add_event(
                self.numbers["Sandpiper"], EventKind.FIRMWARE, self.now - timedelta(days=days), detail=f"3.{days}"
            )
        firmware = [e for e in self.gather().history.events if e.kind is EventKind.FIRMWARE]
        self.assertEqual([e.detail for e in firmware], ["3.1"])

    def test_what_another_program_takes_out_of_the_logbook_is_gone_at_once(self) -> None:
        before = self.gather().history
        self.assertTrue(
            before.uses and before.pack_last_flight_at and before.aircraft_last_position and before.site_flown
        )
        with closing(sqlite3.connect(self.folder / FILE_NAME)) as theirs, theirs:
            theirs.execute("UPDATE flight SET minutes = minutes + 2")
        self.assertAlmostEqual(self.gather().history.pack_typical_min, before.pack_typical_min + 2, places=6)
        with closing(sqlite3.connect(self.folder / FILE_NAME)) as theirs, theirs:
            theirs.execute("DELETE FROM flight")
        after = self.gather().history
        self.assertEqual((after.uses, after.pack_typical_flights), ((), 0))
        self.assertEqual(
            (after.pack_last_flight_at, after.aircraft_last_flight_at, after.aircraft_last_position), (None, None, None)
        )
        self.assertFalse(after.site_flown)

    def test_queries_are_bounded(self) -> None:
        """However long the past is, gathering asks the same number of questions."""
        asked: list[str] = []
        real = self.book.database.execute_sql

        def counting(sql, *args, **kwargs):  # type: ignore[no-untyped-def]
            asked.append(sql)
            return real(sql, *args, **kwargs)

        self.book.database.execute_sql = counting  # type: ignore[method-assign]
        self.gather()
        self.assertLessEqual(len(asked), 23)

    def test_the_day_of_the_field(self) -> None:
        """Vienna is two hours ahead of UTC in May, and the days when clocks change have 23 and 25 hours."""
        start, end = day_bounds(self.now, "Europe/Vienna")
        self.assertEqual((start.hour, (end - start).total_seconds()), (22, 86_400))
        spring, autumn = self.now.replace(month=3, day=29), self.now.replace(month=10, day=25)
        for moment, hours in ((spring, 23), (autumn, 25)):
            start, end = day_bounds(moment, "Europe/Vienna")
            self.assertEqual((end - start).total_seconds() / 3600, hours)
