"""A year of the logbook as a picture."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.store.logbook import MonthOfOne
from walkround.web.drawings.logbook_year import BASE, MOST_APART, draw_year

ROWS = st.lists(
    st.builds(
        MonthOfOne,
        month=st.sampled_from([f"2026-{n:02d}" for n in range(1, 13)]), aircraft_id=st.integers(1, 9), flights=st.integers(1, 30),
        minutes=st.floats(0.1, 500), odd=st.integers(0, 2),
    ),
    max_size=40, unique_by=lambda row: (row.month, row.aircraft_id),
)  # fmt: skip


class Year(unittest.TestCase):
    @given(ROWS)
    def test_heights_are_minutes(self, rows: list[MonthOfOne]) -> None:
        drawn = draw_year(rows, "2026-01", {n: f"No {n}" for n in range(10)})
        self.assertEqual([m.month for m in drawn.months], [f"2026-{n:02d}" for n in range(1, 13)])
        for month in drawn.months:
            here = [row for row in rows if row.month == month.month]
            high = sum(piece.high for piece in month.pieces)
            self.assertAlmostEqual(high, (BASE - 30) * sum(row.minutes for row in here) / drawn.top_minutes, delta=1)
            self.assertEqual(month.mark_y is not None, any(row.odd for row in here))
            self.assertTrue(all(0 <= piece.y <= BASE for piece in month.pieces))
        self.assertEqual(sum(flights for *_, flights, _ in drawn.legend), sum(row.flights for row in rows))
        self.assertLessEqual(len(drawn.legend), MOST_APART + 1)

    def test_words(self) -> None:
        row = MonthOfOne(month="2026-05", aircraft_id=1, flights=3, minutes=28.4, odd=1)
        drawn = draw_year([row], "2025-06", {1: "Sandpiper"})
        self.assertEqual(drawn.months[-1].words, "May 2026: 3 flights, 28 min, 1 not fine")
        self.assertEqual(drawn.months[0].words, "Jun 2025: 0 flights, 0 min")
        self.assertEqual(drawn.legend, ((1, "Sandpiper", 0, 3, 28.4),))
