"""Accidents and near misses: what is written down, and what follows."""

from tests.support import BookCase
from walkround.core.base.errors import MissingError
from walkround.core.checklist.history import EventKind
from walkround.core.pilot.accident import Occurrence
from walkround.store import occurrences, snags
from walkround.store.air_models import OccurrenceRow
from walkround.store.models import EventRow


class Kept(BookCase):
    def keep(self, kind: Occurrence) -> int:
        quad = self.numbers["Sandpiper"]
        return occurrences.keep(
            kind,
            aircraft_id=quad,
            site_id=self.numbers["Teasel Common"],
            at=self.now,
            what="hit the pear",
            witnesses="Wren",
            photo=None,
            now=self.now,
        )

    def test_all_but_a_near_miss_keep_it_down_until_it_was_looked_over(self) -> None:
        quad = self.numbers["Sandpiper"]
        for kind in Occurrence:
            before, events = (
                len(snags.open_ones(quad)),
                EventRow.select().where(EventRow.kind == EventKind.CRASH.value).count(),
            )
            row = occurrences.get(self.keep(kind))
            after = snags.open_ones(quad)
            grows = kind is not Occurrence.NEAR_MISS
            with self.subTest(kind):
                self.assertEqual(len(after) - before, int(grows))
                self.assertEqual(
                    EventRow.select().where(EventRow.kind == EventKind.CRASH.value).count() - events, int(grows)
                )
                self.assertEqual((row.kind, row.what, row.witnesses), (kind.value, "hit the pear", "Wren"))
                if grows:
                    self.assertTrue(after[-1].grounds)
                    self.assertTrue(after[-1].title.endswith("hit the pear"))

    def test_newest_first(self) -> None:
        have = OccurrenceRow.select().count()
        number = self.keep(Occurrence.CRASH)
        self.assertEqual(occurrences.everything()[0].id, number)
        self.assertEqual(len(occurrences.everything()), have + 1)

    def test_what_is_not_there(self) -> None:
        with self.assertRaises(MissingError):
            occurrences.get(999)
        with self.assertRaises(MissingError):
            occurrences.keep(
                Occurrence.CRASH,
                aircraft_id=999,
                site_id=None,
                at=self.now,
                what="x",
                witnesses="",
                photo=None,
                now=self.now,
            )
        self.assertFalse(OccurrenceRow.select().where(OccurrenceRow.what == "x").exists())
