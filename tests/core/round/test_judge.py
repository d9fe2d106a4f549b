"""Judging single answers: every kind of evidence, bands at their edges, answers that do not fit."""

import unittest

from tests.support import NOW, QUAD, SITE, TRAINER, dry_weather, piece, said, situation, with_history
from walkround.core.aircraft.bag import Packed, bag_list
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.control_directions import ControlDirectionsSeen
from walkround.core.answers.flight import Planned
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Band, Measured, judge_band
from walkround.core.answers.packed import BagPacked
from walkround.core.answers.rotors import RotorsSeen
from walkround.core.answers.timer import Counted
from walkround.core.answers.ways_out import Fault, Skipped, Undone
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, cap, level_of, margin_of
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Phase
from walkround.core.checklist.history import Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.field.site import LaunchPlatform
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.packs.reading import CellReading
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round.context import Context
from walkround.core.round.evidence import Evidence
from walkround.core.round.judge import judge
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import Situation
from walkround.demo.walker import good_answer

BY_ID = {c.id: c for c in CHECKS}


def found(
    check_id: str, answer: Answer, case: Situation | None = None, others: dict[str, Evidence] | None = None
) -> tuple[Finding, ...]:
    return judge(BY_ID[check_id], piece(check_id, answer), Context(case or situation(), others or {}))


def level(check_id: str, answer: Answer, case: Situation | None = None) -> Level:
    return max(f.level for f in found(check_id, answer, case))


class Kinds(unittest.TestCase):
    def test_a_good_answer_to_every_check_is_clear(self) -> None:
        for aircraft in (QUAD, TRAINER):
            case = situation(aircraft)
            for planned in make_plan(case).checks:
                with self.subTest(f"{aircraft.name} {planned.check.id}"):
                    answer = good_answer(planned.check, case, NOW)
                    findings = judge(planned.check, piece(planned.check.id, answer), Context(case, {}))
                    self.assertEqual(max(f.level for f in findings), Level.CLEAR)
                    self.assertTrue(all(f.check_id == planned.check.id for f in findings))

    def test_a_fault_grounds_what_grounds_and_only_there(self) -> None:
        for check in CHECKS:
            with self.subTest(check.id):
                finding = judge(check, piece(check.id, Fault(note="seen")), Context(situation(), {}))[0]
                self.assertEqual(finding.level, Level.GROUNDED if check.grounds else Level.CAUTION)
                self.assertTrue(said(finding).endswith("seen"))
                self.assertTrue(finding.remedy)

    def test_skipping_a_grounding_snag_makes_it_no_lighter(self) -> None:
        for grounds, expected in ((True, Level.GROUNDED), (False, Level.CAUTION)):
            snag = Snag(id=3, on=SnagOn.AIRCRAFT, title="arm cracked", grounds=grounds, opened_at=NOW)
            case = with_history(situation(), snags=(snag,))
            check = next(p.check for p in make_plan(case).checks if p.check.id == "snag.3")
            (finding,) = judge(check, piece("snag.3", Skipped(reason="later")), Context(case, {}))
            self.assertEqual(finding.level, expected)

    def test_a_skip_is_as_bad_as_its_check_and_keeps_its_reason(self) -> None:
        rows = (
            ("airframe.shell", Level.GROUNDED, "Not done: raining on my notes."),
            ("airframe.vents", Level.CAUTION, "Not done: raining on my notes."),
            ("sky.wind_meter", Level.CAUTION, "Not done: raining on my notes. Instead: the wind of the report counts."),
        )
        for check_id, level, words in rows:
            (finding,) = found(check_id, Skipped(reason="raining on my notes"))
            self.assertEqual((finding.level, said(finding)), (level, words))

    def test_a_short_count_grounds(self) -> None:
        self.assertEqual(level("power.still_long", Counted(seconds=19)), Level.GROUNDED)
        self.assertEqual(level("power.still_long", Counted(seconds=20)), Level.CLEAR)
        self.assertIsNone(found("power.still_long", Counted(seconds=20))[0].margin)

    def test_night_grounds_whoever_finds_the_sky_quiet(self) -> None:
        quiet = Chosen(option="quiet")
        for hour, expected in ((7, Level.CLEAR), (3, Level.CAUTION), (23, Level.GROUNDED)):
            with self.subTest(hour):
                evidence = piece("sky.look", quiet, at=NOW.replace(hour=hour, minute=0))
                findings = judge(BY_ID["sky.look"], evidence, Context(situation(), {}))
                self.assertEqual(max(f.level for f in findings), expected)

    def test_options(self) -> None:
        self.assertEqual(level("link.lost_action_wing", Chosen(option="hold")), Level.GROUNDED)
        self.assertEqual(level("field.people", Chosen(option="birds")), Level.CAUTION)

    def test_answers_that_do_not_fit(self) -> None:
        rows = (
            ("airframe.shell", Measured(value=3)), ("airframe.shell", Chosen(option="x")),
            ("airframe.shell", Counted(seconds=3)), ("field.people", Chosen(option="martians")),
            ("airframe.shell", Undone(of=1)),
        )  # fmt: skip
        for check_id, answer in rows:
            with self.subTest(f"{check_id} {answer.kind}"), self.assertRaises(InputError):
                found(check_id, answer)

    def test_practice_that_differs_from_what_was_seen_is_care(self) -> None:
        self.assertEqual(level("link.lost_action_wing", Chosen(option="circle")), Level.CLEAR)
        self.assertEqual(level("link.lost_action_wing", Chosen(option="glide")), Level.CAUTION)
        glide = situation(methods=ChosenMethods(lost_link="glide"))
        self.assertEqual(level("link.lost_action_wing", Chosen(option="glide"), glide), Level.CLEAR)
        latest = situation(methods=ChosenMethods(firmware="latest"))
        self.assertEqual(level("bench.firmware", Chosen(option="features")), Level.CLEAR)
        self.assertEqual(level("bench.firmware", Chosen(option="features"), latest), Level.CAUTION)


