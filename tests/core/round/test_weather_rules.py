"""The weather against the limits: precipitation, computed cloud base, felt wind, gaps and age, each at its edge."""

import unittest
from datetime import timedelta

from tests.support import NOW, QUAD, SITE, dry_weather, said, situation
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Finding, Level
from walkround.core.round.situation import Situation
from walkround.core.round.weather_rules import STALE_CAUTION_MIN, STALE_GROUND_MIN, judge_weather
from walkround.core.weather.groups import phenomenon
from walkround.core.weather.weather import BY_HAND

CASE = situation()


def named(name: str, case: Situation = CASE, top_m: float | None = None, **changes: object) -> Finding | None:
    found = judge_weather(dry_weather(**changes), case, NOW, top_m)
    return next((f for f in found if f.name == name), None)


class Precipitation(unittest.TestCase):
    def told(self, *codes: str, case: Situation = CASE) -> tuple[Level, str, bool]:
        finding = named("Precipitation", case, phenomena=tuple(phenomenon(code) for code in codes))
        assert finding is not None
        return finding.level, said(finding), bool(finding.remedy)

    def test_each_kind(self) -> None:
        rows = (
            ((), Level.CLEAR, "No precipitation."), (("BR",), Level.CLEAR, "Reported: mist."),
            (("TS",), Level.GROUNDED, "Reported: thunderstorm. Lightning reaches far."), (("VCTS",), Level.GROUNDED, "Reported: thunderstorm nearby. Lightning reaches far."),
            (("SQ",), Level.GROUNDED, "Reported: squalls."), (("VA",), Level.GROUNDED, "Reported: volcanic ash."),
            (("FZFG",), Level.GROUNDED, "Reported: freezing fog. Icing destroys lift."),
            (("-RA",), Level.GROUNDED, "Reported: light rain. This aircraft is not sealed against rain."),
            (("VCSH",), Level.CAUTION, "Reported: showers nearby."), (("BLSA",), Level.CAUTION, "Reported: blowing sand."),
            (("BR", "-DZ"), Level.GROUNDED, "Reported: mist, light drizzle. This aircraft is not sealed against rain."),
        )  # fmt: skip
        for codes, level, words in rows:
            with self.subTest(codes):
                self.assertEqual(self.told(*codes), (level, words, level is not Level.CLEAR))

    def test_a_sealed_aircraft(self) -> None:
        sealed = situation(QUAD.model_copy(update={"traits": QUAD.traits | {Trait.SEALED}}))
        self.assertEqual(self.told("-RA", case=sealed)[0], Level.CAUTION)
        self.assertEqual(self.told("FZRA", case=sealed)[0], Level.GROUNDED)


class Wind(unittest.TestCase):
    def test_felt_wind_is_a_range(self) -> None:
        """Force 4 is 5.5 to 7.9 m/s: over a limit of 6 from its middle on is a caution, over one of 5 from its lower end on grounds."""
        for limit, level in (
            (9.5, Level.CLEAR),
            (7.9, Level.CAUTION),
            (6.0, Level.CAUTION),
            (5.5, Level.CAUTION),
            (5.4, Level.GROUNDED),
        ):
            case = situation(QUAD.model_copy(update={"wind_max_ms": limit}))
            finding = named("Wind", case, wind_ms=7.9, felt=4)
            assert finding is not None
            with self.subTest(limit):
                self.assertEqual(finding.level, level)
                if level is Level.CAUTION:
                    self.assertIn("measure the wind", finding.remedy)

    def test_aloft_an_estimate_asks_for_a_meter(self) -> None:
        """Over open grass the seventh root: at 100 m half as much again and more than at 10 m."""
        case = situation(QUAD.model_copy(update={"wind_max_ms": 9.0}))
        for felt, level in ((4, Level.CAUTION), (6, Level.GROUNDED)):
            wind = {4: 7.9, 6: 13.8}[felt]
            finding = named("Wind aloft", case, 100, wind_ms=wind, felt=felt, wind_height_m=10.0)
            assert finding is not None
            self.assertEqual(finding.level, level, felt)
            self.assertEqual("measure the wind" in finding.remedy, level is Level.CAUTION)
        metered = named("Wind aloft", case, 100, wind_ms=7.9, wind_height_m=10.0)
        assert metered is not None
        self.assertEqual(metered.level, Level.GROUNDED)
        self.assertNotIn("measure", metered.remedy)

    def test_half_as_high_is_said(self) -> None:
        """At 40 m over grass 3 m/s from 10 m up is 3 x 4 ^ (1/7) = 3.66; at 20 m 3 x 2 ^ (1/7) = 3.31."""
        finding = named("Wind aloft", CASE, 40, wind_ms=3.0, wind_height_m=10.0)
        assert finding is not None
        self.assertIn("3.7 m/s (3.3 m/s at half that height)", said(finding))

    def test_words_at_the_limit(self) -> None:
        limit = CASE.limits.wind_ms
        for wind, words in (
            (limit, "is close to your limit"),
            (limit + 0.1, "is over your limit"),
            (limit / 2, "is well below"),
        ):
            finding = named("Wind", wind_ms=wind)
            assert finding is not None
            self.assertIn(words, said(finding))


