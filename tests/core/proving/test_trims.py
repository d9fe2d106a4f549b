"""What trims mean: nose and tail heavy, twist, thrust line; common practice, no source."""

import unittest

from walkround.core.aircraft.proved import Trims
from walkround.core.proving.trims import trim_words


class Words(unittest.TestCase):
    def test_each_axis(self) -> None:
        self.assertEqual(trim_words(Trims()), ())
        self.assertEqual(trim_words(Trims(roll=4, pitch=-4, yaw=0)), ())
        for trims, words in (
            (Trims(roll=-7), "7 clicks of aileron to the left"), (Trims(pitch=6), "nose-heavy"), (Trims(pitch=-6), "tail-heavy"), (Trims(yaw=9), "9 clicks of rudder to the right"),
        ):  # fmt: skip
            (found,) = trim_words(trims)
            self.assertIn(words, found)
