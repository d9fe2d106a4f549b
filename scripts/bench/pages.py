"""Every page and fragment beside a bare page of the same size, asked in turn on the same machine."""

import gzip
import math
import re
import socket
import subprocess
import sys
import time
import urllib.parse
from collections.abc import Callable, Sequence
from pathlib import Path
from types import TracebackType
from typing import NamedTuple

import peewee

from scripts.bench.rows import FEWEST, Part, Row, Took, counted, enough, spread, timed
from tests.browser.support import ROOT, Server, free_port
from walkround.store.book import PRAGMAS
from walkround.web.catalogue import PAGES

TIMES, WARM = 80, 6
_LENGTH = re.compile(rb"(?i)\ncontent-length: (\d+)")
MOST_P50, MOST_P95 = 3.0, 4.0
TAP_MS = 8.0
FLAT, FLAT_PAGES = 1.1, ("Today", "Walk page")
"""What a book a hundred times as large may cost here. Asked in turn of both books: minutes apart the machine itself is another."""


class Answer(NamedTuple):
    """What came back."""

    head: bytes
    body: bytes

    def header(self, name: str) -> str:
        """One of its headers, "" where it has none of that name."""
        found = re.search(rf"(?im)^{name}: (.*?)\r?$", self.head.decode("latin-1"))
        return found.group(1) if found else ""


class Caller:
    """A bare keep-alive connection: a request goes out in one piece, as a browser sends it, and little is made of what comes, so that
    the server is what is measured."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.line: socket.socket | None = None

    def ask(self, path: str, form: dict[str, str] | None = None, *, fragment: bool = False) -> Answer:
        """One request, its body read; anything but success ends the benchmark."""
        sent = "" if form is None else urllib.parse.urlencode(form)
        lines = [
            f"{'GET' if form is None else 'POST'} {path} HTTP/1.1",
            f"Host: 127.0.0.1:{self.port}",
            f"Origin: http://127.0.0.1:{self.port}",
            "Accept-Encoding: gzip",
            *(["HX-Request: true"] if fragment else []),
            *(
                [f"Content-Type: application/x-www-form-urlencoded\r\nContent-Length: {len(sent)}"]
                if form is not None
                else []
            ),
            "",
            sent,
        ]
        request = "\r\n".join(lines).encode()
        try:
            answer = self._exchange(request)
        except ConnectionError:  # idle for longer than a server waits
            self.close()
            answer = self._exchange(request)
        if int(answer.head[9:12]) >= 400:
            raise RuntimeError(f"{path}: {answer.head[9:12].decode()}")
        return answer

    def _exchange(self, request: bytes) -> Answer:
        """Send, and read as far as the answer says that it goes. Raises ConnectionError where nobody answers."""
        if self.line is None:
            self.line = socket.create_connection(("127.0.0.1", self.port))
            self.line.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        self.line.sendall(request)
        come, end = b"", -1
        while end < 0 or len(come) < end:
            more = self.line.recv(1 << 20)
            if not more:
                raise ConnectionResetError("The server has hung up.")
            come += more
            if end < 0 and (gap := come.find(b"\r\n\r\n")) >= 0:
                end = gap + 4 + int(_LENGTH.findall(come[:gap])[0])
        head, _, body = come.partition(b"\r\n\r\n")
        return Answer(head, body)

    def close(self) -> None:
        """Hang up."""
        if self.line is not None:
            self.line.close()
        self.line = None

    def text(self, path: str, *, fragment: bool = False) -> str:
        """The text of a page."""
        answer = self.ask(path, fragment=fragment)
        packed = answer.header("Content-Encoding") == "gzip"
        return (gzip.decompress(answer.body) if packed else answer.body).decode()


class Bare:
    """The bare application in a process of its own."""

    def __enter__(self) -> Caller:
        port = free_port()
        self.process = subprocess.Popen([sys.executable, "-m", "scripts.bench.bare", str(port)], cwd=ROOT)
        caller, deadline = Caller(port), time.monotonic() + 30
        while True:
            try:
                caller.ask("/bare/1/100")
                return caller
            except OSError:
                if time.monotonic() > deadline:
                    raise
                caller.close()
                time.sleep(0.05)

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, at: TracebackType | None) -> None:
        self.process.terminate()
        self.process.wait(10)


def bare_path(page: str) -> str:
    """The bare page of as many elements and bytes as a page."""
    return f"/bare/{len(re.findall(r'<[a-z]', page))}/{len(page.encode())}"


def beside(caller: Caller, bare: Caller, path: str, *, fragment: bool = False) -> tuple[list[float], list[float]]:
    """Milliseconds of a page and of its bare page, asked in turn."""
    plain = bare_path(caller.text(path, fragment=fragment))
    return pairs(lambda: caller.ask(path, fragment=fragment), lambda: bare.ask(plain))


def pairs(one: Callable[[], object], other: Callable[[], object]) -> tuple[list[float], list[float]]:
    """Milliseconds of two things done in turn: as many as wanted of those from which nothing was stolen, as far as they are to be had.

    The speed of the machine is no matter, it is the same for both.
    """
    took = list[tuple[Took, Took]]()
    good = list[tuple[Took, Took]]()
    while len(good) < WARM + TIMES and len(took) < WARM + 2 * TIMES:
        took.append((timed(one, rested=False), timed(other, rested=False)))
        if all(math.isfinite(each.beside) for each in took[-1]):
            good.append(took[-1])
    kept = good[WARM:] if len(good) >= WARM + FEWEST else took[WARM:]
    return [float(mine) for mine, _ in kept], [float(theirs) for _, theirs in kept]


def started(caller: Caller) -> str:
    """The address of a new round."""
    return str(caller.ask("/rounds", {"aircraft": "1", "pack": "1", "site": "1"}).header("Location"))


def measured(caller: Caller, bare: Caller) -> dict[str, tuple[list[float], list[float]]]:
    """Times of every page of the catalogue, and of the fragments that come most often, each with its bare page's."""
    base = started(caller)
    paths = {name: (path.format(round=base), False) for entry in PAGES for name, path in entry.measured}
    paths["Walk, the parts that change"] = (f"{base}?station=airframe", True)
    paths["Today, another choice"] = ("/?aircraft=1", True)
    return {name: beside(caller, bare, path, fragment=fragment) for name, (path, fragment) in paths.items()}


