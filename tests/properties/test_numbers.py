"""Numbers agree: value, limit, margin, what is to spare and the words of a finding; and nothing is ever not a number."""

import ast
import math
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import (
    CHARGED,
    NOW,
    PLAIN_PACK,
    QUAD,
    SITE,
    TRAINER,
    UNITS,
    dry_weather,
    piece,
    situation,
    with_history,
)
from walkround.core.aircraft.presets import PRESETS
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.fix import FixRead
from walkround.core.answers.flight import Planned
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import AskNumber, Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, margin_of, measured
from walkround.core.base.phrase import speed
from walkround.core.base.units import Units
from walkround.core.checklist.library import CHECKS
from walkround.core.packs.reading import CellReading
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.round.context import Context
from walkround.core.round.contradictions import disagreements
from walkround.core.round.judge import judge
from walkround.core.round.readiness import readiness
from walkround.core.sensors.nmea import Fix
from walkround.core.weather.metar import phenomenon
from walkround.web.drawings.bars import bar, spare_words

CORE = Path(__file__).parents[2] / "walkround" / "core"
NUMBERS = [c for c in CHECKS if isinstance(c.ask, AskNumber)]
AMERICAN = Units(speed="mph", height="ft", temperature="°F")
SILENT = {"Daylight", "Charged packs"}
"""Findings whose words need no number: the sun is up or it is not, and no pack is none."""


def agrees(case: unittest.TestCase, finding: Finding) -> None:
    """Everything that a finding says of itself is of one mind."""
    for quantity in (finding.value, finding.limit, *finding.reason.numbers.values()):
        if quantity is not None:
            case.assertTrue(math.isfinite(quantity.value), finding)
    if finding.margin is None or finding.limit is None or finding.value is None:
        return
    spare = finding.spare()
    case.assertTrue(math.isfinite(finding.margin))
    case.assertEqual(finding.value.measure, finding.limit.measure)
    if (
        abs(finding.margin) > 1e-9 or abs(spare.value) > 1e-6
    ):  # nearer to the limit than numbers can tell is at the limit
        case.assertEqual(math.copysign(1, finding.margin), math.copysign(1, spare.value), finding)
    if finding.margin < 0:
        case.assertGreater(finding.level, Level.CLEAR, finding)
    for units in (UNITS, AMERICAN):
        said = finding.reason.say(units)
        case.assertNotIn("{", said)
        case.assertNotIn("nan", said.lower().split())
        if finding.name not in SILENT:
            shown = {finding.value.say(units), finding.limit.say(units)}
            case.assertTrue(any(number in said for number in shown), f"{said} does not say one of {shown}")
    drawn = bar(finding)
    case.assertTrue(0 <= drawn.fill <= 100)
    if finding.margin <= 0:
        case.assertNotEqual(drawn.level, "clear", "nothing to spare is not green")
    if abs(spare.value) < 1e-6:
        return
    words = spare_words(finding, abs(spare.value).__format__(".9f"))
    case.assertEqual("over by" in words or "short by" in words, finding.margin < 0, words)
    case.assertEqual(
        "to spare" in words and "none" not in words, finding.margin > 0 and finding.level is not Level.GROUNDED, words
    )


