"""Units: exact definitions, round trips, words."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.phrase import Phrase, speed, temperature
from walkround.core.base.units import Measure, Quantity, Units, from_pilot, parse_number, to_pilot

FREEDOM = Units(speed="mph", height="ft", temperature="°F")


class Conversion(unittest.TestCase):
    def test_known_pairs(self) -> None:
        """Exact: 15 mph = 6.7056 m/s, 1 kt = 1852/3600 m/s, 400 ft = 121.92 m, 32 °F = 0 °C.
        Source: SI Brochure (knot), international yard and pound agreement 1959."""
        rows = (
            (6.7056, Measure.SPEED, Units(speed="mph"), 15),
            (10, Measure.SPEED, Units(speed="km/h"), 36),
            (1852 / 3600, Measure.SPEED, Units(speed="kt"), 1),
            (121.92, Measure.HEIGHT, FREEDOM, 400),
            (4828.032, Measure.DISTANCE, FREEDOM, 3),
            (10_000, Measure.DISTANCE, Units(), 10),
            (0, Measure.TEMPERATURE, FREEDOM, 32),
            (-40, Measure.TEMPERATURE, FREEDOM, -40),
            (10, Measure.TEMPERATURE_STEP, FREEDOM, 18),
        )
        for inside, measure, units, shown in rows:
            with self.subTest(f"{inside} {measure}"):
                self.assertAlmostEqual(to_pilot(inside, measure, units), shown, places=9)
                self.assertAlmostEqual(from_pilot(shown, measure, units), inside, places=9)

    @given(
        st.floats(-1e5, 1e5),
        st.sampled_from(list(Measure)),
        st.sampled_from(["m/s", "kt", "mph", "km/h"]),
        st.sampled_from(["m", "ft"]),
        st.sampled_from(["°C", "°F"]),
    )
    def test_there_and_back(self, value: float, measure: Measure, speed_: str, height: str, degrees: str) -> None:
        units = Units(speed=speed_, height=height, temperature=degrees)
        self.assertAlmostEqual(from_pilot(to_pilot(value, measure, units), measure, units), value, delta=1e-6)


class Words(unittest.TestCase):
    def test_quantities(self) -> None:
        rows = (
            (Quantity(value=6.7056, measure=Measure.SPEED), Units(), "6.7 m/s"),
            (Quantity(value=6.7056, measure=Measure.SPEED), FREEDOM, "15 mph"),
            (Quantity(value=143.4, measure=Measure.DEGREE), Units(), "143°"),
            (Quantity(value=0.02, measure=Measure.VOLT), Units(), "0.02 V"),
            (Quantity(value=2.5, measure=Measure.HEIGHT), Units(), "2.5 m"),
            (Quantity(value=3, measure=Measure.HEIGHT), Units(), "3 m"),
            (Quantity(value=28.4, measure=Measure.HEIGHT), Units(), "28 m"),
            (Quantity(value=3, measure=Measure.COUNT), Units(), "3"),
            (Quantity(value=1, measure=Measure.DAY), Units(), "1 day"),
            (Quantity(value=9, measure=Measure.DAY), Units(), "9 days"),
            (Quantity(value=-0.2, measure=Measure.TEMPERATURE), Units(), "0 °C"),
        )
        for quantity, units, words in rows:
            with self.subTest(words):
                self.assertEqual(quantity.say(units).replace("\u202f", " "), words)

    def test_a_phrase_follows_the_units(self) -> None:
        phrase = Phrase.of("Gust {value} at {air}.", value=speed(6.7056), air=temperature(0))
        self.assertEqual(phrase.say(Units()).replace("\u202f", " "), "Gust 6.7 m/s at 0 °C.")
        self.assertEqual(phrase.say(FREEDOM).replace("\u202f", " "), "Gust 15 mph at 32 °F.")

    def test_braces_in_a_note_stay(self) -> None:
        self.assertEqual(Phrase(text="Not done: {oops}").say(Units()), "Not done: {oops}")


class Typed(unittest.TestCase):
    def test_good(self) -> None:
        for text, value in (
            ("12.5", 12.5),
            ("12,5", 12.5),
            (" 7 ", 7),
            ("-3", -3),
            ("\u22123", -3),
            (".5", 0.5),
            ("5.", 5),
        ):
            with self.subTest(text):
                self.assertEqual(parse_number(text, "It"), value)

    def test_bad(self) -> None:
        for text in ("", "  ", "abc", "1.2.3", "1e5", "inf", "nan", "--3", "9" * 30, "0x10"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                parse_number(text, "Wind", "wind")
            self.assertTrue(caught.exception.message.startswith("Wind"))
            self.assertEqual(caught.exception.field, "wind")
