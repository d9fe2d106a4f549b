"""What is due, as a page and as a calendar file that its library reads."""

from datetime import date

import icalendar

from tests.support import WebCase, elements, plain
from walkround.store import settings as store_settings


class Due(WebCase):
    def send(self, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post("/due/papers", data=form)

    def test_papers_are_kept_and_come_up_before_they_expire(self) -> None:
        answer = self.send(name_1="Insurance", expires_1="2026-05-20", name_2="Club card", expires_2="2027-01-31")
        self.assertEqual(answer.status_code, 303)
        page = self.client.get("/due").text
        self.assertIn("06 May 2026 Renew: Insurance", plain(page))
        self.assertEqual(elements(page, "#f-name_2")[0].attributes["value"], "Club card")
        self.assertEqual([p.name for p in store_settings.load().papers], ["Insurance", "Club card"])

    def test_mistakes_keep_what_was_typed(self) -> None:
        for form, words in (
            ({"name_1": "Insurance"}, "Enter both"), ({"expires_1": "2026-05-20"}, "Enter both"),
            ({"name_1": "Insurance", "expires_1": "soon"}, "Enter a day"),
        ):  # fmt: skip
            answer = self.send(**form)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
        self.assertEqual(elements(answer.text, "#f-name_1")[0].attributes["value"], "Insurance")
        self.assertEqual(store_settings.load().papers, ())

    def test_the_calendar_is_read_back_by_its_library(self) -> None:
        """RFC 5545, read by the package icalendar."""
        self.send(name_1="Insurance; third party, “all” of it", expires_1="2026-12-31")
        answer = self.client.get("/due.ics")
        self.assertEqual(answer.headers["content-type"], "text/calendar; charset=utf-8")
        calendar = icalendar.Calendar.from_ical(answer.content)
        self.assertEqual(calendar["version"], "2.0")
        events = calendar.walk("VEVENT")
        listed = elements(self.client.get("/due").text, ".dues li")
        self.assertEqual(len(events), len(listed))
        self.assertEqual(len({str(e["uid"]) for e in events}), len(events))
        by_title = {str(e["summary"]): e for e in events}
        self.assertEqual(by_title["Renew: Insurance; third party, “all” of it"].decoded("dtstart"), date(2026, 12, 17))
        self.assertTrue(any(title.startswith("Pack ") for title in by_title))
        self.assertTrue(all(e.decoded("dtstart") and str(e["description"]) for e in events))
