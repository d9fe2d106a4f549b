"""The library, the pilot's own list, practices, the bag and paper, as pages with their mistakes."""

import io
import json
import re

from fastapi.testclient import TestClient

from tests.support import WebCase
from tests.web.test_hangar import FormCase
from tests.web.test_rounds import plain
from walkround.core.aircraft import Aircraft
from walkround.core.check import AskPacked
from walkround.core.exchange import AircraftFile, parse_file
from walkround.store import hangar, parts, rounds, snags
from walkround.store import settings as store_settings
from walkround.web.app import create_app
from walkround.web.security import COOKIE, Passphrase

AIRFRAME = "/checks/airframe.shell"


class Library(FormCase):
    def test_why_and_why_not_for_every_check(self) -> None:
        text = plain(self.client.get("/checks?aircraft=1").text)
        self.assertRegex(text, r"\d+ of 238 today")
        for words in ("Turn the nose wheel", "described as “steered nose wheel”", "Feel every propeller blade"):
            self.assertIn(words, text)
        club = plain(self.client.get("/checks?aircraft=1&occasion=club+day").text)
        self.assertIn("You said: club day.", club)
        self.assertNotIn("You said: club day.", text)

    def test_one_check(self) -> None:
        text = plain(self.client.get(f"{AIRFRAME}?aircraft=1").text)
        for words in (
            "Walk round the shell",
            "Sandpiper today: Every launch.",
            "Helicopter or multirotor",
            "Every launch",
        ):
            self.assertIn(words, text)
        self.assertEqual(self.client.get("/checks/moon.phase").status_code, 404)
        for check in (
            "bench.firmware",
            "pack.cells",
            "power.still_long",
            "controls.surfaces",
            "airframe.propeller_side",
        ):
            self.assertEqual(self.client.get(f"/checks/{check}").status_code, 200, check)

    def change(self, path: str = AIRFRAME, seen: int = 0, **form: str):  # type: ignore[no-untyped-def]
        base = {"seen": str(seen), "action": "keep", "title": "", "how": "", "why": "", "cadence": "every launch"}
        return self.client.post(path, data=base | form)

    def test_reworded_switched_off_and_set_back(self) -> None:
        self.assertEqual(self.change(title="Round the shell, twice").status_code, 303)
        self.assertIn("changed by you", plain(self.client.get("/checks").text))
        number = self.start()
        self.assertIn("Round the shell, twice", plain(self.client.get(f"/rounds/{number}?station=airframe").text))
        answer = self.change(seen=1, off="1")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("only with a reason", plain(answer.text))
        self.assertEqual(self.change(seen=1, off="1", reason="new shell").status_code, 303)
        self.assertIn("You switched it off: new shell", plain(self.client.get(AIRFRAME).text))
        sheet = plain(self.client.get(f"/rounds/{number}/verdict").text)
        self.assertIn("Your reason: new shell", sheet)
        self.assertIn("Fly with care", sheet)
        self.assertIn("is switched off on your list", plain(self.client.get("/").text))
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "2", "action": "back"}).status_code, 303)
        self.assertEqual(store_settings.load().own.changes, ())

    def test_two_tabs(self) -> None:
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "0", "action": "down"}).status_code, 303)
        answer = self.client.post(AIRFRAME, data={"seen": "0", "action": "down"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("in another tab", plain(answer.text))
        self.assertEqual(store_settings.load().own.revision, 1)
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "x", "action": "up"}).status_code, 409)
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "1", "action": "sideways"}).status_code, 422)

    def test_a_check_of_one_s_own(self) -> None:
        form = {
            "title": "Look at the tail skid", "how": "", "why": "", "station": "airframe", "cadence": "every launch", "kind": "",
            "trait": "", "measure": "", "grounds": "1",
        }  # fmt: skip
        self.assertEqual(self.client.get("/checks/new?station=pack").status_code, 200)
        self.assertEqual(self.client.post("/checks", data=form).status_code, 303)
        number = self.start()
        self.assertIn("Look at the tail skid", plain(self.client.get(f"/rounds/{number}?check=own.1").text))
        self.answer(number, "own.1", action="fault", note="bent")
        self.assertIn("Stay down", plain(self.client.get(f"/rounds/{number}/verdict").text))
        for changes, words in (
            ({"title": ""}, "What to do is empty"), ({"station": "moon"}, "Station: choose one"),
            ({"title": "x", "measure": "volt"}, "lowest or a highest"), ({}, "already"),
            ({"title": "y", "measure": "volt", "low": "many"}, "is not a number"),
        ):  # fmt: skip
            with self.subTest(words):
                self.wrong("/checks", form | changes, words)
        own = self.client.get("/checks/own.1")
        self.assertIn("Take it off the list", plain(own.text))
        self.client.post("/checks/own.1", data={"seen": "1", "action": "back"})
        self.assertEqual(self.client.get("/checks/own.1").status_code, 404)

    def test_shared_as_a_file(self) -> None:
        self.change(title="Round the shell, twice")
        answer = self.client.get("/checks/list.json")
        self.assertIn("attachment", answer.headers["content-disposition"])
        self.client.post("/checks/built-in")
        self.assertEqual(store_settings.load().own.changes, ())
        sent = self.client.post("/checks/list", files={"file": ("list.json", io.BytesIO(answer.content))})
        self.assertEqual(sent.status_code, 303)
        self.assertEqual(store_settings.load().own.changes[0].title, "Round the shell, twice")
        for data, words in (
            (b"", "Choose a file"),
            (b"{}", "does not say"),
            (b"\xff\xfe\x00", "not text"),
            (b"[" * 500_000, "larger than"),
        ):
            answer = self.client.post("/checks/list", files={"file": ("list.json", io.BytesIO(data))})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))


