"""What is said of a flight at a moment, subject by subject, and that a subject left out says nothing."""

import unittest
from datetime import timedelta

from tests.support import CHARGED, NOW, PACK, QUAD, SITE, TRAINER, dry_weather, piece, said, situation, with_history
from walkround.core.aircraft.traits import Power, Trait
from walkround.core.airspace.rules import Airspace
from walkround.core.airspace.zone import ActivePeriod, Nearby, Rule, Terms
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.field.marks import MarkKind, Spot, mark_at
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.pack import PackState
from walkround.core.packs.reading import CellReading
from walkround.core.round.context import Context
from walkround.core.round.readiness import FIELD, Subject, airspace_findings, flight_findings, readiness
from walkround.core.round.situation import Situation


def about(
    *subjects: Subject,
    case: Situation | None = None,
    minutes: float | None = None,
    later_h: float = 0,
    **answers: Answer,
) -> tuple[Finding, ...]:
    given = {k.replace("__", "."): piece(k.replace("__", "."), v) for k, v in answers.items()}
    return readiness(Context(case or situation(), given), NOW + timedelta(hours=later_h), minutes, only=subjects)


class Subjects(unittest.TestCase):
    def one(self, level: Level, words: str, *subjects: Subject, **how: object) -> Finding:
        (finding,) = about(*subjects, **how)  # type: ignore[arg-type]
        self.assertEqual((finding.level, said(finding)), (level, words))
        return finding

    def test_everything_in_its_order(self) -> None:
        context = Context(situation(weather=dry_weather()), {})
        whole = readiness(context, NOW)
        parts = [f for subject in Subject for f in readiness(context, NOW, only=(subject,))]
        self.assertEqual(list(whole), parts)
        self.assertEqual(worst(whole), Level.CLEAR)
        self.assertEqual(readiness(context, NOW, only=()), ())
        self.assertEqual(FIELD, (Subject.SUN, Subject.SIGHT, Subject.PEOPLE, Subject.SOURCES))

    def test_nothing_known_is_never_clear(self) -> None:
        case = with_history(situation(weather=None, airspace=None), pack_summary=None)
        found = {f.name: f.level for f in readiness(Context(case, {}), NOW)}
        for name in ("Weather", "Airspace", "Charge"):
            self.assertEqual(found[name], Level.CAUTION, name)

    def test_weather(self) -> None:
        self.one(Level.CAUTION, "The weather is not known yet.", Subject.WEATHER)
        self.assertTrue(about(Subject.WEATHER)[0].remedy)
        self.assertEqual(worst(about(Subject.WEATHER, case=situation(weather=dry_weather(wind_ms=30)))), Level.GROUNDED)
        self.assertEqual(worst(about(Subject.WEATHER, sky__weather=WeatherRead(weather=dry_weather()))), Level.CLEAR)

    def test_under_a_roof(self) -> None:
        """Indoors there is neither sky nor airspace, but there are people."""
        hall = situation(site=SITE.model_copy(update={"indoors": True}), airspace=None)
        outside = (Subject.WEATHER, Subject.HOME, Subject.LIGHT, Subject.AIRSPACE, Subject.SUN)
        self.assertEqual(about(*outside, case=hall, later_h=15), ())

    def test_light_at_its_darker_end(self) -> None:
        """On 16 May at 48.2° N 15.3° E the sun sets at about 18:29 UTC (almanac, from memory to a few minutes)."""
        sunset_h = 10.8
        early = about(Subject.LIGHT, later_h=sunset_h - 2, minutes=10)
        late = about(Subject.LIGHT, later_h=sunset_h - 2, minutes=240)
        self.assertEqual((worst(early), worst(late)), (Level.CLEAR, Level.GROUNDED))
        before_dawn = about(Subject.LIGHT, later_h=-6, minutes=240)
        self.assertEqual(worst(before_dawn), Level.GROUNDED, "it begins in the dark")

    def test_airspace(self) -> None:
        blind = situation(airspace=None)
        self.one(Level.CAUTION, "There is no airspace data for this field.", Subject.AIRSPACE, case=blind)
        self.assertEqual(about(Subject.AIRSPACE, case=blind, field__airspace=Chosen(option="free")), ())
        self.assertTrue(about(Subject.AIRSPACE))

    def test_the_pack_by_its_record(self) -> None:
        self.assertEqual(about(Subject.PACK), ())
        aside = situation(pack=PACK.model_copy(update={"state": PackState.QUARANTINED}))
        self.assertIn("Inspect", self.one(Level.GROUNDED, "Pack P1 is quarantined.", Subject.PACK, case=aside).remedy)
        gone = situation(pack=PACK.model_copy(update={"state": PackState.RETIRED}))
        self.assertEqual(
            self.one(Level.GROUNDED, "Pack P1 is retired.", Subject.PACK, case=gone).remedy, "Choose another pack."
        )
        low = with_history(situation(), pack_summary=CHARGED.model_copy(update={"weakest_v": 2.8}))
        (finding,) = about(Subject.PACK, case=low)
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertTrue(said(finding).startswith("Pack P1: A cell is at 2.80 V"))
        read = CellsRead(reading=CellReading(cells_v=(4.19, 4.19, 4.19), total_v=12.57))
        self.assertEqual(about(Subject.PACK, case=low, pack__cells=read), (), "what was read now counts")
        self.assertEqual(about(Subject.PACK, case=with_history(situation(), pack_summary=None)), ())

    def test_the_pack_sags_in_the_cold(self) -> None:
        frost = situation(weather=dry_weather(temperature_c=-3, dew_point_c=-9))
        (finding,) = about(Subject.PACK, case=frost)
        self.assertEqual(finding.level, Level.CAUTION)
        self.assertIn("at -3 °C it sags", said(finding).replace("\u2212", "-"))

    def test_the_plan(self) -> None:
        names = [f.name for f in about(Subject.PLAN)]
        self.assertNotIn("Charge", names)
        unknown = with_history(situation(), pack_summary=None)
        found = about(Subject.PLAN, case=unknown)
        self.assertEqual((found[0].name, found[0].level), ("Charge", Level.CAUTION))
        self.assertEqual(
            said(found[0]), "The state of charge of this pack is not known. The plan is calculated for a full one."
        )
        self.assertEqual(found[0].remedy, "Measure the pack before you rely on it.")
        self.assertGreater(len(found), 1)
        self.assertTrue(any("this pack" in said(f) for f in found[1:]))
        half = with_history(
            situation(), pack_summary=CHARGED.model_copy(update={"charge": ChargeRange(low=25, mid=30, high=35)})
        )
        self.assertEqual(worst(about(Subject.PLAN, case=half)), Level.GROUNDED)

    def test_the_plan_of_a_tank_and_of_none(self) -> None:
        engine = TRAINER.model_copy(update={"power": Power.LIQUID_FUEL})
        case = situation(engine)
        self.assertEqual(
            said(about(Subject.PLAN, case=case)[0]),
            "The fuel level is not known. The plan is calculated for a full one.",
        )
        self.assertEqual(about(Subject.PLAN, case=case)[0].remedy, "Check the fuel level first.")
        self.assertTrue(any("the tank" in said(f) for f in about(Subject.PLAN, case=case)[1:]))
        glider = TRAINER.model_copy(
            update={"power": Power.NONE, "rotors": 0, "traits": TRAINER.traits - {Trait.PROPELLERS}}
        )
        self.one(Level.CLEAR, "4.0 min planned. Without a motor, lift decides.", Subject.PLAN, case=situation(glider))

    def test_half_the_pack_by_practice(self) -> None:
        """More than half of what it holds grounds for those who charge for the plan, and is a caution for those who charge full."""
        half = with_history(
            situation(planned_min=10),
            pack_summary=CHARGED.model_copy(update={"charge": ChargeRange(low=70, mid=75, high=80)}),
        )
        by_plan = half.model_copy(update={"methods": half.methods.model_copy(update={"charge": "plan"})})
        self.assertEqual(
            (worst(about(Subject.PLAN, case=half)), worst(about(Subject.PLAN, case=by_plan))),
            (Level.CAUTION, Level.GROUNDED),
        )

    def test_asked_first(self) -> None:
        ring = Terms(name="Z", rule=Rule.ASK)
        zone = Nearby(terms=ring, away_m=0, bearing_deg=0, over_launch=True)
        case = situation(airspace=Airspace(near=(zone,), sets=(("N", NOW, True),)))
        for option, expected in (("asks", Level.CAUTION), ("free", Level.GROUNDED)):
            self.assertEqual(worst(about(Subject.AIRSPACE, case=case, field__airspace=Chosen(option=option))), expected)
        later = ring.model_copy(update={"periods": (ActivePeriod(begin=NOW + timedelta(minutes=30)),)})
        soon = Airspace(near=(zone.model_copy(update={"terms": later}),), sets=(("N", NOW, True),))
        for minutes, name in ((10, "Zone later"), (40, "Zone")):
            self.assertEqual(airspace_findings(soon, SITE, 40, NOW, minutes)[0].name, name)
            self.assertEqual(about(Subject.AIRSPACE, case=situation(airspace=soon), minutes=minutes)[0].name, name)

    def test_the_sun_in_the_box(self) -> None:
        """At 06:00 UTC in mid-May at 15° E the sun stands some 22° high, in the east: a box east of the pilot looks into it."""
        east = tuple(Spot(east_m=x, north_m=y) for x, y in ((30, -60), (200, -60), (200, 60), (30, 60)))
        case = situation(site=SITE.model_copy(update={"flight_area": east}))
        self.assertGreater(worst(about(Subject.SUN, case=case, later_h=-2)), Level.CLEAR)
        hall = situation(site=SITE.model_copy(update={"flight_area": east, "indoors": True}))
        self.assertEqual(about(Subject.SUN, case=hall, later_h=-2), ())

    def test_the_field(self) -> None:
        near = SITE.model_copy(update={"marks": (mark_at(MarkKind.TRANSFORMER, 10, 6, 3),)})
        self.assertEqual(about(Subject.SOURCES)[0].level if about(Subject.SOURCES) else Level.CLEAR, Level.CLEAR)
        self.assertGreater(worst(about(Subject.SOURCES, case=situation(site=near))), Level.CLEAR)
        far = situation(site=SITE.model_copy(update={"flight_radius_m": 900.0}))
        self.assertGreater(worst(about(Subject.SIGHT, case=far)), Level.CLEAR)
        self.assertEqual(worst(about(Subject.SIGHT)), Level.CLEAR)


class TriedOut(unittest.TestCase):
    def test_a_plan_that_is_tried(self) -> None:
        context = Context(situation(weather=dry_weather()), {})
        short, long = FlightPlan(work_min=2), FlightPlan(work_min=60)
        self.assertEqual(worst(flight_findings(context, short, None)), Level.CLEAR)
        self.assertEqual(worst(flight_findings(context, long, None)), Level.GROUNDED)
        empty = ChargeRange(low=10, mid=12, high=14)
        self.assertEqual(worst(flight_findings(context, short, empty)), Level.GROUNDED)
        self.assertIn("Way home", {f.name for f in flight_findings(context, short, None)})

    def test_a_height_that_is_tried(self) -> None:
        zones = situation().airspace
        assert zones is not None
        self.assertEqual(worst(airspace_findings(zones, SITE, 40, NOW, 10)), worst(about(Subject.AIRSPACE)))
        self.assertEqual(QUAD.rotors, 4)
