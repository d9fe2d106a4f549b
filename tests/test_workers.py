"""The tests' own workers: what ends badly is said, and the rest runs on."""

import os
import tempfile
import time
import unittest
import warnings
from pathlib import Path
from typing import Any
from unittest import mock

from tests import workers


def made(name: str, work: Any) -> tuple[str, unittest.TestSuite]:
    """A class with one test that does some work."""
    case = type(name, (unittest.TestCase,), {"test_it": work})
    return name, unittest.TestSuite([case("test_it")])


def leaves_open(test: unittest.TestCase) -> None:
    class Left:
        def __del__(self) -> None:
            warnings.warn("left open", ResourceWarning, stacklevel=1)

    Left()


def fails(test: unittest.TestCase) -> None:
    test.fail("one is not two")


def skips(test: unittest.TestCase) -> None:
    test.skipTest("not here")


class Outcomes(unittest.TestCase):
    FILLS_GAPS = False  # it looks at a clock

    def outcomes(self, *units: tuple[str, unittest.TestSuite], count: int = 2) -> dict[str, workers.Outcome]:
        return {outcome.name: outcome for outcome in workers.run(list(units), count)}

    def test_good_bad_and_skipped(self) -> None:
        found = self.outcomes(made("Good", lambda test: None), made("Bad", fails), made("Skipped", skips))
        self.assertEqual({n: (o.ran, o.skipped, len(o.bad)) for n, o in found.items()},
                         {"Good": (1, 0, 0), "Bad": (1, 0, 1), "Skipped": (1, 1, 0)})  # fmt: skip
        self.assertIn("one is not two", found["Bad"].bad[0][1])
        self.assertEqual([len(o.seconds) for o in found.values()], [1, 1, 1])

    def test_a_worker_that_dies_costs_its_class_alone(self) -> None:
        found = self.outcomes(made("Dies", lambda test: os._exit(3)), made("Good", lambda test: None), count=1)
        self.assertEqual((len(found["Dies"].bad), len(found["Good"].bad)), (1, 0))
        self.assertIn("The worker ended (3)", found["Dies"].bad[0][1])

    def test_one_that_hangs_is_ended_and_says_where(self) -> None:
        begun = time.monotonic()
        with mock.patch.object(workers, "LIMIT_S", 1):
            found = self.outcomes(made("Hangs", lambda test: time.sleep(60)), made("Good", lambda test: None), count=1)
        self.assertLess(time.monotonic() - begun, 30)
        self.assertIn("Ended after 1 s.", found["Hangs"].bad[0][1])
        self.assertIn("test_workers.py", found["Hangs"].bad[0][1])
        self.assertEqual(found["Good"].bad, [])

    def test_what_is_left_open_is_an_error(self) -> None:
        found = self.outcomes(made("Leaves", leaves_open), count=1)
        self.assertIn("left open", found["Leaves"].bad[0][1])

    def test_one_more_works_in_the_gaps_of_those_that_wait(self) -> None:
        usual = os.nice(0)
        with tempfile.TemporaryDirectory() as folder:
            there = Path(folder) / "there"

            def waits(test: unittest.TestCase) -> None:
                test.assertEqual(os.nice(0), usual)
                until = time.monotonic() + 20
                while not there.exists():
                    test.assertLess(time.monotonic(), until, "nobody worked beside")
                    time.sleep(0.01)

            def gives_way(test: unittest.TestCase) -> None:
                test.assertEqual(os.nice(0), min(19, usual + workers.GIVES_WAY))
                there.touch()

            units = [made("Waits", waits), made("WaitsToo", waits), made("GivesWay", gives_way)]
            for _, suite in units[:2]:
                for test in suite:
                    type(test).FILLS_GAPS = False  # type: ignore[attr-defined]
            found = self.outcomes(*units, count=1)
        self.assertEqual({name: one.bad for name, one in found.items()}, {"Waits": [], "WaitsToo": [], "GivesWay": []})

    def test_the_longest_first(self) -> None:
        names = [name for name, _ in workers.classes(["tests.test_workers", "tests.browser.test_kill"])]
        self.assertEqual(names, ["tests.browser.test_kill.Killed", "tests.test_workers.Outcomes"])
