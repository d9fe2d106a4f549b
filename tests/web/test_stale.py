"""Forms that were overtaken: both stand on the page, neither is lost; what others changed elsewhere is not touched."""

import threading

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack, PackState
from walkround.store import hangar
from walkround.store import packs as store_packs
from walkround.store import settings as store_settings
from walkround.web.stale import AIRCRAFT, BAG, DRAWN, FAILSAFE, FIELD, INSPECTION, PACK, WORKS

PLANE = {
    "kind": "multirotor", "frame": "X", "power": "electric", "rotors": "4", "name": "Sandpiper", "mass_g": "780", "span_mm": "350", "top_speed_ms": "16",
    "flight_min": "24", "cells": "3", "firmware": "2.3",
}  # fmt: skip


class Overtaken(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.numbers["Sandpiper"]
        self.page = f"/hangar/aircraft/{self.number}"

    def form(self) -> dict[str, str]:
        return PLANE | self.hidden(self.page, "/hangar/aircraft")

    def plane(self) -> Aircraft:
        return hangar.get(Aircraft, self.number)

    def revision(self, page: str) -> str:
        return str(elements(page, "#setup input[name=revision], form input[name=revision]")[0].attributes["value"])

    def test_a_stale_tab_does_not_put_an_old_mass_back(self) -> None:
        mine, theirs = self.form(), self.form()
        self.assertEqual(self.client.post("/hangar/aircraft", data=theirs | {"mass_g": "910"}).status_code, 303)
        answer = self.client.post("/hangar/aircraft", data=mine | {"firmware": "2.9"})
        self.assertEqual(answer.status_code, 409)
        text = plain(answer.text)
        self.assertIn("This was changed in another tab or on another device, so nothing was", text)
        self.assertIn("Now stored: 910.", text)
        self.assertTrue(elements(answer.text, 'input[name=firmware][value="2.9"]'), "what was typed still stands there")
        self.assertEqual((self.plane().mass_g, self.plane().firmware), (910, "2.3"))
        again = mine | {"firmware": "2.9", "revision": self.revision(answer.text)}
        self.assertEqual(self.client.post("/hangar/aircraft", data=again).status_code, 303, "now it is meant")
        self.assertEqual((self.plane().mass_g, self.plane().firmware), (780, "2.9"))

    def test_the_same_change_twice_and_a_form_without_a_revision(self) -> None:
        mine = self.form() | {"mass_g": "910"}
        for _ in range(2):
            self.assertEqual(self.client.post("/hangar/aircraft", data=mine).status_code, 303, "a double tap")
        bare = {k: v for k, v in mine.items() if k != "revision"}
        self.assertEqual(self.client.post("/hangar/aircraft", data=bare).status_code, 303, "it changes nothing")
        self.assertEqual(self.client.post("/hangar/aircraft", data=bare | {"mass_g": "1000"}).status_code, 409)

    def test_the_bag_beside_the_aircraft_loses_neither(self) -> None:
        bag = f"{self.page}/bag"
        plane, packing = self.form(), self.hidden(bag, bag)
        answers = []

        def send(path: str, data: dict[str, object]) -> None:
            answers.append(self.client.post(path, data=data).status_code)

        for i in range(6):
            both = [
                threading.Thread(target=send, args=("/hangar/aircraft", plane | {"mass_g": str(800 + i)})),
                threading.Thread(target=send, args=(bag, packing | {"bag_packs": str(3 + i), "takes": ["cards"]})),
            ]
            for thread in both:
                thread.start()
            for thread in both:
                thread.join()
            self.assertEqual((self.plane().mass_g, self.plane().bag_packs), (800 + i, 3 + i))
            plane, packing = self.form(), self.hidden(bag, bag)
        self.assertEqual(set(answers), {303})

    def test_an_old_emergency_text_does_not_come_back(self) -> None:
        number = self.numbers["Teasel Common"]
        page = f"/fields/{number}/details"
        form = {
            "name": "Teasel Common", "position": "48.2213, 15.3318", "elevation_m": "250", "timezone": "Europe/Vienna", "terrain": "open grass",
            "flight_radius_m": "140", "flight_height_m": "45", "emergency": "Call 112, gate code 7", **self.hidden(page, "/fields"),
        }  # fmt: skip
        self.assertEqual(self.client.post("/fields", data=form).status_code, 303)
        answer = self.client.post("/fields", data=form | {"emergency": "Call 112", "notes": "mown"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Now stored: Call 112, gate code 7.", plain(answer.text))
        self.assertEqual(hangar.get(Site, number).emergency, "Call 112, gate code 7")

    def test_what_is_drawn_meanwhile_stays(self) -> None:
        number = self.numbers["Teasel Common"]
        page = f"/fields/{number}/details"
        form = {
            "name": "Teasel Common", "position": "48.2213, 15.3318", "elevation_m": "251", "timezone": "Europe/Vienna", "terrain": "open grass",
            "flight_radius_m": "140", "flight_height_m": "45", **self.hidden(page, "/fields"),
        }  # fmt: skip
        self.client.post(f"/fields/{number}/plan", data={"do": "remove", "key": "m1"})
        marks = hangar.get(Site, number).marks
        self.assertEqual(self.client.post("/fields", data=form).status_code, 303)
        self.assertEqual((hangar.get(Site, number).marks, hangar.get(Site, number).elevation_m), (marks, 251))

    def test_a_pack_set_aside_meanwhile_stays_aside(self) -> None:
        number = self.numbers["H1"]
        form = {"label": "H1", "chemistry": "lithium-polymer", "cells": "3", "capacity_mah": "2200", "c_rate": "30", "mass_g": "185",
                "connector": "60 A, two pins", "mark": "warm", **self.hidden(f"/packs/{number}", "/packs")}  # fmt: skip
        bought = hangar.get(Pack, number).bought
        form |= {"bought": bought.isoformat() if bought else ""}
        store_packs.change_state(number, PackState.QUARANTINED, "dropped", self.now)
        self.assertEqual(self.client.post("/packs", data=form).status_code, 303)
        pack = hangar.get(Pack, number)
        self.assertEqual((pack.state, pack.mark), (PackState.QUARANTINED, "warm"))

    def test_settings_too(self) -> None:
        you = {"pilot": "T. Rook", "theme": "dark", "speed": "kt", "height": "m", "temperature": "°C"}
        mine = you | self.hidden("/settings", "/settings/you")
        self.assertEqual(self.client.post("/settings/you", data=mine).status_code, 303)
        answer = self.client.post("/settings/you", data=mine | {"theme": "light", "pilot": "Tamsin"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Now stored: dark.", plain(answer.text))
        self.assertEqual(store_settings.load().theme, "dark")

    def test_a_limit_is_shown_in_the_pilots_unit(self) -> None:
        limits = dict.fromkeys((), "1") | self.hidden("/settings", "/settings/limits")
        text = self.client.get("/settings").text
        for name in text.split('action="/settings/limits"')[1].split("</form>")[0].split('name="')[1:]:
            key = name.split('"')[0]
            limits.setdefault(key, name.split('value="')[1].split('"')[0])
        self.assertEqual(self.client.post("/settings/limits", data=limits | {"height_max_m": "90"}).status_code, 303)
        answer = self.client.post("/settings/limits", data=limits | {"people_m": "40"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Now stored: 90 m.", plain(answer.text))

    def test_two_methods_chosen_at_once_are_both_kept(self) -> None:
        def choose(topic: str, method: str) -> None:
            self.client.post("/methods", data={"topic": topic, "method": method})

        both = [threading.Thread(target=choose, args=pair) for pair in (("compass", "day"), ("charge", "volts"))]
        for thread in both:
            thread.start()
        for thread in both:
            thread.join()
        kept = store_settings.load().methods
        self.assertEqual((kept.compass, kept.charge), ("day", "volts"))

    def test_every_value_of_a_thing_belongs_to_one_form(self) -> None:
        """What no form's revision covers could be lost without a word."""
        self.assertEqual(
            {*AIRCRAFT, *BAG, *FAILSAFE, *INSPECTION, *WORKS, "id", "retired", "proved"},
            set(Aircraft.__struct_fields__),
        )
        self.assertEqual({*PACK, "id", "state", "condemned", "charged_at"}, set(Pack.__struct_fields__))
        self.assertEqual({*FIELD, *DRAWN, "id"}, set(Site.__struct_fields__))
