"""Numbers against the bands of their check."""

import unittest

from tests.core.round.test_judge import found
from tests.support import TRAINER, said, situation
from walkround.core.answers.number import Band, Measured, half_width, judge_band
from walkround.core.base.finding import Level
from walkround.core.base.units import Measure


class Bands(unittest.TestCase):
    def test_half_of_what_lies_between_the_inner_bounds(self) -> None:
        """By hand: between 20 and 30 lies 10, half of it 5; a band with one side has no middle."""
        rows = (
            (Band(ground_below=10, caution_below=20, caution_above=30, ground_above=40), 5),
            (Band(ground_below=10, ground_above=40), 15),
            (Band(caution_below=20, ground_above=40), 10),
            (Band(ground_below=10), None),
            (Band(caution_above=10), None),
        )
        for band, half in rows:
            self.assertEqual(half_width(band), half)

    def test_words_of_a_band_that_brings_none(self) -> None:
        band = Band(ground_below=10, ground_above=40, good="{value} is fine.")
        for value, words in ((9, "9 is below 10."), (41, "41 is above 40."), (20, "20 is fine.")):
            self.assertEqual(said(judge_band(value, Measure.COUNT, "It", band)), words)
        both = Band(ground_below=10, caution_below=20, low="{value} of {limit}.", good="good")
        self.assertEqual(said(judge_band(15, Measure.COUNT, "It", both)), "15 of 20.")


class TwoSided(unittest.TestCase):
    def test_the_middle_of_a_band_is_as_far_from_biting_as_can_be(self) -> None:
        # By hand: between 72 and 80 mm, 76 is the middle, 74 half way to the edge, 72 at it, 70 half a width over.
        for value, margin in ((76, 1), (74, 0.5), (78, 0.5), (72, 0), (80, 0), (70, -0.5), (84, -1)):
            (finding,) = found("airframe.cg", Measured(value=value), situation(TRAINER))
            self.assertAlmostEqual(finding.margin, margin, places=9, msg=str(value))

    def test_with_care_inside_and_ground_outside(self) -> None:
        # The alarm of a lithium-polymer pack: care outside 3.5 to 4.0 V, ground below 3.3 V.
        for value, level, margin in (
            (3.75, Level.CLEAR, 1),
            (3.625, Level.CLEAR, 0.5),
            (3.375, Level.CAUTION, -0.5),
            (3.175, Level.GROUNDED, -0.5),
        ):
            (finding,) = found("pack.alarm", Measured(value=value))
            self.assertEqual(finding.level, level)
            self.assertAlmostEqual(finding.margin, margin, places=9, msg=str(value))
