"""Aircraft, packs, fields, settings, and the situation gathered from them."""

import csv
import io
import json
from datetime import timedelta

from tests.support import PACK, QUAD, SITE, BookCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, MissingError
from walkround.core.base.units import Units
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack, PackState
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.pilot.methods import ChosenMethods
from walkround.store import export, hangar, snags
from walkround.store import settings as store_settings
from walkround.store.models import RecordRow
from walkround.store.situation import day_bounds, gather


class Things(BookCase):
    def test_what_was_saved_comes_back(self) -> None:
        for kind, thing in ((Aircraft, QUAD), (Pack, PACK), (Site, SITE)):
            fresh = thing.model_copy(update={"id": 0})
            number = hangar.save(fresh, self.now)
            self.assertEqual(hangar.get(kind, number), fresh.model_copy(update={"id": number}))

    def test_names_are_taken_once_whatever_their_case(self) -> None:
        with self.assertRaises(InputError) as caught:
            hangar.save(QUAD.model_copy(update={"id": 0, "name": "SANDPIPER"}), self.now)
        self.assertEqual(
            (caught.exception.field, caught.exception.message),
            ("name", "There is already an aircraft called SANDPIPER."),
        )
        with self.assertRaises(InputError):
            hangar.save(PACK.model_copy(update={"id": 0, "label": "s1"}), self.now)

    def test_missing(self) -> None:
        for kind in (Aircraft, Pack, Site):
            with self.assertRaises(MissingError):
                hangar.get(kind, 999)
        with self.assertRaises(MissingError):
            snags.close(999, "x", self.now)

    def test_retired_things_are_not_offered(self) -> None:
        number = self.numbers["S2"]
        hangar.save(hangar.get(Pack, number).model_copy(update={"state": PackState.RETIRED}), self.now)
        self.assertNotIn(number, [p.id for p in hangar.everything(Pack)])
        self.assertIn(number, [p.id for p in hangar.everything(Pack, retired=True)])

    def test_a_closed_snag_stays_closed(self) -> None:
        snags.open_one(SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "x", grounds=True, at=self.now)
        number = snags.open_ones(self.numbers["Sandpiper"])[0].id
        snags.close(number, "done", self.now)
        snags.close(number, "done again", self.now)
        self.assertEqual(snags.closed(self.numbers["Sandpiper"])[0].closed_how, "done")


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

    def test_queries_are_bounded(self) -> None:
        """However long the past is, gathering asks the same number of questions."""
        asked: list[str] = []
        real = self.book.database.execute_sql

        def counting(sql, *args, **kwargs):  # type: ignore[no-untyped-def]
            asked.append(sql)
            return real(sql, *args, **kwargs)

        self.book.database.execute_sql = counting  # type: ignore[method-assign]
        self.gather()
        self.assertLessEqual(len(asked), 20)

    def test_the_day_of_the_field(self) -> None:
        """Vienna is two hours ahead of UTC in May, and the days when clocks change have 23 and 25 hours."""
        start, end = day_bounds(self.now, "Europe/Vienna")
        self.assertEqual((start.hour, (end - start).total_seconds()), (22, 86_400))
        spring, autumn = self.now.replace(month=3, day=29), self.now.replace(month=10, day=25)
        for moment, hours in ((spring, 23), (autumn, 25)):
            start, end = day_bounds(moment, "Europe/Vienna")
            self.assertEqual((end - start).total_seconds() / 3600, hours)


class SettingsKept(BookCase):
    filled = False

    def test_defaults_then_what_was_saved(self) -> None:
        self.assertEqual(store_settings.load(), store_settings.Settings())
        store_settings.save(
            pilot="T",
            units=Units(speed="kt"),
            limits=Limits(wind_ms=5),
            methods=ChosenMethods(charge="volts"),
            theme="dark",
        )
        loaded = store_settings.load()
        self.assertEqual(
            (loaded.pilot, loaded.units.speed, loaded.limits.wind_ms, loaded.methods.charge, loaded.theme),
            ("T", "kt", 5, "volts", "dark"),
        )

    def test_every_limit_has_its_row_and_default(self) -> None:
        defaults = Limits()
        for spec in LIMITS:
            self.assertEqual(getattr(defaults, spec.name), spec.default, spec.name)
            self.assertTrue(spec.low <= spec.default <= spec.high and spec.help and spec.source)
        named = {spec.name for spec in LIMITS} | {"season_days"}
        self.assertEqual(named, set(Limits.model_fields))

    def test_limits_and_practices_outside_are_refused(self) -> None:
        with self.assertRaises(InputError):
            Limits(wind_ms=99)
        with self.assertRaises(InputError):
            ChosenMethods(charge="vibes")


class Export(BookCase):
    def test_everything_in_open_formats(self) -> None:
        target = self.folder / "out"
        self.assertEqual(export.write_everything(target), 1)
        number = RecordRow.select().first().round_id
        record = json.loads((target / f"walk-round-{number}.json").read_text())
        self.assertEqual(record["format"], "walk-round-record/4")
        rows = list(csv.DictReader(io.StringIO((target / "logbook.csv").read_text())))
        self.assertEqual(len(rows), 10)
        self.assertEqual(tuple(rows[0]), export.COLUMNS)
        self.assertEqual(
            (rows[0]["aircraft"], rows[0]["minutes"], rows[0]["left_percent"]), ("Sandpiper", "10.1", "53")
        )

    def test_texts_a_spreadsheet_would_run(self) -> None:
        self.assertEqual(export.safe("=1+1"), "'=1+1")
        self.assertEqual(export.safe("plain"), "plain")