class Cloud(unittest.TestCase):
    def test_by_the_dew_point(self) -> None:
        """125 m for each °C: 15 over 7 °C is 1,000 m, 15 over 14 is 125 m, less than 40 m and 152 m of clearance."""
        for dew, metres, level in ((7, 1000, Level.CLEAR), (14, 125, Level.CAUTION), (15, 0, Level.CAUTION)):
            finding = named("Cloud base", CASE, 40, temperature_c=15, dew_point_c=dew, ceiling_known=False)
            assert finding is not None and finding.value is not None
            self.assertEqual((finding.value.value, finding.level), (metres, level))
        self.assertIsNone(named("Cloud base", temperature_c=None, ceiling_known=False))
        self.assertIsNone(named("Cloud base", dew_point_c=None, ceiling_known=False))
        self.assertIsNone(named("Cloud base", ceiling_known=True))


class Reliability(unittest.TestCase):
    def test_a_report_from_ahead_of_the_clock_is_never_fresh(self) -> None:
        for ahead_min in (11, 60, 24 * 60):
            with self.subTest(ahead_min):
                finding = named("Age of the report", at=NOW + timedelta(minutes=ahead_min))
                self.assertEqual(finding.level, Level.GROUNDED)
                self.assertIn("ahead of the clock", str(finding.reason))

    def test_age(self) -> None:
        for age, level, limit in (
            (STALE_CAUTION_MIN, None, 0),
            (76, Level.CAUTION, 75),
            (STALE_GROUND_MIN, Level.CAUTION, 75),
            (181, Level.GROUNDED, 180),
        ):
            finding = named("Age of the report", at=NOW - timedelta(minutes=age))
            with self.subTest(age):
                self.assertEqual(finding and finding.level, level)
                if finding is not None and finding.limit is not None:
                    self.assertEqual(finding.limit.value, limit)

    def test_gaps(self) -> None:
        rows = (
            ({"missing": ("pressure",)}, Level.CAUTION), ({"missing": ("cloud",)}, Level.CAUTION), ({"missing": ("visibility",)}, Level.GROUNDED),
            ({"missing": ("temperature",)}, Level.GROUNDED), ({"missing": ("time", "cloud")}, Level.GROUNDED), ({"unread": ("24X08KT",)}, Level.GROUNDED),
            ({"notes": ("towering cloud reported",)}, Level.CAUTION), ({"missing": ("visibility",), "text": BY_HAND}, Level.CAUTION),
        )  # fmt: skip
        for changes, level in rows:
            finding = named("Not read", **changes)
            assert finding is not None
            with self.subTest(changes):
                self.assertEqual(finding.level, level)
                for word in (*changes.get("missing", ()), *changes.get("unread", ())):
                    self.assertIn(word, said(finding))
        self.assertIsNone(named("Not read"))
        noted = named("Not read", notes=("towering cloud reported",))
        assert noted is not None
        self.assertEqual(said(noted), "Towering cloud reported.")

    def test_indoors_only_the_air(self) -> None:
        hall = situation(site=SITE.model_copy(update={"indoors": True}))
        names = {f.name for f in judge_weather(dry_weather(wind_ms=30, phenomena=(phenomenon("TS"),)), hall, NOW)}
        self.assertFalse(names & {"Wind", "Precipitation", "Visibility", "Wind aloft", "Not read"})
