"""The command line: refusals in words, backup and restore, doctor, export."""

import tempfile
import unittest
from pathlib import Path

from typer.testing import CliRunner

from tests.support import NOW, BookCase
from walkround.cli import cli, free_port, network_address
from walkround.demo.scenario import ensure_demo
from walkround.store.book import FILE_NAME, Book, BookError


class Commands(BookCase):
    def run_cli(self, *words: str, code: int = 0) -> str:
        result = CliRunner().invoke(cli, [*words, "--data", str(self.folder)])
        self.assertEqual(result.exit_code, code, result.output)
        return " ".join(result.output.split())

    def test_backup_doctor_restore(self) -> None:
        target = self.folder / "copy.sqlite"
        self.assertIn("Backed up and verified", self.run_cli("backup", str(target)))
        self.assertIn('"whole": true', self.run_cli("doctor"))
        self.book.close()
        self.assertIn("Restored.", self.run_cli("restore", str(target)))
        self.assertIn("There is no file", self.run_cli("restore", str(self.folder / "none"), code=1))
        self.assertIn("exists already", self.run_cli("backup", str(target), code=1))

    def test_export(self) -> None:
        self.assertIn("Wrote 1 signed rounds", self.run_cli("export", str(self.folder / "out")))

    def test_an_aircraft_and_a_list_are_taken_over(self) -> None:
        self.run_cli("export", str(self.folder / "out"))
        plane, mine = self.folder / "out" / "Sandpiper.aircraft.json", self.folder / "out" / "my.list.json"
        self.assertIn("already an aircraft called Sandpiper", self.run_cli("import", str(plane), code=1))
        self.assertIn("Taken over: Stint, with 2 parts.", self.run_cli("import", str(plane), "--name", "Stint"))
        self.assertIn("Taken over: 0 changes and 0 checks.", self.run_cli("import", str(mine)))
        (self.folder / "x.json").write_text("kite")
        self.assertIn("not a JSON file", self.run_cli("import", str(self.folder / "x.json"), code=1))
        self.assertIn("There is no file", self.run_cli("import", str(self.folder / "none.json"), code=1))

    def test_where_other_devices_find_this_one(self) -> None:
        self.assertEqual(network_address("192.0.2.9"), "192.0.2.9")
        self.assertRegex(network_address("0.0.0.0"), r"^(\d+\.){3}\d+$|^$")

    def test_the_network_needs_a_passphrase(self) -> None:
        self.assertIn("needs a passphrase", self.run_cli("serve", "--host", "0.0.0.0", code=1))
        self.assertIn("At least ten characters", self.run_cli("passphrase", "--words", "short", code=1))
        self.assertIn("Passphrase set", self.run_cli("passphrase", "--words", "four calm herons"))

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
            own = Path(name) / "own"
            Book(own).close()
            for fresh in (False, True):
                with self.assertRaises(BookError) as caught:
                    ensure_demo(own, now=NOW, fresh=fresh)
                self.assertIn("book of your own", caught.exception.message)

    def test_a_free_port(self) -> None:
        import socket

        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertNotEqual(free_port("127.0.0.1", port), port)
