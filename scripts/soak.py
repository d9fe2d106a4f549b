"""Everything at once, at random, for some minutes: ``make soak ARGS="5"``. What was acknowledged must be there afterwards.

Servers are started, killed and stopped, one or two on the same book; pilots write in parallel; tables come in; the clock jumps
forward, back and over the change to daylight saving; backups are made and restored. After every stop the book is looked over
and every acknowledged write is looked for. The seed is printed; the same seed makes the same plan.
"""

import argparse
import random
import shutil
import sqlite3
import sys
import tempfile
import threading
import time
from contextlib import closing, suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path

import httpx2

from tests.browser.support import Server
from walkround.store.backup import backup, restore
from walkround.store.book import FILE_NAME, BookError
from walkround.store.wholeness import examine

START = datetime(2026, 3, 29, 0, 20, tzinfo=UTC)
"""Forty minutes before the clocks of central Europe go forward."""
SUMMER = datetime(2010, 4, 5, tzinfo=UTC)
JUMPS = (
    timedelta(0),
    timedelta(hours=1),
    timedelta(hours=-3),
    timedelta(days=40),
    timedelta(days=-200),
    timedelta(days=370),
)
ROWS = 3_000


@dataclass
class Tally:
    """What was acknowledged, and what came of it."""

    titles: set[str] = field(default_factory=set)
    written: int = 0
    rows: int = 0
    imports: int = 0
    refused: int = 0
    busy: int = 0
    kills: int = 0
    stops: int = 0
    backups: int = 0
    restores: int = 0
    slowest_s: float = 0.0
    unacknowledged: set[str] = field(default_factory=set)
    lost: list[str] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def acknowledged(self, title: str, took_s: float) -> None:
        """A write was answered as kept."""
        with self.lock:
            self.titles.add(title)
            self.written += 1
            self.slowest_s = max(self.slowest_s, took_s)


class Pilot(threading.Thread):
    """Writes as fast as it is answered until it is told to stop or the server is gone."""

    def __init__(self, base: str, number: int, tally: Tally, until: float, dice: random.Random) -> None:
        super().__init__(daemon=True)
        self.base, self.number, self.tally, self.until, self.dice = base, number, tally, until, dice

    def run(self) -> None:
        """Snags of packs and aircraft, events, and faults in a round; each with words of its own."""
        with (
            suppress(httpx2.HTTPError),
            httpx2.Client(base_url=self.base, headers={"Origin": self.base}, timeout=60) as client,
        ):
            count = 0
            while time.monotonic() < self.until:
                count += 1
                title = f"soak {self.number}-{count}-{self.dice.randrange(10**9)}"
                path, form = self.dice.choice(
                    (
                        (f"/packs/{1 + self.number % 6}/snags", {"title": title}),
                        (f"/hangar/aircraft/{1 + self.number % 3}/snags", {"title": title}),
                        (f"/hangar/aircraft/{1 + self.number % 3}/events", {"event": "crash", "detail": title}),
                    )
                )
                with self.tally.lock:
                    self.tally.unacknowledged.add(title)
                begun = time.monotonic()
                answer = client.post(path, data=form)
                took = time.monotonic() - begun
                if answer.status_code in (200, 303):
                    self.tally.acknowledged(title, took)
                elif answer.status_code == 503:
                    self.tally.busy += 1
                else:
                    self.tally.refused += 1


class Importer(threading.Thread):
    """Sends a table and waits until it is in the book."""

    def __init__(self, base: str, tally: Tally, begin: datetime) -> None:
        super().__init__(daemon=True)
        self.base, self.tally, self.begin = base, tally, begin

    def run(self) -> None:
        """Rows of one pack, each a minute after the other, of a time that no other table has."""
        lines = [f"M1;{self.begin + timedelta(minutes=i):%d.%m.%Y %H:%M};3,9{i % 10};3,9{i % 7}" for i in range(ROWS)]
        text = "Pack;Date;Cell 1;Cell 2\n" + "\n".join(lines)
        with (
            suppress(httpx2.HTTPError, KeyError),
            httpx2.Client(base_url=self.base, headers={"Origin": self.base}, timeout=60) as client,
        ):
            where = client.post("/packs/table", files={"file": ("log.csv", text.encode(), "text/csv")}).headers[
                "location"
            ]
            form = {
                "column-0": "pack",
                "column-1": "at",
                "column-2": "cell_1",
                "column-3": "cell_2",
                "dates": "day",
                "after": "rest",
            }
            if client.post(where, data=form).status_code != 303:
                return
            for _ in range(600):
                said = client.get(where, headers={"HX-Request": "true"}).text
                if "new readings" in said:
                    self.tally.imports += 1
                    return
                time.sleep(0.05)


def there(book: Path) -> set[str]:
    """Words of all snags and events of a book."""
    with closing(sqlite3.connect(f"file:{book}?mode=ro", uri=True)) as db:
        rows = db.execute("SELECT title FROM snag UNION SELECT detail FROM event")
        return {row[0] for row in rows}


