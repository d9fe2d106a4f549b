"""How long it flies, on screen: range and reasons, the plan redrawn, and numbers that cannot be."""

from tests.support import WebCase, elements, plain
from walkround.core.packs.reading import Reading
from walkround.store import packs
from walkround.store import settings as store_settings


class Page(WebCase):
    def get(self, **query: str):  # type: ignore[no-untyped-def]
        return self.client.get("/endurance", params=query)

    def ask(self, aircraft: str, pack: str, **more: str):  # type: ignore[no-untyped-def]
        return self.get(aircraft=str(self.numbers[aircraft]), pack=str(self.numbers[pack]), **more)

    def test_what_is_said(self) -> None:
        text = plain(self.ask("Sandpiper", "S1").text).replace("\u202f", " ")
        for words in ("min from a full pack", "Physics", "As entered", "flights logged", "Today", "logged flights count for",
                      "Set the alarm to", "Which pack next", "on the timer", "Left at landing"):  # fmt: skip
            self.assertIn(words, text)

    def test_wings_have_no_physics(self) -> None:
        text = plain(self.ask("Haymaker", "H1").text)
        self.assertNotIn("Physics", text)
        self.assertIn("Cruising", text)

    def test_a_pack_leads_to_its_aircraft(self) -> None:
        self.assertIn("Flight plan for pack L1", plain(self.get(pack=str(self.numbers["L1"])).text))

    def test_the_plan_is_redrawn(self) -> None:
        calm = plain(self.ask("Sandpiper", "S1", work_min="2", height_m="30").text)
        far = plain(self.ask("Sandpiper", "S1", work_min="2", out_m="400", height_m="30").text)
        self.assertNotIn("turn back at", calm)
        self.assertIn("turn back at", far)
        self.assertIn("Way home", far)

    def test_cold_packs(self) -> None:
        cold = plain(self.ask("Sandpiper", "S1", pack_c="-4").text).replace("\u202f", " ")
        self.assertIn("Warm this pack to", cold)
        self.assertIn("At -4 °C the pack delivers", cold)

    def test_what_it_holds_or_full(self) -> None:
        packs.add_reading(self.numbers["S1"], Reading(at=self.now, percent=55), self.now)
        self.assertIn("It holds 50 to 60 %", plain(self.ask("Sandpiper", "S1").text))
        self.assertIn("Calculated as full; last known 50 to 60 %", plain(self.ask("Sandpiper", "S1", full="1").text))

    def test_mistakes(self) -> None:
        rows = (
            ({"work_min": "0", "height_m": "30"}, "Enter at least one minute, or a distance"),
            ({"work_min": "-3", "height_m": "30"}, "between"),
            ({"work_min": "3", "height_m": ""}, "is empty"),
            ({"work_min": "3", "height_m": "30", "out_m": "far"}, "is not a number"),
            ({"pack_c": "boiling"}, "is not a number"),
        )
        for changes, words in rows:
            with self.subTest(changes):
                answer = self.ask("Sandpiper", "S1", **changes)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))

    def test_odd_questions(self) -> None:
        for query in ({"aircraft": "99"}, {"pack": "x"}, {"pack": "99999999999"}, {"aircraft": "5", "pack": "1"}):
            with self.subTest(query):
                self.assertEqual(self.get(**query).status_code, 200)
        self.assertEqual(self.get(pack="777").status_code, 404)

    def test_without_weather_it_says_so(self) -> None:
        store_settings.save(devices={})
        self.assertIn("Calculated for standard air and no wind", plain(self.ask("Sandpiper", "S1").text))


class Empty(WebCase):
    filled = False

    def test_an_empty_book(self) -> None:
        for path in ("/endurance", "/packs", "/packs/charging", "/packs/table"):
            self.assertEqual(self.client.get(path).status_code, 200, path)


class OnTheWalk(WebCase):
    def test_the_plan_is_answered_and_drawn(self) -> None:
        number = self.start()
        answer = self.answer(
            number, "pack.plan", action="take", work_min="4", out_m="150", hover_min="0.5", height_m="40"
        )
        self.assertEqual(answer.status_code, 200)
        page = self.client.get(f"/rounds/{number}?check=pack.plan").text
        self.assertIn("flight-drawn", page)
        self.assertIn("turn back at", page)

    def test_typed_so_far(self) -> None:
        number = self.start()
        form = {"work_min": "4", "out_m": "150", "height_m": "40"}
        text = self.client.post(f"/rounds/{number}/checks/pack.plan/preview", data=form).text
        self.assertIn("flight-drawn", text)
        self.assertTrue(elements(text, ".finding"))
        quiet = self.client.post(f"/rounds/{number}/checks/pack.plan/preview", data={**form, "work_min": "4."})
        self.assertEqual(quiet.status_code, 200)

    def test_mistakes(self) -> None:
        number = self.start()
        answer = self.answer(number, "pack.plan", action="take", work_min="", height_m="40")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Enter at least one minute, or a distance", plain(answer.text))

    def test_swollen_on_the_walk(self) -> None:
        number = self.start()
        self.answer(number, "pack.body", option="out")
        self.assertIn("Retired for good", plain(self.client.get(f"/packs/{self.numbers['S1']}").text))
