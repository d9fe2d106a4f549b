"""The hours ahead: the same rules as now, slots found by trying them all, limits moved for real, series read."""

import json
import math
import unittest
from datetime import UTC, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE, dry_weather, situation
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.field.sun import judge_daylight, sun_height_deg
from walkround.core.flight.speed_home import judge_getting_home
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.round import window as core_window
from walkround.core.round.weather_rules import judge_weather
from walkround.core.round.window import COMFORTABLE, FIELDS, ROWS, parse_series
from walkround.core.weather.weather import HAND_PHENOMENA, Weather

NOON = datetime(2026, 5, 16, 8, 0, tzinfo=UTC)
BASE = situation()


def hour(i: int, wind: float = 3.0, **changes: object) -> Weather:
    values = {"at": NOON + timedelta(hours=i), "wind_ms": wind, "gust_ms": None, **changes}
    return dry_weather().model_copy(update=values)


def window(series, situation_, planned):  # type: ignore[no-untyped-def]
    """Hours of which one thing is known each."""
    return core_window.window([(weather,) for weather in series], situation_, planned)


WINDS = st.lists(st.floats(0, 12), min_size=1, max_size=10)


class Hours(unittest.TestCase):
    def test_each_hour_is_judged_as_now_would_be(self) -> None:
        """The rules of the moment, asked again for that moment: same levels, same margins."""
        series = [hour(0), hour(1, 9), hour(2, 5, phenomena=HAND_PHENOMENA["rain"]), hour(3, 2, visibility_m=900.0)]
        found = window(series, BASE, 60)
        for weather, judged in zip(series, found.hours, strict=True):
            then = BASE.model_copy(update={"now": weather.at})
            direct = {f.name: f for f in judge_weather(weather, then)}
            direct |= {f.name: f for f in judge_getting_home(then.aircraft, weather, SITE, SITE.flight_height_m)}
            ends = [sun_height_deg(SITE.position, weather.at + timedelta(hours=i)) for i in (0, 1)]
            direct |= {f.name: f for f in judge_daylight(min(ends))}
            self.assertEqual(judged.found, tuple(direct.get(name) for name in found.rows))
            self.assertEqual(judged.level, max(direct[n].level for n in found.rows if n in direct))

    def test_night_grounds_and_the_tightest_is_named(self) -> None:
        found = window([hour(0), hour(14)], BASE, 60)
        self.assertEqual([h.level for h in found.hours], [Level.CLEAR, Level.GROUNDED])
        self.assertEqual(found.hours[1].limiting, "Daylight")
        self.assertEqual(set(found.rows) - set(ROWS), set())


