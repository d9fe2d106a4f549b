"""Spares: what is replaced with what, and which thing of the bag takes its place."""

import unittest

from tests.support import variants
from walkround.core.aircraft.bag import bag_list
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.spares import kind_of, replaced_id, spare_for
from walkround.core.inspection.touched import touched_part, touched_parts

QUAD, TRAINER = PRESETS["camera-quad"], PRESETS["foam-trainer"]


class Replaced(unittest.TestCase):
    def test_rows(self) -> None:
        """A blade goes with its propeller, lugs too; a nut, a latch or a clevis alone. Common practice, no source."""
        race = PRESETS["race-quad"]
        for aircraft, part_id, replaced in (
            (QUAD, "propeller-2/blade-1", "propeller-2"), (QUAD, "propeller-2/lugs", "propeller-2"), (race, "propeller-2/nut", "propeller-2/nut"),
            (QUAD, "arm-1/latch", "arm-1/latch"), (QUAD, "motor-3", "motor-3"), (QUAD, "motor-3/shaft", "motor-3/shaft"),
            (TRAINER, "rudder/clevis", "rudder/clevis"), (PRESETS["heli-single"], "main-rotor/blade-2", "main-rotor"),
        ):  # fmt: skip
            part = touched_part(aircraft, part_id)
            assert part is not None, part_id
            self.assertEqual(replaced_id(aircraft, part), replaced)

    def test_the_spare_is_of_the_same_rotation(self) -> None:
        for part in touched_parts(QUAD):
            if part.aspect is Aspect.BLADE:
                thing = spare_for(QUAD, part)
                assert thing is not None
                self.assertIn(part.unit, thing.parts)
        things = {spare_for(QUAD, p) for p in touched_parts(QUAD) if p.aspect is Aspect.BLADE}
        self.assertEqual({t.id for t in things if t}, {"propellers-clockwise", "propellers-counter-clockwise"})

    def test_what_else_the_bag_has(self) -> None:
        names = {
            part.id: thing.id for part in touched_parts(TRAINER) if (thing := spare_for(TRAINER, part)) is not None
        }
        self.assertEqual(names["rudder/clevis"], "clevises")
        self.assertEqual(names["wing-joint"], "bands")
        self.assertNotIn("wing-joint/front-dowel", names, "bands are no dowels")
        self.assertNotIn("body", names)

    def test_a_spare_is_always_of_this_bag(self) -> None:
        for aircraft in variants():
            things = bag_list(aircraft)
            for part in touched_parts(aircraft):
                thing = spare_for(aircraft, part)
                self.assertTrue(thing is None or thing in things)

    def test_the_kind_it_is_kept_under(self) -> None:
        self.assertIs(kind_of(QUAD, "propeller-1"), PartKind.PROPELLER)
        self.assertIs(kind_of(QUAD, "propeller-1/lugs"), PartKind.OTHER)
        self.assertIs(kind_of(QUAD, "own-1"), PartKind.OTHER)
