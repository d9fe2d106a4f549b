"""The logbook as asked for: filters, sums, months."""

from datetime import UTC, datetime, timedelta

from tests.support import BookCase
from walkround.core.round.consequences import Happened
from walkround.store import logbook
from walkround.store.logbook import Asked
from walkround.store.models import FlightRow


class Lines(BookCase):
    def test_filters_narrow_and_sums_follow_the_lines(self) -> None:
        rows = list(FlightRow.select().where(FlightRow.logged_at.is_null(False)))
        quad, field = self.numbers["Sandpiper"], self.numbers["Teasel Common"]
        month = f"{rows[0].took_off_at:%Y-%m}"
        for asked, kept in (
            (Asked(), lambda r: True),
            (Asked(aircraft=quad), lambda r: r.aircraft_id == quad),
            (Asked(site=field), lambda r: r.site_id == field),
            (Asked(month=month), lambda r: f"{r.took_off_at:%Y-%m}" == month),
            (Asked(happened=Happened.HARD_LANDING.value), lambda r: r.happened == Happened.HARD_LANDING.value),
            (Asked(aircraft=quad, site=field, month=month), lambda r: (r.aircraft_id, r.site_id, f"{r.took_off_at:%Y-%m}") == (quad, field, month)),
            (Asked(aircraft=999), lambda r: False),
        ):  # fmt: skip
            with self.subTest(asked):
                wanted = [r for r in rows if kept(r)]
                self.assertEqual({r.id for r in logbook.lines(asked, 100)}, {r.id for r in wanted})
                count, minutes = logbook.totals(asked)
                self.assertEqual(count, len(wanted))
                self.assertAlmostEqual(minutes, sum(r.minutes for r in wanted))

    def test_months_add_up_to_the_lines(self) -> None:
        found = logbook.months(Asked(), "2000-01")
        count, minutes = logbook.totals()
        self.assertEqual(sum(row.flights for row in found), count)
        self.assertAlmostEqual(sum(row.minutes for row in found), minutes)
        self.assertEqual(sum(row.odd for row in found), 1, "the hard landing")
        self.assertEqual([row.month for row in found], sorted(row.month for row in found))
        self.assertEqual(logbook.months(Asked(month="1999-01"), "2000-01"), found, "the picture shows the year")

    def test_who_flew_lately(self) -> None:
        lately = logbook.since(self.now - timedelta(days=30))
        self.assertEqual({name for name, _, _ in lately}, {"Sandpiper", "Haymaker"})
        self.assertEqual([flown for _, flown, _ in lately], sorted((flown for _, flown, _ in lately), reverse=True))
        self.assertEqual(logbook.since(self.now + timedelta(days=1)), ())

    def test_twelve_months_end_with_this_one(self) -> None:
        self.assertEqual(logbook.year_before(datetime(2026, 5, 31, tzinfo=UTC)), "2025-06")
        self.assertEqual(logbook.year_before(datetime(2026, 12, 1, tzinfo=UTC)), "2026-01")
        self.assertEqual([logbook.next_month(m) for m in ("2026-11", "2026-12")], ["2026-12", "2027-01"])
