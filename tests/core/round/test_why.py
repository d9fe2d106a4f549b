"""Why a check is on the list today, and why not."""

import unittest
from datetime import timedelta

from tests.support import (
    NOW,
    planned_ids,
    said,
    situation,
    variants,
    with_history,
)
from walkround.core.checklist.check import Depth
from walkround.core.checklist.custom import CheckChange
from walkround.core.checklist.history import Done
from walkround.core.checklist.library import CHECKS
from walkround.core.round.situation import ChosenDepth, Situation
from walkround.core.round.why import Day

SHORT = ChosenDepth(depth=Depth.SHORT, why=("A later launch today",))


class WhyNot(unittest.TestCase):
    def why_not(self, case: Situation, check_id: str, change: CheckChange | None = None) -> str:
        phrase = Day(case).why_not(next(c for c in CHECKS if c.id == check_id), change)
        return "" if phrase is None else said(phrase)

    def test_every_check_is_either_on_the_list_or_says_why_not(self) -> None:
        cases = [situation(a) for a in variants()]
        cases.append(with_history(situation(depth=SHORT), rounds_today=1))
        for case in cases:
            on = planned_ids(case)
            for check in CHECKS:
                reason = Day(case).why_not(check)
                self.assertEqual(check.id in on, reason is None, check.id)
                if reason is not None:
                    self.assertTrue(said(reason).endswith("."), check.id)

    def test_words(self) -> None:
        day = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS)
        second = with_history(situation(depth=SHORT), done=day, rounds_today=1)
        rows = (
            ("airframe.nose_wheel", situation(), "Only for aircraft with: “steered nose wheel”."),
            ("bench.rates", situation(), "Only for aircraft with: “control surfaces”."),
            ("bench.borrowed", situation(), "Only after borrowed aircraft; none is on record."),
            ("bench.lens", situation(), "Season inspection done 6 May; due again from 1 Jul."),
            ("field.airspace", second, "Done today at 08:40; due again on the next flying day."),
            ("airframe.shell", second, "Not on the short list. A later launch today."),
            ("sensors.compass", situation(), "Calibrated, and not due again."),
            ("field.club_order", situation(), "Only for club day; not selected today."),
            ("airframe.propellers_off_look", situation(),
             "Only with another method. Propellers at each launch: remove and check them."),
        )  # fmt: skip
        for check_id, case, words in rows:
            with self.subTest(check_id):
                self.assertEqual(self.why_not(case, check_id), words)
        off = CheckChange(check_id="field.path", off=True, reason="I live here")
        self.assertEqual(self.why_not(situation(), "field.path", off), "You switched it off: I live here.")