class Answers(unittest.TestCase):
    """Each kind of answer goes to its own rule, and to no check of another kind."""

    def test_each_kind_fits_its_own_checks_only(self) -> None:
        answers = (
            ("packed", BagPacked(packed=Packed())), ("rotors", RotorsSeen(seen=())), ("control_directions", ControlDirectionsSeen(seen=())),
            ("flight", Planned(plan=FlightPlan(work_min=3))), ("timer", Counted(seconds=60)), ("number", Measured(value=1)),
        )  # fmt: skip
        for kind, answer in answers:
            for check in CHECKS:
                if check.ask.kind != kind:
                    with self.subTest(f"{kind} for {check.id}"), self.assertRaises(InputError):
                        found(check.id, answer)

    def test_where_you_stand_decides_of_an_option(self) -> None:
        rows = (
            ("return", LaunchPlatform.LAND, Level.CLEAR), ("return", LaunchPlatform.MOVING, Level.GROUNDED), ("return", LaunchPlatform.COVER, Level.GROUNDED),
            ("hover", LaunchPlatform.LAND, Level.CAUTION), ("hover", LaunchPlatform.MOVING, Level.CLEAR), ("hover", LaunchPlatform.COVER, Level.GROUNDED),
        )  # fmt: skip
        for option, launch_platform, expected in rows:
            case = situation(site=SITE.model_copy(update={"launch_platform": launch_platform}))
            with self.subTest(f"{option} {launch_platform}"):
                (finding,) = found("link.lost_action", Chosen(option=option), case)
                self.assertEqual(finding.level, expected)
                self.assertEqual(f"launched from {launch_platform.value}" in said(finding), expected is not Level.CLEAR)

    def test_the_words_of_an_option(self) -> None:
        (plain,) = found("link.lost_action", Chosen(option="return"))
        self.assertEqual(said(plain), "Return home.")
        (reasoned,) = found("link.lost_action", Chosen(option="land"))
        self.assertEqual(said(reasoned), "On signal loss it lands wherever it is.")

    def test_a_note_where_one_is_wanted(self) -> None:
        with self.assertRaisesRegex(InputError, "in a few words"):
            found("field.path", Chosen(option="changed", note=" "))
        self.assertIn("new fence", said(found("field.path", Chosen(option="changed", note="new fence"))[0]))

    def test_a_skip_says_what_it_costs(self) -> None:
        for check in CHECKS:
            skipped = found(check.id, Skipped(reason="no time."))
            grounds = check.grounds and not check.if_skipped
            with self.subTest(check.id):
                self.assertEqual([f.level for f in skipped], [Level.GROUNDED if grounds else Level.CAUTION])
                self.assertEqual("Stay down" in skipped[0].remedy, grounds)
                self.assertTrue(said(skipped[0]).startswith("Not done: no time."))
                self.assertEqual("Instead:" in said(skipped[0]), bool(check.if_skipped))

    def test_the_second_pass_speaks_of_what_the_two_counted_differently(self) -> None:
        case = situation()
        full = tuple((thing.id, max(1, thing.wanted)) for thing in bag_list(QUAD))
        less = tuple((name, number + (name == "cable")) for name, number in full)
        passes = {
            f"bag.{n}_pass": piece(f"bag.{n}_pass", BagPacked(packed=Packed(have=have)))
            for n, have in (("first", full), ("second", less))
        }
        first = found("bag.first_pass", BagPacked(packed=Packed(have=full)), case, passes)
        second = found("bag.second_pass", BagPacked(packed=Packed(have=less)), case, passes)
        alone = found("bag.second_pass", BagPacked(packed=Packed(have=less)), case, {})
        same = found("bag.second_pass", BagPacked(packed=Packed(have=full)), case, passes)
        self.assertEqual(
            [max(f.level for f in one) for one in (first, second, alone, same)],
            [Level.CLEAR, Level.CAUTION, Level.CLEAR, Level.CLEAR],
        )

    def test_propellers_and_spins_are_two_questions(self) -> None:
        wrong = RotorsSeen(seen=tuple(RotorSeen(number=n, rotation="clockwise", spin=None) for n in (1, 2, 3, 4)))
        self.assertEqual(level("airframe.propeller_side", wrong), Level.GROUNDED)
        turned = RotorsSeen(seen=tuple(RotorSeen(number=n, spin="clockwise") for n in (1, 2, 3, 4)))
        self.assertEqual(level("bench.motor_spin", turned), Level.GROUNDED)
        self.assertNotEqual(
            said(found("bench.motor_spin", turned)[0]), said(found("airframe.propeller_side", wrong)[0])
        )


