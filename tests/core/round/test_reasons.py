"""What is said about a check today, from what is known."""

import unittest
from datetime import timedelta

from tests.core.round.test_plan import why
from tests.support import (
    NOW,
    PACK,
    SITE,
    situation,
    with_history,
)
from walkround.core.base.phrase import volt
from walkround.core.checklist.history import Done
from walkround.core.round.plan import make_plan


class Reasons(unittest.TestCase):
    def test_of_today(self) -> None:
        rested = PACK.model_copy(update={"charged_at": NOW - timedelta(days=9)})
        self.assertEqual(why(situation(pack=rested), "pack.cells"), "Pack P1 rested 9 days since its last charge.")
        ahead = PACK.model_copy(update={"charged_at": NOW + timedelta(days=9)})
        self.assertEqual(why(situation(pack=ahead), "pack.cells"), "No data yet for pack P1.")
        flown = with_history(situation(pack=rested), pack_flights_today=1)
        self.assertEqual(why(flown, "pack.cells"), "Pack P1 has flown 1 time today.")
        flown = with_history(situation(pack=rested), pack_flights_today=2)
        self.assertEqual(why(flown, "pack.cells"), "Pack P1 has flown 2 times today.")
        self.assertEqual(
            why(situation(), "link.rth_altitude"), "The tallest at Test Meadow is a tree, 18 m high at 80 m."
        )
        self.assertIn("bearing", why(situation(), "field.sun"))
        self.assertIn("below the horizon", why(situation(now=NOW.replace(hour=0)), "field.sun"))
        typical = with_history(situation(), pack_typical_min=9.4, pack_typical_flights=6)
        self.assertEqual(why(typical, "pack.plan"), "Pack P1 flew 9 min on its usual flight (6 logged).")

    def test_firmware_on_record_is_there_to_compare(self) -> None:
        parts = with_history(situation(), part_firmware=("receiver 1.4", "flight controller 4.5"))
        self.assertEqual(why(parts, "bench.firmware"), "On record: aircraft 2.3, receiver 1.4, flight controller 4.5.")

    def test_where_nothing_is_known(self) -> None:
        bare = situation(site=SITE.model_copy(update={"marks": ()}))
        self.assertEqual(why(bare, "pack.cells"), "No data yet for pack P1.")
        self.assertEqual(why(bare, "field.path"), "No field walk on record; no feature is on the plan yet.")
        later = bare.model_copy(update={"site": bare.site.model_copy(update={"walked_at": NOW + timedelta(days=40)})})
        self.assertIn("dated ahead of the clock and does not count", why(later, "field.path") or "")
        self.assertEqual(why(bare, "field.launch_circle"), "Every launch.")
        self.assertEqual(why(bare, "link.rth_altitude"), "No obstacle is marked at Test Meadow. Check again.")

    def test_what_was_measured_before_stands_beside(self) -> None:
        case = with_history(situation(), done=(Done(check_id="pack.cells", at=NOW, value=volt(12.57)),))
        planned = next(p for p in make_plan(case).checks if p.check.id == "pack.cells")
        self.assertEqual(planned.before, volt(12.57))

    def test_emergency_words_of_the_field(self) -> None:
        site = SITE.model_copy(update={"emergency": "112. Mill lane."})
        self.assertEqual(why(situation(site=site), "field.roles"), "Saved for this field: 112. Mill lane.")
