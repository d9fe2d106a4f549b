"""The failsafe page and its bench test, as a pilot uses them."""

from tests.support import elements, plain
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action
from walkround.core.checklist.history import EventKind
from walkround.store import hangar, link_trials, snags
from walkround.store import settings as store_settings


class FailsafePage(FormCase):
    def address(self, name: str = "Haymaker", tail: str = "") -> str:
        return f"/hangar/aircraft/{self.numbers[name]}/failsafe{tail}"

    def fields(self, name: str = "Haymaker", **changes: str) -> dict[str, str]:
        page = self.address(name)
        return (
            self.hidden(page, page)
            | {"action": "CIRCLE", "controls": "TURN", "read_by": "transmitter", "delay": "1.0"}
            | changes
        )

    def quad(self, **changes: str) -> dict[str, str]:
        usual = {
            "action": "RETURN",
            "controls": "UNKNOWN",
            "climb": "FIRST",
            "low": "RETURN",
            "rth_altitude": "55",
            "confirm": "0",
        }
        return self.fields("Sandpiper", **(usual | changes))

    def test_it_shows_what_is_known(self) -> None:
        text = plain(self.client.get(self.address("Sandpiper")).text)
        for words in (
            "Failsafe of Sandpiper",
            "Last read in the aircraft's app on 7 May 2026.",
            "The failsafe acts after 1.5 s.",
            "3 rehearsals count",
        ):
            self.assertIn(words, text)
        unknown = plain(self.client.get(self.address("Lapwing")).text)
        self.assertIn("The failsafe action is not known.", unknown)
        self.assertIn("Never read, according to your records.", unknown)

    def test_saved_as_read_and_counted_as_checked(self) -> None:
        answer = self.client.post(self.address("Sandpiper"), data=self.quad())
        self.assertEqual(answer.status_code, 303, answer.text)
        kept = hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe
        assert kept is not None
        self.assertEqual((kept.action, kept.rth_altitude_m, kept.read_site), (Action.RETURN, 55, "Teasel Common"))
        number = self.start()
        asked = self.client.get(f"/rounds/{number}?station=link").text
        self.assertNotIn("Check the failsafe action", asked, "read today: not asked again")

    def test_bad_input_is_said_at_its_place_and_nothing_is_lost(self) -> None:
        before = hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe
        for field, value, words in (
            ("rth_altitude", "0", "RTH altitude: between"),
            ("delay", "-1", "Delay: between"),
            ("confirm", "often", "Confirmation"),
        ):
            answer = self.client.post(self.address("Sandpiper"), data=self.quad(**{field: value}))
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, " ".join(plain(e.html or "") for e in elements(answer.text, ".wrong")))
            self.assertIn(f'value="{value}"', answer.text)
        self.assertEqual(hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe, before)

    def test_holding_can_be_recorded_and_is_refused_with_the_arithmetic(self) -> None:
        self.client.post(self.address(), data=self.fields(action="HOLD"))
        text = plain(self.client.get(self.address()).text)
        self.assertRegex(text, r"flies on for [\d.]+ min: at [\d.]+ m/s with the wind, [\d.]+ km away")
        self.assertIn("Stay down.", text)

    def test_a_form_that_was_overtaken_loses_nothing(self) -> None:
        fields = self.quad()
        self.client.post(self.address("Sandpiper"), data=self.quad(rth_altitude="60"))
        answer = self.client.post(self.address("Sandpiper"), data=fields)
        self.assertIn("changed in another tab", answer.text)
        kept = hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe
        assert kept is not None
        self.assertEqual(kept.rth_altitude_m, 60)

    def test_the_aircraft_form_keeps_the_failsafe(self) -> None:
        before = hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe
        self.client.post(f"/hangar/aircraft/{self.numbers['Sandpiper']}/retire", data={"retired": "no"})
        self.assertEqual(hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe, before)

    def test_rehearsals(self) -> None:
        page, number = self.address("Sandpiper"), self.numbers["Sandpiper"]
        post = f"/hangar/aircraft/{number}/rehearsals"
        self.assertEqual(
            self.client.post(post, data={"distance": "90", "seconds": "75", "used": "8", "offset": "2.5"}).status_code,
            303,
        )
        _, flown = link_trials.newest(number, self.now)
        self.assertEqual((flown[0].distance_m, flown[0].offset_m, len(flown)), (90, 2.5, 4))
        assert flown[0].expected_percent is not None
        self.assertTrue(0 < flown[0].expected_percent < 50)
        wrong = self.client.post(post, data={"distance": "9000", "seconds": "5", "offset": "1"})
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("too fast", wrong.text)
        self.assertIn("4 rehearsals count", plain(self.client.get(page).text))

    def test_the_emergency_card_is_drawn_for_the_stick_mode(self) -> None:
        page = self.client.get(self.address("Sandpiper")).text
        self.assertIn("Throttle fully down, held for 3 s, mode 2", plain(page))
        left = elements(page, ".sticks path.way")[0].attributes["d"]
        store_settings.save(stick_mode=1)
        other = elements(self.client.get(self.address("Sandpiper")).text, ".sticks path.way")[0].attributes["d"]
        self.assertNotEqual(left, other)


