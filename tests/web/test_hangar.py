"""Hangar, packs, fields, snags, settings, devices: forms and their mistakes."""

import io
import json

from PIL import Image

from tests.store.test_photos import photo
from tests.support import WebCase, elements, plain, within
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.checklist.exchange import AircraftFile
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.packs.pack import Pack
from walkround.store import hangar, parts, snags
from walkround.store.exchange import read_file

QUAD = {
    "kind": "multirotor", "frame": "X", "power": "electric", "name": "Sandpiper", "mass_g": "780", "span_mm": "380", "top_speed_ms": "16", "flight_min": "24",
    "cells": "3", "rotors": "4", "firmware": "2.3", "front_left": "clockwise",
    "traits": ["folding arms", "compass", "smart packs that report per cent"],
}  # fmt: skip


class FormCase(WebCase):
    def wrong(self, path: str, form: dict, words: str) -> str:  # type: ignore[type-arg]
        answer = self.client.post(path, data=form)
        self.assertEqual(answer.status_code, 422, answer.text[:300])
        self.assertIn(words, within(answer.text, ".wrong, [role=alert], .sheet.narrow .lead"))
        return answer.text

    def shown(self, page: str, action: str) -> dict[str, str]:
        """The revision that a form on a page carries."""
        return {"revision": self.hidden(page, action)["revision"]}


class AircraftForm(FormCase):
    def test_pages(self) -> None:
        text = plain(self.client.get("/hangar").text)
        for words in ("Haymaker", "1 open", "Sandpiper", "11 packs, 1 of them not fit to fly"):
            self.assertIn(words, text)
        self.assertIn("Gull Staithe", plain(self.client.get("/fields").text))
        for path in (
            "/hangar/aircraft/1",
            "/hangar/aircraft/new/foam-trainer",
            "/packs/new",
            "/packs/1",
            "/fields/new",
            "/fields/1",
        ):
            self.assertEqual(self.client.get(path).status_code, 200, path)
        for path in (
            "/hangar/aircraft/99",
            "/hangar/aircraft/new/zeppelin",
            "/packs/99",
            "/fields/99",
            "/hangar/aircraft/x",
        ):
            self.assertEqual(self.client.get(path).status_code, 404, path)

    def test_a_changed_firmware_is_an_event(self) -> None:
        number = self.numbers["Sandpiper"]
        answer = self.client.post(
            "/hangar/aircraft",
            data={
                **QUAD,
                "id": str(number),
                "firmware": "2.4",
                **self.shown(f"/hangar/aircraft/{number}", "/hangar/aircraft"),
            },
        )
        self.assertEqual(answer.status_code, 303)
        self.assertEqual((hangar.events(number)[0].kind, hangar.events(number)[0].detail), (EventKind.FIRMWARE, "2.4"))
        self.assertEqual(hangar.get(Aircraft, number).firmware, "2.4")
        self.assertIn("Firmware 2.4, today", plain(self.client.get("/").text))

    def test_a_new_build_raises_its_checks(self) -> None:
        self.client.post("/hangar/aircraft", data={**QUAD, "id": "0", "name": "Kite", "new_build": "1"})
        plane = next(a for a in hangar.everything(Aircraft) if a.name == "Kite")
        self.assertEqual(hangar.events(plane.id)[0].kind, EventKind.NEW_BUILD)

    def test_mistakes(self) -> None:
        rows = (
            ({"name": " "}, "Name is empty"), ({"name": "Haymaker"}, "already an aircraft called Haymaker"),
            ({"mass_g": "heavy"}, "is not a number"), ({"mass_g": "-4"}, "between 1 and 25000"),
            ({"rotors": "5"}, "A frame of the form X has 3, 4, 6 or 8 motors, not 5"), ({"rotors": "9"}, "between 0 and 8"),
            ({"frame": "high wing"}, "Frame: choose one"), ({"pick-1": ["quick-release propellers", "propellers held by screws"]}, "only one of"),
            ({"bare_mass_g": "900"}, "The mass without payload cannot be higher than the mass with it"), ({"kind": "balloon"}, "Kind: choose one"), ({"name": "x" * 90}, "(max 60"),
        )  # fmt: skip
        number = self.numbers["Sandpiper"]
        base = QUAD | self.hidden(f"/hangar/aircraft/{number}", "/hangar/aircraft") | {"rotors": QUAD["rotors"]}
        for changes, words in rows:
            with self.subTest(changes):
                text = self.wrong("/hangar/aircraft", {**base, **changes}, words)
                if "mass_g" in changes:
                    self.assertTrue(elements(text, f'input[name=mass_g][value="{changes["mass_g"]}"]'))

    def test_balance_needs_both_ends_in_order(self) -> None:
        wing = {
            "kind": "fixed wing",
            "frame": "high wing",
            "power": "electric",
            "rotors": "1",
            "id": "0",
            "name": "W",
            "mass_g": "900",
            "span_mm": "1200",
            "top_speed_ms": "18",
            "flight_min": "9",
            "cells": "3",
        }
        self.wrong("/hangar/aircraft", {**wing, "cg_min_mm": "70"}, "both ends")
        self.wrong(
            "/hangar/aircraft",
            {**wing, "cg_min_mm": "70", "cg_max_mm": "60"},
            "The rear end of the CG range is in front of the front end",
        )

    def test_events_and_snags(self) -> None:
        number = self.numbers["Sandpiper"]
        self.client.post(f"/hangar/aircraft/{number}/events", data={"event": "crash", "detail": "gate post"})
        self.assertEqual(hangar.events(number)[0].detail, "gate post")
        self.wrong(f"/hangar/aircraft/{number}/events", {"event": "firmware changed"}, "Enter the installed firmware")
        self.wrong(f"/hangar/aircraft/{number}/events", {"event": "eclipse"}, "choose one")
        self.client.post(f"/hangar/aircraft/{number}/snags", data={"title": "loose screw", "grounds": "1"})
        self.assertIn("loose screw", plain(self.client.get("/snags").text))
        self.wrong(f"/hangar/aircraft/{number}/snags", {"title": ""}, "The snag is empty")
        snag = snags.open_ones(aircraft_id=number)[0].id
        self.wrong(f"/snags/{snag}/close", {"how": " "}, "enter a few words")
        self.assertEqual(self.client.post(f"/snags/{snag}/close", data={"how": "tightened"}).status_code, 303)
        self.assertEqual(snags.open_ones(aircraft_id=number), [])
        self.assertEqual(self.client.post("/snags/999/close", data={"how": "x"}).status_code, 404)


