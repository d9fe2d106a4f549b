"""Answers that cannot both be true: each rule with the pair that agrees, the pair at its edge and the pair that does not."""

import unittest

from tests.support import NOW, PACK, QUAD, SITE, dry_weather, piece, said, situation, with_history
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.fix import FixRead
from walkround.core.answers.flight import Planned
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding, Level
from walkround.core.base.geodesy import Position
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.reading import CellReading
from walkround.core.round.context import Context
from walkround.core.round.contradictions import ON_RECORD, OTHER_SIDE, disagreements, versions_on_record
from walkround.core.round.situation import Situation
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.satellites import CountSeen, ScreenSeen
from walkround.core.weather.metar import phenomenon


def found(case: Situation | None = None, **answers: Answer) -> dict[str, tuple[Finding, ...]]:
    given = {key.replace("__", "."): value for key, value in answers.items()}
    return disagreements(Context(case or situation(), {check: piece(check, answer) for check, answer in given.items()}))


def number(value: float) -> Measured:
    return Measured(value=value)


def cells(*volts: float) -> CellsRead:
    return CellsRead(reading=CellReading(cells_v=volts, total_v=sum(volts)))


class Disagree(unittest.TestCase):
    def none(self, case: Situation | None = None, **answers: Answer) -> None:
        self.assertEqual(found(case, **answers), {})

    def one(self, check_id: str, level: Level, words: str, case: Situation | None = None, **answers: Answer) -> Finding:
        all_found = found(case, **answers)
        self.assertEqual(list(all_found), [check_id])
        (finding,) = all_found[check_id]
        self.assertEqual((finding.level, finding.check_id), (level, check_id))
        self.assertEqual(said(finding), words)
        self.assertTrue(finding.remedy, "it says what to measure again")
        return finding

    def test_nothing_answered(self) -> None:
        self.none()

    def test_cells_and_gauge(self) -> None:
        """A resting lithium polymer cell at 3.85 V is about half full (common charts); 4.18 V is full."""
        self.none(pack__cells=cells(4.18, 4.18, 4.18), pack__percent=ChargeShown(percent=97))
        self.none(pack__cells=cells(3.85, 3.85, 3.85), pack__percent=ChargeShown(percent=50))
        self.none(pack__cells=cells(3.85, 3.85, 3.85))
        self.none(pack__percent=ChargeShown(percent=97))
        for shown in (97, 12):
            finding = found(pack__cells=cells(3.85, 3.85, 3.85), pack__percent=ChargeShown(percent=shown))[
                "pack.percent"
            ][0]
            self.assertEqual(finding.level, Level.CAUTION)
            self.assertIn(f"the pack shows {shown} %", said(finding))
            self.assertIn("The cells say", said(finding))

    def test_full_pack_by_cells(self) -> None:
        """12.4 V for three cells is what pilots call charged: common practice, no source."""
        self.none(first__full_pack=Passed(), pack__cells=cells(4.18, 4.18, 4.18))
        self.none(first__full_pack=Passed(), pack__cells=cells(12.4 / 3, 4.18, 4.18))
        self.none(first__full_pack=Passed(), pack__cells=CellsRead(reading=CellReading(total_v=12.6)))
        self.none(first__full_pack=Fault(note="half"), pack__cells=cells(3.8, 3.8, 3.8))
        for reading in (cells(4.12, 4.18, 4.18), CellsRead(reading=CellReading(total_v=12.0))):
            (finding,) = found(first__full_pack=Passed(), pack__cells=reading)["first.full_pack"]
            self.assertEqual(finding.level, Level.GROUNDED)
            self.assertIn("You confirmed a full pack, but it holds about", said(finding))

    def test_full_pack_by_gauge(self) -> None:
        self.none(first__full_pack=Passed(), pack__percent=ChargeShown(percent=90))
        (finding,) = found(first__full_pack=Passed(), pack__percent=ChargeShown(percent=89))["first.full_pack"]
        self.assertEqual((finding.level, said(finding)),
                         (Level.GROUNDED, "You confirmed a full pack, but it holds about 89 %."))  # fmt: skip

    def test_full_pack_by_the_record(self) -> None:
        summary = situation().history.pack_summary
        assert summary is not None
        half = with_history(
            situation(), pack_summary=summary.model_copy(update={"charge": ChargeRange(low=40, mid=50, high=60)})
        )
        self.none(first__full_pack=Passed())
        (finding,) = found(half, first__full_pack=Passed())["first.full_pack"]
        self.assertIn("holds about 50 %", said(finding))
        unknown = with_history(situation(), pack_summary=None)
        self.none(unknown, first__full_pack=Passed())

    def test_firmware(self) -> None:
        two = with_history(situation(), part_firmware=("pack P1 2.2",))
        same = with_history(situation(), part_firmware=("pack P1 2.3",))
        self.assertEqual(versions_on_record(two), {"2.2", "2.3"})
        self.none(same, bench__firmware=Chosen(option="same"))
        self.none(two, bench__firmware=Chosen(option="mixed"))
        words = "You answered “all the same”. On record are aircraft 2.3, pack P1 2.2."
        self.one("bench.firmware", Level.CAUTION, words, two, bench__firmware=Chosen(option="same"))
        nameless = two.model_copy(update={"aircraft": QUAD.model_copy(update={"firmware": ""})})
        self.assertEqual(versions_on_record(nameless), {"2.2"})
        self.none(nameless, bench__firmware=Chosen(option="same"))

    def test_packs_counted(self) -> None:
        case = with_history(situation(), packs_ready=2)
        self.none(case, bench__packs_ready=number(2))
        self.none(bench__packs_ready=number(9))
        self.one("bench.packs_ready", Level.CAUTION, "You counted 3 charged. On record: 2 are.", case, bench__packs_ready=number(3))  # fmt: skip
        none = with_history(situation(), packs_ready=0)
        self.one(
            "bench.packs_ready",
            Level.CAUTION,
            "You counted 1 charged. On record: none is.",
            none,
            bench__packs_ready=number(1),
        )
        one = with_history(situation(), packs_ready=1)
        self.one("bench.packs_ready", Level.CAUTION, "You counted 3 charged. On record: 1 is.", one, bench__packs_ready=number(3))  # fmt: skip

    def test_ceiling_and_plan(self) -> None:
        plan = Planned(plan=FlightPlan(work_min=3, height_m=60))
        self.none(field__max_height=number(60), pack__plan=plan)
        self.none(field__max_height=number(59.5), pack__plan=plan)
        self.one("field.max_height", Level.CAUTION, "You entered a highest point of 40 m, but the plan flies at 60 m. The higher one counts.",
                 field__max_height=number(40), pack__plan=plan)  # fmt: skip

    def test_paced_and_plan(self) -> None:
        """Pacing is worth a fifth and a few metres: common practice, no source. The tree of the plan stands 80 m away."""
        self.none(field__launch_circle=number(80))
        self.none(field__launch_circle=number(95))
        self.none(field__launch_circle=number(3))
        self.one("field.launch_circle", Level.CAUTION, "You paced 150 m, but the plan shows a tree at 80 m.", field__launch_circle=number(150))  # fmt: skip
        bare = situation(site=SITE.model_copy(update={"marks": ()}))
        self.none(bare, field__launch_circle=number(150))

    def test_sources_and_plan(self) -> None:
        mast = SITE.model_copy(
            update={"marks": (mark_at(MarkKind.TRANSFORMER, 10, 60, 3), mark_at(MarkKind.TRANSFORMER, 10, 90, 3))}
        )
        case = situation(site=mast)
        self.none(case, field__interference=number(60))
        words = "You paced 200 m to the nearest source, but the plan shows a transformer at 60 m."
        self.assertEqual(said(found(case, field__interference=number(200))["field.interference"][0]), words)
        self.none(field__interference=number(200))

    def test_sky_and_report(self) -> None:
        for code, bad in (("TS", True), ("+FC", True), ("SQ", True), ("-RA", False)):
            weather = dry_weather(phenomena=(phenomenon(code),))
            answers: dict[str, Answer] = {
                "sky__look": Chosen(option="quiet"), "sky__weather": WeatherRead(weather=weather)}  # fmt: skip
            with self.subTest(code):
                all_found = found(**answers)
                self.assertEqual("sky.look" in all_found, bad)
                if bad:
                    self.assertEqual(all_found["sky.look"][0].level, Level.GROUNDED)
                    self.assertIn("You see a quiet sky, but the report says", said(all_found["sky.look"][0]))
        self.none(sky__look=Chosen(option="quiet"))

    def test_fix_and_home(self) -> None:
        here = Position(lat_deg=48.2, lon_deg=15.3)
        home = Chosen(option="here")
        self.none(sensors__home_point=home, sensors__satellites=FixRead(fix=Fix(quality=1, position=here, at=NOW)))
        self.none(sensors__home_point=Chosen(option="wrong"), sensors__satellites=FixRead(fix=Fix()))
        self.none(sensors__home_point=home)
        for fix in (Fix(), Fix(quality=0, position=here), Fix(quality=1)):
            self.one("sensors.home_point", Level.GROUNDED, "You confirmed the home point, but the receiver has no fix.",
                     sensors__home_point=home, sensors__satellites=FixRead(fix=fix))  # fmt: skip

    def test_a_screen_and_home(self) -> None:
        """A screen gives a number, not a position; four satellites make a fix (FAA AC 107-2A, from memory)."""
        home = Chosen(option="here")

        def seen(many: int) -> FixRead:
            return FixRead(screen=ScreenSeen(counts=(CountSeen(after_s=0, satellites=many),)))

        for good in (seen(12), seen(4), FixRead(screen=ScreenSeen(ready=True))):
            self.none(sensors__home_point=home, sensors__satellites=good)
        for none in (seen(3), FixRead(screen=ScreenSeen(ready=False))):
            self.one("sensors.home_point", Level.GROUNDED, "You confirmed the home point, but the receiver has no fix.",
                     sensors__home_point=home, sensors__satellites=none)  # fmt: skip

    def test_the_other_side_of_each_is_a_check_or_a_page(self) -> None:
        ids = {check.id for check in CHECKS}
        self.assertLessEqual({*OTHER_SIDE, *ON_RECORD, *(i for others in OTHER_SIDE.values() for i in others)}, ids)
        self.assertEqual(set(OTHER_SIDE) & set(ON_RECORD), set())

    def test_two_of_one_check_stand_side_by_side(self) -> None:
        """Each rule speaks for itself; what one says does not silence another."""
        case = with_history(situation(), packs_ready=0)
        all_found = found(
            case,
            bench__packs_ready=number(3),
            pack__cells=cells(3.85, 3.85, 3.85),
            pack__percent=ChargeShown(percent=97),
        )
        self.assertEqual(set(all_found), {"bench.packs_ready", "pack.percent"})
        self.assertEqual(PACK.cells, 3)