class Card(unittest.TestCase):
    def test_free_space_becomes_minutes_at_the_bit_rate(self) -> None:
        # Worked by hand: 45 GB x 8,000 Mbit / 100 Mbit/s = 3,600 s = 60 min. One GB is 10^9 bytes (SI).
        for aircraft, words in (
            (QUAD, "The card holds 60 min of recording."),
            (QUAD.model_copy(update={"record_mbits": None}), "45.0 GB free."),
            (QUAD.model_copy(update={"record_mbits": 1000.0}), "The card holds 6.0 min of recording. Two flights need 16.0 min."),
        ):  # fmt: skip
            (finding,) = found("bench.card", Measured(value=45), situation(aircraft))
            self.assertEqual(said(finding), words)


class Numbers(unittest.TestCase):
    def test_the_trade_s_numbers(self) -> None:
        """Eight bands, 3 m circle: common practice, no source. Balance: the maker's manual."""
        wing = situation(TRAINER)
        rows = (
            ("airframe.bands", 8, 0), ("airframe.bands", 7, 2), ("airframe.cg", 76, 0), ("airframe.cg", 71, 2),
            ("airframe.cg", 81, 2), ("bench.transmitter", 24, 2), ("bench.transmitter", 49, 1),
            ("bench.transmitter", 80, 0), ("bench.packs_ready", 0, 1), ("bench.packs_ready", 1, 0),
            ("bench.card", 2, 1), ("bench.screen", 10, 1), ("field.max_height", 121, 2), ("field.max_height", 60, 0), ("bench.board_voltage", 4.6, 2), ("bench.board_voltage", 5.6, 0), ("bench.board_voltage", 8.6, 1),
            ("bench.board_voltage", 5.0, 0), ("pack.alarm", 3.7, 0), ("pack.alarm", 3.2, 2), ("bench.garden_fix", 9, 1),
            ("bench.garden_fix", 7, 0), ("sky.wind_meter", 7, 2),
            ("sky.wind_meter", 3, 0), ("field.launch_circle", 2, 2),
        )  # fmt: skip
        for check_id, value, expected in rows:
            with self.subTest(f"{check_id} {value}"):
                self.assertEqual(level(check_id, Measured(value=value), wing), expected)

    def test_no_balance_range_is_care(self) -> None:
        wing = situation(TRAINER.model_copy(update={"cg_min_mm": None, "cg_max_mm": None}))
        self.assertEqual(level("airframe.cg", Measured(value=76), wing), Level.CAUTION)

    def test_planned_minutes_follow_what_the_pack_holds(self) -> None:
        full = CellsRead(reading=CellReading(cells_v=(4.2,) * 3, total_v=12.6))
        half = CellsRead(reading=CellReading(cells_v=(3.84,) * 3, total_v=11.52))
        ten = Planned(plan=FlightPlan(work_min=10))
        rows = (
            ("full", {"pack.cells": piece("pack.cells", full)}, Level.CLEAR, Level.CLEAR),
            ("half", {"pack.cells": piece("pack.cells", half)}, Level.CAUTION, Level.GROUNDED),
            (
                "shown 70",
                {"pack.percent": piece("pack.percent", ChargeShown(percent=70))},
                Level.CAUTION,
                Level.CAUTION,
            ),
        )
        for name, others, use, left in rows:
            with self.subTest(name):
                judged = found("pack.plan", ten, others=others)
                self.assertEqual([(f.name, f.level) for f in judged], [("Planned use", use), ("Left at landing", left)])

    def test_a_second_short_hop(self) -> None:
        base = situation(methods=ChosenMethods(charge="volts"), planned_min=5)
        case = base.model_copy(update={"history": base.history.model_copy(update={"pack_flights_today": 1})})
        tired = CellsRead(reading=CellReading(cells_v=(4.09, 4.08, 4.08), total_v=12.25))
        self.assertEqual(level("pack.cells", tired, base), Level.GROUNDED)
        self.assertEqual(level("pack.cells", tired, case), Level.CAUTION)
        long = {"pack.plan": piece("pack.plan", Planned(plan=FlightPlan(work_min=20)))}
        self.assertEqual(max(f.level for f in found("pack.cells", tired, case, long)), Level.GROUNDED)

    def test_return_height_uses_the_weather_of_this_round(self) -> None:
        site = situation().site.model_copy(update={"over_water": True})
        case = situation(site=site, weather=dry_weather(wind_ms=1))
        windy = {"sky.weather": piece("sky.weather", WeatherRead(weather=dry_weather(wind_ms=6.5)))}
        self.assertEqual(level("link.rth_altitude", Measured(value=110), case), Level.CLEAR)
        self.assertEqual(
            max(f.level for f in found("link.rth_altitude", Measured(value=110), case, windy)), Level.CAUTION
        )


