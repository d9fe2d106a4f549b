"""Charges of the gear: typed or from a round, the newest counts, use is learned."""

from datetime import timedelta

from tests.support import WebCase
from walkround.core.flight.session import Gear
from walkround.core.packs.charge import from_percent
from walkround.store import gear


class Read(WebCase):
    def test_the_newest_counts_and_nothing_of_the_future(self) -> None:
        gear.keep(Gear.TRANSMITTER, from_percent(60), self.now - timedelta(hours=2))
        gear.keep(Gear.TRANSMITTER, from_percent(50), self.now - timedelta(hours=1))
        gear.keep(Gear.TRANSMITTER, from_percent(99), self.now + timedelta(hours=1))
        latest, learned = gear.known((Gear.TRANSMITTER, Gear.CAMERA), self.now)
        self.assertEqual(latest[Gear.TRANSMITTER].mid, 50)
        self.assertNotIn(Gear.CAMERA, latest)
        self.assertEqual(learned, {})

    def test_a_charge_answered_in_a_round_counts_too(self) -> None:
        before, _ = gear.known((Gear.TRANSMITTER,), self.now)
        self.signed()
        after, _ = gear.known((Gear.TRANSMITTER,), self.now)
        self.assertGreater(after[Gear.TRANSMITTER].at, before[Gear.TRANSMITTER].at)

    def test_use_is_learned_from_what_was_kept(self) -> None:
        for day in (1, 2, 3):
            at = self.now - timedelta(days=day)
            gear.keep(Gear.GOGGLES, from_percent(90), at)
            gear.keep(Gear.GOGGLES, from_percent(50), at + timedelta(hours=1))
        _, learned = gear.known((Gear.GOGGLES,), self.now)
        self.assertAlmostEqual(learned[Gear.GOGGLES], 40)
