"""Rows of the table: what was measured, against which bar, and whether it was kept."""

import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

LOOP, SLOWED, FEWEST = 12_000, 1.3, 8
"""Turns of the loop that tells the speed of the machine; so many times its usual is slow; fewer times than this tell nothing."""


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
    rows: tuple[Row, ...]

    def text(self) -> str:
        """As Markdown."""
        head = ("what", *self.columns, "bar", "kept")
        lines = [f"## {self.title}", "", f"| {' | '.join(head)} |", "|---" * len(head) + "|"]
        return "\n".join([*lines, *(row.line(len(self.columns)) for row in self.rows), ""])


class Took(float):
    """Milliseconds, with how long a fixed loop took beside them: the longer of one before and one after, in ms."""

    beside: float

    def __new__(cls, milliseconds: float, beside: float) -> "Took":
        made = super().__new__(cls, milliseconds)
        made.beside = beside
        return made


_loops: list[float] = []


def _loop_ms() -> float:
    begun, total = time.perf_counter(), 0
    for i in range(LOOP):
        total += i * i
    took = (time.perf_counter() - begun) * 1000
    _loops.append(took)
    return took


def full_speed_ms() -> float:
    """What the loop takes when the machine gives its full speed: the fastest twentieth of all that ran. Source: measured."""
    return sorted(_loops)[len(_loops) // 20]


def at_full_speed(milliseconds: Sequence[float]) -> list[float]:
    """Those beside which the loop ran at full speed; all of them where these are too few to tell."""
    most = SLOWED * full_speed_ms() if _loops else 0.0
    good = [took for took in milliseconds if not isinstance(took, Took) or took.beside <= most]
    return good if len(good) >= min(FEWEST, len(milliseconds)) else list(milliseconds)


def spread(milliseconds: Sequence[float]) -> tuple[float, float]:
    """Median and 95th percentile of those at full speed."""
    good = at_full_speed(milliseconds)
    return statistics.median(good), statistics.quantiles(good, n=20)[18] if len(good) > 1 else good[0]


def timed(action: Callable[[], object]) -> Took:
    """Milliseconds an action takes."""
    before = _loop_ms()
    begun = time.perf_counter()
    action()
    took = (time.perf_counter() - begun) * 1000
    return Took(took, max(before, _loop_ms()))


def told(action: Callable[[], float]) -> Took:
    """Milliseconds that something else measured, such as a browser."""
    before = _loop_ms()
    took = action()
    return Took(took, max(before, _loop_ms()))


def times_row(what: str, values: Sequence[float], bar_ms: float | None, *, high: bool = True) -> Row:
    """Median and 95th percentile in ms; the bar holds for the latter, or for the median with ``high`` False."""
    middle, most = spread(values)
    bar = "" if bar_ms is None else f"{bar_ms:g} ({'p95' if high else 'p50'})"
    kept = None if bar_ms is None else (most if high else middle) <= bar_ms
    return Row(what, (f"{middle:.1f}", f"{most:.1f}", f"{len(at_full_speed(values))} of {len(values)}"), bar, kept)
