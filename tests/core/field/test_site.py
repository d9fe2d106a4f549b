"""The field: launch circle, interference, obstacles as typed."""

import unittest

from tests.support import SITE
from walkround.core.field import layout
from walkround.core.field.site import Site, judge_crowd, judge_interference, judge_launch_circle


class Circle(unittest.TestCase):
    def test_three_metres(self) -> None:
        """10 ft (3 m): common practice, no source."""
        for clear, level in ((2.9, 2), (3.0, 1), (3.9, 1), (4.0, 0), (30, 0)):
            with self.subTest(clear):
                self.assertEqual(judge_launch_circle(clear)[0].level, level)

    def test_interference(self) -> None:
        for away, level in ((14, 2), (15, 1), (49, 1), (50, 0)):
            with self.subTest(away):
                self.assertEqual(judge_interference(away)[0].level, level)


class Crowd(unittest.TestCase):
    def test_the_line_against_the_flight(self) -> None:
        """A box from 10 m north on, a line to the south: the gap is the sum, by hand."""
        site = layout.laid(SITE, layout.BOX, [(-20, 10), (20, 10), (20, 40)])
        for south, level in ((15, 2), (21, 1), (30, 0)):
            found = judge_crowd(layout.laid(site, layout.CROWD, [(-30, -south), (30, -south)]), 30)[0]
            self.assertEqual((found.value.value, found.level), (south + 10, level))
        through = layout.laid(site, layout.CROWD, [(-30, 15), (30, 15)])
        self.assertEqual(judge_crowd(through, 30)[0].value.value, 0)
        self.assertEqual(judge_crowd(SITE, 30), ())


class Marks(unittest.TestCase):
    def test_nearest_and_tallest(self) -> None:
        self.assertEqual(SITE.nearest(), SITE.marks[0])
        empty = SITE.model_copy(update={"marks": ()})
        self.assertIsNone(empty.nearest())
        self.assertIsNone(empty.tallest(15))

    def test_what_older_situations_hold_is_still_read(self) -> None:
        """Before plans were drawn a field held a list of obstacles by bearing and distance; signed rounds still do."""
        old = SITE.model_dump(mode="json", exclude={"marks", "launch", "pilot", "box", "crowd"})
        old["obstacles"] = [{"kind": "mast", "bearing_deg": 90, "distance_m": 40, "height_m": 30}]
        mark = Site.model_validate(old).marks[0]
        self.assertEqual((mark.kind.value, mark.height_m, mark.spots[0].xy), ("mast", 30, (40, 0)))
