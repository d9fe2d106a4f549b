"""The field: launch circle, interference, obstacles as typed."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE
from walkround.core.aircraft.presets import PRESETS
from walkround.core.field import field_editor, planar_geometry
from walkround.core.field.interference import judge_paced
from walkround.core.field.marks import Spot
from walkround.core.field.site import judge_launch_circle, judge_spectators, people_gap_m

RACER = PRESETS["race-quad"]


class Circle(unittest.TestCase):
    def test_three_metres(self) -> None:
        """10 ft (3 m): common practice, no source."""
        for clear, level in ((2.9, 2), (3.0, 1), (3.9, 1), (4.0, 0), (30, 0)):
            with self.subTest(clear):
                self.assertEqual(judge_launch_circle(clear)[0].level, level)

    def test_a_paced_source_of_unknown_kind(self) -> None:
        """Too near for any kind grounds; nearer than the farthest kind reaches is a caution (distances our choice)."""
        for away, aircraft, level in (
            (1.9, QUAD, 2),
            (2, QUAD, 1),
            (119, QUAD, 1),
            (120, QUAD, 0),
            (14, RACER, 1),
            (1.9, RACER, 2),
        ):
            with self.subTest(f"{away} {aircraft.name}"):
                self.assertEqual(judge_paced(away, aircraft, SITE)[0].level, level)


class Crowd(unittest.TestCase):
    def test_the_line_against_the_flight(self) -> None:
        """A box from 10 m north on, a line to the south: the gap is the sum, by hand."""
        site = field_editor.laid(SITE, field_editor.FLIGHT_AREA, [(-20, 10), (20, 10), (20, 40)])
        for south, level in ((15, 2), (21, 1), (30, 0)):
            found = judge_spectators(
                field_editor.laid(site, field_editor.SPECTATOR_LINE, [(-30, -south), (30, -south)]), 30
            )[0]
            self.assertEqual((found.value.value, found.level), (south + 10, level))
        through = field_editor.laid(site, field_editor.SPECTATOR_LINE, [(-30, 15), (30, 15)])
        self.assertEqual(judge_spectators(through, 30)[0].value.value, 0)
        self.assertEqual(judge_spectators(SITE, 30), ())


class Marks(unittest.TestCase):
    def test_nearest_and_tallest(self) -> None:
        self.assertEqual(SITE.nearest(), SITE.marks[0])
        empty = SITE.model_copy(update={"marks": ()})
        self.assertIsNone(empty.nearest())
        self.assertIsNone(empty.tallest(15))


class CircleAndLine(unittest.TestCase):
    @given(st.floats(10, 2000), st.floats(-400, 400), st.floats(-3000, 3000), st.floats(1, 2500))
    def test_against_shapely(self, radius: float, shift: float, south: float, half: float) -> None:
        """The distance from the flying circle to the spectator line, as a reference library has it."""
        from shapely.geometry import LineString, Point

        line = ((-half + shift, south), (half + shift, south))
        site = SITE.model_copy(
            update={
                "flight_radius_m": radius,
                "spectator_line": tuple(Spot(east_m=x, north_m=y) for x, y in line),
                "flight_area": (),
            }
        )
        theirs = max(0.0, LineString(line).distance(Point(0, 0)) - radius)
        self.assertAlmostEqual(people_gap_m(site), theirs, places=6)
        # The area by which zones and sources are judged holds the whole circle, so it is never farther off.
        self.assertLessEqual(planar_geometry.gap(line, site.flight_polygon(), other_closed=True), theirs + 1e-6)
