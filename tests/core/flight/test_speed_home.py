"""Whether it can get home: against hand arithmetic, against a climb by metre steps, and for those that have no return-home."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE, TRAINER, dry_weather, said, variants
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import Level
from walkround.core.field.site import LaunchPlatform, Terrain
from walkround.core.flight.speed_home import (
    gets_home,
    highest_home_m,
    judge_getting_home,
    judge_turn_back,
    strongest_at_ms,
    when_link_lost,
)

OPEN = SITE.model_copy(update={"terrain": Terrain.GRASS})
TEN = dry_weather(wind_height_m=10.0)


def level(wind_ms: float, height_m: float = 10.0, **changes: object) -> Level:
    """The level for an aircraft of 16 m/s against a wind measured 10 m up."""
    (finding,) = judge_getting_home(QUAD, TEN.model_copy(update={"wind_ms": wind_ms, **changes}), OPEN, height_m)
    return finding.level


class Wind(unittest.TestCase):
    def test_thirds_and_halves_of_the_top_speed(self) -> None:
        """16 m/s: half is 8 m/s over the ground, left by 8 m/s of wind; a third is 5.33 m/s, left by 10.67 m/s."""
        self.assertEqual(QUAD.top_speed_ms, 16)
        rows = (
            (0, Level.CLEAR),
            (7.9, Level.CLEAR),
            (8.1, Level.CAUTION),
            (10.6, Level.CAUTION),
            (10.7, Level.GROUNDED),
            (30, Level.GROUNDED),
        )
        for wind, expected in rows:
            self.assertEqual(level(wind), expected, wind)
        self.assertEqual((gets_home(5.34, 16), gets_home(5.33, 16), gets_home(-1, 16)), (True, False, False))
        self.assertTrue(gets_home(4.0, 12.0), "a third exactly is enough")

    def test_the_gust_counts(self) -> None:
        self.assertEqual(level(3, gust_ms=11), Level.GROUNDED)

    def test_stronger_higher_up(self) -> None:
        """Power law over open ground, exponent 0.143 (1/7, the usual one): 9 m/s at 10 m are 9 x 12 ^ 0.143 = 12.8 at 120 m."""
        self.assertAlmostEqual(strongest_at_ms(TEN.model_copy(update={"wind_ms": 9}), OPEN, 120), 12.84, delta=0.35)
        self.assertEqual((level(9), level(9, 120)), (Level.CAUTION, Level.GROUNDED))
        self.assertEqual(strongest_at_ms(None, OPEN, 50), 0.0)
        self.assertEqual(strongest_at_ms(dry_weather(wind_ms=None), OPEN, 50), 0.0)

    def test_said_with_its_numbers(self) -> None:
        rows = (
            (2, "Against 2.0 m/s at 10 m its ground speed home is 14.0 m/s."),
            (9, "Against 9.0 m/s at 10 m its ground speed home is only 7.0 m/s (min 5.3 m/s)."),
            (12, "Against 12.0 m/s at 10 m it cannot get home: ground speed 4.0 m/s (min 5.3 m/s)."),
        )
        for wind, words in rows:
            (finding,) = judge_getting_home(QUAD, TEN.model_copy(update={"wind_ms": wind}), OPEN, 10)
            self.assertEqual(said(finding), words)
            self.assertEqual(bool(finding.remedy), wind > 2)

    def test_a_felt_wind_is_no_measurement(self) -> None:
        """By the trees alone it is a caution at most, unless it would be blown away."""
        felt = TEN.model_copy(update={"wind_ms": 9.0, "felt": 5})
        fast = QUAD.model_copy(update={"top_speed_ms": 14.0})
        found = judge_getting_home(fast, felt, OPEN, 10)
        self.assertEqual([f.level for f in found], [Level.CAUTION])
        middling = QUAD.model_copy(update={"top_speed_ms": 12.0})
        self.assertEqual([f.level for f in judge_getting_home(middling, felt, OPEN, 10)], [Level.CAUTION])
        measured_ = TEN.model_copy(update={"wind_ms": 9.0})
        self.assertEqual([f.level for f in judge_getting_home(middling, measured_, OPEN, 10)], [Level.GROUNDED])
        barely = QUAD.model_copy(update={"top_speed_ms": 9.5})
        self.assertEqual([f.level for f in judge_getting_home(barely, felt, OPEN, 10)], [Level.CAUTION])
        slow = QUAD.model_copy(update={"top_speed_ms": 9.0})
        self.assertEqual([f.level for f in judge_getting_home(slow, felt, OPEN, 10)], [Level.GROUNDED])

    def test_nothing_to_say(self) -> None:
        self.assertEqual(judge_getting_home(QUAD, None, OPEN, 10), ())
        self.assertEqual(judge_getting_home(QUAD, dry_weather(wind_ms=None), OPEN, 10), ())
        self.assertEqual(judge_getting_home(QUAD, TEN, OPEN.model_copy(update={"indoors": True}), 10), ())

    @given(st.floats(0, 14), st.integers(11, 150))
    def test_the_highest_by_steps(self, wind: float, most: int) -> None:
        """Climbing metre by metre until the way home is slowed to care."""
        weather = TEN.model_copy(update={"wind_ms": wind})
        ours = highest_home_m(QUAD, weather, OPEN, 10, most)
        climbed = 10
        while climbed < most and 16 - strongest_at_ms(weather, OPEN, climbed + 1) >= 8:
            climbed += 1
        self.assertEqual(ours, climbed)


class TurnBack(unittest.TestCase):
    def test_early_late_and_never(self) -> None:
        rows = ((34, Level.CLEAR), (32, Level.CAUTION), (30, Level.CAUTION), (29, Level.GROUNDED))
        for set_percent, expected in rows:
            (finding,) = judge_turn_back(set_percent, 30)
            self.assertEqual(finding.level, expected, set_percent)
            self.assertIn("30 %", said(finding))
            self.assertEqual(bool(finding.remedy), expected is not Level.CLEAR)
        (finding,) = judge_turn_back(34, 30)
        self.assertAlmostEqual(finding.margin or 0, 0.04)
        (finding,) = judge_turn_back(99, None)
        self.assertEqual((finding.level, finding.value and finding.value.value), (Level.GROUNDED, 99))


class LostLink(unittest.TestCase):
    def test_only_what_returns_is_said_to_return(self) -> None:
        for aircraft in variants():
            words = when_link_lost(aircraft, SITE)
            with self.subTest(aircraft.name):
                self.assertEqual("has no return to home" in words, not aircraft.has(Trait.RETURN_HOME))
                if aircraft.has(Trait.NO_MOTOR):
                    self.assertNotIn("throttle", words)

    def test_a_glider_turns_gently_down(self) -> None:
        glider = PRESETS["glider"]
        self.assertIn(
            "It has no return to home: the failsafe sets a gentle descending turn.", when_link_lost(glider, SITE)
        )
        self.assertIn("drops or lands", when_link_lost(QUAD.model_copy(update={"traits": frozenset()}), SITE))

    def test_by_where_you_stand(self) -> None:
        for launch_platform, word in (
            (LaunchPlatform.LAND, "return"),
            (LaunchPlatform.MOVING, "hover"),
            (LaunchPlatform.COVER, "do not launch"),
        ):
            self.assertIn(word, when_link_lost(QUAD, SITE.model_copy(update={"launch_platform": launch_platform})))
        self.assertEqual(TRAINER.kind, Kind.WING)
        self.assertIn("cuts the throttle", when_link_lost(TRAINER, SITE))
