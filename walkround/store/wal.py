"""The write-ahead log of SQLite: its frames read one by one, because SQLite itself passes over what it cannot read.

Source: "Database File Format" of SQLite, section 4, the write-ahead log (format 3007000).
"""

import struct
import sys
from array import array
from pathlib import Path
from typing import NamedTuple

HEAD, FRAME_HEAD = 32, 24
MAGIC = (0x377F0682, 0x377F0683)


class Log(NamedTuple):
    """A log as read: frames that hold, frames after them that belong to the same log and do not, and how many of those
    end a transaction. ``damaged_head``: the log has frames but its own head does not hold."""

    good: int
    bad: int
    bad_commits: int
    damaged_head: bool = False

    @property
    def damaged(self) -> bool:
        """Whether more is unreadable than what a program that was stopped while it wrote can leave: one transaction."""
        return self.damaged_head or self.bad_commits > 1


def _sums(data: bytes, big: bool, start: tuple[int, int]) -> tuple[int, int]:
    """The running checksums over whole pairs of 32-bit words."""
    words = array("I", data)
    if big != (sys.byteorder == "big"):
        words.byteswap()
    one, two = start
    for i in range(0, len(words), 2):
        one = (one + words[i] + two) & 0xFFFFFFFF
        two = (two + words[i + 1] + one) & 0xFFFFFFFF
    return one, two


def read_log(path: Path) -> Log:
    """Read the log beside a book; one that is not there or empty is a good one. Raises OSError."""
    if not path.exists():
        return Log(0, 0, 0)
    data = path.read_bytes()
    if len(data) < HEAD:
        return Log(0, 0, 0, damaged_head=len(data) > 0)
    magic, version, size, _, salt_1, salt_2, sum_1, sum_2 = struct.unpack(">8I", data[:HEAD])
    big = magic == MAGIC[1]
    sound = magic in MAGIC and version == 3_007_000 and 512 <= size <= 65_536 and size & (size - 1) == 0
    running = _sums(data[:24], big, (0, 0))
    if not sound or running != (sum_1, sum_2):
        return Log(0, 0, 0, damaged_head=len(data) > HEAD)
    good = bad = bad_commits = 0
    for start in range(HEAD, len(data) - FRAME_HEAD - size + 1, FRAME_HEAD + size):
        _, commit, own_1, own_2, told_1, told_2 = struct.unpack(">6I", data[start : start + FRAME_HEAD])
        ours = (own_1, own_2) == (salt_1, salt_2)
        if bad == 0 and ours:
            page = data[start + FRAME_HEAD : start + FRAME_HEAD + size]
            follows = _sums(page, big, _sums(data[start : start + 8], big, running))
            if follows == (told_1, told_2):
                good, running = good + 1, follows
                continue
        # A frame of an earlier round of the log ends it; one of this round that does not hold is not its end.
        if ours or (bad == 0 and _more_of_ours(data, start + FRAME_HEAD + size, size, (salt_1, salt_2))):
            bad += 1
            bad_commits += commit > 0
    return Log(good, bad, bad_commits)


def _more_of_ours(data: bytes, begin: int, size: int, salts: tuple[int, int]) -> bool:
    """Whether a later frame carries this log's salts."""
    step = FRAME_HEAD + size
    return any(struct.unpack(">2I", data[at + 8 : at + 16]) == salts for at in range(begin, len(data) - step + 1, step))
