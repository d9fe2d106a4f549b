"""The walk page: answering, mistakes beside the field, gates, undo, tabs."""

import html

from tests.support import WebCase, elements, plain, within
from walkround.core.answers.ways_out import Skipped
from walkround.core.base.units import Units
from walkround.store import rounds, snags
from walkround.store import settings as store_settings
from walkround.store.models import EvidenceRow


class RoundPage(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.round = self.start(depth="full")  # the full list: every kind of answer is on it

    def kept(self) -> int:
        return EvidenceRow.select().where(EvidenceRow.round == self.round).count()

    def last(self) -> str:
        return str(EvidenceRow.select().order_by(EvidenceRow.id.desc()).first().id)

    def page(self, query: str = "") -> str:
        answer = self.client.get(f"/rounds/{self.round}{query}")
        self.assertEqual(answer.status_code, 200)
        return answer.text


class Walking(RoundPage):
    def test_a_check_says_what_why_and_why_today(self) -> None:
        text = plain(self.page("?check=pack.cells"))
        for words in (
            "Measure each cell",
            "Use a cell checker or the pilot's screen, with the pack at rest.",
            "Enter the total voltage if you cannot read cells",
            "Today: Pack S1 rested 1 day since its last charge",
            "Last time 12.58 V",
        ):
            self.assertIn(words, text)

    def test_going_back_brings_the_whole_page(self) -> None:
        asked = {"HX-Request": "true", "HX-History-Restore-Request": "true"}
        whole = self.client.get(f"/rounds/{self.round}?station=link", headers=asked).text
        self.assertIn("<header", whole)

    def test_every_check_of_both_aircraft_can_be_opened(self) -> None:
        other = self.start("Haymaker", "H1")
        for number in (self.round, other):
            for state in rounds.load(number, self.settings, self.now).walk.states:
                with self.subTest(state.planned.check.id):
                    answer = self.client.get(f"/rounds/{number}?check={state.planned.check.id}&edit=1")
                    self.assertEqual(answer.status_code, 200)
                    if state.planned.check.phase.value == "before":
                        self.assertIn(state.planned.check.title, html.unescape(answer.text))

    def test_stations_and_odd_addresses(self) -> None:
        for query in ("?station=pack", "?station=nowhere", "?check=no.such", "?check=../../etc", "?station="):
            self.assertIn("Station", self.page(query))
        for path in ("/rounds/999", "/rounds/0", "/rounds/abc", "/rounds/99999999999999999999"):
            answer = self.client.get(path)
            self.assertEqual(answer.status_code, 404, path)
            self.assertIn("Walk Round", answer.text)

    def test_answer_comes_back_judged_with_the_verdict(self) -> None:
        answer = self.answer(self.round, "pack.cells", action="take", cell_1="4.20", cell_2="4,15", cell_3="4.19")
        text = plain(answer.text)
        for words in (
            "Cell 2 lags: the cells differ by 0.05 V (aim for 0.02 V or less).",
            "Balance charge",
            "over by 0.03 V",
            "Not complete: 1 caution",
            f"1 of {self.asked_before(self.round)}",
        ):
            self.assertIn(words, text)
        for part in ("panel", "chip", "path", "strip"):
            self.assertTrue(elements(answer.text, f"#{part}"), part)

    def test_a_plain_clear_answer_leads_on(self) -> None:
        answer = self.answer(self.round, "airframe.covers_off", action="pass")
        self.assertIn("Inspect the airframe", plain(answer.text))

    def test_units_follow_settings_everywhere(self) -> None:
        self.answer(self.round, "sky.wind_meter", action="take", number="9")
        store_settings.save(units=Units(speed="mph", height="ft", temperature="°F"))
        text = plain(self.page("?check=sky.wind_meter"))
        self.assertIn("Wind here 20 mph (max 15 mph)", text)
        self.assertIn(
            "The tallest at Teasel Common is a row of trees, 62 ft high at 367 ft",
            plain(self.page("?check=link.rth_altitude")),
        )
        self.answer(self.round, "pack.temperature", action="take", number="70")
        self.assertIn("21", EvidenceRow.select().order_by(EvidenceRow.id.desc()).first().answer)

    def test_without_scripts_a_form_still_answers(self) -> None:
        answer = self.answer(self.round, "airframe.shell", fragment=False, action="pass")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("<!doctype html>", answer.text)
        self.assertEqual(self.kept(), 1)


class Devices_(RoundPage):
    def device(self, check_id: str, **devices: str):  # type: ignore[no-untyped-def]
        store_settings.save(devices=devices)
        return self.answer(self.round, check_id, action="device")

    def open_power(self) -> None:
        for check_id in (
            "airframe.covers_off",
            "power.transmitter_on",
            "power.mode",
            "power.idle",
            "power.aircraft_on",
        ):
            self.answer(self.round, check_id, action="pass")
        self.answer(self.round, "power.still_long", seconds="20.1")

    def test_one_tap_each(self) -> None:
        self.assertIn("cell 2 4.15 V", self.device("pack.cells", checker="lagging").text)
        self.assertIn("from the simulated cell checker", plain(self.page("?check=pack.cells")))
        self.assertIn("Gust 12.3 m/s (max 6.7 m/s)", plain(self.device("sky.weather", weather="gusty").text))
        self.open_power()
        self.assertIn(
            "HDOP and ground speed: 14, clear.", plain(self.device("sensors.satellites", receiver="open").text)
        )
        self.assertIn("Satellites 14 (min 10)", plain(self.page("?check=sensors.satellites")))

    def test_a_faulty_device_is_said_at_the_place(self) -> None:
        self.open_power()
        rows = (
            ("pack.cells", {"checker": "loose"}, "sees no pack"),
            ("sky.weather", {"weather": "silent"}, "does not answer"),
            ("sensors.satellites", {"receiver": "silent"}, "does not answer"),
        )
        count = self.kept()
        for check_id, devices, words in rows:
            with self.subTest(check_id):
                answer = self.device(check_id, **devices)
                self.assertEqual(answer.status_code, 503)
                self.assertIn(words, plain(answer.text))
        self.assertEqual(self.kept(), count)

    def test_a_new_book_has_no_device_and_never_shows_an_invented_sky(self) -> None:
        store_settings.save(devices={})
        for check_id in ("sky.weather", "pack.cells"):
            self.assertNotIn("imulated", plain(self.page(f"?check={check_id}")))
            answer = self.answer(self.round, check_id, action="device")
            self.assertEqual(answer.status_code, 503)
            self.assertIn("is connected", plain(answer.text))
        today = plain(self.client.get("/").text)
        self.assertIn("No weather station is connected", today)
        self.assertNotIn("METAR", today)

    def test_pasted_and_uploaded_sentences(self) -> None:
        from walkround.simulators.receiver import SimulatedReceiver

        self.open_power()
        site = rounds.load(self.round, self.settings, self.now).walk.situation.site
        place = site.position
        text = SimulatedReceiver("thin").nmea(place, self.now)
        answer = self.answer(self.round, "sensors.satellites", action="take", nmea=text)
        self.assertIn("6 satellites in use (min 10).", plain(answer.text))
        files = {
            "file": (
                "log.nmea",
                SimulatedReceiver("open").nmea(place, self.now, site.elevation_m).encode(),
                "text/plain",
            )
        }
        answer = self.client.post(
            f"/rounds/{self.round}/checks/sensors.satellites",
            data={"action": "take", "seen": self.last()},
            files=files,
            headers={"HX-Request": "true"},
        )
        self.assertEqual(answer.status_code, 200)
        self.assertIn("84 NMEA lines read", plain(self.page("?check=sensors.satellites")))
        for name, data, words in (
            ("picture.png", b"\x89PNG\xff\xfe", "not text"),
            ("long.txt", b"$" * 1_200_000, "larger than"),
        ):
            answer = self.client.post(
                f"/rounds/{self.round}/checks/sensors.satellites",
                data={"action": "take", "seen": self.last()},
                files={"file": (name, data, "text/plain")},
                headers={"HX-Request": "true"},
            )
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))


