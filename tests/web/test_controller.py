"""The flight controller on its page: messages told apart, values live, recordings kept and judged for what is in them."""

import json
from unittest import mock

from tests.support import NOW, SITE, elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.calibration.earth import here_at
from walkround.core.sensors.recording import as_recording
from walkround.simulators.controller import SimulatedController
from walkround.store import recordings
from walkround.store import settings as store_settings


class ControllerPage(FormCase):
    @property
    def quad(self) -> int:
        return self.numbers["Sandpiper"]

    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.quad}/controller"

    def explained(self, text: str) -> str:
        return plain(self.client.post(f"{self.at}/messages", data={"messages": text}).text)

    def keep(self, movement: str, condition: str = "good", seconds: float = 70) -> str:
        frames = SimulatedController(condition).frames(movement, here_at(SITE, NOW, None), seconds, 1)
        answer = self.client.post(f"{self.at}/recordings", data={"log": as_recording(frames)})
        self.assertEqual(answer.status_code, 303)
        return plain(self.client.get(answer.headers["location"]).text)

    def test_messages_are_explained_and_kept(self) -> None:
        text = self.explained("12:00:01 Compass offsets too large\nBlorp 17")
        self.assertIn("Stay down. “Compass offsets too large”", text)
        self.assertIn("Caution. “Blorp 17” Not known here.", text)
        self.assertIn("Note it: it asks for a compass calibration", text)
        self.assertIs(recordings.of_aircraft(self.quad)[0].kind, recordings.Kind.MESSAGES)
        self.client.post(f"/hangar/aircraft/{self.quad}/events", data={"event": "it asks for a compass calibration"})
        self.assertIn("Due.", plain(self.client.get(f"/hangar/aircraft/{self.quad}/compass").text))

    def test_nothing_pasted_is_said_there(self) -> None:
        answer = self.client.post(f"{self.at}/messages", data={"messages": "  "})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("one message a line", within(answer.text, "#wrong-messages"))
        self.assertTrue(elements(self.client.post(f"{self.at}/recordings", data={"log": ""}).text, "#wrong-log"))

    def test_listened_to(self) -> None:
        quiet = plain(self.client.post(f"{self.at}/messages", data={"how": "read"}).text)
        self.assertIn("It says nothing. Go through the checks all the same.", quiet)
        store_settings.save(devices={"controller": "screw"})
        said = plain(self.client.post(f"{self.at}/messages", data={"how": "read"}).text)
        self.assertIn("Simulated flight controller: what it reports is invented.", said)
        self.assertIn("Stay down. “Compass offsets too large”", said)
        store_settings.save(devices={"controller": "silent"})
        self.assertEqual(self.client.post(f"{self.at}/messages", data={"how": "read"}).status_code, 503)

    def values(self, seconds: float = 4) -> list[dict[str, str]]:
        with (
            mock.patch("walkround.web.controller.LIVE_S", seconds),
            mock.patch("walkround.web.controller.anyio.sleep", mock.AsyncMock()),
        ):
            lines = self.client.get(f"{self.at}/live").text.splitlines()
        return [json.loads(line[6:])["values"] for line in lines if line.startswith("data: {") and line != "data: {}"]

    def test_its_values_live(self) -> None:
        found = self.values()
        self.assertEqual(len(found), 20, "five a second")
        page = [str(e.attributes["data-value"]) for e in elements(self.client.get(self.at).text, "[data-value]")]
        self.assertEqual(list(found[0]), page)
        self.assertEqual(
            (found[-1]["Board"], found[-1]["Failsafe"], found[-1]["Mode"]), ("5.10 V", "not active", "hold")
        )
        self.assertRegex(found[-1]["Satellites"], r"1\d, HDOP 0\.\d, fix")
        self.assertGreater(len({one["Channels"] for one in found}), 10, "the sticks move")
        for condition, name, words in (
            ("no fix", "Satellites", "no fix"),
            ("failsafe", "Failsafe", "active"),
            ("board", "Board", "4.30 V"),
        ):
            store_settings.save(devices={"controller": condition})
            self.assertTrue(self.values(2)[-1][name].endswith(words), condition)

    def test_a_recording_is_judged_for_what_is_in_it(self) -> None:
        still = self.keep("still")
        self.assertIn("It rested for 70 s in one piece", still.replace("\u202f", " "))
        self.assertNotIn("Stay down.", still)
        self.assertIn("Stay down.", self.keep("still", "draught", 90))
        self.assertIn("Caution.", self.keep("still", "bumped"))
        turned = self.keep("all axes", seconds=20)
        self.assertIn("Play it on the compass page", turned)
        self.assertNotIn("It rested", turned, "a turn is no start")
        flown = self.keep("throttle", "current", 20)
        self.assertRegex(flown, r"At full throttle the current would change the field by \d\d")

    def test_one_of_an_unknown_kind(self) -> None:
        answer = self.client.post(f"{self.at}/recordings", data={"log": "apples\n1\n2"})
        text = plain(self.client.get(answer.headers["location"]).text)
        self.assertIn("This kind of file is not known here. It is kept as it came, and nothing is judged by it.", text)

    def test_one_that_is_no_text_is_kept_too(self) -> None:
        data = bytes(range(256)) * 20
        answer = self.client.post(f"{self.at}/recordings", files={"log_file": ("flight.bin", data)})
        self.assertIn("This kind of file is not known here.", plain(self.client.get(answer.headers["location"]).text))
        kept = recordings.of_aircraft(self.quad)[0]
        self.assertEqual(self.client.get(f"{self.at}/recordings/{kept.id}/text").content, data)
        compass = self.client.post(
            f"/hangar/aircraft/{self.quad}/compass", data={"how": "samples"}, files={"file": ("x.bin", data[1:])}
        )
        self.assertEqual(compass.status_code, 422)
        self.assertIn("That file is not text. It is kept among its recordings as it came.", plain(compass.text))

    def test_a_million_rows_and_one_too_many(self) -> None:
        text = "mag_x,mag_y,mag_z\n" + "12.5,-3.25,44.0\n" * 1_000_000
        answer = self.client.post(f"{self.at}/recordings", files={"log_file": ("long.csv", text)})
        self.assertEqual(answer.status_code, 303)
        self.assertIn("1000000 rows", plain(self.client.get(answer.headers["location"]).text).replace(",", ""))
        refused = self.client.post(f"{self.at}/recordings", files={"log_file": ("long.csv", b"1" * 33_000_000)})
        self.assertEqual(refused.status_code, 413)
        self.assertIn("cut it to the minutes that matter", plain(refused.text))

    def test_saved_as_a_file_and_thrown_away(self) -> None:
        self.client.post(f"{self.at}/recordings", files={"log_file": ("Lawn, noon.csv", "mag_x,mag_y,mag_z\n1,2,3\n")})
        kept = recordings.of_aircraft(self.quad)[0]
        self.assertEqual(kept.name, "Lawn, noon.csv")
        saved = self.client.get(f"{self.at}/recordings/{kept.id}/text")
        self.assertEqual(saved.text, "mag_x,mag_y,mag_z\n1,2,3\n")
        self.assertIn('filename="Lawn--noon.csv"', saved.headers["content-disposition"])
        self.client.post(f"{self.at}/recordings/{kept.id}/remove")
        self.assertEqual(self.client.get(f"{self.at}/recordings/{kept.id}").status_code, 404)
