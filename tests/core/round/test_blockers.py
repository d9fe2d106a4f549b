"""What stands between the pilot and flying, before the first step."""

import unittest
from datetime import timedelta

from tests.support import NOW, TRAINER, dry_weather, said, situation, with_history
from walkround.core.base.finding import Level
from walkround.core.checklist.history import Done, Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.round.blockers import stands_between


class Between(unittest.TestCase):
    def test_nothing(self) -> None:
        self.assertEqual(stands_between(situation(weather=dry_weather())), ())

    def test_worst_first(self) -> None:
        snag = Snag(id=1, on=SnagOn.PACK, title="Swollen", grounds=True, opened_at=NOW)
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(hours=1))
        base = situation(weather=dry_weather(wind_ms=6))
        found = stands_between(with_history(base, snags=(snag,), events=(*base.history.events, crash)))
        self.assertEqual([f.level for f in found], sorted((f.level for f in found), reverse=True))
        self.assertEqual(said(found[0]), "P1: Swollen.")
        self.assertIn("Compass", [f.name for f in found])
        self.assertIn("Level", [f.name for f in found])

    def test_each_snag_with_what_carries_it_and_how_bad_it_is(self) -> None:
        rows = (
            (SnagOn.PACK, True, "P1: Worn.", Level.GROUNDED, "Grounded until this is fixed."),
            (SnagOn.PACK, False, "P1: Worn.", Level.CAUTION, "Check it again on the walk round."),
            (SnagOn.AIRCRAFT, True, "Quad: Worn.", Level.GROUNDED, "Grounded until this is fixed."),
            (SnagOn.AIRCRAFT, False, "Quad: Worn.", Level.CAUTION, "Check it again on the walk round."),
        )
        for on, grounds, words, level, remedy in rows:
            snag = Snag(id=1, on=on, title="Worn", grounds=grounds, opened_at=NOW)
            (found,) = stands_between(with_history(situation(weather=dry_weather()), snags=(snag,)))
            self.assertEqual((said(found), found.level, found.remedy), (words, level, remedy))

    def test_night_grounds(self) -> None:
        found = stands_between(situation(now=NOW.replace(hour=23)))
        self.assertEqual((found[0].name, found[0].level), ("Daylight", Level.GROUNDED))

    def test_only_what_the_aircraft_has(self) -> None:
        bare = with_history(situation(TRAINER), events=(), done=())
        self.assertEqual([f.name for f in stands_between(bare)], ["Weather", "Season inspection"])

    def test_an_event_says_how_much_follows_from_it(self) -> None:
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(days=2))
        case = with_history(situation(TRAINER), events=(crash,))
        found = [said(f) for f in stands_between(case) if f.name == "Event"]
        # Beyond the usual list: the season inspection and the range check.
        self.assertEqual(found, ["Crash, 14 May: adds 2 checks."])
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(days=1)) for c in CHECKS if c.id != "link.range")
        one = [said(f) for f in stands_between(with_history(case, done=done)) if f.name == "Event"]
        self.assertEqual(one, ["Crash, 14 May: adds 1 check."])
        done = tuple(Done(check_id=c.id, at=NOW - timedelta(days=1)) for c in CHECKS)
        self.assertEqual([f for f in stands_between(with_history(case, done=done)) if f.name == "Event"], [])
