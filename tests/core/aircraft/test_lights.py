"""What a light shows: each thing once, in words a coach can say."""

import unittest

from walkround.core.aircraft.lights import Blink, Colour, Light, Shows, Turning


class Lights(unittest.TestCase):
    def test_words(self) -> None:
        self.assertEqual(Light(shows=Shows.DONE, colour=Colour.GREEN).words, "green steady")
        self.assertEqual(Light(shows=Shows.FAILED, colour=Colour.RED, blink=Blink.FAST).words, "red, blinking fast")

    def test_what_is_not_on_record_is_not_guessed(self) -> None:
        turning = Turning(lights=(Light(shows=Shows.DONE, colour=Colour.GREEN),))
        self.assertIsNone(turning.light(Shows.FAILED))
        found = turning.light(Shows.DONE)
        self.assertTrue(found is not None and found.colour is Colour.GREEN)
