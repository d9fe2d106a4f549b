"""What a whole reading says at its limits."""

import unittest

from tests.support import NOW, SITE, said
from walkround.core.base.finding import Level
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.rest_rules import fix_spread_m, judge_rest
from walkround.core.sensors.satellites import judge_fix
from walkround.core.sensors.scatter import Rest

GOOD = Fix(
    satellites=14,
    hdop=0.9,
    quality=1,
    dimensions=3,
    speed_ms=0.05,
    position=SITE.position,
    at=NOW,
    nmea_lines=9,
    altitude_m=SITE.elevation_m,
)
STILL = Rest(seconds=20, fixes=20, spread_50_m=0.5, spread_95_m=1.0, speed_most_ms=0.1)


def levels(**rest: object) -> dict[str, Level]:
    return {f.name: f.level for f in judge_rest(GOOD.model_copy(update={"rest": STILL.model_copy(update=rest)}))}


class Rests(unittest.TestCase):
    def test_at_the_limits(self) -> None:
        """3 m is the launch circle (common practice, no source); the rest our choice."""
        for value, level in ((0.5, 0), (3.0, 0), (3.1, 1), (9.9, 1), (10.0, 2)):
            self.assertEqual(levels(spread_95_m=value)["Scatter at rest"], level)
        for value, level in ((3.1, 1), (9.9, 1), (10.0, 2)):
            self.assertEqual(levels(jump_m=value)["Jump"], level)
        self.assertNotIn("Jump", levels(jump_m=3.0))
        self.assertEqual(levels(lost=1)["Fix lost"], Level.CAUTION)

    def test_the_fastest_of_the_minute_counts(self) -> None:
        for speed, level in ((0.2, 0), (0.6, 2)):
            fix = GOOD.model_copy(update={"rest": STILL.model_copy(update={"speed_most_ms": speed})})
            found = {f.name: f.level for f in judge_fix(fix, "ten", SITE.position, NOW)}
            self.assertEqual(found["Speed at rest"], level)

    def test_geometry_height_and_two_receivers(self) -> None:
        def names(**more: object) -> dict[str, Level]:
            return {f.name: f.level for f in judge_rest(GOOD.model_copy(update=more), SITE.elevation_m)}

        self.assertEqual(names(), {})
        self.assertEqual(names(hdop_sky=1.2), {})
        self.assertEqual(names(hdop_sky=1.4), {"Geometry": Level.CAUTION})
        self.assertEqual(names(altitude_m=SITE.elevation_m + 51), {"Height of the fix": Level.CAUTION})
        self.assertEqual(names(receivers=2), {"Receivers": Level.GROUNDED})

    def test_hdop_from_the_sky_where_none_is_reported(self) -> None:
        fix = GOOD.model_copy(update={"hdop": None, "hdop_sky": 2.1})
        found = next(f for f in judge_fix(fix, "ten", SITE.position, NOW) if f.name == "HDOP")
        self.assertEqual(found.level, Level.GROUNDED)
        self.assertIn("2.10", said(found.reason))

    def test_spread(self) -> None:
        """2DRMS: twice HDOP times the range error. With HDOP 1.6 that is the 8 m (95 %) of the SPS Performance Standard (from memory)."""
        self.assertAlmostEqual(fix_spread_m(GOOD.model_copy(update={"hdop": 1.6})) or 0, 8.0)
        self.assertAlmostEqual(
            fix_spread_m(GOOD.model_copy(update={"rest": STILL.model_copy(update={"spread_95_m": 12.0})})) or 0, 12.0
        )
        self.assertIsNone(fix_spread_m(None))
        self.assertIsNone(
            fix_spread_m(GOOD.model_copy(update={"hdop": None, "rest": STILL})), "a quiet minute alone proves nothing"
        )
