"""Methods: what another method would change, and following it."""

from tests.support import plain
from tests.web.test_hangar import FormCase
from walkround.store import settings as store_settings

AIRFRAME = "/checks/airframe.shell"


class PracticesPage(FormCase):
    def test_what_another_school_would_change(self) -> None:
        text = plain(self.client.get("/methods?aircraft=1").text)
        for words in (
            "adds: Remove the propellers and check underneath",
            "changes: at least 4",
        ):
            self.assertIn(words, text)
        self.assertIn("Changes nothing for Haymaker", plain(self.client.get("/methods?aircraft=2").text))

    def test_following_another(self) -> None:
        answer = self.client.post("/methods", data={"topic": "charge", "method": "volts", "aircraft": "1"})
        self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/methods?aircraft=1&saved=1#charge"))
        self.assertEqual(store_settings.load().methods.charge, "volts")
        self.wrong("/methods", {"topic": "charge", "method": "vibes"}, "choose one")
        self.wrong("/methods", {"topic": "tea", "method": "black"}, "Topic: choose one")
