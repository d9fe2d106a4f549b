"""Numbers on record: offered where they hold, never where something may have changed them."""

import unittest
from datetime import timedelta

from tests.support import NOW, calibrated, said, season_done, situation, with_history
from walkround.core.base.phrase import height
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.round.offers import SETTINGS, Offer, offer_for
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import Situation


def offered(case: Situation, check_id: str) -> Offer | None:
    """What is offered for a check of today's list."""
    planned = next(p for p in make_plan(case).checks if p.check.id == check_id)
    return offer_for(planned, case)


class Offers(unittest.TestCase):
    def test_charged_packs_from_the_store(self) -> None:
        for ready in (0, 4):
            found = offered(with_history(situation(), packs_ready=ready), "bench.packs_ready")
            assert found is not None
            self.assertEqual((found.value.value, said(found.words), found.by), (ready, f"On record: {ready}", "record"))
        self.assertIsNone(offered(with_history(situation(), packs_ready=None), "bench.packs_ready"))

    def test_the_height_of_the_field(self) -> None:
        case = situation()
        found = offered(case, "field.max_height")
        assert found is not None
        self.assertEqual(found.value.value, case.site.flight_height_m)

    def test_a_setting_as_last_time_unless_something_may_have_reset_it(self) -> None:
        last = Done(check_id="link.rth_altitude", at=NOW - timedelta(days=2), value=height(55))
        case = with_history(situation(), done=(*season_done(), last))
        found = offered(case, "link.rth_altitude")
        assert found is not None
        self.assertEqual((found.value.value, said(found.words)), (55, "Still 55 m, as last time"))
        update = Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(days=1), detail="2.5")
        self.assertIsNone(offered(with_history(case, events=(*calibrated(9), update)), "link.rth_altitude"))
        self.assertIsNone(offered(situation(), "link.rth_altitude"))

    def test_nothing_else_is_offered(self) -> None:
        values = tuple(
            Done(check_id=p.check.id, at=NOW - timedelta(days=2), value=height(5))
            for p in make_plan(situation()).checks
        )
        case = with_history(situation(), done=values, packs_ready=3)
        plan = make_plan(case)
        found = {p.check.id for p in plan.checks if offer_for(p, case) is not None}
        self.assertEqual(found, {"bench.packs_ready", "field.max_height", *SETTINGS} & plan.ids())