class BenchPage(FormCase):
    def address(self, name: str = "Haymaker") -> str:
        return f"/hangar/aircraft/{self.numbers[name]}/failsafe/test"

    def test_nothing_is_kept_without_the_gates(self) -> None:
        for gates in ([], ["blades"], ["clear"]):
            answer = self.client.post(self.address(), data={"gate": gates, "seen": "STOPPED", "after": "1.2"})
            self.assertEqual(answer.status_code, 422)
            self.assertIn("Confirm first:", answer.text)
        self.assertIsNone(link_trials.newest(self.numbers["Haymaker"], self.now)[0])

    def test_silence_is_no_answer(self) -> None:
        answer = self.client.post(self.address(), data={"gate": ["blades", "clear"], "seen": ""})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Say what happened.", answer.text)

    def test_passed_and_failed(self) -> None:
        self.client.post(self.address(), data={"gate": ["blades", "clear"], "seen": "KEPT_ON", "after": "9"})
        self.assertTrue([s for s in snags.open_ones(self.numbers["Haymaker"]) if s.grounds])
        text = plain(self.client.get(self.address()).text)
        self.assertIn("The motors kept running after signal loss.", text)
        self.assertIn("Failsafe test failed", plain(self.client.get("/snags").text))
        self.client.post(self.address(), data={"gate": ["blades", "clear"], "seen": "STOPPED", "after": "1.2"})
        self.assertFalse([s for s in snags.open_ones(self.numbers["Haymaker"]) if s.check_id == "bench.failsafe"])
        self.assertIn("It took 1.2 s; the delay is set to 1 s.", plain(self.client.get(self.address()).text))

    def test_the_simulated_bench_right_and_wrong(self) -> None:
        reading = self.address().replace("/test", "/reading")
        for condition, acted in (("right", 1.0), ("slow", 5.0), ("on", None), ("silent", 1.0)):
            store_settings.save(devices={"link_bench": condition})
            found = self.client.get(reading).json()
            self.assertEqual(found["acted"], acted, condition)
            self.assertEqual(found["beeper"] is None, condition in ("on", "silent"))
        for condition in ("unplugged", "off"):
            store_settings.save(devices={"link_bench": condition})
            self.assertEqual(self.client.get(reading).status_code, 503)

    def test_what_the_simulated_bench_did_is_never_kept(self) -> None:
        before = len(snags.open_ones(self.numbers["Haymaker"]))
        for seen in ("STOPPED", "KEPT_ON"):
            sent = {"gate": ["blades", "clear"], "seen": seen, "after": "1.0", "by": "bench"}
            answer = self.client.post(self.address(), data=sent)
            self.assertEqual(answer.status_code, 200)
            self.assertIn("it says nothing about this aircraft", plain(answer.text))
            self.assertIsNone(link_trials.newest(self.numbers["Haymaker"], self.now)[0])
        self.assertEqual(len(snags.open_ones(self.numbers["Haymaker"])), before)

    def test_a_helicopter_takes_its_blades_off(self) -> None:
        self.assertIn(
            "Every blade is off the shaft, or the pinion out of mesh",
            plain(self.client.get(self.address("Mayfly")).text),
        )


class OnTheWalk(FormCase):
    def test_checks_lead_to_the_pages_that_help(self) -> None:
        number, quad = self.start(), self.numbers["Sandpiper"]
        action = self.client.get(f"/rounds/{number}?check=link.lost_action").text
        self.assertIn(
            f'href="/fields/{self.numbers["Teasel Common"]}/link-lost?aircraft={quad}&round={number}"', action
        )
        hangar.add_event(quad, EventKind.FIRMWARE, self.now, detail="2.4")
        deep = self.start(depth="full")
        bench = self.client.get(f"/rounds/{deep}?check=bench.failsafe").text
        self.assertIn(f'href="/hangar/aircraft/{quad}/failsafe/test?aircraft={quad}&round={deep}"', bench)
