"""The write-ahead log read frame by frame: against SQLite itself, and damaged one bit at a time."""

import random
import shutil
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from tests.support import FAST_FOLDER
from walkround.store.wal import FRAME_HEAD, HEAD, read_log


class Frames(unittest.TestCase):
    """A log that SQLite wrote: twenty transactions, none folded back."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(dir=FAST_FOLDER))
        self.addCleanup(shutil.rmtree, self.folder)
        self.book, self.log = self.folder / "x.sqlite", self.folder / "x.sqlite-wal"
        db = sqlite3.connect(self.book, isolation_level=None)
        self.addCleanup(db.close)
        db.execute("PRAGMA journal_mode = wal")
        db.execute("PRAGMA wal_autocheckpoint = 0")
        db.execute("CREATE TABLE t (x)")
        for i in range(20):
            db.execute("INSERT INTO t VALUES (?)", (f"{i}" * 50,))
        self.data = self.log.read_bytes()
        self.size = 4096 + FRAME_HEAD
        self.count = (len(self.data) - HEAD) // self.size

    def seen(self, data: bytes) -> int:
        """How many of the twenty rows SQLite itself still sees."""
        copy = self.folder / "copy.sqlite"
        shutil.copy(self.book, copy)
        copy.with_name("copy.sqlite-wal").write_bytes(data)
        copy.with_name("copy.sqlite-shm").unlink(missing_ok=True)
        with closing(sqlite3.connect(copy)) as db:
            try:
                return int(db.execute("SELECT count(*) FROM t").fetchone()[0])
            except sqlite3.OperationalError:
                return 0

    def log_of(self, data: bytes):  # type: ignore[no-untyped-def]
        path = self.folder / "other-wal"
        path.write_bytes(data)
        return read_log(path)

    def test_a_sound_log_is_read_to_its_end(self) -> None:
        found = read_log(self.log)
        self.assertEqual((found.good, found.bad, found.damaged), (self.count, 0, False))
        self.assertEqual(read_log(self.folder / "none-wal").good, 0)
        self.assertFalse(self.log_of(b"").damaged)

    def test_wherever_a_flipped_bit_hides_answers_it_is_found(self) -> None:
        """SQLite passes over everything after the first frame that does not hold, without a word."""
        dice = random.Random(5)
        for _ in range(60):
            at, bit = dice.randrange(len(self.data)), 1 << dice.randrange(8)
            data = self.data[:at] + bytes([self.data[at] ^ bit]) + self.data[at + 1 :]
            lost = 20 - self.seen(data)
            found = self.log_of(data)
            if lost > 1:
                self.assertTrue(found.damaged, f"byte {at}: {lost} rows hidden")
            if lost == 1:
                self.assertTrue(found.damaged or found.bad, "the last one may have been in writing")
            if found.damaged:
                self.assertGreater(lost, 0)

    def test_a_write_that_was_cut_off_is_no_damage(self) -> None:
        """What a killed program leaves: the last frame torn, or half a transaction."""
        cut = self.data[: HEAD + (self.count - 1) * self.size + 100]
        self.assertEqual((self.log_of(cut).good, self.log_of(cut).damaged), (self.count - 1, False))
        torn = bytearray(self.data)
        torn[HEAD + (self.count - 1) * self.size + 200] ^= 255
        found = self.log_of(bytes(torn))
        self.assertEqual((found.good, found.bad, found.damaged), (self.count - 1, 1, False))

    def test_frames_of_an_earlier_round_of_the_log_are_its_end(self) -> None:
        """After it was folded back SQLite begins at the head again with new salts; older frames lie behind."""
        with closing(sqlite3.connect(self.book, isolation_level=None)) as db:
            db.execute("PRAGMA wal_checkpoint(RESTART)")
            db.execute("INSERT INTO t VALUES ('later')")
            found = read_log(self.log)
        self.assertEqual((found.bad, found.damaged), (0, False))
        self.assertLess(found.good, self.count)

    def test_a_head_that_does_not_hold(self) -> None:
        for at in (0, 4, 8, 16, 24):
            data = bytearray(self.data)
            data[at] ^= 1
            self.assertTrue(self.log_of(bytes(data)).damaged, at)
        self.assertTrue(self.log_of(self.data[:20]).damaged)
