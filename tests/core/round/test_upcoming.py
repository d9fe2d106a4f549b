"""What is due next: nearest first, never less than due where a rule says so, unknown as due."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, QUAD, SITE, TRAINER, situation, with_history
from walkround.core.base.finding import Level
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.round import due
from walkround.core.round.context import Context
from walkround.core.round.upcoming import Upcoming, upcoming


def named(case, name: str) -> Upcoming:  # type: ignore[no-untyped-def]
    return next(one for one in upcoming(Context(case, {})) if one.name == name)


class Due(unittest.TestCase):
    def test_never_done_is_due(self) -> None:
        bare = with_history(situation(QUAD), done=(), events=())
        for name in ("Compass", "Season inspection", "Failsafe test", "Level"):
            found = named(bare, name)
            self.assertEqual((found.share, found.level), (1.0, Level.CAUTION), name)

    def test_the_nearest_first_and_only_what_it_has(self) -> None:
        found = upcoming(Context(situation(QUAD), {}))
        self.assertEqual([one.share for one in found], sorted((one.share for one in found), reverse=True))
        self.assertNotIn("Compass", [one.name for one in upcoming(Context(situation(TRAINER), {}))])

    @given(st.floats(0, 60))
    def test_as_full_as_the_rule_says(self, days: float) -> None:
        """Due now exactly where ``due`` says so."""
        event = Event(
            kind=EventKind.COMPASS_CALIBRATED, at=NOW - timedelta(days=days), position=SITE.position, site=SITE.name
        )
        case = with_history(situation(QUAD), events=(event,))
        self.assertEqual(named(case, "Compass").share == 1.0, due.compass_due(case) is not None)

    @given(st.integers(0, 400))
    def test_a_season_that_was_missed_is_due(self, days: int) -> None:
        done = (Done(check_id="bench.season_look", at=NOW - timedelta(days=days)),)
        case = with_history(situation(QUAD), done=done)
        found = named(case, "Season inspection")
        self.assertEqual(found.share == 1.0, due.season_due(done[0], case) is not None)
        self.assertTrue(0 <= found.share <= 1)
