"""The hours ahead on screen: every simulated day, one's own series, and odd questions."""

import json

from tests.support import WebCase, plain
from walkround.simulators.weather import CONDITIONS
from walkround.store import settings as store_settings

ROW = {
    "at": "2026-05-16T09:00+02:00",
    "wind_ms": 3,
    "temperature_c": 14,
    "visibility_m": 9000,
    "qnh_hpa": 1016,
    "sky": "dry",
}


class Ahead(WebCase):
    def test_every_simulated_day(self) -> None:
        """What each day is called is what the strip says of it."""
        says = {
            "thunder": "square grounded",
            "freezing": "None",
            "gusty": "Gust",
            "fog": "Fog risk",
            "silent": "does not answer",
        }
        for condition in CONDITIONS:
            store_settings.save(devices={"weather": condition})
            with self.subTest(condition):
                answer = self.client.get("/ahead")
                self.assertEqual(answer.status_code, 200)
                self.assertIn(says.get(condition, "Hours ahead"), answer.text)
        store_settings.save(devices={})
        self.assertIn("No forecast service is connected", self.client.get("/ahead").text)

    def test_calm_is_better_than_gusty(self) -> None:
        counts = []
        for condition in ("calm", "breeze", "gusty"):
            store_settings.save(devices={"weather": condition})
            counts.append(self.client.get("/ahead").text.count("square grounded"))
        self.assertEqual(counts, sorted(counts))

    def test_ones_own_series(self) -> None:
        text = plain(self.client.post("/ahead", data={"series": json.dumps([ROW])}).text)
        self.assertIn("From the data you pasted", text)
        self.assertIn("09:00 Saturday, to 10:00, is the best hour", text)

    def test_mistakes_keep_what_was_pasted(self) -> None:
        answer = self.client.post("/ahead", data={"series": "at,wind_ms\nnoon,3"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("is not a time like", plain(answer.text))
        self.assertIn("noon,3", answer.text)
        self.assertEqual(self.client.get("/ahead", params={"minutes": "long"}).status_code, 422)

    def test_a_longer_slot_is_as_long(self) -> None:
        text = plain(self.client.get("/ahead", params={"minutes": "150"}).text)
        self.assertIn("is the best slot", text)

    def test_today_leads_here(self) -> None:
        self.assertIn("The hours ahead", plain(self.client.get("/").text))
