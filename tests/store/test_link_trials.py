"""Trials and settings in the book: what a test leaves behind, and what a signed round brings to the aircraft."""

from datetime import timedelta

from tests.support import BookCase, piece
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action, Failsafe
from walkround.core.aircraft.link_trials import BenchTest, Rehearsal, Seen
from walkround.core.answers.choice import Chosen
from walkround.core.answers.number import Measured
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.walk import walk
from walkround.store import hangar, link_trials, snags
from walkround.store.models import DoneRow
from walkround.store.settings import Settings
from walkround.store.situation import gather


class Trials(BookCase):
    def aircraft(self, name: str = "Haymaker") -> Aircraft:
        return hangar.get(Aircraft, self.numbers[name])

    def gathered(self, name: str = "Haymaker", pack: str = "H1"):  # type: ignore[no-untyped-def]
        return gather(
            self.numbers[name], self.numbers[pack], self.numbers["Teasel Common"], now=self.now, settings=Settings()
        )

    def done_at(self, check_id: str):  # type: ignore[no-untyped-def]
        row = DoneRow.get_or_none((DoneRow.aircraft == self.numbers["Haymaker"]) & (DoneRow.check_id == check_id))
        return None if row is None else row.at

    def test_a_failed_test_grounds_until_one_passes(self) -> None:
        with self.book.write():
            link_trials.keep_test(self.aircraft(), BenchTest(at=self.now, seen=Seen.KEPT_ON))
            link_trials.keep_test(self.aircraft(), BenchTest(at=self.now, seen=Seen.KEPT_ON))
        open_now = [s for s in snags.open_ones(self.numbers["Haymaker"]) if s.check_id == "bench.failsafe"]
        self.assertEqual(
            [(s.grounds, s.title) for s in open_now],
            [(True, "Failsafe test failed: the motors kept running")],
            "once, not twice",
        )
        self.assertIsNotNone(self.gathered().history.latest(EventKind.FAILSAFE_FAILED))
        later = self.now + timedelta(minutes=5)
        with self.book.write():
            link_trials.keep_test(self.aircraft(), BenchTest(at=later, seen=Seen.STOPPED, after_s=1.1))
        self.assertFalse([s for s in snags.open_ones(self.numbers["Haymaker"]) if s.check_id == "bench.failsafe"])
        self.assertEqual((self.done_at("bench.failsafe"), self.done_at("bench.propellers_off")), (later, later))

    def test_the_newest_first_and_never_what_is_dated_ahead(self) -> None:
        number = self.numbers["Haymaker"]
        with self.book.write():
            for minutes, seen in ((0, Seen.KEPT_ON), (5, Seen.STOPPED), (60 * 24 * 400, Seen.KEPT_ON)):
                link_trials.keep(number, BenchTest(at=self.now + timedelta(minutes=minutes), seen=seen))
            link_trials.keep(number, Rehearsal(at=self.now, distance_m=80, seconds=70, offset_m=2))
        test, flown = link_trials.newest(number, self.now + timedelta(minutes=10))
        assert test is not None
        self.assertEqual((test.seen, len(flown)), (Seen.STOPPED, 1))
        history = self.gathered().history
        self.assertEqual(len(history.rehearsals), 1)

    def test_settings_as_read_count_as_checked(self) -> None:
        read = Failsafe(action=Action.CIRCLE, delay_s=1, read_at=self.now, read_site="Teasel Common")
        with self.book.write():
            link_trials.read_settings(self.aircraft(), read, self.now, ("link.lost_action_wing",))
        self.assertEqual(self.aircraft().failsafe, read)
        self.assertEqual(self.done_at("link.lost_action_wing"), self.now)

    def test_a_height_that_grounds_does_not_count_as_checked(self) -> None:
        read = Failsafe(action=Action.RETURN, rth_altitude_m=12, read_at=self.now, read_site="Teasel Common")
        for checks, kept in (((), None), (("link.rth_altitude",), self.now)):
            with self.book.write():
                link_trials.read_settings(self.aircraft(), read, self.now, checks)
            self.assertEqual(self.done_at("link.rth_altitude"), kept)

    def test_a_signed_round_brings_what_it_read(self) -> None:
        case = self.gathered("Sandpiper", "S1")
        given = [
            piece("link.lost_action", Chosen(option="hover"), 1),
            piece("link.rth_altitude", Measured(value=53), 2),
        ]
        with self.book.write():
            link_trials.note(walk(case, given), self.now)
        kept = hangar.get(Aircraft, self.numbers["Sandpiper"]).failsafe
        assert kept is not None
        self.assertEqual((kept.action, kept.rth_altitude_m, kept.read_site), (Action.HOVER, 53, "Teasel Common"))
        self.assertEqual(kept.delay_s, 1.5, "what the round does not ask stays")

    def test_a_round_that_asked_nothing_of_it_changes_nothing(self) -> None:
        before = self.aircraft("Sandpiper").failsafe
        with self.book.write():
            link_trials.note(walk(self.gathered("Sandpiper", "S1"), []), self.now)
        self.assertEqual(self.aircraft("Sandpiper").failsafe, before)
        self.assertTrue(hangar.everything(Pack) and hangar.everything(Site))