class PackForm(FormCase):
    def test_changes_and_charges(self) -> None:
        number = self.numbers["S1"]
        self.client.post(f"/packs/{number}/charged")
        self.assertEqual(hangar.get(Pack, number).charged_at, self.now)
        base = {
            "id": str(number),
            "label": "S1",
            "chemistry": "lithium-polymer",
            "cells": "3",
            "capacity_mah": "3500",
            "smart": "1",
        }
        self.assertEqual(
            self.client.post(
                "/packs", data={**base, "capacity_mah": "3400", **self.shown(f"/packs/{number}", "/packs")}
            ).status_code,
            303,
        )
        self.assertEqual((hangar.get(Pack, number).capacity_mah, hangar.get(Pack, number).charged_at), (3400, self.now))
        base |= self.shown(f"/packs/{number}", "/packs")
        for changes, words in (
            ({"label": ""}, "Label is empty"),
            ({"label": "H1"}, "already a pack"),
            ({"cells": "0"}, "between 1 and 14"),
            ({"capacity_mah": "0"}, "between 10"),
            ({"chemistry": "coal"}, "choose one"),
        ):
            self.wrong("/packs", {**base, **changes}, words)
        self.client.post(f"/packs/{number}/snags", data={"title": "puffy", "grounds": "1"})
        self.assertIn(number, snags.grounded_packs())
        self.wrong(f"/packs/{number}/snags", {"title": ""}, "empty")


