"""Recordings of a flight controller: written and read again alike, in any usual unit, with what is missing said."""

import math
import unittest

import msgspec
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.sensors.devices import Frame
from walkround.core.sensors.recording import STANDARD_GRAVITY_MS2, Sensor, as_lines, as_recording, read_recording

NUMBER = st.floats(-90, 90).map(lambda value: round(value, 3))
THREE = st.none() | st.tuples(NUMBER, NUMBER, NUMBER)
UP = st.none() | st.tuples(st.floats(-0.5, 0.5), st.floats(-0.5, 0.5), st.just(-1.0)).map(
    lambda three: (round(three[0], 3), round(three[1], 3), three[2])
)
FRAMES = st.lists(
    st.builds(
        Frame, at_s=st.just(0.0), field_ut=THREE, acceleration_g=UP, turning_dps=THREE, throttle=st.none() | st.floats(0, 1).map(lambda v: round(v, 3)),
        pressure_hpa=st.none() | st.floats(850, 1050).map(lambda v: round(v, 2)), board_v=st.none() | st.floats(3, 6).map(lambda v: round(v, 2)),
        mode=st.sampled_from(["", "hold", "return"]), failsafe=st.sampled_from([None, True, False]), messages=st.sampled_from([(), ("one",), ("one", "two")]),
    ).map(lambda frame: frame),
    min_size=1, max_size=12,
)  # fmt: skip


def timed(frames: list[Frame]) -> list[Frame]:
    return [msgspec.structs.replace(frame, at_s=round(0.02 * i, 2)) for i, frame in enumerate(frames)]


class Again(unittest.TestCase):
    @given(FRAMES)
    def test_written_and_read(self, frames: list[Frame]) -> None:
        given_ = timed(frames)
        empty = Frame(at_s=0.0)
        there = [f for f in given_ if msgspec.structs.replace(f, at_s=0.0) != empty]
        for write in (as_recording, as_lines):
            if not there:
                continue
            found = read_recording(write(given_))
            self.assertEqual([msgspec.structs.replace(f, at_s=0.0) for f in found.frames], [msgspec.structs.replace(f, at_s=0.0) for f in there])  # fmt: skip
            begin = there[0].at_s
            for ours, theirs in zip(found.frames, there, strict=True):
                if len(there) > 1:
                    self.assertAlmostEqual(ours.at_s, theirs.at_s - begin, places=6)

    @given(FRAMES, st.sampled_from(list(Sensor)))
    def test_what_is_missing_is_said(self, frames: list[Frame], sensor: Sensor) -> None:
        try:
            found = read_recording(as_recording(frames))
        except InputError:
            return
        self.assertEqual(found.wants(sensor) == "", sensor in found.sensors)


class Units(unittest.TestCase):
    def test_gravity_in_any_unit(self) -> None:
        for one in (1.0, STANDARD_GRAVITY_MS2, 2048.0):
            found = read_recording(f"t,acc_x,acc_y,acc_z\n0,0,0,{-one}\n1,0,{one},0")
            self.assertAlmostEqual(found.frames[0].acceleration_g[2], -1.0)  # type: ignore[index]

    def test_turning_in_radians(self) -> None:
        found = read_recording("t,gx [rad/s],gy [rad/s],gz [rad/s]\n0,0,0,1")
        self.assertAlmostEqual(found.frames[0].turning_dps[2], math.degrees(1))  # type: ignore[index]

    def test_pulses_are_shares(self) -> None:
        found = read_recording("t,ch1,ch2,throttle\n0,1000,2000,1000\n1,1500,1250,2000")
        self.assertEqual([f.sticks for f in found.frames], [(-1.0, 1.0), (0.0, -0.5)])
        self.assertEqual([f.throttle for f in found.frames], [0.0, 1.0])

    def test_clocks(self) -> None:
        for header, rows, seconds in (
            ("time_ms", ("100", "1100"), 1.0),
            ("time_us", ("0", "500000"), 0.5),
            ("at_s", ("7", "9.5"), 2.5),
            ("at_s", ("7", "3"), 0.02),  # runs back: by the rate
            ("other", ("7", "9"), 0.02),
        ):
            found = read_recording(f"{header},mag_x,mag_y,mag_z\n{rows[0]},1,2,3\n{rows[1]},1,2,3")
            self.assertAlmostEqual(found.seconds, seconds, msg=header)


class Bad(unittest.TestCase):
    def test_of_an_unknown_kind(self) -> None:
        for text in ("apples,pears\n1,2", "to be\nor not to be", "", "x\n"):
            with self.assertRaises(InputError):
                read_recording(text)

    def test_rows_without_a_number_are_counted(self) -> None:
        found = read_recording("mag_x,mag_y,mag_z\n1,2,3\nnan,1,2\n,,\n4,5,6")
        self.assertEqual((len(found.frames), found.dropped, found.total), (2, 2, 4))

    @given(st.text(max_size=300))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        try:
            found = read_recording(text)
        except InputError:
            return
        self.assertTrue(found.frames and found.sensors)
        self.assertTrue(all(b.at_s >= a.at_s for a, b in zip(found.frames, found.frames[1:], strict=False)))