class PracticesPage(FormCase):
    def test_what_another_school_would_change(self) -> None:
        text = plain(self.client.get("/practices?aircraft=1").text)
        for words in (
            "comes: Take the propellers off and look underneath",
            "goes: Lay the mat out",
            "judged otherwise: at least 4",
        ):
            self.assertIn(words, text)
        self.assertIn("Changes nothing for Haymaker", plain(self.client.get("/practices?aircraft=2").text))

    def test_following_another(self) -> None:
        answer = self.client.post("/practices", data={"topic": "charge", "school": "volts", "aircraft": "1"})
        self.assertEqual(
            (answer.status_code, answer.headers["location"]), (303, "/practices?aircraft=1&saved=1#charge")
        )
        self.assertEqual(store_settings.load().practices.charge, "volts")
        self.wrong("/practices", {"topic": "charge", "school": "vibes"}, "choose one")
        self.wrong("/practices", {"topic": "tea", "school": "black"}, "Topic: choose one")


class Bag(FormCase):
    def test_changed_and_printed(self) -> None:
        path = f"/hangar/aircraft/{self.numbers['Sandpiper']}/bag"
        text = plain(self.client.get(path).text)
        self.assertIn("Missing it costs the recording.", text)
        form = {"bag_packs": "4", "bag_extra": "Folding chair\nThermos", "takes": ["cards", "mat"]}
        self.assertEqual(self.client.post(path, data=form).status_code, 303)
        plane = hangar.get(Aircraft, self.numbers["Sandpiper"])
        self.assertEqual((plane.bag_packs, plane.bag_extra), (4, ("Folding chair", "Thermos")))
        text = plain(self.client.get(path).text)
        self.assertIn("Folding chair", text)
        self.assertIn("water", plane.bag_leaves)
        self.wrong(path, {"bag_packs": "0"}, "between 1 and 30")
        self.wrong(path, {"bag_packs": "2", "bag_extra": "x" * 80}, "60 fit on a line")


