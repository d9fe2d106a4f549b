"""Books of earlier versions: made by the commits that set 0.1 to 0.6, they open, verify, print and go on."""

import gzip
import json
import shutil
import unittest
from pathlib import Path

from tests.support import FAST_FOLDER, NOW, WebCase, plain
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.record import content_hash
from walkround.store import hangar, rounds, upgrade
from walkround.store.book import FILE_NAME, Book
from walkround.store.models import RecordRow, RoundRow
from walkround.store.upgrade import step_2
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
                    record = rounds.record_of(row.round_id)
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


class Steps(unittest.TestCase):
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
