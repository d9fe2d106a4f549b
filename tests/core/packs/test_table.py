"""Tables from other devices: delimiters, decimals, dates, and every row that cannot be."""

import unittest
from datetime import UTC, datetime, timedelta
from itertools import islice
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, PACK
from walkround.core.base.errors import InputError
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.table import Columns, Taken, decode, guess, look, missing, rows_of, take

VIENNA = ZoneInfo("Europe/Vienna")
FLIGHT_AREA = [PACK.model_copy(update={"id": i, "label": label, "smart": False}) for i, label in ((1, "H1"), (2, "H2"))]


def taken(text: str, columns: Columns | None = None, **more) -> Taken:  # type: ignore[no-untyped-def]
    sheet = look(text)
    columns = columns or guess(sheet, list(islice(rows_of(text, sheet), 20)))
    return take(text, sheet, columns, FLIGHT_AREA, zone=VIENNA, now=NOW, **more)


class Good(unittest.TestCase):
    def test_the_same_reading_however_it_is_written(self) -> None:
        """One reading in the notations that chargers use; all name the same moment and volts."""
        rows = (
            ("points and commas", "Pack,Date,Cell 1,Cell 2,Cell 3\nH1,2026-04-03 18:20,3.84,3.83,3.85\n"),
            ("decimal commas and semicolons", "Pack;Date;Cell 1;Cell 2;Cell 3\nH1;03.04.2026 18:20;3,84;3,83;3,85\n"),
            ("tabs, month first, half days", "Pack\tDate\tC1\tC2\tC3\nh1\t04/03/2026 6:20 PM\t3.84\t3.83\t3.85\n"),
            ("millivolts", "Pack,Date,Cell 1,Cell 2,Cell 3\nH1,2026-04-03T18:20:00,3840,3830,3850\n"),
            ("with an offset", "Pack,Date,Cell 1,Cell 2,Cell 3\nH1,2026-04-03T16:20:00Z,3.84,3.83,3.85\n"),
            ("date and clock apart", "Pack;Date;Time;Cell 1;Cell 2;Cell 3\nH1;03.04.2026;18:20;3,84;3,83;3,85\n"),
            ("cells it has not are nought", "Pack,Date,C1,C2,C3,C4,C5\nH1,2026-04-03 18:20,3.84,3.83,3.85,0,0\n"),
            ("quoted", '"Pack","Date","Cell 1","Cell 2","Cell 3"\r\n"H1","2026-04-03 18:20","3.84","3.83","3.85"\r\n'),
        )
        for name, text in rows:
            with self.subTest(name):
                found = taken(text)
                self.assertEqual((found.good, found.bad), (1, 0), found.faults)
                row = found.rows[1][0]
                self.assertEqual(row.at, datetime(2026, 4, 3, 16, 20, tzinfo=UTC))
                self.assertEqual(row.cells_v, (3.84, 3.83, 3.85))

    def test_byte_order_marks_and_old_encodings(self) -> None:
        text = "Pack;Date;Widerstand (mΩ)\nH1;03.04.2026;12\n"
        for name, data in (
            ("with a mark", b"\xef\xbb\xbf" + text.encode()),
            ("UTF-16", text.encode("utf-16")),
            ("plain", text.encode()),
        ):
            with self.subTest(name):
                self.assertEqual(decode(data), text)
        self.assertIn("\xb0C", decode("Temp \xb0C".encode("cp1252")))

    def test_everything_at_once(self) -> None:
        text = "Label,Time,Voltage,IR 1,IR 2,IR 3,Temp,mAh\nH2,2026-04-03 18:20,11.52,4,5,6,21,1340\n"
        row = taken(text).rows[2][0]
        self.assertEqual((row.total_v, row.resistance_mohm, row.temperature_c), (11.52, (4, 5, 6), 21))
        self.assertEqual((row.recharged_mah, row.after), (1340, After.CHARGE))

    def test_one_pack_for_the_whole_table(self) -> None:
        text = "Date,Cell 1,Cell 2,Cell 3\n2026-04-03,3.84,3.83,3.85\n"
        self.assertEqual(list(taken(text, one_pack=FLIGHT_AREA[1]).rows), [2])

    def test_progress_is_heard(self) -> None:
        text = "Pack,Date,%\n" + "".join(f"H1,2026-01-01 0{i % 10}:00,50\n" for i in range(9000))
        heard: list[int] = []
        taken(text, progress=heard.append)
        self.assertGreater(len(heard), 3)
        self.assertEqual((heard, heard[-1]), (sorted(heard), 9000))


