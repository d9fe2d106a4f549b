"""Trials of a lost link: what counts as passed, and what cannot be."""

import unittest

from pydantic import ValidationError

from tests.support import NOW
from walkround.core.aircraft.link_trials import BenchTest, Rehearsal, Seen
from walkround.core.base.errors import InputError


class Trials(unittest.TestCase):
    def test_only_what_stopped_or_acted_has_passed(self) -> None:
        passed = {seen for seen in Seen if BenchTest(at=NOW, seen=seen).passed}
        self.assertEqual(passed, {Seen.STOPPED, Seen.ACTED})

    def test_what_cannot_be_is_refused(self) -> None:
        with self.assertRaises(ValidationError):
            BenchTest(at=NOW, seen=Seen.STOPPED, after_s=-1)
        with self.assertRaises(InputError):
            Rehearsal(at=NOW, distance_m=1000, seconds=5, offset_m=1)
        with self.assertRaises(ValidationError):
            Rehearsal(at=NOW, distance_m=0, seconds=50, offset_m=1)
