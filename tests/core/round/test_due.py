"""What is due today: calibrations by distance, firmware, crash and practice; the season; long breaks."""

import unittest
from datetime import UTC, date, datetime, timedelta

import pyproj

from tests.support import NOW, SITE, calibrated, said, situation, with_history
from walkround.core.aircraft.parts import PartKind
from walkround.core.base.geodesy import Position
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.pilot.limits import Limits
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round import due


def event(kind: EventKind, days: float, detail: str = "") -> Event:
    return Event(kind=kind, at=NOW - timedelta(days=days), detail=detail)


class Happened(unittest.TestCase):
    """What the logbook shows by itself, each at its edge; the pilot's limits decide."""

    def kinds(self, **history: object) -> list[tuple[EventKind, datetime, str]]:
        base = situation(limits=Limits(idle_days=60, compass_far_m=100_000))
        found = due.happened(with_history(base, events=(), **history))
        return [(e.kind, e.at, e.detail) for e in found]

    def test_nothing_known_is_nothing_happened(self) -> None:
        self.assertEqual(self.kinds(), [])
        self.assertEqual(self.kinds(aircraft_flown=True, site_flown=True), [])

    def test_a_pause_counts_from_the_day_it_is_over(self) -> None:
        for days, over in ((59.99, False), (60, True), (70, True)):
            last = NOW - timedelta(days=days)
            expected = [(EventKind.LONG_IDLE, last + timedelta(days=60), "")] if over else []
            self.assertEqual(self.kinds(aircraft_last_flight_at=last), expected, days)

    def test_carried_far_is_farther_than_the_limit(self) -> None:
        """Kilometres by geodesic, from a reference library; the limit is the pilot's."""
        last = NOW - timedelta(days=1)
        for away_m, far in ((99_990.0, False), (100_010.0, True), (250_000.0, True)):
            lon, lat, _ = pyproj.Geod(ellps="WGS84").fwd(15.3, 48.2, 90, away_m)
            there = {"aircraft_last_position": Position(lat_deg=lat, lon_deg=lon), "aircraft_last_flight_at": last}
            found = self.kinds(**there, aircraft_last_site="Upper Field")
            words = f"{away_m / 1000:.0f} km since Upper Field"
            self.assertEqual(found, [(EventKind.CARRIED_FAR, last, words)] if far else [], away_m)
            if far:
                self.assertIn("km since its last flight", self.kinds(**there)[0][2])

    def test_a_new_site_begins_with_the_day_there_or_after_the_last_flight(self) -> None:
        midnight = datetime(2026, 5, 15, 22, tzinfo=UTC)  # 00:00 in Vienna on the 16th
        self.assertEqual(self.kinds(site_flown=False), [(EventKind.NEW_SITE, midnight, "Test Meadow")])
        for last, at in ((NOW - timedelta(days=3), midnight), (NOW - timedelta(hours=1), NOW - timedelta(hours=1))):
            found = self.kinds(site_flown=False, aircraft_last_flight_at=last)
            self.assertEqual(found, [(EventKind.NEW_SITE, at, "Test Meadow")])

    def test_an_aircraft_that_never_flew_is_a_new_build_once(self) -> None:
        self.assertEqual(
            self.kinds(aircraft_flown=False), [(EventKind.NEW_BUILD, datetime(1970, 1, 1, tzinfo=UTC), due.NEVER_FLOWN)]
        )
        noted = event(EventKind.NEW_BUILD, 2)
        found = due.happened(with_history(situation(), events=(noted,), aircraft_flown=False))
        self.assertEqual(found, (noted,))
        crash = event(EventKind.CRASH, 2)
        found = due.happened(with_history(situation(), events=(crash,), aircraft_flown=False))
        self.assertEqual([e.kind for e in found], [EventKind.CRASH, EventKind.NEW_BUILD])


class Words(unittest.TestCase):
    def test_every_event(self) -> None:
        case = situation(limits=Limits(idle_days=45))
        rows = (
            (event(EventKind.FIRMWARE, 0, "2.4"), "Firmware 2.4, today"),
            (event(EventKind.FIRMWARE, 5), "Firmware changed, 11 May"),
            (event(EventKind.NEW_BUILD, 5), "New build, 11 May"),
            (event(EventKind.NEW_BUILD, 5, due.NEVER_FLOWN), "No flight of Quad is in the logbook"),
            (event(EventKind.NEW_SITE, 5, "Far Meadow"), "Your first flight at Far Meadow"),
            (event(EventKind.LONG_IDLE, 200), "Long break, 45 days over on 28 Oct 2025"),
            (event(EventKind.CRASH, 5), "Crash, 11 May"),
            (event(EventKind.HARD_LANDING, 5), "Hard landing, 11 May"),
            (event(EventKind.REPAIR, 5), "Repair or setting changed, 11 May"),
            (event(EventKind.REPAIR, 5, "trim"), "Repair or setting (trim), 11 May"),
            (event(EventKind.CARRIED_FAR, 5), "Transported a long way, 11 May"),
            (event(EventKind.CARRIED_FAR, 5, "300 km"), "Transported a long way (300 km), 11 May"),
            (event(EventKind.BORROWED, 5), "Borrowed aircraft, 11 May"),
            (event(EventKind.BORROWED, 5, "of the club"), "Borrowed (of the club), 11 May"),
            (event(EventKind.PART_REPLACED, 5), "New part, 11 May"),
            (event(EventKind.PART_REPLACED, 5).model_copy(update={"part": PartKind.MOTOR}), f"New {PartKind.MOTOR}, 11 May"),
            (event(EventKind.COMPASS_CALIBRATED, 5), "Compass calibrated, 11 May"),
        )  # fmt: skip
        for noted, words in rows:
            with self.subTest(noted.kind):
                self.assertEqual(due.event_words(noted, case), words)
                self.assertEqual(said(due.event_reason(noted, case)), f"{words}; not checked since.")


