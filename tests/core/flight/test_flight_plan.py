"""The plan on the pack: times by hand, winds, reserves, and that asking more never judges better."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, dry_weather, said, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.flight.estimate import endurance
from walkround.core.flight.flight_plan import LANDING_MIN, FlightPlan, judge_flight, needs, winds_at
from walkround.core.flight.power import rotor_power_w
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

    def test_every_number_of_a_plan_by_hand(self) -> None:
        """A wing, the same power everywhere: 11 min a pack, cruise 11 m/s, 3 m/s mean and 3.5 m/s strongest on the nose; hover 1,
        out 600 m, work 2 min. Out 42.857 s, back 80 s: 5.048 min, 45.9 %. Back with landing 16.7 %, reserve 20."""
        asked = needs(
            FlightPlan(hover_min=1, out_m=600, work_min=2), TRAINER, WING, from_percent(80), wind_ms=3, strongest_ms=3.5
        )
        back_min = 600 / 7.5 / 60
        minutes = 1 + 600 / 14 / 60 + 2 + back_min
        self.assertEqual([leg.name for leg in asked.legs], ["Hover", "Out", "Work", "Back"])
        self.assertEqual([leg.ground_ms for leg in asked.legs], [0, 14, 0, 7.5])
        self.assertAlmostEqual(asked.planned_min, minutes)
        self.assertAlmostEqual(asked.planned_percent, 100 * minutes / 11)
        self.assertEqual(asked.turn_back_percent, math.ceil(20 + 100 * (back_min + 0.5) / 11))
        self.assertAlmostEqual(asked.used_of_charge, 100 * (100 * minutes / 11) / 80)
        spread = WING.today.mid / WING.today.low, WING.today.mid / WING.today.high
        for ours, theirs in zip(
            asked.left,
            (
                75 - asked.planned_percent * spread[0],
                80 - asked.planned_percent,
                85 - asked.planned_percent * spread[1],
            ),
            strict=True,
        ):
            self.assertAlmostEqual(ours, theirs)
        self.assertEqual((asked.wind_ms, asked.strongest_ms, asked.cruise_ms, asked.home), (3, 3.5, 11, True))
        self.assertEqual(asked.reserve_percent, 20)

    def test_plans_without_a_way(self) -> None:
        for work in (0.7, 1.0, 1.9):
            asked = needs(FlightPlan(work_min=work), TRAINER, WING, FULL)
            self.assertEqual([leg.name for leg in asked.legs], ["Work"])
            # no way home to fly: landing and reserve alone
            self.assertEqual(asked.turn_back_percent, math.ceil(20 + 100 * 0.5 / 11))
        with self.assertRaises(InputError):
            FlightPlan(work_min=0, hover_min=0, out_m=0)
        self.assertEqual(FlightPlan(out_m=1).work_min, 0)
        self.assertEqual(FlightPlan(hover_min=1).height_m, 30)

    def test_against_strong_wind_it_flies_home_at_its_top_speed(self) -> None:
        """Top 22, cruise 11 m/s; a third of the top, 7.33 m/s, must be left over the ground. Against 3.6 cruise leaves 7.4;
        against 3.7 it does not, and top speed leaves 18.3; against 14.7 nothing does."""
        for wind, home_ms, home in ((3.6, 7.4, True), (3.7, 18.3, True), (14.6, 7.4, True), (14.7, 7.3, False)):
            asked = needs(FlightPlan(out_m=600), TRAINER, WING, FULL, strongest_ms=wind)
            self.assertIs(asked.home, home)
            back = next(leg for leg in asked.legs if leg.name == "Back")
            self.assertAlmostEqual(back.ground_ms, home_ms)
            self.assertAlmostEqual(back.minutes, 600 / max(home_ms, 22 / 3) / 60)
        self.assertEqual(needs(FlightPlan(out_m=20_000), TRAINER, WING, FULL, strongest_ms=9).turn_back_percent, 100)

    def test_forward_flight_of_a_quad_takes_its_own_power(self) -> None:
        asked = needs(FlightPlan(out_m=540), QUAD, KNOWN, FULL)
        out = next(leg for leg in asked.legs if leg.name == "Out")
        self.assertAlmostEqual(out.minutes, 1.0)
        hover, there = rotor_power_w(QUAD, KNOWN.density), rotor_power_w(QUAD, KNOWN.density, 9.0)
        assert hover is not None and there is not None
        self.assertAlmostEqual(out.percent, 100 * there.mid / hover.mid / KNOWN.today.mid)

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
        gusty = dry_weather(wind_ms=None).model_copy(update={"gust_ms": 7.0})
        self.assertEqual(winds_at(gusty, s.site, 10), (0, 7.0), "a gust counts where the mean is not known")


class Judged(unittest.TestCase):
    def test_levels(self) -> None:
        rows = (
            (
                "Vibration on the road loosens parts that held in flight",
                FlightPlan(work_min=4),
                100,
                False,
                [Level.CLEAR, Level.CLEAR],
            ),
            ("over half", FlightPlan(work_min=6), 100, False, [Level.CAUTION, Level.CAUTION]),
            ("over half, half the pack", FlightPlan(work_min=6), 100, True, [Level.GROUNDED, Level.CAUTION]),
            ("into the reserve", FlightPlan(work_min=9.5), 100, False, [Level.GROUNDED, Level.GROUNDED]),
            ("a half pack", FlightPlan(work_min=4), 50, False, [Level.CAUTION, Level.GROUNDED]),
            ("an empty pack", FlightPlan(work_min=1), 0, False, [Level.GROUNDED, Level.GROUNDED]),
        )
        for name, plan, held, half, levels in rows:
            with self.subTest(name):
                found = judge_flight(needs(plan, TRAINER, WING, from_percent(held)), grounds_half=half)
                self.assertEqual([f.level for f in found], levels, [said(f) for f in found])

    def test_the_reserve_at_its_edges(self) -> None:
        asked = needs(FlightPlan(work_min=4), TRAINER, WING, FULL, reserve_percent=20)
        rows = (
            ((20, 20, 30), Level.CLEAR, ""), ((19.9, 20, 30), Level.CAUTION, "Watch the charge"), ((10, 19.9, 30), Level.GROUNDED, "Plan a shorter"),
            ((-8, 25, 30), Level.CAUTION, "Watch the charge"),
        )  # fmt: skip
        for left, level, remedy in rows:
            found = judge_flight(replace(asked, left=left), grounds_half=False)[1]
            self.assertEqual(found.level, level)
            self.assertTrue(found.remedy.startswith(remedy))
            self.assertAlmostEqual(found.margin, (left[1] - 20) / 80)
        self.assertIn("perhaps only 0 %", said(judge_flight(replace(asked, left=(-8, 25, 30)), grounds_half=False)[1]))

    def test_an_empty_plan_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "Enter at least one minute, or a distance"):
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
