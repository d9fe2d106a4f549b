"""Facts from what is on record: each where it comes from, and unknown where nothing is."""

import unittest
from datetime import timedelta

from tests.support import NOW, QUAD, SITE, TRAINER, dry_weather, situation, with_history
from walkround.core.aircraft.parts import PartKind
from walkround.core.base.units import Measure, Quantity
from walkround.core.checklist.history import DECIDES, Done, Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.diagnosis.facts import FRESH, check_for, facts_of, snag_title
from walkround.core.diagnosis.ranking import rank
from walkround.core.diagnosis.symptoms import Cause, Facts, Symptom
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.round.context import Context
from walkround.core.round.plan import make_plan, why_today


def ago(days: float):  # type: ignore[no-untyped-def]
    return NOW - timedelta(days=days)


def facts(case, motor_hours=(), fixes=()) -> Facts:  # type: ignore[no-untyped-def]
    return facts_of(Context(case, {}), motor_hours, fixes)


class OnRecord(unittest.TestCase):
    def test_nothing_on_record_is_nothing_known(self) -> None:
        bare = facts(with_history(situation(weather=None), events=(), done=(), uses=()))
        for name in (
            "compass_days",
            "carried_km",
            "wind_share",
            "satellites",
            "firmware_days",
            "motor_hours",
            "minutes_share",
            "transmitter_percent",
            "pack_c",
        ):
            self.assertIsNone(getattr(bare, name), name)
        self.assertEqual((bare.new_parts, bare.fixed_often, bare.changes), ((), (), ()))

    def test_events_calibrations_and_where_they_were(self) -> None:
        far = SITE.position.model_copy(update={"lat_deg": SITE.position.lat_deg + 3})
        events = (
            Event(kind=EventKind.COMPASS_CALIBRATED, at=ago(40), position=far, site="Far"),
            Event(kind=EventKind.FIRMWARE, at=ago(3), detail="2.4"),
            Event(kind=EventKind.CRASH, at=ago(9)),
            Event(kind=EventKind.PART_REPLACED, part=PartKind.MOTOR, at=ago(5)),
            Event(kind=EventKind.PART_REPLACED, part=PartKind.SERVO, at=ago(200)),
        )
        found = facts(with_history(situation(), events=events))
        self.assertAlmostEqual(found.compass_days or 0, 40)
        self.assertTrue(300 < (found.carried_km or 0) < 360, "three degrees of latitude: 333 km (WGS 84)")
        self.assertEqual(
            (found.new_parts, round(found.crash_days or 0), round(found.firmware_days or 0)), (("motor",), 9, 3)
        )
        self.assertEqual(found.changes, ("new motor", "firmware"))

    def test_field_air_and_charge(self) -> None:
        iron = SITE.model_copy(update={"marks": (mark_at(MarkKind.TRANSFORMER, 90, 8, 4, number=1),)})
        found = facts(situation(site=iron, weather=dry_weather(wind_ms=8, gust_ms=12, temperature_c=3)))
        self.assertAlmostEqual(found.iron_m or 0, 8, delta=0.1)
        self.assertGreaterEqual(found.wind_share or 0, 12 / QUAD.top_speed_ms)
        self.assertEqual(found.pack_c, 3)
        self.assertIsNone(facts(situation()).iron_m)

    def test_old_readings_say_nothing_of_today(self) -> None:
        def read(age: timedelta) -> Facts:
            done = (
                Done(check_id="bench.transmitter", at=NOW - age, value=Quantity(value=22, measure=Measure.PERCENT)),
            )
            return facts(with_history(situation(), done=done))

        self.assertEqual(read(timedelta(hours=1)).transmitter_percent, 22)
        self.assertIsNone(read(FRESH + timedelta(minutes=1)).transmitter_percent)

    def test_hours_of_motors_and_what_is_fixed_again_and_again(self) -> None:
        fixes = ((ago(3), "arm 3"), (ago(20), "arm 3"), (ago(400), "gimbal"), (ago(2), "gimbal"))
        found = facts(situation(), (55.0, 12.0), fixes)
        self.assertAlmostEqual(found.motor_hours or 0, 55)
        self.assertEqual(found.fixed_often, ("arm 3",))
        causes = [one.cause for one in rank((Symptom.NOISE,), found)]
        self.assertIs(causes[0], Cause.LOOSE)

    def test_a_wing_without_a_range_has_an_unknown_balance(self) -> None:
        self.assertTrue(facts(situation(TRAINER)).cg_known)
        blank = TRAINER.model_copy(update={"cg_min_mm": None, "cg_max_mm": None})
        self.assertFalse(facts(situation(blank)).cg_known)
        self.assertTrue(facts(situation(QUAD)).cg_known)


class Waiting(unittest.TestCase):
    """A cause on record puts its test on the list, and the snag is asked nowhere else."""

    def case(self, check: str):  # type: ignore[no-untyped-def]
        snag = Snag(
            id=7,
            on=SnagOn.AIRCRAFT,
            title="Flies in circles: compass?",
            grounds=False,
            check_id=f"{DECIDES}{check}",
            opened_at=ago(0.1),
        )
        recent = Event(kind=EventKind.COMPASS_CALIBRATED, at=ago(1), position=SITE.position, site=SITE.name)
        return with_history(situation(), events=(recent,), snags=(snag,))

    def test_the_test_is_due_with_its_reason(self) -> None:
        compass = next(check for check in CHECKS if check.id == "sensors.compass")
        self.assertIsNone(why_today(compass, with_history(self.case("sensors.compass"), snags=())))
        reason = why_today(compass, self.case("sensors.compass"))
        assert reason is not None
        self.assertEqual(reason.text, "Flies in circles: compass? This decides.")
        ids = make_plan(self.case("sensors.compass")).ids()
        self.assertIn("sensors.compass", ids)
        self.assertNotIn("snag.7", ids)

    def test_a_test_that_does_not_belong_here_leaves_the_snag_asked(self) -> None:
        self.assertIn("snag.7", make_plan(self.case("airframe.rotor_head")).ids())

    def test_the_first_check_that_belongs_decides(self) -> None:
        ranked = next(one for one in rank((Symptom.VIBRATES,), facts(situation())) if one.cause is Cause.PROPELLER)
        self.assertEqual(check_for(ranked, {"airframe.propellers", "airframe.rotor_blades"}), "airframe.propellers")
        self.assertEqual(check_for(ranked, {"airframe.rotor_blades"}), "airframe.rotor_blades")
        self.assertEqual(check_for(ranked, set()), "")
        self.assertEqual(snag_title((Symptom.VIBRATES,), ranked), "Vibrates: propeller or rotor blade?")