class Compass(unittest.TestCase):
    def test_quiet(self) -> None:
        self.assertIsNone(due.compass_due(situation()))

    def test_never(self) -> None:
        reason = due.compass_due(with_history(situation(), events=()))
        self.assertEqual(said(reason), "No compass calibration is on record for this aircraft.")

    def test_far_travel(self) -> None:
        """Hundreds of km: common practice, no source; 200 km is our choice. Distance by geodesic."""
        far = SITE.model_copy(update={"position": Position(lat_deg=53.7, lon_deg=8.1), "name": "Far"})
        reason = due.compass_due(situation(site=far))
        kilometres = pyproj.Geod(ellps="WGS84").inv(15.3, 48.2, 8.1, 53.7)[2] / 1000
        self.assertEqual(said(reason), f"{kilometres:.1f} km from the last compass calibration at Test Meadow.")
        near = SITE.model_copy(update={"position": Position(lat_deg=48.9, lon_deg=16.5), "name": "Near"})
        self.assertIsNone(due.compass_due(situation(site=near)))
        strict = situation(site=near, limits=Limits(compass_far_m=50_000))
        self.assertIsNotNone(due.compass_due(strict))

    def test_events_since(self) -> None:
        for kind, words in (
            (EventKind.FIRMWARE, "Firmware 2.4, 11 May"),
            (EventKind.CRASH, "Crash, 11 May"),
            (EventKind.HARD_LANDING, "Hard landing, 11 May"),
            (EventKind.REPAIR, "Repair or setting (2.4), 11 May"),
        ):
            with self.subTest(kind):
                case = with_history(situation(), events=(*calibrated(30), event(kind, 5, "2.4")))
                self.assertEqual(said(due.compass_due(case)), f"{words}: the last compass calibration is older.")

    def test_at_the_same_moment_it_is_settled_and_without_a_place_no_distance_is_known(self) -> None:
        case = with_history(situation(), events=(*calibrated(30), event(EventKind.CRASH, 30)))
        self.assertIsNone(due.compass_due(case))
        self.assertIsNone(due.accelerometer_due(case))
        blind = Event(kind=EventKind.COMPASS_CALIBRATED, at=NOW - timedelta(days=30))
        self.assertIsNone(due.compass_due(with_history(situation(), events=(blind,))))
        strict = situation(methods=ChosenMethods(compass="site"))
        self.assertEqual(
            said(due.compass_due(with_history(strict, events=(blind,)))),
            "Your method: every new field. The last was elsewhere.",
        )

    def test_exactly_at_the_limit_is_near_and_the_place_is_named_if_known(self) -> None:
        lon, lat, _ = pyproj.Geod(ellps="WGS84").fwd(15.3, 48.2, 0, 50_000)
        there = Position(lat_deg=lat, lon_deg=lon)
        last = Event(kind=EventKind.COMPASS_CALIBRATED, at=NOW, position=there)
        for limit_m, far in ((50_000.5, False), (49_999.5, True)):
            case = with_history(situation(limits=Limits(compass_far_m=limit_m)), events=(last,))
            reason = due.compass_due(case)
            self.assertEqual(reason and said(reason), "50.0 km from the last compass calibration." if far else None)

    def test_parts_that_move_iron(self) -> None:
        """After a metal change: common practice, no source."""
        for part, settles in ((PartKind.MOTOR, True), (PartKind.SATNAV, True), (PartKind.PROPELLER, False)):
            new = event(EventKind.PART_REPLACED, 1).model_copy(update={"part": part})
            case = with_history(situation(), events=(*calibrated(30), new))
            self.assertEqual(due.compass_due(case) is not None, settles, part)
            self.assertIsNone(due.accelerometer_due(case))
        board = event(EventKind.PART_REPLACED, 1).model_copy(update={"part": PartKind.FLIGHT_CONTROLLER})
        self.assertIsNotNone(due.accelerometer_due(with_history(situation(), events=(*calibrated(30), board))))

    def test_events_before_are_settled(self) -> None:
        case = with_history(situation(), events=(*calibrated(30), event(EventKind.CRASH, 40)))
        self.assertIsNone(due.compass_due(case))

    def test_practices(self) -> None:
        daily = situation(methods=ChosenMethods(compass="day"))
        self.assertEqual(said(due.compass_due(daily)), "Your method: every day.")
        today = with_history(daily, events=calibrated(0.05))
        self.assertIsNone(due.compass_due(today))
        other = SITE.model_copy(update={"name": "Next door"})
        self.assertIsNone(due.compass_due(situation(site=other)))
        reason = due.compass_due(situation(site=other, methods=ChosenMethods(compass="site")))
        self.assertEqual(said(reason), "Your method: every new field. The last was Test Meadow.")


