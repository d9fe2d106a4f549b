"""Dates in tables, however they are written, against the standard library."""

import unittest
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from hypothesis import assume, given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.packs.table_dates import order_of, read_any, read_when

VIENNA = ZoneInfo("Europe/Vienna")


class Dates(unittest.TestCase):
    def test_the_order_is_found(self) -> None:
        rows = (
            (["2026-05-01"], "iso"), (["01.05.2026"], "day"), (["13/05/2026"], "day"), (["05/13/2026"], "month"),
            (["01/02/2026", "25/02/2026"], "day"), (["01/02/2026", "02/25/2026"], "month"), (["01/02/2026"], "month"), ([], "iso"),
        )  # fmt: skip
        for texts, expected in rows:
            with self.subTest(texts):
                self.assertEqual(order_of(texts), expected)

    @given(st.datetimes(datetime(2001, 1, 1), datetime(2080, 1, 1)))  # noqa: DTZ001
    def test_there_and_back_in_three_notations(self, moment: datetime) -> None:
        """Python's own formatting is the other side; a second is kept, and the zone's offset with it."""
        moment = moment.replace(microsecond=0)
        aware = moment.replace(tzinfo=VIENNA).astimezone(UTC)
        assume(aware.astimezone(VIENNA).replace(tzinfo=None) == moment)
        for order, form in (
            ("iso", "%Y-%m-%d %H:%M:%S"),
            ("day", "%d.%m.%Y %H:%M:%S"),
            ("month", "%m/%d/%Y %I:%M:%S %p"),
        ):
            self.assertEqual(read_when(moment.strftime(form), order, VIENNA), aware)  # type: ignore[arg-type]

    def test_an_hour_that_never_was_is_refused_and_its_neighbours_are_not(self) -> None:
        """On 29 March 2026 the clocks of central Europe went from 02:00 to 03:00. Source: Directive 2000/84/EC."""
        for text, hour in (("29.03.2026 01:59", 0), ("29.03.2026 03:00", 1), ("29.03.2026 02:30+01:00", 1)):
            self.assertEqual(read_when(text, "day", VIENNA).hour, hour)
        for text in ("29.03.2026 02:00", "29.03.2026 02:59:59"):
            with self.assertRaisesRegex(InputError, "does not exist: the clocks went forward. Add its time zone, for"):
                read_when(text, "day", VIENNA)

    @given(
        st.datetimes(datetime(2001, 1, 1), datetime(2037, 12, 31)),  # noqa: DTZ001
        st.sampled_from(
            ["Europe/Vienna", "Australia/Lord_Howe", "Asia/Kathmandu", "America/St_Johns", "Pacific/Apia", "UTC"]
        ),
    )
    def test_as_the_zone_itself_says(self, shown: datetime, name: str) -> None:
        """Against the standard library's zones, also where clocks change by half an hour and days are left out."""
        zone = ZoneInfo(name)
        aware = shown.replace(microsecond=0, tzinfo=zone)
        there = aware.astimezone(UTC).astimezone(zone).replace(tzinfo=None) == aware.replace(tzinfo=None)
        text = f"{aware:%Y-%m-%d %H:%M:%S}"
        if there:
            self.assertEqual(read_when(text, "iso", zone), aware.astimezone(UTC))
        else:
            with self.assertRaisesRegex(InputError, "clocks went forward"):
                read_when(text, "iso", zone)

    def test_around_every_change_of_the_clock(self) -> None:
        for name in ("Europe/Vienna", "Australia/Lord_Howe"):
            zone = ZoneInfo(name)
            for month, day in ((3, 29), (4, 5), (10, 4), (10, 25)):
                for minute in range(0, 5 * 60, 5):
                    aware = datetime(2026, month, day, tzinfo=zone) + timedelta(minutes=minute)
                    there = aware.astimezone(UTC).astimezone(zone).replace(tzinfo=None) == aware.replace(tzinfo=None)
                    with self.subTest(aware):
                        try:
                            found = read_when(f"{aware:%Y-%m-%d %H:%M}", "iso", zone)
                        except InputError:
                            found = None
                        self.assertEqual(found, aware.astimezone(UTC) if there else None)

    @given(
        st.datetimes(datetime(2026, 3, 29, 0), datetime(2026, 3, 29, 4)),  # noqa: DTZ001
        st.sampled_from(["%Y-%m-%d %H:%M:%S", "%Y-%m-%d %H:%M", "%Y-%m-%dT%H.%M:%S", "%H:%M:%S", "%Y-%m-%d %H:%M:%SZ"]),
        st.lists(st.tuples(st.integers(0, 22), st.sampled_from("09:. Z-T٣²+")), max_size=2),
    )
    def test_counted_on_from_the_quarter_is_as_read_in_full(
        self, shown: datetime, form: str, slips: list[tuple[int, str]]
    ) -> None:
        """Also around the change of the clocks, and with slips of the pen: the same time, or the same words."""
        text = shown.strftime(form)
        for place, letter in slips:
            text = text[:place] + letter + text[place + 1 :]
        found = []
        for read in (read_when, read_any):
            try:
                found.append(str(read(text, "iso", VIENNA)))
            except InputError as error:
                found.append(error.message)
        self.assertEqual(*found)

    def test_an_offset_that_cannot_be(self) -> None:
        self.assertEqual(read_when("2026-05-16 09:00 +0530", "iso", VIENNA), datetime(2026, 5, 16, 3, 30, tzinfo=UTC))
        with self.assertRaisesRegex(InputError, "is not a date"):
            read_when("2026-05-16 09:00 +99:99", "iso", VIENNA)
