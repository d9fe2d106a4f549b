"""By touch on its pages: the gate, each tap kept, together where that may be, damage, after landing; what cannot be."""

from datetime import timedelta

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.traits import Power
from walkround.core.base.finding import Level
from walkround.core.checklist.history import SnagOn
from walkround.core.round.touches import parts_of
from walkround.store import rounds, snags, touches
from walkround.web.touches import gate_words

TOLD = {"Accept": "application/json"}


class TouchPage(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.start(depth="full")
        self.at = f"/rounds/{self.number}/touch"

    def cold(self) -> None:
        self.assertEqual(self.client.post(f"{self.at}/unplugged", data={"stop": "arm-1"}).status_code, 303)

    def shown(self, stop: str) -> list[str]:
        page = self.client.get(f"{self.at}?stop={stop}").text
        return [str(target.attributes["data-part"]) for target in elements(page, "a.target")]

    def tap(self, *parts: str, stop: str = "arm-1", **more: str):  # type: ignore[no-untyped-def]
        return self.client.post(self.at, data={"stop": stop, "part": list(parts), **more}, headers=TOLD)

    def test_the_gate_stands_before_the_first_touch(self) -> None:
        page = self.client.get(f"{self.at}?stop=arm-1").text
        self.assertTrue(elements(page, ".touch-gate button"))
        self.assertTrue(elements(page, "svg.close-up.closed"))
        self.assertTrue(all("disabled" in button.attributes for button in elements(page, "button.say-ok")))
        answer = self.tap("arm-1")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Unplug the pack first", answer.json()["words"])
        self.cold()
        page = self.client.get(f"{self.at}?stop=arm-1").text
        self.assertFalse(elements(page, ".touch-gate"))
        self.assertEqual(self.tap("arm-1").status_code, 200)

    def test_drawing_and_list_are_the_same(self) -> None:
        for stop in ("top", "arm-1", "under"):
            page = self.client.get(f"{self.at}?stop={stop}").text
            on_list = [str(b.attributes["data-part"]) for b in elements(page, "button.say-ok")]
            self.assertEqual(self.shown(stop), on_list)
            self.assertTrue(on_list)

    def test_touched_to_the_end_it_leads_on_and_answers_every_check(self) -> None:
        self.cold()
        stop, seen = "top", set()
        while True:
            parts = [p for p in self.shown(stop) if p not in seen]
            for part in parts:
                told = self.tap(part, stop=stop).json()
                seen.add(part)
            if "touch?stop=" not in told["next"]:
                break
            stop = told["next"].rsplit("=", 1)[1]
        self.assertEqual(told["left"], "Every part is touched")
        self.assertTrue(told["next"].endswith(f"/rounds/{self.number}?station=airframe"))
        walk = rounds.load(self.number, self.settings, self.now).walk
        for check_id in ("airframe.propellers", "airframe.motors", "airframe.arms", "airframe.shell"):
            self.assertIs(walk.state(check_id).level, Level.CLEAR, check_id)

    def test_at_full_depth_nothing_is_confirmed_together(self) -> None:
        self.cold()
        page = self.client.get(f"{self.at}?stop=arm-1").text
        self.assertFalse(elements(page, "[name=together]"))
        self.assertEqual(self.tap(stop="arm-1", together="1").json()["saved"], [])
        self.assertFalse(touches.of_round(self.number))
        card = self.client.get(f"/rounds/{self.number}?check=airframe.propellers").text
        self.assertFalse(elements(card, "button.primary[form=ask]"))
        self.assertTrue(elements(card, f'a.primary[href^="{self.at}?stop="]'))

    def test_below_it_one_tap_confirms_exactly_what_it_names(self) -> None:
        number = self.start(depth="normal")
        self.client.post(f"/rounds/{number}/touch/unplugged", data={"stop": "arm-2"})
        page = self.client.get(f"/rounds/{number}/touch?stop=arm-2").text
        button = elements(page, "[name=together]")[0]
        answer = self.client.post(f"/rounds/{number}/touch", data={"stop": "arm-2", "together": "1"})
        self.assertEqual(answer.status_code, 303)
        self.assertEqual(f"{len(touches.of_round(number))} parts OK", button.text().strip())

    def test_taken_back(self) -> None:
        self.cold()
        self.tap("arm-1")
        self.assertEqual(self.tap("arm-1", state="open").status_code, 200)
        self.assertFalse(touches.of_round(self.number))

    def test_bad_input_is_said_and_nothing_is_kept(self) -> None:
        self.cold()
        for part in ("arm-99", "", "<b>"):
            answer = self.tap("arm-1", part)
            self.assertEqual(answer.status_code, 404)
            self.assertIn("not on today's list", answer.json()["words"])
        self.assertFalse(touches.of_round(self.number))
        without = self.client.post(self.at, data={"stop": "arm-1", "part": "arm-99"})
        self.assertIn("not on today's list", plain(without.text))
        self.assertEqual(self.client.get(f"{self.at}?stop=nonsense").status_code, 200)
        self.assertEqual(self.client.get("/rounds/9999/touch").status_code, 404)

    def test_old_marks_and_new_ones(self) -> None:
        aircraft = self.numbers["Sandpiper"]
        flown = rounds.load(self.number, self.settings, self.now).walk.situation.history.aircraft_last_flight_at
        assert flown is not None
        for title, at in (("scratch", flown.replace(year=flown.year - 1)), ("dent", self.now)):
            snags.open_one(SnagOn.AIRCRAFT, aircraft, title, grounds=False, at=at, parts=("body",))
        page = self.client.get(f"{self.at}?stop=top").text
        self.assertIn("scratch", " ".join(e.text() for e in elements(page, ".mark-old")))
        self.assertIn("New: dent", " ".join(e.text() for e in elements(page, ".mark-new")))
        self.assertTrue(elements(page, ".flag.new"))

    def test_a_snag_closed_on_the_walk_is_known_to_the_parts(self) -> None:
        snag = snags.open_one(
            SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "bent", grounds=True, at=self.now, parts=("motor-3/shaft",)
        )
        self.cold()
        aircraft = rounds.load(self.number, self.settings, self.now).walk.situation.aircraft
        for stop in ("arm-1", "arm-2", "arm-3", "arm-4"):
            self.tap(*[p for p in parts_of("airframe.motors", aircraft) if p in self.shown(stop)], stop=stop)
        self.assertIs(self.level("airframe.motors"), Level.CAUTION)
        self.answer(self.number, f"snag.{snag}", action="take", option="fixed", note="new shaft")
        self.assertIs(self.level("airframe.motors"), Level.CLEAR)

    def level(self, check_id: str) -> Level | None:
        return rounds.load(self.number, self.settings, self.now).walk.state(check_id).level

    def test_an_engine_is_cold_first(self) -> None:
        wing = rounds.load(self.start(aircraft="Haymaker", pack="H1"), self.settings, self.now).walk.situation.aircraft
        self.assertIn("Unplug the pack", gate_words(wing)[0])
        self.assertIn("engine cool", gate_words(wing.model_copy(update={"power": Power.LIQUID_FUEL}))[0])


class AfterLanding(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.signed()
        self.assertEqual(self.client.post(f"/rounds/{self.number}/flight/take-off").status_code, 303)
        self.now += timedelta(minutes=6)
        self.at = f"/rounds/{self.number}/touch"

    def level(self) -> Level | None:
        return rounds.load(self.number, self.settings, self.now).walk.state("after.look").level

    def test_hands_off_until_it_is_off(self) -> None:
        page = self.client.get(self.at).text
        self.assertIn("Not yet.", plain(page))
        self.assertFalse(elements(page, f'form[action="{self.at}/landed"]'))
        self.assertEqual(self.client.post(f"{self.at}/landed").status_code, 409)
        self.assertIsNone(self.level())

    def test_one_tap_when_nothing_has_changed(self) -> None:
        self.answer(self.number, "after.off", action="pass")
        page = self.client.get(self.at).text
        self.assertIn("Motors and pack may be hot", plain(page))
        self.assertFalse(elements(page, "button.say-ok"), "only differences are asked")
        self.assertEqual(self.client.post(f"{self.at}/landed").status_code, 303)
        self.assertIs(self.level(), Level.CLEAR)

    def test_what_has_changed_is_never_clear(self) -> None:
        self.answer(self.number, "after.off", action="pass")
        quad = self.numbers["Sandpiper"]
        sent = {"part": "arm-1", "damage": "CRACK", "round": str(self.number), "stop": "arm-1"}
        saved = self.client.post(f"/hangar/aircraft/{quad}/damage", data=sent)
        self.assertEqual(saved.headers["location"], f"{self.at}?stop=arm-1")
        self.assertIn("Nothing else has changed", plain(self.client.get(self.at).text))
        self.client.post(f"{self.at}/landed")
        self.assertIs(self.level(), Level.CAUTION)
        self.assertTrue(any(snag.grounds for snag in snags.open_ones(quad)))
