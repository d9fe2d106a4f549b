"""The sky judged: ten satellites and HDOP below 2 are common practice, no source."""

import math
import unittest
from datetime import UTC, datetime, timedelta

from tests.support import SITE, said
from walkround.core.base.finding import Level
from walkround.core.field.marks import MarkKind, mark_at, spot
from walkround.core.field.sky_mask import SECTORS, SkyMask
from walkround.core.field.sky_rules import judge_sky, sky_report
from walkround.core.sensors.nominal import TypicalDay

GOOD = TypicalDay(satellites=14, satellites_worst=12, hdop=0.8, hdop_worst=0.9)
PLANNED = SITE.model_copy(update={"marks": (mark_at(MarkKind.TREE, 0, 90, 8, number=1),)})


def mask(share: float) -> SkyMask:
    return SkyMask(at=spot((0, 0)), hidden_deg=(0.0,) * SECTORS, open_percent=share)


class Judged(unittest.TestCase):
    def test_rows(self) -> None:
        for share, day, levels in (
            (92.0, GOOD, [0]),
            (91.9, GOOD, [1]),
            (10.0, TypicalDay(satellites=4, satellites_worst=3, hdop=9, hdop_worst=math.inf), [1, 1]),
            (95.0, TypicalDay(satellites=14, satellites_worst=9, hdop=0.8, hdop_worst=0.9), [0, 1]),
            (95.0, TypicalDay(satellites=14, satellites_worst=12, hdop=0.8, hdop_worst=2.0), [0, 1]),
        ):
            self.assertEqual([f.level for f in judge_sky(PLANNED, mask(share), day)], levels)
        self.assertIn(
            "no position at all",
            said(
                judge_sky(
                    PLANNED, mask(5), TypicalDay(satellites=3, satellites_worst=2, hdop=math.inf, hdop_worst=math.inf)
                )[1].reason
            ),
        )

    def test_an_empty_plan_is_not_an_open_sky(self) -> None:
        (found,) = judge_sky(SITE.model_copy(update={"marks": ()}), mask(100), GOOD)
        self.assertEqual(found.level, Level.CAUTION)
        self.assertIn("not known", said(found.reason))


class Kept(unittest.TestCase):
    def test_a_changed_plan_and_the_next_day_are_other_reports(self) -> None:
        noon = datetime(2026, 6, 1, 12, tzinfo=UTC)
        first = sky_report(PLANNED, noon)
        self.assertIs(
            sky_report(PLANNED.model_copy(), noon + timedelta(hours=11)), first, "the same plan on the same day"
        )
        self.assertIsNot(sky_report(PLANNED, noon + timedelta(hours=12)), first)
        taller = PLANNED.model_copy(update={"marks": (mark_at(MarkKind.TREE, 0, 12, 30, number=1),)})
        self.assertLess(sky_report(taller, noon).mask.open_percent, first.mask.open_percent)
