"""The parts of an aircraft: one id for drawing, snags, parts page, bag and control directions, whatever is described."""

import unittest

from tests.support import QUAD, TRAINER, variants
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.bag import bag_list
from walkround.core.aircraft.control_directions import REVERSED, SHOWN, Stick, StickSeen, parts_at_fault, stick_tests
from walkround.core.aircraft.part_list import part_list, part_of, propeller_id
from walkround.core.aircraft.parts import PartKind, part_kinds
from walkround.core.aircraft.planform import planform
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.propeller_check import RotorSeen, motors_at_fault, propellers_at_fault
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Kind
from walkround.core.checklist.library import CHECKS

EVERY: tuple[Aircraft, ...] = (*PRESETS.values(), *variants())


class Shared(unittest.TestCase):
    def test_ids_are_one_of_a_kind(self) -> None:
        for aircraft in EVERY:
            ids = [part.id for part in part_list(aircraft)]
            self.assertEqual(len(set(ids)), len(ids), aircraft.name)
            for part in part_list(aircraft):
                self.assertEqual(part_of(aircraft, part.id), part)
        self.assertIsNone(part_of(QUAD, "left-aileron"))

    def test_the_drawing_shows_each_group_and_names_only_parts_of_it(self) -> None:
        for aircraft in EVERY:
            listed = {part.id: part for part in part_list(aircraft)}
            drawn = planform(aircraft).parts
            with self.subTest(aircraft.name):
                self.assertEqual({part.group for part in listed.values()} - {part.key for part in drawn}, set())
                for part in drawn:
                    self.assertIn(part.key, {one.group for one in listed.values()})
                    for shape in part.shapes:
                        if shape.part:
                            self.assertEqual(listed[shape.part].group, part.key, shape.part)

    def test_what_can_be_wrong_by_itself_is_drawn_by_itself(self) -> None:
        """Each propeller, each arm and each surface of the usual shapes; of a coaxial pair one motor stands for both."""
        for aircraft in PRESETS.values():
            drawn = {shape.part for part in planform(aircraft).parts for shape in part.shapes}
            kinds = (PartKind.PROPELLER, PartKind.SERVO) if aircraft.kind is not Kind.HELICOPTER else ()
            for part in part_list(aircraft):
                if part.kind in kinds or (part.group == "arms" and aircraft.frame != "H"):
                    self.assertIn(part.id, drawn, f"{aircraft.name}: {part.id}")

    def test_every_check_points_at_a_group(self) -> None:
        groups = {part.group for aircraft in EVERY for part in part_list(aircraft)}
        self.assertEqual({check.part for check in CHECKS if check.part} - groups, set())

    def test_sticks_move_parts(self) -> None:
        for aircraft in EVERY:
            ids = {part.id for part in part_list(aircraft)}
            for test in stick_tests(aircraft):
                for motion in test.motions:
                    self.assertTrue(motion.parts, motion.name)
                    self.assertEqual(set(motion.parts) - ids, set(), f"{aircraft.name}: {motion.name}")

    def test_spares_fit_propellers_that_turn_their_way(self) -> None:
        for aircraft in EVERY:
            spare = [thing for thing in bag_list(aircraft) if thing.parts]
            propellers = [part.id for part in part_list(aircraft) if part.kind is PartKind.PROPELLER]
            self.assertEqual(sorted(id for thing in spare for id in thing.parts), sorted(propellers), aircraft.name)
            if aircraft.kind is Kind.MULTIROTOR:
                turning = {propeller_id(r.number): r.spin for r in rotor_layout(aircraft)}
                for thing in spare:
                    self.assertEqual({f"propellers-{turning[id]}" for id in thing.parts}, {thing.id})

    def test_kinds_are_kinds_that_the_aircraft_can_have(self) -> None:
        for aircraft in EVERY:
            kinds = {part.kind for part in part_list(aircraft)} - {None}
            self.assertEqual(kinds - set(part_kinds(aircraft)), set(), aircraft.name)


class AtFault(unittest.TestCase):
    def test_propellers_and_motors_that_are_not_as_drawn(self) -> None:
        rotors = rotor_layout(QUAD)
        for wrong in rotors:
            seen = [
                RotorSeen(number=r.number, rotation=r.spin.other if r is wrong else r.spin, edge_leads=True)
                for r in rotors
            ]
            self.assertEqual(propellers_at_fault(QUAD, seen), (f"propeller-{wrong.number}",))
            turning = [RotorSeen(number=r.number, spin=r.spin.other if r is wrong else r.spin) for r in rotors]
            self.assertEqual(motors_at_fault(QUAD, turning), (f"motor-{wrong.number}",))

    def test_surfaces_that_do_not_move_as_shown(self) -> None:
        shown = {test.stick: SHOWN for test in stick_tests(TRAINER)}

        def fault(**results: str) -> tuple[str, ...]:
            given = shown | {Stick[name]: result for name, result in results.items()}
            return parts_at_fault(TRAINER, [StickSeen(stick=s, result=r) for s, r in given.items()])

        self.assertEqual(fault(), ())
        self.assertEqual(fault(BACK_ELEVATOR=REVERSED), ("elevator",))
        self.assertEqual(fault(RIGHT_AILERON="left reversed"), ("left-aileron",))
        self.assertEqual(set(fault(RIGHT_AILERON=REVERSED)), {"left-aileron", "right-aileron"})
