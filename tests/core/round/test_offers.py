"""Numbers on record: offered where they hold, never where something may have changed them."""

import unittest
from datetime import timedelta

from tests.support import NOW, calibrated, dry_weather, said, season_done, situation, with_history
from walkround.core.aircraft.traits import Trait
from walkround.core.base.phrase import height
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.summary import Summary
from walkround.core.round.offers import OF_THE_FIELD, SETTINGS, Offer, offer_for
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
        case = with_history(situation(), done=values, packs_ready=3, pack_summary=None)
        plan = make_plan(case)
        found = {p.check.id for p in plan.checks if offer_for(p, case) is not None}
        here = OF_THE_FIELD if case.history.aircraft_last_site == case.site.name else ()
        self.assertEqual(found, {"bench.packs_ready", "field.max_height", *SETTINGS, *here} & plan.ids())

    def test_what_stands_at_a_field_where_it_last_flew_there(self) -> None:
        paced = Done(check_id="field.launch_circle", at=NOW - timedelta(days=2), value=height(14))
        case = with_history(situation(), done=(*season_done(), paced))
        self.assertIsNone(offered(with_history(case, aircraft_last_site="Elsewhere"), "field.launch_circle"))
        here = offered(with_history(case, aircraft_last_site=case.site.name), "field.launch_circle")
        assert here is not None
        self.assertEqual(said(here.words), "Still 14 m, as last time here")

    def test_the_charge_as_read_since_the_last_flight(self) -> None:
        def case(hours: float, *, width: float = 5, flown: float | None = None) -> Situation:
            held = ChargeRange(low=95 - width, mid=95, high=95)
            summary = Summary(charge=held, charge_at=NOW - timedelta(hours=hours))
            last = None if flown is None else NOW - timedelta(hours=flown)
            base = situation()
            smart = base.aircraft.model_copy(update={"traits": base.aircraft.traits | {Trait.SMART_PACK}})
            return with_history(
                base.model_copy(update={"aircraft": smart}), pack_summary=summary, pack_last_flight_at=last
            )

        found = offered(case(2), "pack.percent")
        assert found is not None
        self.assertEqual(
            (found.value.value, said(found.words), found.by), (95, "On record: 95 %, read at 07:40", "record")
        )
        self.assertIn("yesterday", said(offered(case(20), "pack.percent").words))  # type: ignore[union-attr]
        for stale in (case(25), case(-1), case(2, width=20), case(2, flown=1), case(2, flown=2)):
            self.assertIsNone(offered(stale, "pack.percent"))

    def test_a_rested_pack_is_as_warm_as_the_air(self) -> None:
        cold = situation(weather=dry_weather(temperature_c=9.0))
        found = offered(cold, "pack.temperature")
        assert found is not None
        self.assertEqual((found.value.value, found.by), (9.0, "weather report"))
        just_flown = with_history(cold, pack_last_flight_at=NOW - timedelta(minutes=20))
        self.assertIsNone(offered(just_flown, "pack.temperature"))
