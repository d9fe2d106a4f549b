"""The logbook."""

from tests.support import WebCase, elements, plain


class Logbook(WebCase):
    def test_pages(self) -> None:
        text = plain(self.client.get("/logbook").text)
        self.assertIn("10 flights, 1.3 hours", text)
        self.assertIn("Fly with care , Sandpiper, pack S2 at Teasel Common", text)
        self.assertIn("No flight yet", plain(self.client.get("/logbook?page_number=9").text))
        self.assertEqual(self.client.get("/logbook?page_number=x").status_code, 422)

    def test_a_month_an_aircraft_a_field_at_a_tap(self) -> None:
        page = self.client.get("/logbook").text
        self.assertEqual(len(elements(page, ".year > svg a")), 12)
        march = next(
            n
            for n in elements(page, ".year > svg a")
            if "hard" in str(n.attributes) or "1 not fine" in str(n.attributes["aria-label"])
        )
        text = plain(self.client.get(str(march.attributes["href"])).text)
        self.assertIn("nose first on the strip", text)
        self.assertIn("All flights", text)
        quad = self.numbers["Sandpiper"]
        only = self.client.get(f"/logbook?aircraft={quad}&field={self.numbers['Gull Staithe']}").text
        self.assertEqual(len(elements(only, ".log tbody tr")), 1)
        self.assertIn("1 flight, 0.1 hours", plain(only))
        self.assertTrue(
            elements(page, f"td a[href='/logbook?field={self.numbers['Gull Staithe']}']"), "a field at a tap"
        )
        for odd in ("aircraft=x", "field=-1", "month=2026-13", "month=%27", "happened=frogs"):
            self.assertIn("10 flights", plain(self.client.get(f"/logbook?{odd}").text), odd)
        self.assertIn("No flight is like that.", plain(self.client.get("/logbook?month=1999-01").text))

    def test_what_was_flown_lately(self) -> None:
        self.assertRegex(
            plain(self.client.get("/logbook").text),
            r"In the last 90 days: 10 flights\. Sandpiper \d, \d+ min; Haymaker \d, ",
        )
