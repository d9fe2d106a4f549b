"""Never: what must not come out clear whatever the numbers, for moments, packs, plans, fields and answers."""

import math
import unittest
from datetime import timedelta

import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import CHARGED, NOW, PACK, QUAD, SITE, dry_weather, piece, situation, variants, with_history
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.choice import Chosen
from walkround.core.answers.flight import Planned
from walkround.core.answers.tick import Passed
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level, worst
from walkround.core.base.geodesy import parse_position
from walkround.core.checklist.history import Event, EventKind
from walkround.core.checklist.library import CHECKS, GATES
from walkround.core.field.site import LaunchPlatform
from walkround.core.field.sun import judge_daylight, sun_height_deg
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.flight.session import Gear, GearReading, plan_session
from walkround.core.flight.speed_home import judge_turn_back
from walkround.core.packs.bands import judge_cells
from walkround.core.packs.reading import CellReading
from walkround.core.round.context import Context
from walkround.core.round.contradictions import disagreements
from walkround.core.round.due import BEFORE_ALL
from walkround.core.round.judge import judge
from walkround.core.round.plan import make_plan
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.record import sign, signed_walk
from walkround.core.round.walk import walk
from walkround.core.round.window import window
from walkround.demo.walker import walked_evidence

BY_ID = {check.id: check for check in CHECKS}


class Moments(unittest.TestCase):
    @given(st.floats(0, 24), st.floats(0, 300), st.floats(0, 300))
    def test_a_longer_flight_is_never_lighter(self, hour: float, minutes: float, more: float) -> None:
        context, begin = Context(situation(), {}), NOW + timedelta(hours=hour)
        short, long = (worst(readiness(context, begin, m, only=(Subject.LIGHT,))) for m in (minutes, minutes + more))
        landing = judge_daylight(sun_height_deg(SITE.position, begin + timedelta(minutes=minutes)))
        self.assertGreaterEqual(short, worst(landing), "the light at the landing counts")
        if sun_height_deg(SITE.position, begin + timedelta(minutes=minutes + more)) <= 0:
            self.assertGreaterEqual(
                long, worst(judge_daylight(sun_height_deg(SITE.position, begin + timedelta(minutes=minutes + more))))
            )

    @given(st.integers(0, 47), st.integers(0, 59))
    def test_an_hour_ahead_is_as_dark_as_its_darker_end(self, hour: int, minute: int) -> None:
        begin = NOW + timedelta(hours=hour, minutes=minute)
        found = window(((dry_weather(at=begin),),), situation(), 60)
        ((hour_,), column) = found.hours, found.rows.index("Daylight")
        cell = hour_.found[column]
        ends = (sun_height_deg(SITE.position, at) for at in (begin, begin + timedelta(hours=1)))
        self.assertEqual(Level.CLEAR if cell is None else cell.level, max(worst(judge_daylight(deg)) for deg in ends))


class Packs(unittest.TestCase):
    @given(st.floats(1.0, 4.6))
    def test_a_total_alone_never_reads_better_than_its_mean_in_every_cell(self, mean_v: float) -> None:
        def level(reading: CellReading) -> Level:
            return worst(judge_cells(reading, PACK, "volts", planned_percent=30, second_hop=False))

        total = level(CellReading(total_v=3 * mean_v))
        self.assertGreaterEqual(total, level(CellReading(cells_v=(mean_v,) * 3, total_v=3 * mean_v)))
        self.assertGreaterEqual(total, Level.CAUTION)

    @given(st.floats(2.0, 4.19), st.floats(0, 1))
    def test_the_record_of_a_worse_pack_never_reads_better(self, weakest_v: float, less: float) -> None:
        def level(cell_v: float) -> Level:
            known = CHARGED.model_copy(update={"weakest_v": cell_v, "imbalance_v": 4.2 - cell_v})
            return worst(
                readiness(Context(with_history(situation(), pack_summary=known), {}), NOW, only=(Subject.PACK,))
            )

        def by_total(mean_v: float) -> Level:
            known = CHARGED.model_copy(
                update={"weakest_v": None, "highest_v": None, "imbalance_v": None, "mean_v": mean_v}
            )
            return worst(
                readiness(Context(with_history(situation(), pack_summary=known), {}), NOW, only=(Subject.PACK,))
            )

        self.assertGreaterEqual(level(weakest_v - less), level(weakest_v))
        self.assertGreaterEqual(by_total(weakest_v - less), by_total(weakest_v))
        self.assertEqual(by_total(2.5), Level.GROUNDED, "the mean bounds the weakest cell")
        self.assertEqual(level(2.5), Level.GROUNDED)