class Slots(unittest.TestCase):
    @given(WINDS, st.sampled_from([30.0, 60.0, 90.0, 180.0]))
    def test_the_best_slot_against_trying_all(self, winds: list[float], planned: float) -> None:
        found = window([hour(i, w) for i, w in enumerate(winds)], BASE, planned)
        need = max(1, math.ceil(planned / 60))
        tries = []
        for start in range(len(winds) - need + 1):
            run = found.hours[start : start + need]
            worst, margin = max(h.level for h in run), min(h.margin for h in run)
            if worst is not Level.GROUNDED:
                tries.append((worst, -min(COMFORTABLE, round(margin, 2)), start))
        if not tries:
            self.assertIsNone(found.best)
            return
        assert found.best is not None
        self.assertEqual(found.best.begin, NOON + timedelta(hours=min(tries)[2]))
        self.assertEqual(found.best.end - found.best.begin, timedelta(hours=need))

    @given(WINDS)
    def test_slots_are_exactly_the_hours_that_nothing_grounds(self, winds: list[float]) -> None:
        found = window([hour(i, w) for i, w in enumerate(winds)], BASE, 60)
        inside = [
            any(s.begin <= h.at < s.end for s in found.slots)
            for h in found.hours
        ]  # fmt: skip
        self.assertEqual(inside, [h.level is not Level.GROUNDED for h in found.hours])
        for one, other in zip(found.slots, found.slots[1:], strict=False):
            self.assertLess(one.end, other.begin)

    def test_hours_needed_for_the_plan(self) -> None:
        """A started hour counts whole: 60 minutes are one, a minute more is two, none at all is still one."""
        series = [hour(i) for i in range(4)]
        for minutes, hours in ((0.5, 1), (59.9, 1), (60, 1), (60.1, 2), (61, 2), (120, 2), (121, 3)):
            best = window(series, BASE, minutes).best
            assert best is not None
            self.assertEqual(best.end - best.begin, timedelta(hours=hours), minutes)
        self.assertIsNone(window(series, BASE, 241).best)
        self.assertIsNotNone(window(series, BASE, 240).best)

    def test_a_slot_tells_its_worst_hour(self) -> None:
        found = window([hour(0, 2), hour(1, 5.2), hour(2, 3)], BASE, 60)
        (slot,) = found.slots
        worst = found.hours[1]
        self.assertEqual((slot.level, slot.limiting, slot.margin), (worst.level, worst.limiting, worst.margin))
        self.assertEqual((slot.begin, slot.end), (NOON, NOON + timedelta(hours=3)))
        self.assertIs(slot.level, Level.GROUNDED if worst.level is Level.GROUNDED else Level.CAUTION)

    def test_clear_before_careful_comfort_before_soon(self) -> None:
        """Past a margin of 0.4 sooner is better than wider; below it the wider counts."""

        def best(*winds: float) -> timedelta:
            found = window([hour(i, w) for i, w in enumerate(winds)], BASE, 60).best
            assert found is not None
            return found.begin - NOON

        self.assertEqual(best(1.0, 0.5), timedelta(0), "both comfortable: the first")
        self.assertEqual(best(4.9, 4.5), timedelta(hours=1), "the wider of two that are not")
        careful = window([hour(0, 5.2), hour(1, 4.0)], BASE, 60)
        self.assertEqual([h.level for h in careful.hours], [Level.CAUTION, Level.CLEAR])
        assert careful.best is not None
        self.assertEqual(careful.best.begin, careful.hours[1].at)

    def test_of_what_may_hold_the_worst_counts_and_the_darker_end(self) -> None:
        calm, windy, wet = hour(0, 1), hour(0, 9), hour(0, 1, phenomena=HAND_PHENOMENA["rain"])
        for order in ((calm, windy, wet), (wet, windy, calm)):
            (both,) = core_window.window([order], BASE, 60).hours
            by_row = dict(zip(core_window.window([order], BASE, 60).rows, both.found, strict=True))
            self.assertIs(by_row["Wind"].level, Level.GROUNDED)
            self.assertIs(by_row["Precipitation"].level, Level.GROUNDED)
        evening = datetime(2026, 5, 16, 17, 50, tzinfo=UTC)
        (late,) = window([hour(0).model_copy(update={"at": evening})], BASE, 60).hours
        self.assertAlmostEqual(late.sun_deg, sun_height_deg(SITE.position, evening + timedelta(hours=1)))
        dawn = datetime(2026, 5, 16, 3, 30, tzinfo=UTC)
        (early,) = window([hour(0).model_copy(update={"at": dawn})], BASE, 60).hours
        self.assertAlmostEqual(early.sun_deg, sun_height_deg(SITE.position, dawn))
        hall = situation(site=SITE.model_copy(update={"indoors": True}))
        self.assertNotIn("Daylight", window([hour(14)], hall, 60).rows)

    def test_civil_twilight(self) -> None:
        """Six degrees below the horizon: its definition."""
        self.assertEqual([core_window.is_dark(x) for x in (-6.01, -6.0, 0.0)], [True, False, False])

    def test_a_gap_in_the_series_is_no_slot(self) -> None:
        found = window([hour(0), hour(2)], BASE, 120)
        self.assertIsNone(found.best)
        self.assertEqual(len(found.slots), 2)


