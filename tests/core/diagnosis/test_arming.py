"""Why it will not arm: the first that blocks, by a table written before the code; what is not known never reads as armed."""

import unittest
from typing import Any

import msgspec
from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, SITE
from walkround.core.aircraft.controller import GENERIC, Arms, ControllerProfile, Mode, generic
from walkround.core.calibration.earth import here_at
from walkround.core.diagnosis.arming import ArmingValues, Ends, State, arming_tests, diagnose, holds, values_from
from walkround.core.diagnosis.messages import read_messages
from walkround.core.sensors.nmea import Fix
from walkround.simulators.controller import STORIES, SimulatedController

FULL = Ends(low_us=1000, centre_us=1500, high_us=2000)
READY: dict[str, Any] = {
    "model_right": True, "signal": True, "throttle_us": 1000, "arm_switch_on": False, "mode": "hold", "ends": (FULL, FULL, FULL, FULL), "alike": (),
    "failsafe_us": 950, "calibrated": True, "tilt_deg": 1.0, "turning_dps": 0.3, "offset_ut": 12.0, "field_ut": 49.0, "expected_ut": 49.1, "fix": True, "hdop": 0.9,
    "board_v": 5.1, "cell_v": 4.1, "lean_most_deg": 35.0, "inside_fence": True, "failsafe": False, "messages": (),
}  # fmt: skip
PROFILE = generic("switch, satellites")

# Written before the code. The order is that of the trade: radio, calibrations, position, voltages, settings; common practice, no source.
ROWS: tuple[tuple[dict[str, Any], str], ...] = (
    ({}, ""),
    ({"model_right": False}, "Model"),
    ({"signal": False}, "Receiver"),
    ({"signal": False, "model_right": False}, "Model"),
    ({"throttle_us": 1180}, "Throttle"),
    ({"throttle_us": 1180, "board_v": 4.2}, "Throttle"),
    ({"arm_switch_on": True}, "Switches"),
    ({"mode": "return"}, "Mode"),
    ({"mode": "somehow"}, "Mode"),
    ({"ends": (FULL, FULL, Ends(low_us=1340, centre_us=1500, high_us=1990), FULL)}, "Channels"),
    ({"ends": (FULL, Ends(low_us=1010, centre_us=1500, high_us=1650), FULL, FULL)}, "Channels"),
    ({"ends": (FULL, Ends(low_us=1010, centre_us=1620, high_us=1990), FULL, FULL)}, "Channels"),
    ({"alike": (2, 4)}, "Channels"),
    ({"failsafe_us": 1000}, "Failsafe value"),
    ({"failsafe_us": 1500}, "Failsafe value"),
    ({"failsafe_us": 800}, "Failsafe value"),
    ({"calibrated": False}, "Calibration"),
    ({"tilt_deg": 9.0}, "Level"),
    ({"turning_dps": 6.0}, "Gyro"),
    ({"offset_ut": 95.0}, "Compass"),
    ({"field_ut": 80.0}, "Compass"),
    ({"field_ut": 25.0}, "Compass"),
    ({"fix": False}, "Position"),
    ({"hdop": 2.6}, "Position"),
    ({"fix": False, "mode": "manual"}, ""),  # a mode that needs none
    ({"board_v": 4.4}, "Voltage"),
    ({"board_v": 5.9}, "Voltage"),
    ({"cell_v": 3.2}, "Voltage"),
    ({"lean_most_deg": 85.0}, "Lean angle"),
    ({"lean_most_deg": 3.0}, "Lean angle"),
    ({"inside_fence": False}, "Geofence"),
    ({"failsafe": True}, "Error flags"),
    ({"messages": read_messages("Barometer not healthy")}, "Error flags"),
    ({"messages": read_messages("Blorp 17")}, ""),
    ({"board_v": 4.4, "hdop": 3.0}, "Position"),
)


def values(**changes: Any) -> ArmingValues:
    return ArmingValues(**(READY | changes))


