"""The first fix by what is on record."""

import unittest
from datetime import timedelta

from tests.support import NOW, situation, with_history
from walkround.core.base.geodesy import Position
from walkround.core.checklist.history import Event, EventKind
from walkround.core.round.fix_wait import expected_fix


class Expected(unittest.TestCase):
    def words(self, hours: float | None, **more: object) -> str:
        last = None if hours is None else NOW - timedelta(hours=hours)
        return expected_fix(with_history(situation(), aircraft_last_flight_at=last, **more)).why.split(":")[0]

    def test_by_the_record(self) -> None:
        self.assertEqual(
            (self.words(None), self.words(2), self.words(100), self.words(24 * 90)), ("cold", "hot", "warm", "cold")
        )
        self.assertEqual(self.words(2, aircraft_last_position=Position(lat_deg=40, lon_deg=0)), "cold")
        for hours, known in ((1, "cold"), (5, "hot")):
            event = Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(hours=hours), detail="2.4")
            self.assertEqual(self.words(3, events=(event,)), known, "an update before the last flight is past")
