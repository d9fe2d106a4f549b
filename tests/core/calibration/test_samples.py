"""Samples as they come: headers or none, marks and blanks, units told by their size, what is broken dropped and said."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.calibration.test_ellipsoid import made
from walkround.core.base.errors import InputError
from walkround.core.calibration.samples import (
    IN_UT,
    FieldUnit,
    as_csv,
    likely_unit,
    read_samples,
    read_throttle,
)
from walkround.core.sensors.columns import MOST_ROWS

ROWS = [(1.0, 2.0, 3.0), (-4.5, 5.0, 6.25)]


class Reading(unittest.TestCase):
    def test_every_form(self) -> None:
        for text in (
            "1 2 3\n-4.5 5 6.25",
            "x,y,z\n1,2,3\n-4.5,5,6.25",
            "time,mag_x,mag_y,mag_z,ax,ay,az\n0,1,2,3,9,9,9\n1,-4.5,5,6.25,9,9,9",
            "t;MagX;MagY;MagZ\n0;1,0;2,0;3,0\n1;-4,5;5,0;6,25",
            "0.00\t1\t2\t3\n0.02\t-4.5\t5\t6.25",
            "# made by hand\n\n1 2 3\n-4.5 5 6.25\n",
            "ax,ay,az,mx,my,mz\n9,9,9,1,2,3\n9,9,9,-4.5,5,6.25",
            '{"t": 0, "mag_x": 1, "mag_y": 2, "mag_z": 3}\n{"t": 1, "mag_x": -4.5, "mag_y": 5, "mag_z": 6.25}',
        ):
            self.assertEqual(read_samples(text).values.tolist(), [list(row) for row in ROWS], text)

    def test_what_is_broken_is_dropped_and_said(self) -> None:
        found = read_samples("x,y,z\n1,2,3\nnan,1,1\n4,5\n-4.5,5,6.25\ninf,0,0\n7,8,")
        self.assertEqual(found.values.tolist(), [list(row) for row in ROWS])
        self.assertEqual(dict(found.dropped), {"not three numbers": 2, "not a number": 2})

    def test_where_down_was(self) -> None:
        found = read_samples("mag_x,mag_y,mag_z,acc_x,acc_y,acc_z\n1,2,3,0,0,-9.8\n4,5,6,0,-9.8,0")
        self.assertTrue(np.allclose(found.down, [[0, 0, 9.8], [0, 9.8, 0]]))
        self.assertIsNone(read_samples("mag_x,mag_y,mag_z\n1,2,3").down)
        self.assertIsNone(read_samples("mag_x,mag_y,mag_z,acc_x,acc_y,acc_z\n1,2,3,0,0,-9.8\n4,5,6,,,").down)

    def test_lines_that_only_begin_like_json(self) -> None:
        for text in ('{"x": 1', "{1, 2, 3}", "{}\n[1]"):
            with self.assertRaises(InputError):
                read_samples(text)

    def test_nothing_to_read(self) -> None:
        for text in ("", "\n\n", "x,y,z\n", "hello there", "1 2\n3 4", "nan nan nan"):
            with self.assertRaises(InputError):
                read_samples(text)

    def test_a_very_long_one_is_thinned(self) -> None:
        found = read_samples("1 2 3\n" * 1_000_000)
        self.assertEqual(found.rows, 1_000_000)
        self.assertLessEqual(len(found.values), MOST_ROWS)

    @given(st.lists(st.tuples(*[st.floats(-1e4, 1e4)] * 3), min_size=1, max_size=30))
    def test_written_and_read_again(self, rows: list[tuple[float, float, float]]) -> None:
        again = read_samples(as_csv(np.array(rows))).values
        self.assertTrue(np.allclose(again, np.array(rows), rtol=1e-5, atol=1e-9))

    @given(st.text(max_size=300))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        try:
            found = read_samples(text)
        except InputError:
            return
        self.assertTrue(np.isfinite(found.values).all())


class Throttle(unittest.TestCase):
    def test_told_by_its_size(self) -> None:
        for scale, add in ((1, 0), (100, 0), (1000, 1000)):
            rows = "\n".join(f"{add + scale * t / 10},{3 + t},0,4" for t in range(11))
            found = read_throttle(f"throttle,mag_x,mag_y,mag_z\n{rows}")
            self.assertTrue(np.allclose(found.throttle, np.arange(11) / 10), scale)
            self.assertAlmostEqual(float(found.strength[0]), 5.0)

    def test_strength_alone_and_what_is_no_log(self) -> None:
        self.assertEqual(read_throttle("t,thr,strength\n0,50,48\n1,x,9\n2,60,nan").strength.tolist(), [48.0])
        for text in ("", "x,y,z\n1,2,3", "throttle\n1", "throttle,strength\na,b"):
            with self.assertRaises(InputError):
                read_throttle(text)


class Units(unittest.TestCase):
    @given(st.integers(0, 500), st.sampled_from(list(FieldUnit)))
    def test_told_by_their_size(self, seed: int, unit: FieldUnit) -> None:
        samples, _, _ = made(seed, n=300)
        self.assertIs(likely_unit(samples / IN_UT[unit]), unit)

    def test_none_where_none_fits(self) -> None:
        samples, _, _ = made(1, n=300)
        self.assertIsNone(likely_unit(samples * 1e6))
        self.assertIsNone(likely_unit(np.ones((50, 3))))
