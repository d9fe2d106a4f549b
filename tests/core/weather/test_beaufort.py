"""The wind as felt: ranges against the law of the scale and its knots, and how it is judged."""

import unittest
from typing import Any

from tests.support import NOW, said, situation
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.units import KNOT_MS
from walkround.core.round.weather_rules import judge_weather
from walkround.core.weather.beaufort import FORCES, force
from walkround.core.weather.weather import by_hand

KNOTS = ((0, 1), (1, 3), (4, 6), (7, 10), (11, 16), (17, 21), (22, 27), (28, 33), (34, 40))
"""Forces 0 to 8 in whole knots. Source: Beaufort scale of the WMO (No. 306, table 1100), from memory."""


def felt(number: int, **changes: Any) -> Finding:
    values = {"wind_ms": None, "gust_ms": None, "wind_from_deg": None, "visibility_m": 9000.0, "sky": "dry",
              "ceiling_m": None, "temperature_c": 15.0, "dew_point_c": 5.0, "qnh_hpa": 1013.0}  # fmt: skip
    weather = by_hand(NOW, **{**values, "felt": number, **changes})
    return next(f for f in judge_weather(weather, situation()) if f.name == "Wind")


class Scale(unittest.TestCase):
    def test_every_force_holds_what_the_law_of_the_scale_gives(self) -> None:
        """v = 0.836 B^1.5 m/s, the equivalence adopted for the scale; source: WMO, from memory."""
        for f in FORCES:
            with self.subTest(f.number):
                self.assertLessEqual(f.least_ms, 0.836 * f.number**1.5)
                self.assertLessEqual(0.836 * f.number**1.5, f.most_ms)

    def test_every_force_holds_the_middle_of_its_knots(self) -> None:
        """The table's two columns are rounded apart by up to 1.5 kt (16 kt is force 4 and 8.2 m/s), so the middles are held."""
        for f, (least, most) in zip(FORCES, KNOTS, strict=True):
            middle_ms = (least + most) / 2 * KNOT_MS if f.number else 0.0
            with self.subTest(f.number):
                self.assertTrue(f.least_ms <= middle_ms <= f.most_ms, middle_ms)

    def test_no_gap_and_no_overlap(self) -> None:
        for low, high in zip(FORCES, FORCES[1:], strict=False):
            self.assertAlmostEqual(high.least_ms - low.most_ms, 0.1)
            self.assertEqual(high.number, low.number + 1)

    def test_no_such_force(self) -> None:
        for number in (-1, 9, 12):
            with self.assertRaises(InputError):
                force(number)


class Judged(unittest.TestCase):
    def test_the_upper_end_counts(self) -> None:
        """Against 15 mph, 6.7 m/s (common practice, no source): force 4 may be within, and asks for a meter."""
        levels = [felt(f.number).level for f in FORCES]
        self.assertEqual(levels[:3], [Level.CLEAR] * 3)
        self.assertEqual(levels[4], Level.CAUTION, "an estimate whose range reaches over the limit: measure it")
        self.assertEqual(levels[5:], [Level.GROUNDED] * 4)
        self.assertEqual(levels, sorted(levels))
        self.assertIn("small branches move: 5.5 m/s to 7.9 m/s, and 7.9 m/s may be over", said(felt(4)))

    def test_it_is_the_wind_at_ten_metres(self) -> None:
        """The scale is defined at 10 m; a meter in the hand is at 2 m, so the same number there means more aloft."""

        def aloft_ms(**wind: Any) -> float:
            values = {"gust_ms": None, "wind_from_deg": None, "visibility_m": None, "sky": "dry", "ceiling_m": None,
                      "temperature_c": 15.0, "dew_point_c": None, "qnh_hpa": None}  # fmt: skip
            found = judge_weather(by_hand(NOW, **{**values, **wind}), situation())
            value = next(f for f in found if f.name == "Wind aloft").value
            assert value is not None
            return value.value

        self.assertLess(aloft_ms(wind_ms=None, felt=2), aloft_ms(wind_ms=3.3))

    def test_measured_and_felt_exclude_each_other(self) -> None:
        for changes, words in (
            ({"wind_ms": 3.0}, "Enter the wind measured or the wind felt, not both. Measured is"),
            ({"felt": None}, "Enter the measured wind"),
            ({"gust_ms": 1.0}, "A gust cannot be below the mean wind. Leave it empty when there are"),
        ):
            with self.subTest(words), self.assertRaises(InputError) as caught:
                felt(3, **changes)
            self.assertIn(words, caught.exception.message)


if __name__ == "__main__":
    unittest.main()
