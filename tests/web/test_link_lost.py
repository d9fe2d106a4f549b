"""If the signal is lost here: the page, the track while dragging, the whole area."""

import json
import time

from tests.support import WebCase, elements, plain
from walkround.core.field.site import LaunchPlatform, Site
from walkround.store import hangar
from walkround.store import settings as store_settings

FRAGMENT = {"HX-Request": "true"}


class LinkLost(WebCase):
    def address(self, query: str = "", tail: str = "", site: str = "Teasel Common") -> str:
        return f"/fields/{self.numbers[site]}/link-lost{tail}?{query}"

    def of(self, name: str) -> str:
        return f"aircraft={self.numbers[name]}"

    def test_the_page_says_where_it_ends(self) -> None:
        text = plain(self.client.get(self.address(self.of("Sandpiper"))).text)
        self.assertIn("In 100 % of the runs it lands at the launch point.", text)
        self.assertIn("simulated", text)
        drop = plain(
            self.client.get(self.address(self.of("Sandpiper") + "&action=STOP&away=60&bearing=20&height=40")).text
        )
        self.assertIn("above 80 J", drop)

    def test_each_place_its_own_answer(self) -> None:
        people = plain(self.client.get(self.address(self.of("Sandpiper") + "&action=LAND&away=32&bearing=180")).text)
        self.assertIn("comes down among the spectators", people)
        pond = plain(self.client.get(self.address(self.of("Sandpiper") + "&action=LAND&away=198&bearing=307")).text)
        self.assertIn("comes down in the water", pond)

    def test_bad_input_is_said_and_the_usual_taken(self) -> None:
        for field, value in (("height", "0"), ("rth", "0"), ("away", "far"), ("charge", "120"), ("speed", "-3")):
            answer = self.client.get(self.address(f"{self.of('Sandpiper')}&{field}={value}"))
            self.assertEqual(answer.status_code, 422, field)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), field)
            self.assertIn(f'value="{value}"', answer.text)

    def test_unknown_wind_is_never_clear(self) -> None:
        store_settings.save(devices={})
        text = plain(self.client.get(self.address(self.of("Sandpiper"))).text)
        self.assertIn("The wind is not known", text)

    def test_a_fragment_for_the_script_and_a_track_while_dragging(self) -> None:
        part = self.client.get(self.address(self.of("Haymaker") + "&away=90&bearing=10"), headers=FRAGMENT)
        self.assertIn('id="lost-over"', part.text)
        self.assertNotIn("<html", part.text)
        track = self.client.get(self.address(self.of("Haymaker") + "&away=90&bearing=10", "/track")).json()
        self.assertRegex(track["d"], r"^M-?[\d.]+,-?[\d.]+ L")
        drawn = elements(part.text, ".lost-path")[0].attributes["d"]
        self.assertEqual(drawn, track["d"], "the same path at rest")

    def test_the_whole_area_part_by_part(self) -> None:
        answer = self.client.get(self.address(self.of("Sandpiper") + "&action=STOP", "/area"))
        lines = [json.loads(line) for line in answer.text.splitlines()]
        done = [line["done"] for line in lines]
        self.assertEqual(done, sorted(done))
        self.assertGreater(len(lines), 5)
        self.assertEqual(done[-1], 1.0)
        self.assertTrue(all("cells" not in line for line in lines[:-1]))
        self.assertGreater(lines[-1]["cells"].count("<rect"), 250)
        self.assertIn("Try this", lines[-1]["side"])
        self.assertIn("As it is", lines[-1]["side"])

    def test_without_a_script_the_area_comes_with_the_page(self) -> None:
        text = self.client.get(self.address(self.of("Sandpiper") + "&whole=1")).text
        self.assertGreater(len(elements(text, "#lost-cells rect")), 250)
        self.assertIn("Wherever the link is lost", plain(text).replace("signal", "link"))

    def test_who_goes_away_stops_it(self) -> None:
        """The parts are made one by one, as they are fetched: what is not fetched is not flown."""
        with self.client.stream("GET", self.address(self.of("Haymaker"), "/area")) as answer:
            began = time.monotonic()
            first = next(answer.iter_lines())
        self.assertLess(json.loads(first)["done"], 0.5)
        self.assertLess(time.monotonic() - began, 60)

    def test_a_boat_leaves_its_home_point(self) -> None:
        quay = hangar.get(Site, self.numbers["Gull Staithe"])
        hangar.save(quay.model_copy(update={"launch_platform": LaunchPlatform.MOVING}), self.now)
        asked = self.of("Sandpiper") + "&action=RETURN"
        text = self.client.get(self.address(asked + "&boat=1", site="Gull Staithe")).text
        self.assertRegex(plain(text), r"After [\d.]+ min the boat or vehicle may be \d+ m from the home point")
        self.assertEqual(len(elements(text, ".boat-ring")), 3)
        self.assertIn("stays behind", plain(self.client.get(self.address(asked, site="Gull Staithe")).text))

    def test_without_an_aircraft_it_says_so(self) -> None:
        for name in ("Sandpiper", "Haymaker", "Lapwing", "Mayfly", "Whinchat"):
            from walkround.core.aircraft.aircraft import Aircraft

            aircraft = hangar.get(Aircraft, self.numbers[name])
            hangar.save(aircraft.model_copy(update={"retired": True}), self.now)
        self.assertIn("needs an aircraft", plain(self.client.get(self.address()).text))
        self.assertEqual(self.client.get(self.address(tail="/track")).json(), {"d": ""})
        self.assertIn("needs an aircraft", self.client.get(self.address(tail="/area")).text)
