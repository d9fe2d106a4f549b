"""Calibrations drawn: the sphere in sectors, the offsets over time."""

import unittest
from datetime import timedelta

from tests.support import NOW
from walkround.core.base.finding import Level
from walkround.core.calibration.compass import CompassCalibration
from walkround.core.calibration.ellipsoid import SECTORS
from walkround.web.drawings.calibrations import TREND, draw_offsets, draw_sphere


class Drawn(unittest.TestCase):
    def test_every_sector_once(self) -> None:
        self.assertEqual((len(draw_sphere()), len(set(draw_sphere()))), (SECTORS, SECTORS))

    def test_oldest_first_larger_higher(self) -> None:
        past = [
            CompassCalibration(at=NOW - timedelta(days=days), by="x", offset_ut=(size, 0, 0), level=level)
            for days, size, level in ((1, 80.0, Level.GROUNDED), (9, 20.0, Level.CLEAR), (20, 10.0, None))
        ]
        dots = draw_offsets([*past, CompassCalibration(at=NOW, by="light")])
        self.assertEqual([dot.level for dot in dots], ["open", "clear", "grounded"])
        self.assertEqual([dot.x for dot in dots], sorted(dot.x for dot in dots))
        self.assertEqual([dot.y for dot in dots], sorted((dot.y for dot in dots), reverse=True))
        self.assertTrue(all(0 < dot.y < TREND[1] and 0 < dot.x < TREND[0] for dot in dots))
        self.assertEqual(draw_offsets([]), ())
