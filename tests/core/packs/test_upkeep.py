"""What each pack needs, which flies next, what goes to storage: the practice, and that the worst word wins."""

import unittest
from datetime import datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, PACK
from walkround.core.base.finding import Level
from walkround.core.packs import upkeep
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.health import Flown
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary, summarise
from walkround.core.packs.upkeep import Deed, Need, after_the_day, next_packs
from walkround.core.pilot.limits import Limits

DAY = timedelta(days=1)


def need(pack: Pack, known_: Summary, now: datetime, limits: Limits, **more: str) -> Need:
    return upkeep.need(pack, known_, known_.charge_now(pack, now), now, limits, **more)


H1 = PACK.model_copy(update={"label": "H1", "smart": False})


def known(*readings: Reading, flights: tuple[Flown, ...] = ()) -> Summary:
    return summarise(H1, readings, flights)


def charged(days: float, **more: object) -> Reading:
    return Reading(at=NOW - days * DAY, percent=100, after=After.CHARGE, **more)


def left(days: float, percent: float) -> Reading:
    return Reading(at=NOW - days * DAY, percent=percent)


class Needs(unittest.TestCase):
    def test_each_deed(self) -> None:
        flat = Reading(at=NOW - DAY, cells_v=(4.19, 4.05, 4.19))
        lags = Reading(at=NOW - DAY, cells_v=(4.19, 4.15, 4.19))
        dead = Reading(at=NOW - DAY, cells_v=(3.6, 2.7, 3.6))
        hot = Reading(at=NOW - DAY / 24, percent=95, temperature_c=51)
        cold = Reading(at=NOW - DAY / 24, percent=98, temperature_c=4)
        rows = (
            ("never read", known(), Deed.LOOK, Level.CARE, "Nothing is known"),
            ("charged yesterday", known(charged(1)), Deed.FLY, Level.CLEAR, "Charged, 100"),
            ("full for a week", known(charged(7)), Deed.STORE, Level.CARE, "Full for 7"),
            ("full since an older charge", known(charged(9), charged(1)), Deed.STORE, Level.CARE, "Full for 9"),
            ("flown since", known(charged(9), left(8, 40), charged(1)), Deed.FLY, Level.CLEAR, "Charged"),
            ("at storage", known(left(9, 50)), Deed.KEEP, Level.CLEAR, "At storage"),
            ("a little used", known(left(1, 74)), Deed.CHARGE, Level.CLEAR, "charge it to fly"),
            ("nearly empty", known(left(1, 8)), Deed.RAISE, Level.CARE, "bring it up"),
            ("forgotten", known(left(70, 50)), Deed.LOOK, Level.CARE, "Not looked at for 70"),
            ("a cell dropped away", known(flat), Deed.BALANCE, Level.GROUNDED, "dropped away"),
            ("a cell lags", known(lags), Deed.BALANCE, Level.CLEAR, "balance charge"),
            ("a dead cell", known(dead), Deed.LOOK, Level.GROUNDED, "below what a cell survives"),
            ("hot", known(hot), Deed.REST, Level.GROUNDED, "cools first"),
            ("cold", known(cold), Deed.WARM, Level.CARE, "warm it"),
        )
        for name, summary, deed, level, words in rows:
            with self.subTest(name):
                found = need(H1, summary, NOW, Limits())
                self.assertEqual((found.deed, found.level), (deed, level), found.words.text)
                self.assertIn(words.split()[0], found.words.text)

    def test_the_state_comes_first(self) -> None:
        fine = known(charged(1))
        rows = (
            ("out for good", {"state": PackState.RETIRED, "for_good": True}, Deed.DISPOSE, "collection point"),
            ("retired", {"state": PackState.RETIRED}, Deed.KEEP_AWAY, ""),
            ("set aside", {"state": PackState.SET_ASIDE}, Deed.LOOK, ""),
        )
        for name, changes, deed, caution in rows:
            with self.subTest(name):
                found = need(H1.model_copy(update=changes), fine, NOW, Limits(), reason="Swollen.")
                self.assertEqual((found.deed, found.level), (deed, Level.GROUNDED))
                self.assertIn("swollen", found.words.text)
                self.assertIn(caution, found.caution)
        self.assertIs(need(H1, fine, NOW, Limits(), snag="A lead is nicked").level, Level.GROUNDED)

    def test_worn_out_by_the_pilots_limit(self) -> None:
        flights, readings = [], []
        for i in range(5):
            at = NOW - (60 - 10 * i) * DAY
            flights.append(Flown(at=at, minutes=8, left_percent=40))
            readings.append(Reading(at=at + DAY / 4, put_back_mah=1500, percent=100, after=After.CHARGE))
        worn = summarise(H1, [*readings, left(1, 50)], flights)
        self.assertEqual(need(H1, worn, NOW, Limits()).deed, Deed.RETIRE)
        self.assertNotEqual(need(H1, worn, NOW, Limits(capacity_percent=60)).deed, Deed.RETIRE)

    def test_nickel_is_kept_charged(self) -> None:
        nickel = H1.model_copy(update={"chemistry": Chemistry.NIMH})
        self.assertEqual(need(nickel, known(charged(20)), NOW, Limits()).deed, Deed.CHARGE)
        self.assertEqual(need(nickel, known(charged(5)), NOW, Limits()).deed, Deed.FLY)

    @given(st.floats(0, 100), st.floats(0, 60))
    def test_longer_standing_never_needs_less(self, percent: float, days: float) -> None:
        early = need(H1, known(left(days, percent)), NOW, Limits()).level
        self.assertGreaterEqual(need(H1, known(left(days + 40, percent)), NOW, Limits()).level, early)


