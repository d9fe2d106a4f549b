"""Run test classes in worker processes: forked once everything is imported, longest class first, each with its own time limit.

A class is the unit: what it shares (a server, a demo book) is made once. A worker that dies or hangs costs its class, which is
reported as failed with what the worker last printed, and another worker takes its place. One worker more fills the gaps that the
others leave while they wait for a clock or a browser, and gives way to them; it takes classes that wait for neither.
"""

import contextlib
import faulthandler
import gc
import multiprocessing
import os
import signal
import sys
import tempfile
import time
import traceback
import unittest
import warnings
from collections.abc import Iterator
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

import coverage

LIMIT_S = 420
"""No class takes a third of this; longer, and it hangs."""
ASKS_WHERE = signal.SIGUSR1
"""Asks a worker where it is; it says so in its log."""
GIVES_WAY = 10
"""How nice the worker in the gaps is to the others."""


@dataclass(slots=True)
class Outcome:
    """What one class of tests came to."""

    name: str
    ran: int = 0
    skipped: int = 0
    bad: list[tuple[str, str]] = field(default_factory=list)
    """Name of a test, and what went wrong."""
    seconds: list[tuple[float, str]] = field(default_factory=list)


class _Result(unittest.TestResult):
    """Collects, and times every test."""

    def __init__(self) -> None:
        super().__init__()
        self.buffer = True
        self.seconds: list[tuple[float, str]] = []

    def startTest(self, test: unittest.TestCase) -> None:
        super().startTest(test)
        self.begun = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        self.seconds.append((time.monotonic() - self.begun, test.id()))


def classes(names: list[str]) -> list[tuple[str, unittest.TestSuite]]:
    """The test classes of some modules with their tests, the longest first as far as can be told beforehand."""
    found: dict[str, unittest.TestSuite] = {}
    for test in _flat(unittest.defaultTestLoader.loadTestsFromNames(names)):
        where = f"{type(test).__module__}.{type(test).__qualname__}"
        found.setdefault(where, unittest.TestSuite()).addTest(test)
    return sorted(found.items(), key=lambda item: -_weight(item[1]))


def _flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for one in suite:
        if isinstance(one, unittest.TestSuite):
            yield from _flat(one)
        else:
            yield one


def _weight(suite: unittest.TestSuite) -> float:
    """Seconds that a class may take: what it says itself, or a little for each of its tests."""
    tests = list(_flat(suite))
    return sum(float(getattr(type(test), "SECONDS_A_TEST", 0.1)) for test in tests)


def _run(suite: unittest.TestSuite, name: str) -> Outcome:
    result = _Result()
    warnings.simplefilter(
        "error", ResourceWarning
    )  # a resource left open is an error, raised where nobody can catch it
    left: list[str] = []
    sys.unraisablehook = lambda what: left.append("".join(traceback.format_exception(what.exc_value)))
    suite.run(result)
    gc.collect()
    gc.freeze()  # what is left is kept for long: looked over after every class, it took a sixth of the run
    bad = [(test.id(), text) for test, text in (*result.failures, *result.errors)]
    bad += [(f"{name}, or a class before it", text) for text in left]
    bad += [(test.id(), "Passed, though it was expected to fail.") for test in result.unexpectedSuccesses]
    return Outcome(name, result.testsRun, len(result.skipped), bad, result.seconds)


def _give_way() -> None:
    """Run when nothing else wants to. Linux weighs sessions against each other, not their processes: this one gets one of its own."""
    os.setsid()
    os.nice(GIVES_WAY)
    with contextlib.suppress(OSError):
        Path("/proc/self/autogroup").write_text(f"{GIVES_WAY}\n")


def _work(line: Connection, suites: dict[str, unittest.TestSuite], log: str, traced: str, in_gaps: bool) -> None:
    """A worker: takes names until there are no more. Says nothing on the terminal; a crash is read from its log."""
    # With what it starts it is a group, so that nothing outlives it.
    if in_gaps:
        _give_way()
    else:
        os.setpgid(0, 0)
    out = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND)
    os.dup2(out, 1)
    os.dup2(out, 2)
    sys.stdout, sys.stderr = (os.fdopen(os.dup(out), "w", buffering=1) for _ in range(2))
    faulthandler.register(ASKS_WHERE, file=sys.stderr, all_threads=True)
    measure = coverage.Coverage(source=["walkround/core"], data_file=f"{traced}/all.{os.getpid()}") if traced else None
    if measure is not None:
        measure.start()
    while (name := line.recv()) is not None:
        try:
            outcome = _run(suites[name], name)
        except BaseException:
            outcome = Outcome(name, bad=[(name, traceback.format_exc())])
        line.send(outcome)
    if measure is not None:
        measure.stop()
        measure.save()
    line.close()


