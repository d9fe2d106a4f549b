"""Verdict sheet, signing, record, flight, logbook: the way from the last check to the next plan."""

import hashlib
import json

from tests.support import WebCase, elements, plain, within
from walkround.core.base.units import Units
from walkround.store import settings as store_settings
from walkround.store.models import RecordRow


class Sheet(WebCase):
    def test_so_far_with_what_is_open(self) -> None:
        number = self.start()
        text = plain(self.client.get(f"/rounds/{number}/verdict").text)
        for words in (
            "Not complete",
            f"0 checks done, {self.asked_before(number)} open",
            "Still open",
            "Check the state of charge of the smart pack",
        ):
            self.assertIn(words, text)

    def test_grounds_minds_and_closest(self) -> None:
        number = self.start()
        self.answer(number, "airframe.propellers", action="fault", note="chip in front")
        self.answer(number, "sky.wind_meter", action="take", number="6.2")
        text = plain(self.client.get(f"/rounds/{number}/verdict").text)
        for words in (
            "Stay down",
            "Inspect every propeller blade : A blade is nicked or cracked. chip in front",
            "Replace the propeller and log it.",
            "Measure the wind",
            "Wind here 6.2 m/s (max 6.7 m/s)",
        ):
            self.assertIn(words, text)

    def test_a_signed_sheet_keeps_the_units_it_was_signed_in(self) -> None:
        number = self.start()
        self.answer(number, "sky.wind_meter", action="take", number="6.2")
        self.walk_all(number)
        self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        store_settings.save(units=Units(speed="kt", height="ft", temperature="°F"))
        other = self.start(depth="full")
        self.answer(other, "sky.wind_meter", action="take", number="12")
        signed, going = (plain(self.client.get(f"/rounds/{n}/verdict").text) for n in (number, other))
        self.assertIn("Wind here 6.2 m/s (max 6.7 m/s)", signed)
        self.assertNotIn(" kt", signed)
        self.assertIn(" kt", going)

    def test_an_early_signature_is_refused_in_words(self) -> None:
        number = self.start()
        answer = self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn(f"{self.asked_before(number)} checks are still open", plain(answer.text))

    def test_a_name_is_needed_and_kept(self) -> None:
        number = self.start()
        self.walk_all(number)
        for name, words in (("  ", "Sign with your name"), ("x" * 70, "60 characters")):
            answer = self.client.post(f"/rounds/{number}/sign", data={"signed_by": name})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
            self.assertIn(name.strip() or "Sign", answer.text)

    def test_simulated_readings_are_called_so_on_the_sheet(self) -> None:
        number = self.start(depth="full")
        self.assertNotIn("simulated", plain(self.client.get(f"/rounds/{number}/verdict").text))
        self.answer(number, "pack.cells", action="device")
        self.assertIn("1 reading came from simulated devices", plain(self.client.get(f"/rounds/{number}/verdict").text))

    def test_what_grounds_offers_what_would_cure_it(self) -> None:
        self.client.post(f"/packs/{self.numbers['S3']}/charged", data={"to": "full"})
        number = self.start()
        self.answer(number, "pack.right_one", action="fault", note="marked")
        self.answer(number, "airframe.arms", action="fault", note="rear left")
        page = self.client.get(f"/rounds/{number}/verdict").text
        found = {
            " ".join(node.text().split()): str(node.attributes["href"]) for node in elements(page, ".found a.small")
        }
        self.assertEqual(set(found), {"Change answer", "Take S3 instead"})
        again = self.client.get(found["Change answer"])
        self.assertEqual(len(elements(again.text, "#skip-form")), 1, "open to be answered, one tap away")
        self.assertIn("with S3 at", within(self.client.get(found["Take S3 instead"]).text, "#next-title"))

    def test_the_next_launch_of_the_day_is_signed_by_holding(self) -> None:
        number = self.signed()
        again = self.start(pack="S2")
        self.walk_all(again)
        page = self.client.get(f"/rounds/{again}/verdict").text
        self.assertEqual(len(elements(page, "[data-hold]")), 1)
        first = self.client.get(f"/rounds/{number}/verdict").text
        self.assertEqual(elements(first, "[data-hold]"), [])

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
        self.assertEqual(len(record["plan"]), self.asked_before(number))
        self.assertIn("attachment", answer.headers["content-disposition"])
        self.assertEqual(self.client.get("/rounds/999/record.json").status_code, 404)
