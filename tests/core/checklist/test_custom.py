"""The pilot's own list: reworded, moved, made rarer, switched off, added to, set back, and seen by two tabs."""

import unittest
from datetime import timedelta

from msgspec.structs import replace

from tests.support import NOW, QUAD, piece, planned_ids, said, situation, with_history
from walkround.core.aircraft.aircraft import For
from walkround.core.aircraft.traits import Kind
from walkround.core.answers.number import Measured
from walkround.core.base.errors import ConflictError, InputError, MissingError
from walkround.core.base.finding import Level
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Frequency, Phase, Station
from walkround.core.checklist.custom import (
    CheckChange,
    CustomChecklist,
    add,
    add_steps,
    change,
    checklist_of,
    move,
    rarer,
    set_back,
    stays,
)
from walkround.core.checklist.history import Done
from walkround.core.checklist.library import CHECKS, GATES
from walkround.core.checklist.own_checks import custom_check
from walkround.core.round.plan import make_plan
from walkround.core.round.walk import walk
from walkround.demo.walker import walked_evidence

NOTHING = CustomChecklist()


def titled(title: str, **more: object):  # type: ignore[no-untyped-def]
    values = {"station": Station.AIRFRAME, "how": "", "why": "", "grounds": True, "frequency": Frequency.LAUNCH}
    return lambda number: custom_check(number, title=title, **(values | more))  # type: ignore[arg-type]


class Changes(unittest.TestCase):
    def test_reworded_and_set_back(self) -> None:
        own = change(NOTHING, CheckChange(check_id="field.path", title="Walk to the hedge and back"), 0)
        planned = next(p for p in make_plan(situation(custom_checklist=own)).checks if p.check.id == "field.path")
        self.assertEqual((planned.check.title, planned.check.origin), ("Walk to the hedge and back", "changed"))
        self.assertIn("Look for wires, trees, masts, buildings, water and private ground.", planned.check.how)
        back = set_back(own, "field.path", own.revision)
        self.assertEqual((back.changes, back.revision), ((), 2))
        self.assertEqual(checklist_of(back).checks, checklist_of(NOTHING).checks)

    def test_words_as_built_in_are_no_change(self) -> None:
        check = next(c for c in CHECKS if c.id == "field.path")
        same = CheckChange(
            check_id=check.id, title=check.title, how=check.how, why=check.why, frequency=check.frequency
        )
        self.assertEqual(change(NOTHING, same, 0).changes, ())

    def test_a_grounding_check_is_switched_off_only_with_a_reason_that_stands_on_every_verdict(self) -> None:
        with self.assertRaisesRegex(InputError, "Give a reason; it will be shown on every verdict") as caught:
            change(NOTHING, CheckChange(check_id="field.path", off=True), 0)
        self.assertEqual(caught.exception.field, "reason")
        own = change(NOTHING, CheckChange(check_id="field.path", off=True, reason="my own garden"), 0)
        case = situation(custom_checklist=own)
        self.assertNotIn("field.path", planned_ids(case))
        (left,) = make_plan(case).left_out
        self.assertEqual(
            (left.title, left.how, left.reason), ("Walk the flight path and look up", "switched off", "my own garden")
        )
        walked = walk(case, walked_evidence(case, NOW))
        self.assertEqual(walked.verdict.level, Level.CAUTION)
        self.assertIn("Your reason: my own garden", said(walked.left_out[0]))
        self.assertIn(walked.left_out[0], walked.verdict.cautions)

    def test_what_only_spoils_the_day_goes_without_a_reason_and_without_a_word(self) -> None:
        own = change(NOTHING, CheckChange(check_id="bench.card", off=True), 0)
        plan = make_plan(situation(custom_checklist=own))
        self.assertNotIn("bench.card", plan.ids())
        self.assertEqual(plan.left_out, ())

    def test_rarer_needs_a_reason_too_and_more_often_does_not(self) -> None:
        self.assertTrue(rarer(Frequency.SEASON, Frequency.LAUNCH))
        with self.assertRaisesRegex(InputError, "Give a reason"):
            change(NOTHING, CheckChange(check_id="airframe.shell", frequency=Frequency.DAY), 0)
        own = change(
            NOTHING,
            CheckChange(
                check_id="airframe.shell", frequency=Frequency.DAY, reason="Pack the batteries in fire-resistant bags"
            ),
            0,
        )
        second = with_history(
            situation(custom_checklist=own),
            rounds_today=1,
            done=(Done(check_id="airframe.shell", at=NOW - timedelta(hours=1)),),
        )
        self.assertEqual([x.how for x in make_plan(second).left_out], ["asked less often (first launch of the day)"])
        self.assertEqual(make_plan(situation(custom_checklist=own)).left_out, ())  # on the first launch it is asked for
        often = change(NOTHING, CheckChange(check_id="field.path", frequency=Frequency.LAUNCH), 0)
        self.assertEqual(often.changes[0].frequency, Frequency.LAUNCH)

    def test_unknown_checks(self) -> None:
        for call in (
            lambda: change(NOTHING, CheckChange(check_id="field.ufo"), 0),
            lambda: set_back(NOTHING, "custom.9", 0),
        ):
            with self.assertRaises(MissingError):
                call()