class EveryNumber(unittest.TestCase):
    @given(
        st.sampled_from(NUMBERS),
        st.floats(0, 1),
        st.sampled_from([QUAD, TRAINER, PRESETS["low-wing"], PRESETS["glider"]]),
    )
    @examples(400)
    def test_of_every_check(self, check, share: float, aircraft) -> None:  # type: ignore[no-untyped-def]
        assert isinstance(check.ask, AskNumber)
        top = min(check.ask.high, 200 if check.ask.high >= 1000 else check.ask.high)
        value = check.ask.low + (top - check.ask.low) * share
        case = situation(aircraft.model_copy(update={"id": 3}), weather=dry_weather())
        try:
            found = judge(check, piece(check.id, Measured(value=value)), Context(case, {}))
        except InputError:
            return
        self.assertTrue(found)
        for finding in found:
            agrees(self, finding)

    @given(
        st.floats(0, 40), st.floats(0, 20), st.floats(0, 20_000), st.floats(0, 3000), st.floats(-30, 50), st.floats(0, 20),
        st.floats(870, 1060), st.sampled_from([0, 30, 200, 400, 900]), st.sampled_from([QUAD, TRAINER]),
    )  # fmt: skip
    @examples(300)
    def test_of_everything_that_is_ready_or_not(  # type: ignore[no-untyped-def]
        self, wind, more, visibility, base, air, spread, pressure, radius, aircraft
    ) -> None:
        weather = dry_weather(
            wind_ms=wind, gust_ms=wind + more, visibility_m=visibility, ceiling_m=base, temperature_c=air,
            dew_point_c=air - spread, qnh_hpa=pressure,
        )  # fmt: skip
        site = SITE.model_copy(update={"flight_radius_m": max(10.0, float(radius)), "strip_deg": 70.0})
        for finding in readiness(Context(situation(aircraft, weather=weather, site=site), {}), NOW):
            agrees(self, finding)

    @given(
        st.lists(st.floats(0, 4.5), min_size=3, max_size=3), st.sampled_from(["full", "plan", "volts"]), st.booleans()
    )
    def test_of_cells(self, volts: list[float], method: str, only_total: bool) -> None:
        from walkround.core.packs.bands import judge_cells

        reading = CellReading(cells_v=() if only_total else tuple(volts), total_v=sum(volts))
        for finding in judge_cells(reading, PLAIN_PACK, method, planned_percent=30, second_hop=True):
            agrees(self, finding)


class OneConstructor(unittest.TestCase):
    def test_no_margin_is_made_anywhere_else(self) -> None:
        """Only ``measured`` gives a finding a margin, so value, limit, margin and words cannot part."""
        for path in CORE.rglob("*.py"):
            if path.name == "finding.py":
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "Finding":
                    names = {k.arg for k in node.keywords}
                    self.assertFalse({"margin", "limit", "sense"} & names, f"{path.name}:{node.lineno}")

    @given(st.floats(-1e6, 1e6), st.floats(-1e6, 1e6), st.sampled_from(["max", "min"]), st.floats(0, 1e6) | st.none())
    def test_the_constructor_itself(self, value: float, limit: float, sense, span: float | None) -> None:  # type: ignore[no-untyped-def]
        finding = measured(
            "x",
            speed(value),
            speed(limit),
            sense=sense,
            span=span,
            words="{value} {limit}",
            source="x",
            level=Level.CLEAR,
        )
        spare = finding.spare()
        over = value > limit if sense == "max" else value < limit
        self.assertEqual(finding.margin < 0, over and (limit - value) != 0)
        self.assertEqual(spare.value < 0, over)
        self.assertEqual(finding.level is Level.CLEAR, not over)

    def test_what_is_not_a_number_is_refused(self) -> None:
        for value, limit in ((math.nan, 1.0), (1.0, math.nan), (math.inf, 1.0), (1.0, -math.inf)):
            with self.assertRaises(ValueError):
                margin_of(value, limit, "max")


class Rules(unittest.TestCase):
    def test_pages_judge_nothing_themselves(self) -> None:
        for path in (CORE.parent / "web").rglob("*.py"):
            self.assertNotRegex(path.read_text(), r"\bjudge_\w+\(", path.name)
            self.assertNotRegex(path.read_text(), r"import .*\bjudge_", path.name)

    def test_judges_stand_apart_from_pages_and_store(self) -> None:
        for path in (CORE.parent / "store").rglob("*.py"):
            self.assertNotRegex(path.read_text(), r"Level\.(CLEAR|CAUTION)\b", path.name)

    def test_each_default_of_a_limit_is_written_once(self) -> None:
        self.assertEqual({spec.name for spec in LIMITS}, set(Limits.__struct_fields__) - {"season_days"})
        for spec in LIMITS:
            self.assertEqual(getattr(Limits(), spec.name), spec.default)
        text = (CORE / "pilot" / "limits.py").read_text()
        body = text[text.index("class Limits(") : text.index("season_days")]
        self.assertNotRegex(body, r": float = [\d.]")


def chosen(check_id: str, option: str) -> tuple[str, Answer]:
    return check_id, Chosen(option=option)