class Moved(unittest.TestCase):
    @given(st.lists(st.floats(6.8, 8.4), min_size=1, max_size=6))
    def test_moving_the_limit_frees_those_hours(self, gusts: list[float]) -> None:
        """The gust alone grounds: with the limit it names, and the limit really moved, as many hours more are free."""
        series = [hour(i, 2.0, gust_ms=g) for i, g in enumerate(gusts)]
        found = window(series, BASE, 60)
        self.assertEqual([m.row for m in found.moved], ["Gust"])
        moved = found.moved[0]
        wide = BASE.model_copy(update={"limits": Limits(wind_ms=moved.wanted.value + 1e-9)})
        again = window(series, wide, 60)
        freed = sum(h.level is not Level.GROUNDED for h in again.hours)
        self.assertEqual(freed - sum(h.level is not Level.GROUNDED for h in found.hours), moved.hours)

    def test_each_limit_that_grounds_alone_the_most_hours_first(self) -> None:
        """By hand: visibility alone grounds two hours (worst 2,000 m), the gust alone one; where both ground, neither does alone."""
        series = [
            hour(0, 2, visibility_m=2500.0), hour(1, 2, visibility_m=2000.0), hour(2, 2, gust_ms=8.0),
            hour(3, 2, gust_ms=8.5, visibility_m=1000.0), hour(4, 2),
        ]  # fmt: skip
        found = window(series, BASE, 60)
        self.assertEqual([(m.row, m.hours) for m in found.moved], [("Visibility", 2), ("Gust", 1)])
        self.assertEqual([m.wanted.value for m in found.moved], [2000, 8.0])

    def test_what_cannot_be_moved_is_not_offered(self) -> None:
        found = window([hour(14), hour(0, 2, phenomena=HAND_PHENOMENA["thunder"])], BASE, 60)
        self.assertEqual(found.moved, ())

    def test_limits_named_are_the_pilots(self) -> None:
        found = window([hour(0, 2, visibility_m=2000.0)], BASE, 60)
        self.assertEqual(
            found.moved[0].limit.value, next(spec.default for spec in LIMITS if spec.name == "visibility_m")
        )


