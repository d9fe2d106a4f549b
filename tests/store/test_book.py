"""The book: schema, pragmas, a newer or broken file."""

import json
import sqlite3
import tempfile
import unittest
import unittest.mock
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from fastapi.testclient import TestClient
from peewee import IntegrityError

from tests.support import BookCase, WebCase, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Frame, Power
from walkround.core.checklist.history import EventKind
from walkround.core.packs.pack import Pack, PackState
from walkround.store import air_models, hangar, models, packs, parts
from walkround.store.book import FILE_NAME, PRAGMAS, Book, BookError, data_folder
from walkround.store.migrations import NEWEST
from walkround.store.migrations.steps import MIGRATIONS
from walkround.web.app import create_app


class Opening(BookCase):
    filled = False

    def pragma(self, name: str) -> object:
        return self.book.database.execute_sql(f"PRAGMA {name}").fetchone()[0]

    def test_pragmas(self) -> None:
        self.assertEqual(self.pragma("journal_mode"), "wal")
        self.assertEqual(self.pragma("foreign_keys"), 1)
        self.assertEqual(self.pragma("synchronous"), 2, "full sync: evidence survives a power cut")

    def test_schema_is_up_to_date_and_opening_again_changes_nothing(self) -> None:
        self.assertEqual(self.book.schema(), MIGRATIONS[-1][0])
        self.assertEqual(Book(self.folder).schema(), MIGRATIONS[-1][0])

    def test_migrations_are_numbered_without_gaps(self) -> None:
        self.assertEqual([m[0] for m in MIGRATIONS], list(range(1, len(MIGRATIONS) + 1)))
        self.assertEqual(MIGRATIONS[-1][0], NEWEST)

    def test_models_fit_the_schema(self) -> None:
        for model in (*models.ALL, *air_models.ALL):
            with self.subTest(model._meta.table_name):
                rows = self.book.database.execute_sql(f'PRAGMA table_info("{model._meta.table_name}")').fetchall()
                self.assertEqual({row[1] for row in rows}, {f.column_name for f in model._meta.sorted_fields})

    def logged(self) -> int:
        return self.book.path.with_name(f"{FILE_NAME}-wal").stat().st_size

    def noted(self) -> None:
        with self.book.write():
            self.book.database.execute_sql("INSERT OR REPLACE INTO setting (name, value) VALUES ('pilot', '\"A\"')")

    def test_settled_it_stands_in_the_book_itself(self) -> None:
        self.noted()
        self.assertGreater(self.logged(), 0)
        self.book.settle()
        self.assertEqual(self.logged(), 0)

    def test_the_log_stays_while_another_program_reads(self) -> None:
        with closing(sqlite3.connect(self.book.path)) as other:
            other.execute("BEGIN")
            other.execute("SELECT * FROM setting").fetchall()
            self.noted()
            self.book.settle()
            self.assertGreater(self.logged(), 0)

    def test_the_application_settles_it_at_its_end(self) -> None:
        with TestClient(create_app(self.folder)):
            self.noted()
        self.assertEqual(self.logged(), 0)

    def test_a_newer_book_is_refused_in_words(self) -> None:
        self.book.database.execute_sql("INSERT INTO migration VALUES (999, 'future', '2099')")
        with self.assertRaises(BookError) as caught:
            Book(self.folder)
        self.assertIn("newer Walk Round", caught.exception.message)

    def test_a_file_that_is_no_book(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / FILE_NAME).write_text("this is no database at all, " * 50)
            with self.assertRaises(BookError) as caught:
                Book(Path(folder))
            self.assertIn("is not a Walk Round database", caught.exception.message)
        Book(self.folder)

    def test_foreign_keys_hold(self) -> None:
        with self.assertRaises(IntegrityError):
            models.EventRow.create(aircraft=99, kind="crash", at=self.now)

    def test_a_failed_write_leaves_nothing(self) -> None:
        with self.assertRaises(RuntimeError), self.book.write():
            models.SettingRow.create(name="x", value="1")
            raise RuntimeError
        self.assertEqual(models.SettingRow.select().count(), 0)

    def test_where_data_lives(self) -> None:
        with unittest.mock.patch.dict("os.environ", {"WALKROUND_DATA": "/tmp/somewhere"}):
            self.assertEqual(data_folder(), Path("/tmp/somewhere"))
        with unittest.mock.patch.dict("os.environ", {"WALKROUND_DATA": "", "XDG_DATA_HOME": "/tmp/xdg"}):
            self.assertEqual(data_folder(), Path("/tmp/xdg/walkround"))


class AppendOnly(BookCase):
    """The database itself refuses, whoever asks."""

    def test_evidence_and_records_cannot_be_changed_or_removed(self) -> None:
        self.assertGreater(models.EvidenceRow.select().count(), 40)
        self.assertEqual(models.RecordRow.select().count(), 1)
        path = self.folder / FILE_NAME
        for statement in (
            "UPDATE evidence SET answer = '{}'",
            "DELETE FROM evidence",
            "UPDATE record SET text = '{}'",
            "DELETE FROM record",
        ):
            with (
                self.subTest(statement),
                closing(sqlite3.connect(path)) as db,
                self.assertRaises(sqlite3.IntegrityError) as caught,
            ):
                db.execute(statement)
            self.assertRegex(str(caught.exception), "append-only|frozen")


