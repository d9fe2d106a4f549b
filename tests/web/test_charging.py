"""The charging plan on screen: drawn, with its caution; the charger described; odd questions answered."""

from datetime import timedelta

from tests.support import WebCase, elements, plain
from walkround.store import settings as store_settings


class Plan(WebCase):
    def test_what_is_not_full_is_planned_for_the_morning(self) -> None:
        page = self.client.get("/packs/charging").text
        text = plain(page)
        for words in (
            "Never charge unattended.",
            "all charged, if you start at 08:00 on Sunday",
            "channel 2",
            "S2",
            "L1",
        ):
            self.assertIn(words, text)
        self.assertEqual(page.count('class="block"'), page.count("<tr>") - 1)

    def test_parts_of_a_plan(self) -> None:
        n = self.numbers
        asked = {
            "asked": "1",
            "pack": [str(n["S2"]), str(n["TX"])],
            "start": "19:30",
            f"from-{n['S2']}": "10",
            f"to-{n['S2']}": "80",
        }
        text = plain(self.client.get("/packs/charging", params=asked).text)
        self.assertIn("19:30 on Saturday", text)
        self.assertNotIn("L1 in parallel", text)
        slow = plain(self.client.get("/packs/charging", params={"asked": "1", "pack": str(n["L1"])}).text)
        self.assertIn("L1 would take 10.0 A; the charger gives 3.2 A.", slow)

    def test_nothing_chosen(self) -> None:
        self.assertIn("Tick the packs to charge", plain(self.client.get("/packs/charging", params={"asked": "1"}).text))

    def test_mistakes(self) -> None:
        two = str(self.numbers["S2"])
        rows = (
            ({"start": "half past"}, "not a time like 07:30"),
            ({f"to-{two}": "20"}, "choose a higher target, or leave it out"),
            ({f"from-{two}": "-4"}, "between"),
            ({f"rate-{two}": "90"}, "between"),
        )
        for changes, words in rows:
            with self.subTest(changes):
                answer = self.client.get("/packs/charging", params={"asked": "1", "pack": two, **changes})
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))

    def test_the_charger(self) -> None:
        form = {
            "name": "Bench",
            "channels": "1",
            "channel_a": "8",
            "channel_w": "200",
            "total_w": "200",
            "parallel": "1",
        }
        self.assertEqual(
            self.client.post(
                "/packs/charger", data=form | self.hidden("/packs/charging", "/packs/charger")
            ).status_code,
            303,
        )
        self.assertEqual(store_settings.load().charger.channel_w, 200)
        wrong = self.client.post("/packs/charger", data={**form, "channels": "0"})
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("Outlets: between 1 and 8", plain(wrong.text))

    def test_what_must_not_be_charged_is_left_out_with_what_to_do(self) -> None:
        rows = (
            (
                {"cell_1": "3.80", "cell_2": "3.81", "cell_3": "3.80", "temperature": "2"},
                "At 2 °C it is too cold to charge (min 5 °C)",
                "room temperature",
            ),
            (
                {"cell_1": "3.80", "cell_2": "3.81", "cell_3": "3.80", "temperature": "52"},
                "At 52 °C it is too hot to charge (max 45 °C)",
                "cool",
            ),
            ({"cell_1": "2.60", "cell_2": "3.81", "cell_3": "3.80"}, "A cell is at 2.60 V", "Do not charge it"),
            (
                {"cell_1": "4.31", "cell_2": "4.31", "cell_3": "4.31"},
                "A cell is at 4.31 V: overcharged",
                "do not charge it",
            ),
        )
        self.assertIn("S2", plain(self.client.get("/packs/charging").text).split("Your charger")[0])
        for form, why, instead in rows:
            with self.subTest(why):
                self.now += timedelta(minutes=30)
                self.assertEqual(self.client.post(f"/packs/{self.numbers['S2']}/read", data=form).status_code, 303)
                page = self.client.get("/packs/charging").text
                text = plain(page)
                self.assertIn("Do not charge now", text)
                self.assertIn(f"S2 : {why}", text)
                self.assertIn(instead, text)
                self.assertTrue(elements(page, "input[name=pack]"))
                self.assertEqual(elements(page, f'input[name=pack][value="{self.numbers["S2"]}"]'), [])
                asked = {"asked": "1", "pack": str(self.numbers["S2"])}
                self.assertIn("Tick the packs to charge", plain(self.client.get("/packs/charging", params=asked).text))
