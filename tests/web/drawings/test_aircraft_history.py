"""The history as a path: in order of time, bars by minutes, no words over others, nothing dated ahead."""

import re
import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, QUAD, TRAINER
from walkround.core.checklist.history import Event, EventKind, Snag, SnagOn
from walkround.web.drawings.aircraft import with_snags
from walkround.web.drawings.aircraft_history import BASE, LETTER, WIDE, draw_history

DAYS = st.lists(st.floats(0, 900), min_size=1, max_size=30)


def event(days: float, kind: EventKind = EventKind.FIRMWARE, detail: str = "2.4") -> Event:
    return Event(kind=kind, at=NOW - timedelta(days=days), detail=detail)


class History(unittest.TestCase):
    def test_nothing_is_no_picture(self) -> None:
        self.assertIsNone(draw_history([], [], NOW))

    @given(DAYS, DAYS)
    def test_words_never_lie_over_others_and_stay_inside(self, flown: list[float], happened: list[float]) -> None:
        drawn = draw_history([(NOW - timedelta(days=d), 5 + d % 7) for d in flown], [event(d) for d in happened], NOW)
        assert drawn is not None
        self.assertEqual(len(re.findall("M", drawn.bars)), len(flown))
        self.assertEqual(len(drawn.flags), len(happened))
        shown = sorted((f.y, f.text_x, f.text_x + LETTER * len(f.words)) for f in drawn.flags if f.y)
        for (y, _, end), (other, begin, _) in zip(shown, shown[1:], strict=False):
            self.assertTrue(y != other or begin >= end)
        self.assertTrue(all(0 <= f.x <= WIDE and (not f.y or BASE < f.y <= drawn.high) for f in drawn.flags))

    def test_later_is_to_the_right_and_longer_is_higher(self) -> None:
        drawn = draw_history(
            [(NOW - timedelta(days=100), 4), (NOW - timedelta(days=2), 12)],
            [event(50, EventKind.CRASH, "a hedge")],
            NOW,
        )
        assert drawn is not None
        (x1, h1), (x2, h2) = [(float(x), float(h)) for x, h in re.findall(r"M([\d.]+),[\d.]+ v-([\d.]+)", drawn.bars)]
        self.assertTrue(x1 < drawn.flags[0].x < x2 and h1 < h2)
        self.assertTrue(drawn.flags[0].bad)
        self.assertEqual(drawn.flags[0].words, "Crash a hedge")

    def test_what_is_dated_ahead_is_not_drawn(self) -> None:
        drawn = draw_history([(NOW - timedelta(days=1), 5), (NOW + timedelta(days=9), 5)], [event(-3)], NOW)
        assert drawn is not None
        self.assertEqual((drawn.bars.count("M"), drawn.flags), (1, ()))


class Callouts(unittest.TestCase):
    def snag(self, number: int, part: str, title: str = "Loose", *, grounds: bool = True) -> Snag:
        return Snag(id=number, on=SnagOn.AIRCRAFT, title=title, grounds=grounds, parts=(part,), opened_at=NOW)

    def test_each_points_at_its_part_and_none_lies_over_another(self) -> None:
        snags = [
            self.snag(i, f"motor-{1 + i % 4}", "A very long description of what is wrong with this motor here")
            for i in range(8)
        ]
        _, found = with_snags(QUAD, snags, 720, 470)
        self.assertEqual(len(found), 8)
        for side in (False, True):
            ys = [c.text_y for c in found if c.right is side]
            self.assertTrue(all(b - a >= 45.5 for a, b in zip(ys, ys[1:], strict=False)))
        self.assertTrue(all(len(c.lines) <= 2 for c in found))
        left = next(c for c in found if not c.right)
        self.assertLess(left.x, 360)

    def test_a_part_that_is_gone_is_shown_on_the_body(self) -> None:
        _, (gone,) = with_snags(TRAINER, [self.snag(1, "motor-9")], 720, 470)
        _, (body,) = with_snags(TRAINER, [self.snag(1, "body")], 720, 470)
        self.assertLess(abs(gone.x - body.x) + abs(gone.y - body.y), 470)
