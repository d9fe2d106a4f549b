"""What disturbs compass and link: near it grounds, far it is clear, and farther is never worse."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.core.field.test_spots import BARE, with_
from tests.support import QUAD, said
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Level
from walkround.core.field.interference import DISTURBS, judge_sources, level_at, sources
from walkround.core.field.marks import MarkKind


class Sources(unittest.TestCase):
    def test_each_kind_grounds_near_and_is_clear_far(self) -> None:
        """That lines, masts, steel in concrete and cars disturb: common practice, no source. Distances are our choice."""
        for kind, does in DISTURBS.items():
            reach = [e for e in (does.compass, does.link) if e is not None]
            near, far = max(e.ground_m for e in reach) - 1, max(e.caution_m for e in reach)
            self.assertEqual(max(f.level for f in judge_sources(with_(kind, near), QUAD)), Level.GROUNDED, kind)
            self.assertEqual(max(f.level for f in judge_sources(with_(kind, far + 0.1), QUAD)), Level.CLEAR, kind)
            for effect in reach:
                self.assertLess(effect.ground_m, effect.caution_m)

    def test_a_tree_disturbs_nothing(self) -> None:
        self.assertEqual(judge_sources(with_(MarkKind.TREE, 1), QUAD), ())
        self.assertEqual(sources(BARE), ())

    def test_iron_matters_only_to_a_compass(self) -> None:
        bare = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.COMPASS}})
        self.assertEqual(judge_sources(with_(MarkKind.CARS, 1), bare), ())
        self.assertEqual(judge_sources(with_(MarkKind.CARS, 1), QUAD)[0].level, Level.GROUNDED)

    @given(st.floats(0, 200), st.floats(0, 100))
    def test_farther_is_never_worse(self, away: float, more: float) -> None:
        for does in DISTURBS.values():
            for effect in (does.compass, does.link):
                self.assertGreaterEqual(level_at(effect, away), level_at(effect, away + more))

    def test_words(self) -> None:
        text = said(judge_sources(with_(MarkKind.WIRE, 12, 200, 20), QUAD)[0])
        self.assertEqual(text, "A wire only 12 m away, bearing 200°: its current disturbs the compass.")
