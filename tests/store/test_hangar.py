"""Aircraft, packs, fields, settings, and the situation gathered from them."""

from tests.support import PACK, QUAD, SITE, BookCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, MissingError
from walkround.core.checklist.history import SnagOn
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack, PackState
from walkround.store import hangar, snags


class Things(BookCase):
    def test_what_was_saved_comes_back(self) -> None:
        for kind, thing in ((Aircraft, QUAD), (Pack, PACK), (Site, SITE)):
            fresh = thing.model_copy(update={"id": 0})
            number = hangar.save(fresh, self.now)
            self.assertEqual(hangar.get(kind, number), fresh.model_copy(update={"id": number}))

    def test_names_are_taken_once_whatever_their_case(self) -> None:
        with self.assertRaises(InputError) as caught:
            hangar.save(QUAD.model_copy(update={"id": 0, "name": "SANDPIPER"}), self.now)
        self.assertEqual(
            (caught.exception.field, caught.exception.message),
            ("name", "There is already an aircraft called SANDPIPER."),
        )
        with self.assertRaises(InputError):
            hangar.save(PACK.model_copy(update={"id": 0, "label": "s1"}), self.now)

    def test_missing(self) -> None:
        for kind in (Aircraft, Pack, Site):
            with self.assertRaises(MissingError):
                hangar.get(kind, 999)
        with self.assertRaises(MissingError):
            snags.close(999, "x", self.now)

    def test_retired_things_are_not_offered(self) -> None:
        number = self.numbers["S2"]
        hangar.save(hangar.get(Pack, number).model_copy(update={"state": PackState.RETIRED}), self.now)
        self.assertNotIn(number, [p.id for p in hangar.everything(Pack)])
        self.assertIn(number, [p.id for p in hangar.everything(Pack, retired=True)])

    def test_a_closed_snag_stays_closed(self) -> None:
        snags.open_one(SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "x", grounds=True, at=self.now)
        number = snags.open_ones(self.numbers["Sandpiper"])[0].id
        snags.close(number, "done", self.now)
        snags.close(number, "done again", self.now)
        self.assertEqual(snags.closed(self.numbers["Sandpiper"])[0].closed_how, "done")
