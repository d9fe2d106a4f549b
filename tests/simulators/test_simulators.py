"""Stand-ins: chosen conditions, a fault each, the interface of a real device."""

import unittest

from tests.support import NOW, PACK, SITE
from walkround.core.base.errors import DeviceError
from walkround.core.base.finding import Level
from walkround.core.packs.bands import judge_cells
from walkround.core.packs.reading import parse_cells
from walkround.core.sensors.devices import CellChecker, PositionReceiver, WeatherStation
from walkround.core.weather.metar import decode_report
from walkround.simulators import checker, receiver, weather
from walkround.simulators.absent import AbsentDevice

STATION: type[WeatherStation] = weather.SimulatedWeatherStation
CHECKER: type[CellChecker] = checker.SimulatedCellChecker
RECEIVER: type[PositionReceiver] = receiver.SimulatedReceiver


class Weather(unittest.TestCase):
    def test_every_condition_speaks_a_report_of_the_last_half_hour(self) -> None:
        for condition, (words, body) in weather.CONDITIONS.items():
            if not body:
                continue
            with self.subTest(words):
                report = decode_report(weather.SimulatedWeatherStation(condition).report("ZZTC", NOW), NOW)
                self.assertEqual(report.station, "ZZTC")
                self.assertLess((NOW - report.at).total_seconds(), 30 * 60)
                self.assertEqual(bool(report.missing), condition == "half")

    def test_fault(self) -> None:
        with self.assertRaises(DeviceError) as caught:
            weather.SimulatedWeatherStation("silent").report("ZZTC", NOW)
        self.assertIn("does not answer", caught.exception.message)

    def test_unknown_condition_is_the_quiet_one(self) -> None:
        self.assertEqual(weather.SimulatedWeatherStation("x").condition, "breeze")


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


class Absent(unittest.TestCase):
    def test_it_says_what_to_do_instead(self) -> None:
        device = AbsentDevice()
        for ask in (
            lambda: device.report("", NOW),
            lambda: device.read(3),
            lambda: device.nmea(SITE.position, NOW),
        ):
            with self.assertRaises(DeviceError) as caught:
                ask()
            self.assertRegex(caught.exception.message, "No .* is connected. (Paste|Type)")


class Receiver(unittest.TestCase):
    def test_fault(self) -> None:
        with self.assertRaises(DeviceError):
            receiver.SimulatedReceiver("silent").nmea(SITE.position, NOW)
