"""The simulated weather station."""

import unittest

from tests.support import NOW
from walkround.core.base.errors import DeviceError
from walkround.core.weather.metar import decode_report
from walkround.simulators import weather


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