class Series(unittest.TestCase):
    ROW = {"at": "2026-05-16T09:00+02:00", "wind_ms": 3, "temperature_c": 14}

    def test_json_and_csv_say_the_same(self) -> None:
        row = {**self.ROW, "gust_ms": 5.5, "wind_from_deg": 240, "visibility_m": 20000, "ceiling_m": 900, "dew_point_c": 7,
               "qnh_hpa": 1016, "sky": "drizzle"}  # fmt: skip
        names = ("at", *FIELDS, "sky")
        csv_text = ",".join(names) + "\n" + ",".join(str(row[n]) for n in names)
        semicolons = ";".join(names) + "\n" + ";".join(str(row[n]).replace(".", ",") for n in names)
        texts = (json.dumps({"hours": [row]}), json.dumps([row]), csv_text, semicolons)
        found = [parse_series(text) for text in texts]
        for other in found[1:]:
            self.assertEqual(other, found[0])
        weather = found[0][0]
        self.assertEqual((weather.wind_ms, weather.gust_ms, weather.wind_height_m), (3, 5.5, 10))
        self.assertTrue(weather.phenomena and weather.phenomena[0].precipitation)

    def test_a_forecast_or_a_series(self) -> None:
        forecast = "TAF ZZAA 160500Z 1606/1612 23006KT 9999 FEW030"
        ahead = core_window.parse_ahead(f"  {forecast.lower()}", datetime(2026, 5, 16, 6, 10, tzinfo=UTC))
        self.assertGreater(len(ahead), 3)
        series = core_window.parse_ahead(json.dumps([self.ROW]), NOON)
        self.assertEqual([len(may_hold) for may_hold in series], [1])

    def test_what_is_not_said_is_missing(self) -> None:
        (bare,) = parse_series(json.dumps([self.ROW]))
        self.assertEqual((bare.missing, bare.phenomena, bare.text, bare.wind_height_m),
                         (("visibility", "present weather", "pressure"), None, "hourly series", 10))  # fmt: skip
        (said_,) = parse_series(
            json.dumps([{**self.ROW, "visibility_m": 9000, "sky": "dry", "qnh_hpa": 1010, "gust_ms": " "}])
        )
        self.assertEqual((said_.missing, said_.phenomena, said_.gust_ms), ((), (), None))

    def test_seventy_two_hours_fit(self) -> None:
        rows = [{**self.ROW, "at": (NOON + timedelta(hours=i)).isoformat()} for i in range(73)]
        self.assertEqual(len(parse_series(json.dumps(rows[:72]))), 72)
        with self.assertRaises(InputError):
            parse_series(json.dumps(rows))
        for text, words in (
            ("3", "It contains no hours"),
            ("[3]", "no list of hours"),
            ('{"hours": [3]}', "no list of hours"),
        ):
            with self.assertRaises(InputError) as caught:
                parse_series(text)
            self.assertIn(words, caught.exception.message)
        with self.assertRaises(InputError) as caught:
            parse_series(json.dumps([rows[1], rows[0]]))
        self.assertIn("Hour 2", caught.exception.message)

    def test_mistakes(self) -> None:
        rows = (
            ("", "Paste hourly weather"),
            ("{", "damaged"),
            ('{"hours": 4}', "no list of hours"),
            ("[]", "It contains no hours"),
            (json.dumps([{**self.ROW, "at": "noon"}]), "Hour 1: “noon” is not a time"),
            (json.dumps([{**self.ROW, "at": "2026-05-16T09:00"}]), "has no time zone"),
            (json.dumps([{**self.ROW, "wind_ms": None}]), "wind_ms and temperature_c are needed"),
            (json.dumps([{**self.ROW, "wind_ms": 400}]), "That wind speed is not plausible. Check the unit"),
            (
                json.dumps([{**self.ROW, "gust_ms": 1}]),
                "A gust cannot be below the mean wind. Leave it empty when there are",
            ),
            (json.dumps([{**self.ROW, "dew_point_c": 30}]), "dew point"),
            (json.dumps([{**self.ROW, "sky": "frogs"}]), "Choose the present weather"),
            (json.dumps([{**self.ROW, "wind_ms": "strong"}]), "is not a number"),
            (json.dumps([self.ROW, self.ROW]), "Hour 2 is not later than"),
            (json.dumps([self.ROW] * 80), "more than the 72"),
        )
        for text, words in rows:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                parse_series(text)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "series")

    @given(st.text(max_size=60))
    def test_any_text_is_a_series_or_a_mistake_in_words(self, text: str) -> None:
        try:
            parse_series(text)
        except InputError as error:
            self.assertEqual(error.field, "series")


class Unsaid(unittest.TestCase):
    def test_what_an_hour_leaves_out_is_never_clear(self) -> None:
        """Each column left out alone: visibility grounds, sky and pressure are care, and no row of that name is clear."""
        whole = {
            "at": "2026-05-16T10:00+02:00",
            "wind_ms": 3,
            "temperature_c": 14,
            "visibility_m": 9000,
            "qnh_hpa": 1016,
            "sky": "dry",
        }
        for left_out, level, row in (
            ("", Level.CLEAR, ""), ("visibility_m", Level.GROUNDED, "Visibility"), ("sky", Level.CAUTION, "Precipitation"), ("qnh_hpa", Level.CAUTION, ""),
        ):  # fmt: skip
            series = tuple((w,) for w in parse_series(json.dumps([{k: v for k, v in whole.items() if k != left_out}])))
            found = core_window.window(series, situation(), 60)
            with self.subTest(left_out):
                self.assertEqual(found.hours[0].level, level)
                self.assertNotIn(row, found.rows)
