"""On paper: field card, master list, square code, and entering a pencilled card."""

import re

from fastapi.testclient import TestClient

from tests.support import elements, plain
from tests.web.test_hangar import FormCase
from walkround.store import rounds, snags
from walkround.web.app import create_app
from walkround.web.security import COOKIE, Passphrase

AIRFRAME = "/checks/airframe.shell"


class Paper(FormCase):
    def test_field_card_and_master_list(self) -> None:
        number = self.start()
        text = plain(self.client.get(f"/rounds/{number}/card").text)
        for words in ("Sandpiper Pack S1 at Teasel Common", "112.", "Inspect every propeller blade", "Order matters"):
            self.assertIn(words, text)
        self.assertNotIn(
            '<figure class="code"', self.client.get(f"/rounds/{number}/card").text
        )  # not open to the network
        self.assertIn("Throttle fully down, held for 3 s, mode 2", text)
        master = plain(self.client.get(f"/hangar/aircraft/{self.numbers['Sandpiper']}/card?paper=A5").text)
        self.assertIn("Season inspection, propellers off season", master)
        self.assertNotIn("Check the nose wheel", master)

    def test_the_square_code_opens_the_round_on_the_phone(self) -> None:
        """Read back by a decoder that is not ours (ISO/IEC 18004)."""
        import zxingcpp
        from PIL import Image, ImageDraw

        passphrase = Passphrase(self.folder)
        passphrase.choose("a walk round the field")
        app = create_app(
            self.folder,
            clock=lambda: self.now,
            passphrase=passphrase,
            network_host="192.0.2.7",
            names=frozenset({"192.0.2.7", "field.example"}),
        )
        for host, address in (("127.0.0.1:8020", "192.0.2.7:8020"), ("field.example:8020", "field.example:8020")):
            client = TestClient(app, base_url=f"http://{host}", cookies={COOKIE: passphrase.ticket()})
            page = client.get("/rounds/1/card").text
            (code,) = [svg for svg in elements(page, "svg[role=img]") if svg.css("path.ink")]
            size = str(code.attributes["viewBox"]).split()[2]
            path = str(code.css("path.ink")[0].attributes["d"])
            image = Image.new("L", (int(size) * 4, int(size) * 4), 255)
            for x, y, width in re.findall(r"M(\d+),(\d+)h(\d+)v1", path):
                box = [int(x) * 4, int(y) * 4, (int(x) + int(width)) * 4 - 1, int(y) * 4 + 3]
                ImageDraw.Draw(image).rectangle(box, fill=0)
            (found,) = zxingcpp.read_barcodes(image)
            self.assertEqual(found.text, f"http://{address}/rounds/1")

    def test_a_pencilled_card_is_entered(self) -> None:
        number = self.start()
        self.assertIn("Inspect every propeller blade", plain(self.client.get(f"/rounds/{number}/entry").text))
        rows = {
            "say-airframe.shell": "ok", "number-sky.wind_meter": "3.2", "say-field.people": "birds",
            "say-airframe.motors": "fault", "text-airframe.motors": "grates", "say-bench.papers": "ok",
            "say-field.path": "skip", "text-field.path": "fog",
        }  # fmt: skip
        self.assertEqual(self.client.post(f"/rounds/{number}/entry", data=rows).status_code, 303)
        walk = rounds.load(number, self.settings, self.now).walk
        answered = {s.planned.check.id for s in walk.states if s.evidence}
        self.assertEqual(
            answered, {"airframe.shell", "sky.wind_meter", "field.people", "airframe.motors", "field.path"}
        )
        self.assertEqual({s.evidence.by for s in walk.states if s.evidence}, {"card"})
        self.assertIn("grates", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])
        self.assertIn("from the paper checklist", plain(self.client.get(f"/rounds/{number}?check=airframe.shell").text))

    def test_one_mistake_keeps_nothing_and_shows_every_row(self) -> None:
        number = self.start()
        path = f"/rounds/{number}/entry"
        rows = {
            "say-airframe.shell": "ok",
            "number-sky.wind_meter": "breezy",
            "say-field.path": "skip",
            "say-power.aircraft_on": "ok",
        }
        text = plain(self.wrong(path, rows, "is not a number"))
        for words in (
            "enter a few words. They stay on record",
            "Remove the gimbal cover before you power the aircraft. Left on, the",
        ):
            self.assertIn(words, text)
        self.assertEqual(rounds.load(number, self.settings, self.now).evidence, ())
        self.wrong(path, {}, "Fill in at least one row")

    def test_gates_are_met_in_walking_order(self) -> None:
        number = self.start()
        rows = {
            f"say-{i}": "ok"
            for i in ("airframe.covers_off", "power.idle", "power.mode", "power.transmitter_on", "power.aircraft_on")
        }
        self.assertEqual(self.client.post(f"/rounds/{number}/entry", data=rows).status_code, 303)

    def test_audit_of_one_station(self) -> None:
        self.client.post("/methods", data={"topic": "paper", "method": "audit"})
        number = self.start()
        self.assertIn("Enter this whole station", plain(self.client.get(f"/rounds/{number}?station=field").text))
        text = plain(self.client.get(f"/rounds/{number}/entry?station=field").text)
        self.assertIn("Audit: Sandpiper", text)
        self.assertNotIn("Inspect every propeller blade", text)
