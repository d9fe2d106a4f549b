"""The emergency card: the pilot's own words first, else what holds for the kind; nothing of a motor for what has none."""

import unittest

from tests.support import QUAD, variants
from walkround.core.aircraft.emergency import STOP_ENGINE, STOP_GLIDER, STOPS, emergency_card, stop_words
from walkround.core.aircraft.traits import Kind, Trait


class Card(unittest.TestCase):
    def test_own_words_come_first(self) -> None:
        own = QUAD.model_copy(update={"stop_words": "Both sticks down and in, three seconds."})
        card = emergency_card(own)
        self.assertEqual((card.stop, card.own), ("Both sticks down and in, three seconds.", True))
        self.assertFalse(emergency_card(QUAD).own)
        self.assertEqual(emergency_card(QUAD).stop, STOPS[Kind.MULTIROTOR])

    def test_every_aircraft_has_a_card_that_fits_it(self) -> None:
        for aircraft in variants():
            card, motor = emergency_card(aircraft), aircraft.has(Trait.MOTOR)
            self.assertTrue(card.stop and card.ground, aircraft.name)
            self.assertEqual(bool(card.air), motor, aircraft.name)
            self.assertEqual(bool(card.home), aircraft.has(Trait.RETURN_HOME), aircraft.name)
            if not motor:
                self.assertEqual(stop_words(aircraft), STOP_GLIDER)
            elif aircraft.has(Trait.LIQUID_FUEL):
                self.assertEqual(stop_words(aircraft), STOP_ENGINE)

    def test_how_to_come_home_is_the_pilot_s_own_where_it_is_on_record(self) -> None:
        own = QUAD.model_copy(update={"home_words": "Hold H for two seconds."})
        self.assertEqual(emergency_card(own).home[0], "Hold H for two seconds.")
        self.assertIn("button", emergency_card(QUAD).home[0])
