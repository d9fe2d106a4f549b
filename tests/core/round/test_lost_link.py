"""A round as a case that can be flown: what is set, what is only assumed, where the launch point moves."""

import math
import unittest
from datetime import timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support import NOW, QUAD, SITE, TRAINER, dry_weather, said, situation, with_history
from walkround.core.aircraft.failsafe import Action, Failsafe
from walkround.core.aircraft.link_trials import Rehearsal
from walkround.core.base.finding import Level, worst
from walkround.core.field.marks import spot
from walkround.core.field.site import LaunchPlatform
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.flight.return_to_home import TurnPoint
from walkround.core.flight.session import GearLasts
from walkround.core.lost_link.proposals import body_for
from walkround.core.packs.charge import from_percent
from walkround.core.round.context import Context
from walkround.core.round.lost_link import Moves, besides, lost_at, setup_of, usual_action, usual_charge

SET = QUAD.model_copy(
    update={"failsafe": Failsafe(action=Action.HOVER, delay_s=2.5, rth_altitude_m=44, rth_speed_ms=7)}
)


def context(aircraft=SET, site=SITE, **changes) -> Context:  # type: ignore[no-untyped-def]
    return Context(situation(aircraft, site=site, **changes), {})


class Setups(unittest.TestCase):
    def test_as_set_and_as_tried(self) -> None:
        found = setup_of(context())
        self.assertEqual(
            (found.plan.action, found.plan.delay_s, found.plan.rth_altitude_m, found.home_ms),
            (Action.HOVER, 2.5, 44, 7),
        )
        tried = setup_of(context(), action=Action.LAND, rth_altitude_m=70, height_m=12, speed_ms=3, charge_percent=40)
        self.assertEqual(
            (tried.plan.action, tried.plan.rth_altitude_m, tried.height_m, tried.speed_ms, tried.charge_percent),
            (Action.LAND, 70, 12, 3, 40),
        )
        self.assertEqual(body_for(found).home_ms, 7)

    def test_what_is_not_recorded_is_said(self) -> None:
        unknown = context(QUAD)
        self.assertIs(usual_action(unknown), Action.RETURN)
        words = " ".join(said(f) for f in besides(unknown, setup_of(unknown), None))
        self.assertIn("Not on record for this aircraft: failsafe action, delay, RTH altitude.", words)
        self.assertGreaterEqual(worst(besides(unknown, setup_of(unknown), None)), Level.CAUTION)
        self.assertIs(worst(besides(context(), setup_of(context()), None)), Level.CLEAR)

    def test_the_charge_is_that_of_the_turn(self) -> None:
        self.assertAlmostEqual(usual_charge(context()), context().flight_clock().turn_percent, delta=0.5)

    def test_its_own_landings_after_three_rehearsals(self) -> None:
        flown = tuple(Rehearsal(at=NOW - timedelta(days=i), distance_m=80, seconds=60, offset_m=6) for i in range(3))
        case = with_history(situation(SET), rehearsals=flown)
        self.assertAlmostEqual(setup_of(Context(case, {})).plan.landing_m, math.sqrt(18))
        self.assertEqual(setup_of(Context(with_history(situation(SET), rehearsals=flown[:2]), {})).plan.landing_m, 1.5)

    def test_places_by_bearing_and_distance(self) -> None:
        lost = lost_at(setup_of(context()), 90, 50)
        self.assertAlmostEqual(lost.east_m, SITE.launch.east_m + 50)
        self.assertAlmostEqual(lost.north_m, SITE.launch.north_m)
        self.assertEqual(lost.heading_deg, 90)
        self.assertGreater(setup_of(context(TRAINER)).speed_ms, 0, "a wing never stands still")


class Besides(unittest.TestCase):
    def test_from_what_moves_and_under_cover(self) -> None:
        boat = SITE.model_copy(update={"launch_platform": LaunchPlatform.MOVING})
        cover = SITE.model_copy(update={"launch_platform": LaunchPlatform.COVER})
        returns = setup_of(context(site=boat), action=Action.RETURN)
        moved = Moves(speed_ms=1.5, minutes=8)
        self.assertAlmostEqual(moved.reach_m, 720)
        (finding, *_) = besides(context(site=boat), returns, moved)
        self.assertIs(finding.level, Level.GROUNDED)
        self.assertIn("720", said(finding))
        self.assertIs(
            worst(besides(context(site=boat), returns, None)), Level.GROUNDED, "not knowing how fast is no better"
        )
        self.assertIs(
            worst(besides(context(site=boat), setup_of(context(site=boat)), moved)),
            Level.CLEAR,
            "hovering is right from there",
        )
        self.assertIs(worst(besides(context(site=cover), setup_of(context(site=cover)), None)), Level.GROUNDED)

    def test_wind_beyond_its_top_speed(self) -> None:
        gale = context(weather=dry_weather(wind_ms=20, gust_ms=24))
        found = besides(gale, setup_of(gale, action=Action.RETURN), None)
        self.assertIn("cannot get home", " ".join(said(f) for f in found))


