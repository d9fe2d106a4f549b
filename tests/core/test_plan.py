"""The plan: what applies today and why; the same situation gives the same plan."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import (
    NOW,
    PACK,
    QUAD,
    SITE,
    TRAINER,
    calibrated,
    planned_ids,
    said,
    season_done,
    situation,
    with_history,
)
from walkround.core.aircraft import KIND_TRAITS, Kind, Trait
from walkround.core.check import Cadence, Station
from walkround.core.history import Done, Event, EventKind, Snag, SnagOn
from walkround.core.library import CHECKS
from walkround.core.limits import Practices
from walkround.core.phrase import volt
from walkround.core.plan import make_plan


def why(case, check_id: str) -> str:  # type: ignore[no-untyped-def]
    return said(next(p.why_today for p in make_plan(case).checks if p.check.id == check_id))


class TwoKinds(unittest.TestCase):
    def test_each_has_its_own(self) -> None:
        quad, wing = planned_ids(situation()), planned_ids(situation(TRAINER))
        self.assertIn("airframe.arms", quad - wing)
        self.assertIn("senses.satellites", quad - wing)
        self.assertIn("airframe.bands", wing - quad)
        self.assertIn("controls.surfaces", wing - quad)
        self.assertIn("power.still_short", wing - quad)
        self.assertGreaterEqual(len(quad), 45)
        self.assertGreaterEqual(len(wing), 45)

    def test_every_station_has_work_or_says_so(self) -> None:
        for aircraft in (QUAD, TRAINER):
            plan = make_plan(situation(aircraft))
            empty = [s for s in Station if not plan.at(s)]
            self.assertEqual(empty, [Station.SENSES] if aircraft is TRAINER else [])

    def test_stations_come_in_walking_order(self) -> None:
        order = [list(Station).index(p.check.station) for p in make_plan(situation()).checks]
        self.assertEqual(order, sorted(order))


class Cadences(unittest.TestCase):
    def test_day_checks_leave_after_the_first_round_of_the_day(self) -> None:
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS)
        later = with_history(situation(), done=done, rounds_today=1)
        ids = planned_ids(later)
        self.assertFalse(ids & {c.id for c in CHECKS if c.cadence is Cadence.DAY})
        self.assertIn("airframe.shell", ids)
        self.assertEqual(why(later, "airframe.shell"), "Second look of the day.")

    def test_yesterday_does_not_count(self) -> None:
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=20)) for c in CHECKS)
        self.assertIn("field.airspace", planned_ids(with_history(situation(), done=done)))

    def test_the_day_is_that_of_the_field(self) -> None:
        """23:30 UTC on the 15th is the 16th in Vienna."""
        done = (Done(check_id="field.airspace", at=NOW.replace(day=15, hour=23, minute=30)),)
        self.assertNotIn("field.airspace", planned_ids(with_history(situation(), done=done)))

    def test_short_list_of_the_second_launch(self) -> None:
        later = with_history(situation(practices=Practices(round="short")), rounds_today=1)
        ids = planned_ids(later)
        self.assertNotIn("airframe.shell", ids)
        self.assertTrue({"airframe.propellers", "pack.cells", "senses.home_point", "power.idle"} <= ids)
        self.assertTrue({"first.hover", "after.look"} <= ids, "what follows the signature stays")

    def test_season_checks_come_when_due(self) -> None:
        due = with_history(situation(), done=())
        self.assertIn("bench.season_look", planned_ids(due))
        self.assertNotIn("bench.season_look", planned_ids(situation()))


class Events(unittest.TestCase):
    def test_an_event_raises_its_checks_until_they_are_done(self) -> None:
        event = Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(days=3), detail="2.4")
        case = with_history(situation(), events=(*calibrated(30), event))
        raised = planned_ids(case) - planned_ids(situation())
        self.assertEqual(
            raised,
            {
                "bench.settings_reread", "bench.propellers_off", "bench.failsafe", "bench.propellers_back",
                "senses.compass", "senses.level", "controls.lean",
            },
        )  # fmt: skip
        self.assertEqual(why(case, "bench.settings_reread"), "Firmware 2.4, 13 May; not looked at since.")
        done = tuple(Done(check_id=i, at=NOW - timedelta(days=1)) for i in raised)
        settled = with_history(case, done=(*done, *season_done()), events=(*calibrated(2), event))
        self.assertEqual(planned_ids(settled), planned_ids(situation()))

    def test_a_crash_gives_its_reason_to_the_launch_checks(self) -> None:
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(days=2))
        case = with_history(situation(), events=(*calibrated(1), crash))
        self.assertEqual(why(case, "airframe.propellers"), "Crash, 14 May; not looked at since.")
        self.assertIn("bench.season_look", planned_ids(case))


class Reasons(unittest.TestCase):
    def test_of_today(self) -> None:
        rested = PACK.model_copy(update={"charged_at": NOW - timedelta(days=9)})
        self.assertEqual(why(situation(pack=rested), "pack.cells"), "Pack P1 rested 9 days since its last charge.")
        flown = with_history(situation(pack=rested), pack_flights_today=1)
        self.assertEqual(why(flown, "pack.cells"), "Pack P1 has flown 1 time today.")
        flown = with_history(situation(pack=rested), pack_flights_today=2)
        self.assertEqual(why(flown, "pack.cells"), "Pack P1 has flown 2 times today.")
        self.assertEqual(
            why(situation(), "link.return_height"), "The tallest at Test Meadow is a tree, 18 m high at 80 m."
        )
        self.assertIn("bearing", why(situation(), "field.sun"))
        self.assertIn("below the horizon", why(situation(now=NOW.replace(hour=0)), "field.sun"))
        typical = with_history(situation(), pack_typical_min=9.4, pack_typical_flights=6)
        self.assertEqual(why(typical, "pack.plan"), "Pack P1 flew 9 min on its usual flight (6 logged).")

    def test_where_nothing_is_known(self) -> None:
        bare = situation(site=SITE.model_copy(update={"obstacles": ()}))
        self.assertEqual(why(bare, "pack.cells"), "Nothing is known yet of pack P1.")
        self.assertEqual(why(bare, "field.path"), "Nothing is marked at Test Meadow yet.")
        self.assertEqual(why(bare, "field.launch_circle"), "Every launch.")
        self.assertEqual(why(bare, "link.return_height"), "No obstacle is marked at Test Meadow; look again.")

    def test_what_was_measured_before_stands_beside(self) -> None:
        case = with_history(situation(), done=(Done(check_id="pack.cells", at=NOW, value=volt(12.57)),))
        planned = next(p for p in make_plan(case).checks if p.check.id == "pack.cells")
        self.assertEqual(planned.before, volt(12.57))

    def test_emergency_words_of_the_field(self) -> None:
        site = SITE.model_copy(update={"emergency": "112. Mill lane."})
        self.assertEqual(why(situation(site=site), "field.roles"), "Kept with this field: 112. Mill lane.")


class Snags(unittest.TestCase):
    def test_open_snags_are_checks_at_their_station(self) -> None:
        snags = (
            Snag(id=7, on=SnagOn.PACK, title="Swollen", grounds=True, opened_at=NOW - timedelta(days=4)),
            Snag(id=8, on=SnagOn.AIRCRAFT, title="Scratch", grounds=False, opened_at=NOW),
        )
        plan = make_plan(with_history(situation(), snags=snags))
        first = plan.at(Station.PACK)[0]
        self.assertEqual((first.check.id, first.check.grounds), ("snag.7", True))
        self.assertIn("never put right", first.check.caution)
        self.assertEqual(said(first.why_today), "Found 12 May and not closed.")
        self.assertEqual(plan.at(Station.AIRFRAME)[0].check.id, "snag.8")


TRAITS = st.sampled_from(list(Kind)).flatmap(
    lambda kind: st.tuples(st.just(kind), st.frozensets(st.sampled_from(KIND_TRAITS[kind])))
)


class Properties(unittest.TestCase):
    @given(TRAITS)
    def test_same_situation_same_plan(self, kind_and_traits: tuple[Kind, frozenset[Trait]]) -> None:
        kind, traits = kind_and_traits
        base = QUAD if kind is Kind.MULTIROTOR else TRAINER
        case = situation(base.model_copy(update={"traits": traits}))
        again = type(case).model_validate_json(case.model_dump_json())
        self.assertEqual(make_plan(case), make_plan(again))

    @given(TRAITS, st.data())
    def test_more_traits_never_lose_a_check(
        self, kind_and_traits: tuple[Kind, frozenset[Trait]], data: st.DataObject
    ) -> None:
        kind, traits = kind_and_traits
        more = traits | data.draw(st.frozensets(st.sampled_from(KIND_TRAITS[kind])))
        base = QUAD if kind is Kind.MULTIROTOR else TRAINER
        few = planned_ids(situation(base.model_copy(update={"traits": traits})))
        self.assertLessEqual(few, planned_ids(situation(base.model_copy(update={"traits": more}))))

    @given(st.sampled_from(["due", "site", "day"]), st.sampled_from(["full", "plan", "volts"]))
    def test_no_practice_drops_a_launch_check_of_the_first_round(self, compass: str, charge: str) -> None:
        case = situation(practices=Practices(compass=compass, charge=charge, round="short"))
        launch = {c.id for c in CHECKS if c.cadence is Cadence.LAUNCH and c.applies.fits(QUAD)}
        self.assertLessEqual(launch, planned_ids(case))
