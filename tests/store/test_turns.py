"""Turns at the book: nobody is refused, nobody waits for the lucky, an import lets others in and shows all at once."""

import subprocess
import sys
import threading
import time
import unittest
from datetime import timedelta
from pathlib import Path

from tests.support import BookCase
from walkround.core.base.errors import BusyError
from walkround.core.packs.reading import Reading
from walkround.store import packs
from walkround.store.book import PEN_NAME
from walkround.store.models import ReadingRow
from walkround.store.turns import Turns

HOLDER = """
import sys, time
from pathlib import Path
from walkround.store.turns import FileLock
lock = FileLock(Path(sys.argv[1]))
lock.take(5)
print("held", flush=True)
time.sleep(float(sys.argv[2]))
"""


def held_elsewhere(path: Path, seconds: float) -> subprocess.Popen[str]:
    """Another program that holds a lock for a while."""
    child = subprocess.Popen([sys.executable, "-c", HOLDER, str(path), str(seconds)], stdout=subprocess.PIPE, text=True)
    assert child.stdout is not None
    child.stdout.readline()
    return child


def ended(child: subprocess.Popen[str]) -> None:
    child.kill()
    child.wait()
    assert child.stdout is not None
    child.stdout.close()


class InOrder(unittest.TestCase):
    def test_first_come_first_served(self) -> None:
        turns, order, ready = Turns(), [], []

        def go(number: int) -> None:
            ready.append(number)
            with turns.turn(20):
                order.append(number)

        with turns.turn(1):
            threads = []
            for number in range(12):
                thread = threading.Thread(target=go, args=(number,))
                thread.start()
                threads.append(thread)
                while len(turns._waiting) <= number:
                    time.sleep(0.001)
        for thread in threads:
            thread.join()
        self.assertEqual(order, list(range(12)))

    def test_who_waits_too_long_is_told_and_leaves_the_queue(self) -> None:
        turns, said = Turns(), []

        def go() -> None:
            try:
                with turns.turn(0.05):
                    said.append("in")
            except BusyError as error:
                said.append(error.message)

        with turns.turn(1):
            thread = threading.Thread(target=go)
            thread.start()
            thread.join()
        self.assertEqual(said, ["Busy. Your answer is still in the form. Try again."])
        with turns.turn(0.05):
            self.assertTrue(turns.mine)
        self.assertFalse(turns.mine)

    def test_an_error_inside_hands_the_turn_on(self) -> None:
        turns = Turns()
        with self.assertRaises(ValueError), turns.turn(1):
            raise ValueError
        with turns.turn(0.1):
            pass


class BesideOthers(BookCase):
    def test_sixty_four_threads_write_thirty_times_each(self) -> None:
        pack, failed = self.numbers["H1"], []

        def go(who: int) -> None:
            try:
                for i in range(30):
                    with self.book.write():
                        moment = self.now - timedelta(seconds=1 + 100 * who + i)
                        packs.keep(pack, Reading(at=moment, percent=50))
            except Exception as error:
                failed.append(error)
            finally:
                self.book.close()

        before = ReadingRow.select().count()
        threads = [threading.Thread(target=go, args=(who,)) for who in range(64)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(failed, [])
        self.assertEqual(ReadingRow.select().count() - before, 64 * 30)

    def test_another_program_is_waited_for(self) -> None:
        child = held_elsewhere(self.folder / PEN_NAME, 0.4)
        self.addCleanup(ended, child)
        begun = time.monotonic()
        with self.book.write():
            packs.keep(self.numbers["H1"], Reading(at=self.now, percent=50))
        self.assertGreater(time.monotonic() - begun, 0.2)

    def test_a_program_that_is_killed_holds_nothing_back(self) -> None:
        ended(held_elsewhere(self.folder / PEN_NAME, 60))
        with self.book.write():
            packs.keep(self.numbers["H1"], Reading(at=self.now, percent=50))

    def test_a_turn_within_a_turn_is_part_of_it(self) -> None:
        before = ReadingRow.select().count()
        with self.assertRaises(ValueError), self.book.write():
            with self.book.write():
                packs.keep(self.numbers["H1"], Reading(at=self.now, percent=50))
            raise ValueError
        self.assertEqual(ReadingRow.select().count(), before, "all or nothing")
