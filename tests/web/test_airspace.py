"""The airspace page and the walk: fetched, read, drawn, judged, and every mistake in words."""

import json

from tests.support import WebCase, plain, within
from walkround.store import settings as store_settings
from walkround.store import zones


class AirCase(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.path = f"/fields/{self.numbers['Teasel Common']}/airspace"

    def fetch(self, condition: str) -> str:
        with self.app.state.ctx.book.write():
            store_settings.save(devices={"notices": condition})
        answer = self.client.post(f"{self.path}/fetch", follow_redirects=True)
        return plain(answer.text)


class Page(AirCase):
    def test_conditions(self) -> None:
        rows = (
            ("quiet", ("No zone overlaps your flight. The nearest is Reed bed sanctuary, 1.6 km towards 301°", "authority", "simulated service: invented")),
            ("strip", ("Restricted from the ground", "Glider field Halmwiese needs permission first. Call the launch leader", "you are inside")),
            ("event", ("Village fair is closed from 13:00 on 16 May on", "active from 13:00")),
            ("capped", ("No known restriction up to 60 m", "Height in the zone 45 m (max 60 m)")),
            ("closed", ("Stay down. Switching yard is closed",)),
            ("stale", ("Notices round Teasel Common is 6 days old",)),
        )  # fmt: skip
        for condition, words in rows:
            text = self.fetch(condition)
            for each in words:
                with self.subTest(condition):
                    self.assertIn(each, text)

    def test_higher_or_longer_asks_again(self) -> None:
        self.fetch("capped")
        self.assertIn("Stay down", plain(self.client.get(self.path, params={"top": "61"}).text))
        self.fetch("event")
        self.assertIn("Stay down", plain(self.client.get(self.path, params={"minutes": "400"}).text))
        answer = self.client.get(self.path, params={"top": "high"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("is not a number", plain(answer.text))

    def test_silence_keeps_what_was_fetched(self) -> None:
        before = [s.count for s in zones.sets()]
        self.assertIn("The notice service does not answer", self.fetch("silent"))
        self.assertIn("No notice service is connected", self.fetch("off"))
        self.assertEqual([s.count for s in zones.sets()], before)

    def test_a_file_of_ones_own(self) -> None:
        ring = [[15.33, 48.22], [15.334, 48.223], [15.334, 48.22], [15.33, 48.223], [15.33, 48.22]]
        data = {
            "type": "FeatureCollection",
            "features": [
                {
                    "type": "Feature",
                    "properties": {"name": "Quarry", "rule": "closed"},
                    "geometry": {"type": "Polygon", "coordinates": [ring]},
                }
            ],
        }
        answer = self.client.post(
            f"{self.path}/read", data={"set_name": "County"}, files={"zones": ("z.geojson", json.dumps(data))}
        )
        text = plain(answer.text)
        for words in ("imported as “County”", "Quarry: its outline crosses itself", "Quarry is closed"):
            self.assertIn(words, text)
        plan = self.client.get(self.path.replace("/airspace", "")).text
        self.assertIn("Quarry", within(plan, ".plan-svg title"), "drawn on the plan too")
        self.assertIn("Quarry is closed", plain(plan))
        number = next(s.id for s in zones.sets() if s.name == "County")
        self.client.post(f"{self.path}/{number}/drop")
        self.assertNotIn("Quarry", self.client.get(self.path).text)

    def test_a_broken_file_keeps_what_was_pasted(self) -> None:
        answer = self.client.post(f"{self.path}/read", data={"pasted": '{"type": "Feat'})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("it breaks off in line 1", plain(answer.text))
        self.assertIn("&#34;Feat", answer.text)
        self.assertEqual(self.client.post("/fields/99/airspace/fetch").status_code, 404)


class OnTheWalk(AirCase):
    def judged(self, condition: str, option: str) -> str:
        self.fetch(condition)
        number = self.start()
        self.answer(number, "field.airspace", action="choose", option=option)
        return plain(self.client.get(f"/rounds/{number}", params={"check": "field.airspace"}).text)

    def test_the_zones_speak_with_the_answer(self) -> None:
        self.assertIn("Switching yard is closed", self.judged("closed", "free"))

    def test_asked_is_care(self) -> None:
        text = self.judged("strip", "asks")
        self.assertIn("You say you have permission for Glider field Halmwiese", text)

    def test_not_asked_grounds(self) -> None:
        self.assertIn("needs permission first", self.judged("strip", "free"))
