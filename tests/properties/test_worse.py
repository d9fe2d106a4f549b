"""Worse never reads better: one table of inputs, tested on the rule of each with all else fixed, then on the verdict."""

import unittest
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import NOW, PLAIN_PACK, QUAD, SITE, dry_weather, piece, situation, with_history
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.fix import FixRead
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Measured
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.checklist.library import CHECKS
from walkround.core.field.site import Terrain
from walkround.core.packs.reading import CellReading
from walkround.core.pilot.limits import Limits
from walkround.core.round.context import Context
from walkround.core.round.judge import judge
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.situation import Situation
from walkround.core.round.walk import walk
from walkround.core.sensors.nmea import Fix
from walkround.core.weather.weather import Weather
from walkround.demo.walker import walked_evidence

BY_ID = {check.id: check for check in CHECKS}
LIMITS = Limits(wind_ms=6.7)


@dataclass(frozen=True)
class Row:
    """An input: its interval in inside units, which way is worse, the one rule it is tested on (the finding's name), and what
    the rule finds for a value. ``answer``: how the value enters a whole round; None: not as an answer. ``but``: why the
    verdict as a whole is left out."""

    name: str
    low: float
    high: float
    worse: int
    rule: str
    find: Callable[[float], tuple[Finding, ...]]
    answer: Callable[[float], tuple[str, Answer]] | None = None
    case: Callable[[float], Situation] | None = None
    but: str = ""


def sky(**changes: object) -> tuple[Finding, ...]:
    return readiness(Context(situation(weather=dry_weather(**changes)), {}), NOW, only=(Subject.WEATHER, Subject.HOME))


def reading(check_id: str, answer: Answer, case: Situation | None = None) -> tuple[Finding, ...]:
    return judge(BY_ID[check_id], piece(check_id, answer), Context(case or situation(), {}))


def cells(volts: float) -> CellsRead:
    return CellsRead(reading=CellReading(cells_v=(4.2, 4.2, volts), total_v=8.4 + volts))


def fix(**changes: object) -> FixRead:
    good = {"satellites": 14, "hdop": 0.9, "quality": 1, "dimensions": 3, "speed_ms": 0.05, "position": SITE.position,
            "at": NOW, "nmea_lines": 9}  # fmt: skip
    return FixRead(fix=Fix(**{**good, **changes}))


def report(**changes: object) -> tuple[str, Answer]:
    weather: Weather = dry_weather(**changes)
    return "sky.weather", WeatherRead(weather=weather)


def lit(hours: float) -> tuple[Finding, ...]:
    """The light so many hours after noon at the field, for the light rule alone."""
    noon = NOW.replace(hour=11, minute=0)
    return readiness(Context(situation(), {}), noon + timedelta(hours=hours), 10, only=(Subject.LIGHT,))


def lined(away_m: float) -> Situation:
    from walkround.core.field import field_editor

    south = SITE.flight_radius_m + away_m
    return situation(site=field_editor.laid(SITE, field_editor.SPECTATOR_LINE, [(-30, -south), (30, -south)]))


def heavy(mass_g: float) -> Situation:
    return situation(QUAD.model_copy(update={"mass_g": mass_g}), planned_min=14)


def rested(days: float) -> Situation:
    return with_history(situation(), pilot_last_flight_at=NOW - timedelta(days=days))


def days_since(days: float) -> tuple[Finding, ...]:
    from walkround.core.round.blockers import stands_between

    return tuple(f for f in stands_between(rested(days)) if f.name == "Pilot")


def high(top_m: float) -> tuple[Finding, ...]:
    return reading("field.max_height", Measured(value=top_m))


def measured(check_id: str) -> Callable[[float], tuple[str, Answer]]:
    return lambda value: (check_id, Measured(value=value))