class Bad(unittest.TestCase):
    def test_rows_that_cannot_be(self) -> None:
        head = "Pack,Date,Cell 1,Cell 2,Cell 3,Temp,%\n"
        rows = (
            ("no such pack", "ZZ,2026-04-03,3.8,3.8,3.8,,", "no pack “ZZ”"),
            ("two cells", "H1,2026-04-03,3.8,3.8,,,", "has 3 cells; the row has 2"),
            ("leads reversed", "H1,2026-04-03,-3.8,3.8,3.8,,", "leads reversed"),
            ("millivolts unsaid", "H1,2026-04-03,3800,3.8,3.8,,", "millivolts"),
            ("no such cell", "H1,2026-04-03,5.2,3.8,3.8,,", "cannot be one"),
            ("the future", "H1,2027-04-03,3.8,3.8,3.8,,", "is in the future"),
            ("no date", "H1,,3.8,3.8,3.8,,", "is not a date like"),
            ("31 April", "H1,2026-04-31,3.8,3.8,3.8,,", "is not a date like"),
            ("words", "H1,2026-04-03,low,3.8,3.8,,", "is not a number"),
            ("nothing measured", "H1,2026-04-03,,,,,", "The row has no values"),
            ("boiling", "H1,2026-04-03,3.8,3.8,3.8,120,", "is not a plausible pack temperature"),
            ("more than full", "H1,2026-04-03,3.8,3.8,3.8,,140", "outside 0 to 100"),
        )
        for name, row, words in rows:
            with self.subTest(name):
                found = taken(head + "H1,2026-04-02,3.8,3.8,3.8,20,55\n" + row + "\n")
                self.assertEqual((found.good, found.bad, found.faults[0].line), (1, 1, 3))
                self.assertIn(words, found.faults[0].words)

    def test_files_that_are_no_table(self) -> None:
        rows = (
            ("empty", "", "first line is empty"),
            (
                "one column",
                "just words\nmore\n",
                "The first line must hold column names separated by commas, semicolons",
            ),
            ("no header", "1,2,3\n4,5,6\n", "holds numbers"),
            ("no rows", "Pack,Date,%\n\n\n", "There is a header but no rows"),
            ("too long", "Pack,Date,%\n" + "H1,2026-04-03,5\n" * 200_001, "more than the 200,000"),
        )
        for name, text, words in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                look(text)
            self.assertIn(words, caught.exception.message)
        for name, data in (("a picture", b"\x89PNG\r\n\x1a\n\x00\x00"), ("a torn mark", b"\xff\xfea")):
            with self.subTest(name), self.assertRaises(InputError):
                decode(data)

    def test_missing_columns(self) -> None:
        rows = (
            (("pack", "cell_1"), "No column is marked as the date"),
            (("at", "cell_1"), "as the pack label"),
            (("at", "pack"), "No column is marked as a measured value. Mark at least one"),
            (("at", "pack", "cell_1", "cell_1"), "Two columns"),
        )
        for fields, words in rows:
            with self.subTest(fields):
                self.assertIn(words, missing(Columns(fields=fields), one_pack=False))
        with self.assertRaises(InputError):
            taken("A,B\n1,2\nx,y\n", Columns(fields=("", "")))


class Anything(unittest.TestCase):
    @given(st.text(max_size=80))
    def test_any_text_is_a_table_or_a_mistake_in_words(self, text: str) -> None:
        try:
            taken("Pack,Date,%\n" + text)
            taken(text)
        except InputError as error:
            self.assertIn(error.field, ("file", "columns"))

    @given(
        st.lists(
            st.tuples(*[st.sampled_from(["", "0", "-0.1", "3.7", "4.2", "4,35", "4.36", "12.1", "100", "101", "70.1", "60000", "1e9"])] * 9),
            min_size=1, max_size=12,
        )
    )  # fmt: skip
    def test_what_is_taken_is_what_a_reading_can_be(self, rows: list[tuple[str, ...]]) -> None:
        """Rows are not checked as a whole again; what they may hold is checked here, against the reading's own rules."""
        head = "Date\tCell 1\tCell 2\tCell 3\tTotal\tPercent\tIR 1\tIR 2\tTemp\tmAh\n"
        text = head + "\n".join(f"2026-04-03 18:{i:02d}\t" + "\t".join(row) for i, row in enumerate(rows))
        found = taken(text, one_pack=PACK)
        self.assertEqual(found.good + found.bad, len(rows))
        for row in found.rows.get(PACK.id, []):
            self.assertEqual(Reading.model_validate(row.model_dump()), row)

    def test_a_huge_cell_is_no_row(self) -> None:
        with self.assertRaisesRegex(InputError, "Line 2 cannot be read"):
            taken("Pack,Date,%\n" + "x" * 200_000 + ",1,2\n")

    def test_a_clock_a_little_ahead_is_borne(self) -> None:
        soon = (NOW + timedelta(minutes=5)).astimezone(VIENNA)
        self.assertEqual(taken(f"Pack,Date,%\nH1,{soon:%Y-%m-%d %H:%M},50\n").good, 1)
