"""Calibrations in the book: judged when kept, an event when they pass, nothing when they are invented or fail."""

from datetime import timedelta

from tests.support import BookCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.finding import Level
from walkround.core.calibration.compass import CompassCalibration
from walkround.core.calibration.earth import field_at
from walkround.core.calibration.ellipsoid import FitKind
from walkround.core.calibration.level import LevelCalibration
from walkround.core.calibration.still import StillStart
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.store import calibrations, hangar


class Kept(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.quad = hangar.get(Aircraft, self.numbers["Lapwing"])
        self.site = hangar.get(Site, self.numbers["Teasel Common"])
        field = field_at(self.site, self.now)
        assert field is not None
        self.good = CompassCalibration(
            at=self.now,
            by="recording",
            fit=FitKind.FULL,
            offset_ut=(3.0, 2.0, 1.0),
            strength_ut=field.strength_ut,
            residual=0.01,
            covered=0.9,
            samples=500,
        )

    def keep(self, found, ahead: timedelta = timedelta(0)):  # type: ignore[no-untyped-def]
        with self.book.write():
            return calibrations.keep(self.quad, found.model_copy(update={"at": self.now + ahead}), self.site, self.now)

    def events(self, kind: EventKind = EventKind.COMPASS_CALIBRATED) -> int:
        return sum(event.kind is kind for event in hangar.events(self.quad.id))

    def test_one_that_passes_is_an_event_at_its_field(self) -> None:
        before = self.events()
        self.assertIs(self.keep(self.good).level, Level.CLEAR)
        self.assertEqual(self.events(), before + 1)
        self.assertEqual(hangar.events(self.quad.id)[0].site, self.site.name)
        self.keep(self.good)
        self.assertEqual(self.events(), before + 1, "once")

    def test_invented_failed_or_ahead_it_is_none(self) -> None:
        before = self.events()
        self.assertIs(self.keep(self.good.model_copy(update={"simulated": True})).level, Level.CLEAR)
        self.assertIs(self.keep(self.good.model_copy(update={"residual": 0.3})).level, Level.GROUNDED)
        self.keep(self.good, ahead=timedelta(days=3))
        self.assertEqual(self.events(), before)
        self.assertEqual(
            len(calibrations.compass_ones(self.quad.id)), 4, "but all are on record, with that of the demo"
        )

    def test_compared_with_the_last_that_counted(self) -> None:
        self.keep(self.good, ahead=timedelta(days=-2))
        self.keep(
            self.good.model_copy(update={"offset_ut": (90.0, 0.0, 0.0), "simulated": True}), ahead=timedelta(days=-1)
        )
        found = calibrations.before(self.quad.id, self.now)
        assert found is not None
        self.assertEqual(found.offset_ut, (3.0, 2.0, 1.0))
        moved = self.keep(self.good.model_copy(update={"offset_ut": (13.0, 2.0, 1.0)}))
        self.assertIs(moved.level, Level.CAUTION)

    def test_the_level_too(self) -> None:
        before = self.events(EventKind.ACCELEROMETER_CALIBRATED)
        kept = self.keep(LevelCalibration(at=self.now, by="typed", tilt_deg=0.3))
        self.assertIs(kept.level, Level.CLEAR)
        self.assertEqual(self.events(EventKind.ACCELEROMETER_CALIBRATED), before + 1)
        self.assertEqual(calibrations.level_ones(self.quad.id), [kept])

    def test_how_often_its_light_failed_in_a_row(self) -> None:
        failed = CompassCalibration(at=self.now, by="its light", light="failed")
        for hours, light, times in ((1, "failed", 1), (2, "failed", 2), (3, "done", 0), (4, "failed", 1)):
            self.keep(failed.model_copy(update={"light": light}), ahead=timedelta(hours=hours))
            self.assertEqual(calibrations.failed_in_a_row(self.quad.id), times, hours)

    def test_starts_of_this_aircraft_only_newest_first(self) -> None:
        with self.book.write():
            for hours in (3, 1, 2):
                at = self.now - timedelta(hours=hours)
                calibrations.keep_start(self.quad.id, StillStart(at=at, seconds=10 + hours))
            calibrations.keep_start(self.numbers["Sandpiper"], StillStart(at=self.now, seconds=99))
        self.assertEqual([one.seconds for one in calibrations.starts(self.quad.id)], [11, 12, 13])

    def test_no_field_where_the_model_does_not_reach(self) -> None:
        self.assertIsNone(field_at(None, self.now))
        self.assertIsNone(field_at(self.site, self.now.replace(year=2031)))
