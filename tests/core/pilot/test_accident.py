"""Who has to be told of an accident and by when, by region."""

import unittest

from walkround.core.pilot.accident import ACT_FIRST, ALWAYS, BY_REGION, Occurrence, reports
from walkround.core.pilot.regions import REGIONS


class Reports(unittest.TestCase):
    def test_every_region_has_its_reports_with_a_source(self) -> None:
        self.assertEqual(set(BY_REGION), {region.id for region in REGIONS})
        for told in (*ALWAYS, *(r for own in BY_REGION.values() for r in own)):
            self.assertTrue(told.who and told.by_when and told.of and told.source)

    def test_deadlines(self) -> None:
        """Regulation (EU) No 376/2014, Article 4: 72 hours; Regulation (EU) No 996/2010, Article 9: without delay; 14 CFR 107.9: ten days;
        49 CFR 830.5: immediately. All from memory."""
        rows = (("eu-open", "72 hours"), ("uk", "72 hours"), ("us-recreation", "Within 10 days"))
        for region, words in rows:
            told = " ".join(r.by_when for r in reports(region, Occurrence.INJURY))
            self.assertIn(words, told)
            self.assertRegex(told, "Without delay|At once, if somebody died")

    def test_who_is_called_at_once_stands_first(self) -> None:
        for region in ("", *BY_REGION):
            for what in Occurrence:
                found = reports(region, what)
                self.assertEqual(len(found), len(set(found)))
                urgent = [r.by_when.startswith(("At once", "Without delay")) for r in found]
                if what is Occurrence.INJURY:
                    self.assertEqual(found[0].who, "Emergency services")
                self.assertTrue(found, what)
                self.assertFalse(not urgent[0] and any(urgent[1:]), (region, what))

    def test_stop_and_the_person_come_before_everything_else(self) -> None:
        self.assertEqual([what for what, _ in ACT_FIRST[:3]], ["Stop it.", "The person first.", "Keep everybody away."])