ROWS = (
    Row("wind, direction fixed", 0, 30, 1, "Wind", lambda v: sky(wind_ms=v), lambda v: report(wind_ms=v)),
    Row("wind, the way home", 0, 30, 1, "Way home", lambda v: sky(wind_ms=v)),
    Row("wind aloft", 0, 30, 1, "Wind aloft", lambda v: sky(wind_ms=v)),
    Row("gust", 3, 40, 1, "Gust", lambda v: sky(gust_ms=v), lambda v: report(gust_ms=v)),
    Row("gust, the way home", 3, 40, 1, "Way home", lambda v: sky(gust_ms=v)),
    Row("gust, its spread", 3, 40, 1, "Gust spread", lambda v: sky(gust_ms=v)),
    Row("visibility", 50, 20_000, -1, "Visibility", lambda v: sky(visibility_m=v), lambda v: report(visibility_m=v)),
    Row("Cloud base not reported. From temperature and dew point, cloud would", 0, 3_000, -1, "Cloud base", lambda v: sky(ceiling_m=v), lambda v: report(ceiling_m=v)),
    Row("charge shown", 0, 100, -1, "Charge shown", lambda v: reading("pack.percent", ChargeShown(percent=v)), measured("pack.percent")),
    Row("cell below full", 2.0, 4.2, -1, "Weakest cell", lambda v: reading("pack.cells", cells(v)), lambda v: ("pack.cells", cells(v)),
        but=""),
    Row("cell above full", 4.2, 4.6, 1, "Overcharged", lambda v: reading("pack.cells", cells(v)), lambda v: ("pack.cells", cells(v))),
    Row("fix age", 0, 7_200, 1, "Age of the fix", lambda v: reading("sensors.satellites", fix(at=NOW - timedelta(seconds=v))),
        but="a round keeps the moment of its answer, so the same answer cannot be given with another age"),
    Row("HDOP", 0.4, 40, 1, "HDOP", lambda v: reading("sensors.satellites", fix(hdop=v)), lambda v: ("sensors.satellites", fix(hdop=v))),
    Row("satellites", 0, 30, -1, "Satellites", lambda v: reading("sensors.satellites", fix(satellites=int(v))),
        lambda v: ("sensors.satellites", fix(satellites=int(v)))),
    Row("distance to people", 0, 200, -1, "People", lambda v: readiness(Context(lined(v), {}), NOW, only=(Subject.PEOPLE,)), case=lined),
    Row("light", 0, 11, 1, "Daylight", lit, but="the hour moves the sun too, which may leave the flying box as it gets dark"),
    Row("mass", 300, 3_000, 1, "Planned use", lambda v: readiness(Context(heavy(v), {}), NOW, only=(Subject.PLAN,)),
        but="a heavier aircraft of the same kind asks for other papers below and above the mass of registration"),
    Row("pack below its band", -20, 20, -1, "Pack temperature", lambda v: reading("pack.temperature", Measured(value=v)),
        measured("pack.temperature")),
    Row("pack above its band", 20, 80, 1, "Pack temperature", lambda v: reading("pack.temperature", Measured(value=v)),
        measured("pack.temperature")),
    Row("report age", 0, 600, 1, "Age of the report", lambda v: sky(at=NOW - timedelta(minutes=v)),
        lambda v: report(at=NOW - timedelta(minutes=v))),
    Row("days since flight", 0, 400, 1, "Pilot", days_since,
        but="it adds checks, which are open until they are answered"),
    Row("height, from the planned one up", 40, 400, 1, "Height", high, measured("field.max_height")),
    Row("height, wind aloft", 50, 400, 1, "Wind aloft",
        lambda v: readiness(
            Context(situation(weather=dry_weather(wind_ms=4.2)), {"field.max_height": piece("field.max_height", Measured(value=v))}), NOW,
            only=(Subject.WEATHER,))),
    Row("planned distance", 1, 3_000, 1, "In sight",
        lambda v: readiness(Context(situation(), {}).with_plan(flight(v), None), NOW, only=(Subject.SIGHT,))),
)  # fmt: skip


def flight(out_m: float):  # type: ignore[no-untyped-def]
    from walkround.core.flight.flight_plan import FlightPlan

    return FlightPlan(out_m=out_m, work_min=1)


def level_of(row: Row, value: float) -> Level:
    """The level of the row's rule for a value; nothing said is clear."""
    return worst(tuple(f for f in row.find(value) if f.name == row.rule))


def verdict_level(row: Row, value: float) -> Level:
    """The level of a whole round that is good in everything but this."""
    if row.case is not None:
        case, given = row.case(value), {}
    else:
        assert row.answer is not None
        check_id, answer = row.answer(value)
        case, given = situation(), {check_id: answer}
    return walk(case, walked_evidence(case, NOW, answers=given, pace_s=0)).verdict.level


class OneRule(unittest.TestCase):
    @given(st.sampled_from(ROWS), st.floats(0, 1), st.floats(0, 1))
    @examples(400)
    def test_the_worse_value_never_reads_better(self, row: Row, one: float, other: float) -> None:
        better, worse = sorted((one, other), reverse=row.worse < 0)
        span = row.high - row.low
        good, bad = level_of(row, row.low + span * better), level_of(row, row.low + span * worse)
        self.assertGreaterEqual(bad, good, row.name)

    def test_each_row_comes_to_its_end(self) -> None:
        """The interval of each row reaches from clear to its worst, so that the property above cannot be empty."""
        never_grounds = {"gust, its spread", "days since flight"}
        for row in ROWS:
            ends = level_of(row, row.low), level_of(row, row.high)
            with self.subTest(row.name):
                self.assertEqual(min(ends), Level.CLEAR)
                self.assertEqual(max(ends), Level.CAUTION if row.name in never_grounds else Level.GROUNDED)
                self.assertEqual(ends.index(max(ends)), int(row.worse > 0), "the worse end is the worse one")


