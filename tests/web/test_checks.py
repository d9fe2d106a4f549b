"""The check library as pages: why and why not, and the pilot's own list with its mistakes."""

import io

from tests.support import WebCase, elements, plain
from tests.web.test_hangar import FormCase
from walkround.core.checklist.history import EventKind
from walkround.core.checklist.library import CHECKS
from walkround.store import hangar, rounds
from walkround.store import settings as store_settings

AIRFRAME = "/checks/airframe.shell"


class Library(FormCase):
    def test_why_and_why_not_for_every_check(self) -> None:
        text = plain(self.client.get("/checks?aircraft=1").text)
        self.assertRegex(text, rf"\d+ of {len(CHECKS)} checks apply today")
        for words in ("Check the nose wheel", "with: “steered nose wheel”", "Inspect every propeller blade"):
            self.assertIn(words, text)
        club = plain(self.client.get("/checks?aircraft=1&occasion=club+day").text)
        self.assertIn("Selected: club day.", club)
        self.assertNotIn("Selected: club day.", text)

    def test_asked_from_a_walk(self) -> None:
        number = self.start("Haymaker", "H1", "Gull Staithe")
        text = plain(self.client.get(f"/checks?round={number}").text)
        self.assertIn("Checks for Haymaker", text)
        self.assertIn("Gull Staithe is beside water.", text)
        for odd in ("..%2F..%2Fetc", "x", "1e3", "%D9%A3"):
            self.assertEqual(self.client.get(f"/checks?round={odd}").status_code, 200, odd)
        self.assertEqual(self.client.get("/checks?round=999").status_code, 404)

    def test_one_check(self) -> None:
        text = plain(self.client.get(f"{AIRFRAME}?aircraft=1").text)
        for words in (
            "Inspect the airframe",
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
        base = {"seen": str(seen), "action": "keep", "title": "", "how": "", "why": "", "frequency": "every launch"}
        return self.client.post(path, data=base | form)

    def test_reworded_switched_off_and_set_back(self) -> None:
        self.assertEqual(self.change(title="Round the shell, twice").status_code, 303)
        self.assertIn("changed by you", plain(self.client.get("/checks").text))
        number = self.start()
        self.assertIn("Round the shell, twice", plain(self.client.get(f"/rounds/{number}?station=airframe").text))
        answer = self.change(seen=1, off="1")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Give a reason; it will be shown on every verdict", plain(answer.text))
        self.assertEqual(self.change(seen=1, off="1", reason="new shell").status_code, 303)
        self.assertIn("You switched it off: new shell", plain(self.client.get(AIRFRAME).text))
        sheet = plain(self.client.get(f"/rounds/{number}/verdict").text)
        self.assertIn("Your reason: new shell", sheet)
        self.assertIn("Not complete", sheet)
        self.assertIn("is switched off in your checklist", plain(self.client.get("/").text))
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "2", "action": "back"}).status_code, 303)
        self.assertEqual(store_settings.load().custom_checklist.changes, ())

    def test_moved_to_another_station(self) -> None:
        self.assertEqual(self.change(station="pack").status_code, 303)
        page = self.client.get(AIRFRAME).text
        self.assertEqual([o.attributes["value"] for o in elements(page, "#f-station option[selected]")], ["pack"])
        self.assertIn("Airframe, every launch", plain(page))
        number = self.start()
        self.assertIn("airframe.shell", self.client.get(f"/rounds/{number}?station=pack").text)
        held = self.change("/checks/power.aircraft_on", seen=1, station="bag")
        self.assertEqual(held.status_code, 422)
        self.assertIn("This check stays at its station", plain(held.text))
        self.assertEqual(elements(self.client.get("/checks/power.aircraft_on").text, "#f-station"), [])
        self.assertEqual(self.change(seen=1, station="moon").status_code, 422)

    def test_two_tabs(self) -> None:
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "0", "action": "down"}).status_code, 303)
        answer = self.client.post(AIRFRAME, data={"seen": "0", "action": "down"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("in another tab", plain(answer.text))
        self.assertEqual(store_settings.load().custom_checklist.revision, 1)
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "x", "action": "up"}).status_code, 409)
        self.assertEqual(self.client.post(AIRFRAME, data={"seen": "1", "action": "sideways"}).status_code, 422)

    def test_a_check_of_one_s_own(self) -> None:
        form = {
            "title": "Write it as an instruction, for example “Check the tail skid”", "how": "", "why": "", "station": "airframe", "frequency": "every launch", "kind": "",
            "trait": "", "measure": "", "grounds": "1",
        }  # fmt: skip
        self.assertEqual(self.client.get("/checks/new?station=pack").status_code, 200)
        self.assertEqual(self.client.post("/checks", data=form).status_code, 303)
        number = self.start()
        self.assertIn(
            "Write it as an instruction, for example “Check the tail skid”",
            plain(self.client.get(f"/rounds/{number}?check=custom.1").text),
        )
        self.answer(number, "custom.1", action="fault", note="bent")
        self.assertIn("Stay down", plain(self.client.get(f"/rounds/{number}/verdict").text))
        for changes, words in (
            ({"title": ""}, "What to do is empty"), ({"station": "moon"}, "Station: choose one"),
            ({"title": "x", "measure": "volt"}, "A number needs a minimum or a maximum"), ({}, "already"),
            ({"title": "y", "measure": "volt", "low": "many"}, "is not a number"),
        ):  # fmt: skip
            with self.subTest(words):
                self.wrong("/checks", form | changes, words)
        own = self.client.get("/checks/custom.1")
        self.assertIn("Delete this check", plain(own.text))
        self.client.post("/checks/custom.1", data={"seen": "1", "action": "back"})
        self.assertEqual(self.client.get("/checks/custom.1").status_code, 404)

    def test_shared_as_a_file(self) -> None:
        self.change(title="Round the shell, twice")
        answer = self.client.get("/checks/list.json")
        self.assertIn("attachment", answer.headers["content-disposition"])
        self.client.post("/checks/built-in")
        self.assertEqual(store_settings.load().custom_checklist.changes, ())
        sent = self.client.post("/checks/list", files={"file": ("list.json", io.BytesIO(answer.content))})
        self.assertEqual(sent.status_code, 303)
        self.assertEqual(store_settings.load().custom_checklist.changes[0].title, "Round the shell, twice")
        for data, words in (
            (b"", "Choose a file"),
            (b"{}", "not marked as"),
            (b"\xff\xfe\x00", "not text"),
            (b"[" * 500_000, "larger than"),
        ):
            answer = self.client.post("/checks/list", files={"file": ("list.json", io.BytesIO(data))})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))


