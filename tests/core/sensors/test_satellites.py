"""Satellites, dilution, rest, age: the three practices at their limits."""

import unittest
from datetime import timedelta

from tests.support import NOW, SITE, said
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.base.geodesy import Position
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.satellites import (
    CountSeen,
    ScreenSeen,
    heading_finding,
    judge_fix,
    judge_screen,
    trend_words,
)

GOOD = Fix(
    satellites=14, hdop=0.9, quality=1, dimensions=3, speed_ms=0.05, position=SITE.position, at=NOW, nmea_lines=9
)


def levels(method: str = "ten", **changes: object) -> dict[str, Level]:
    fix = GOOD.model_copy(update=changes)
    return {f.name: f.level for f in judge_fix(fix, method, SITE.position, NOW)}


class ChosenMethods(unittest.TestCase):
    """10, dilution 2.0 and 1.5, 0.5 m/s: common practice, no source. 4: FAA AC 107-2A, from memory."""

    def test_counts(self) -> None:
        rows = (
            ("ten", 14, 0), ("ten", 11, 0), ("ten", 10, 1), ("ten", 9, 2), ("ten", 4, 2),
            ("four", 5, 0), ("four", 4, 1), ("four", 3, 2), ("ready", 2, 0), ("ready", 14, 0),
        )  # fmt: skip
        for method, count, level in rows:
            with self.subTest(f"{method} {count}"):
                self.assertEqual(levels(method, satellites=count)["Satellites"], level)

    def test_dilution(self) -> None:
        rows = (
            ("ten", 1.49, 0), ("ten", 1.5, 1), ("ten", 1.99, 1), ("ten", 2.0, 2), ("four", 2.4, 2), ("ready", 2.4, 1),
            ("ten", None, 2), ("ready", None, 1),
        )  # fmt: skip
        for method, hdop, level in rows:
            with self.subTest(f"{method} {hdop}"):
                self.assertEqual(levels(method, hdop=hdop)["HDOP"], level)

    def test_rest(self) -> None:
        for speed, level in ((0.0, 0), (0.49, 0), (0.5, 2), (1.2, 2), (None, 1)):
            with self.subTest(speed):
                self.assertEqual(levels(speed_ms=speed)["Speed at rest"], level)

    def test_age(self) -> None:
        for seconds, level in ((1, 0), (11, 1), (61, 2), (64_800, 2), (-30, 0), (-120, 2)):
            with self.subTest(seconds):
                self.assertEqual(levels(at=NOW - timedelta(seconds=seconds))["Age of the fix"], level)
        self.assertEqual(levels(at=None)["Age of the fix"], Level.CAUTION)

    def test_no_fix_is_the_only_word(self) -> None:
        for changes in ({"quality": 0}, {"position": None}):
            self.assertEqual(levels(**changes), {"Fix": Level.GROUNDED})

    def test_no_count_in_the_sentences(self) -> None:
        self.assertEqual(levels(satellites=None)["Satellites"], Level.GROUNDED)

    def test_another_place(self) -> None:
        self.assertNotIn("Place", levels(position=Position(lat_deg=48.21, lon_deg=15.31)))
        self.assertEqual(levels(position=Position(lat_deg=48.3, lon_deg=15.3))["Place"], Level.GROUNDED)

    def test_damaged_lines(self) -> None:
        one = ("line 3: no checksum",)
        self.assertEqual(levels(bad=one, nmea_lines=30)["Damaged lines"], Level.CAUTION)
        self.assertEqual(levels(bad=one * 3)["Damaged lines"], Level.GROUNDED)
        self.assertEqual(levels(bad=one, nmea_lines=30, newest_damaged=True)["Damaged lines"], Level.GROUNDED)

    def test_what_does_not_rest_on_satellites_is_no_fix(self) -> None:
        """Qualities 6, 7 and 8 are estimated, typed in and simulated: NMEA 0183, GGA (from memory)."""
        for quality in range(10):
            found = levels(quality=quality)
            self.assertEqual(found == {"Fix": Level.GROUNDED}, quality not in (1, 2, 3, 4, 5), quality)
        for changes in ({"dimensions": 1}, {"dimensions": 2}, {"void": True}):
            self.assertEqual(levels(**changes), {"Fix": Level.GROUNDED})
        self.assertNotIn("Fix", levels(dimensions=0), "no GSA sentence says nothing against it")

    def test_words(self) -> None:
        found = judge_fix(GOOD.model_copy(update={"satellites": 9}), "ten", SITE.position, NOW)
        self.assertEqual(said(found[0]), "9 satellites in use (min 10).")


class Heading(unittest.TestCase):
    def test_bands(self) -> None:
        for difference, level in ((0, 0), (5, 0), (6, 1), (15, 1), (16, 2), (180, 2)):
            with self.subTest(difference):
                self.assertEqual(heading_finding(difference)[0].level, level)


def screen(*numbers: tuple[float, int], stood: float = 0, hdop: float | None = None) -> ScreenSeen:
    """Numbers as they were shown one after the other."""
    return ScreenSeen(counts=tuple(CountSeen(after_s=at, satellites=n) for at, n in numbers), stood_s=stood, hdop=hdop)


class OnTheScreen(unittest.TestCase):
    """By number or ready light, without any device."""

    def test_a_number_under_each_method(self) -> None:
        for many, method, level in (
            (12, "ten", Level.CLEAR),
            (10, "ten", Level.CAUTION),
            (9, "ten", Level.GROUNDED),
            (5, "four", Level.CLEAR),
            (3, "four", Level.GROUNDED),
            (3, "ready", Level.CLEAR),
        ):
            self.assertIs(judge_screen(screen((0, many)), method)[0].level, level, (many, method))

    def test_hdop_only_where_it_is_shown(self) -> None:
        self.assertEqual([f.name for f in judge_screen(screen((0, 12)), "ten")], ["Satellites"])
        poor = judge_screen(screen((0, 12), hdop=2.4), "ten")
        self.assertEqual([(f.name, f.level) for f in poor], [("Satellites", Level.CLEAR), ("HDOP", Level.GROUNDED)])

    def test_the_ready_light(self) -> None:
        for ready, method, level in (
            (True, "ready", Level.CLEAR), (True, "ten", Level.CAUTION), (False, "ready", Level.GROUNDED), (False, "ten", Level.GROUNDED),
        ):  # fmt: skip
            self.assertIs(judge_screen(ScreenSeen(ready=ready), method)[0].level, level)

    def test_what_the_numbers_do(self) -> None:
        for seen, words in (
            (screen((0, 7)), ""),
            (screen((0, 5), (12, 7), stood=3), "Still climbing: 7."),
            (screen((0, 9), (8, 7), stood=2), "Falling, from 9 to 7."),
            (screen((0, 5), (12, 12), stood=30), "Steady at 12 for 30 s."),
            (screen((0, 5), (12, 7), stood=61), "Stuck at 7 for 61 s: move away from walls and metal, and restart."),
        ):
            self.assertEqual(trend_words(seen, "ten"), words)
        stuck = judge_screen(screen((0, 5), (12, 7), stood=61), "ten")[0]
        self.assertIn("restart", stuck.remedy)
        falling = judge_screen(screen((0, 14), (8, 12), stood=2), "ten")
        self.assertEqual(falling[-1].level, Level.CAUTION)

    def test_nonsense_is_refused(self) -> None:
        for wrong in ({}, {"counts": [{"after_s": 5, "satellites": 4}, {"after_s": 1, "satellites": 5}]}):
            with self.assertRaises(InputError):
                ScreenSeen(**wrong)  # type: ignore[arg-type]