class Verdicts(unittest.TestCase):
    @given(st.data())
    @examples(60)
    def test_the_verdict_follows(self, data: st.DataObject) -> None:
        row = data.draw(st.sampled_from([r for r in ROWS if (r.answer or r.case) and not r.but]))
        shares = sorted((data.draw(st.floats(0, 1)), data.draw(st.floats(0, 1))), reverse=row.worse < 0)
        good, bad = (verdict_level(row, row.low + (row.high - row.low) * share) for share in shares)
        self.assertGreaterEqual(bad, good, row.name)

    def test_rows_left_out_say_why(self) -> None:
        for row in ROWS:
            self.assertTrue(
                row.but or row.answer or row.case or "," in row.name or row.name in ("wind aloft", "planned distance"),
                row.name,
            )


class Sectors(unittest.TestCase):
    @given(st.floats(0, 360), st.floats(0, 359), st.floats(0, 359), st.floats(0.5, 20))
    def test_a_sector_is_as_bad_as_its_worst_direction(
        self, strip: float, begin: float, width: float, wind: float
    ) -> None:
        """Against every direction of the sector, one after the other."""
        from walkround.core.weather.atmosphere import strip_wind_ms

        ours, _ = strip_wind_ms(wind, 0.0, strip, (begin, (begin + width) % 360))
        each = [strip_wind_ms(wind, begin + width * i / 400, strip)[0] for i in range(401)]
        self.assertGreaterEqual(ours + 1e-9, max(each))
        self.assertLessEqual(ours, max(each) + wind * 0.02)

    @given(st.floats(0, 359), st.floats(0, 90), st.floats(0, 60))
    def test_a_wider_sector_is_never_better(self, begin: float, width: float, more: float) -> None:
        from walkround.core.weather.atmosphere import strip_wind_ms

        narrow, _ = strip_wind_ms(5, 0, 90, (begin, (begin + width) % 360))
        wide, _ = strip_wind_ms(5, 0, 90, (begin, (begin + width + more) % 360))
        self.assertGreaterEqual(wide + 1e-9, narrow)


class Gusts(unittest.TestCase):
    @given(st.floats(0, 15), st.floats(0, 15), st.floats(2, 120), st.sampled_from(list(Terrain)))
    def test_gust_and_mean_are_raised_alike(self, mean: float, more: float, height_m: float, terrain: Terrain) -> None:
        """A gust reads no better than a mean wind of its strength."""
        from walkround.core.flight.speed_home import judge_getting_home

        site = SITE.model_copy(update={"terrain": terrain})
        gust = judge_getting_home(QUAD, dry_weather(wind_ms=mean, gust_ms=mean + more), site, height_m)
        steady = judge_getting_home(QUAD, dry_weather(wind_ms=mean + more), site, height_m)
        self.assertEqual(gust[0].level, steady[0].level)
        self.assertAlmostEqual(gust[0].value.value, steady[0].value.value)


class Totals(unittest.TestCase):
    @given(st.lists(st.floats(2.0, 4.45), min_size=3, max_size=3), st.sampled_from(["full", "plan", "volts"]))
    def test_knowing_only_the_total_never_reads_better_than_it_may_be(self, volts: list[float], method: str) -> None:
        """A total alone is never clear, and grounds wherever the mean itself would."""
        from walkround.core.packs.bands import judge_cells

        total = judge_cells(CellReading(total_v=sum(volts)), PLAIN_PACK, method, planned_percent=20, second_hop=False)
        self.assertGreaterEqual(worst(total), Level.CAUTION)
        mean = sum(volts) / 3
        even = judge_cells(
            CellReading(cells_v=(mean,) * 3, total_v=sum(volts)),
            PLAIN_PACK,
            method,
            planned_percent=20,
            second_hop=False,
        )
        self.assertGreaterEqual(
            worst(total),
            min(worst(even), Level.GROUNDED) if worst(even) is Level.GROUNDED and mean < 3.0 else Level.CAUTION,
        )


if __name__ == "__main__":
    unittest.main()


class Signatures(unittest.TestCase):
    @given(st.integers(-600, 600), st.integers(0, 4320), st.integers(5, 600))
    def test_later_never_takes_off_better(self, since: int, later: int, most: int) -> None:
        """A signed round, good in everything: once it may not take off it may not later, and none is older than its limit."""
        from walkround.core.round.takeoff import judge_takeoff

        case = situation()
        case = case.model_copy(update={"limits": case.limits.model_copy(update={"signature_min": most})})

        def kept(age_min: int) -> Level:
            found = judge_takeoff(case, (), level=Level.CLEAR, signed_at=NOW - timedelta(minutes=age_min), now=NOW)
            return worst(tuple(f for f in found if f.name == "Signature"))

        if since >= 0:
            self.assertGreaterEqual(kept(since + later), kept(since))
        self.assertEqual(kept(since) is Level.GROUNDED, since > most or since < 0)
