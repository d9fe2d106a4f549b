"""Columns of any text: marks, names, JSON, what is cut off; and any text at all is read or refused."""

import csv
import io
import json
import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.sensors.columns import MOST_ROWS, read_columns, throttle_share

FLOATS = st.floats(-1e5, 1e5).map(lambda value: round(value, 6))


class Reading(unittest.TestCase):
    @given(st.lists(st.tuples(FLOATS, FLOATS, FLOATS), min_size=1, max_size=20), st.sampled_from([",", ";", "\t"]))
    def test_as_the_csv_module_writes_it(self, rows: list[tuple[float, float, float]], mark: str) -> None:
        out = io.StringIO()
        csv.writer(out, delimiter=mark).writerows([("Mag_X", "Mag_Y", "Mag_Z"), *rows])
        table = read_columns(out.getvalue())
        self.assertEqual([table.three(row, table.triple(("mag",))) for row in table.rows], rows)

    @given(st.lists(st.tuples(FLOATS, FLOATS, FLOATS), min_size=1, max_size=20))
    def test_as_the_json_module_writes_it(self, rows: list[tuple[float, float, float]]) -> None:
        table = read_columns("\n".join(json.dumps(dict(zip("xyz", row, strict=True))) for row in rows))
        self.assertEqual([table.three(row, table.triple((), alone=True)) for row in table.rows], rows)

    def test_names_of_later_lines_count_too(self) -> None:
        table = read_columns('{"t": 0, "x": 1}\n{"t": 1, "message": ["one", "two"]}')
        self.assertEqual(table.names, ("t", "x", "message"))
        self.assertEqual(table.rows, (("0", "1", ""), ("1", "", "one | two")))

    def test_a_recording_that_was_cut_off(self) -> None:
        self.assertEqual(len(read_columns('{"x": 1}\n{"x": 2}\n{"x": 3').rows), 2)
        with self.assertRaises(InputError):
            read_columns('{"x": 1}\n{"x"\n{"x": 3}')

    def test_which_columns_are_whose(self) -> None:
        table = read_columns("time,ax,ay,az,gx [rad/s],gy [rad/s],gz [rad/s],mx,my,mz,max\n" + "1," * 10 + "1")
        self.assertEqual(table.triple(("m",)), (7, 8, 9))
        self.assertEqual(table.triple(("a",)), (1, 2, 3))
        self.assertEqual(table.triple(("g",)), (4, 5, 6))
        self.assertIsNone(read_columns("ax,ay,az\n1,2,3").triple(("m",), alone=True), "acceleration is no field")
        self.assertEqual(read_columns("field_x,field_y,field_z\n1,2,3").triple(("m",), alone=True), (0, 1, 2))

    def test_nothing_and_far_too_much(self) -> None:
        for text in ("", " \n\n", "# only this"):
            with self.assertRaises(InputError):
                read_columns(text)
        table = read_columns("x\n" + "1\n" * (3 * MOST_ROWS))
        self.assertEqual(table.total, 3 * MOST_ROWS)
        self.assertLessEqual(len(table.rows), MOST_ROWS)

    @given(st.text(max_size=300))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        try:
            table = read_columns(text)
        except InputError:
            return
        for row in table.rows:
            table.numbers(row)
            table.three(row, table.triple(("m",), alone=True))

    @given(st.floats(0, 1))
    def test_a_throttle_in_any_unit(self, share: float) -> None:
        for value, top in ((share, 1.0), (100 * share, 100.0), (1000 + 1000 * share, 2000.0)):
            self.assertAlmostEqual(throttle_share(value, top), share, places=9)
