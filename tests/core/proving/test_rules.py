"""What a stage allows of a plan."""

import random
import unittest

from tests.core.proving.test_stages import BUILT, good
from tests.support import said
from walkround.core.base.finding import Level
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.proving.rules import judge_proving
from walkround.core.proving.stages import progress


def judged(passed: int, **plan: float) -> dict[str, Level]:
    return {
        f.name: f.level
        for f in judge_proving(
            progress(BUILT, good(BUILT)[:passed]), FlightPlan(**({"work_min": 2, "height_m": 3, "out_m": 5} | plan))
        )
    }


class Rules(unittest.TestCase):
    def test_rows(self) -> None:
        """Caps of the first hover: 3 m, 15 m away, 2 min (our choice)."""
        for passed, plan, known in (
            (0, {}, {"Proving": 2}),
            (5, {}, {"Proving": 2}),
            (6, {}, {"Proving": 1}),
            (6, {"height_m": 3.1}, {"Proving: height": 2}),
            (6, {"work_min": 2.5, "out_m": 20}, {"Proving: time": 2, "Proving: distance": 2}),
            (7, {"height_m": 10, "work_min": 5, "out_m": 30}, {"Proving": 1}),
            (9, {"height_m": 100, "work_min": 30, "out_m": 300}, {}),
        ):
            with self.subTest(f"{passed} {plan}"):
                self.assertEqual(judged(passed, **plan), known)
        self.assertEqual(judge_proving(None, FlightPlan(work_min=30)), ())

    def test_words(self) -> None:
        (found,) = judge_proving(progress(BUILT, good(BUILT)[:6]), FlightPlan(work_min=2, height_m=3))
        self.assertEqual(
            said(found.reason), "It is being proved: stage 7 of 9, first hover. Up to 3 m high, 15 m away, 2.0 min."
        )

    def test_one_stage_more_never_reads_worse_in_the_air(self) -> None:
        draw = random.Random(1)
        for _ in range(200):
            plan = {"height_m": draw.uniform(0.5, 40), "out_m": draw.uniform(0, 100), "work_min": draw.uniform(0.1, 10)}
            worst = [max(judged(n, **plan).values(), default=Level.CLEAR) for n in range(10)]
            self.assertEqual(worst, sorted(worst, reverse=True))