class Bands(unittest.TestCase):
    BAND = Band(ground_below=10, caution_below=20, caution_above=30, ground_above=40)

    def test_edges(self) -> None:
        rows = ((9.9, 2), (10, 1), (19.9, 1), (20, 0), (25, 0), (30, 0), (30.1, 1), (40, 1), (40.1, 2))
        for value, expected in rows:
            with self.subTest(value):
                finding = judge_band(value, Measure.COUNT, "It", self.BAND)
                self.assertEqual(finding.level, expected)
                self.assertEqual((finding.margin or 0) < 0, expected > 0)

    def test_margins(self) -> None:
        """By hand: 0 at the limit, 1 far away, below 0 over it."""
        rows = ((margin_of(0, 10, "max"), 1), (margin_of(10, 10, "max"), 0), (margin_of(15, 10, "max"), -0.5),
                (margin_of(10, 10, "min"), 0), (margin_of(20, 10, "min"), 1), (margin_of(90, 10, "min"), 1),
                (margin_of(5, 10, "min"), -0.5), (margin_of(1, 0, "min", 20), 0.05), (margin_of(0, 0, "max"), 0),
                (margin_of(1, 0, "max"), -1), (margin_of(-1, 0, "min"), -1), (margin_of(1, 0, "min"), 1))  # fmt: skip
        for ours, expected in rows:
            self.assertAlmostEqual(ours, expected)
        self.assertEqual([level_of(m) for m in (-0.01, 0, 0.149, 0.15, 1)], [2, 1, 1, 0, 0])

    def test_what_only_spoils_never_grounds(self) -> None:
        grounded = judge_band(1, Measure.COUNT, "It", self.BAND)
        self.assertEqual(cap((grounded,), "x", grounds=False)[0].level, Level.CAUTION)
        self.assertEqual(cap((grounded,), "x", grounds=True)[0].level, Level.GROUNDED)

    def test_spare(self) -> None:
        finding = judge_band(9, Measure.TEMPERATURE, "It", self.BAND)
        self.assertEqual((finding.spare().value, finding.spare().measure), (-1, Measure.TEMPERATURE_STEP))
        self.assertIsNone(Finding(name="x", level=Level.CLEAR, reason=finding.reason).spare())


class Phases(unittest.TestCase):
    def test_air_and_after_only_at_the_first_minute(self) -> None:
        for check in CHECKS:
            if check.phase is not Phase.BEFORE:
                self.assertEqual(check.station.value, "first-minute", check.id)
