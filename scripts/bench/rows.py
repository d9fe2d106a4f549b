"""Rows of the table: what was measured, against which bar, and whether it was kept."""

import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Row:
    """One line; ``kept`` None where there is no bar. ``cells`` stand between the name and the bar."""

    what: str
    cells: tuple[str, ...]
    bar: str = ""
    kept: bool | None = None

    def line(self) -> str:
        """The line of a Markdown table."""
        said = {None: "", True: "yes", False: "**no**"}[self.kept]
        return f"| {' | '.join((self.what, *self.cells, self.bar, said))} |"


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
        return "\n".join([*lines, *(row.line() for row in self.rows), ""])


def spread(milliseconds: Sequence[float]) -> tuple[float, float]:
    """Median and 95th percentile."""
    return statistics.median(milliseconds), statistics.quantiles(milliseconds, n=20)[18]


def timed(action: Callable[[], object]) -> float:
    """Milliseconds an action takes."""
    begun = time.perf_counter()
    action()
    return (time.perf_counter() - begun) * 1000


def times_row(what: str, values: Sequence[float], bar_ms: float | None, *, high: bool = True) -> Row:
    """Median and 95th percentile in ms; the bar holds for the latter, or for the median with ``high`` False."""
    middle, most = spread(values)
    bar = "" if bar_ms is None else f"{bar_ms:g} ({'p95' if high else 'p50'})"
    kept = None if bar_ms is None else (most if high else middle) <= bar_ms
    return Row(what, (f"{middle:.1f}", f"{most:.1f}"), bar, kept)
