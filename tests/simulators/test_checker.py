"""The simulated cell checker."""

import unittest

from tests.support import PACK
from walkround.core.base.errors import DeviceError
from walkround.core.base.finding import Level
from walkround.core.packs.bands import judge_cells
from walkround.core.packs.reading import parse_cells
from walkround.simulators import checker


class Cells(unittest.TestCase):
    def test_conditions_are_judged_as_named(self) -> None:
        expected = {"fresh": 0, "lagging": 1, "used": 2, "tired": 1, "failing": 2}
        for condition, level in expected.items():
            cells = checker.SimulatedCellChecker(condition).read(3)
            reading = parse_cells([f"{v}" for v in cells], "", PACK)
            found = judge_cells(reading, PACK, "full", planned_percent=33, second_hop=False)
            self.assertEqual(max(f.level for f in found), Level(level), condition)

    def test_as_many_cells_as_the_pack_has(self) -> None:
        self.assertEqual(len(checker.SimulatedCellChecker().read(6)), 6)

    def test_fault(self) -> None:
        with self.assertRaises(DeviceError):
            checker.SimulatedCellChecker("loose").read(3)
