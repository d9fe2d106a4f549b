"""A compass while it is turned: every frame is sent, a dropped connection goes on, a hand and a recording are kept, and all of it stays small."""

import json
import threading
import unittest
from unittest import mock

from tests.support import plain
from tests.web.test_compass import CompassCase
from walkround.core.sensors.devices import Frame
from walkround.store import calibrations, hangar, recordings
from walkround.web import compass_live
from walkround.web.compass_live import BY_HAND_S, MOST_KEPT, Turned


class Live(CompassCase):
    def live(self, asked: str = "way=all axes&seed=3", **headers: str) -> list[tuple[int, dict]]:  # type: ignore[type-arg]
        answer = self.client.get(f"{self.at}/live?{asked}", headers=headers)
        self.assertEqual(answer.headers["content-type"].partition(";")[0], "text/event-stream")
        parts = [
            dict(line.split(": ", 1) for line in event.splitlines()) for event in answer.text.strip().split("\n\n")
        ]
        self.frames = [json.loads(part["data"]) for part in parts if part.get("event") == "frames"]
        return [(int(part["id"]), json.loads(part["data"])) for part in parts if part.get("event") != "frames"]

    def test_live_it_fills_and_a_dropped_connection_goes_on(self) -> None:
        with (
            mock.patch("walkround.web.compass_live.SECONDS", 6.0),
            mock.patch("walkround.web.compass_live.anyio.sleep", mock.AsyncMock()),
        ):
            told = self.live()
            self.assertEqual(sum(map(len, self.frames)), 300, "every frame is sent")
            shares = [data["share"] for _, data in told[:-1]]
            self.assertEqual(shares, sorted(shares))
            self.assertGreater(shares[-1], 50)
            rest = self.live(**{"Last-Event-ID": str(told[4][0])})
            self.assertEqual(rest, told[5:], "the same turn goes on")

    def test_turned_by_hand_what_was_shown_is_kept(self) -> None:
        turned = self.client.post(f"{self.at}/turn", data={"seed": "8", "roll": "10", "pitch": "-90", "yaw": "30"})
        self.assertEqual(turned.status_code, 204)
        self.assertEqual(self.client.post(f"{self.at}/turn", data={"seed": "8", "roll": "x"}).status_code, 422)
        gone = self.client.post(self.at, data={"how": "live", "way": "by hand", "seed": "8"})
        self.assertIn("That turn is not here any more", plain(gone.text))
        with (
            mock.patch("walkround.web.compass_live.BY_HAND_S", 1.5),
            mock.patch("walkround.web.compass_live.anyio.sleep", mock.AsyncMock()),
        ):
            self.assertTrue(self.client.get(f"{self.at}/live?way=by hand&seed=8").text)
        kept = self.client.post(self.at, data={"how": "live", "way": "by hand", "seed": "8", "many": "75"})
        self.assertEqual(kept.status_code, 303)
        self.assertIn("Stay down.", plain(self.client.get(self.at).text), "held in one attitude")

    def test_a_recording_is_kept_as_it_came_and_played_again(self) -> None:
        text = self.recording()
        self.client.post(self.at, data={"how": "samples", "samples": text})
        kept = recordings.of_aircraft(self.quad)[0]
        self.assertEqual(recordings.text_of(self.quad, kept.id), text)
        with mock.patch("walkround.web.compass_live.anyio.sleep", mock.AsyncMock()):
            told = self.live(f"recording={kept.id}&seed=4&speed=50")
        self.assertEqual(sum(map(len, self.frames)), 800, "every row is played")
        self.assertGreater(told[-2][1]["share"], 90)
        before = len(hangar.events(self.quad))
        sent = {"how": "live", "way": "two turns", "seed": "4", "recording": str(kept.id), "many": "800"}
        self.now += self.now.resolution * 1_000_000
        self.assertEqual(self.client.post(self.at, data=sent).status_code, 303)
        found = calibrations.compass_ones(self.quad)[0]
        self.assertEqual((found.samples, found.simulated), (found.samples, False))
        self.assertEqual(len(hangar.events(self.quad)), before + 1, "what is real counts")
        self.assertEqual(self.client.get(f"{self.at}/live?recording=999").status_code, 404)
        self.assertEqual(self.client.get(f"{self.at}?recording=999").status_code, 404)

    def test_only_the_newest_turns_are_held(self) -> None:
        with (
            mock.patch("walkround.web.compass_live.SECONDS", 1.0),
            mock.patch("walkround.web.compass_live.anyio.sleep", mock.AsyncMock()),
        ):
            for seed in range(MOST_KEPT + 3):
                self.live(f"way=all axes&seed={seed}")
        self.assertEqual([seed for _, seed in compass_live.KEPT], list(range(3, MOST_KEPT + 3)))


class Small(unittest.TestCase):
    def test_ten_minutes_by_hand_in_little_room(self) -> None:
        """Ten minutes at fifty frames a second are 30,000 of ten numbers of eight bytes."""
        turned, many = Turned(), int(BY_HAND_S * 50)
        frame = Frame(at_s=1.0, field_ut=(1.0, 2.0, 3.0), acceleration_g=None, turning_dps=(0.0, 0.0, 1.0))
        for _ in range(many):
            turned.add(frame)
        self.assertEqual((len(turned), many), (30_000, 30_000))
        self.assertLess(turned._numbers.buffer_info()[1] * turned._numbers.itemsize, 2_500_000)
        turned.add(Frame(at_s=2.0))
        self.assertEqual(len(turned), many, "a frame without a field is none")
        turned.cut(3)
        self.assertEqual(turned.frames(), [frame] * 3)

    def test_read_in_one_thread_while_frames_come_in_another(self) -> None:
        """Keeping reads what came so far while more comes: neither stops the other."""
        turned, over = Turned(), threading.Event()

        def read() -> None:
            while not over.is_set():
                rows = turned.rows()
                read_so_far.append(bool((rows[:, 0] == range(len(rows))).all()))

        read_so_far: list[bool] = []
        readers = [threading.Thread(target=read) for _ in range(2)]
        for reader in readers:
            reader.start()
        try:
            for number in range(int(BY_HAND_S * 50)):
                turned.add(Frame(at_s=float(number), field_ut=(20.0, 1.0, 43.0)))
        finally:
            over.set()
            for reader in readers:
                reader.join()
        self.assertEqual(set(read_so_far), {True})
        self.assertEqual(len(turned), int(BY_HAND_S * 50))
