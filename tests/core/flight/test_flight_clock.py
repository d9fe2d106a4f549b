"""The clock of a flight: properties over generated flights, and one flight by hand."""

import unittest

from hypothesis import assume, given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, QUAD, TRAINER
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.flight.estimate import endurance
from walkround.core.flight.flight_clock import ChargeRead, FlightClock, flight_clock
from walkround.core.flight.flight_plan import LANDING_MIN, FlightPlan
from walkround.core.packs.charge import ChargeRange, from_percent

PLANS = st.builds(
    FlightPlan,
    hover_min=st.floats(0, 5),
    out_m=st.one_of(st.just(0.0), st.floats(1, 2_000)),
    work_min=st.floats(0.1, 40),
    height_m=st.just(30.0),
)
AIRCRAFT = st.sampled_from([QUAD, TRAINER])
CHARGES = st.floats(15, 100).map(from_percent)


def clock(
    plan: FlightPlan,
    charge: ChargeRange,
    wind: tuple[float, float] = (0, 0),
    aircraft: Aircraft = QUAD,
    read: ChargeRead | None = None,
) -> FlightClock:
    """The clock of a flight in a mean wind and its gusts, in m/s."""
    pack = PACK if aircraft is QUAD else PACK.model_copy(update={"cells": aircraft.cells})
    return flight_clock(
        plan,
        aircraft,
        endurance(aircraft, pack),
        charge,
        wind_ms=wind[0],
        strongest_ms=wind[1],
        reserve_percent=20.0,
        read=read,
    )


class Order(unittest.TestCase):
    @given(plan=PLANS, charge=CHARGES, mean=st.floats(0, 12), gust=st.floats(0, 8), aircraft=AIRCRAFT)
    def test_turn_then_land_then_reserve_then_empty(
        self, plan: FlightPlan, charge: ChargeRange, mean: float, gust: float, aircraft: Aircraft
    ) -> None:
        found = clock(plan, charge, (mean, mean + gust), aircraft)
        self.assertTrue(0 <= found.turn_s < found.land_s <= found.reserve_s <= found.empty_s, found)

    @given(plan=PLANS, charge=CHARGES, winds=st.lists(st.floats(0, 14), min_size=2, max_size=2), aircraft=AIRCRAFT)
    def test_more_wind_is_never_later(
        self, plan: FlightPlan, charge: ChargeRange, winds: list[float], aircraft: Aircraft
    ) -> None:
        less, more = (clock(plan, charge, (w, 1.3 * w), aircraft) for w in sorted(winds))
        self.assertLessEqual(more.turn_s, less.turn_s + 0.01)
        self.assertLessEqual(more.land_s, less.land_s + 0.01)

    @given(
        plan=PLANS, shown=st.lists(st.floats(15, 100), min_size=2, max_size=2), wind=st.floats(0, 10), aircraft=AIRCRAFT
    )
    def test_less_charge_is_never_later(
        self, plan: FlightPlan, shown: list[float], wind: float, aircraft: Aircraft
    ) -> None:
        less, more = (clock(plan, from_percent(p), (wind, wind), aircraft) for p in sorted(shown))
        self.assertLessEqual(less.turn_s, more.turn_s + 0.01)
        self.assertLessEqual(less.land_s, more.land_s + 0.01)

    @given(plan=PLANS, charge=CHARGES, wind=st.floats(0, 10))
    def test_it_never_flies_longer_than_planned(self, plan: FlightPlan, charge: ChargeRange, wind: float) -> None:
        cruise_ms = QUAD.cruise_ms or QUAD.top_speed_ms / 2
        planned_s = 60 * (plan.hover_min + plan.work_min) + 2 * plan.out_m / cruise_ms
        self.assertLessEqual(clock(plan, charge, (wind, wind)).land_s, planned_s + 0.01)