class Drawn(WebCase):
    """Answers given on drawings and lists, through the walk page."""

    def test_rotors(self) -> None:
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=airframe.propeller_side").text
        self.assertEqual(page.count('class="rotor"'), 4)
        text = plain(
            self.answer(number, "airframe.propeller_side", action="shown", **{"hand-2": "counter-clockwise"}).text
        )
        self.assertIn("Rear right would push down", text)
        self.assertIn("Fit a clockwise propeller from the bag at rear right.", text)
        self.assertEqual(len(snags.open_ones(self.numbers["Sandpiper"])), 1)
        seen = str(rounds.load(number, self.settings).walk.state("airframe.propeller_side").evidence.id)  # type: ignore[union-attr]
        text = plain(self.answer(number, "airframe.propeller_side", action="shown", seen=seen).text)
        self.assertNotIn("would push down", text)
        self.assertEqual(snags.open_ones(self.numbers["Sandpiper"]), [])

    def test_not_all_rotors_looked_at(self) -> None:
        number = self.start()
        answer = self.answer(
            number, "airframe.propeller_side", action="take", **{"hand-1": "clockwise", "hand-2": "odd"}
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Look at Rear right, rear left and front left too", plain(answer.text))

    def test_moves(self) -> None:
        number = self.start("Haymaker", "H1")
        page = self.client.get(f"/rounds/{number}?check=controls.surfaces").text
        self.assertEqual(page.count('class="scene"'), 3)
        self.assertEqual(self.answer(number, "controls.surfaces", action="shown").status_code, 409)  # the gate holds
        for check in ("power.idle", "power.transmitter_on", "power.aircraft_on"):
            self.answer(number, check, action="pass")
        self.answer(number, "power.still_short", seconds="4")
        text = plain(
            self.answer(number, "controls.surfaces", action="shown", **{"move-right_aileron": "reversed"}).text
        )
        self.assertIn("Reverse the aileron channel in the transmitter", text)
        self.assertIn("Stay down", text)

    def test_bag_passes(self) -> None:
        number = self.start()
        loaded = rounds.load(number, self.settings)
        state = loaded.walk.state("bag.first_pass")
        assert isinstance(state.planned.check.ask, AskPacked)
        page = plain(self.client.get(f"/rounds/{number}?check=bag.first_pass").text)
        self.assertIn("Spare propellers, counter-clockwise 2 wanted", page)
        text = plain(
            self.answer(number, "bag.first_pass", action="take", **{"bag-transmitter": "1", "bag-cards": "1"}).text
        )
        self.assertIn("Aircraft, all of it: not in the bag. Missing it costs the day.", text)
        self.assertIn("Memory cards: 1 of 2", text)
        wrong = self.answer(number, "bag.second_pass", action="take", **{"bag-cards": "several"})
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("“several” is not a number", plain(wrong.text))
        second = self.client.get(f"/rounds/{number}?check=bag.second_pass").text
        self.assertNotIn("checked", second.split('id="panel"')[1].split("</form>")[0])  # nothing is prefilled

    def test_what_the_aircraft_is_held_in(self) -> None:
        number = self.start()
        self.assertIn("Inert until Power", plain(self.client.get(f"/rounds/{number}").text))


class Paper(FormCase):
    def test_field_card_and_master_list(self) -> None:
        number = self.start()
        text = plain(self.client.get(f"/rounds/{number}/card").text)
        for words in ("Sandpiper Pack S1 at Teasel Common", "112.", "Feel every propeller blade", "Order matters"):
            self.assertIn(words, text)
        self.assertNotIn(
            "<figure", self.client.get(f"/rounds/{number}/card").text
        )  # this book is not open to the network
        master = plain(self.client.get(f"/hangar/aircraft/{self.numbers['Sandpiper']}/card?paper=A5").text)
        self.assertIn("Take the season's deep look, propellers off season", master)
        self.assertNotIn("Turn the nose wheel", master)

    def test_the_square_code_opens_the_round_on_the_phone(self) -> None:
        """Read back by a decoder that is not ours (ISO/IEC 18004)."""
        import zxingcpp
        from PIL import Image, ImageDraw

        passphrase = Passphrase(self.folder)
        passphrase.choose("a walk round the field")
        app = create_app(self.folder, clock=lambda: self.now, passphrase=passphrase, network_host="192.0.2.7")
        for host, address in (("127.0.0.1:8020", "192.0.2.7:8020"), ("field.example:8020", "field.example:8020")):
            client = TestClient(app, base_url=f"http://{host}", cookies={COOKIE: passphrase.ticket()})
            page = client.get("/rounds/1/card").text
            size, path = re.search(
                r'viewBox="0 0 (\d+) \1" role="img".*?class="ink" d="([^"]+)"', page, re.DOTALL
            ).groups()  # type: ignore[union-attr]
            image = Image.new("L", (int(size) * 4, int(size) * 4), 255)
            for x, y, width in re.findall(r"M(\d+),(\d+)h(\d+)v1", path):
                box = [int(x) * 4, int(y) * 4, (int(x) + int(width)) * 4 - 1, int(y) * 4 + 3]
                ImageDraw.Draw(image).rectangle(box, fill=0)
            (found,) = zxingcpp.read_barcodes(image)
            self.assertEqual(found.text, f"http://{address}/rounds/1")

    def test_a_pencilled_card_is_entered(self) -> None:
        number = self.start()
        self.assertIn("Feel every propeller blade", plain(self.client.get(f"/rounds/{number}/entry").text))
        rows = {
            "say-airframe.shell": "ok", "number-sky.wind_meter": "3.2", "say-field.people": "birds",
            "say-airframe.motors": "fault", "text-airframe.motors": "grates", "say-bench.papers": "ok",
            "say-field.path": "skip", "text-field.path": "fog",
        }  # fmt: skip
        self.assertEqual(self.client.post(f"/rounds/{number}/entry", data=rows).status_code, 303)
        walk = rounds.load(number, self.settings).walk
        answered = {s.planned.check.id for s in walk.states if s.evidence}
        self.assertEqual(
            answered, {"airframe.shell", "sky.wind_meter", "field.people", "airframe.motors", "field.path"}
        )
        self.assertEqual({s.evidence.by for s in walk.states if s.evidence}, {"card"})
        self.assertIn("grates", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])
        self.assertIn("from the field card", plain(self.client.get(f"/rounds/{number}?check=airframe.shell").text))

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
        for words in ("it stays on the record", "Gimbal cover off before the aircraft is powered"):
            self.assertIn(words, text)
        self.assertEqual(rounds.load(number, self.settings).evidence, ())
        self.wrong(path, {}, "Fill in at least one row")

    def test_gates_are_met_in_walking_order(self) -> None:
        number = self.start()
        rows = {
            f"say-{i}": "ok" for i in ("airframe.covers_off", "power.idle", "power.transmitter_on", "power.aircraft_on")
        }
        self.assertEqual(self.client.post(f"/rounds/{number}/entry", data=rows).status_code, 303)

    def test_audit_of_one_station(self) -> None:
        self.client.post("/practices", data={"topic": "paper", "school": "audit"})
        number = self.start()
        self.assertIn("Audit this station", plain(self.client.get(f"/rounds/{number}?station=field").text))
        text = plain(self.client.get(f"/rounds/{number}/entry?station=field").text)
        self.assertIn("Audit: Sandpiper", text)
        self.assertNotIn("Feel every propeller blade", text)


