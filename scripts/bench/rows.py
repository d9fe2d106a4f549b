"""Rows of the table: what was measured, against which bar, and whether it was kept."""

import math
import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

WAIT_S, ALL_WAITS_S = 2.0, 120.0
"""So long full speed is waited for, before one thing that is timed, and in all."""
LOOP, SLOWED, FEWEST, MOST = 12_000, 1.3, 8, 4
"""Turns of the loop that tells the speed of the machine; so many times its best is slow; fewer times than this tell nothing; so many
times as often as wanted something is tried at most."""


@dataclass(frozen=True, slots=True)
class Row:
    """One line; ``kept`` None where there is no bar. ``cells`` stand between the name and the bar."""

    what: str
    cells: tuple[str, ...]
    bar: str = ""
    kept: bool | None = None

    def line(self, columns: int) -> str:
        """The line of a Markdown table with so many columns between name and bar."""
        said = {None: "", True: "yes", False: "**no**"}[self.kept]
        cells = (*self.cells, *[""] * (columns - len(self.cells)))
        return f"| {' | '.join((self.what, *cells, self.bar, said))} |"


@dataclass(frozen=True, slots=True)
class Part:
    """A table with its heading and its columns between name and bar."""

    title: str
    columns: tuple[str, ...]
    rows: tuple[Row | Callable[[], Row], ...]

    def told(self) -> list[Row]:
        """Its rows; those that wait for the speed of the machine, which is known best at the end, are made now."""
        return [row if isinstance(row, Row) else row() for row in self.rows]

    def text(self) -> str:
        """As Markdown."""
        head = ("what", *self.columns, "bar", "kept")
        lines = [f"## {self.title}", "", f"| {' | '.join(head)} |", "|---" * len(head) + "|"]
        return "\n".join([*lines, *(row.line(len(self.columns)) for row in self.told()), ""])


class Took(float):
    """Milliseconds, with how long a fixed loop took beside it, in ms: before or after, the slower; without end where processor time was stolen."""

    beside: float

    def __new__(cls, milliseconds: float, beside: float) -> "Took":
        made = super().__new__(cls, milliseconds)
        made.beside = beside
        return made


_loops: list[float] = []
_waited = [0.0]


def _loop_ms() -> float:
    begun, total = time.perf_counter(), 0
    for i in range(LOOP):
        total += i * i
    took = (time.perf_counter() - begun) * 1000
    _loops.append(took)
    return took


def stolen() -> int:
    """Hundredths of a second that this machine wanted to run and its host gave to others, since it started; 0 where nobody counts.
    Source: Linux, proc(5), the eighth number of the first line of /proc/stat."""
    try:
        with Path("/proc/stat").open() as counts:
            return int(counts.readline().split()[8])
    except (OSError, IndexError, ValueError):
        return 0


def _beside(before_ms: float, count: int) -> float:
    """What the loop took beside what was just timed."""
    after_ms = _loop_ms()
    return math.inf if stolen() != count else max(before_ms, after_ms)


def look_at_speed(seconds: float) -> None:
    """Run the loop for so long, to know how fast this machine can be before anything is measured."""
    until = time.perf_counter() + seconds
    while time.perf_counter() < until:
        _loop_ms()


def full_speed_ms() -> float:
    """What the loop takes when the machine gives its full speed: the twentieth fastest of all that ran. Source: measured."""
    return sorted(_loops)[min(20, len(_loops) // 20)]


def at_full_speed(milliseconds: Sequence[float]) -> list[float]:
    """Those beside which the loop ran at full speed."""
    most = SLOWED * full_speed_ms() if _loops else 0.0
    return [took for took in milliseconds if not isinstance(took, Took) or took.beside <= most]


def enough(milliseconds: Sequence[float], wanted: int) -> bool:
    """Whether so many of them were at full speed, or that is not to be had."""
    return len(at_full_speed(milliseconds)) >= wanted or len(milliseconds) >= MOST * wanted


def counted(milliseconds: Sequence[float]) -> str:
    """How many of them were at full speed, in words."""
    return f"{len(at_full_speed(milliseconds))} of {len(milliseconds)}"


def spread(milliseconds: Sequence[float]) -> tuple[float, float]:
    """Median and 95th percentile of those at full speed; of all where these are too few to tell."""
    good = at_full_speed(milliseconds)
    good = good if len(good) >= min(FEWEST, len(milliseconds)) else list(milliseconds)
    return statistics.median(good), statistics.quantiles(good, n=20)[18] if len(good) > 1 else good[0]


def _rested_ms() -> float:
    """The loop once the machine gives its full speed, or when that is waited for too long."""
    begun = time.perf_counter()
    while True:
        took = _loop_ms()
        waited = time.perf_counter() - begun
        if took <= SLOWED * full_speed_ms() or waited > WAIT_S or _waited[0] > ALL_WAITS_S:
            _waited[0] += waited
            return took
        time.sleep(0.01)


def timed(action: Callable[[], object], *, rested: bool = True) -> Took:
    """Milliseconds an action takes, begun when the machine is at full speed unless it is compared with another at once."""
    before, count = _rested_ms() if rested else _loop_ms(), stolen()
    begun = time.perf_counter()
    action()
    took = (time.perf_counter() - begun) * 1000
    return Took(took, _beside(before, count))


def told(action: Callable[[], float]) -> Took:
    """Milliseconds that something else measured, such as a browser, begun when the machine is at full speed."""
    before, count = _rested_ms(), stolen()
    took = action()
    return Took(took, _beside(before, count))


class Thefts:
    """When the host gave processor time of this machine to others, as far as was looked."""

    def __init__(self) -> None:
        self._looks: list[tuple[float, int]] = []

    def look(self) -> None:
        """Look now; what was stolen since the look before may be counted as late as at the next."""
        self._looks.append((time.time(), stolen()))

    def any_in(self, begun_s: float, ended_s: float) -> bool:
        """Whether time was stolen between two moments, in seconds of the clock, or nobody looked."""
        looks = self._looks
        if not looks or begun_s < looks[0][0] or ended_s > looks[-1][0]:
            return True
        first = max(i for i, (at, _) in enumerate(looks) if at <= begun_s)
        last = min(i for i, (at, _) in enumerate(looks) if at >= ended_s)
        return looks[min(last + 1, len(looks) - 1)][1] != looks[first][1]


def times_row(what: str, values: Sequence[float], bar_ms: float | None, *, high: bool = True) -> Callable[[], Row]:
    """Median and 95th percentile in ms; the bar holds for the latter, or for the median with ``high`` False."""

    def made() -> Row:
        middle, most = spread(values)
        bar = "" if bar_ms is None else f"{bar_ms:g} ({'p95' if high else 'p50'})"
        kept = None if bar_ms is None else (most if high else middle) <= bar_ms
        return Row(what, (f"{middle:.1f}", f"{most:.1f}", counted(values)), bar, kept)

    return made