class ByHand(unittest.TestCase):
    def test_a_flight_on_the_spot(self) -> None:
        """Eight minutes of work with a full pack: the plan sets the landing, the turn comes a landing before it."""
        known = endurance(QUAD, PACK)
        found = clock(FlightPlan(work_min=8), from_percent(100))
        self.assertAlmostEqual(found.land_s, 480, delta=0.1)
        self.assertAlmostEqual(found.turn_s, 480 - 60 * LANDING_MIN, delta=0.1)
        self.assertEqual(found.limit, "plan")
        # A minute takes 100 / low minutes at most: so long until 95 % is down to 20, and to nothing.
        self.assertAlmostEqual(found.reserve_s, 60 * (95 - 20) / 100 * known.today.low, delta=1)
        self.assertAlmostEqual(found.empty_s, 60 * 95 / 100 * known.today.low, delta=1)

    def test_a_long_plan_is_cut_by_the_charge(self) -> None:
        known = endurance(QUAD, PACK)
        found = clock(FlightPlan(work_min=60), from_percent(80))
        self.assertEqual(found.limit, "charge")
        self.assertAlmostEqual(found.land_s, 60 * (75 - 20) / 100 * known.today.low, delta=1)
        self.assertAlmostEqual(found.reserve_s, found.land_s, delta=1)

    def test_the_way_home_is_kept_free(self) -> None:
        """Out 100 m: in still air home takes as long as out; in 6 m/s on the nose the quad keeps its cruise over the ground while it can."""
        cruise_ms = QUAD.cruise_ms or QUAD.top_speed_ms / 2
        back_s = 100 / cruise_ms
        still = clock(FlightPlan(out_m=100, work_min=4), from_percent(100))
        self.assertAlmostEqual(still.land_s - still.turn_s, back_s + 30, delta=0.1)
        gale_ms = QUAD.top_speed_ms - 0.75 * cruise_ms
        gale = clock(FlightPlan(out_m=100, work_min=4), from_percent(100), (gale_ms, gale_ms))
        self.assertAlmostEqual(gale.land_s - gale.turn_s, back_s / 0.75 + 30, delta=1)

    def test_the_timer_is_set_to_the_half_minute_below(self) -> None:
        for work, timer in ((0.7, 0.7), (1.0, 1.0), (1.4, 1.0), (1.5, 1.5), (1.9, 1.5)):
            self.assertAlmostEqual(clock(FlightPlan(work_min=work), from_percent(100)).timer_min, timer, places=4)

    def test_too_little_for_any_turn(self) -> None:
        found = clock(FlightPlan(work_min=8), from_percent(15))
        self.assertLess(found.turn_s, 1)
        self.assertLessEqual(found.land_s, 31)


class Readings(unittest.TestCase):
    @given(
        plan=PLANS,
        charge=CHARGES,
        wind=st.floats(0, 8),
        share=st.floats(0, 1),
        shown=st.lists(st.floats(0, 100), min_size=2, max_size=2),
    )
    def test_a_lower_reading_is_never_later_and_none_is_later_than_the_plan(
        self, plan: FlightPlan, charge: ChargeRange, wind: float, share: float, shown: list[float]
    ) -> None:
        before = clock(plan, charge, (wind, wind))
        at_s = share * before.turn_s
        low, high = (clock(plan, charge, (wind, wind), read=ChargeRead(at_s=at_s, percent=p)) for p in sorted(shown))
        for found in (low, high):
            self.assertTrue(at_s - 0.01 <= found.turn_s < found.land_s <= found.reserve_s <= found.empty_s)
            self.assertLessEqual(found.turn_s, before.turn_s + 0.01)
        used = charge.mid - max(shown)
        assume(used >= 10 or charge.mid - min(shown) < 10)  # both readings tell the rate, or neither
        self.assertLessEqual(low.turn_s, high.turn_s + 0.01)

    def test_twice_the_use_halves_the_rest(self) -> None:
        plan, known = FlightPlan(work_min=60), endurance(QUAD, PACK)
        minute = 100 / known.today.mid
        read = ChargeRead(at_s=240, percent=100 - 8 * minute)
        found = clock(plan, from_percent(100), read=read)
        rest_min = (100 - 8 * minute - 5 - 20) / (2 * 1.1 * minute)
        self.assertAlmostEqual(found.land_s, 240 + 60 * rest_min, delta=2)
        self.assertEqual(found.limit, "charge")

    def test_after_the_turn_it_says_now(self) -> None:
        plan = FlightPlan(work_min=5)
        found = clock(plan, from_percent(100), read=ChargeRead(at_s=400, percent=30))
        self.assertEqual(found.turn_s, 400)

    def test_before_take_off_it_is_refused(self) -> None:
        with self.assertRaises(InputError):
            clock(FlightPlan(work_min=5), from_percent(100), read=ChargeRead(at_s=-1, percent=30))

    def test_the_range_counts_from_its_low_end(self) -> None:
        wide = replace(from_percent(60), low=40.0)
        self.assertLess(
            clock(FlightPlan(work_min=60), wide).land_s, clock(FlightPlan(work_min=60), from_percent(60)).land_s
        )
