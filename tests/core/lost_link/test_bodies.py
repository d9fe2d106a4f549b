"""The aircraft as a body: turns, glides and minutes against formulas and facts of the trade."""

import math
import unittest

from tests.support import PACK, PLAIN_PACK, variants
from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.units import MILE_M
from walkround.core.flight.estimate import endurance
from walkround.core.flight.power import times_hover, usual_cruise_ms
from walkround.core.lost_link.bodies import BANK_DEG, body_of, glide_ms, hold_minutes
from walkround.core.weather.atmosphere import GRAVITY_MS2

TRAINER, GLIDER, QUAD = PRESETS["foam-trainer"], PRESETS["glider"], PRESETS["camera-quad"]


class Bodies(unittest.TestCase):
    def test_every_aircraft_has_a_body_for_each_action(self) -> None:
        for aircraft in variants():
            known = endurance(aircraft, PACK)
            for action in actions(aircraft.kind, aircraft.features()):
                body = body_of(aircraft, known, action)
                numbers = (body.mass_kg, body.fall_area_m2, body.glide_ms, body.sink_ms, body.home_ms, body.hover_rate)
                self.assertTrue(all(math.isfinite(n) and n > 0 for n in numbers), (aircraft.name, action))
                self.assertLess(body.sink_ms, body.glide_ms)
                self.assertLessEqual(body.home_ms, body.fast_ms)

    def test_a_gentle_turn(self) -> None:
        """``omega = g tan(bank) / v`` (textbook)."""
        body = body_of(TRAINER, endurance(TRAINER, PLAIN_PACK), Action.CIRCLE)
        exact = math.degrees(GRAVITY_MS2 * math.tan(math.radians(BANK_DEG)) / glide_ms(TRAINER))
        self.assertAlmostEqual(body.turn_deg_s, exact)
        straight = body_of(TRAINER, endurance(TRAINER, PLAIN_PACK), Action.GLIDE)
        self.assertEqual(straight.turn_deg_s, 0)
        self.assertGreater(body.sink_ms, straight.sink_ms, "a turn costs height")

    def test_held_at_half_throttle_it_is_miles_away(self) -> None:
        """15 to 20 minutes, miles: common practice, no source. Minutes times cruise, for the trainer of the practice."""
        known = endurance(TRAINER, PLAIN_PACK)
        minutes = hold_minutes(TRAINER, known, 50)
        self.assertTrue(10 <= minutes <= 25, minutes)
        self.assertGreater(60 * minutes * usual_cruise_ms(TRAINER), 3 * MILE_M)
        self.assertGreater(hold_minutes(TRAINER, known, 25), minutes, "less throttle lasts longer")
        self.assertEqual(hold_minutes(GLIDER, endurance(GLIDER, PACK), 50), 0)

    def test_the_way_home_uses_what_the_power_says(self) -> None:
        known = endurance(QUAD, PACK)
        body = body_of(QUAD, known, Action.RETURN)
        self.assertAlmostEqual(body.home_rate / body.hover_rate, times_hover(QUAD, known.density, body.home_ms))
        slow = body_of(QUAD, known, Action.RETURN, home_ms=5)
        self.assertEqual((slow.home_ms, slow.fast_ms), (5, 5), "a set speed is flown")
