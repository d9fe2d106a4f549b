"""The field: launch circle, interference, obstacles as typed."""

import unittest

from tests.support import SITE
from walkround.core.errors import InputError
from walkround.core.site import judge_interference, judge_launch_circle, parse_obstacle


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


class Obstacles(unittest.TestCase):
    def test_nearest_and_tallest(self) -> None:
        self.assertEqual(SITE.nearest(), SITE.obstacles[0])
        empty = SITE.model_copy(update={"obstacles": ()})
        self.assertIsNone(empty.nearest())
        self.assertIsNone(empty.tallest(15))

    def test_full_turn_is_north(self) -> None:
        self.assertEqual(parse_obstacle("tree", 360, 10, 5).bearing_deg, 0)

    def test_mistakes(self) -> None:
        rows = (
            ("castle", 10, 10, 5, "obstacle_kind"),
            ("tree", 361, 10, 5, "obstacle_bearing"),
            ("tree", 10, -1, 5, "obstacle_distance"),
            ("tree", 10, 10, 0, "obstacle_height"),
        )
        for kind, bearing, away, tall, field in rows:
            with self.subTest(field), self.assertRaises(InputError) as caught:
                parse_obstacle(kind, bearing, away, tall)
            self.assertEqual(caught.exception.field, field)
