"""The crew brief on screen, ticked on the round; the look again; regions in the settings."""

from datetime import timedelta

from tests.support import WebCase, plain
from walkround.core.field.site import Site
from walkround.store import hangar
from walkround.store import settings as store_settings


class Page(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.numbers["Teasel Common"]

    def page(self, **query: str) -> str:
        return plain(self.client.get(f"/fields/{self.number}/brief", params=query).text)

    def crewed(self) -> int:
        data = {
            k: str(self.numbers[v]) for k, v in (("aircraft", "Sandpiper"), ("pack", "S1"), ("site", "Teasel Common"))
        }
        answer = self.client.post("/rounds", data={**data, "occasion": "flight with crew or public"})
        return int(answer.headers["location"].rsplit("/", 1)[1])

    def test_without_a_round(self) -> None:
        text = self.page()
        for words in (
            "Crew brief: Sandpiper at Teasel Common",
            "No round is open here",
            "Ilse Marlow",
            "Signal loss",
            "Location for emergency services 48.22130, 15.33180",
        ):
            self.assertIn(words, text)
        self.assertIn("Haymaker at Teasel", self.page(aircraft=str(self.numbers["Haymaker"])))

    def test_ticked_as_given(self) -> None:
        number = self.crewed()
        text = self.page()
        self.assertIn("Briefed and read back", text)
        self.assertIn("The crew brief", plain(self.client.get(f"/rounds/{number}?check=field.crew_brief").text))
        self.answer(number, "field.crew_brief", fragment=False, action="pass")
        self.assertIn("Briefed on this round at", self.page())

    def test_a_round_without_crew_says_how(self) -> None:
        self.start()
        self.assertIn("This round has no crew. Start it with “flight with crew or public” to", self.page())

    def test_strange_addresses(self) -> None:
        self.assertEqual(self.client.get("/fields/99/brief").status_code, 404)
        self.assertEqual(self.client.get(f"/fields/{self.number}/brief?aircraft=x&pack=0").status_code, 200)


class LookAgain(WebCase):
    def test_the_round_asks_what_changed_and_notes_the_walk(self) -> None:
        number = self.start()
        path = f"/rounds/{number}?check=field.path"
        self.assertIn(
            "Last walked 9 days ago; 8 features are on the plan. What has changed?", plain(self.client.get(path).text)
        )
        answer = self.answer(number, "field.path", action="take", option="changed", note="")
        self.assertIn("Note (where required)", plain(answer.text))
        self.answer(number, "field.path", action="take", option="changed", note="a new wire, now marked")
        self.assertIn("Changed since it was last walked: a new wire", plain(self.client.get(path).text))
        self.walk_all(number)
        self.now += timedelta(minutes=30)
        self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        site = hangar.get(Site, self.numbers["Teasel Common"])
        assert site.walked_at is not None
        self.assertEqual(site.walked_at.date(), self.now.date())

    def test_what_the_plan_does_not_show_grounds(self) -> None:
        number = self.start()
        self.answer(number, "field.path", action="take", option="new")
        self.assertIn("Stay down", plain(self.client.get(f"/rounds/{number}?check=field.path").text))

    def test_an_open_round_follows_the_plan(self) -> None:
        number = self.start()
        field = self.numbers["Teasel Common"]
        self.client.post(
            f"/fields/{field}/marks", data={"kind": "mast", "bearing": "10", "distance": "60", "height": "70"}
        )
        text = plain(self.client.get(f"/rounds/{number}?check=link.rth_altitude").text)
        self.assertIn("The tallest at Teasel Common is a mast, 70 m high at 60 m", text)


class Region(WebCase):
    def test_defaults_are_taken_and_the_rest_stays(self) -> None:
        page = plain(self.client.get("/settings").text)
        for words in ("United Kingdom, open category", "recorded 2026-11", "authority's current text"):
            self.assertIn(words, page)
        self.assertEqual(self.client.post("/settings/region", data={"region": "uk"}).status_code, 303)
        settings = store_settings.load()
        self.assertEqual((settings.region, settings.limits.people_m, settings.limits.idle_days), ("uk", 50, 60))
        answer = self.client.post("/settings/region", data={"region": "mars"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Choose a region from the list", plain(answer.text))
