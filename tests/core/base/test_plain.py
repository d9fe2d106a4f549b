"""Plain data from outside: whole numbers, JSON and moments, however they are written."""

import json
import math
import unittest
from datetime import UTC, datetime

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.plain import MOST_WHOLE, read_json, sensible, where_broken, whole


class WholeNumbers(unittest.TestCase):
    def test_what_is_one(self) -> None:
        rows = (("0", 0), (" 7 ", 7), ("007", 7), (str(MOST_WHOLE), MOST_WHOLE), (str(MOST_WHOLE + 1), None), ("0" * 5000 + "3", 3),
                ("9" * 5000, None), ("-1", None), ("1.0", None), ("1e3", None), ("", None), ("x", None), ("٣", None), ("1 2", None), ("+1", None))  # fmt: skip
        for text, value in rows:
            with self.subTest(text[:20]):
                self.assertEqual(whole(text), value)
        self.assertEqual([whole(t, 99) for t in ("99", "100")], [99, None])

    @given(st.text(max_size=30))
    def test_any_text_is_a_number_or_none(self, text: str) -> None:
        value = whole(text)
        self.assertTrue(value is None or 0 <= value <= MOST_WHOLE)


class Json(unittest.TestCase):
    def test_mistakes_in_our_words(self) -> None:
        for text in ("", "{", "[1,]", "NaN", "[Infinity]", "[" * 100_000, '{"a": -Infinity}', "\x00"):
            with self.subTest(text[:12]), self.assertRaises(InputError) as caught:
                read_json(text, "That is none.", "file")
            self.assertEqual((caught.exception.message, caught.exception.field), ("That is none.", "file"))

    def test_numbers_without_end_are_not_finite_and_never_a_fault(self) -> None:
        """More than 4,300 digits is what Python itself refuses; more than 17 no float holds exactly."""
        for digits in (18, 400, 5000):
            self.assertEqual(read_json(f"[{'9' * digits}]", "x"), [math.inf])
        self.assertEqual(read_json("[12345678901234567, 1.5]", "x"), [12345678901234567, 1.5])
        self.assertEqual(read_json('\ufeff{"a": 1}', "x"), {"a": 1})

    @given(
        st.recursive(
            st.none() | st.booleans() | st.integers(-(10**15), 10**15) | st.text(),
            lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner),
        )
    )
    def test_what_the_standard_reader_reads(self, value: object) -> None:
        self.assertEqual(read_json(json.dumps(value), "x"), value)

    def test_where_it_breaks(self) -> None:
        self.assertEqual([where_broken(t) for t in ("{", '{\n"a": 1,\n}', "[" * 99_999, "[1]")], [1, 3, 1, 1])


class Moments(unittest.TestCase):
    def test_years_that_can_be_meant(self) -> None:
        for year, good in (
            (1969, False),
            (1970, True),
            (2026, True),
            (2200, True),
            (2201, False),
            (9999, False),
            (1, False),
        ):
            moment = datetime(year, 6, 1, tzinfo=UTC)
            if good:
                self.assertEqual(sensible(moment, "x"), moment)
            else:
                with self.assertRaisesRegex(InputError, "no such year"):
                    sensible(moment, "no such year", "at")
