"""The typical sky against what is published of it."""

import math
import unittest
from datetime import UTC, datetime, timedelta

import numpy as np

from walkround.core.base.geodesy import Position
from walkround.core.sensors.nominal import ORBITS, SIDEREAL_S, looked_at, typical_day, typical_sky
from walkround.core.sensors.sky import Constellation, dilutions

DAY = datetime(2026, 6, 1, tzinfo=UTC)


def at(lat: float, lon: float = 0) -> Position:
    return Position(lat_deg=lat, lon_deg=lon)


class Published(unittest.TestCase):
    def test_availability(self) -> None:
        """GPS alone above 5°: PDOP of 6 or less for at least 98 % of the time over the globe, 88 % at the worst place (SPS Performance Standard, from memory); at least four in view."""
        shares = []
        for lat in range(-80, 81, 20):
            up, round_ = looked_at(
                at(lat, 3.7 * lat), [DAY + timedelta(seconds=SIDEREAL_S * i / 48) for i in range(48)]
            )
            good = 0
            for i in range(48):
                sky = [(float(up[i, j]), float(round_[i, j])) for j in range(24) if up[i, j] >= 5]
                self.assertGreaterEqual(len(sky), 4)
                found = dilutions(sky)
                good += found is not None and found.pdop <= 6
            shares.append(good / 48)
        self.assertGreaterEqual(np.mean(shares), 0.98)
        self.assertGreaterEqual(min(shares), 0.88)

    def test_never_high_over_the_pole_and_none_to_the_north(self) -> None:
        """An orbit tilted by 55° at 26,560 km is seen from the pole up to 45° high: atan((r sin i − R) / (r cos i)), by hand; and from 60° north a gap in the north reaches up to the
        pole: no satellite within 20° of due north above 60°."""
        moments = [DAY + timedelta(minutes=4 * i) for i in range(360)]
        up, _ = looked_at(at(90), moments)
        by_hand = math.degrees(
            math.atan2(26_559.7 * math.sin(math.radians(55)) - 6_371, 26_559.7 * math.cos(math.radians(55)))
        )
        self.assertAlmostEqual(float(up[:, :24].max()), by_hand, delta=0.3)
        up, round_ = looked_at(at(60), moments)
        north = (np.abs((round_ + 180) % 360 - 180) < 20) & (up > 60)
        self.assertFalse(north[:, :24].any())

    def test_the_pattern_comes_again_after_a_sidereal_day(self) -> None:
        """The ground track of GPS repeats every sidereal day: 3 min 56 s earlier each day (common knowledge of the system)."""
        moments = [DAY, DAY + timedelta(seconds=SIDEREAL_S)]
        up, _ = looked_at(at(48, 15), moments)
        np.testing.assert_allclose(up[0, :24], up[1, :24], atol=1e-6)

    def test_planes(self) -> None:
        self.assertEqual([whose for whose, *_ in ORBITS].count(Constellation.GPS), 24)
        self.assertEqual([whose for whose, *_ in ORBITS].count(Constellation.GALILEO), 24)


class Day(unittest.TestCase):
    def test_more_hidden_is_never_better(self) -> None:
        place = at(48, 15)
        before = typical_day(place, DAY, lambda b: np.full_like(b, 10.0))
        for low in (20, 35, 50, 65):
            after = typical_day(place, DAY, lambda b, low=low: np.full_like(b, float(low)))
            self.assertLessEqual(after.satellites, before.satellites)
            self.assertGreaterEqual(after.hdop, before.hdop)
            self.assertGreaterEqual(after.hdop_worst, after.hdop)
            before = after
        none = typical_day(place, DAY, lambda b: np.full_like(b, 90.0))
        self.assertEqual((none.satellites, none.hdop), (0, math.inf))

    def test_a_moment(self) -> None:
        sky = typical_sky(at(48, 15), DAY, 10)
        self.assertTrue(all((one.elevation_deg or 0) >= 10 for one in sky))
        self.assertGreaterEqual(len(sky), 9)