class PartsPage(FormCase):
    def test_fitted_replaced_taken_off(self) -> None:
        number = self.numbers["Haymaker"]
        path = f"/hangar/aircraft/{number}/parts"
        form = {"kind": "servo", "place": "left wing", "hand": "", "size": "9 g", "part_name": "", "firmware": ""}
        self.assertEqual(self.client.post(path, data=form).status_code, 303)
        self.assertIn("Servo (left wing, 9 g)", plain(self.client.get(path).text))
        servo = next(p for p in parts.of_aircraft(number) if p.kind == "servo")
        self.wrong(f"{path}/{servo.id}", {"action": "replace", "why": ""}, "few words")
        self.client.post(f"{path}/{servo.id}", data={"action": "replace", "why": "stripped gear", "firmware": ""})
        self.assertIn("stripped gear", plain(self.client.get(path).text))
        start = self.start("Haymaker", "H1")
        self.assertEqual(self.client.post(f"{path}/{servo.id}", data={"action": "off", "why": "x"}).status_code, 422)
        self.assertIsNotNone(start)
        receiver = next(p for p in parts.of_aircraft(number) if p.kind == "receiver")
        self.client.post(f"{path}/{receiver.id}", data={"action": "replace", "why": "range", "firmware": "2.0"})
        again = plain(self.client.get(f"/rounds/{self.start('Haymaker', 'H1')}?check=link.range").text)
        self.assertIn("New receiver, today; not looked at since.", again)
        self.wrong(path, form | {"kind": "sail"}, "Part: choose one")
        self.wrong(path, form | {"size": "x" * 50}, "20 fit")
        self.assertEqual(self.client.post(f"{path}/9999", data={"action": "off", "why": "x"}).status_code, 404)