def in_turn(small: Caller, large: Caller) -> dict[str, tuple[list[float], list[float]]]:
    """Times of the pages that must not grow, each asked of a small book and of a large one in turn."""
    bases = [(caller, started(caller)) for caller in (small, large)]
    paths = {name: path for entry in PAGES for name, path in entry.measured if name in FLAT_PAGES}
    times = {}
    for name, path in paths.items():
        times[name] = pairs(*(lambda c=caller, b=base, p=path: c.ask(p.format(round=b)) for caller, base in bases))
    return times


def page_row(name: str, mine: Sequence[float], theirs: Sequence[float]) -> Row:
    """Absolute times, and the ratios that the bar holds for."""
    (middle, high), (bare, bare_high) = spread(mine), spread(theirs)
    ratio, worst = middle / bare, high / bare_high
    cells = (f"{middle:.1f}", f"{high:.1f}", f"{bare:.1f}", f"{ratio:.1f}x", f"{worst:.1f}x")
    return Row(name, cells, f"{MOST_P50:g}x, {MOST_P95:g}x", ratio <= MOST_P50 and worst <= MOST_P95)


def pages_part(title: str, times: dict[str, tuple[list[float], list[float]]]) -> Part:
    """The table of one book."""
    columns = ("p50 ms", "p95 ms", "bare p50 ms", "ratio p50", "ratio p95")
    return Part(title, columns, tuple(page_row(name, *both) for name, both in times.items()))


def answer_times(caller: Caller) -> list[float]:
    """From a tap to its answer: one check answered again and again, each answer another."""
    base, seen, answered = started(caller), "0", []
    while not enough(answered[WARM:], TIMES):
        form = {"action": "take", "number": f"{3 + len(answered) % 300 / 100:.2f}", "seen": seen}
        answered.append(timed(lambda form=form: caller.ask(f"{base}/checks/sky.wind_meter", form, fragment=True)))
        again = caller.text(f"{base}?check=sky.wind_meter&edit=1", fragment=True)
        found = re.search(r'name="seen" value="(\d+)"', again)
        if found is None:
            raise RuntimeError("the check cannot be answered again")
        seen = found.group(1)
    return answered[WARM:]


