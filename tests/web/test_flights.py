"""The flight: taking off, landing, logging."""

import csv
import io
from datetime import timedelta

from tests.support import WebCase, elements, plain
from walkround.core.answers.choice import Chosen
from walkround.core.packs.inspection import INSPECTION_POINTS
from walkround.store import flights
from walkround.store.models import FlightRow


class Flying(WebCase):
    def fly(self, number: int) -> None:
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 303)
        self.now += timedelta(minutes=9)
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/land").status_code, 303)

    def log(self, number: int, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post(f"/rounds/{number}/flight/log", data={"minutes": "9", "happened": "nothing", **form})

    def test_the_whole_way(self) -> None:
        number = self.signed()
        self.assertIn("Remove gimbal clamp and lens cover", plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(minutes=1)
        page = plain(self.client.get(f"/rounds/{number}/flight").text)
        self.assertIn("In the air since 09:40", page)
        self.assertNotIn("Hover at head height", page, "both thumbs fly")
        self.now += timedelta(minutes=8)
        self.client.post(f"/rounds/{number}/flight/land")
        page = plain(self.client.get(f"/rounds/{number}/flight").text)
        self.assertIn("Hover at head height for ten seconds", page)
        self.assertEqual(self.answer(number, "first.hover", action="pass").status_code, 200)
        self.assertIn(
            "Stop motors, aircraft off, transmitter last", plain(self.client.get(f"/rounds/{number}/flight").text)
        )
        self.assertEqual(self.log(number, left_percent="55").status_code, 303)
        text = plain(self.client.get("/logbook?new=1").text)
        self.assertIn("16 May 2026, 09:40 Sandpiper S1 Teasel Common 9.0 55 % Nothing to report", text)
        self.assertIn("No other pack is charged.", text)
        self.client.post(f"/packs/{self.numbers['S3']}/charged", data={"to": "full"})
        ready = self.client.get("/logbook?new=1").text
        self.assertIn("Next pack: S3", plain(ready))
        sent = {
            str(n.attributes["name"]): str(n.attributes["value"])
            for n in elements(ready, "form[action='/rounds'] input")
        }
        started = self.client.post("/rounds", data=sent)
        self.assertEqual(started.status_code, 303, "one tap starts the next round")
        rows = list(csv.DictReader(io.StringIO(self.client.get("/logbook.csv").text)))
        self.assertEqual((rows[0]["aircraft"], rows[0]["minutes"], rows[0]["round"]), ("Sandpiper", "9.0", str(number)))
        after = self.start()
        self.client.post(f"/rounds/{after}/deepen", data={"depth": "normal"})
        text = plain(self.client.get(f"/rounds/{after}?check=pack.percent").text)
        self.assertIn("Pack S1 has flown 1 time today.", text)
        self.assertNotIn("Check the transmitter battery", plain(self.client.get(f"/rounds/{after}?station=bench").text))

    def test_mistakes_keep_what_was_typed(self) -> None:
        number = self.signed()
        self.fly(number)
        rows = (
            ({"left_percent": ""}, "Enter what is left"), ({"left_percent": "180"}, "between 0 % and 100 %"),
            ({"left_percent": "50", "minutes": "soon"}, "is not a number"),
            ({"left_percent": "50", "happened": "crash"}, "Describe in a few words what happened"),
            ({"left_percent": "50", "happened": "frogs"}, "Choose what happened"),
        )  # fmt: skip
        for form, words in rows:
            with self.subTest(form):
                answer = self.log(number, **form)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))
                self.assertTrue(elements(answer.text, f'input[name=minutes][value="{form.get("minutes", "9")}"]'))
                self.assertTrue(elements(answer.text, f'input[name=left_percent][value="{form["left_percent"]}"]'))
        self.assertIsNone(flights.of_round(number).logged_at)

    def test_a_crash_is_there_next_time(self) -> None:
        number = self.signed()
        self.fly(number)
        self.log(number, left_v="11.2", happened="crash", note="hedge")
        today = plain(self.client.get("/").text)
        self.assertIn("Crash: hedge", today)
        after = self.start()
        self.assertIn(
            "Crash, today; not checked since.", plain(self.client.get(f"/rounds/{after}?check=airframe.motors").text)
        )

    def test_no_flight_from_an_unsigned_or_grounded_round(self) -> None:
        number = self.start()
        self.assertEqual(self.client.get(f"/rounds/{number}/flight").status_code, 409)
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 409)
        self.walk_all(number, sky__look=Chosen(option="thunder"))
        self.client.post(f"/rounds/{number}/sign", data={"signed_by": "T"})
        self.assertIn(
            "Signed as Stay down, so this round cannot be flown. Fix the grounding",
            plain(self.client.get(f"/rounds/{number}/verdict").text),
        )
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 409)
        self.assertEqual(FlightRow.select().where(FlightRow.round == number).count(), 0)

    def test_landed_by_mistake(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(minutes=2)
        self.client.post(f"/rounds/{number}/flight/land")
        self.assertIn("Log the flight", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/fly-on").status_code, 303)
        self.assertIn("In the air since", plain(self.client.get(f"/rounds/{number}/flight").text))

    def refused(self, number: int, words: str) -> None:
        answer = self.client.post(f"/rounds/{number}/flight/take-off")
        self.assertNotEqual(answer.status_code, 303)
        self.assertIn(words, plain(answer.text))
        self.assertEqual(FlightRow.select().where(FlightRow.round == number).count(), 0)

    def test_a_signature_is_for_this_launch(self) -> None:
        number = self.signed()
        signed_at = self.now
        for later, words in (
            (timedelta(minutes=61), "signed 61 min ago (max 60 min)"),
            (timedelta(days=3, hours=14), "). A signature is for one launch"),
            (timedelta(hours=13), "It is night"),
            (-timedelta(minutes=5), "the clock was set back"),
        ):
            with self.subTest(words):
                self.now = signed_at + later
                self.refused(number, words)
        self.now = signed_at + timedelta(minutes=60)
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 303)

    def test_a_pack_set_aside_after_signing(self) -> None:
        number = self.signed()
        pack = self.numbers["S1"]
        sound = {f"look-{look.id}": "sound" for look in INSPECTION_POINTS}
        self.client.post(f"/packs/{pack}/look", data={**sound, "look-crash": "fault"})
        self.refused(number, "quarantined")

    def test_fault_in_the_air_becomes_a_snag(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(seconds=30)
        self.answer(number, "first.holds", action="fault", note="drifts left")
        self.assertIn("drifts left", plain(self.client.get("/snags").text))
