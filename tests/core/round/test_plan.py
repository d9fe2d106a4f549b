"""The plan: what applies today and why; the same situation gives the same plan."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import (
    NOW,
    QUAD,
    SITE,
    TRAINER,
    calibrated,
    planned_ids,
    said,
    season_done,
    situation,
    with_history,
)
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, Kind, Power
from walkround.core.base.geodesy import Position
from walkround.core.checklist.check import Depth, Frequency, Station
from walkround.core.checklist.history import Done, Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.pilot.methods import MethodTopic
from walkround.core.round.method_effects import effects, with_method
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import ChosenDepth


def why(case, check_id: str) -> str:  # type: ignore[no-untyped-def]
    return said(next(p.why_today for p in make_plan(case).checks if p.check.id == check_id))


class TwoKinds(unittest.TestCase):
    def test_each_has_its_own(self) -> None:
        quad, wing = planned_ids(situation()), planned_ids(situation(TRAINER))
        self.assertIn("airframe.arms", quad - wing)
        self.assertIn("sensors.satellites", quad - wing)
        self.assertIn("airframe.bands", wing - quad)
        self.assertIn("controls.surfaces", wing - quad)
        self.assertIn("power.still_short", wing - quad)
        self.assertGreaterEqual(len(quad), 45)
        self.assertGreaterEqual(len(wing), 45)

    def test_every_station_has_work_or_says_so(self) -> None:
        for aircraft in (QUAD, TRAINER):
            plan = make_plan(situation(aircraft))
            empty = [s for s in Station if not plan.at(s)]
            self.assertEqual(empty, [])

    def test_stations_come_in_walking_order(self) -> None:
        order = [list(Station).index(p.check.station) for p in make_plan(situation()).checks]
        self.assertEqual(order, sorted(order))


SHORT = ChosenDepth(depth=Depth.SHORT, why=("A later launch today",))


class Cadences(unittest.TestCase):
    def test_day_checks_leave_after_the_first_round_of_the_day(self) -> None:
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS)
        later = with_history(situation(), done=done, rounds_today=1)
        ids = planned_ids(later)
        self.assertFalse(ids & {c.id for c in CHECKS if c.frequency is Frequency.DAY})
        self.assertIn("airframe.shell", ids)
        self.assertEqual(why(later, "airframe.shell"), "Second launch today.")

    def test_yesterday_does_not_count(self) -> None:
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=20)) for c in CHECKS)
        self.assertIn("field.airspace", planned_ids(with_history(situation(), done=done)))

    def test_the_day_is_that_of_the_field(self) -> None:
        """23:30 UTC on the 15th is the 16th in Vienna."""
        done = (Done(check_id="field.airspace", at=NOW.replace(day=15, hour=23, minute=30)),)
        self.assertNotIn("field.airspace", planned_ids(with_history(situation(), done=done)))

    def test_short_list_of_the_second_launch(self) -> None:
        later = with_history(situation(), rounds_today=1)
        ids = planned_ids(later.model_copy(update={"depth": SHORT}))
        self.assertNotIn("airframe.shell", ids)
        self.assertTrue({"airframe.propellers", "pack.again", "sensors.home_point", "power.inert_again"} <= ids)
        self.assertTrue({"first.hover", "after.look"} <= ids, "what follows the signature stays")

    def test_season_checks_come_when_due(self) -> None:
        due = with_history(situation(), done=())
        self.assertIn("bench.season_look", planned_ids(due))
        self.assertNotIn("bench.season_look", planned_ids(situation()))


BENCH_TEST = {"bench.propellers_off", "bench.failsafe", "bench.propellers_back"}
# What an event raises beyond a quiet first launch of the day, as the practice gives it; common practice, no source.
RAISES_QUAD: tuple[tuple[EventKind, set[str]], ...] = (
    (EventKind.FIRMWARE, BENCH_TEST | {
        "bench.how_it_works", "bench.settings_reread", "bench.release_notes", "bench.gimbal_calibrated", "sensors.compass", "sensors.accelerometer",
        "controls.lean"}),
    (EventKind.NEW_BUILD, BENCH_TEST | {
        "bench.motors_stop", "bench.motor_spin", "bench.garden_fix", "bench.coordinates", "bench.papers",
        "bench.bound", "airframe.mounts", "airframe.hangs_level", "sensors.compass", "sensors.accelerometer", "pack.alarm",
        "link.range", "link.polling", "controls.lean"}),
    (EventKind.CRASH, {
        "bench.season_look", "bench.gimbal_calibrated", "airframe.mounts", "sensors.compass", "sensors.accelerometer", "link.range",
        "controls.lean"}),
    (EventKind.HARD_LANDING, {"bench.gimbal_calibrated", "airframe.mounts", "sensors.compass", "sensors.accelerometer"}),
    (EventKind.REPAIR, BENCH_TEST | {
        "bench.settings_reread", "bench.motor_spin", "airframe.hangs_level", "sensors.compass", "link.range", "controls.lean"}),
    (EventKind.CARRIED_FAR, {"bag.arrival", "sensors.compass"}),
    (EventKind.BORROWED, {"bench.how_it_works", "bench.settings_reread", "bench.borrowed", "link.range", "link.polling"}),
)  # fmt: skip
RAISES_TRAINER: tuple[tuple[EventKind, set[str]], ...] = (
    (EventKind.NEW_BUILD, BENCH_TEST | {
        "bench.motors_stop", "bench.rates", "bench.papers", "bench.board_voltage", "bench.bound",
        "pack.alarm", "link.range"}),
    (EventKind.CRASH, {"bench.season_look", "link.range"}),
    (EventKind.BORROWED, {"bench.how_it_works", "bench.settings_reread", "bench.borrowed", "bench.rates", "power.trims", "link.range"}),
)  # fmt: skip
PARTS_QUAD: tuple[tuple[PartKind, set[str]], ...] = (
    (PartKind.PROPELLER, {"airframe.new_propeller"}),
    (
        PartKind.MOTOR,
        {
            "bench.propellers_off",
            "bench.propellers_back",
            "bench.motors_stop",
            "bench.motor_spin",
            "airframe.mounts",
            "sensors.compass",
            "controls.lean",
        },
    ),
    (PartKind.RECEIVER, BENCH_TEST | {"bench.garden_fix", "bench.bound", "link.range"}),
    (PartKind.CAMERA, {"bench.gimbal_calibrated"}),
    (PartKind.OTHER, set()),
)


class Events(unittest.TestCase):
    def test_each_event_raises_exactly_its_checks_until_they_are_done(self) -> None:
        for aircraft, table in ((QUAD, RAISES_QUAD), (TRAINER, RAISES_TRAINER)):
            quiet = planned_ids(situation(aircraft))
            for kind, expected in table:
                with self.subTest(f"{aircraft.name} {kind}"):
                    event = Event(kind=kind, at=NOW - timedelta(days=3), detail="2.4")
                    case = with_history(situation(aircraft), events=(*calibrated(30), event))
                    self.assertEqual(planned_ids(case) - quiet, expected)
                    done = tuple(Done(check_id=i, at=NOW - timedelta(days=1)) for i in {c.id for c in CHECKS})
                    settled = with_history(case, done=done, events=(*calibrated(2), event))
                    self.assertEqual(planned_ids(settled) - quiet, set())

    def test_a_replaced_part_raises_what_belongs_to_it(self) -> None:
        quiet = planned_ids(situation())
        for part, expected in PARTS_QUAD:
            with self.subTest(part):
                event = Event(kind=EventKind.PART_REPLACED, part=part, at=NOW - timedelta(days=3))
                case = with_history(situation(), events=(*calibrated(30), event))
                self.assertEqual(planned_ids(case) - quiet, expected)
                for check_id in expected - {"sensors.compass"}:
                    self.assertEqual(why(case, check_id), f"New {part}, 13 May; not checked since.")

    def test_the_plan_says_which_event_and_when(self) -> None:
        event = Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(days=3), detail="2.4")
        case = with_history(situation(), events=(*calibrated(30), event))
        self.assertEqual(why(case, "bench.settings_reread"), "Firmware 2.4, 13 May; not checked since.")
        crash = with_history(
            situation(), events=(*calibrated(1), Event(kind=EventKind.CRASH, at=NOW - timedelta(days=2)))
        )
        self.assertEqual(why(crash, "airframe.propellers"), "Crash, 14 May; not checked since.")

    def test_after_firmware_the_whole_list_is_walked_again(self) -> None:
        morning = NOW - timedelta(hours=2)
        done = tuple(Done(check_id=c.id, at=morning) for c in CHECKS)
        second = with_history(situation(), done=done, rounds_today=1).model_copy(update={"depth": SHORT})
        self.assertNotIn("airframe.shell", planned_ids(second))
        self.assertNotIn("field.airspace", planned_ids(second))
        update = Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(hours=1), detail="2.5")
        again = planned_ids(with_history(second, events=(*calibrated(), update)))
        self.assertLessEqual({"airframe.shell", "field.airspace", "pack.temperature"}, again)

    def test_what_the_logbook_shows_by_itself(self) -> None:
        far = Position(lat_deg=53.7, lon_deg=8.1)
        carried = with_history(
            situation(),
            aircraft_last_flight_at=NOW - timedelta(days=5),
            aircraft_last_position=far,
            aircraft_last_site="Quay",
        )
        # Geodesic from a reference library (PROJ), whole kilometres.
        from pyproj import Geod

        km = Geod(ellps="WGS84").inv(8.1, 53.7, SITE.position.lon_deg, SITE.position.lat_deg)[2] / 1000
        self.assertEqual(
            why(carried, "bag.arrival"), f"Transported a long way ({km:.0f} km since Quay), 11 May; not checked since."
        )
        near = with_history(carried, aircraft_last_position=SITE.position)
        self.assertNotIn("bag.arrival", planned_ids(near))
        new = with_history(situation(), site_flown=False)
        self.assertLessEqual({"field.site_rules", "field.phone_signal", "field.airspace"}, planned_ids(new))
        self.assertEqual(why(new, "field.site_rules"), "Your first flight at Test Meadow; not checked since.")
        looked = (*season_done(), Done(check_id="field.site_rules", at=NOW - timedelta(hours=1)))
        self.assertNotIn("field.site_rules", planned_ids(with_history(new, done=looked)))
        idle = with_history(situation(), aircraft_last_flight_at=NOW - timedelta(days=90))
        self.assertNotIn("bench.cables", planned_ids(idle))  # looked at ten days ago, after the limit of 60 days
        old = tuple(Done(check_id=c.id, at=NOW - timedelta(days=40)) for c in CHECKS)
        self.assertEqual(
            why(with_history(idle, done=old), "bench.cables"), "Long break, 60 days over on 16 Apr; not checked since."
        )


class Snags(unittest.TestCase):
    def test_open_snags_are_checks_at_their_station(self) -> None:
        snags = (
            Snag(id=7, on=SnagOn.PACK, title="Swollen", grounds=True, opened_at=NOW - timedelta(days=4)),
            Snag(id=8, on=SnagOn.AIRCRAFT, title="Scratch", grounds=False, opened_at=NOW),
        )
        plan = make_plan(with_history(situation(), snags=snags))
        first = plan.at(Station.PACK)[0]
        self.assertEqual((first.check.id, first.check.grounds), ("snag.7", True))
        self.assertIn("Carry it outdoors", first.check.caution)
        self.assertEqual(said(first.why_today), "Found 12 May and not closed.")
        self.assertEqual(plan.at(Station.AIRFRAME)[0].check.id, "snag.8")


@st.composite
def described(draw: st.DrawFn, like: Aircraft | None = None) -> Aircraft:
    """Any aircraft that can be described; with ``like``, the same one with more traits."""
    kind = like.kind if like else draw(st.sampled_from(list(Kind)))
    frame = like.frame if like else draw(st.sampled_from(list(FRAME_MOTORS[kind])))
    rotors = like.rotors if like else draw(st.sampled_from(FRAME_MOTORS[kind][frame]))
    power = (
        like.power
        if like
        else (Power.NONE if rotors == 0 else draw(st.sampled_from([Power.ELECTRIC, Power.LIQUID_FUEL])))
    )
    traits = set(like.traits) if like else set()
    for group in KIND_GROUPS[kind]:
        if not group.one:
            traits |= draw(st.frozensets(st.sampled_from(group.traits)))
        elif not traits & set(group.traits):
            traits |= draw(st.frozensets(st.sampled_from(group.traits), max_size=1))
    base = next(a for a in PRESETS.values() if a.kind is kind).model_dump()
    return Aircraft.model_validate(base | {"frame": frame, "rotors": rotors, "power": power, "traits": traits})


class Properties(unittest.TestCase):
    @given(described())
    def test_same_situation_same_plan(self, aircraft: Aircraft) -> None:
        case = situation(aircraft)
        again = type(case).model_validate_json(case.model_dump_json())
        self.assertEqual(make_plan(case), make_plan(again))

    @given(st.data())
    def test_more_traits_never_lose_a_check(self, data: st.DataObject) -> None:
        few = data.draw(described())
        more = data.draw(described(like=few))
        self.assertLessEqual(few.traits, more.traits)
        lost = planned_ids(situation(few)) - planned_ids(situation(more))
        # What a trait takes away another check asks in its place.
        self.assertLessEqual(lost, {"link.lost_action_board"})
        if lost:
            self.assertIn("link.lost_action", planned_ids(situation(more)))

    @given(described(), st.sampled_from(list(MethodTopic)), st.integers(0, 3), st.booleans())
    def test_no_practice_drops_a_grounding_check_silently(
        self, aircraft: Aircraft, topic: MethodTopic, rounds: int, all_done: bool
    ) -> None:
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS) if all_done else ()
        case = with_history(situation(aircraft), rounds_today=rounds, done=done)
        before = {p.check.id for p in make_plan(case).checks if p.check.grounds}
        for effect in effects(case, topic):
            after = planned_ids(with_method(case, topic, effect.method.id))
            self.assertEqual(before - after, {c.id for c in effect.go if c.grounds})
            # What an effect says is what the plan really does.
            self.assertEqual({c.id for c in effect.appear}, after - planned_ids(case))
            self.assertEqual({c.id for c in effect.go}, planned_ids(case) - after)
            if rounds == 0 and topic is not MethodTopic.ROUND:
                # On the first round only what belongs to one method alone goes with it.
                self.assertTrue(all(c.method for c in effect.go if c.due == ""))