class Mistakes(RoundPage):
    """Bad input: a clear sentence at the place, what was typed kept, nothing saved."""

    def wrong(self, check_id: str, words: str, status: int = 422, **form: str) -> str:
        answer = self.answer(self.round, check_id, **form)
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertIn(words, within(answer.text, ".wrong"))
        self.assertNotIn("Traceback", answer.text)
        self.assertEqual(self.kept(), 0)
        return answer.text

    def test_cells(self) -> None:
        rows = (
            ("empty", ("", "", ""), "Enter the 3 cell voltages"),
            ("text", ("4.2", "full", "4.2"), "is not a number"),
            ("negative", ("4.2", "-4", "4.2"), "leads reversed"),
            ("99 V", ("99", "4.2", "4.2"), "is not plausible for a lithium-polymer cell"),
            ("four for three", ("4.2 4.2 4.2 4.2", "", ""), "has 3 cells. You entered 4"),
        )
        for name, cells, words in rows:
            with self.subTest(name):
                text = self.wrong(
                    "pack.cells", words, action="take", **{f"cell_{i}": v for i, v in enumerate(cells, 1)}
                )
                self.assertIn("aria-invalid", text)
                for value in filter(None, cells):
                    self.assertTrue(elements(text, f'input[value="{value}"]'), value)

    def test_millivolts_are_offered(self) -> None:
        text = self.wrong("pack.cells", "millivolts", action="take", cell_1="4200", cell_2="4180", cell_3="4190")
        self.assertIn("Use 4.2 · 4.18 · 4.19 V", text)
        self.assertIn("data-fill", text)

    def test_numbers(self) -> None:
        for value, words in (
            ("", "is empty"),
            ("many", "is not a number"),
            ("400", "between 0 m/s and 75.0 m/s".replace("0 m/s", "0.0 m/s", 1)),
            ("-3", "between"),
        ):
            self.wrong("sky.wind_meter", words, action="take", number=value)

    def test_weather(self) -> None:
        self.wrong(
            "sky.weather",
            "This text is not a weather report",
            action="take",
            way="report",
            report="hello there",
        )
        self.wrong("sky.weather", "Paste a report", action="take", way="report", report="  ")
        by_hand = {"action": "take", "way": "hand", "sky": "dry", "temperature": "15"}
        self.wrong("sky.weather", "Wind is empty", **by_hand)
        self.wrong(
            "sky.weather",
            "Enter the wind measured or the wind felt, not both. Measured is",
            **by_hand,
            wind="3",
            felt="2",
        )
        self.wrong("sky.weather", "Wind as felt: choose one from the list", **by_hand, felt="12")
        self.wrong(
            "sky.weather",
            "A gust cannot be below the mean wind. Leave it empty when there are",
            **by_hand,
            wind="6",
            gust="3",
        )
        self.wrong("sky.weather", "The dew point cannot be above the temperature", **by_hand, wind="6", dew_point="25")
        self.wrong("sky.weather", "choose one from the list", **{**by_hand, "sky": "frogs"}, wind="3")
        text = self.wrong("sky.weather", "Wind: between", **by_hand, wind="400")
        self.assertTrue(elements(text, 'input[name=wind][value="400"]'))

    def test_wind_as_felt(self) -> None:
        by_hand = {"action": "take", "way": "hand", "sky": "dry", "temperature": "15", "felt": "5"}
        said = self.answer(self.round, "sky.weather", **by_hand).text.replace("\u202f", " ")
        self.assertIn("Small trees in leaf sway: 8.0 m/s to 10.7 m/s, and 10.7 m/s is over your limit", said)

    def test_reasons(self) -> None:
        self.wrong("airframe.shell", "Reason: enter a few words", action="skip", reason=" ")
        self.wrong("airframe.shell", "max 300", action="skip", reason="x" * 400)
        self.wrong("field.people", "Choose one of the answers", action="", option="")
        self.wrong("airframe.shell", "Choose OK, a fault, or skip with a reason", action="")

    def test_a_gate_says_why(self) -> None:
        text = self.wrong(
            "power.aircraft_on",
            "Remove the gimbal cover before you power the aircraft. Left on, the",
            409,
            action="pass",
        )
        self.assertIn("Remove gimbal clamp and lens cover", text)

    def test_no_such_check(self) -> None:
        self.assertEqual(self.answer(self.round, "no.such", action="pass").status_code, 404)

    def test_a_note_is_shown_as_text(self) -> None:
        self.answer(self.round, "airframe.shell", action="fault", note="<script>alert(1)</script>")
        page = self.page("?check=airframe.shell")
        self.assertNotIn("<script>alert", page)
        self.assertIn("&lt;script&gt;", page)

    def test_a_preview_keeps_nothing_and_stays_quiet_on_half_typed_text(self) -> None:
        url = f"/rounds/{self.round}/checks/pack.cells/preview"
        full = self.client.post(url, data={"cell_1": "4.2", "cell_2": "4.15", "cell_3": "4.19"})
        self.assertIn("Cell 2 lags", full.text)
        half = self.client.post(url, data={"cell_1": "4.", "cell_2": "", "cell_3": ""})
        self.assertEqual((half.status_code, half.text.strip()), (200, ""))
        self.assertEqual(self.kept(), 0)