class Table(unittest.TestCase):
    def test_the_first_that_blocks(self) -> None:
        for changes, first in ROWS:
            found = diagnose(values(**changes), PROFILE)
            self.assertEqual(found.first.name if found.first else "", first, changes)

    def test_ready(self) -> None:
        self.assertTrue(diagnose(values(), PROFILE).arms)
        self.assertEqual(diagnose(values(), PROFILE).words, "It should arm now.")

    def test_what_comes_next_is_told_too(self) -> None:
        found = diagnose(values(throttle_us=1180, board_v=4.2, hdop=3.0), PROFILE)
        self.assertEqual([one.name for one in found.blockers], ["Throttle", "Position", "Voltage"])
        self.assertTrue(all(one.do for one in found.blockers))

    def test_without_satellites_none_are_asked_for(self) -> None:
        plain = generic("switch, no satellites")
        found = diagnose(
            values(mode="level", fix=None, hdop=None, offset_ut=None, field_ut=None, inside_fence=None), plain
        )
        self.assertTrue(found.arms, [one.name for one in found.unknown])

    def test_stick_or_switch(self) -> None:
        self.assertIs(generic("stick, satellites").arms, Arms.STICK)
        names = {
            one.name
            for one in arming_tests(values(arm_switch_on=None), generic("stick, satellites"))
            if one.state is State.UNKNOWN
        }
        self.assertNotIn("Switches", names, "what it has not is not asked for")

    def test_its_own_numbers_prevail(self) -> None:
        own = ControllerProfile(name="own", board_least_v=4.2, modes=(Mode(name="hold", arms=True),))
        self.assertIsNone(diagnose(values(board_v=4.4), own).first)


class Unknown(unittest.TestCase):
    @given(st.sampled_from(sorted(set(READY) - {"messages", "expected_ut", "alike"})), st.sampled_from(sorted(GENERIC)))
    def test_what_is_not_known_never_arms(self, name: str, which: str) -> None:
        profile = generic(which)
        found = diagnose(values(**{name: () if name == "ends" else "" if name == "mode" else None}), profile)
        asked = {one.name for one in found.unknown}
        needed = name not in {"arm_switch_on"} or profile.arms is Arms.SWITCH
        needed &= name not in {"fix", "hdop", "offset_ut", "field_ut", "inside_fence"} or profile.satellites
        if needed and "hold" in {mode.name for mode in profile.modes}:
            self.assertFalse(found.arms, (name, which))
            self.assertTrue(asked, name)

    @given(
        st.dictionaries(st.sampled_from(sorted(READY)), st.none(), min_size=1, max_size=8),
        st.integers(0, len(ROWS) - 1),
    )
    def test_less_known_never_unblocks_into_armed(self, gone: dict[str, None], row: int) -> None:
        blanks = {
            name: () if name in ("ends", "alike", "messages") else "" if name == "mode" else None for name in gone
        }
        blocked = ROWS[row][0]
        found = diagnose(values(**(blocked | blanks)), PROFILE)
        if set(gone) - {"messages", "alike", "expected_ut"}:
            self.assertFalse(found.arms)


class Read(unittest.TestCase):
    EXPECTED = {
        "good": "", "board": "Voltage", "failsafe": "Receiver", "lean": "Lean angle", "mode": "Mode", "travel": "Throttle", "alike": "Channels", "no fix": "Position",
        "slow fix": "Position", "poor": "Position", "drift": "Gyro", "tool": "Compass", "weak": "Compass", "strong": "Compass", "draught": "Error flags",
    }  # fmt: skip

    def test_each_fault_of_the_stand_in_is_the_first_that_blocks(self) -> None:
        here = here_at(SITE, NOW, 1013.0)
        for condition, first in self.EXPECTED.items():
            frames = list(SimulatedController(condition).frames("sticks", here, 8, 3))
            known = msgspec.structs.replace(
                values_from(frames, here, cells=3), model_right=True, arm_switch_on=False, failsafe_us=950, calibrated=True, inside_fence=True,
                offset_ut=95.0 if condition == "tool" else 12.0,
            )  # fmt: skip
            found = diagnose(known, PROFILE)
            self.assertEqual(found.first.name if found.first else "", first, condition)
            self.assertEqual(found.arms, condition == "good", [one.name for one in found.unknown])
        self.assertLessEqual(set(self.EXPECTED), set(STORIES))

    def test_channels_that_were_not_moved_are_not_known(self) -> None:
        here = here_at(SITE, NOW, 1013.0)
        still = values_from(SimulatedController().frames("still", here, 4, 3), here, cells=3)
        self.assertEqual(still.ends, ())
        self.assertIn("Channels", [one.name for one in diagnose(still, PROFILE).unknown])

    def test_a_fix_that_is_estimated_or_simulated_is_none(self) -> None:
        """Qualities 6 to 8 are estimated, typed in or simulated. Source: NMEA 0183, GGA (from memory)."""
        for quality in range(10):
            fix = Fix(quality=quality, satellites=12, hdop=0.8)
            self.assertEqual(holds(fix), 1 <= quality <= 5, quality)
        self.assertFalse(holds(Fix(quality=1, void=True)))

    def test_nothing_read_knows_nothing(self) -> None:
        found = diagnose(values_from([], here_at(None, NOW, None), cells=3), PROFILE)
        self.assertFalse(found.arms or found.blockers)
        self.assertIn("Nothing known blocks it", found.words)
