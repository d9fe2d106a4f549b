"""The flight: taking off, landing, logging."""

import csv
import io
import json
from datetime import timedelta

from tests.support import WebCase, elements, plain
from walkround.core.answers.choice import Chosen
from walkround.core.answers.handover import TakeBack
from walkround.core.checklist.check import Occasion
from walkround.core.packs.inspection import INSPECTION_POINTS
from walkround.store import flights
from walkround.store.models import FlightRow


class Flying(WebCase):
    def fly(self, number: int) -> None:
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 303)
        self.now += timedelta(minutes=9, seconds=5)
        self.assertEqual(self.note(number, "landed").status_code, 303)

    def note(self, number: int, kind: str, *, json: bool = False, **form: str):  # type: ignore[no-untyped-def]
        """Send a note from the air, as the form does or as the device does that kept it."""
        self.sent = getattr(self, "sent", 0) + 1
        sent = {"kind": kind, "uid": f"note-{self.sent:08d}", **form}
        headers = {"Accept": "application/json"} if json else {}
        return self.client.post(f"/rounds/{number}/flight/notes", data=sent, headers=headers)

    def log(self, number: int, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post(f"/rounds/{number}/flight/log", data={"minutes": "9", "happened": "nothing", **form})

    def test_the_whole_way(self) -> None:
        number = self.signed()
        self.assertIn("Remove gimbal clamp and lens cover", plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(minutes=1)
        page = self.client.get(f"/rounds/{number}/flight").text
        self.assertIn("flown 0:55", plain(page))
        self.assertEqual(elements(page, "#panel"), [], "both thumbs fly")
        self.now += timedelta(minutes=8, seconds=5)
        self.note(number, "landed")
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
        self.log(number, left_v="11.2", happened="crash", note="hedge", sure="1")
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
        self.note(number, "landed")
        self.assertIn("Log the flight", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/fly-on").status_code, 303)
        self.assertIn("flown 1:55", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.note(number, "landed")
        self.assertIn("Log the flight", plain(self.client.get(f"/rounds/{number}/flight").text))

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

    def test_what_was_seen_in_the_air_is_one_sweep_and_silence_is_no_answer(self) -> None:
        number = self.signed()
        self.fly(number)
        page = self.client.get(f"/rounds/{number}/flight").text
        self.assertIn("In the air: 4 checks OK", plain(page))
        self.assertRegex(
            plain(page), "Not answered yet: Hover at head height for ten seconds, .*Not answered is not OK"
        )
        ids = [str(n.attributes["value"]) for n in elements(page, "form input[name=check]")]
        answer = self.client.post(f"/rounds/{number}/group", data={"check": ids}, headers={"HX-Request": "true"})
        self.assertIn("Stop motors, aircraft off, transmitter last", plain(answer.text))
        after = plain(self.client.get(f"/rounds/{number}/flight").text)
        self.assertNotIn("Not answered yet: Hover", after)
        self.assertIn("Not answered yet: Stop motors", after)
        blocked = self.answer(number, "after.look", action="pass")
        self.assertIn("Stop, disarm and unplug it before you touch it.", plain(blocked.text))

    def test_a_line_that_cannot_be_is_asked_about_once(self) -> None:
        number = self.signed()
        self.fly(number)
        answer = self.log(number, minutes="0.8", left_percent="50")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("You entered 0.8 min, the timer ran 9.0 min.", plain(answer.text))
        self.assertIn("0.8 min used 48 % of the pack.", plain(answer.text))
        self.assertTrue(elements(answer.text, "input[name=sure]"))
        self.assertEqual(self.log(number, minutes="0.8", left_percent="50", sure="1").status_code, 303)
        self.assertIn("0.8 50 %", plain(self.client.get("/logbook").text))

    def test_a_landing_tapped_late_is_corrected_in_one_step(self) -> None:
        number = self.signed()
        self.fly(number)
        page = self.client.get(f"/rounds/{number}/flight").text
        (first, *_) = [n.attributes["value"] for n in elements(page, "form[action$=landed-after] button")]
        self.assertEqual(
            self.client.post(f"/rounds/{number}/flight/landed-after", data={"minutes": first}).status_code, 303
        )
        self.assertIn("8.5 min in the air", plain(self.client.get(f"/rounds/{number}/flight").text))

    def test_not_taken_off_after_all(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/scrub").status_code, 303)
        self.assertIn("Take off in 5 seconds", plain(self.client.get(f"/rounds/{number}/flight").text))

    def test_a_charge_read_in_the_air_fits_the_rest_anew(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        before = json.loads(
            elements(self.client.get(f"/rounds/{number}/flight").text, "#flight")[0].attributes["data-flight"]
        )
        self.now += timedelta(seconds=125)
        answer = self.note(number, "charge", json=True, percent="45", at=self.now.isoformat())
        told = answer.json()
        self.assertLess(told["flight"]["land"], before["land"])
        self.assertRegex(told["words"], r"^Turn back (in \d+:\d\d|now)\.$")
        again = json.loads(
            elements(self.client.get(f"/rounds/{number}/flight").text, "#flight")[0].attributes["data-flight"]
        )
        self.assertEqual(again["land"], told["flight"]["land"])
        other = self.client.get(f"/rounds/{number}/flight/state?charges=0").json()
        self.assertEqual(
            (other["flight"], other["words"]), (told["flight"], told["words"]), "another device fits its clock too"
        )
        self.assertNotIn("flight", self.client.get(f"/rounds/{number}/flight/state?charges=1").json())
        bad = self.note(number, "charge", json=True, percent="150")
        self.assertEqual((bad.status_code, list(bad.json())), (422, ["error"]))

    def test_who_flies_is_on_the_flight_page_the_brief_and_the_record(self) -> None:
        sent = {
            k: str(self.numbers[v]) for k, v in (("aircraft", "Sandpiper"), ("pack", "S1"), ("site", "Teasel Common"))
        }
        begun = self.client.post("/rounds", data={**sent, "occasion": Occasion.GUEST.value})
        number = int(begun.headers["location"].rsplit("/", 1)[1])
        page = self.client.get(f"/rounds/{number}?check=first.handover").text
        self.assertIn("You stay pilot in command", plain(page))
        for form, words in (
            ({"who": ""}, "Who flies: enter a few words"),
            ({"who": "Ilse"}, "Choose how control comes back to you"),
        ):
            self.assertIn(words, plain(self.answer(number, "first.handover", action="take", **form).text))
        agreed = {"who": "Ilse", "back": TakeBack.HAND.value, "may": "circuits only"}
        answer = self.answer(number, "first.handover", action="take", **agreed)
        self.assertIn("Handing it across takes seconds in which nobody flies.", plain(answer.text))
        self.assertIn(
            "Handing over: Ilse flies.", plain(self.client.get(f"/fields/{self.numbers['Teasel Common']}/brief").text)
        )
        self.walk_all(number)
        self.assertEqual(self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"}).status_code, 303)
        told = "Ilse flies. Control comes back by: the transmitter is handed across. May: circuits only."
        self.assertIn(f"You are pilot in command. {told}", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.assertIn(told, plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.assertIn("circuits only", self.client.get(f"/rounds/{number}/record.json").text)

    def test_where_it_was_last_seen(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(seconds=65)
        self.assertEqual(self.note(number, "seen", bearing="225", words="behind the pear").status_code, 303)
        self.assertIn("09:41: south-west, behind the pear.", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.assertEqual(self.note(number, "seen").status_code, 422)

    def test_another_device_is_told_and_a_double_is_none(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.assertEqual(self.client.get(f"/rounds/{number}/flight/state").json()["landed"], False)
        self.now += timedelta(minutes=3)
        for _ in range(2):
            sent = {"kind": "landed", "uid": "the-same-note", "at": (self.now - timedelta(minutes=1)).isoformat()}
            answer = self.client.post(
                f"/rounds/{number}/flight/notes", data=sent, headers={"Accept": "application/json"}
            )
            self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.client.get(f"/rounds/{number}/flight/state").json()["landed"], True)
        flight = flights.of_round(number)
        assert flight is not None
        self.assertAlmostEqual(flight.minutes or 0, 2 - 5 / 60)

    def test_the_worker_stands_at_the_root(self) -> None:
        answer = self.client.get("/flight-worker.js")
        self.assertEqual((answer.status_code, answer.headers["content-type"].split(";")[0]), (200, "text/javascript"))

    def test_the_emergency_card_is_the_aircraft_s_own(self) -> None:
        number = self.signed()
        page = plain(self.client.get(f"/rounds/{number}/flight").text)
        self.assertIn("Throttle down and hold it there for three seconds.", page)
        self.assertNotIn("own way is not on record", page)
        other = self.signed(aircraft="Haymaker", pack="H1")
        self.assertIn("own way is not on record", plain(self.client.get(f"/rounds/{other}/flight").text))
        brief = plain(self.client.get(f"/fields/{self.numbers['Teasel Common']}/brief").text)
        self.assertIn("Without motors it falls.", brief)
