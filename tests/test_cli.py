"""The command line: refusals in words, backup and restore, doctor, export."""

import contextlib
import hashlib
import io
import sqlite3
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from tests.support import NOW, BookCase
from walkround.cli import main
from walkround.core.packs.reading import Reading
from walkround.demo.opening import MORNING, ensure_demo, left_off
from walkround.serving import _look_over, _look_over_aside, _look_over_here, free_port, network_address
from walkround.store import packs
from walkround.store.book import FILE_NAME, Book, BookError


def run(*words: str) -> tuple[int, str]:
    """A command as it is typed: its exit code and what it said."""
    with contextlib.redirect_stdout(io.StringIO()) as out:
        code = main(words)
    return code, out.getvalue()


class Commands(BookCase):
    def run_cli(self, *words: str, code: int = 0) -> str:
        found, said = run(*words, "--data", str(self.folder))
        self.assertEqual(found, code, said)
        return " ".join(said.split())

    def test_backup_doctor_restore(self) -> None:
        target = self.folder / "copy.sqlite"
        self.assertIn("Backed up and verified", self.run_cli("backup", str(target)))
        self.assertIn('"whole": true', self.run_cli("doctor", str(target)))
        live = self.run_cli("doctor")
        self.assertIn("no checksum beside it", live)
        self.assertNotIn("whole", live)
        self.book.close()
        self.assertIn("Restored.", self.run_cli("restore", str(target)))
        self.assertIn("There is no file", self.run_cli("restore", str(self.folder / "none"), code=1))
        self.assertIn("exists already", self.run_cli("backup", str(target), code=1))

    def test_export(self) -> None:
        out = self.folder / "out"
        self.assertIn("Wrote 1 signed rounds", self.run_cli("export", str(out)))
        told = dict(reversed(line.split("  ")) for line in (out / "SHA256SUMS").read_text().splitlines())
        self.assertEqual(set(told), {p.name for p in out.iterdir()} - {"SHA256SUMS"})
        for name, told_sum in told.items():
            self.assertEqual(hashlib.sha256((out / name).read_bytes()).hexdigest(), told_sum, name)

    def test_what_the_disk_refuses_is_said(self) -> None:
        """A file where a folder should be, a folder that is closed, a full disk: words and exit code 1, nothing left behind."""
        wall = self.folder / "wall"
        wall.write_text("a file")
        for words in (
            ["backup", str(wall / "x.sqlite")],
            ["export", str(wall)],
            ["demo", "--data", str(wall)],
            ["passphrase", "--words", "four calm herons", "--data", str(wall)],
        ):
            with self.subTest(words[0]):
                code, said = run(*words, *([] if "--data" in words else ["--data", str(self.folder)]))
                self.assertEqual(code, 1, said)
                self.assertIn("Not done.", said)
                self.assertNotIn("Traceback", said)
        full = OSError(28, "No space left on device")
        for place, words in (
            ("walkround.store.backup._copied", ["backup", str(self.folder / "b.sqlite")]),
            ("walkround.store.export._written", ["export", str(self.folder / "full")]),
            ("walkround.web.security.Passphrase.choose", ["passphrase", "--words", "four calm herons"]),
        ):
            with self.subTest(place), mock.patch(place, side_effect=full):
                self.assertIn("o space left on device", self.run_cli(*words, code=1))
        self.assertFalse((self.folder / "b.sqlite").exists())

    def test_a_damaged_book_is_reported_at_the_start(self) -> None:
        self.book.close()
        with contextlib.closing(sqlite3.connect(self.folder / FILE_NAME)) as db:
            db.execute("DROP TRIGGER signed_snag_stays")
        with mock.patch("uvicorn.run") as run:
            said = self.run_cli("serve")
        self.assertIn("This data is damaged.", said)
        self.assertIn("trigger signed_snag_stays is missing", said)
        run.assert_called_once()
        (self.folder / FILE_NAME).write_bytes(b"nothing " * 900)
        said = self.run_cli("serve", code=1)
        self.assertIn("is not a Walk Round database", said)
        self.assertIn("is not a Walk Round database", self.run_cli("export", str(self.folder / "out2"), code=1))

    def test_all_that_it_holds_is_looked_over_behind_the_start(self) -> None:
        """A small book here, a large one by a process of its own; either says what it found."""
        with self.book.write():
            self.book.database.execute_sql("UPDATE aircraft SET spec = 'not json' WHERE id = 1")
        self.book.close()
        for most, look in ((1_000_000_000, _look_over_here), (0, _look_over_aside)):
            with mock.patch("walkround.serving.LOOKED_OVER_HERE_BYTES", most), mock.patch("threading.Timer") as timer:
                _look_over(self.folder)
            after_s, later, given = timer.call_args.args
            self.assertEqual((later, timer.return_value.daemon), (look, True))
            self.assertGreater(after_s, 1)
            timer.return_value.start.assert_called_once()
            with mock.patch("walkround.serving.say") as told:
                later(*given)
            self.assertIn("This data is damaged.", str(told.call_args_list))
            self.assertIn("aircraft 1", str(told.call_args_list))

    def test_a_sound_book_is_looked_over_in_silence(self) -> None:
        self.book.close()
        with mock.patch("walkround.serving.say") as told:
            _look_over_here(self.folder / FILE_NAME)
        told.assert_not_called()

    def test_an_aircraft_and_a_list_are_taken_over(self) -> None:
        self.run_cli("export", str(self.folder / "out"))
        plane, mine = self.folder / "out" / "Sandpiper.aircraft.json", self.folder / "out" / "my.list.json"
        self.assertIn("already an aircraft called Sandpiper", self.run_cli("import", str(plane), code=1))
        self.assertIn("Imported: Stint, with 2 parts.", self.run_cli("import", str(plane), "--name", "Stint"))
        self.assertIn("Imported: 0 changes and 0 checks.", self.run_cli("import", str(mine)))
        (self.folder / "x.json").write_text("kite")
        self.assertIn("not a JSON file", self.run_cli("import", str(self.folder / "x.json"), code=1))
        self.assertIn("There is no file", self.run_cli("import", str(self.folder / "none.json"), code=1))

    def test_where_other_devices_find_this_one(self) -> None:
        self.assertEqual(network_address("192.0.2.9"), "192.0.2.9")
        self.assertRegex(network_address("0.0.0.0"), r"^(\d+\.){3}\d+$|^$")

    def test_the_network_needs_a_passphrase(self) -> None:
        self.assertIn("needs a passphrase", self.run_cli("serve", "--host", "0.0.0.0", code=1))
        self.assertIn("Use at least ten characters", self.run_cli("passphrase", "--words", "short", code=1))
        self.assertIn("Passphrase set", self.run_cli("passphrase", "--words", "four calm herons"))

    def test_a_passphrase_is_asked_for_twice(self) -> None:
        for typed, code, words in (
            (("four calm herons", "four calm heron"), 1, "The two do not match."),
            (("four calm herons", "four calm herons"), 0, "Passphrase set."),
        ):
            with mock.patch("walkround.cli.getpass", side_effect=typed):
                self.assertIn(words, self.run_cli("passphrase", code=code))

    def test_what_is_mistyped_is_said(self) -> None:
        for words, said in (((), "required"), (("fly",), "invalid choice"), (("backup",), "target")):
            with contextlib.redirect_stderr(io.StringIO()) as out, self.assertRaises(SystemExit) as ended:
                main(words)
            self.assertEqual(ended.exception.code, 2)
            self.assertIn(said, out.getvalue())
        self.assertIn("“noon” is not a time", run("demo", "--at", "noon", "--data", str(self.folder / "demo"))[1])

    def test_no_book(self) -> None:
        (self.folder / FILE_NAME).unlink()
        self.assertIn("There is no file", self.run_cli("doctor", code=1))


