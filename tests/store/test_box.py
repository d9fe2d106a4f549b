"""The box as a whole, against what each pack says of itself, whatever the clock says."""

from datetime import timedelta

from tests.support import BookCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.checklist.history import SnagOn
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.reading import Reading
from walkround.core.packs.upkeep import grounding
from walkround.store import box, hangar, packs, snags

HOUR = timedelta(hours=1)


class Box(BookCase):
    def agrees(self) -> None:
        """Every pack as it is known by itself, for each aircraft and at several times."""
        every = hangar.everything(Pack, retired=True)
        for now in (self.now - 400 * 24 * HOUR, self.now - HOUR, self.now, self.now + HOUR, self.now + 900 * 24 * HOUR):
            known = {pack.id: packs.in_short(pack.id, now) for pack in every}
            self.assertEqual({pack.id: summary for pack, summary in box.known_packs(now)}, known)
            for aircraft in hangar.everything(Aircraft):
                fits = [pack for pack in every if pack.usable and pack.fits(aircraft)]
                self.assertEqual(list(box.fitting(aircraft)), fits)
                flies = {
                    pack.id
                    for pack in fits
                    if pack.id not in snags.grounded_packs() and grounding(pack, known[pack.id], now) is None
                }
                turns = box.flying_order(aircraft, now)
                self.assertEqual({turn.pack.id for turn in turns}, flies)
                self.assertEqual([turn.charge for turn in turns], [t.known.charge_now(t.pack, now) for t in turns])
                self.assertTrue(all(turn.known == known[turn.pack.id] for turn in turns))

    def test_as_it_is_and_after_every_kind_of_change(self) -> None:
        self.agrees()
        number = self.numbers["S1"]
        for change in (
            lambda: packs.add_reading(number, Reading(at=self.now, percent=97, temperature_c=71), self.now),
            lambda: packs.add_reading(number, Reading(at=self.now + HOUR / 2, cells_v=(4.4, 4.1, 4.1, 4.1)), self.now),
            lambda: packs.change_state(number, PackState.QUARANTINED, "Puffed", self.now),
            lambda: snags.open_one(SnagOn.PACK, self.numbers["S2"], "A lead is nicked", grounds=True, at=self.now),
        ):
            change()
            self.agrees()

    def test_a_hot_pack_waits_and_a_cool_one_flies(self) -> None:
        aircraft = hangar.get(Aircraft, self.numbers["Sandpiper"])
        number = self.numbers["S1"]
        packs.add_reading(number, Reading(at=self.now, percent=97, temperature_c=71), self.now)
        later = self.now + 24 * HOUR
        self.assertNotIn(number, [turn.pack.id for turn in box.flying_order(aircraft, self.now)])
        self.assertIn(number, [turn.pack.id for turn in box.flying_order(aircraft, later)])