class HandedOn(FormCase):
    def test_exported_and_taken_over(self) -> None:
        number = self.numbers["Sandpiper"]
        answer = self.client.get(f"/hangar/aircraft/{number}/aircraft.json")
        self.assertIn("Sandpiper.aircraft.json", answer.headers["content-disposition"])
        file = read_file(answer.text, AircraftFile)
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
        path = f"/hangar/aircraft/{number}/retire"
        for retired in (True, False):
            shown = self.hidden(f"/hangar/aircraft/{number}", path)
            for _ in range(2):  # a double tap means it once
                self.assertEqual(self.client.post(path, data=shown).status_code, 303)
                self.assertIs(hangar.get(Aircraft, number).retired, retired)
        self.assertEqual(self.client.post(path).status_code, 422)
        self.assertEqual(self.client.get("/schemas/walk-round-list.json").json()["title"], "ListFile")
        self.assertEqual(self.client.get("/schemas/kite.json").status_code, 404)

    def test_a_photo_of_a_snag(self) -> None:
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

    def test_a_photo_added_to_a_snag_that_is_open_already(self) -> None:
        for data, status in ((photo("WEBP"), 303), (photo(size=(100, 80)), 303), (b"a diary", 422)):
            sent = self.client.post("/snags/1/photo", files={"photo": ("a", io.BytesIO(data))})
            self.assertEqual(sent.status_code, status)
        self.assertIn("not a photo", plain(sent.text))
        with Image.open(io.BytesIO(self.client.get("/snags/1/photo.jpg").content)) as picture:
            self.assertEqual(picture.size, (100, 80))  # the newer one took the place of the older
        self.wrong("/snags/1/photo", {}, "Choose a photo")
        missing = self.client.post("/snags/99/photo", files={"photo": ("a", io.BytesIO(photo()))})
        self.assertEqual(missing.status_code, 404)


class LiveDrawing(FormCase):
    def draw(self, **form: object):  # type: ignore[no-untyped-def]
        base = {"id": "0", "kind": "multirotor", "frame": "X", "rotors": "4", "power": "electric", "name": "Half typed"}
        return self.client.post("/hangar/aircraft/draw", data=base | form, headers={"HX-Request": "true"})

    def test_it_follows_what_is_chosen(self) -> None:
        six = self.draw(rotors="6").text
        self.assertIn("six rotors", six)
        self.assertTrue(elements(six, 'input[name=name][value="Half typed"]'))
        led = self.draw(frame="Y, coaxial", rotors="4").text
        self.assertIn("six rotors, two on each of three arms", led)
        glider = self.draw(kind="fixed wing", frame="X", rotors="4", power="no motor", traits=["glider"]).text
        self.assertIn("no propeller", glider)
        heli = self.draw(kind="helicopter", frame="coaxial rotors", power="no motor", rotors="2").text
        self.assertIn("two coaxial rotors", heli)
        for odd in ({"kind": "balloon"}, {"rotors": "many"}, {"rotors": ""}, {"power": "steam"}):
            self.assertEqual(self.draw(**odd).status_code, 200, odd)


class Overview(FormCase):
    def page(self, name: str = "Sandpiper") -> str:
        return self.client.get(f"/hangar/aircraft/{self.numbers[name]}").text

    def test_what_it_flew_what_is_due_and_its_history(self) -> None:
        text = plain(self.page())
        self.assertRegex(text, r"780 g, multirotor, X; \d flights, [\d.]+ h in the logbook")
        self.assertIn("Start walk round", text)
        self.assertIn("Due next", text)
        self.assertIn("Firmware changed 2.3", text)
        self.assertGreaterEqual(elements(self.page(), ".flown")[0].attributes["d"].count("M"), 5)

    def test_a_grounded_aircraft_leads_to_its_snag(self) -> None:
        snags.open_one(
            SnagOn.AIRCRAFT,
            self.numbers["Sandpiper"],
            "Rear left latch open",
            grounds=True,
            at=self.now,
            parts=("arm-3",),
        )
        page = self.page()
        self.assertIn("Fix: Rear left latch open", plain(page))
        self.assertNotIn("Start walk round", plain(page))
        self.assertEqual(len(elements(page, ".callout.grounds")), 1)

    def test_a_retired_one_starts_nothing(self) -> None:
        self.client.post(f"/hangar/aircraft/{self.numbers['Mayfly']}/retire", data={"retired": "yes"})
        self.assertNotIn("Start walk round", plain(self.page("Mayfly")))
