"""What an answer said, in words."""

import unittest

from tests.support import said
from walkround.core.answers.choice import Chosen
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.timer import Counted
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.checklist.library import CHECKS
from walkround.core.round.answer_words import answer_words

BY_ID = {check.id: check for check in CHECKS}


class Words(unittest.TestCase):
    def test_each_kind(self) -> None:
        for check_id, answer, words in (
            ("airframe.arms", Passed(), "All latched"),
            ("airframe.arms", Fault(note="front left"), "Fault. front left"),
            ("airframe.arms", Fault(), "Fault. An arm does not latch."),
            ("airframe.arms", Skipped(reason="dark"), "Skipped: dark"),
            ("field.people", Chosen(option="none"), "Nobody near"),
            ("field.path", Chosen(option="changed", note="a new mast"), "Walked: something has changed, and I have updated the plan. a new mast"),
            ("sky.wind_meter", Measured(value=4), "4.0 m/s"),
            ("power.still_long", Counted(seconds=20), "As entered"),
        ):  # fmt: skip
            self.assertEqual(said(answer_words(answer, BY_ID[check_id])), words)
