"""What is spoken in a flight: in order, the routine of this aircraft and day, the calls of the clock to the second."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE, TRAINER, dry_weather, piece, situation, variants, with_history
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.answers.flight import Planned
from walkround.core.answers.number import Measured
from walkround.core.base.units import Units
from walkround.core.checklist.check import Phase
from walkround.core.flight.flight_clock import ChargeRead, FlightClock
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.flight.session import GearLasts
from walkround.core.round.context import Context
from walkround.core.round.in_air import (
    APART_S,
    CHARGE_UNKNOWN,
    WIND_UNKNOWN,
    Call,
    Tone,
    before_landing,
    calls_of,
    countdown_s,
    in_air,
    routine,
    wind_words,
)
from walkround.core.round.plan import make_plan

CLOCKS = st.builds(
    lambda turn, back, spare, reserve: FlightClock(
        turn_s=turn, land_s=turn + back, reserve_s=turn + back + spare, empty_s=turn + back + spare + reserve, turn_percent=40, limit="plan"
    ),
    st.floats(1, 3000), st.floats(5, 400), st.floats(0, 600), st.floats(1, 600),
)  # fmt: skip
AIR = ("first.hover", "first.holds", "first.moves")


def of_tone(calls: tuple[Call, ...], tone: Tone) -> list[Call]:
    """The calls of one kind."""
    return [call for call in calls if call.tone is tone]


class Calls(unittest.TestCase):
    @given(
        clock=CLOCKS,
        asked=st.sets(st.sampled_from([*AIR, "first.trim", "first.low_hop", "first.rust", "first.by_eye"])),
    )
    def test_in_order_and_complete(self, clock: FlightClock, asked: set[str]) -> None:
        for aircraft in (QUAD, TRAINER):
            calls = calls_of(clock, aircraft, asked, seconds=5)
            self.assertEqual([c.at_s for c in calls], sorted(c.at_s for c in calls))
            turn, land = of_tone(calls, Tone.TURN), of_tone(calls, Tone.LAND)
            self.assertEqual([(c.at_s, c.text) for c in turn], [(clock.turn_s, "Turn back now.")])
            self.assertEqual((land[0].at_s, land[0].text), (clock.land_s, "Land now."))
            self.assertTrue(all("Land now." in call.text for call in land))
            spoken = [c for c in calls if c.at_s >= 0 and c.tone is Tone.ROUTINE]
            self.assertTrue(all(c.at_s <= clock.turn_s - APART_S + 1e-9 for c in spoken), "no routine after the turn")
            for line in spoken:
                near = [
                    c
                    for c in calls
                    if c is not line and c.tone is not Tone.ROUTINE and abs(c.at_s - line.at_s) < APART_S - 1e-9
                ]
                self.assertEqual(near, [], "a line is not talked over")

    def test_a_flight_to_the_second(self) -> None:
        clock = FlightClock(turn_s=400, land_s=480, reserve_s=500, empty_s=700, turn_percent=45, limit="plan")
        calls = calls_of(clock, QUAD, AIR, seconds=5, wind="Wind up there 3 knots.", turn_percent=42)
        self.assertEqual(
            [(c.at_s, c.text) for c in calls if c.at_s < 0],
            [(-5, "Five."), (-4, "Four."), (-3, "Three."), (-2, "Two."), (-1, "One.")],
        )
        self.assertEqual(
            [(c.at_s, c.text) for c in calls if 0 <= c.at_s < 12],
            [(1, "Hover at head height. Listen."), (6, "Five."), (11, "Ten.")],
        )
        timed = {c.text: c.at_s for c in calls if c.tone is not Tone.ROUTINE}
        self.assertEqual(timed["Half. Wind up there 3 knots."], 240)
        self.assertEqual(timed["Turn back in one minute. Or at 42 percent."], 340)
        self.assertEqual(timed[before_landing(QUAD)], 455)
        self.assertEqual(timed["One minute over. The reserve is being used. Land now."], 540)

    def test_hands_off_only_where_position_and_height_are_held(self) -> None:
        bare = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.SATNAV}})
        self.assertIn("Hands off the sticks, thumbs ready. Does it hold?", [text for _, text in routine(QUAD, AIR)])
        for aircraft in variants():
            asked = {p.check.id for p in make_plan(situation(aircraft)).checks if p.check.phase is Phase.AIR}
            said = [text for _, text in routine(aircraft, asked)]
            if any("Hands off" in text for text in said):
                self.assertTrue(
                    aircraft.kind is Kind.MULTIROTOR
                    and aircraft.has(Trait.SATNAV)
                    and aircraft.has(Trait.FLIGHT_CONTROLLER)
                )
        self.assertNotIn("Hands off the sticks, thumbs ready. Does it hold?", [text for _, text in routine(bare, AIR)])

    def test_moves_are_those_of_the_aircraft(self) -> None:
        self.assertIn("Up and down.", [t for _, t in routine(QUAD, ("first.moves",))])
        said = [t for _, t in routine(TRAINER, ("first.moves",))]
        self.assertIn("Nose up and down.", said)
        self.assertNotIn("Up and down.", said)

    def test_before_landing_names_the_gear_that_there_is(self) -> None:
        with_gear = TRAINER.model_copy(update={"traits": TRAINER.traits | {Trait.RETRACTS, Trait.FLAPS}})
        self.assertEqual(before_landing(with_gear), "Before landing: spot clear? Wind? Gear down. Flaps. People?")
        self.assertNotIn("Gear", before_landing(QUAD))

    def test_a_hand_launch_has_a_longer_count(self) -> None:
        self.assertEqual(countdown_s(QUAD, "mat"), 5)
        self.assertEqual(countdown_s(QUAD, "hand"), 10)
        glider = TRAINER.model_copy(update={"traits": TRAINER.traits | {Trait.HAND_LAUNCH}})
        self.assertEqual(countdown_s(glider, "mat"), 10)
        clock = FlightClock(turn_s=400, land_s=480, reserve_s=500, empty_s=700, turn_percent=45, limit="plan")
        self.assertEqual(calls_of(clock, glider, (), seconds=10)[0], Call(at_s=-10, text="Ten."))

    def test_the_wind_is_spoken_in_the_pilot_s_units(self) -> None:
        self.assertEqual(wind_words(3.2, 225, Units()), "Wind up there 3 metres a second from the south-west.")
        self.assertEqual(wind_words(5.144, None, Units(speed="kt")), "Wind up there 10 knots.")
        self.assertEqual(wind_words(0.2, 90, Units()), "")
        self.assertIn("from the north.", wind_words(3, 350, Units()))


class OfARound(unittest.TestCase):
    def test_it_is_the_plan_of_the_round_in_its_weather(self) -> None:
        calm, windy = (in_air(Context(situation(weather=dry_weather(wind_ms=w)), {}), AIR, Units()) for w in (1, 8))
        self.assertLessEqual(windy.clock.turn_s, calm.clock.turn_s)
        self.assertEqual(calm.clock, Context(situation(weather=dry_weather(wind_ms=1)), {}).flight_clock())
        self.assertTrue(any("Half. Wind up there" in call.text for call in windy.calls))

    def test_what_it_does_not_know_is_said(self) -> None:
        known = situation(weather=dry_weather())
        self.assertEqual(in_air(Context(known, {}), AIR, Units()).unknown, ())
        blind = with_history(situation(), pack_summary=None)
        found = in_air(Context(blind, {}), AIR, Units())
        self.assertEqual(found.unknown, (CHARGE_UNKNOWN, WIND_UNKNOWN))
        self.assertTrue(any(call.text == "Half. The wind is not known." for call in found.calls))
        hall = situation(site=SITE.model_copy(update={"indoors": True}))
        self.assertEqual(in_air(Context(hall, {}), AIR, Units()).unknown, ())

    def test_a_charge_read_in_the_air_moves_the_calls(self) -> None:
        context = Context(situation(), {})
        before = in_air(context, AIR, Units())
        after = in_air(context, AIR, Units(), ChargeRead(at_s=120, percent=40))
        self.assertLess(after.clock.land_s, before.clock.land_s)
        self.assertLess(of_tone(after.calls, Tone.LAND)[0].at_s, of_tone(before.calls, Tone.LAND)[0].at_s)


class OwnFigure(unittest.TestCase):
    @given(st.floats(0, 100), st.sampled_from([0.0, 60.0, 150.0]))
    def test_the_flight_is_called_back_by_whichever_is_earlier(self, own: float, out_m: float) -> None:
        plan = piece("pack.plan", Planned(plan=FlightPlan(work_min=4, out_m=out_m)))
        asked = {"pack.plan": plan, "link.turn_back": piece("link.turn_back", Measured(value=own), 2)}
        before, after = (in_air(Context(situation(), given), (), Units()) for given in ({"pack.plan": plan}, asked))
        assert before.turn_percent is not None and after.turn_percent is not None
        self.assertEqual(after.turn_percent, max(before.turn_percent, own))
        self.assertLessEqual(after.clock.turn_s, before.clock.turn_s, "and never later by the clock")


class OtherGear(unittest.TestCase):
    def test_the_weakest_is_named_and_its_charge_sets_the_times(self) -> None:
        gear = (GearLasts(name="Transmitter", minutes=200), GearLasts(name="Phone or tablet", minutes=3))
        short = in_air(Context(with_history(situation(), gear=gear), {}), (), Units())
        self.assertIn("Phone or tablet may be empty first: these times count from its charge.", short.unknown)
        self.assertLessEqual(short.clock.land_s, 180 + 1e-6)
        plain = in_air(Context(situation(), {}), (), Units())
        self.assertFalse([words for words in plain.unknown if "first" in words])
