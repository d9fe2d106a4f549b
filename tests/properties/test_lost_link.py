"""A lost link: what never reads clear, for any aircraft, place and number."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import NOW, PACK, QUAD, SITE, dry_weather, situation, variants
from walkround.core.aircraft.failsafe import Action, Failsafe
from walkround.core.aircraft.link_trials import BenchTest, Seen
from walkround.core.base.finding import Level, worst
from walkround.core.field.marks import Mark, MarkKind, spot
from walkround.core.field.site import LaunchPlatform
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import Air
from walkround.core.lost_link.area import colour, finished
from walkround.core.lost_link.bench_test import judge_test
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.failsafe_rules import judge_hold
from walkround.core.lost_link.flown import Lost, Plan
from walkround.core.lost_link.ground import ground_of
from walkround.core.lost_link.what_if import findings, what_if
from walkround.core.round.context import Context
from walkround.core.round.failsafe import failsafe_findings, passed_by
from walkround.core.round.lost_link import besides, setup_of
from walkround.demo.scenario import MEADOW

AIRCRAFT = variants()
KNOWN = endurance(QUAD, PACK)
AIR = Air(wind_ms=3, from_deg=200, gust_ms=1)
WALL = SITE.model_copy(
    update={
        "marks": (Mark(id=1, kind=MarkKind.TREES, spots=(spot((50, -140)), spot((50, 140))), height_m=30),),
        "flight_radius_m": 150,
    }
)


def flown(site, action: Action, lost: Lost, air: Air = AIR, rth_m: float = 40):  # type: ignore[no-untyped-def]
    plan = Plan(action=action, home=site.launch.xy, rth_altitude_m=rth_m)
    return what_if(lost, plan, body_of(QUAD, KNOWN, action), air, ground_of(site), runs=60)


class Never(unittest.TestCase):
    @given(st.sampled_from([Seen.KEPT_ON, Seen.NOTHING]), st.none() | st.floats(0, 100), st.sampled_from(AIRCRAFT))
    def test_clear_after_a_test_that_failed(self, seen: Seen, after: float | None, aircraft) -> None:  # type: ignore[no-untyped-def]
        self.assertIs(
            worst(judge_test(BenchTest(at=NOW, seen=seen, after_s=after), aircraft, aircraft.failsafe)), Level.GROUNDED
        )

    @given(st.sampled_from(AIRCRAFT), st.floats(0, 100), st.floats(0, 12), st.none() | st.floats(0, 100))
    def test_clear_with_hold_last_position(self, aircraft, charge: float, wind: float, throttle: float | None) -> None:  # type: ignore[no-untyped-def]
        found = judge_hold(aircraft, endurance(aircraft, PACK), charge, wind, throttle_percent=throttle)
        self.assertIs(worst(found), Level.GROUNDED)
        context = Context(situation(aircraft), {})
        self.assertFalse(
            [
                check
                for check in passed_by(context, Failsafe(action=Action.HOLD, throttle_percent=throttle))
                if "lost_action" in check
            ]
        )

    @given(st.sampled_from(AIRCRAFT), st.booleans())
    def test_clear_where_nothing_is_known_of_the_failsafe(self, aircraft, windy: bool) -> None:  # type: ignore[no-untyped-def]
        context = Context(situation(aircraft, weather=dry_weather() if windy else None), {})
        self.assertIs(worst(failsafe_findings(context, Failsafe())), Level.GROUNDED)
        self.assertGreaterEqual(worst(besides(context, setup_of(context), None)), Level.CAUTION)

    @given(
        st.floats(-30, 30),
        st.floats(-50, -30),
        st.floats(2, 60),
        st.sampled_from([Action.LAND, Action.HOVER, Action.STOP]),
    )
    def test_clear_over_the_spectators(self, east: float, north: float, height: float, action: Action) -> None:
        still = replace(AIR, wind_ms=0.5, gust_ms=0.1)
        found = flown(MEADOW, action, Lost(east_m=east, north_m=north, height_m=height, charge_percent=50), still)
        self.assertIs(found.level, Level.GROUNDED)
        self.assertIs(worst(findings(found)), Level.GROUNDED)

    @given(st.floats(70, 140), st.floats(-60, 60), st.floats(2, 26), st.floats(2, 26))
    def test_clear_through_a_wall_of_trees(self, east: float, north: float, height: float, rth: float) -> None:
        found = flown(
            WALL, Action.RETURN, Lost(east_m=east, north_m=north, height_m=height, charge_percent=80), rth_m=rth
        )
        self.assertIs(found.level, Level.GROUNDED)

    @given(
        st.floats(-80, 80), st.floats(20, 80), st.sampled_from([Action.RETURN, Action.HOVER, Action.LAND, Action.STOP])
    )
    def test_clear_in_a_wind_that_nobody_knows(self, east: float, north: float, action: Action) -> None:
        unknown = Air(wind_ms=0, from_deg=0, gust_ms=0, known=False)
        found = flown(MEADOW, action, Lost(east_m=east, north_m=north, height_m=30, charge_percent=60), unknown)
        self.assertGreaterEqual(found.level, Level.CAUTION)
        self.assertGreaterEqual(worst(findings(found)), Level.CAUTION)
        context = Context(situation(QUAD, weather=None), {})
        self.assertFalse(setup_of(context).air.known)

    @given(st.sampled_from([LaunchPlatform.MOVING, LaunchPlatform.COVER]))
    def test_clear_when_it_returns_to_where_nobody_is(self, platform: LaunchPlatform) -> None:
        site = SITE.model_copy(update={"launch_platform": platform})
        context = Context(situation(QUAD, site=site), {})
        self.assertIs(worst(besides(context, setup_of(context, action=Action.RETURN), None)), Level.GROUNDED)


class Worse(unittest.TestCase):
    @given(st.floats(5, 30), st.floats(0, 6), st.floats(1, 12))
    def test_less_charge_or_more_wind_never_brings_more_home(self, charge: float, wind: float, more: float) -> None:
        """The share of runs that end at the launch point, with the same chance."""
        lost = Lost(east_m=30, north_m=60, height_m=40, charge_percent=charge)
        head = replace(AIR, wind_ms=wind, from_deg=210, gust_ms=0)  # on the nose of the way home
        home = [
            flown(MEADOW, Action.RETURN, lost, head).shares,
            flown(MEADOW, Action.RETURN, lost, replace(head, wind_ms=wind + more)).shares,
        ]
        less = flown(MEADOW, Action.RETURN, replace(lost, charge_percent=max(0.0, charge - more)), head).shares
        share = [sum(s for outcome, s in found.items() if outcome == 0) for found in (*home, less)]
        self.assertGreaterEqual(share[0], share[1] - 1e-9)
        self.assertGreaterEqual(share[0], share[2] - 1e-9)

    @given(st.integers(0, 2))
    def test_a_thing_more_on_the_plan_never_makes_the_area_better(self, which: int) -> None:
        thing = (
            Mark(id=90, kind=MarkKind.ROAD, spots=(spot((-80, 50)), spot((80, 50)))),
            Mark(id=91, kind=MarkKind.MAST, spots=(spot((10, 60)),), height_m=60),
            Mark(id=92, kind=MarkKind.HAZARD, spots=(spot((0, 50)),), radius_m=20),
        )[which]
        more = MEADOW.model_copy(update={"marks": (*MEADOW.marks, thing)})
        body, few = (
            body_of(QUAD, KNOWN, Action.LAND),
            {"height_m": 40.0, "speed_ms": 0.0, "charge_percent": 60.0, "points": 80, "runs": 20},
        )
        plan = Plan(action=Action.LAND, home=MEADOW.launch.xy)
        now, then = (finished(colour(site, plan, body, AIR, ground_of(site), **few)) for site in (MEADOW, more))
        self.assertTrue(all(b.grounds >= a.grounds - 1e-9 for a, b in zip(now.cells, then.cells, strict=True)))
        self.assertGreater(then.badness[0], now.badness[0])
