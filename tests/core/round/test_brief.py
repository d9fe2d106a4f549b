"""The crew brief and the region packs."""

import unittest

from tests.support import NOW, SITE, TRAINER, dry_weather, said, situation
from walkround.core.field import field_editor
from walkround.core.field.marks import MarkKind
from walkround.core.field.site import USUAL_CREW, LaunchPlatform
from walkround.core.round.brief import MOST_HAZARDS, hazards, make_brief, planned_words
from walkround.core.round.context import Context
from walkround.core.round.weather_rules import judge_weather
from walkround.demo.scenario import MEADOW


class Brief(unittest.TestCase):
    def brief(self, **changes: object):  # type: ignore[no-untyped-def]
        case = situation(site=MEADOW, weather=dry_weather(wind_ms=6.2)).model_copy(update=changes)
        context = Context(case, {})
        return make_brief(context, judge_weather(dry_weather(wind_ms=6.2), case))

    def test_all_that_the_rules_ask_to_be_told(self) -> None:
        """14 CFR 107.49 (from memory): operating conditions, emergency procedures, contingency, roles, hazards."""
        brief = self.brief()
        self.assertIn("close to your limit", " ".join(said(f) for f in brief.conditions))
        self.assertEqual(said(brief.hazards[0]), "Footpath gate: walkers: 136 m towards 77°.")
        self.assertEqual([role.who for role in brief.crew], ["Tamsin Rook", "Ilse Marlow", "Jory Fenn"])
        self.assertIn("It climbs to 29 m", said(brief.lost_link[1]))
        self.assertTrue(any("pack" in line for line in brief.emergency))
        self.assertIn("48° 13' 16.7\" N", brief.rescue[0])
        self.assertIn("112", brief.rescue[-1])

    def test_where_nothing_is_kept(self) -> None:
        brief = self.brief(site=SITE, aircraft=TRAINER)
        self.assertEqual(brief.crew, USUAL_CREW)
        self.assertEqual(len(brief.lost_link), 1)
        self.assertIn("has no return to home", said(brief.lost_link[0]))
        afloat = self.brief(site=MEADOW.model_copy(update={"launch_platform": LaunchPlatform.MOVING}))
        self.assertIn("hover", said(afloat.lost_link[0]))

    def test_hazards_first_and_not_too_many(self) -> None:
        site = MEADOW
        for i in range(15):
            site = field_editor.added(site, MarkKind.TREE, [(i * 8.0 - 60, 40)], 6)
        site = field_editor.added(site, MarkKind.HAZARD, [(0, 45)], 0, 10, "bull")
        found = [said(h) for h in hazards(site)]
        self.assertEqual(len(found), MOST_HAZARDS)
        self.assertEqual([line.split(":")[0] for line in found[:2]], ["Bull", "Footpath gate"])

    def test_the_plan_in_words(self) -> None:
        words = said(planned_words(Context(situation(site=MEADOW), {})))
        self.assertIn("at most 13", words)
        self.assertIn("up to 45 m", words)
        self.assertEqual(NOW.tzinfo is None, False)
