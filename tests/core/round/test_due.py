"""What is due today: calibrations by distance, firmware, crash and practice; the season; long idle."""

import unittest
from datetime import UTC, date, datetime, timedelta

import pyproj

from tests.support import NOW, SITE, calibrated, said, situation, with_history
from walkround.core.base.geodesy import Position
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.pilot.limits import Limits
from walkround.core.pilot.methods import Practices
from walkround.core.round import due


def event(kind: EventKind, days: float, detail: str = "") -> Event:
    return Event(kind=kind, at=NOW - timedelta(days=days), detail=detail)


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

    def test_events_before_are_settled(self) -> None:
        case = with_history(situation(), events=(*calibrated(30), event(EventKind.CRASH, 40)))
        self.assertIsNone(due.compass_due(case))

    def test_practices(self) -> None:
        daily = situation(practices=Practices(compass="day"))
        self.assertEqual(said(due.compass_due(daily)), "Your practice: every day.")
        today = with_history(daily, events=calibrated(0.05))
        self.assertIsNone(due.compass_due(today))
        other = SITE.model_copy(update={"name": "Next door"})
        self.assertIsNone(due.compass_due(situation(site=other)))
        reason = due.compass_due(situation(site=other, practices=Practices(compass="site")))
        self.assertEqual(said(reason), "Your practice: every new site; the last was Test Meadow.")


class Level(unittest.TestCase):
    def test_reasons(self) -> None:
        self.assertIsNone(due.level_due(situation()))
        self.assertIn("No level calibration", said(due.level_due(with_history(situation(), events=()))))
        case = with_history(situation(), events=(*calibrated(30), event(EventKind.HARD_LANDING, 1)))
        self.assertEqual(said(due.level_due(case)), "Hard landing, 15 May: the last level calibration is older.")
        tuned = with_history(situation(), events=(*calibrated(30), event(EventKind.REPAIR, 1)))
        self.assertIsNone(due.level_due(tuned))


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
            said(due.season_due(case.history.last_done("x"), case)), "Season look of 1 Apr; last done 1 Mar."
        )
        self.assertEqual(said(due.season_due(case.history.last_done("y"), case)), "Season look of 1 Apr; never done.")
        for month, day, counts in ((4, 2, True), (3, 26, True), (3, 4, True), (3, 3, False)):
            case = with_history(situation(), done=(Done(check_id="x", at=datetime(2026, month, day, 12, tzinfo=UTC)),))
            self.assertEqual(due.season_due(case.history.last_done("x"), case) is None, counts, f"{day}.{month}.")

    def test_own_dates(self) -> None:
        case = situation(limits=Limits(season_days=("05-10", "11-01")))
        self.assertEqual(due.season_date(case), date(2026, 5, 10))


class Idle(unittest.TestCase):
    def test_days(self) -> None:
        rows = ((59, None), (60, "60 days since your last flight: expect rust."))
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
