"""It behaved oddly: ticked, ranked, put on the list, closed when its test passes."""

from datetime import timedelta

from tests.support import elements, plain
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.checklist.history import EventKind
from walkround.store import hangar, snags
from walkround.store.done import note
from walkround.store.rounds import load
from walkround.store.settings import load as load_settings


class Oddly(FormCase):
    def address(self, query: str = "", name: str = "Sandpiper") -> str:
        return f"/hangar/aircraft/{self.numbers[name]}/oddly?{query}"

    def causes(self, query: str, name: str = "Sandpiper") -> list[str]:
        return [plain(e.html or "") for e in elements(self.client.get(self.address(query, name)).text, ".causes h3")]

    def test_nothing_is_named_before_something_is_ticked(self) -> None:
        self.assertEqual(self.causes(""), [])

    def test_what_is_on_record_ranks(self) -> None:
        self.assertIn("Compass not calibrated or upset", self.causes("symptom=CIRCLES")[:1])
        hangar.add_event(self.numbers["Sandpiper"], EventKind.CRASH, self.now, detail="into the hedge")
        text = plain(self.client.get(self.address("symptom=VIBRATES")).text)
        self.assertIn("There was a crash today.", text)
        self.assertIn("Propeller or rotor blade", self.causes("symptom=VIBRATES")[:2])

    def test_two_changes_at_once_are_said(self) -> None:
        number = self.numbers["Haymaker"]
        hangar.add_event(number, EventKind.FIRMWARE, self.now, detail="2.4")
        self.assertNotIn("Changed together", self.client.get(self.address("symptom=TWITCHY", "Haymaker")).text)
        hangar.add_event(number, EventKind.PART_REPLACED, self.now, detail="servo", part=PartKind.SERVO)
        self.assertIn("new servo and firmware", self.client.get(self.address("symptom=TWITCHY", "Haymaker")).text)

    def test_a_cause_waits_for_its_test_and_once_only(self) -> None:
        sent = {"symptom": ["CIRCLES"], "cause": "COMPASS"}
        for _ in range(2):
            self.assertEqual(self.client.post(self.address(), data=sent).status_code, 303)
        waiting = [s for s in snags.open_ones(self.numbers["Sandpiper"]) if s.decided_by]
        self.assertEqual([(s.decided_by, s.grounds) for s in waiting], [("sensors.compass", False)])
        self.assertIn("Waiting for its test", self.client.get(self.address()).text)
        number = self.start()
        loaded = load(number, load_settings(), self.now)
        asked = {state.planned.check.id for state in loaded.walk.states}
        self.assertIn("sensors.compass", asked)
        self.assertNotIn(f"snag.{waiting[0].id}", asked)
        note(loaded.walk, self.now)
        self.assertTrue(
            [s for s in snags.open_ones(self.numbers["Sandpiper"]) if s.decided_by], "not passed, not closed"
        )
        snags.decide(self.numbers["Sandpiper"], {"sensors.compass": self.now}, self.now)
        self.assertFalse([s for s in snags.open_ones(self.numbers["Sandpiper"]) if s.decided_by])

    def test_a_test_passed_before_it_behaved_oddly_closes_nothing(self) -> None:
        self.client.post(self.address(), data={"symptom": ["CIRCLES"], "cause": "COMPASS"})
        snags.decide(self.numbers["Sandpiper"], {"sensors.compass": self.now - timedelta(hours=1)}, self.now)
        self.assertTrue([s for s in snags.open_ones(self.numbers["Sandpiper"]) if s.decided_by])

    def test_bad_input_is_said(self) -> None:
        for sent, words in (
            ({"cause": "COMPASS"}, "Tick what it did."),
            ({"symptom": ["CIRCLES"], "cause": "HEAD"}, "does not fit"),
            ({"symptom": ["CIRCLES"], "cause": "GHOSTS"}, "choose one"),
        ):
            answer = self.client.post(self.address(), data=sent)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.text)
        self.assertFalse([s for s in snags.open_ones(self.numbers["Sandpiper"]) if s.decided_by])

    def test_an_aircraft_without_a_pack_says_what_is_missing(self) -> None:
        aircraft = hangar.get(Aircraft, self.numbers["Mayfly"]).model_copy(update={"id": 0, "name": "Bare", "cells": 9})
        bare = hangar.save(aircraft, self.now)
        self.assertIn("see what is missing", self.client.get(f"/hangar/aircraft/{bare}/oddly?symptom=NOISE").text)