class TurnBack(unittest.TestCase):
    """One answer: charge and clock, and the flight's calls never later than it."""

    @given(st.floats(30, 100), st.floats(20, 400), st.floats(0, 9), st.floats(0.1, 6))
    @settings(max_examples=25)
    def test_farther_or_windier_is_never_later(self, charge: float, distance: float, wind: float, more: float) -> None:
        place = TurnPoint(distance_m=distance, height_m=40)

        def at(metres: float, blows: float) -> float:
            case = Context(situation(SET, weather=dry_weather(wind_ms=blows)), {}, held=from_percent(charge))
            ((_, seconds),) = case.turn_table([metres], place, 44)
            return -1.0 if seconds is None else seconds

        self.assertLessEqual(at(distance * (1 + more), wind), at(distance, wind))
        self.assertLessEqual(at(distance, wind + more), at(distance, wind))

    @given(st.floats(1, 60))
    @settings(max_examples=25)
    def test_the_weakest_gear_counts(self, minutes: float) -> None:
        gear = (GearLasts(name="Transmitter", minutes=minutes), GearLasts(name="Phone or tablet", minutes=None))
        plain, short = context(), Context(with_history(situation(SET), gear=gear), {})
        place = TurnPoint(distance_m=100, height_m=40)
        ((turn, seconds),) = short.turn_table([100], place, 44)
        ((_, before),) = plain.turn_table([100], place, 44)
        assert seconds is not None and before is not None and turn.minutes is not None
        self.assertAlmostEqual(seconds, min(before, max(0.0, 60 * (minutes - turn.minutes))))
        clock, usual = short.flight_clock(), plain.flight_clock()
        self.assertLessEqual(clock.land_s, max(60 * minutes, clock.land_s - clock.turn_s) + 1e-6)
        self.assertLessEqual(clock.turn_s, usual.turn_s)
        self.assertEqual(clock.limit == "gear", clock.turn_s < usual.turn_s)

    @given(st.floats(50, 600), st.floats(0, 6), st.floats(30, 100))
    @settings(max_examples=25)
    def test_the_calls_are_never_later_than_the_answer(self, out: float, wind: float, charge: float) -> None:
        case = Context(situation(SET, weather=dry_weather(wind_ms=wind)), {}, held=from_percent(charge))
        plan = FlightPlan(out_m=out, work_min=3, height_m=40)
        flown = Context(case.situation, {}, plan=plan, held=from_percent(charge))
        clock = flown.flight_clock()
        place = TurnPoint(distance_m=out, height_m=flown.highest_m)
        ((_, seconds),) = flown.turn_table([out], place, flown.rth_altitude_m or 40)
        self.assertLessEqual(clock.turn_s, (0.0 if seconds is None else seconds) + 1e-6)
        self.assertTrue(
            clock.turn_s < clock.land_s <= clock.reserve_s + 1e-6 <= clock.empty_s + 2e-6 or clock.turn_s == 0
        )


class NotOnThePlan(unittest.TestCase):
    """What is not drawn is not known, and what needs a fix cannot be done in a hall."""

    def test_an_empty_plan_is_never_clear(self) -> None:
        bare = context(site=SITE.model_copy(update={"marks": ()}))
        self.assertIs(worst(besides(bare, setup_of(bare), None)), Level.CAUTION)
        self.assertIn("what it may hit is not known", " ".join(said(f) for f in besides(bare, setup_of(bare), None)))

    def test_people_are_counted_only_where_their_line_is(self) -> None:
        lined = context(site=SITE.model_copy(update={"spectator_line": (spot((-20, -30)), spot((20, -30)))}))
        self.assertNotIn("people are not counted", " ".join(said(f) for f in besides(lined, setup_of(lined), None)))
        self.assertIn(
            "people are not counted", " ".join(said(f) for f in besides(context(), setup_of(context()), None))
        )

    def test_in_a_hall_nothing_returns_or_hovers_by_itself(self) -> None:
        hall = context(site=SITE.model_copy(update={"indoors": True}))
        for action, level in (
            (Action.RETURN, Level.GROUNDED),
            (Action.HOVER, Level.GROUNDED),
            (Action.LAND, Level.CLEAR),
            (Action.STOP, Level.CLEAR),
        ):
            self.assertIs(worst(besides(hall, setup_of(hall, action=action), None)), level, action)