class OwnKinds(WebCase):
    """A choice and a count of one's own, and what is only for some aircraft."""

    def create(self, **form: str):  # type: ignore[no-untyped-def]
        base = {"title": "Look at the tow hook", "station": "airframe", "frequency": "every launch"}
        return self.client.post("/checks", data=base | form)

    def test_a_choice_and_a_count(self) -> None:
        self.assertEqual(self.create(measure="choice", options="Closed\ngrounds: Open", grounds="1").status_code, 303)
        self.assertEqual(self.create(title="Let it warm up", measure="timer", seconds="30").status_code, 303)
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=custom.1").text
        self.assertEqual([node.attributes["value"] for node in elements(page, ".option")], ["o1", "o2"])
        self.assertIn("Stay down. Open.", plain(self.answer(number, "custom.1", option="o2").text))
        self.assertIn('data-seconds="30"', self.client.get(f"/rounds/{number}?check=custom.2").text)
        for form, words in (
            ({"measure": "choice", "options": "Closed"}, "Enter 2 to 8 answers"),
            ({"measure": "timer", "seconds": ""}, "Count"),
            ({"measure": "timer", "seconds": "99999"}, "between"),
        ):
            answer = self.create(title="Another", **form)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))

    def test_only_on_an_occasion_or_after_an_event(self) -> None:
        self.assertEqual(self.create(title="Ask the marshal", occasion="club day").status_code, 303)
        self.assertEqual(self.create(title="Look for a bent pin", event="crash").status_code, 303)

        def asked(occasion: str = "") -> set[str]:
            data = {
                "aircraft": self.numbers["Sandpiper"],
                "pack": self.numbers["S1"],
                "site": self.numbers["Teasel Common"],
            }
            answer = self.client.post("/rounds", data=data | ({"occasion": occasion} if occasion else {}))
            number = int(answer.headers["location"].rsplit("/", 1)[1])
            return {
                i
                for i in rounds.load(number, store_settings.load(), self.now).walk.plan.ids()
                if i.startswith("custom")
            }

        self.assertEqual((asked(), asked("club day")), (set(), {"custom.1"}))
        hangar.add_event(self.numbers["Sandpiper"], EventKind.CRASH, self.now)
        self.assertEqual(asked(), {"custom.2"})
        self.assertEqual(self.create(title="Odd", occasion="full moon").status_code, 422)

    def test_only_for_one_aircraft_and_the_page_says_whose_change_acts(self) -> None:
        quad, wing = self.numbers["Sandpiper"], self.numbers["Haymaker"]
        for title, only_for in (("Every shell", ""), ("Sandpiper's shell", str(quad))):
            form = {"title": title, "frequency": "every launch", "action": "keep", "only_for": only_for}
            seen = self.hidden("/checks/airframe.shell", "/checks/airframe.shell")
            self.assertEqual(self.client.post("/checks/airframe.shell", data=seen | form).status_code, 303)
        mine = plain(self.client.get(f"/checks/airframe.shell?aircraft={quad}").text)
        self.assertIn("Sandpiper's shell", mine)
        self.assertIn("Changed for every aircraft, and for Sandpiper. Shown is what acts on Sandpiper.", mine)
        other = plain(self.client.get(f"/checks/airframe.shell?aircraft={wing}").text)
        self.assertIn("Every shell", other)
