"""Readings: every way to mistype one, and what an inspection brings."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.support import NOW, PACK
from walkround.core.base.errors import InputError
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import CellReading, Reading, parse_cells, parse_resistance


class Typing(unittest.TestCase):
    def wrong(self, cells: list[str], total: str = "", pack: Pack = PACK) -> InputError:
        with self.assertRaises(InputError) as caught:
            parse_cells(cells, total, pack)
        return caught.exception

    def test_good_readings(self) -> None:
        rows = (
            ("plain", ["4.20", "4.18", "4.19"], "", (4.20, 4.18, 4.19)),
            ("comma decimals", ["4,20", "4,18", "4,19"], "", (4.20, 4.18, 4.19)),
            ("with the unit", ["4.20V", "4.18 v", "4.19V"], "", (4.20, 4.18, 4.19)),
            ("pasted into the first field", ["4.20 / 4.18 / 4.19", "", ""], "", (4.20, 4.18, 4.19)),
        )
        for name, cells, total, expected in rows:
            with self.subTest(name):
                cleaned = [c.replace(" v", "v") for c in cells]
                self.assertEqual(parse_cells(cleaned, total, PACK).cells_v, expected)

    def test_a_total_alone(self) -> None:
        self.assertEqual(parse_cells(["", "", ""], "12.25", PACK), CellReading(total_v=12.25))

    def test_mistakes_name_field_and_way_out(self) -> None:
        rows = (
            ("nothing", ["", "", ""], "", "cell_1", "Enter the 3 cell voltages"),
            ("one empty", ["4.2", "", "4.2"], "", "cell_2", "Cell 2 is empty"),
            ("one only a separator", ["4.2", "4.2", ";"], "", "cell_3", "Cell 3 is empty"),
            ("text", ["4.2", "full", "4.2"], "", "cell_2", "is not a number"),
            ("negative", ["4.2", "-4.1", "4.2"], "", "cell_2", "leads reversed"),
            ("99 volts", ["99", "4.2", "4.2"], "", "cell_1", "is not plausible for a lithium-polymer cell"),
            ("four for three", ["4.2 4.2 4.2 4.2", "", ""], "", "cell_1", "has 3 cells. You entered 4"),
            ("total negative", ["", "", ""], "-12", "total", "leads reversed"),
            ("total too high", ["", "", ""], "25", "total", "more than 3 cells can show"),
            ("total of words", ["", "", ""], "twelve", "total", "is not a number"),
            ("not finite", ["4.2", "nan", "4.2"], "", "cell_2", "is not a number"),
        )
        for name, cells, total, field, words in rows:
            with self.subTest(name):
                error = self.wrong(cells, total)
                self.assertEqual(error.field, field)
                self.assertIn(words, error.message)

    def test_millivolts_are_offered_as_volts(self) -> None:
        error = self.wrong(["4200", "4180", "4190"])
        self.assertIn("millivolts", error.message)
        self.assertEqual(error.offer, {"cell_1": "4.2", "cell_2": "4.18", "cell_3": "4.19"})
        again = parse_cells(list(error.offer.values()), "", PACK)
        self.assertEqual(again.cells_v, (4.2, 4.18, 4.19))

    def test_each_bound_at_its_edge(self) -> None:
        """One lithium-polymer cell shows at most 4.5 V; 900 and more are millivolts: our choice."""
        for first, good in (
            ("0", True),
            ("4.5", True),
            ("4.51", False),
            ("899", False),
            ("900", False),
            ("4500", False),
        ):
            with self.subTest(first):
                if good:
                    self.assertEqual(parse_cells([first, "4.2", "4.2"], "", PACK).cells_v[0], float(first))
                    continue
                error = self.wrong([first, "4.2", "4.2"])
                self.assertEqual("millivolts" in error.message, float(first) >= 900)
                if error.offer:
                    self.assertEqual(
                        error.offer, {"cell_1": f"{float(first) / 1000:g}", "cell_2": "4.2", "cell_3": "4.2"}
                    )
                    self.assertIn(f"that is {float(first) / 1000:.2f} V", error.message)
        self.assertIn("is not plausible", self.wrong(["4501", "4.2", "4.2"]).message)
        for total, good in (("0", True), ("13.5", True), ("13.51", False), ("900", False), ("13500", False)):
            with self.subTest(total):
                if good:
                    self.assertEqual(parse_cells(["", "", ""], total, PACK).total_v, float(total))
                else:
                    offer = self.wrong(["", "", ""], total).offer
                    wanted = {"total": f"{float(total) / 1000:g}"} if float(total) >= 900 else {}
                    self.assertEqual(offer or {}, wanted)
        self.assertNotIn("millivolts", self.wrong(["", "", ""], "13501").message)
        self.assertIn("that is 12.25 V", self.wrong(["", "", ""], "12250").message)

    def test_the_total_is_that_of_the_cells(self) -> None:
        self.assertEqual(parse_cells(["4.2011", "4.1804", "4.19"], "", PACK).total_v, 12.572)
        self.assertAlmostEqual(parse_cells(["4.2", "4.1", "4.3"], "", PACK).mean_v(3), 4.2)
        self.assertIn("You entered 2", self.wrong(["4.2 4.1"], "").message, "one field, so none of them is empty")

    def test_total_in_millivolts(self) -> None:
        self.assertEqual(self.wrong(["", "", ""], "12250").offer, {"total": "12.25"})

    @given(st.lists(st.text(max_size=12), min_size=3, max_size=3), st.text(max_size=12))
    def test_whatever_is_typed_is_read_or_refused_in_words(self, cells: list[str], total: str) -> None:
        try:
            reading = parse_cells(cells, total, PACK)
        except InputError as error:
            self.assertTrue(error.message and error.field)
        else:
            self.assertGreaterEqual(reading.total_v, 0)


class Resistance(unittest.TestCase):
    def test_readings(self) -> None:
        rows = (("", ()), ("4.9", (4.9,)), ("4,9 5,0 5,3", (4.9, 5.0, 5.3)), ("4.9/5/5.3 mΩ", (4.9, 5.0, 5.3)))
        for text, expected in rows:
            with self.subTest(text):
                self.assertEqual(parse_resistance(text.replace(" mΩ", "mΩ"), PACK), expected)

    def test_mistakes(self) -> None:
        rows = (
            ("two for three cells", "4 5", "or 3, one per cell. You entered 2"),
            ("negative", "-4", "is not plausible"),
            ("nought", "0 4 5", "is not plausible"),
            ("in ohms", "0.005 0.005 0.006", "that is 5 mΩ"),
            ("a broken lead", "9000", "is too high for a usable pack"),
            ("words", "low", "is not a number"),
        )
        for name, text, words in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                parse_resistance(text, PACK)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "resistance")

    def test_edges(self) -> None:
        """500 mΩ a cell at most; below 0.2 of several, it is ohms: our choice."""
        self.assertEqual(parse_resistance("1500", PACK), (1500,))
        self.assertEqual(parse_resistance("0.2 0.2 0.3", PACK), (0.2, 0.2, 0.3))
        self.assertEqual(parse_resistance("0.1", PACK), (0.1,), "one value for the pack may be small")
        for text in ("1500.1", "0.19 0.2 0.3", "0"):
            with self.assertRaises(InputError):
                parse_resistance(text, PACK)

    def test_ohms_are_offered_in_milliohms(self) -> None:
        with self.assertRaises(InputError) as caught:
            parse_resistance("0.005 0.0052 0.006", PACK)
        self.assertEqual(caught.exception.offer, {"resistance": "5 5.2 6"})

    def test_cells_in_series_add(self) -> None:
        self.assertAlmostEqual(Reading(at=NOW, resistance_mohm=(15,)).cell_mohm(PACK) or 0, 5)
        self.assertAlmostEqual(Reading(at=NOW, resistance_mohm=(4, 5, 6)).cell_mohm(PACK) or 0, 6, msg="the worst cell")
        self.assertIsNone(Reading(at=NOW, percent=50).cell_mohm(PACK))


class Readings(unittest.TestCase):
    def test_an_empty_one_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "Enter at least one value: cells, percentage, LEDs, resistance,"):
            Reading(at=NOW)

    def test_nought_is_a_number(self) -> None:
        for said in ({"percent": 0}, {"lights": 0}, {"temperature_c": 0}):
            self.assertEqual(Reading(at=NOW, **said).at, NOW)

    def test_spread_and_mean(self) -> None:
        reading = Reading(at=NOW, cells_v=(4.1, 4.2, 4.15))
        self.assertAlmostEqual(reading.imbalance_v() or 0, 0.1)
        self.assertAlmostEqual(reading.mean_v(PACK) or 0, 4.15)
        self.assertAlmostEqual(Reading(at=NOW, total_v=12.3).mean_v(PACK) or 0, 4.1)
        self.assertIsNone(Reading(at=NOW, percent=50).mean_v(PACK))
        self.assertIsNone(Reading(at=NOW, cells_v=(4.1,)).imbalance_v())
        self.assertEqual(Reading(at=NOW, cells_v=(4.1, 4.2)).imbalance_v(), 0.1)
        self.assertEqual(Reading(at=NOW, cells_v=(4.1, 4.10006)).imbalance_v(), 0.0001)
        with self.assertRaises(ValidationError):
            Reading(at=NOW, lights=5)
        self.assertEqual(Reading.model_validate({"at": NOW, "lights": 4}).lights, 4)
