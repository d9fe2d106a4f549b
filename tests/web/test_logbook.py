"""The logbook."""

from tests.support import WebCase, plain


class Logbook(WebCase):
    def test_pages(self) -> None:
        text = plain(self.client.get("/logbook").text)
        self.assertIn("10 flights, 1.3 hours", text)
        self.assertIn("Fly with care , Sandpiper, pack S2 at Teasel Common", text)
        self.assertIn("No flight yet", plain(self.client.get("/logbook?page_number=9").text))
        self.assertEqual(self.client.get("/logbook?page_number=x").status_code, 422)
