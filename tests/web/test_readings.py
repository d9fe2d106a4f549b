"""Reading and inspecting a pack on its pages."""

from datetime import timedelta

from tests.support import plain
from tests.web.test_packs import FormCase
from walkround.core.packs.pack import Pack, PackState
from walkround.store import hangar, packs
from walkround.store import settings as store_settings


class Reads(FormCase):
    def read(self, pack: str = "H1", **form: str) -> int:
        self.now += timedelta(minutes=1)
        return self.client.post(f"/packs/{self.numbers[pack]}/read", data=form).status_code

    def test_what_is_typed_is_kept(self) -> None:
        rows = (
            {"cell_1": "3,84", "cell_2": "3.83", "cell_3": "3.85V", "resistance": "5 5.2 6", "temperature": "21"},
            {"total": "11.5"},
            {"percent": "60", "after": "flight", "since_min": "10", "note": "windy"},
            {"cell_1": "3.84 3.83 3.85"},
        )
        for form in rows:
            with self.subTest(form):
                self.assertEqual(self.read(**form), 303)
        newest = packs.readings(self.numbers["H1"])[-4:]
        self.assertEqual(newest[0].cells_v, (3.84, 3.83, 3.85))
        self.assertEqual((newest[0].resistance_mohm, newest[0].temperature_c), ((5, 5.2, 6), 21))
        self.assertEqual((newest[2].after.value, newest[2].since_min), ("flight", 10))

    def test_lights_of_a_smart_pack(self) -> None:
        self.assertEqual(self.read("S2", lights="3"), 303)
        self.assertIn("Charge 50 to 75", plain(self.client.get(f"/packs/{self.numbers['S2']}").text))

    def test_mistakes_keep_what_was_typed(self) -> None:
        path = f"/packs/{self.numbers['H1']}/read"
        rows = (
            ({}, "Enter at least one value: cells, percentage, LEDs, resistance,"),
            ({"cell_1": "3.8", "cell_2": "3.8"}, "Cell 3 is empty"),
            ({"cell_1": "3840", "cell_2": "3.8", "cell_3": "3.8"}, "millivolts"),
            ({"cell_1": "-3.8", "cell_2": "3.8", "cell_3": "3.8"}, "leads reversed"),
            ({"percent": "140"}, "between"),
            ({"lights": "9"}, "0 to 4 LEDs"),
            ({"lights": "all"}, "0 to 4 LEDs"),
            ({"resistance": "0.005 0.005 0.005"}, "that is 5 mΩ"),
            ({"temperature": "hot"}, "is not a number"),
            ({"percent": "50", "after": "sleep"}, "choose one from the list"),
        )
        for form, words in rows:
            with self.subTest(form):
                before = len(packs.readings(self.numbers["H1"]))
                text = self.wrong(path, form, words)
                self.assertEqual(len(packs.readings(self.numbers["H1"])), before, "nothing is kept by halves")
                for value in set(form.values()) - {"sleep", "9", "all"}:
                    self.assertIn(value, text)

    def test_one_tap_from_the_checker(self) -> None:
        self.assertEqual(self.read(action="device"), 303)
        newest = packs.readings(self.numbers["H1"])[-1]
        self.assertEqual((newest.by, len(newest.cells_v)), ("simulated cell checker", 3))
        store_settings.save(devices={"checker": "loose"})
        answer = self.client.post(f"/packs/{self.numbers['H1']}/read", data={"action": "device"})
        self.assertEqual(answer.status_code, 503)
        self.assertIn("Is its lead connected?", plain(answer.text))

    def test_judged_while_typing(self) -> None:
        path = f"/packs/{self.numbers['H1']}/read/preview"
        text = plain(self.client.post(path, data={"cell_1": "4.2", "cell_2": "4.1", "cell_3": "4.2"}).text)
        self.assertIn("Cell 2 lags", text)
        self.assertIn("Charge", text)
        self.assertNotIn("Cell", plain(self.client.post(path, data={"cell_1": "4."}).text))

    def test_taken_back(self) -> None:
        self.read(percent="33")
        number = packs.numbered(self.numbers["H1"])[0][0]
        self.assertEqual(self.client.post(f"/readings/{number}/drop").status_code, 303)
        self.assertNotEqual(packs.readings(self.numbers["H1"])[-1].percent, 33)
        self.assertEqual(self.client.post(f"/readings/{number}/drop").status_code, 404)


class Looks(FormCase):
    SOUND = {
        f"look-{key}": "sound"
        for key in ("swelling", "smell", "puncture", "crash", "heat", "wrap", "contacts", "latch", "label")
    }

    def test_each_look_is_answered(self) -> None:
        path = f"/packs/{self.numbers['S2']}/look"
        text = self.wrong(path, {**self.SOUND, "look-smell": ""}, "Smell: choose OK or a fault.")
        self.assertEqual(text.count("checked"), 8, "what was answered stays")

    def test_sound(self) -> None:
        number = self.numbers["S2"]
        self.assertEqual(self.client.post(f"/packs/{number}/look", data=self.SOUND).status_code, 303)
        self.assertIs(hangar.get(Pack, number).state, PackState.IN_SERVICE)
        self.assertIn("Inspected: sound", plain(self.client.get(f"/packs/{number}").text))

    def test_a_bulge_is_the_end(self) -> None:
        number = self.numbers["S2"]
        self.client.post(f"/packs/{number}/look", data={**self.SOUND, "look-swelling": "fault"})
        self.assertTrue(hangar.get(Pack, number).condemned)
        text = plain(self.client.get(f"/packs/{number}").text)
        for words in (
            "Retired for good: it rocks on the table: swollen",
            "It can burn without warning",
            "Retired for good. It cannot return to service",
        ):
            self.assertIn(words, text)
        again = self.client.post(f"/packs/{number}/look", data=self.SOUND)
        self.assertEqual(again.status_code, 422)
        self.assertIn("retired for good already", plain(again.text))

    def test_a_burnt_plug_sets_it_aside(self) -> None:
        number = self.numbers["S2"]
        self.client.post(f"/packs/{number}/look", data={**self.SOUND, "look-contacts": "fault"})
        self.assertIs(hangar.get(Pack, number).state, PackState.QUARANTINED)
