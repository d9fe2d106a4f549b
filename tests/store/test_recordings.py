"""Recordings in the book: as they came, once each, the newest few; told what they are, and gone when thrown away."""

import base64
from datetime import timedelta
from random import Random

from tests.support import NOW, SITE, BookCase
from walkround.core.base.errors import InputError, MissingError
from walkround.core.calibration.earth import here_at
from walkround.core.sensors.recording import Sensor, as_lines, as_recording
from walkround.simulators.controller import SimulatedController
from walkround.store import recordings
from walkround.store.recordings import MOST, Kind, coming


class Recordings(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.quad = self.numbers["Lapwing"]
        self.turned = list(SimulatedController().frames("all axes", here_at(SITE, NOW, None), 4, 1))
        for one in recordings.of_aircraft(self.quad):
            with self.book.write():
                recordings.remove(self.quad, one.id)

    def keep(self, text: str, name: str = "x", minutes: int = 0, **more):  # type: ignore[no-untyped-def]
        with self.book.write():
            return recordings.keep(self.quad, coming(text, name, **more), self.now + timedelta(minutes=minutes))

    def test_as_it_came_and_as_frames(self) -> None:
        for write in (as_recording, as_lines):
            text = write(self.turned)
            kept = self.keep(text, " Turned on the lawn " + "n" * 90)
            self.assertEqual(kept.kind, Kind.FRAMES)
            self.assertTrue(kept.has(Sensor.COMPASS, Sensor.GYRO, Sensor.BAROMETER))
            self.assertEqual((kept.total, kept.simulated, len(kept.name)), (200, False, 60))
            self.assertEqual(recordings.text_of(self.quad, kept.id), text)
            self.assertEqual(len(recordings.played(self.quad, kept.id).frames), 200)

    def test_its_field_is_played_in_microtesla_whatever_its_unit(self) -> None:
        rows = [f"{f.field_ut[0] / 100},{f.field_ut[1] / 100},{f.field_ut[2] / 100}" for f in self.turned]  # type: ignore[index]
        kept = self.keep("mag_x,mag_y,mag_z\n" + "\n".join(rows))
        frame = recordings.played(self.quad, kept.id).frames[7]
        self.assertAlmostEqual(frame.field_ut[0], self.turned[7].field_ut[0], places=6)  # type: ignore[index]

    def test_unknown_simulated_and_once(self) -> None:
        self.assertIs(self.keep("apples\n1").kind, Kind.UNKNOWN)
        self.assertTrue(self.keep(f"{recordings.SIMULATED}\nmag_x,mag_y,mag_z\n1,2,3").simulated)
        self.assertIs(self.keep("hello", kind=Kind.MESSAGES).kind, Kind.MESSAGES)
        self.assertEqual(self.keep("apples\n1").id, self.keep("apples\n1").id)
        self.assertEqual(len(recordings.of_aircraft(self.quad)), 3)

    def test_only_the_newest_are_kept(self) -> None:
        for i in range(MOST + 4):
            self.keep(f"mag_x,mag_y,mag_z\n1,2,{i}", str(i), i)
        names = [one.name for one in recordings.of_aircraft(self.quad)]
        self.assertEqual(names, [str(i) for i in reversed(range(4, MOST + 4))])
        self.assertTrue(recordings.of_aircraft(self.numbers["Sandpiper"]), "those of another stay")

    def test_gone_and_of_another_aircraft(self) -> None:
        kept = self.keep("mag_x,mag_y,mag_z\n1,2,3")
        with self.assertRaises(MissingError):
            recordings.get(self.numbers["Sandpiper"], kept.id)
        with self.book.write():
            recordings.remove(self.quad, kept.id)
        for ask in (recordings.get, recordings.text_of, recordings.played):
            with self.assertRaises(MissingError):
                ask(self.quad, kept.id)

    def test_far_too_large(self) -> None:
        text = base64.encodebytes(Random(1).randbytes(11_000_000)).decode()  # nothing of it can be packed away
        with self.assertRaises(InputError):
            self.keep(text)