class Next(unittest.TestCase):
    def turn(self, number: int, summary: Summary, **changes: object):  # type: ignore[no-untyped-def]
        pack = H1.model_copy(update={"id": number, "label": f"P{number}", **changes})
        return pack, summary, summary.charge_now(pack, NOW)

    def test_the_order(self) -> None:
        cold = Reading(at=NOW - DAY / 24, percent=98, temperature_c=3)
        box = [
            self.turn(1, known(charged(1))),
            self.turn(2, known(charged(3))),
            self.turn(3, known(charged(5), cold)),
            self.turn(4, known(left(1, 40))),
            self.turn(5, known(charged(3)), cycles_before=80),
            self.turn(6, known(charged(9)), state=PackState.SET_ASIDE),
            self.turn(7, known(charged(9))),
        ]
        worn = summarise(box[4][0], [charged(3)], ())
        box[4] = (box[4][0], worn, box[4][2])
        turns = next_packs(box, NOW, down=frozenset({7}))
        self.assertEqual([t.pack.id for t in turns], [2, 5, 1, 3, 4])
        self.assertIn("flies last", turns[3].words.text)
        self.assertIn("Only", turns[4].words.text)

    def test_nothing_known_is_said(self) -> None:
        self.assertIn("not known", next_packs([self.turn(1, known())], NOW)[0].words.text)


VOLTS = st.floats(1.8, 4.6)
READINGS = st.one_of(
    st.tuples(VOLTS, VOLTS, VOLTS).map(lambda cells: Reading(at=NOW - DAY / 24, cells_v=cells, after=After.CHARGE)),
    st.floats(5.4, 13.8).map(lambda total: Reading(at=NOW - DAY / 24, total_v=total)),
    st.floats(-5, 70).map(lambda felt: Reading(at=NOW - DAY / 24, percent=95, temperature_c=felt)),
)


class OneJudgement(unittest.TestCase):
    """What a pack needs, whether it flies next and what is done with it in the evening never contradict each other."""

    @given(READINGS, st.sampled_from(Chemistry), st.sampled_from(PackState), st.booleans())
    def test_a_pack_that_is_grounded_is_offered_nowhere(
        self, reading: Reading, kind: Chemistry, state: PackState, snag: bool
    ) -> None:
        pack = H1.model_copy(update={"chemistry": kind, "state": state})
        summary = summarise(pack, [reading], ())
        held = summary.charge_now(pack, NOW)
        wants = upkeep.need(pack, summary, held, NOW, Limits(), snag="A lead is nicked" if snag else "")
        grounded = wants.level is Level.GROUNDED
        turns = next_packs([(pack, summary, held)], NOW, down=frozenset({pack.id} if snag else ()))
        self.assertEqual(turns == (), grounded, wants.words.text)
        if wants.caution:
            evening = after_the_day([(pack, summary, held)], NOW, NOW - DAY)
            self.assertTrue(evening == () or wants.deed is Deed.REST, wants.words.text)

    def test_those_that_were_offered_before(self) -> None:
        for cells in ((4.31, 4.31, 4.31), (4.19, 4.05, 4.19), (3.9, 2.8, 3.9)):
            summary = known(Reading(at=NOW - DAY / 24, cells_v=cells, after=After.CHARGE))
            self.assertEqual(next_packs([(H1, summary, summary.charge_now(H1, NOW))], NOW), (), cells)

    def test_a_chemistry_not_known_is_grounded_with_what_to_do(self) -> None:
        pack = H1.model_copy(update={"chemistry": Chemistry.UNKNOWN})
        found = need(pack, known(charged(1)), NOW, Limits())
        self.assertEqual((found.deed, found.level), (Deed.LOOK, Level.GROUNDED))
        self.assertIn("label", found.caution)


class Evening(unittest.TestCase):
    def test_which_go_to_storage(self) -> None:
        begun = NOW - DAY / 2
        flown = Flown(at=NOW - DAY / 10, minutes=8, left_percent=17)
        rows = (
            ("charged, not flown", known(charged(0.2)), Deed.STORE),
            ("flown low", known(charged(0.3), flights=(flown,)), Deed.RAISE),
            ("flown to about half", known(charged(0.3), left(0.1, 48)), None),
            ("untouched", known(charged(6)), None),
        )
        for name, summary, deed in rows:
            with self.subTest(name):
                found = after_the_day([(H1, summary, summary.charge_now(H1, NOW))], NOW, begun)
                self.assertEqual([d for _, d, _ in found], [deed] if deed else [])


class Summaries(unittest.TestCase):
    def test_the_newest_word_counts(self) -> None:
        flight = Flown(at=NOW - DAY, minutes=9, left_percent=44)
        summary = known(charged(3), Reading(at=NOW - 2 * DAY, cells_v=(4.1, 4.0, 4.1)), flights=(flight,))
        self.assertEqual((summary.cycles, summary.readings), (1, 2))
        self.assertEqual(summary.charge.mid if summary.charge else 0, 44)
        self.assertAlmostEqual(summary.spread_v or 0, 0.1)
        self.assertIsNone(summary.full_at)

    def test_a_touch_of_warmth_is_forgotten(self) -> None:
        summary = known(Reading(at=NOW - DAY, temperature_c=50))
        self.assertIsNone(summary.felt_c(NOW))
        self.assertEqual(summary.felt_c(NOW - DAY), 50)
