"""The whole area: its points, its progress, the same chance everywhere."""

import math
import unittest

import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, SITE
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import Air
from walkround.core.lost_link.area import POINTS, Area, Cell, colour, finished, grid
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.flown import Lost, Plan
from walkround.core.lost_link.ground import ground_of
from walkround.core.lost_link.outcomes import Outcome
from walkround.core.lost_link.what_if import what_if
from walkround.demo.scenario import MEADOW, QUAY

QUAD = PRESETS["camera-quad"]
KNOWN = endurance(QUAD, PACK)
AIR = Air(wind_ms=4, from_deg=270, gust_ms=1)
FEW = {"height_m": 40, "speed_ms": 0, "charge_percent": 60, "points": 60, "runs": 30}


def area_of(site=MEADOW, action: Action = Action.STOP, **more) -> Area:  # type: ignore[no-untyped-def]
    plan = Plan(action=action, home=site.launch.xy)
    return finished(colour(site, plan, body_of(QUAD, KNOWN, action), AIR, ground_of(site), **(FEW | more)))


class Points(unittest.TestCase):
    @given(st.integers(1, POINTS), st.floats(0.3, 1.0), st.sampled_from([MEADOW, QUAY, SITE]))
    @settings(max_examples=40)
    def test_inside_the_flying_area_and_no_more_than_asked(self, points: int, shrink: float, site) -> None:  # type: ignore[no-untyped-def]
        found, step = grid(site, points, shrink=shrink)
        polygon = shapely.Polygon(site.flight_polygon())
        self.assertTrue(0 < len(found) <= points)
        self.assertTrue(bool(shapely.contains_xy(polygon.buffer(1e-6), found).all()))
        if points >= 100:
            self.assertAlmostEqual(
                len(found) * step * step, shrink**2 * polygon.area, delta=0.25 * shrink**2 * polygon.area
            )


class Coloured(unittest.TestCase):
    def test_progress_only_grows_and_ends_in_the_area(self) -> None:
        plan = Plan(action=Action.LAND, home=MEADOW.launch.xy)
        *parts, area = colour(MEADOW, plan, body_of(QUAD, KNOWN, Action.LAND), AIR, ground_of(MEADOW), **FEW)
        self.assertIsInstance(area, Area)
        self.assertEqual(parts, sorted(parts))
        self.assertEqual(parts[-1], 1.0)

    def test_each_point_as_a_what_if_from_there(self) -> None:
        """The same seed, the same runs: the cell's outcome is that of a what-if of its place."""
        area, plan = area_of(), Plan(action=Action.STOP, home=MEADOW.launch.xy)
        for cell in area.cells[::17]:
            lost = Lost(east_m=cell.east_m, north_m=cell.north_m, height_m=40, charge_percent=60)
            found = what_if(lost, plan, body_of(QUAD, KNOWN, Action.STOP), AIR, ground_of(MEADOW), runs=30, seed=29)
            self.assertIs(cell.outcome, found.worst)
            self.assertAlmostEqual(cell.bad, sum(s for o, s in found.shares.items() if o > Outcome.AREA))

    def test_shares_add_up(self) -> None:
        area = area_of(QUAY)
        self.assertAlmostEqual(sum(area.share(level) for level in Level), 1.0)
        self.assertLessEqual(area.badness[0], area.badness[1])

    def test_the_worst_points_are_named_worst_first(self) -> None:
        cells = [
            Cell(east_m=0, north_m=0, outcome=o, bad=b, grounds=b)
            for o, b in (
                (Outcome.AREA, 0.0),
                (Outcome.WATER, 0.4),
                (Outcome.WATER, 0.9),
                (Outcome.PEOPLE, 0.02),
                (Outcome.ROAD, 0.5),
            )
        ]
        found = Area(cells=tuple(cells), step_m=5, known=True).worst()
        self.assertEqual(
            [(c.outcome, c.bad) for c in found], [(Outcome.PEOPLE, 0.02), (Outcome.ROAD, 0.5), (Outcome.WATER, 0.9)]
        )

    def test_a_smaller_area_lies_in_its_middle(self) -> None:
        area = area_of(shrink=0.5, action=Action.LAND)
        polygon = shapely.Polygon(MEADOW.flight_polygon())
        self.assertTrue(all(polygon.contains(shapely.Point(c.east_m, c.north_m).buffer(5)) for c in area.cells))
        self.assertTrue(all(math.isfinite(c.bad) for c in area.cells))
        self.assertLessEqual(area.badness[1], area_of(action=Action.LAND).badness[1])
        self.assertIsNot(replace(area, known=False).known, True)
