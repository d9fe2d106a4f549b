"""Books of earlier versions: made by the commits that set 0.1 to 0.6, they open, verify, print and go on."""

import gzip
import json
import shutil
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.support import FAST_FOLDER, NOW, WebCase, plain
from walkround.core.base.errors import InputError
from walkround.core.checklist.check import Frequency, Station
from walkround.core.checklist.custom import CustomChecklist, checklist_of
from walkround.core.checklist.exchange import AircraftFile, ListFile, taken_over, text_of
from walkround.core.checklist.library import CHECKS
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.record import content_hash
from walkround.store import hangar, records, rounds, upgrade
from walkround.store.book import FILE_NAME, Book
from walkround.store.exchange import read_file
from walkround.store.models import RecordRow, RoundRow
from walkround.store.settings import load as load_settings
from walkround.store.upgrade import step_2, step_4
from walkround.store.wholeness import examine
from walkround.web.app import create_app

BOOKS = sorted((Path(__file__).parent / "books").glob("*.sqlite.gz"))


class EarlierBooks(WebCase):
    """Each book holds a signed round without a flight, one signed, flown and logged, and one in progress."""

    filled = False

    def opened(self, path: Path) -> None:
        self.book.close()
        for leftover in self.folder.glob(FILE_NAME + "*"):
            leftover.unlink()
        (self.folder / FILE_NAME).write_bytes(gzip.decompress(path.read_bytes()))
        self.book = Book(self.folder)
        self.addCleanup(self.book.close)
        self.app = create_app(self.folder, clock=lambda: self.now)
        self.client.app = self.client._transport.app = self.app  # type: ignore[attr-defined]

    def test_there_is_one_of_each_version(self) -> None:
        self.assertEqual([p.name for p in BOOKS], [f"book-0.{n}.sqlite.gz" for n in (1, 2, 3, 4, 5, 6)])
        self.assertTrue(FAST_FOLDER is None or shutil.disk_usage(FAST_FOLDER).free > 10_000_000)

    def test_signed_rounds_verify_read_and_print_as_signed(self) -> None:
        for path in BOOKS:
            with self.subTest(path.name):
                self.opened(path)
                self.assertEqual(examine(self.folder / FILE_NAME).records, 2)
                signed = list(RecordRow.select())
                self.assertEqual(len(signed), 2)
                for row in signed:
                    record = records.record_of(row.round_id)
                    written = json.loads(row.text)
                    self.assertEqual(content_hash(row.text), row.sha256)
                    self.assertEqual(len(record.evidence), len(written["evidence"]))
                    self.assertEqual(record.verdict.level, written["verdict"]["level"])
                    self.assertEqual(
                        [f.reason.text for f in record.findings], [f["reason"]["text"] for f in written["findings"]]
                    )
                    page = self.client.get(f"/rounds/{row.round_id}/verdict")
                    self.assertEqual(page.status_code, 200)
                    self.assertIn(row.sha256[:8], page.text)
                    self.assertIn(record.signed_by, plain(page.text))
                    sent = self.client.get(f"/rounds/{row.round_id}/record.json")
                    self.assertEqual(content_hash(sent.text), row.sha256)

    def test_all_pages_open_and_the_round_in_progress_goes_on(self) -> None:
        for path in BOOKS:
            with self.subTest(path.name):
                self.opened(path)
                for address in (
                    "/",
                    "/hangar",
                    "/packs",
                    "/fields/1",
                    "/fields/2",
                    "/logbook",
                    "/hangar/aircraft/1",
                    "/packs/1",
                    "/settings",
                ):
                    self.assertEqual(self.client.get(address, follow_redirects=True).status_code, 200, address)
                going = RoundRow.get(RoundRow.state == "open")
                loaded = rounds.load(going.id, self.settings, NOW)
                self.assertGreater(len(loaded.evidence), 5)
                self.assertEqual(self.client.get(f"/rounds/{going.id}", follow_redirects=True).status_code, 200)
                answer = self.client.post(
                    f"/rounds/{going.id}/checks/pack.plan", data={"seen": "0", "work_min": "5", "height_m": "30"}
                )
                self.assertLess(answer.status_code, 400, answer.text)

    def test_what_is_saved_again_carries_the_number_of_today(self) -> None:
        for path in BOOKS:
            with self.subTest(path.name):
                self.opened(path)
                for kind in (Pack, Site):
                    for thing in hangar.everything(kind):
                        hangar.save(thing, NOW)
                        self.assertEqual(hangar.get(kind, thing.id), thing)
                row = self.book.database.execute_sql("SELECT spec FROM site LIMIT 1").fetchone()
                self.assertEqual(json.loads(row[0])["format"], upgrade.FORMAT)


class EarlierFiles(unittest.TestCase):
    """Files to hand on that 0.6 wrote."""

    def test_an_aircraft(self) -> None:
        file = read_file((BOOKS[0].parent / "walk-round-aircraft-1.json").read_text(), AircraftFile)
        self.assertEqual((file.aircraft.cg_min_mm, file.aircraft.cg_max_mm), (70, 80))
        self.assertEqual(file.parts[0].rotation, "clockwise")
        self.assertEqual(read_file(text_of(file), AircraftFile), file)

    def test_a_list(self) -> None:
        file = read_file((BOOKS[0].parent / "walk-round-list-1.json").read_text(), ListFile)
        mine = taken_over(CustomChecklist(), file)
        checks = {check.id: check for check in checklist_of(mine).checks}
        level, added = checks["sensors.accelerometer"], checks["custom.1"]
        self.assertEqual((level.title, level.frequency), ("Level on the bench", Frequency.LAUNCH))
        self.assertEqual((added.title, added.station, added.origin), ("Aerials apart", Station.SENSORS, "custom"))
        ids = [check.id for check in checklist_of(mine).checks if check.station is Station.SENSORS]
        built_in = [check.id for check in CHECKS if check.station is Station.SENSORS]
        self.assertEqual(ids.index("sensors.barometer"), built_in.index("sensors.barometer") - 1)

    def test_one_that_lies_about_its_version(self) -> None:
        for broken in ('{"aircraft": 3}', '{"aircraft": null, "parts": 4}', '{"aircraft": {}, "parts": [[]]}'):
            text = json.dumps(json.loads(broken) | {"format": "walk-round-aircraft/1"})
            with self.subTest(broken), self.assertRaises(InputError):
                read_file(text, AircraftFile)


