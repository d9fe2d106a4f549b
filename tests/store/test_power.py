"""Power loss: whatever the disk was not told to keep is dropped, and every confirmed transaction is still there.

A file system in the test (a VFS of SQLite, through apsw) remembers what was written and what was synced. After each confirmed
transaction the machine "loses its power": of what was not synced, any part may have reached the disk, or none.
"""

import random
import shutil
import sqlite3
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

import apsw

from tests.support import FAST_FOLDER
from walkround.store.book import MIGRATION_TABLE, PRAGMAS
from walkround.store.migrations.steps import MIGRATIONS, run

SECTOR = 512


class Disk:
    """For each file: what is on the disk for sure, and the writes since, oldest first."""

    def __init__(self) -> None:
        self.sure: dict[str, bytearray] = {}
        self.loose: dict[str, list[tuple[int, bytes]]] = {}

    def wrote(self, name: str, offset: int, data: bytes) -> None:
        self.loose.setdefault(name, []).append((offset, bytes(data)))

    def synced(self, name: str) -> None:
        kept = self.sure.setdefault(name, bytearray())
        for offset, data in self.loose.pop(name, []):
            _lay(kept, offset, data)

    def cut(self, name: str, size: int) -> None:
        """Shortened: at once, as a journal does it, and for sure only with the next sync; both are tried."""
        self.loose.setdefault(name, []).append((-1, size.to_bytes(8, "big")))

    def after_power_loss(self, dice: random.Random, share: float) -> dict[str, bytes]:
        """What the disk holds when the power comes back: all that is sure, of the rest a random share of the sectors."""
        found = {}
        for name in set(self.sure) | set(self.loose):
            kept = bytearray(self.sure.get(name, bytearray()))
            for offset, data in self.loose.get(name, []):
                if offset < 0:
                    if dice.random() < share:
                        del kept[int.from_bytes(data, "big") :]
                    continue
                for start in range(0, len(data), SECTOR):
                    if dice.random() < share:
                        _lay(kept, offset + start, data[start : start + SECTOR])
            found[name] = bytes(kept)
        return found


def _lay(kept: bytearray, offset: int, data: bytes) -> None:
    if offset < 0:
        del kept[int.from_bytes(data, "big") :]
        return
    if len(kept) < offset:
        kept.extend(bytes(offset - len(kept)))
    kept[offset : offset + len(data)] = data


class Files(apsw.VFS):
    """The system's own files, every write and sync of them remembered."""

    def __init__(self, disk: Disk) -> None:
        self.disk = disk
        super().__init__("remembering", "")

    def xDelete(self, filename, syncdir):  # type: ignore[no-untyped-def]
        self.disk.sure.pop(Path(filename).name, None)
        self.disk.loose.pop(Path(filename).name, None)
        super().xDelete(filename, syncdir)

    def xOpen(self, name, flags):  # type: ignore[no-untyped-def]
        return OneFile(self.disk, name, flags)


class OneFile(apsw.VFSFile):
    def __init__(self, disk: Disk, name, flags) -> None:  # type: ignore[no-untyped-def]
        self.disk, self.name = disk, Path(name.filename() if hasattr(name, "filename") else str(name)).name
        super().__init__("", name, flags)

    def xWrite(self, data, offset):  # type: ignore[no-untyped-def]
        self.disk.wrote(self.name, offset, data)
        super().xWrite(data, offset)

    def xTruncate(self, size):  # type: ignore[no-untyped-def]
        self.disk.cut(self.name, size)
        super().xTruncate(size)

    def xSync(self, flags):  # type: ignore[no-untyped-def]
        self.disk.synced(self.name)
        super().xSync(flags)


class PowerLoss(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(dir=FAST_FOLDER))
        self.addCleanup(shutil.rmtree, self.folder)
        self.disk = Disk()
        self.files = Files(self.disk)
        self.addCleanup(self.files.unregister)
        self.db = apsw.Connection(str(self.folder / "x.sqlite"), vfs="remembering")
        self.addCleanup(self.db.close)
        for name, value in PRAGMAS.items():
            self.db.execute(f"PRAGMA {name} = {value}")
        self.db.execute("PRAGMA wal_autocheckpoint = 8")  # often, so that the file itself is written too
        self.db.execute(MIGRATION_TABLE)
        for _, _, statements in MIGRATIONS:
            run(statements, self.db.execute)

    def here(self, dice: random.Random, share: float) -> list[str]:
        """Names of the settings in the book after the power is back, by the sqlite3 of Python, another build of SQLite."""
        for old in self.folder.glob("after*"):
            old.unlink()
        for name, data in self.disk.after_power_loss(dice, share).items():
            if not name.endswith("-shm"):
                (self.folder / name.replace("x.sqlite", "after.sqlite")).write_bytes(data)
        with closing(sqlite3.connect(self.folder / "after.sqlite")) as db:
            self.assertEqual(db.execute("PRAGMA integrity_check").fetchone(), ("ok",))
            return [row[0] for row in db.execute("SELECT name FROM setting ORDER BY name")]

    def test_every_confirmed_transaction_is_there(self) -> None:
        dice = random.Random(7)
        for number in range(60):
            self.db.execute("INSERT INTO setting VALUES (?, ?)", (f"s{number:03d}", "x" * dice.randrange(10, 6000)))
            confirmed = [f"s{i:03d}" for i in range(number + 1)]
            for share in (0.0, 0.5, 1.0):
                self.assertEqual(self.here(dice, share), confirmed, f"{share:.0%} of what was not synced")

    def test_the_test_can_fail(self) -> None:
        """With the sync mode that the book must never have, confirmed transactions are gone."""
        self.db.execute("PRAGMA synchronous = 0")
        for number in range(5):
            self.db.execute("INSERT INTO setting VALUES (?, 'x')", (f"s{number:03d}",))
        self.assertLess(len(self.here(random.Random(1), 0.0)), 5)
        self.assertEqual(PRAGMAS["synchronous"], 2)
