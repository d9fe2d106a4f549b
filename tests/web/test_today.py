"""Today: what is shown, what can be chosen, how a round starts."""

from datetime import timedelta

from tests.support import WebCase, elements, plain, within
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.checklist.history import SnagOn
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import Reading
from walkround.store import box, hangar, packs, snags
from walkround.store import settings as store_settings
from walkround.store.models import RoundRow
from walkround.web.choice import MOST_OFFERED


class Shown(WebCase):
    def test_next_flight_and_one_way_to_start(self) -> None:
        page = self.client.get("/").text
        for words in (
            "Sandpiper",
            "Teasel Common",
            "METAR ZZTC 160730Z",
            "Start the walk round",
            "Between you and flying",
        ):
            self.assertIn(words, page)
        self.assertNotIn("Carry on", page)

    def test_an_open_round_is_carried_on(self) -> None:
        number = self.start()
        page = self.client.get("/").text
        self.assertIn(f"/rounds/{number}", page)
        self.assertIn("Carry on: Sandpiper, pack S1", page)
        left = plain(elements(page, ".start .help")[0].html or "")
        self.assertRegex(left, r"Still open in it: at home \d+ checks, about \d+ min; at the field \d+ checks")
        first = int(left.split("at the field ")[1].split()[0])
        self.client.post(f"/rounds/{number}/checks/field.path", data={"action": "fault", "note": ""})
        after = plain(elements(self.client.get("/").text, ".start .help")[0].html or "")
        self.assertIn(f"at the field {first - 1} checks", after)

    def test_a_flight_that_is_not_finished_comes_first(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(minutes=2)
        page = self.client.get("/").text
        self.assertIn("In the air: to the flight", plain(page))
        self.assertEqual(elements(page, ".start .primary")[0].attributes["href"], f"/rounds/{number}/flight")
        self.client.post(f"/rounds/{number}/flight/notes", data={"kind": "landed", "uid": "landing-on-today"})
        self.assertIn("Landed, not in the logbook yet", plain(self.client.get("/").text))
        line = {"minutes": "1.9", "happened": "nothing", "left_percent": "80", "sure": "1"}
        self.client.post(f"/rounds/{number}/flight/log", data=line)
        self.assertIn("Start the walk round", plain(self.client.get("/").text))

    def test_how_deep_the_list_goes_and_what_it_leaves_out(self) -> None:
        page = self.client.get("/").text
        self.assertIn("Normal list. 5 flights with it so far. It weighs 780 g.", plain(page))
        left = {node.attributes["value"] for node in elements(page, ".shorter input[name=ask]")}
        known = left - {node.attributes["value"] for node in elements(page, ".shorter:first-of-type input[name=ask]")}
        self.assertIn("airframe.screws", left - known)
        self.assertIn(f"{len(left - known)} checks left out", plain(page))
        self.assertIn(f"{len(known)} check", within(page, ".shorter ~ .shorter summary"))
        self.assertIn("Calculated: the sun stays out of the flying box.", plain(page))
        before = int(within(page, ".between-list b").split()[0])
        asked = self.client.get("/", params={"ask": "airframe.screws"}).text
        self.assertEqual(int(within(asked, ".between-list b").split()[0]), before + 1)
        self.assertIn('<input type="hidden" name="ask" value="airframe.screws">', asked)
        full = self.client.get("/", params={"depth": "full"}).text
        self.assertEqual(int(within(full, ".between-list b").split()[0]), before + len(left))
        self.assertIn("Full list. You chose it.", plain(full))
        self.assertEqual(elements(full, ".shorter"), [])
        for odd in ({"depth": "deepest"}, {"ask": "no.such"}):
            self.assertEqual(int(within(self.client.get("/", params=odd).text, ".between-list b").split()[0]), before)

    def test_a_pack_brings_the_aircraft_it_fits(self) -> None:
        pack = hangar.get(Pack, self.numbers["H1"])
        page = self.client.get("/", params={"pack": pack.id}).text
        self.assertIn("with H1 at", within(page, "#next-title"))
        self.assertIn("Haymaker", within(page, "#next-title"))
        self.assertIn("Sandpiper", within(self.client.get("/", params={"pack": "none"}).text, "#next-title"))

    def test_of_many_packs_those_that_fly_next_are_offered(self) -> None:
        pack = hangar.get(Pack, self.numbers["S1"])
        for number in range(MOST_OFFERED):
            hangar.save(pack.model_copy(update={"id": 0, "label": f"T{number:02d}"}), self.now)
        sandpiper = hangar.get(Aircraft, self.numbers["Sandpiper"])
        fits, turns = box.fitting(sandpiper), box.flying_order(sandpiper, self.now)
        last = turns[-1].pack
        page = self.client.get("/").text
        offered = [node.text().strip() for node in elements(page, "#f-pack option")]
        self.assertEqual(offered, sorted(t.pack.label for t in turns[:MOST_OFFERED]))
        self.assertNotIn(last.label, offered)
        self.assertIn(f"All {len(fits)} packs", page)
        chosen = self.client.get("/", params={"pack": last.id}).text
        self.assertIn(last.label, [node.text().strip() for node in elements(chosen, "#f-pack option")])
        self.assertIn(f"with {last.label} at", within(chosen, "#next-title"))

    def test_a_pack_that_must_not_fly_says_so(self) -> None:
        n = self.numbers
        snags.open_one(SnagOn.PACK, n["H1"], "A lead is nicked", grounds=True, at=self.now)
        page = self.client.get("/", params={"aircraft": n["Haymaker"], "pack": n["H1"]}).text
        self.assertIn("H1 (grounded)", page)
        self.assertIn("A lead is nicked", page)
        usual = self.client.get("/", params={"aircraft": n["Haymaker"]}).text
        self.assertNotIn("A lead is nicked", usual, "another pack is offered first")

    def test_a_pack_that_its_own_cells_ground_is_not_offered_first_and_says_so(self) -> None:
        n = self.numbers
        before = self.client.get("/", params={"aircraft": n["Haymaker"]}).text
        self.assertTrue(elements(before, f'select[name=pack] option[value="{n["H1"]}"][selected]'))
        packs.add_reading(n["H1"], Reading(at=self.now, cells_v=(4.3, 4.3, 4.3)), self.now)
        after = self.client.get("/", params={"aircraft": n["Haymaker"]}).text
        self.assertEqual(elements(after, f'select[name=pack] option[value="{n["H1"]}"][selected]'), [])
        self.assertIn("H1 (grounded)", within(after, "select[name=pack]"))

    def test_a_pack_that_is_out_cannot_be_chosen(self) -> None:
        """Not offered, and refused where it is asked for all the same."""
        n = self.numbers
        self.assertNotIn(
            "H2",
            within(self.client.get("/", params={"aircraft": n["Haymaker"], "pack": n["H2"]}).text, "select[name=pack]"),
        )
        form = {"aircraft": str(n["Haymaker"]), "pack": str(n["H2"]), "site": str(n["Teasel Common"])}
        answer = self.client.post("/rounds", data=form)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Pack H2 is retired for good: Rocks on the table: swollen.", answer.text)

    def test_far_away_the_compass_is_due(self) -> None:
        page = self.client.get("/", params={"site": self.numbers["Gull Staithe"]}).text
        self.assertIn("from the last compass calibration at Teasel Common", page)

    def test_a_silent_station_is_said_and_the_page_stands(self) -> None:
        store_settings.save(devices={"weather": "silent"})
        answer = self.client.get("/")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("does not answer", answer.text)

    def test_odd_choices_fall_back(self) -> None:
        for params in ({"aircraft": "999"}, {"aircraft": "x"}, {"pack": "-1", "site": "<script>"}):
            answer = self.client.get("/", params=params)
            self.assertEqual(answer.status_code, 200)
            self.assertNotIn("<script>alert", answer.text)

    def test_fragment_for_a_changed_choice(self) -> None:
        answer = self.client.get("/", params={"aircraft": self.numbers["Haymaker"]}, headers={"HX-Request": "true"})
        self.assertTrue(answer.text.lstrip().startswith('<div id="today"'))
        self.assertIn("Haymaker", answer.text)


class Starting(WebCase):
    def start_with(self, **form: str):  # type: ignore[no-untyped-def]
        base = {
            k: str(self.numbers[v]) for k, v in (("aircraft", "Sandpiper"), ("pack", "S1"), ("site", "Teasel Common"))
        }
        return self.client.post("/rounds", data={**base, **form})

    def test_mistakes_stay_on_the_page(self) -> None:
        n = self.numbers
        rows = (
            ({"pack": str(n["H1"])}, 422, "does not fit"),
            (
                {"day": (self.now - timedelta(days=1)).date().isoformat()},
                422,
                "That day is in the past. Choose today or a later day",
            ),
            ({"day": (self.now + timedelta(days=90)).date().isoformat()}, 422, "60 days ahead"),
            ({"day": "soon"}, 422, "is not a date"),
            ({"aircraft": ""}, 422, "Aircraft: choose one"),
            ({"aircraft": "998"}, 422, ""),
        )
        for form, status, words in rows:
            with self.subTest(form):
                answer = self.start_with(**form)
                self.assertIn(words, answer.text)
                self.assertEqual(answer.status_code, status)
        self.assertEqual(RoundRow.select().count(), 1)

    def test_a_double_tap_starts_one_round(self) -> None:
        first, second = self.start_with(), self.start_with()
        self.assertEqual(first.headers["location"], second.headers["location"])
        self.assertEqual(RoundRow.select().count(), 2, "the one of the past, and this one")

    def test_a_day_ahead(self) -> None:
        answer = self.start_with(day=(self.now + timedelta(days=2)).date().isoformat())
        page = self.client.get(answer.headers["location"]).text
        self.assertIn("18 May", page)


class EmptyBook(WebCase):
    filled = False

    def test_says_what_is_needed(self) -> None:
        page = self.client.get("/").text
        self.assertEqual(within(page, "#today h1"), "Nothing set up yet")
        steps = [within(str(step.html), "a") for step in elements(page, "ol.steps li")]
        self.assertEqual(steps, ["An aircraft", "A pack that fits it", "A field"])

    def test_from_nothing_to_a_round(self) -> None:
        """Aircraft, pack and field by their forms, then the first round."""
        post = self.client.post
        made = post("/hangar/aircraft", data={
            "id": "0", "kind": "fixed wing", "frame": "high wing", "power": "electric", "rotors": "1", "name": "Mayfly", "mass_g": "900", "span_mm": "1200", "top_speed_ms": "18",
            "flight_min": "9", "cells": "2", "bands": "6", "traits": ["ailerons", "elevator"],
        })  # fmt: skip
        self.assertEqual(made.status_code, 303, made.text)
        self.assertIn("2 cells, plain", self.client.get("/").text)
        self.assertRegex(self.client.get("/packs/new?aircraft=1").text, r'name="cells"[^>]*value="2"')
        self.assertEqual(self.client.get("/packs/new?aircraft=77").status_code, 404)
        made = post(
            "/packs",
            data={"id": "0", "label": "M1", "chemistry": "lithium-polymer", "cells": "2", "capacity_mah": "1000"},
        )
        self.assertEqual(made.status_code, 303, made.text)
        made = post("/fields", data={
            "id": "0", "name": "Back Paddock", "position": "48,2 15,3", "elevation_m": "210",
            "timezone": "Europe/Vienna", "terrain": "open grass", "flight_radius_m": "100", "flight_height_m": "40",
        })  # fmt: skip
        self.assertEqual(made.status_code, 303, made.text)
        answer = post("/rounds", data={"aircraft": "1", "pack": "1", "site": "1"})
        self.assertEqual(answer.status_code, 303, answer.text)
        self.assertIn("Mayfly", self.client.get(answer.headers["location"]).text)
        self.assertEqual(snags.grounded_packs(), set())