def commit_times(folder: Path) -> list[float]:
    """One row written and committed with full sync, on the disk that the book is on."""
    database = peewee.SqliteDatabase(str(folder / "commit.sqlite"), pragmas=PRAGMAS)
    database.execute_sql("CREATE TABLE answer (id INTEGER PRIMARY KEY, text TEXT)")

    def one() -> None:
        with database.atomic("IMMEDIATE"):
            database.execute_sql("INSERT INTO answer (text) VALUES (?)", ("x" * 200,))

    times = [timed(one) for _ in range(TIMES + WARM)][WARM:]
    database.close()
    return times


def answer_row(answered: Sequence[float], commits: Sequence[float]) -> Callable[[], Row]:
    """A tap against its bar: so many ms besides one bare commit."""

    def made() -> Row:
        (middle, high), (commit, _) = spread(answered), spread(commits)
        bar = f"{TAP_MS:g} + {commit:.1f} (p50)"
        cells = (f"{middle:.1f}", f"{high:.1f}", counted(answered))
        return Row("Answer to a tap, server", cells, bar, middle <= TAP_MS + commit)

    return made


def growth_part(
    by_size: dict[int, dict[str, tuple[list[float], list[float]]]], flat: dict[str, tuple[list[float], list[float]]]
) -> Part:
    """Each page at every size, against the bare page of that size, with the exponent of its growth.

    ``flat``: what must not grow, on the smallest and the largest book in turn.
    """
    rows, sizes = [], sorted(by_size)
    for name in by_size[1]:
        middles = [spread(by_size[size][name][0])[0] for size in sizes]
        bares = [spread(by_size[size][name][1])[0] for size in sizes]
        exponent = _slope([math.log(size) for size in sizes], [math.log(ms) for ms in middles])
        # What a page shows grows its bare page too; growth beyond that is the server's.
        beyond = _slope(
            [math.log(size) for size in sizes], [math.log(ms / b) for ms, b in zip(middles, bares, strict=True)]
        )
        growth, bar, kept = middles[-1] / middles[0], "linear in what it shows", beyond < 0.5
        if name in flat:
            small, large = (spread(times)[0] for times in flat[name])
            growth = large / small
            bar, kept = f"{FLAT:g}x in turn", growth <= FLAT
        cells = (*(f"{ms:.1f}" for ms in middles), f"{growth:.2f}x", f"{exponent:.2f}")
        rows.append(Row(name, cells, bar, kept))
    return Part("Growth", (*(f"x{size} ms" for size in sizes), "x100 / x1", "exponent"), tuple(rows))


def _slope(xs: Sequence[float], ys: Sequence[float]) -> float:
    """Least squares."""
    x0, y0 = sum(xs) / len(xs), sum(ys) / len(ys)
    return sum((x - x0) * (y - y0) for x, y in zip(xs, ys, strict=True)) / sum((x - x0) ** 2 for x in xs)


def memory_part(server: Server, caller: Caller) -> Part:
    """Resident memory of the server and its children: after warm-up, and how it grows over thousands of requests."""
    base = started(caller)
    paths = ["/", f"{base}?station=airframe", "/packs", "/fields/1", "/logbook", "/hangar/aircraft/1"]

    def ask(many: int) -> float:
        for i in range(many):
            caller.ask(paths[i % len(paths)])
        return resident_mb(server.process.pid)

    warm, after, last = ask(200), ask(1800), ask(8000)
    rows = (
        Row("Memory after 200 requests, MB", (f"{warm:.0f}",), "150", warm <= 150),
        Row("Growth from request 2,000 to 10,000, MB", (f"{last - after:.1f}",), "5", last - after < 5),
    )
    return Part("Memory", ("MB",), rows)


def resident_mb(pid: int) -> float:
    """Resident memory of a process and of its children, in MB."""
    own = int(re.findall(r"VmRSS:\s+(\d+)", Path(f"/proc/{pid}/status").read_text())[0])
    children = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
    return own / 1024 + sum(resident_mb(int(child)) for child in children)