def whole_imports(book: Path) -> list[int]:
    """How many rows each import of a book has that shows."""
    with closing(sqlite3.connect(f"file:{book}?mode=ro", uri=True)) as db:
        return [row[0] for row in db.execute(
            "SELECT count(*) FROM reading r JOIN import_run i ON i.id = r.import_id WHERE i.state = 'here' GROUP BY i.id")]  # fmt: skip


class Soak:
    """One run."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.folder, self.dice, self.tally = folder, random.Random(seed), Tally()
        self.book = folder / "book"
        self.at, self.kept_aside, self.table = START, [], SUMMER
        self.saved: tuple[Path, set[str]] | None = None

    def turn(self) -> None:
        """One life of one or two servers, and what is checked afterwards."""
        self.at += self.dice.choice(JUMPS)
        servers = [Server(self.book, at=self.at.isoformat()) for _ in range(1 + (self.dice.random() < 0.4))]
        try:
            seconds = self.dice.uniform(0.5, 3.0)
            until = time.monotonic() + seconds
            threads: list[threading.Thread] = [
                Pilot(self.dice.choice(servers).base, n, self.tally, until, random.Random(self.dice.random()))
                for n in range(self.dice.randrange(2, 9))
            ]
            if self.dice.random() < 0.5:
                self.table += timedelta(days=4)
                if self.table.month == 10:  # rows in local time: no hour may be left out or come twice
                    self.table = SUMMER.replace(year=self.table.year + 1)
                threads.append(Importer(servers[0].base, self.tally, self.table))
            for thread in threads:
                thread.start()
            if self.dice.random() < 0.4:
                self.back_up()
            killed = self.dice.random() < 0.6
            time.sleep(max(0.0, until - time.monotonic()) * (self.dice.random() if killed else 1.0))
            for server in servers:
                if killed:
                    server.kill()
                    self.tally.kills += 1
            for thread in threads:
                thread.join(90)
        finally:
            for server in servers:
                with suppress(Exception):
                    server.stop()
                    self.tally.stops += 1
        self.check()
        if self.saved is not None and self.dice.random() < 0.3:
            self.recover()
            self.check()

    def back_up(self) -> None:
        """A backup of the running book: what was acknowledged before it began is in it."""
        with self.tally.lock:
            before = set(self.tally.titles)
        target = self.folder / f"backup-{self.tally.backups}.sqlite"
        backup(self.book, target)
        self.tally.backups += 1
        self.saved = (target, before)

    def recover(self) -> None:
        """A restore: what the backup holds is in the book; everything else is in the book that was kept aside."""
        assert self.saved is not None
        target, before = self.saved
        kept = restore(target, self.book)
        assert kept is not None
        self.tally.restores += 1
        with self.tally.lock:
            missing = self.tally.titles - there(kept)
            if missing:
                self.tally.lost += [f"{title}: not in the book kept aside" for title in sorted(missing)]
            self.tally.titles = before | (self.tally.titles & there(self.book / FILE_NAME))

    def check(self) -> None:
        """The book holds, every acknowledged write is in it, imports are whole or not there at all."""
        path = self.book / FILE_NAME
        examine(path)
        have = there(path)
        self.tally.lost += [f"{title}: gone" for title in sorted(self.tally.titles - have)]
        self.tally.lost += [f"an import shows {n} of {ROWS} rows" for n in whole_imports(path) if n != ROWS]


def soak(minutes: float, seed: int) -> Tally:
    """Go on for some minutes; the tally with all that was lost. Raises BookError when the book does not hold."""
    folder = Path(tempfile.mkdtemp(prefix="walkround-soak-"))  # a real disk: full sync is what is tested
    try:
        run, end = Soak(folder, seed), time.monotonic() + 60 * minutes
        while time.monotonic() < end and not run.tally.lost:
            run.turn()
        return run.tally
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def main() -> int:
    """Run it and print what came of it; 1 when anything acknowledged is gone."""
    parser = argparse.ArgumentParser()
    parser.add_argument("minutes", type=float, nargs="?", default=1.0)
    parser.add_argument("--seed", type=int, default=random.randrange(10**6))
    given = parser.parse_args()
    print(f"seed {given.seed}", flush=True)
    try:
        t = soak(given.minutes, given.seed)
    except BookError as error:
        print(f"NOT WHOLE: {error.message}")
        return 1
    print(
        f"{t.written} acknowledged writes, {len(t.titles)} of them in the book, {t.imports} imports seen to their end, {t.kills} kills, {t.backups} backups, "
        f"{t.restores} restores, {t.busy} busy, {t.refused} refused, slowest {t.slowest_s:.2f} s, {len(t.lost)} lost"
    )
    for words in t.lost[:20]:
        print(f"  {words}")
    return 1 if t.lost else 0


if __name__ == "__main__":
    sys.exit(main())