class Level(unittest.TestCase):
    def test_reasons(self) -> None:
        self.assertIsNone(due.accelerometer_due(situation()))
        self.assertIn("No level calibration", said(due.accelerometer_due(with_history(situation(), events=()))))
        case = with_history(situation(), events=(*calibrated(30), event(EventKind.HARD_LANDING, 1)))
        self.assertEqual(
            said(due.accelerometer_due(case)), "Hard landing, 15 May: the last level calibration is older."
        )
        tuned = with_history(situation(), events=(*calibrated(30), event(EventKind.REPAIR, 1)))
        self.assertIsNone(due.accelerometer_due(tuned))


class Optical(unittest.TestCase):
    def test_only_after_something_and_until_it_was_done(self) -> None:
        """After a crash, a hard landing or new firmware: common practice, no source."""
        self.assertIsNone(due.optical_due(with_history(situation(), events=())))
        for kind in (EventKind.CRASH, EventKind.HARD_LANDING, EventKind.FIRMWARE):
            crashed = with_history(situation(), events=(event(kind, 3),))
            self.assertIn("not calibrated since", said(due.optical_due(crashed)))
            for days, settled in ((4, False), (3, True), (1, True)):
                events = (event(kind, 3), event(EventKind.OPTICAL_CALIBRATED, days))
                self.assertEqual(due.optical_due(with_history(situation(), events=events)) is None, settled, days)
        self.assertIsNone(due.optical_due(with_history(situation(), events=(event(EventKind.REPAIR, 1),))))


class Season(unittest.TestCase):
    def test_dates(self) -> None:
        """1 April and 1 July: defaults, common practice, no source."""
        rows = (
            (datetime(2026, 3, 31, tzinfo=UTC), date(2025, 7, 1)),
            (datetime(2026, 4, 1, tzinfo=UTC), date(2026, 4, 1)),
            (datetime(2026, 6, 30, tzinfo=UTC), date(2026, 4, 1)),
            (datetime(2026, 7, 1, tzinfo=UTC), date(2026, 7, 1)),
        )
        for now, start in rows:
            with self.subTest(now):
                self.assertEqual(due.season_date(situation(now=now)), start)

    def test_due_until_done(self) -> None:
        case = with_history(situation(), done=(Done(check_id="x", at=datetime(2026, 3, 1, tzinfo=UTC)),))
        self.assertEqual(
            said(due.season_due(case.history.last_done("x"), case)), "Season inspection of 1 Apr; last done 1 Mar."
        )
        self.assertEqual(
            said(due.season_due(case.history.last_done("y"), case)), "Season inspection of 1 Apr; never done."
        )
        for month, day, counts in ((4, 2, True), (3, 26, True), (3, 4, True), (3, 3, False)):
            case = with_history(situation(), done=(Done(check_id="x", at=datetime(2026, month, day, 12, tzinfo=UTC)),))
            self.assertEqual(due.season_due(case.history.last_done("x"), case) is None, counts, f"{day}.{month}.")

    def test_the_next_date_lies_after_today(self) -> None:
        """1 April and 1 July: defaults, common practice, no source."""
        rows = (((3, 31), date(2026, 4, 1)), ((4, 1), date(2026, 7, 1)), ((6, 30), date(2026, 7, 1)), ((7, 1), date(2027, 4, 1)),
                ((12, 31), date(2027, 4, 1)))  # fmt: skip
        for (month, day), following in rows:
            case = situation(now=datetime(2026, month, day, 10, tzinfo=UTC))
            self.assertEqual(due.next_season_date(case), following, (month, day))

    def test_own_dates(self) -> None:
        case = situation(limits=Limits(season_days=("05-10", "11-01")))
        self.assertEqual(due.season_date(case), date(2026, 5, 10))


class Idle(unittest.TestCase):
    def test_days(self) -> None:
        rows = ((59, None), (60, "60 days since your last flight: you may be rusty."))
        for days, words in rows:
            case = with_history(situation(), pilot_last_flight_at=NOW - timedelta(days=days))
            reason = due.idle_reason(case)
            self.assertEqual(reason and said(reason), words)
        never = due.idle_reason(with_history(situation(), pilot_last_flight_at=None))
        self.assertIn("No flight", said(never))

    def test_day_words(self) -> None:
        today = date(2026, 5, 16)
        for moment, words in ((today, "today"), (date(2026, 1, 2), "2 Jan"), (date(2025, 12, 31), "31 Dec 2025")):
            self.assertEqual(due.day_words(moment, today), words)
