"""The landing circle by its numbers."""

import unittest

from tests.support import SITE
from walkround.core.field.marks import MarkKind, mark_at
from walkround.web.drawings.landing import draw_landing


class Landing(unittest.TestCase):
    def test_home_and_ring_lie_in_the_picture(self) -> None:
        for off, toward in ((0.0, None), (6.0, 45.0), (80.0, 200.0)):
            drawn = draw_landing(SITE, 5.0, 7.0, off, toward)
            for value in (drawn.home_x, drawn.home_y):
                self.assertLessEqual(abs(value) + drawn.spread_m, drawn.half_m)
        self.assertEqual((drawn.clear_m, drawn.spread_m), (7.0, 5.0))

    def test_east_is_right_and_what_is_far_is_left_out(self) -> None:
        site = SITE.model_copy(
            update={
                "marks": (
                    mark_at(MarkKind.TREE, 90, 8, 10, origin=SITE.launch.xy, number=1),
                    mark_at(MarkKind.TREE, 0, 300, 10, number=2),
                )
            }
        )
        drawn = draw_landing(site, 4.0, None, None, None)
        self.assertEqual([(t.x, t.y, t.words) for t in drawn.near], [(8.0, 0.0, "tree")])