class Answers(unittest.TestCase):
    """Two answers, or an answer and the record, that cannot both be true: a finding that names both."""

    def found(self, *answers: tuple[str, Answer], case=None) -> dict[str, str]:  # type: ignore[no-untyped-def]
        given_ = {check_id: piece(check_id, answer, i) for i, (check_id, answer) in enumerate(answers, 1)}
        said = disagreements(Context(case or situation(), given_))
        for findings in said.values():
            for finding in findings:
                self.assertGreaterEqual(finding.level, Level.CAUTION)
                self.assertTrue(finding.remedy)
                agrees(self, finding)
        return {
            check_id: " ".join(f.reason.say(UNITS) for f in findings).replace("\u202f", " ")
            for check_id, findings in said.items()
        }

    def test_each_pair(self) -> None:
        half = CellsRead(reading=CellReading(cells_v=(3.85, 3.85, 3.85), total_v=11.55))
        full = CellsRead(reading=CellReading(cells_v=(4.2, 4.19, 4.2), total_v=12.59))
        mixed = with_history(situation(), part_firmware=("pack S1 2.3", "pack S3 2.2"))
        one = with_history(situation(), packs_ready=1)
        from walkround.core.flight.flight_plan import FlightPlan

        thunder = dry_weather(phenomena=(phenomenon("TSRA"),))
        rows = (
            ("full pack, cells at 3.85 V", [("first.full_pack", Passed()), ("pack.cells", half)], None, "first.full_pack", "but it holds about"),
            ("full pack, 60 % shown", [("first.full_pack", Passed()), ("pack.percent", ChargeShown(percent=60))], None, "first.full_pack", "60 %"),
            ("gauge against cells", [("pack.percent", ChargeShown(percent=98)), ("pack.cells", half)], None, "pack.percent", "the pack shows 98 %"),
            ("firmware against the record", [chosen("bench.firmware", "same")], mixed, "bench.firmware", "pack S3 2.2"),
            ("packs counted against the record", [("bench.packs_ready", Measured(value=3))], one, "bench.packs_ready", "On record: 1 is"),
            ("highest point against the plan", [("field.max_height", Measured(value=40)), ("pack.plan", Planned(plan=FlightPlan(work_min=2, height_m=60)))], None, "field.max_height", "40 m, but the plan flies at 60 m"),
            ("paced against the plan of the field", [("field.launch_circle", Measured(value=400))], None, "field.launch_circle", "the plan shows a tree at 80 m"),
            ("quiet sky, thunder reported", [chosen("sky.look", "quiet"), ("sky.weather", WeatherRead(weather=thunder))], None, "sky.look", "thunderstorm"),
            ("home point without a position", [chosen("sensors.home_point", "here"), ("sensors.satellites", FixRead(fix=Fix()))], None, "sensors.home_point", "no fix"),
        )  # fmt: skip
        for name, answers, case, check_id, words in rows:
            with self.subTest(name):
                found = self.found(*answers, case=case)
                self.assertEqual(set(found), {check_id})
                self.assertIn(words, found[check_id])
        self.assertEqual(self.found(("first.full_pack", Passed()), ("pack.cells", full)), {})
        self.assertEqual(self.found(("pack.percent", ChargeShown(percent=98)), ("pack.cells", full)), {})
        self.assertEqual(self.found(("bench.packs_ready", Measured(value=1)), case=one), {})
        self.assertEqual(self.found(chosen("sky.look", "quiet")), {})

    def test_the_record_against_a_full_pack(self) -> None:
        from walkround.core.packs.charge import from_percent

        low = CHARGED.model_copy(update={"charge": from_percent(52)})
        found = self.found(("first.full_pack", Passed()), case=with_history(situation(), pack_summary=low))
        self.assertIn("52 %", found["first.full_pack"])

    @given(st.floats(0, 100), st.floats(3.3, 4.2))
    def test_cells_and_gauge_never_agree_by_chance_only(self, shown: float, volts: float) -> None:
        """Where they disagree by more than both may be off, it is said; the plan then counts the lower one."""
        from walkround.core.packs.chemistry import charge_percent

        answers = [
            ("pack.percent", ChargeShown(percent=shown)),
            ("pack.cells", CellsRead(reading=CellReading(cells_v=(volts,) * 3, total_v=3 * volts))),
        ]
        found = self.found(*answers)
        context = Context(situation(), {i: piece(i, a) for i, a in answers})
        self.assertLessEqual(context.charge.mid, min(shown, charge_percent(volts)) + 1e-6)
        if abs(shown - charge_percent(volts)) > 60:
            self.assertIn("pack.percent", found)


if __name__ == "__main__":
    unittest.main()