class Steps(unittest.TestCase):
    def test_names_of_0_6_become_those_of_the_field(self) -> None:
        rows = (
            ("part", {"hand": "clockwise"}, {"rotation": "clockwise"}),
            ("reading", {"put_back_mah": 800.0}, {"recharged_mah": 800.0}),
            ("done", {"check_id": "senses.level"}, {"check_id": "sensors.accelerometer"}),
            ("snag", {"check_id": "own.3"}, {"check_id": "custom.3"}),
            ("flight", {"check_id": "own.3"}, {"check_id": "own.3"}),
            ("event", {"kind": "carried far"}, {"kind": "transported a long way"}),
            ("pack_change", {"state": "watch", "for_good": 0}, {"state": "monitor", "condemned": 0}),
        )
        for table, old, new in rows:
            self.assertEqual(step_4.row(table, old), new)
            self.assertEqual(step_4.row(table, new), new)
        spec = json.dumps({"terms": {"ceiling": None, "spans": [], "rule": "take care"}, "polygons": []})
        now = json.loads(step_4.row("zone", {"spec": spec})["spec"])
        self.assertEqual(now["terms"], {"max_height": None, "periods": [], "rule": "caution"})
        self.assertEqual(
            step_4.setting("charger", {"ports": 2, "name": "x"}), ("charger", {"channels": 2, "name": "x"})
        )
        columns = {"key": {"fields": ["pack", "put_back", ""], "dates": "iso"}}
        self.assertEqual(step_4.setting("columns", columns)[1]["key"]["fields"], ["pack", "recharged_mah", ""])

    def test_a_book_of_0_6_keeps_what_it_knew_under_its_new_names(self) -> None:
        """Against the file itself, read without the application."""
        path = BOOKS[-1]
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / FILE_NAME
            file.write_bytes(gzip.decompress(path.read_bytes()))
            with closing(sqlite3.connect(file)) as db:
                charged = db.execute("SELECT id, put_back_mah FROM reading ORDER BY id").fetchall()
                done = db.execute("SELECT count(*) FROM done WHERE check_id LIKE 'senses.%'").fetchone()[0]
                kept = dict(db.execute("SELECT name, value FROM setting").fetchall())
                packs_then = dict(db.execute("SELECT id, summary FROM pack").fetchall())
            book = Book(Path(folder))
            self.addCleanup(book.close)
            ask = book.database.execute_sql
            self.assertGreater(sum(value is not None for _, value in charged), 5)
            self.assertEqual(ask("SELECT id, recharged_mah FROM reading ORDER BY id").fetchall(), charged)
            self.assertGreater(done, 3)
            self.assertEqual(ask("SELECT count(*) FROM done WHERE check_id LIKE 'sensors.%'").fetchone()[0], done)
            now = load_settings()
            kept_methods = json.loads(kept["practices"])
            self.assertEqual(
                {topic: method for topic, method in now.methods.model_dump().items() if topic in kept_methods},
                kept_methods,
            )
            self.assertEqual([c.id for c in now.custom_checklist.added], ["custom.1"])
            self.assertEqual(now.charger.channels, json.loads(kept["charger"])["ports"])
            for number, text in ask("SELECT id, summary FROM pack").fetchall():
                if text is not None:
                    self.assertEqual(json.loads(text)["imbalance_v"], json.loads(packs_then[number])["spread_v"])

    def test_an_obstacle_becomes_a_mark_with_a_spot(self) -> None:
        old = {"name": "A", "obstacles": [{"kind": "tree", "bearing_deg": 90, "distance_m": 40, "height_m": 9}]}
        new = step_2.site(old)
        self.assertEqual(
            new,
            {
                "name": "A",
                "marks": [{"kind": "tree", "height_m": 9, "id": 1, "spots": [{"east_m": 40.0, "north_m": 0.0}]}],
            },
        )
        self.assertEqual(step_2.site(new), new)

    def test_a_retired_pack_gets_a_state_and_one_with_a_state_keeps_it(self) -> None:
        self.assertEqual(step_2.pack({"retired": True}), {"state": "retired"})
        self.assertEqual(step_2.pack({"retired": False}), {})
        self.assertEqual(step_2.pack({"retired": True, "state": "watch"}), {"state": "watch"})

    def test_minutes_become_a_plan_only_where_they_answered_the_plan(self) -> None:
        minutes = {"kind": "measured", "value": 7.5}
        self.assertEqual(
            upgrade.answer("pack.plan", minutes, 1, 45.0)[1],
            {"kind": "planned", "plan": {"work_min": 7.5, "height_m": 45.0}},
        )
        self.assertEqual(upgrade.answer("pack.plan", minutes, 2, 45.0)[1], minutes)
        self.assertEqual(upgrade.answer("pack.temperature", minutes, 1, 45.0)[1], minutes)

    def test_a_newer_format_is_refused(self) -> None:
        with self.assertRaises(upgrade.UnknownFormatError):
            upgrade.read("pack", {"format": upgrade.FORMAT + 1})


if __name__ == "__main__":
    unittest.main()