class Fields(unittest.TestCase):
    @given(st.floats(20, 2_000), st.floats(0, 360))
    def test_the_flying_circle_lies_in_the_flying_area(self, radius: float, towards: float) -> None:
        site = SITE.model_copy(update={"flight_radius_m": radius, "flight_area": ()})
        area = shapely.Polygon(site.flight_polygon()).buffer(1e-6)
        x, y = site.launch.xy
        turn = math.radians(towards)
        self.assertTrue(area.contains(shapely.Point(x + radius * math.sin(turn), y + radius * math.cos(turn))))

    @given(
        st.floats(0.001, 89), st.floats(0.001, 179), st.sampled_from("NS"), st.sampled_from("EW"), st.sampled_from("+-")
    )
    def test_a_sign_beside_a_letter_is_refused(self, lat: float, lon: float, ns: str, ew: str, sign: str) -> None:
        for text in (f"{sign}{lat:.4f} {ns}, {lon:.4f} {ew}", f"{lat:.4f} {ns}, {sign}{lon:.4f} {ew}"):
            with self.assertRaises(InputError):
                parse_position(text)

    @given(st.integers(0, 1000).map(lambda n: n / 10), st.none() | st.integers(0, 1000).map(lambda n: n / 10))
    def test_turning_back_later_than_computed_grounds(self, set_percent: float, computed: float | None) -> None:
        level = worst(judge_turn_back(set_percent, computed))
        self.assertEqual(level is Level.GROUNDED, computed is None or set_percent < computed)


class Answers(unittest.TestCase):
    @given(st.sampled_from([c for c in CHECKS if c.ask.kind == "choice"]), st.sampled_from(list(LaunchPlatform)))
    def test_returning_to_where_you_no_longer_are_grounds(self, check, launch_platform: LaunchPlatform) -> None:  # type: ignore[no-untyped-def]
        case = situation(site=SITE.model_copy(update={"launch_platform": launch_platform}))
        if check.id != "link.lost_action":
            check = BY_ID["link.lost_action"]
        level = worst(judge(check, piece(check.id, Chosen(option="return")), Context(case, {})))
        self.assertEqual(level is Level.CLEAR, launch_platform is LaunchPlatform.LAND)

    @given(st.lists(st.floats(3.2, 4.2), min_size=3, max_size=3))
    def test_a_pack_confirmed_full_is_full(self, cells_v: list[float]) -> None:
        """12.4 V on three cells is what pilots call charged."""
        answers = {
            "first.full_pack": Passed(),
            "pack.cells": CellsRead(reading=CellReading(cells_v=tuple(cells_v), total_v=sum(cells_v))),
        }
        found = disagreements(Context(situation(), {key: piece(key, a) for key, a in answers.items()}))
        low = min(cells_v) < 12.4 / 3 - 1e-6
        self.assertEqual("first.full_pack" in found, low)

    @given(st.integers(1, 6), st.integers(1, 4))
    @examples(30)
    def test_the_timer_is_that_of_the_plan(self, minutes: int, more: int) -> None:
        def timer(work_min: float) -> float:
            given_ = {"pack.plan": piece("pack.plan", Planned(plan=FlightPlan(work_min=work_min)))}
            return Context(situation(), given_).flight_clock().timer_min

        self.assertAlmostEqual(timer(minutes + more) - timer(minutes), more, delta=0.25 * more + 0.05)

    def test_a_maiden_flight_is_a_new_build(self) -> None:
        for preset in PRESETS.values():
            case = situation(preset.model_copy(update={"id": 1, "name": "New"}))
            maiden = {p.check.id for p in make_plan(with_history(case, aircraft_flown=False)).checks}
            built = Event(kind=EventKind.NEW_BUILD, at=BEFORE_ALL)
            noted = {p.check.id for p in make_plan(with_history(case, events=(*case.history.events, built))).checks}
            with self.subTest(preset.kind):
                self.assertGreater(len(noted), len({p.check.id for p in make_plan(case).checks}))
                self.assertLessEqual(noted, maiden)
        self.assertEqual(QUAD.rotors, 4)


class AfterTheFlight(unittest.TestCase):
    @given(st.sampled_from(variants()))
    @examples(12)
    def test_no_hand_before_it_is_disarmed_and_unplugged(self, aircraft: Aircraft) -> None:
        case = situation(aircraft)
        evidence = walked_evidence(case, NOW)
        flown = signed_walk(sign(walk(case, evidence), 1, tuple(evidence), "T", NOW), ())
        here = {state.planned.check.id: state for state in flown.states}
        touched = set(next(gate for gate in GATES if gate.id == "off-first").blocks) & set(here)
        self.assertTrue(all(here[i].gate is not None for i in touched), touched)
        self.assertIn("after.look", touched)

    @given(st.floats(0, 400), st.floats(50, 100))
    def test_an_old_charge_of_the_gear_is_not_today_s(self, hours: float, charge: float) -> None:
        read = GearReading(gear=Gear.GOGGLES, at=NOW - timedelta(hours=hours), low=charge, high=charge)
        (_, goggles) = plan_session(
            [Gear.GOGGLES], {Gear.GOGGLES: read}, {}, flights=1, flight_min=5, between_min=5, packs_ready=1, now=NOW
        ).things
        self.assertEqual(goggles.charge is None, hours > 18)
        self.assertEqual(bool(goggles.out_in), hours > 18)
