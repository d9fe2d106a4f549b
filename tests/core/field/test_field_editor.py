"""The plan being changed: every edit, what refuses, and what stays where it is."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE
from walkround.core.base.errors import InputError, MissingError
from walkround.core.field import field_editor
from walkround.core.field.marks import Mark, MarkKind, Spot, spot
from walkround.core.field.site import Site

BARE = SITE.model_copy(update={"marks": ()})
SQUARE = [(0.0, 10.0), (40.0, 10.0), (40.0, 50.0), (0.0, 50.0)]


def boxed() -> Site:
    return field_editor.laid(BARE, field_editor.FLIGHT_AREA, SQUARE)


class Edits(unittest.TestCase):
    def test_a_thing_is_added_moved_bent_changed_and_removed(self) -> None:
        site = field_editor.added(BARE, MarkKind.WIRE, [(0, 0), (10, 0)], 12)
        site = field_editor.moved(site, "m1", 5, -2)
        self.assertEqual(site.marks[0].points, [(5, -2), (15, -2)])
        site = field_editor.corner_added(site, "m1", 0)
        site = field_editor.moved(site, "m1", 10, 8, corner=1)
        self.assertEqual(site.marks[0].points, [(5, -2), (10, 8), (15, -2)])
        site = field_editor.corner_removed(site, "m1", 0)
        site = field_editor.changed(site, 1, kind=MarkKind.FENCE, height_m=2, radius_m=9, name="deer fence")
        self.assertEqual((site.marks[0].words, site.marks[0].radius_m), ("deer fence", 0))
        self.assertEqual(field_editor.removed(site, "m1").marks, ())

    def test_numbers_are_never_used_twice_while_a_later_one_stands(self) -> None:
        site = field_editor.added(field_editor.added(BARE, MarkKind.TREE, [(0, 5)], 5), MarkKind.TREE, [(0, 9)], 5)
        site = field_editor.added(field_editor.removed(site, "m1"), MarkKind.TREE, [(3, 3)], 5)
        self.assertEqual([m.id for m in site.marks], [2, 3])

    @given(st.floats(0, 359), st.floats(1, 400), st.floats(-300, 300), st.floats(-300, 300))
    def test_paced_from_the_launch_point_wherever_it_is(self, bearing: float, away: float, x: float, y: float) -> None:
        site = field_editor.paced(field_editor.moved(BARE, field_editor.LAUNCH, x, y), MarkKind.MAST, bearing, away, 20)
        found, at = site.away(site.marks[0])
        self.assertAlmostEqual(found, away, delta=0.02)
        self.assertLess(abs((at - bearing + 180) % 360 - 180), 1.2)

    def test_moving_the_launch_point_leaves_everything_else_where_it_is(self) -> None:
        site = field_editor.moved(SITE, field_editor.LAUNCH, 30, 40)
        self.assertEqual(site.marks, SITE.marks)
        self.assertNotEqual(site.away(site.marks[0]), SITE.away(SITE.marks[0]))
        self.assertEqual(field_editor.removed(site, field_editor.LAUNCH).launch, SITE.launch)

    def test_the_box_and_what_it_changes(self) -> None:
        site = boxed()
        self.assertAlmostEqual(site.reach_m, 64.03, places=2)
        near = site.model_copy(
            update={"marks": (Mark(id=1, kind=MarkKind.TREE, spots=(Spot(east_m=20, north_m=60),), height_m=30),)}
        )
        self.assertEqual(near.tallest(15), near.marks[0])
        self.assertIsNone(near.tallest(9), "behind the box by ten metres")
        self.assertEqual(field_editor.removed(site, field_editor.FLIGHT_AREA).reach_m, SITE.flight_radius_m)

    def test_box_and_line_begin_on_their_own_sides(self) -> None:
        site = field_editor.flight_area_begun(field_editor.spectator_line_begun(BARE))
        self.assertLess(max(s.north_m for s in site.spectator_line), 0)
        self.assertGreater(min(s.north_m for s in site.flight_area), 0)

    def test_refusals(self) -> None:
        wire = field_editor.added(BARE, MarkKind.WIRE, [(0, 0), (10, 0)], 12)
        rows = (
            ("crossed box", lambda: field_editor.laid(BARE, field_editor.FLIGHT_AREA, [SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]]), "crosses itself"),
            ("two corners", lambda: field_editor.laid(BARE, field_editor.FLIGHT_AREA, SQUARE[:2]), "at least three corners"),
            ("line of one", lambda: field_editor.laid(BARE, field_editor.SPECTATOR_LINE, SQUARE[:1]), "two ends"),
            ("off the plan", lambda: field_editor.moved(wire, "m1", 9_000, 0), "That is outside the plan, which reaches 6 km from the field"),
            ("not a number", lambda: field_editor.moved(wire, "m1", float("nan"), 0), "That is outside the plan, which reaches 6 km from the field"),
            ("tree in two", lambda: field_editor.added(BARE, MarkKind.TREE, SQUARE[:2], 5), "a single place"),
            ("outline of two", lambda: field_editor.added(BARE, MarkKind.WATER, SQUARE[:2], 0), "at least three corners"),
            ("crossed water", lambda: field_editor.added(BARE, MarkKind.WATER, [SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]], 0), "crosses itself"),
            ("no taps", lambda: field_editor.added(BARE, MarkKind.TREE, [], 5), "Tap its place on the plan first"),
            ("no height", lambda: field_editor.added(BARE, MarkKind.TREE, SQUARE[:1], 0), "above 0"),
            ("wire to tree", lambda: field_editor.changed(wire, 1, kind=MarkKind.TREE, height_m=5, radius_m=0, name=""), "a single place"),
            ("last corner", lambda: field_editor.corner_removed(boxed().model_copy(update={"flight_area": boxed().flight_area[:3]}), field_editor.FLIGHT_AREA, 0), "needs these corners. Remove it as a whole"),
            ("bearing", lambda: field_editor.paced(BARE, MarkKind.TREE, 400, 5, 5), "0° to 360°"),
            ("distance", lambda: field_editor.paced(BARE, MarkKind.TREE, 40, -5, 5), "0 and 5000 m"),
        )  # fmt: skip
        for name, edit, words in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                edit()
            self.assertIn(words, caught.exception.message, name)
        for edit in (lambda: field_editor.removed(BARE, "m9"), lambda: field_editor.moved(wire, "m1", 0, 0, corner=7)):
            with self.assertRaises(MissingError):
                edit()

    def test_five_hundred_fit(self) -> None:
        full = BARE.model_copy(
            update={
                "marks": tuple(Mark(id=i, kind=MarkKind.TREE, spots=(spot((i, 0)),), height_m=3) for i in range(1, 501))
            }
        )
        with self.assertRaises(InputError):
            field_editor.added(full, MarkKind.TREE, [(0, 0)], 3)
