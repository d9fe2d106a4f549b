"""A stop as it is shown: targets as they stand, marks old and new, the whole aircraft with what is left."""

import unittest
from datetime import timedelta

from tests.core.round.test_groups import at
from tests.core.round.test_touches import touched
from tests.support import NOW, situation
from walkround.core.checklist.history import Snag, SnagOn
from walkround.core.round.touches import TouchState, route
from walkround.core.round.walk import walk
from walkround.web.drawings.touches import draw_map, draw_stop

ROUND = walk(at(situation()), ())
QUAD = ROUND.situation.aircraft


class Drawn(unittest.TestCase):
    def test_targets_stand_as_their_parts_do(self) -> None:
        touches = touched(["arm-1"]) | touched(["arm-1/latch"], TouchState.DAMAGED)
        stop = next(s for s in route(ROUND, touches, {}) if s.stop.key == "arm-1")
        drawn = draw_stop(QUAD, stop, (), NOW)
        states = {target.row.part.id: target.state for target in drawn.targets}
        self.assertEqual((states["arm-1"], states["arm-1/latch"], states["motor-1"]), ("ok", "damaged", "left"))
        self.assertEqual([target.number for target in drawn.targets], list(range(1, len(drawn.targets) + 1)))

    def test_a_mark_is_new_since_the_last_flight(self) -> None:
        stop = next(s for s in route(ROUND, {}, {}) if s.stop.key == "arm-1")
        marks = [
            Snag(
                id=i,
                on=SnagOn.AIRCRAFT,
                title=title,
                grounds=False,
                parts=("arm-1",),
                opened_at=NOW - timedelta(days=days),
            )
            for i, (title, days) in enumerate((("old", 9), ("new", 1)))
        ]
        drawn = draw_stop(QUAD, stop, marks, NOW - timedelta(days=5))
        arm = next(target for target in drawn.targets if target.row.part.id == "arm-1")
        self.assertEqual([(mark.words, mark.new) for mark in arm.marks], [("old", False), ("new", True)])

    def test_the_whole_aircraft_shows_what_is_left(self) -> None:
        stops = route(ROUND, {}, {})
        every = [row.part.id for stop in stops for row in stop.parts]
        left = {shape.state for shape in draw_map(QUAD, stops, stops[0].stop)}
        done = {shape.state for shape in draw_map(QUAD, route(ROUND, touched(every), {}), None)}
        self.assertIn("left", left)
        self.assertNotIn("left", done)
        one = route(ROUND, touched(every[1:]) | touched(every[:1], TouchState.DAMAGED), {})
        self.assertIn("damaged", {shape.state for shape in draw_map(QUAD, one, None)})
