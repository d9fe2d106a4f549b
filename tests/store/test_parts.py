"""Parts with a history of their own: counts from the logbook, replaced, taken off, given new firmware."""

from datetime import timedelta

from tests.support import BookCase
from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.base.errors import InputError, MissingError
from walkround.core.checklist.history import EventKind
from walkround.store import hangar, parts
from walkround.store.models import FlightRow


class Parts(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.quad = self.numbers["Sandpiper"]

    def fly(self, days: float, minutes: float = 8) -> None:
        off = self.now - timedelta(days=days)
        FlightRow.create(
            aircraft=self.quad, pack=self.numbers["S1"], site=self.numbers["Teasel Common"], took_off_at=off,
            landed_at=off + timedelta(minutes=minutes), minutes=minutes, logged_at=off,
        )  # fmt: skip

    def part(self, days: float, **changes: object) -> Part:
        values = {"kind": PartKind.MOTOR, "place": "front left", "fitted_at": self.now - timedelta(days=days)}
        return Part(**(values | changes))  # type: ignore[arg-type]

    def test_flights_count_from_the_day_it_was_fitted(self) -> None:
        number = parts.fit(self.quad, self.part(6))
        for days in (7, 5, 4):
            self.fly(days)
        mine = next(p for p in parts.of_aircraft(self.quad) if p.id == number)
        self.assertEqual((mine.flights, mine.minutes), (2, 16))

    def test_a_replaced_part_starts_anew_and_is_an_event(self) -> None:
        number = parts.fit(self.quad, self.part(6))
        self.fly(5)
        new = parts.replace(self.quad, number, self.part(3), "grates")
        self.fly(2)
        on = {p.id: p for p in parts.of_aircraft(self.quad)}
        self.assertNotIn(number, on)
        self.assertEqual(on[new].flights, 1)
        old = next(p for p in parts.of_aircraft(self.quad, removed=True) if p.id == number)
        self.assertEqual((old.flights, old.why_removed), (1, "grates"))
        event = next(e for e in hangar.latest_events(self.quad, self.now) if e.part is PartKind.MOTOR)
        self.assertEqual((event.kind, event.detail), (EventKind.PART_REPLACED, "Motor (front left)"))
        with self.assertRaisesRegex(InputError, "That part has been removed already"):
            parts.replace(self.quad, number, self.part(1), "again")
        with self.assertRaises(InputError):
            parts.take_off(self.quad, number, "again", self.now)

    def test_firmware_of_a_part_is_an_event_only_when_it_changes(self) -> None:
        number = parts.fit(self.quad, self.part(6, kind=PartKind.RECEIVER, firmware="1.0"))
        before = len(hangar.events(self.quad))
        parts.set_firmware(self.quad, number, "1.0", self.now)
        self.assertEqual(len(hangar.events(self.quad)), before)
        parts.set_firmware(self.quad, number, "1.1", self.now)
        newest = hangar.events(self.quad)[0]
        self.assertEqual((newest.kind, newest.detail), (EventKind.FIRMWARE, "1.1 (receiver)"))
        self.assertEqual(parts.firmware_of(self.quad), ("receiver front left 1.1",))
        parts.take_off(self.quad, number, "tired", self.now)
        self.assertEqual(parts.firmware_of(self.quad), ())

    def test_a_part_of_another_aircraft(self) -> None:
        number = parts.fit(self.quad, self.part(6))
        for call in (lambda: parts.get(self.numbers["Haymaker"], number), lambda: parts.get(self.quad, 9999)):
            with self.assertRaises(MissingError):
                call()

    def test_the_newest_event_of_each_kind_however_many_there_are(self) -> None:
        hangar.add_event(self.quad, EventKind.BORROWED, self.now - timedelta(days=3000), detail="from the club")
        for i in range(450):
            hangar.add_event(self.quad, EventKind.COMPASS_CALIBRATED, self.now - timedelta(days=i + 1))
        found = {e.kind: e for e in hangar.latest_events(self.quad, self.now)}
        self.assertEqual(found[EventKind.BORROWED].detail, "from the club")
        self.assertEqual(found[EventKind.COMPASS_CALIBRATED].at, self.now - timedelta(days=1))
