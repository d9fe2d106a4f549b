"""A minute of everything at once: kills, two servers, imports, clock jumps, backups and restores; nothing acknowledged is lost."""

import os
import random
import unittest

from scripts.soak import soak


class Soaked(unittest.TestCase):
    def test_what_was_acknowledged_is_there(self) -> None:
        seed = int(os.environ.get("WALKROUND_SOAK_SEED", random.randrange(10**6)))
        tally = soak(float(os.environ.get("WALKROUND_SOAK_MINUTES", "1")), seed)
        self.assertEqual(tally.lost, [], f"seed {seed}")
        self.assertGreater(len(tally.titles), 20, f"seed {seed}: too little was answered to say anything")
        self.assertEqual((tally.busy, tally.refused), (0, 0), f"seed {seed}")