class _Worker:
    def __init__(
        self, suites: dict[str, unittest.TestSuite], folder: str, number: int, traced: str, in_gaps: bool
    ) -> None:
        self.in_gaps = in_gaps
        self.log = Path(folder) / f"{number}.log"
        fork: Any = multiprocessing.get_context("fork")
        self.line, theirs = fork.Pipe()
        self.process: BaseProcess = fork.Process(target=_work, args=(theirs, suites, str(self.log), traced, in_gaps))
        self.process.start()
        theirs.close()
        self.name = ""

    def give(self, name: str | None) -> None:
        self.name, self.until = name or "", time.monotonic() + LIMIT_S
        self.line.send(name)

    def end(self) -> None:
        """End it and whatever it started, if anything is still there."""
        with contextlib.suppress(ProcessLookupError, PermissionError):
            os.killpg(self.process.pid or 0, signal.SIGKILL)

    def take(self) -> Outcome:
        """What came of the class, also when the worker is gone."""
        try:
            found: Outcome = self.line.recv()
            return found
        except (EOFError, OSError):
            self.process.join(10)
            return self.failed(f"The worker ended ({self.process.exitcode}).")

    def late(self) -> Outcome:
        """End one that hangs; it says where."""
        with contextlib.suppress(ProcessLookupError):
            os.kill(self.process.pid or 0, ASKS_WHERE)
        time.sleep(1)
        self.end()
        self.process.join(10)
        return self.failed(f"Ended after {LIMIT_S} s.")

    def failed(self, why: str) -> Outcome:
        """Its class as failed, with what the worker last said."""
        said = self.log.read_text(errors="replace")[-4000:] if self.log.exists() else ""
        return Outcome(self.name, bad=[(self.name, f"{why}\n{said}")])


def _fills_gaps(suite: unittest.TestSuite) -> bool:
    """Whether its class may run in the gaps of others: those that may not say so."""
    return all(getattr(type(test), "FILLS_GAPS", True) for test in _flat(suite))


def run(units: list[tuple[str, unittest.TestSuite]], workers: int, traced: str = "") -> Iterator[Outcome]:
    """Outcomes as they come, from so many workers and one in their gaps. With ``traced``, a folder, the lines of the core that ran are
    kept there, a file a worker."""
    suites, waiting = dict(units), [name for name, _ in units]
    gc.collect()
    gc.freeze()  # what is imported stays: workers need not look it over after every class, nor copy its pages

    def next_for(in_gaps: bool) -> str | None:
        fitting = [name for name in waiting if _fills_gaps(suites[name]) == in_gaps]
        name = next(iter(fitting or ([] if in_gaps else waiting)), None)
        if name is not None:
            waiting.remove(name)
        return name

    with tempfile.TemporaryDirectory(prefix="walkround-tests-") as folder:
        number, busy, free = 0, list[_Worker](), [True, *[False] * workers]
        try:
            while waiting or busy:
                for in_gaps in free[::-1]:
                    if (name := next_for(in_gaps)) is not None:
                        free.remove(in_gaps)
                        busy.append(_Worker(suites, folder, number, traced, in_gaps))
                        busy[-1].give(name)
                        number += 1
                ready = wait(
                    [one.line for one in busy], timeout=max(0.0, min(one.until for one in busy) - time.monotonic())
                )
                late = [] if ready else [one for one in busy if time.monotonic() >= one.until]
                for worker in [*(one for one in busy if one.line in ready), *late]:
                    yield worker.late() if worker in late else worker.take()
                    if worker.process.is_alive():
                        name = next_for(worker.in_gaps)
                        worker.give(name)
                        if name is not None:
                            continue
                        worker.process.join(30)
                    worker.end()
                    busy.remove(worker)
                    free.append(worker.in_gaps)
        finally:
            for worker in busy:
                worker.end()