class Order(unittest.TestCase):
    def names(self, own: CustomChecklist, station: Station) -> list[str]:
        return [c.id for c in checklist_of(own).checks if c.station is station]

    def test_moved_inside_its_station(self) -> None:
        before = self.names(NOTHING, Station.SKY)
        own = move(NOTHING, before[2], -1, 0)
        self.assertEqual(self.names(own, Station.SKY), [before[0], before[2], before[1], *before[3:]])
        own = move(own, before[0], -1, own.revision)  # already first: stays
        self.assertEqual(self.names(own, Station.SKY)[0], before[0])
        self.assertEqual(self.names(own, Station.BENCH), self.names(NOTHING, Station.BENCH))

    def test_a_check_that_the_order_does_not_know_stays_behind_its_neighbour(self) -> None:
        before = self.names(NOTHING, Station.SKY)
        own = CustomChecklist(order=((Station.SKY, (before[1], before[0])),))
        self.assertEqual(
            self.names(own, Station.SKY)[:2], [before[1], *before[2:3]] if len(before) < 3 else [before[1], before[2]]
        )
        self.assertEqual(set(self.names(own, Station.SKY)), set(before))

    def test_reordered_by_two_tabs(self) -> None:
        ids = self.names(NOTHING, Station.SKY)
        one = move(NOTHING, ids[2], -1, 0)
        with self.assertRaisesRegex(ConflictError, "another tab"):
            move(one, ids[1], 1, 0)
        with self.assertRaises(ConflictError):
            change(one, CheckChange(check_id=ids[0], title="Mine"), 0)

    def test_switched_off_has_no_place(self) -> None:
        own = change(NOTHING, CheckChange(check_id="bench.card", off=True), 0)
        with self.assertRaisesRegex(InputError, "A check that is switched off cannot be moved"):
            move(own, "bench.card", 1, own.revision)


class Places(unittest.TestCase):
    def test_moved_to_another_station_and_back(self) -> None:
        own = change(NOTHING, CheckChange(check_id="field.path", station=Station.SKY), 0)
        here = [c.id for c in checklist_of(own).checks if c.station is Station.SKY]
        self.assertIn("field.path", here)
        moved = move(own, "field.path", -20, own.revision)
        self.assertEqual([c.id for c in checklist_of(moved).checks if c.station is Station.SKY][0], "field.path")
        planned = next(p for p in make_plan(situation(custom_checklist=own)).checks if p.check.id == "field.path")
        self.assertEqual(planned.check.station, Station.SKY)
        back = change(moved, CheckChange(check_id="field.path", station=Station.FIELD), moved.revision)
        self.assertEqual(back.changes, ())

    def test_what_a_gate_or_a_safe_state_holds_stays(self) -> None:
        held = {i for gate in GATES for i in (*gate.needs, *gate.blocks)} & {c.id for c in CHECKS}
        self.assertGreater(len(held), 10)
        for check_id in sorted(held):
            station = next(c.station for c in CHECKS if c.id == check_id)
            other = Station.BAG if station is not Station.BAG else Station.SKY
            with self.assertRaisesRegex(InputError, "stays at its station"):
                change(NOTHING, CheckChange(check_id=check_id, station=other), 0)
            brought = CustomChecklist(changes=(CheckChange(check_id=check_id, station=other, title="Other words"),))
            listed = next(c for c in checklist_of(brought).checks if c.id == check_id)
            self.assertEqual((listed.station, listed.title), (station, "Other words"), "nor by a file")
        air = next(c for c in CHECKS if c.phase is Phase.AIR)
        self.assertTrue(stays(air))

    def test_a_check_of_ones_own_is_moved_too(self) -> None:
        own = add(NOTHING, titled("Wax the joiner"), 0)
        after = change(
            own, CheckChange(check_id="custom.1", station=Station.BENCH, frequency=Frequency.DAY), own.revision
        )
        self.assertEqual((after.added[0].station, after.added[0].frequency), (Station.BENCH, Frequency.DAY))


