"""Numbers of law by region, against what is published."""

import unittest

from walkround.core.base.errors import InputError
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.pilot.regions import DEFER, REGIONS, region, with_region


class Regions(unittest.TestCase):
    def test_published_numbers(self) -> None:
        """EU and UK 120 m, US 400 ft, 3 statute miles and 500 ft: as in the practice, from memory."""
        self.assertEqual(
            [round(region(r).limits["height_max_m"], 1) for r in ("eu-open", "uk", "us-recreation")], [120, 120, 121.9]
        )
        self.assertEqual(region("uk").limits["people_m"], 50)
        self.assertAlmostEqual(region("us-recreation").limits["visibility_m"], 4828.03, places=1)
        self.assertAlmostEqual(region("us-recreation").limits["cloud_clearance_m"], 152.4)

    def test_every_limit_it_brings_is_one_of_ours_and_within_bounds(self) -> None:
        specs = {spec.name: spec for spec in LIMITS}
        for pack in REGIONS:
            self.assertTrue(pack.source and pack.asks)
            for name, value in pack.limits.items():
                self.assertTrue(specs[name].low <= value <= specs[name].high, f"{pack.id} {name}")
        self.assertIn("prevail", DEFER)

    def test_what_it_does_not_name_stays(self) -> None:
        mine = Limits(wind_ms=5, height_max_m=60)
        after = with_region(mine, "uk")
        self.assertEqual((after.wind_ms, after.height_max_m, after.people_m), (5, 120, 50))
        with self.assertRaises(InputError):
            with_region(mine, "atlantis")