class Demo(unittest.TestCase):
    def test_it_is_made_once_and_never_over_a_pilot_s_own_book(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "demo"
            ensure_demo(folder, now=NOW)
            stamp = (folder / FILE_NAME).stat().st_mtime_ns
            ensure_demo(folder, now=NOW)
            self.assertEqual((folder / FILE_NAME).stat().st_mtime_ns, stamp)
            ensure_demo(folder, now=NOW, fresh=True)
            self.assertNotEqual((folder / FILE_NAME).stat().st_mtime_ns, stamp)
            own = Path(name) / "custom"
            Book(own).close()
            for fresh in (False, True):
                with self.assertRaises(BookError) as caught:
                    ensure_demo(own, now=NOW, fresh=fresh)
                self.assertIn("your own data", caught.exception.message)

    def clock_of(self, folder: Path, *words: str) -> tuple[datetime, str]:
        """What the clock shows at the start of a demo, and what its first page says."""
        with mock.patch("walkround.serving.serve") as served:
            self.assertEqual(run("demo", "--data", str(folder), *words)[0], 0)
        return served.call_args.kwargs["clock"](), served.call_args.kwargs["demo"]

    def test_its_clock_starts_at_a_flyable_hour_and_never_goes_back(self) -> None:
        second = timedelta(seconds=5)
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "demo"
            shown, said = self.clock_of(folder)
            self.assertLess(abs(shown - MORNING), second)
            self.assertIn("Invented data. Its clock started at 09:40 and runs on.", said)
            book = Book(folder)
            with book.write():
                packs.add_reading(1, Reading(at=NOW + timedelta(hours=3), percent=60), NOW + timedelta(hours=3))
            book.close()
            self.assertEqual(left_off(folder), NOW + timedelta(hours=3))
            shown, said = self.clock_of(folder)
            self.assertLess(abs(shown - (MORNING + timedelta(hours=3, minutes=1))), second)
            self.assertIn("started at 12:41", said)
            shown, said = self.clock_of(folder, "--at", "2026-05-16T11:00+02:00")
            self.assertLess(abs(shown - (MORNING + timedelta(hours=1, minutes=20))), second)
            shown, said = self.clock_of(folder, "--at", "now")
            self.assertLess(abs(shown - datetime.now(UTC)), second)
            self.assertNotIn("clock", said)
            self.assertLess(abs(self.clock_of(folder, "--fresh")[0] - MORNING), second)

    def test_a_free_port(self) -> None:
        import socket

        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertNotEqual(free_port("127.0.0.1", port), port)