class Added(unittest.TestCase):
    def test_a_tick_and_a_number_with_bounds(self) -> None:
        own = add(NOTHING, titled("Write it as an instruction, for example “Check the tail skid”"), 0)
        own = add(own, titled("Weigh the water", measure=Measure.PERCENT, low=20.0, high=80.0), own.revision)
        case = situation(custom_checklist=own)
        self.assertLessEqual({"custom.1", "custom.2"}, planned_ids(case))
        walked = walk(case, [piece("custom.2", Measured(value=90))])
        (finding,) = walked.state("custom.2").findings
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertEqual(said(finding), "90 % is above your maximum of 80 %.")
        self.assertEqual(walk(case, walked_evidence(case, NOW)).verdict.open, 0)

    def test_only_where_it_belongs(self) -> None:
        own = add(NOTHING, titled("Wing thing", applies=For(kinds=frozenset({Kind.WING}))), 0)
        self.assertNotIn("custom.1", planned_ids(situation(QUAD, custom_checklist=own)))

    def test_refusals(self) -> None:
        with self.assertRaisesRegex(InputError, "A number needs a minimum or a maximum"):
            add(NOTHING, titled("x", measure=Measure.VOLT), 0)
        with self.assertRaisesRegex(InputError, "The minimum is higher than the maximum"):
            add(NOTHING, titled("x", measure=Measure.VOLT, low=5.0, high=4.0), 0)
        with self.assertRaisesRegex(InputError, "called “INSPECT THE AIRFRAME” already"):
            add(NOTHING, titled("INSPECT THE AIRFRAME"), 0)

    def test_reworded_and_taken_off(self) -> None:
        own = add(NOTHING, titled("First words"), 0)
        own = change(own, CheckChange(check_id="custom.1", title="Better words", frequency=Frequency.DAY), own.revision)
        self.assertEqual((own.added[0].title, own.added[0].frequency), ("Better words", Frequency.DAY))
        self.assertEqual(set_back(own, "custom.1", own.revision).added, ())

    def test_a_check_that_could_never_be_judged_is_refused(self) -> None:
        own = add(NOTHING, titled("Fine"), 0)
        for changes in (
            {"due": "moon"},
            {"adds": "moon"},
            {"id": "field.path"},
            {"origin": "built-in"},
            {"method": "x=y"},
        ):
            with self.subTest(changes), self.assertRaisesRegex(InputError, "cannot be added|can be added"):
                CustomChecklist(added=(replace(own.added[0], **changes),))
        with self.assertRaisesRegex(InputError, "same number"):
            CustomChecklist(added=(own.added[0], own.added[0]))


class Holds(unittest.TestCase):
    def test_inert_until_power_then_still_until_the_idle_run(self) -> None:
        case = situation()
        evidence = list(walked_evidence(case, NOW))
        on = next(i for i, p in enumerate(evidence) if p.check_id == "power.aircraft_on")
        idle = next(i for i, p in enumerate(evidence) if p.check_id == "controls.idle")
        holds = [walk(case, evidence[:n]).safe_state for n in (0, on, on + 1, idle + 1)]
        self.assertEqual(
            [h.id if h else "" for h in holds], ["unplugged", "unplugged", "blades-still", "blades-can-turn"]
        )


class ForSome(unittest.TestCase):
    """Wording, cadence and own checks for one aircraft, for some, or for all; and steps for one day."""

    def test_what_is_for_one_acts_before_what_is_for_all(self) -> None:
        every = CheckChange(check_id="airframe.shell", title="For all")
        one = CheckChange(check_id="airframe.shell", title="For seven", only_for=(7,))
        checklist = CustomChecklist()
        for wanted in (every, one):
            checklist = change(checklist, wanted, checklist.revision)

        def title(number: int) -> str:
            return next(c.title for c in checklist_of(checklist.of(number)).checks if c.id == "airframe.shell")

        self.assertEqual((title(7), title(8)), ("For seven", "For all"))
        self.assertEqual(len(checklist.changes), 2)
        self.assertEqual(set_back(checklist, "airframe.shell", checklist.revision).changes, ())
        plain_list = CustomChecklist()
        self.assertIs(plain_list.of(7), plain_list)

    def test_switched_off_for_one_aircraft_only(self) -> None:
        off = CheckChange(check_id="airframe.vents", off=True, only_for=(QUAD.id + 1,))
        mine = change(CustomChecklist(), off, 0)
        case = situation(custom_checklist=mine)
        self.assertIn("airframe.vents", planned_ids(case))
        other = case.model_copy(update={"aircraft": QUAD.model_copy(update={"id": QUAD.id + 1})})
        self.assertNotIn("airframe.vents", planned_ids(other))

    def test_steps_for_a_day_are_gone_the_next(self) -> None:
        today = situation().today()
        mine = add_steps(CustomChecklist(), ("Ask Jory", "Pack the kite"), Station.BAG, on_day=today, today=today)
        case = situation(custom_checklist=mine)
        self.assertLessEqual({"custom.1", "custom.2"}, planned_ids(case))
        tomorrow = case.model_copy(update={"now": NOW + timedelta(days=1)})
        self.assertFalse({"custom.1", "custom.2"} & planned_ids(tomorrow))
        again = add_steps(mine, ("Ask Jory", "New"), Station.BAG, on_day=today, today=today)
        self.assertEqual([c.title for c in again.added], ["Ask Jory", "Pack the kite", "New"])
        later = add_steps(mine, ("New",), Station.BAG, today=today + timedelta(days=1))
        self.assertEqual([(c.title, c.id) for c in later.added], [("New", "custom.3")], "no number is given twice")

    def test_a_step_for_one_aircraft(self) -> None:
        mine = add_steps(
            CustomChecklist(), ("Cap off",), Station.FIELD, only_for=(QUAD.id + 1,), today=situation().today()
        )
        self.assertNotIn("custom.1", planned_ids(situation(custom_checklist=mine)))
