"""Damage drawn: inside its frame, and what is wrong is always there."""

import re
import unittest

from walkround.web.drawings.damage import DRAWN


class Drawn(unittest.TestCase):
    def test_everything_is_inside_its_frame(self) -> None:
        """Absolute points of every path lie within 48 by 30 units, with a little air for a line."""
        for kind, drawn in DRAWN.items():
            self.assertTrue(drawn.mark and drawn.good, kind)
            for path in (drawn.good, drawn.bad, drawn.mark):
                absolute = re.sub(r"[ahv][^MLCHVAZ]*", " ", path)
                points = re.findall(r"(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)", absolute)
                self.assertTrue(all(0 <= float(x) <= 48 and -1 <= float(y) <= 31 for x, y in points), (kind, points))