class HandedOn(FormCase):
    def test_exported_and_taken_over(self) -> None:
        number = self.numbers["Sandpiper"]
        answer = self.client.get(f"/hangar/aircraft/{number}/aircraft.json")
        self.assertIn("Sandpiper.aircraft.json", answer.headers["content-disposition"])
        file = parse_file(answer.text, AircraftFile)
        self.assertEqual(file.aircraft.firmware, "2.3")
        clash = self.client.post("/hangar/import", files={"file": ("a.json", io.BytesIO(answer.content))})
        self.assertEqual(clash.status_code, 422)
        self.assertIn("already an aircraft called Sandpiper", plain(clash.text))
        self.assertIn("Call it Sandpiper 2", plain(clash.text))
        taken = self.client.post("/hangar/import", data={"text": answer.text, "name": "Sandpiper 2"})
        self.assertEqual(taken.status_code, 303)
        twin = next(a for a in hangar.everything(Aircraft) if a.name == "Sandpiper 2")
        self.assertEqual(len(parts.of_aircraft(twin.id)), len(file.parts))

    def test_files_that_are_wrong(self) -> None:
        newer = json.dumps({"format": "walk-round-aircraft/9"})
        for text, words in (("", "Choose a file"), ("kite", "not a JSON file"), (newer, "newer Walk Round")):
            with self.subTest(words):
                self.wrong("/hangar/import", {"text": text}, words)
        large = self.client.post("/hangar/import", files={"file": ("a.json", io.BytesIO(b" " * 10_000_000))})
        self.assertEqual(large.status_code, 413)
        self.assertIn("more than 1.5 MB. Nothing was saved", plain(large.text))
        self.assertEqual(len(hangar.everything(Aircraft)), 5)

    def test_copied_retired_brought_back(self) -> None:
        number = self.numbers["Haymaker"]
        self.client.post(f"/hangar/aircraft/{number}/copy")
        self.client.post(f"/hangar/aircraft/{number}/copy")
        names = {a.name for a in hangar.everything(Aircraft)}
        self.assertLessEqual({"Haymaker", "Haymaker 2", "Haymaker 3"}, names)
        for retired in (True, False):
            self.client.post(f"/hangar/aircraft/{number}/retire")
            self.assertIs(hangar.get(Aircraft, number).retired, retired)
        self.assertEqual(self.client.get("/schemas/walk-round-list.json").json()["title"], "ListFile")
        self.assertEqual(self.client.get("/schemas/kite.json").status_code, 404)

    def test_a_photo_of_a_snag(self) -> None:
        from tests.store.test_photos import photo

        path = f"/hangar/aircraft/{self.numbers['Sandpiper']}/snags"
        sent = self.client.post(path, data={"title": "crack"}, files={"photo": ("a.png", io.BytesIO(photo("PNG")))})
        self.assertEqual(sent.status_code, 303, sent.text)
        (number,) = snags.with_photo()
        picture = self.client.get(f"/snags/{number}/photo.jpg")
        self.assertEqual((picture.headers["content-type"], picture.content[:2]), ("image/jpeg", b"\xff\xd8"))
        self.assertIn(f"/snags/{number}/photo.jpg", self.client.get("/snags").text)
        bad = self.client.post(path, data={"title": "dent"}, files={"photo": ("a.jpg", io.BytesIO(b"a diary"))})
        self.assertEqual(bad.status_code, 422)
        self.assertIn("not a photo", plain(bad.text))
        self.assertNotIn("dent", [s.title for s in snags.open_ones(self.numbers["Sandpiper"])])
        self.assertEqual(self.client.get("/snags/1/photo.jpg").status_code, 404)


class LiveDrawing(FormCase):
    def draw(self, **form: object):  # type: ignore[no-untyped-def]
        base = {"id": "0", "kind": "multirotor", "frame": "X", "rotors": "4", "power": "electric", "name": "Half typed"}
        return self.client.post("/hangar/aircraft/draw", data=base | form, headers={"HX-Request": "true"})

    def test_it_follows_what_is_chosen(self) -> None:
        six = self.draw(rotors="6").text
        self.assertIn("six rotors", six)
        self.assertIn('value="Half typed"', six)
        led = self.draw(frame="Y, coaxial", rotors="4").text
        self.assertIn("six rotors, two on each of three arms", led)
        glider = self.draw(kind="wing", frame="X", rotors="4", power="no motor", traits=["glider"]).text
        self.assertIn("no propeller", glider)
        heli = self.draw(kind="helicopter", frame="coaxial rotors", power="no motor", rotors="2").text
        self.assertIn("two coaxial rotors", heli)
        for odd in ({"kind": "balloon"}, {"rotors": "many"}, {"rotors": ""}, {"power": "steam"}):
            self.assertEqual(self.draw(**odd).status_code, 200, odd)
