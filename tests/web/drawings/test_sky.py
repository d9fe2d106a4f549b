"""The sky plot and the scatter by their numbers."""

import unittest

from walkround.core.field.marks import spot
from walkround.core.field.sky_mask import SECTORS, SkyMask
from walkround.core.sensors.scatter import Rest
from walkround.core.sensors.sky import Constellation, SkySatellite
from walkround.web.drawings.sky import draw_scatter, draw_sky


def one(elevation: float | None, bearing: float | None, *, used: bool = True) -> SkySatellite:
    return SkySatellite(whose=Constellation.GPS, number=5, elevation_deg=elevation, bearing_deg=bearing, used=used)


class Sky(unittest.TestCase):
    def test_places(self) -> None:
        """Straight up in the middle, the horizon at 100, east to the right and north at the top."""
        drawn = draw_sky([one(90, 10), one(0, 90), one(45, 0), one(None, None)])
        self.assertEqual([(d.x, d.y) for d in drawn.dots], [(0, 0), (100, 0), (0, -50)])
        self.assertEqual(drawn.counts[0][1:], ("GPS", 4, 4))
        self.assertEqual(drawn.mask, "")

    def test_a_hidden_one_is_never_used_on_a_typical_sky(self) -> None:
        mask = SkyMask(at=spot((0, 0)), hidden_deg=(40.0,) * (SECTORS // 2) + (0.0,) * (SECTORS // 2), open_percent=60)
        drawn = draw_sky([one(39, 90), one(41, 90), one(39, 270), one(9, 270)], mask, all_used=True)
        self.assertEqual([d.used for d in drawn.dots], [False, True, True, False])
        self.assertIn("2 of 4", drawn.words)


class Scatter(unittest.TestCase):
    def test_everything_lies_in_the_picture(self) -> None:
        self.assertIsNone(draw_scatter(Rest(seconds=3, fixes=3)))
        rest = Rest(
            seconds=20,
            fixes=20,
            spread_50_m=2,
            spread_95_m=6,
            long_m=7,
            wide_m=2,
            along_deg=90,
            spots=((1, 2), (-7.5, 0)),
        )
        drawn = draw_scatter(rest)
        assert drawn is not None
        self.assertGreater(drawn.half_m, 7.5)
        self.assertEqual((drawn.turn_deg, drawn.dots[0]), (0, (1, -2)))
