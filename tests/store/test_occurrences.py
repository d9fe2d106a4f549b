"""Accidents and near misses: what is written down, and what follows."""

from tests.support import BookCase
from walkround.core.base.errors import InputError, MissingError
from walkround.core.checklist.history import EventKind
from walkround.core.pilot.accident import Occurrence
from walkround.store import occurrences, snags
from walkround.store.air_models import OccurrenceRow
from walkround.store.models import EventRow
from walkround.store.occurrences import MOST_PHOTOS
from walkround.store.photos import Photo


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
                now=self.now,
            )
        self.assertFalse(OccurrenceRow.select().where(OccurrenceRow.what == "x").exists())

    def test_photos_are_kept_in_order_and_so_many(self) -> None:
        number = self.keep(Occurrence.CRASH)
        shots = [Photo(jpeg=bytes([n]) * 9, width=3, height=3) for n in range(MOST_PHOTOS)]
        occurrences.add_photos(number, shots[:2], self.now)
        first, second = occurrences.photos_of(number)
        self.assertEqual((occurrences.photo(number, first), occurrences.photo(number, second)), (b"\0" * 9, b"\1" * 9))
        with self.assertRaisesRegex(InputError, f"{MOST_PHOTOS} photos"):
            occurrences.add_photos(number, shots, self.now)
        self.assertEqual(len(occurrences.photos_of(number)), 2)
        for wrong in ((number, 999), (999, first)):
            with self.assertRaises(MissingError):
                occurrences.photo(*wrong)
