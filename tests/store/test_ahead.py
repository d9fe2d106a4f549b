"""What was kept while a clock was wrong: dated ahead of now, it is listed and never counts in anyone's favour."""

from datetime import timedelta

from tests.support import BookCase
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import After, Reading
from walkround.store import box, fields, hangar, packs
from walkround.store.models import DoneRow, FlightRow
from walkround.store.situation import gather

AHEAD = timedelta(days=2)


class Ahead(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.pack = self.numbers["S1"]
        self.quad = self.numbers["Sandpiper"]

    def history(self):  # type: ignore[no-untyped-def]
        place = hangar.everything(Site)[0].id
        return gather(self.quad, self.pack, place, now=self.now, settings=self.settings).history

    def test_a_reading_from_ahead_is_listed_and_does_not_count(self) -> None:
        packs.add_reading(self.pack, Reading(at=self.now, percent=15), self.now)
        before = packs.in_short(self.pack, self.now)
        packs.add_reading(self.pack, Reading(at=self.now + AHEAD, percent=100, after=After.CHARGE), self.now)
        self.assertEqual(packs.in_short(self.pack, self.now), before)
        known = packs.known_of(hangar.get(Pack, self.pack), self.now)
        self.assertEqual(known.short, before)
        self.assertEqual(known.readings[0][1].percent, 100)
        packs.drop_reading(known.readings[0][0], self.now)
        self.assertEqual(packs.in_short(self.pack, self.now), before)

    def test_what_was_summed_up_under_the_wrong_clock_is_made_anew(self) -> None:
        packs.add_reading(self.pack, Reading(at=self.now, percent=15), self.now)
        before = packs.in_short(self.pack, self.now)
        packs.add_reading(self.pack, Reading(at=self.now + AHEAD, percent=100, after=After.CHARGE), self.now + AHEAD)
        self.assertEqual(packs.in_short(self.pack, self.now + AHEAD).charge_at, self.now + AHEAD)
        self.assertEqual(packs.in_short(self.pack, self.now), before)
        self.assertEqual({p.id: known for p, known in box.known_packs(self.now)}[self.pack], before)
        self.assertEqual(self.history().pack_summary, before)

    def test_checks_and_calibrations_done_ahead_are_due(self) -> None:
        DoneRow.delete().where(DoneRow.aircraft == self.quad).execute()
        for check_id, at in (("airframe.screws", self.now + AHEAD), ("airframe.shell", self.now)):
            DoneRow.create(aircraft=self.quad, check_id=check_id, at=at)
        self.assertEqual([done.check_id for done in self.history().done], ["airframe.shell"])
        true = self.now - timedelta(days=9)
        for kind in (EventKind.COMPASS_CALIBRATED, EventKind.CRASH):
            hangar.add_event(self.quad, kind, true)
            hangar.add_event(self.quad, kind, self.now + AHEAD)
        found = {event.kind: event.at for event in self.history().events}
        self.assertEqual(found[EventKind.COMPASS_CALIBRATED], true)
        self.assertEqual(found[EventKind.CRASH], self.now + AHEAD, "what raises checks counts")

    def test_a_flight_from_ahead_keeps_nobody_in_practice(self) -> None:
        before = self.history().pilot_last_flight_at
        flight = FlightRow.select().order_by(FlightRow.took_off_at.desc()).first()
        assert flight is not None and before is not None
        FlightRow.update(took_off_at=self.now + AHEAD, landed_at=self.now + AHEAD).where(
            FlightRow.id == flight.id
        ).execute()
        after = self.history().pilot_last_flight_at
        self.assertTrue(after is None or after < before)

    def test_a_walk_dated_ahead_gives_way_to_one_of_today(self) -> None:
        field = self.numbers["Teasel Common"]
        for at, now, launch_platforms in (
            (self.now + AHEAD, self.now + AHEAD, self.now + AHEAD),
            (self.now, self.now, self.now),
            (self.now - AHEAD, self.now, self.now),
        ):
            fields.walked(field, at, now)
            self.assertEqual(hangar.get(Site, field).walked_at, launch_platforms)
