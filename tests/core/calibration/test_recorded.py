"""A recording judged only for what it is about."""

import unittest

from tests.support import NOW, SITE
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.earth import here_at
from walkround.core.calibration.recorded import judged_recording, throttle_and_field
from walkround.core.sensors.devices import Frame
from walkround.simulators.controller import SimulatedController

HERE = here_at(SITE, NOW, 1013.0)


class Judged(unittest.TestCase):
    def names(self, condition: str, movement: str, seconds: float) -> tuple[list[str], Level]:
        found = judged_recording(SimulatedController(condition).frames(movement, HERE, seconds, 1))
        return [one.name for one in found], worst(found) if found else Level.CAUTION

    def test_each_for_what_it_is_about(self) -> None:
        self.assertEqual(self.names("good", "still", 70), (["Still start", "Height shown", "Drift"], Level.CLEAR))
        self.assertEqual(self.names("good", "still", 20)[0], ["Still start"], "too short for a drift")
        self.assertIs(self.names("draught", "still", 90)[1], Level.GROUNDED)
        self.assertEqual(self.names("good", "all axes", 20)[0], [], "a turn is no start")
        self.assertIn("Current", self.names("current", "throttle", 20)[0])

    def test_nothing_in_it_is_nothing_said(self) -> None:
        self.assertEqual(judged_recording([]), ())
        self.assertEqual(
            throttle_and_field([Frame(at_s=0, throttle=0.5), Frame(at_s=1, throttle=0.4, field_ut=(3, 0, 4))], 0.5),
            ([0.2], [5.0]),
        )
