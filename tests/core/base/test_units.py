"""Units: exact definitions, round trips, words."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.phrase import Phrase, speed, temperature
from walkround.core.base.units import Measure, Quantity, Units, from_pilot, parse_number, parse_quantity, to_pilot

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


class TypedWithUnit(unittest.TestCase):
    """A unit that is typed is never dropped: a known one is converted, another one refused with the right one offered."""

    def test_converted(self) -> None:
        """14 °F = -10 °C, 18 km/h = 5 m/s, 400 ft = 121.92 m, 3900 mV = 3.9 V, 29.92 inHg = 1013.2 hPa: definitions."""
        rows = (
            ("14 F", Measure.TEMPERATURE, -10.0), ("14 °F", Measure.TEMPERATURE, -10.0), ("−10 °C", Measure.TEMPERATURE, -10.0),
            ("18 km/h", Measure.SPEED, 5.0), ("10 kt", Measure.SPEED, 5.1444), ("5", Measure.SPEED, 5.0), ("5 m/s", Measure.SPEED, 5.0),
            ("400ft", Measure.HEIGHT, 121.92), ("1,2 km", Measure.HEIGHT, 1200.0), ("3900 mV", Measure.VOLT, 3.9),
            ("80 %", Measure.PERCENT, 80.0), ("90 sec", Measure.SECOND, 90.0), ("0.5 h", Measure.MINUTE, 30.0),
            ("29.92 inHg", Measure.PRESSURE, 1013.2), ("8 in", Measure.MILLIMETRE, 203.2), ("3 yd", Measure.HEIGHT, 2.743),
        )  # fmt: skip
        for text, measure, inside in rows:
            with self.subTest(text):
                self.assertAlmostEqual(parse_quantity(text, "It", measure, Units()), inside, delta=abs(inside) * 1e-4)

    def test_the_unit_that_is_typed_outweighs_the_one_of_the_settings(self) -> None:
        self.assertAlmostEqual(parse_quantity("50", "It", Measure.TEMPERATURE, FREEDOM), 10)
        self.assertAlmostEqual(parse_quantity("50 C", "It", Measure.TEMPERATURE, FREEDOM), 50)
        self.assertAlmostEqual(parse_quantity("18 F", "It", Measure.TEMPERATURE_STEP, Units()), 10)
        self.assertAlmostEqual(parse_quantity("120 m", "It", Measure.HEIGHT, FREEDOM), 120)

    def test_refused_with_the_right_one_offered(self) -> None:
        rows = (
            ("4 lights", Measure.PERCENT, "%"), ("4 V", Measure.SPEED, "m/s"), ("12 K", Measure.TEMPERATURE, "°C"),
            ("3 m/s", Measure.HEIGHT, "m"), ("5 m", Measure.SPEED, "m/s"), ("2 ft", Measure.VOLT, "V"),
        )  # fmt: skip
        for text, measure, right in rows:
            with self.subTest(text), self.assertRaises(InputError) as caught:
                parse_quantity(text, "It", measure, Units(), "it")
            self.assertIn(f"give it in {right}", str(caught.exception))
            self.assertEqual(caught.exception.offer, {"it": f"{text.split()[0]} {right}"})
        with self.assertRaises(InputError) as caught:
            parse_quantity("3 packs", "It", Measure.COUNT, Units())
        self.assertIn("give the number alone", str(caught.exception))

    @given(st.floats(-40, 130))
    def test_fahrenheit_by_a_second_road(self, warm: float) -> None:
        """-40 is the same in both; from there 9 degrees of one are 5 of the other."""
        ours = parse_quantity(f"{warm:.3f} F", "It", Measure.TEMPERATURE, Units())
        self.assertAlmostEqual(ours, -40 + (round(warm, 3) + 40) * 5 / 9, places=6)
