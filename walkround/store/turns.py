"""Whose turn it is to write: first come, first served in this program, one program at a time at the book."""

import threading
import time
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager
from io import FileIO
from pathlib import Path

from walkround.core.base.errors import BusyError

try:
    import fcntl
except ImportError:  # pragma: no cover - where files cannot be locked so, SQLite's own waiting has to do
    fcntl = None  # type: ignore[assignment]

LONGEST_WAIT_S = 30.0
"""Nobody waits longer for a turn. Source: our choice."""
GLANCE_S = 0.004
"""How often another program's lock is looked at. Source: our choice."""


class Turns:
    """Turns of threads, in the order in which they asked; SQLite alone lets the luckiest go first."""

    def __init__(self) -> None:
        self._guard = threading.Lock()
        self._waiting: deque[threading.Event] = deque()
        self._taken = False
        self._mine = threading.local()

    @property
    def mine(self) -> bool:
        """Whether this thread has the turn already."""
        return bool(getattr(self._mine, "held", False))

    @contextmanager
    def turn(self, longest_s: float) -> Iterator[None]:
        """Wait for the turn, hold it, hand it on. Raises BusyError after ``longest_s`` seconds."""
        ticket = threading.Event()
        with self._guard:
            if not self._taken and not self._waiting:
                self._taken = True
                ticket.set()
            else:
                self._waiting.append(ticket)
        if not ticket.wait(longest_s) and not self._given_up(ticket):
            raise BusyError
        self._mine.held = True
        try:
            yield
        finally:
            self._mine.held = False
            self._hand_on()

    def _given_up(self, ticket: threading.Event) -> bool:
        """Leave the queue; True when the turn came in that very moment after all."""
        with self._guard:
            if ticket.is_set():
                return True
            self._waiting.remove(ticket)
            return False

    def _hand_on(self) -> None:
        with self._guard:
            if self._waiting:
                self._waiting.popleft().set()
            else:
                self._taken = False


class FileLock:
    """A lock that other programs see, on a file of its own; where the system has none it locks nothing.

    The system lets go of it when the program ends, however it ends.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._file: FileIO | None = None

    def try_now(self) -> bool:
        """Take it if it is free."""
        if self._file is None:
            self._file = FileIO(str(self.path), "a")
        if fcntl is None:  # pragma: no cover
            return True
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            self.free()
            return False
        return True

    def take(self, longest_s: float) -> None:
        """Wait for it. Raises BusyError after ``longest_s`` seconds."""
        end = time.monotonic() + longest_s
        while not self.try_now():
            if time.monotonic() > end:
                raise BusyError
            time.sleep(GLANCE_S)

    def free(self) -> None:
        """Let go of it."""
        if self._file is not None:
            self._file.close()
            self._file = None

    @contextmanager
    def held(self, longest_s: float) -> Iterator[None]:
        """Hold it for a while. Raises BusyError."""
        self.take(longest_s)
        try:
            yield
        finally:
            self.free()
