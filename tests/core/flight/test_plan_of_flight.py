"""The plan on the pack: times by hand, winds, reserves, and that asking more never judges better."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK, dry_weather, said, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.flight.estimate import endurance
from walkround.core.flight.plan_of_flight import LANDING_MIN, FlightPlan, judge_flight, needs, winds_at
from walkround.core.packs.charge import FULL, from_percent

QUAD, TRAINER = PRESETS["camera-quad"], PRESETS["foam-trainer"]
BIG = PACK.model_copy(update={"capacity_mah": 3500})
KNOWN, WING = endurance(QUAD, BIG), endurance(TRAINER, PACK)


class ByHand(unittest.TestCase):
    def test_out_and_back_in_wind(self) -> None:
        """600 m at 11 m/s: out with 3 m/s behind 42.9 s, back against 3 m/s 75 s. Wind on the nose: arithmetic."""
        asked = needs(FlightPlan(out_m=600, work_min=2), TRAINER, WING, FULL, wind_ms=3, strongest_ms=3)
        legs = {leg.name: leg for leg in asked.legs}
        self.assertAlmostEqual(legs["Out"].minutes * 60, 600 / 14, delta=0.01)
        self.assertAlmostEqual(legs["Back"].minutes * 60, 600 / 8, delta=0.01)
        self.assertAlmostEqual(asked.planned_min, 2 + (600 / 14 + 600 / 8) / 60)
        self.assertEqual((legs["Out"].ground_ms, legs["Back"].ground_ms, legs["Work"].ground_ms), (14, 8, 0))

    def test_shares_of_a_wing_are_minutes_over_minutes(self) -> None:
        """A wing takes the same everywhere: 4 of 11 minutes are 36.4 %."""
        asked = needs(FlightPlan(work_min=4), TRAINER, WING, FULL)
        self.assertAlmostEqual(asked.planned_percent, 100 * 4 / 11)
        self.assertAlmostEqual(asked.left[1], 100 - 100 * 4 / 11)

    def test_turn_back_keeps_the_way_home_the_landing_and_the_reserve(self) -> None:
        asked = needs(FlightPlan(out_m=600, work_min=2), TRAINER, WING, FULL, strongest_ms=4, reserve_percent=20)
        home = next(leg for leg in asked.legs if leg.name == "Back").percent
        self.assertAlmostEqual(asked.turn_back_percent, 20 + home + 100 * LANDING_MIN / 11, delta=1)
        self.assertGreaterEqual(asked.turn_back_percent, 20 + home + 100 * LANDING_MIN / 11)

    def test_hovering_takes_more_than_travelling(self) -> None:
        hover = needs(FlightPlan(hover_min=2), QUAD, KNOWN, FULL).planned_percent
        asked = needs(FlightPlan(out_m=2 * 60 * 9), QUAD, KNOWN, FULL)
        self.assertLess(next(leg for leg in asked.legs if leg.name == "Out").percent, hover)

    def test_wind_up_there(self) -> None:
        """The one-seventh law over grass: (45 / 10)^(1/7) = 1.24 (see test_atmosphere for its source)."""
        s = situation(weather=dry_weather(wind_ms=4))
        mean, strongest = winds_at(s.weather, s.site, 45)
        self.assertAlmostEqual(mean / 4, 1.24, delta=0.005)
        self.assertGreaterEqual(strongest, mean)
        self.assertEqual(winds_at(None, s.site, 45), (0, 0))


class Judged(unittest.TestCase):
    def test_levels(self) -> None:
        rows = (
            ("a short flight", FlightPlan(work_min=4), 100, False, [Level.CLEAR, Level.CLEAR]),
            ("over half", FlightPlan(work_min=6), 100, False, [Level.CARE, Level.CARE]),
            ("over half, half the pack", FlightPlan(work_min=6), 100, True, [Level.GROUNDED, Level.CARE]),
            ("into the reserve", FlightPlan(work_min=9.5), 100, False, [Level.GROUNDED, Level.GROUNDED]),
            ("a half pack", FlightPlan(work_min=4), 50, False, [Level.CARE, Level.GROUNDED]),
            ("an empty pack", FlightPlan(work_min=1), 0, False, [Level.GROUNDED, Level.GROUNDED]),
        )
        for name, plan, held, half, levels in rows:
            with self.subTest(name):
                found = judge_flight(needs(plan, TRAINER, WING, from_percent(held)), grounds_half=half)
                self.assertEqual([f.level for f in found], levels, [said(f) for f in found])

    def test_an_empty_plan_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "at least a minute"):
            FlightPlan()

    @given(st.floats(0, 30), st.floats(0, 2000), st.floats(0, 20), st.floats(0, 10), st.floats(0, 500), st.floats(0, 6))
    def test_asking_more_never_judges_better(
        self, work: float, out: float, wind: float, more: float, farther: float, windier: float
    ) -> None:
        less = needs(FlightPlan(hover_min=0.1, work_min=work, out_m=out), QUAD, KNOWN, FULL, strongest_ms=wind)
        more_asked = needs(
            FlightPlan(hover_min=0.1, work_min=work + more, out_m=out + farther), QUAD, KNOWN, FULL, strongest_ms=wind
        )
        for one, other in zip(
            judge_flight(less, grounds_half=True), judge_flight(more_asked, grounds_half=True), strict=False
        ):
            self.assertLessEqual(one.level, other.level)
        self.assertLessEqual(less.planned_percent, more_asked.planned_percent + 1e-9)
        gust = needs(FlightPlan(work_min=1, out_m=100), QUAD, KNOWN, FULL, strongest_ms=wind + windier)
        calm = needs(FlightPlan(work_min=1, out_m=100), QUAD, KNOWN, FULL, strongest_ms=wind)
        self.assertLessEqual(gust.home, calm.home)

    @given(st.floats(0, 100), st.floats(0, 100), st.floats(0.5, 20))
    def test_more_charge_never_judges_worse(self, held: float, more: float, work: float) -> None:
        plan = FlightPlan(work_min=work)
        low = judge_flight(needs(plan, QUAD, KNOWN, from_percent(held)), grounds_half=True)
        high = judge_flight(needs(plan, QUAD, KNOWN, from_percent(min(100, held + more))), grounds_half=True)
        for one, other in zip(low, high, strict=True):
            self.assertGreaterEqual(one.level, other.level)
