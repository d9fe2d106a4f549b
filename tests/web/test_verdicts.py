"""Verdict sheet, signing, record, flight, logbook: the way from the last check to the next plan."""

import csv
import hashlib
import io
import json
from datetime import timedelta

from tests.support import WebCase, plain
from walkround.core.answers.choice import Chosen
from walkround.core.base.units import Units
from walkround.core.packs.inspection import INSPECTION_POINTS
from walkround.store import flights
from walkround.store import settings as store_settings
from walkround.store.models import FlightRow, RecordRow


class Sheet(WebCase):
    def test_so_far_with_what_is_open(self) -> None:
        number = self.start()
        text = plain(self.client.get(f"/rounds/{number}/verdict").text)
        for words in ("Not complete", "0 checks done, 74 open", "Still open", "Read each cell"):
            self.assertIn(words, text)

    def test_grounds_minds_and_closest(self) -> None:
        number = self.start()
        self.answer(number, "airframe.propellers", action="fault", note="chip in front")
        self.answer(number, "sky.wind_meter", action="take", number="6.2")
        text = plain(self.client.get(f"/rounds/{number}/verdict").text)
        for words in (
            "Stay down",
            "Feel every propeller blade : A blade is nicked or cracked. chip in front",
            "Change it, log it.",
            "Hold up the wind meter",
            "Wind here 6.2 m/s (max 6.7 m/s)",
        ):
            self.assertIn(words, text)

    def test_a_signed_sheet_keeps_the_units_it_was_signed_in(self) -> None:
        number = self.start()
        self.answer(number, "sky.wind_meter", action="take", number="6.2")
        self.walk_all(number)
        self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        store_settings.save(units=Units(speed="kt", height="ft", temperature="°F"))
        other = self.start()
        self.answer(other, "sky.wind_meter", action="take", number="12")
        signed, going = (plain(self.client.get(f"/rounds/{n}/verdict").text) for n in (number, other))
        self.assertIn("Wind here 6.2 m/s (max 6.7 m/s)", signed)
        self.assertNotIn(" kt", signed)
        self.assertIn(" kt", going)

    def test_an_early_signature_is_refused_in_words(self) -> None:
        number = self.start()
        answer = self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("74 checks are still open", plain(answer.text))

    def test_a_name_is_needed_and_kept(self) -> None:
        number = self.start()
        self.walk_all(number)
        for name, words in (("  ", "Sign with your name"), ("x" * 70, "60 characters")):
            answer = self.client.post(f"/rounds/{number}/sign", data={"signed_by": name})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
            self.assertIn(name.strip() or "Sign", answer.text)

    def test_simulated_readings_are_called_so_on_the_sheet(self) -> None:
        number = self.start()
        self.assertNotIn("simulated", plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.answer(number, "pack.cells", action="device")
        self.assertIn("1 reading came from simulated devices", plain(self.client.get(f"/rounds/{number}/verdict").text))

    def test_double_tapped_sign(self) -> None:
        number = self.signed()
        answer = self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        self.assertEqual(answer.status_code, 303)
        self.assertEqual(RecordRow.select().where(RecordRow.round == number).count(), 1)

    def test_the_record_is_found_again_by_a_new_application(self) -> None:
        from fastapi.testclient import TestClient

        from walkround.web.app import create_app

        number = self.signed()
        before = self.client.get(f"/rounds/{number}/record.json").content
        with TestClient(create_app(self.folder, clock=lambda: self.now), base_url="http://127.0.0.1") as again:
            self.assertEqual(again.get(f"/rounds/{number}/record.json").content, before)
            self.assertIn("Signed by Tamsin Rook", plain(again.get(f"/rounds/{number}/verdict").text))

    def test_record_as_json_carries_its_hash(self) -> None:
        number = self.signed()
        answer = self.client.get(f"/rounds/{number}/record.json")
        self.assertEqual(hashlib.sha256(answer.content).hexdigest(), answer.headers["X-Content-SHA256"])
        record = json.loads(answer.content)
        self.assertEqual((record["signed_by"], record["situation"]["aircraft"]["name"]), ("Tamsin Rook", "Sandpiper"))
        self.assertEqual(len(record["plan"]), 74)
        self.assertIn("attachment", answer.headers["content-disposition"])
        self.assertEqual(self.client.get("/rounds/999/record.json").status_code, 404)


class Flying(WebCase):
    def fly(self, number: int) -> None:
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 303)
        self.now += timedelta(minutes=9)
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/land").status_code, 303)

    def log(self, number: int, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post(f"/rounds/{number}/flight/log", data={"minutes": "9", "happened": "nothing", **form})

    def test_the_whole_way(self) -> None:
        number = self.signed()
        self.assertIn("Take off", plain(self.client.get(f"/rounds/{number}/verdict").text))
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
        self.assertIn("Motors stopped, aircraft off", plain(self.client.get(f"/rounds/{number}/flight").text))
        self.assertEqual(self.log(number, left_percent="55").status_code, 303)
        text = plain(self.client.get("/logbook?new=1").text)
        self.assertIn("16 May 2026, 09:40 Sandpiper S1 Teasel Common 9.0 55 % Nothing to report", text)
        rows = list(csv.DictReader(io.StringIO(self.client.get("/logbook.csv").text)))
        self.assertEqual((rows[0]["aircraft"], rows[0]["minutes"], rows[0]["round"]), ("Sandpiper", "9.0", str(number)))
        after = self.start()
        text = plain(self.client.get(f"/rounds/{after}?check=pack.cells").text)
        self.assertIn("Pack S1 has flown 1 time today.", text)
        self.assertNotIn("Charge the transmitter", plain(self.client.get(f"/rounds/{after}?station=bench").text))

    def test_mistakes_keep_what_was_typed(self) -> None:
        number = self.signed()
        self.fly(number)
        rows = (
            ({"left_percent": ""}, "Enter what is left"), ({"left_percent": "180"}, "between 0 % and 100 %"),
            ({"left_percent": "50", "minutes": "soon"}, "is not a number"),
            ({"left_percent": "50", "happened": "crash"}, "Say in a few words"),
            ({"left_percent": "50", "happened": "frogs"}, "Choose what happened"),
        )  # fmt: skip
        for form, words in rows:
            with self.subTest(form):
                answer = self.log(number, **form)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))
                self.assertIn(f'value="{form.get("minutes", "9")}"', answer.text)
                self.assertIn(f'value="{form["left_percent"]}"', answer.text)
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
        self.assertIn("no flight from this round", plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.assertEqual(self.client.post(f"/rounds/{number}/flight/take-off").status_code, 409)
        self.assertEqual(FlightRow.select().where(FlightRow.round == number).count(), 0)

    def test_landed_by_mistake(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(minutes=2)
        self.client.post(f"/rounds/{number}/flight/land")
        self.assertIn("Into the logbook", plain(self.client.get(f"/rounds/{number}/flight").text))
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
            (timedelta(days=3, hours=14), "it was for that launch"),
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
        self.refused(number, "set aside")

    def test_fault_in_the_air_becomes_a_snag(self) -> None:
        number = self.signed()
        self.client.post(f"/rounds/{number}/flight/take-off")
        self.now += timedelta(seconds=30)
        self.answer(number, "first.holds", action="fault", note="drifts left")
        self.assertIn("drifts left", plain(self.client.get("/snags").text))


class Logbook(WebCase):
    def test_pages(self) -> None:
        text = plain(self.client.get("/logbook").text)
        self.assertIn("10 flights, 1.3 hours", text)
        self.assertIn("Fly with care , Sandpiper, pack S2 at Teasel Common", text)
        self.assertIn("No flight yet", plain(self.client.get("/logbook?page_number=9").text))
        self.assertEqual(self.client.get("/logbook?page_number=x").status_code, 422)