class Contradictions(RoundPage):
    def test_either_side_is_corrected_with_one_tap(self) -> None:
        self.answer(self.round, "pack.cells", action="take", cell_1="3.80", cell_2="3.80", cell_3="3.80")
        answer = self.answer(self.round, "pack.percent", action="take", number="98")
        self.assertIn("The cells say", plain(answer.text))
        (other,) = elements(answer.text, ".other-side a")
        self.assertEqual(other.text(), "Measure each cell")
        opened = self.client.get(str(other.attributes["href"])).text
        self.assertEqual(len(elements(opened, "[name=cell_1]")), 1, "open to be answered again")
        self.answer(self.round, "bench.packs_ready", action="take", number="9")
        record = elements(self.page("?check=bench.packs_ready"), ".other-side a")
        self.assertEqual([node.attributes["href"] for node in record], ["/packs"])


class Tabs(RoundPage):
    def test_two_devices_answering_the_same_check(self) -> None:
        self.answer(self.round, "airframe.shell", action="pass", seen="0")
        answer = self.answer(self.round, "airframe.shell", action="fault", note="crack", seen="0")
        self.assertEqual(answer.status_code, 200)
        text = plain(answer.text)
        self.assertIn("It was answered twice, and neither answer replaced the other. The worse one counts.", text)
        self.assertIn("Fault. crack", within(answer.text, ".two-answers"))
        walk = rounds.load(self.round, self.settings, self.now).walk
        self.assertEqual(walk.verdict.word.value, "Stay down")
        fault, ok = (str(node.attributes["value"]) for node in elements(answer.text, ".two-answers [name=piece]"))
        path = f"/rounds/{self.round}/withdraw"
        for odd in ({}, {"piece": "x"}, {"piece": "99999"}):
            self.assertEqual(self.client.post(path, data=odd).status_code, 404)
        for _ in range(2):
            after = self.client.post(path, data={"piece": fault}, headers={"HX-Request": "true"})
            self.assertEqual((after.status_code, elements(after.text, ".two-answers")), (200, []))
        state = rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell")
        self.assertEqual(str(state.evidence.id if state.evidence else 0), ok)
        self.assertNotIn("crack", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])

    def test_the_better_one_withdrawn_leaves_the_worse_and_its_snag(self) -> None:
        self.answer(self.round, "airframe.shell", action="fault", note="crack", seen="0")
        answer = self.answer(self.round, "airframe.shell", action="pass", seen="0")
        fault, ok = (str(node.attributes["value"]) for node in elements(answer.text, ".two-answers [name=piece]"))
        self.client.post(f"/rounds/{self.round}/withdraw", data={"piece": ok})
        state = rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell")
        self.assertEqual((str(state.evidence.id if state.evidence else 0), state.rival), (fault, None))
        self.assertIn("crack", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])

    def test_a_double_tap_is_one_answer(self) -> None:
        for _ in range(2):
            self.assertEqual(self.answer(self.round, "airframe.shell", action="pass", seen="0").status_code, 200)
        self.assertEqual(self.kept(), 1)

    def test_undo(self) -> None:
        self.answer(self.round, "airframe.shell", action="fault", note="crack")
        path, here = f"/rounds/{self.round}/undo", f"/rounds/{self.round}"
        shown = self.hidden(here, path)
        answer = self.client.post(path, data=shown, headers={"HX-Request": "true"})
        self.assertIn("Undone: Inspect the airframe.", within(answer.text, "#notices, .notice"))
        self.assertNotIn("crack", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])
        answer = self.client.post(path, data=self.hidden(here, path), headers={"HX-Request": "true"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Nothing to undo yet", plain(answer.text))

    def test_one_tap_takes_one_answer_back_however_often_it_arrives(self) -> None:
        path, here = f"/rounds/{self.round}/undo", f"/rounds/{self.round}"
        for check_id in ("airframe.shell", "airframe.motors", "airframe.arms"):
            self.answer(self.round, check_id, action="pass")
        shown = self.hidden(here, path)
        for _ in range(16):
            self.assertEqual(self.client.post(path, data=shown).status_code, 200)
        self.assertEqual(self.done(), 2)
        stale = self.hidden(here, path)
        self.answer(self.round, "airframe.arms", action="pass")
        answer = self.client.post(path, data=stale)
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Check it before you undo", plain(answer.text))
        for odd in ({}, {"seen": "x"}, {"seen": "9" * 5000}):
            self.assertEqual(self.client.post(path, data=odd).status_code, 409)
        self.assertEqual(self.done(), 3)

    def done(self) -> int:
        return rounds.load(self.round, self.settings, self.now).walk.verdict.done

    def test_back_button_after_signing(self) -> None:
        self.walk_all(self.round)
        self.client.post(f"/rounds/{self.round}/sign", data={"signed_by": "Tamsin Rook"})
        seen = str(rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell").evidence.id)
        answer = self.answer(self.round, "airframe.shell", action="fault", note="late", seen=seen)
        self.assertEqual(answer.status_code, 409)
        self.assertIn("and is locked", plain(answer.text))
        self.assertEqual(self.client.get(f"/rounds/{self.round}").status_code, 200)

    def test_a_skip_shows_on_the_list(self) -> None:
        self.answer(self.round, "airframe.shell", action="skip", reason="bench day")
        self.assertIn("Not done: bench day", plain(self.page("?check=airframe.shell")))
        self.assertIsInstance(
            rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell").evidence.answer, Skipped
        )
