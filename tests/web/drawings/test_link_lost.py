"""A lost link drawn: in metres, north up, the worse never paler."""

import unittest

from walkround.core.base.finding import Level
from walkround.core.lost_link.area import Area, Cell
from walkround.core.lost_link.outcomes import Outcome
from walkround.web.drawings.link_lost import draw_area, path_d


def cell(outcome: Outcome, grounds: float = 0.0, east: float = 0.0) -> Cell:
    return Cell(
        east_m=east,
        north_m=10,
        outcome=outcome,
        bad=grounds,
        grounds=grounds,
        hit="wire" if outcome is Outcome.OBSTACLE else "",
    )


class Drawn(unittest.TestCase):
    def test_north_is_up(self) -> None:
        self.assertEqual(path_d([(1.0, 2.0, 9.0), (3.0, -4.0, 0.0)]), "M1.0,-2.0 L3.0,4.0")

    def test_cells_by_what_they_are_worth(self) -> None:
        area = Area(
            cells=(
                cell(Outcome.HOME),
                cell(Outcome.WATER, 0, 5),
                cell(Outcome.OBSTACLE, 0.3, 10),
                cell(Outcome.PEOPLE, 0.02, 15),
            ),
            step_m=5,
            known=True,
        )
        drawn = draw_area(area, (0.0, 0.0))
        self.assertEqual([c.look for c in drawn.cells], ["clear", "caution", "grounds some", "grounds few"])
        self.assertEqual(drawn.cells[0].y, -12.5)
        self.assertIn("hits an obstacle (wire)", drawn.cells[2].words)
        self.assertEqual(drawn.worst[0][2], "grounds")
        self.assertAlmostEqual(drawn.worst[0][0], (15**2 + 10**2) ** 0.5)

    def test_in_unknown_wind_nothing_is_clear(self) -> None:
        drawn = draw_area(Area(cells=(cell(Outcome.HOME),), step_m=5, known=False), (0.0, 0.0))
        self.assertEqual(drawn.cells[0].look, "caution")
        self.assertEqual([look for look, share, _ in drawn.shares if share], ["caution"])
        self.assertFalse(drawn.clear)

    def test_no_place_reads_better_than_what_is_said_besides(self) -> None:
        area = Area(cells=(cell(Outcome.HOME), cell(Outcome.WATER, 0, 5)), step_m=5, known=True)
        for least, looks in (
            (Level.CLEAR, ["clear", "caution"]),
            (Level.CAUTION, ["caution", "caution"]),
            (Level.GROUNDED, ["grounds few", "grounds few"]),
        ):
            drawn = draw_area(area, (0.0, 0.0), least)
            self.assertEqual([c.look for c in drawn.cells], looks)
            self.assertEqual(sum(share for _, share, _ in drawn.shares), 100)
            self.assertTrue(least is Level.CLEAR or all(look != "clear" for look, _, _ in drawn.shares))

    def test_what_ends_badly_now_and_then_is_neither_clear_nor_nothing(self) -> None:
        rare = Cell(east_m=0, north_m=0, outcome=Outcome.HOME, bad=0.01, grounds=0.01)
        drawn = draw_area(Area(cells=(rare, *[cell(Outcome.HOME)] * 9), step_m=5, known=True), (0.0, 0.0))
        self.assertEqual((drawn.cells[0].look, drawn.shares[-1][:2], drawn.clear), ("caution", ("grounds", 1), False))
        self.assertIn("1 % of the runs end worse", drawn.worst[0][3])
