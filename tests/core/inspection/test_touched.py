"""The parts of every aircraft: each once, each with a place of the hand, none lost that was stored before, the pilot's own among them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import variants
from walkround.core.aircraft.flaws import Bears, OwnPart
from walkround.core.aircraft.part_list import part_list, part_of, unit_of
from walkround.core.aircraft.presets import PRESETS
from walkround.core.inspection.aspects import DOES, Aspect
from walkround.core.inspection.close_up.strokes import MOST
from walkround.core.inspection.touched import damageable, stops, touched_part, touched_parts

EVERY = (*PRESETS.values(), *variants())
QUAD = PRESETS["camera-quad"]


class Parts(unittest.TestCase):
    def test_each_is_there_once_with_its_unit_and_its_stop(self) -> None:
        for aircraft in EVERY:
            ids = [part.id for part in touched_parts(aircraft)]
            self.assertEqual(len(set(ids)), len(ids), aircraft.name)
            self.assertTrue(all(stop.parts for stop in stops(aircraft)), aircraft.name)
            keys = [stop.key for stop in stops(aircraft)]
            self.assertEqual(len(set(keys)), len(keys))
            for part in touched_parts(aircraft):
                self.assertEqual(part.does, DOES[part.aspect], part.id)
                self.assertRegex(part.id, r"^[a-z0-9-]+(/[a-z0-9-]+)?$", "it goes into a list divided by blanks")
        self.assertEqual(set(DOES), set(Aspect))

    def test_what_a_hand_meets_on_a_camera_quad(self) -> None:
        """Common practice, no source: each arm from its blades inwards."""
        arm = next(stop for stop in stops(QUAD) if stop.key == "arm-1")
        self.assertEqual(arm.title, "Front right arm")
        self.assertEqual(
            [part.id.partition("/")[2] or part.id for part in arm.parts],
            ["blade-1", "blade-2", "lugs", "motor-1", "shaft", "mount", "arm-1", "latch"],
        )
        self.assertEqual(len(touched_parts(QUAD)), 39)

    def test_every_part_that_was_stored_before_is_still_known(self) -> None:
        for aircraft in EVERY:
            known = {part.id for part in damageable(aircraft)}
            units = {part.id for part in part_list(aircraft) if part.group != "pack"}
            self.assertEqual(units - known, set(), aircraft.name)
            self.assertLessEqual({"pack-strap"}, known)

    def test_blades_and_what_holds_them_rotate(self) -> None:
        for aircraft in EVERY:
            for part in damageable(aircraft):
                unit = part_of(aircraft, part.id)
                if unit is not None and unit.kind is not None and unit.kind.value in ("propeller", "rotor blade"):
                    self.assertIs(part.does, Bears.ROTATES, (aircraft.name, part.id))

    def test_what_holds_the_wing(self) -> None:
        held = {
            key: [p.name for p in touched_parts(PRESETS[key]) if p.stop == "joint"]
            for key in ("foam-trainer", "low-wing")
        }
        self.assertEqual(held["foam-trainer"], ["wing centre joint", "rubber bands", "front dowel", "rear dowel"])
        self.assertEqual(held["low-wing"], ["wing centre joint", "front wing bolt", "rear wing bolt"])

    @given(st.sampled_from(EVERY), st.data())
    def test_what_the_pilot_adds_is_there_and_what_it_has_not_is_gone(self, aircraft, data) -> None:  # type: ignore[no-untyped-def]
        gone = data.draw(st.sampled_from([part.id for part in touched_parts(aircraft)]))
        own = OwnPart(id="own-7", name="tow hook", does=Bears.HOLDS)
        changed = aircraft.model_copy(update={"own_parts": (own,), "without_parts": frozenset({gone})})
        before, after = {p.id for p in touched_parts(aircraft)}, {p.id for p in touched_parts(changed)}
        self.assertEqual(after, before - {gone} | {"own-7"})
        self.assertNotIn(gone, {part.id for part in damageable(changed)})
        found = touched_part(changed, "own-7")
        assert found is not None
        self.assertIs(found.does, Bears.HOLDS)
        self.assertIsNone(touched_part(changed, gone))

    def test_many_of_the_pilots_own_are_several_stops(self) -> None:
        own = tuple(OwnPart(id=f"own-{i}", name=f"fitting {i}", does=Bears.HOLDS) for i in range(1, 262))
        changed = QUAD.model_copy(update={"own_parts": own})
        self.assertEqual(len(touched_parts(changed)), 300)
        self.assertTrue(all(len(stop.parts) <= MOST for stop in stops(changed)), "each has its target")

    def test_a_detail_leads_to_its_part(self) -> None:
        self.assertEqual(unit_of("propeller-1/blade-2"), "propeller-1")
        self.assertEqual(unit_of("arm-1"), "arm-1")
        found = part_of(QUAD, "propeller-1/blade-2")
        assert found is not None
        self.assertEqual(found.name, "front right propeller")
        self.assertIsNone(part_of(QUAD, "propeller-9/blade-2"))