class OlderBook(BookCase):
    """A book written before frames, parts and photos were known opens, and reads as it was meant."""

    filled = False

    def test_it_is_brought_up_to_date(self) -> None:
        folder = self.folder / "old"
        folder.mkdir()
        spec = {
            "kind": "wing", "traits": ["ailerons", "elevator", "wing held by rubber bands"], "rotors": 1, "mass_g": 1150,
            "span_mm": 1400, "top_speed_ms": 22, "flight_min": 11, "cells": 3, "front_left_clockwise": True, "bands": 8,
            "cg_min_mm": None, "cg_max_mm": None, "firmware": "",
        }  # fmt: skip
        with closing(sqlite3.connect(folder / FILE_NAME)) as db:
            db.execute("CREATE TABLE migration (number INTEGER PRIMARY KEY, name TEXT, at TEXT)")
            for statement in MIGRATIONS[0][2]:
                db.execute(statement)
            db.execute("INSERT INTO migration VALUES (1, 'first', '2026-05-01')")
            db.execute("INSERT INTO aircraft VALUES (1, 'Old Timer', ?, 0, '2026-05-01')", (json.dumps(spec),))
            charged = {"chemistry": "lithium-polymer", "cells": 3, "capacity_mah": 2200, "smart": False,
                       "charged_at": "2026-05-01T18:30:00Z"}  # fmt: skip
            db.execute("INSERT INTO pack VALUES (1, 'A', ?, 0, '2026-04-01')", (json.dumps(charged),))
            db.execute(
                "INSERT INTO pack VALUES (2, 'B', ?, 1, '2026-04-01')", (json.dumps(charged | {"charged_at": None}),)
            )
            db.execute("INSERT INTO site VALUES (1, 'Field', '{}', '2026-04-01')")
            db.execute("INSERT INTO round VALUES (1, 1, 1, 1, '2026-05-02', '{}', 'left', NULL, NULL)")
            for text in ('{"kind": "cells", "reading": {"cells_v": [4.1, 4.0, 4.1], "total_v": 12.2}}',
                         '{"kind": "cells", "reading": {"cells_v": [4.2, 4.2, 4.2], "total_v": 12.6}}',
                         '{"kind": "undone", "of": 1}'):  # fmt: skip
                db.execute(
                    "INSERT INTO evidence (round_id, check_id, at, \"by\", answer) VALUES (1, 'pack.cells', ?, 'pilot', ?)",
                    (f"2026-05-02T09:0{len(text) % 10}:00.000000+00:00", text),
                )
            db.execute("INSERT INTO event (aircraft_id, kind, at) VALUES (1, 'crash', '2026-05-02T10:00:00+00:00')")
            db.commit()
        book = Book(folder)
        self.addCleanup(book.close)
        self.assertEqual(book.schema(), MIGRATIONS[-1][0])
        plane = hangar.get(Aircraft, 1)
        self.assertEqual((plane.frame, plane.power), (Frame.HIGH_WING, Power.ELECTRIC))
        self.assertEqual(
            [e.kind for e in hangar.latest_events(1, datetime(2026, 11, 1, tzinfo=UTC))], [EventKind.CRASH]
        )
        self.assertEqual(parts.of_aircraft(1), [])
        self.assertEqual([(r.percent, r.cells_v) for r in packs.readings(1)], [(100, ()), (None, (4.2, 4.2, 4.2))])
        self.assertEqual(packs.readings(1)[0].at, datetime(2026, 5, 1, 18, 30, tzinfo=UTC))
        self.assertEqual(packs.in_short(1, self.now).cycles, 1)
        old = hangar.get(Pack, 2)
        self.assertEqual((old.state, old.condemned), (PackState.RETIRED, False))
        self.assertEqual([c.state for c in packs.changes(2)], [PackState.RETIRED])


class Full(WebCase):
    def test_a_full_disk_is_said_and_what_was_acknowledged_stays(self) -> None:
        """SQLite answers as on a full disk once a file may not grow: ``PRAGMA max_page_count``."""
        pages = self.book.database.execute_sql("PRAGMA page_count").fetchone()[0]
        self.book.close()
        with unittest.mock.patch.dict(PRAGMAS, max_page_count=pages):
            self.app = create_app(self.folder, clock=lambda: self.now)
        self.client.app = self.client._transport.app = self.app  # type: ignore[attr-defined]
        kept = []
        for i in range(400):
            title = f"{i:03d} " + "scrape " * 12
            answer = self.client.post("/hangar/aircraft/2/snags", data={"title": title, "grounds": "1"})
            if answer.status_code != 303:
                break
            kept.append(title.strip())
        self.assertEqual(answer.status_code, 503)
        self.assertIn("Not saved: the disk is full.", plain(answer.text))
        again = self.client.post("/hangar/aircraft/2/snags", data={"title": title, "grounds": "1"})
        self.assertEqual((again.status_code, self.client.get("/snags").status_code), (503, 200))
        self.assertGreater(len(kept), 0)
        titles = [row.title for row in models.SnagRow.select(models.SnagRow.title)]
        self.assertEqual([t for t in titles if "scrape" in t], kept)
