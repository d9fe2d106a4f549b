"""Everything at once for a while (a minute in a deep run): kills, two servers, imports, clock jumps, backups and restores; nothing acknowledged is lost."""

import os
import random
import unittest

from scripts.soak import soak

MINUTES = {"deep": "1"}.get(os.environ.get("WALKROUND_HYPOTHESIS", ""), "0.2")


class Soaked(unittest.TestCase):
    SECONDS_A_TEST = 30
    FILLS_GAPS = False

    def test_what_was_acknowledged_is_there(self) -> None:
        seed = int(os.environ.get("WALKROUND_SOAK_SEED", random.randrange(10**6)))
        tally = soak(float(os.environ.get("WALKROUND_SOAK_MINUTES", MINUTES)), seed)
        self.assertEqual(tally.lost, [], f"seed {seed}")
        self.assertGreater(tally.written, 20, f"seed {seed}: too little was answered to say anything")
        self.assertEqual((tally.busy, tally.refused), (0, 0), f"seed {seed}")
