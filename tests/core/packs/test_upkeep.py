"""What each pack needs, which flies next, what goes to storage: the practice, and that the worst word wins."""

import unittest
from datetime import datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, PACK, said
from walkround.core.base.finding import Level
from walkround.core.packs import upkeep
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.chemistry import Chemistry, charge_percent
from walkround.core.packs.health import Flown
from walkround.core.packs.lithium import overcharged_above_v
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary, summarise
from walkround.core.packs.upkeep import PackNeed, PackTask, after_the_day, in_line, next_packs
from walkround.core.pilot.limits import Limits

DAY = timedelta(days=1)


def need(pack: Pack, known_: Summary, now: datetime, limits: Limits, **more: str) -> PackNeed:
    return upkeep.need(pack, known_, known_.charge_now(pack, now), now, limits, **more)


H1 = PACK.model_copy(update={"label": "H1", "smart": False})


def known(*readings: Reading, flights: tuple[Flown, ...] = ()) -> Summary:
    return summarise(H1, readings, flights)


def charged(days: float, **more: object) -> Reading:
    return Reading(at=NOW - days * DAY, percent=100, after=After.CHARGE, **more)


def left(days: float, percent: float) -> Reading:
    return Reading(at=NOW - days * DAY, percent=percent)


class FlightNeeds(unittest.TestCase):
    def test_each_deed(self) -> None:
        flat = Reading(at=NOW - DAY, cells_v=(4.19, 4.05, 4.19))
        lags = Reading(at=NOW - DAY, cells_v=(4.19, 4.15, 4.19))
        dead = Reading(at=NOW - DAY, cells_v=(3.6, 2.7, 3.6))
        hot = Reading(at=NOW - DAY / 24, percent=95, temperature_c=51)
        cold = Reading(at=NOW - DAY / 24, percent=98, temperature_c=4)
        rows = (
            ("never read", known(), PackTask.LOOK, Level.CAUTION, "No data yet: measure its cells"),
            ("charged yesterday", known(charged(1)), PackTask.FLY, Level.CLEAR, "Charged, 100"),
            ("full for a week", known(charged(7)), PackTask.STORE, Level.CAUTION, "Full for 7"),
            ("full since an older charge", known(charged(9), charged(1)), PackTask.STORE, Level.CAUTION, "Full for 9"),
            ("flown since", known(charged(9), left(8, 40), charged(1)), PackTask.FLY, Level.CLEAR, "Charged"),
            ("at storage", known(left(9, 50)), PackTask.KEEP, Level.CLEAR, "At storage charge"),
            ("a little used", known(left(1, 74)), PackTask.CHARGE, Level.CLEAR, "charge it to fly"),
            (
                "nearly empty",
                known(left(1, 8)),
                PackTask.RAISE,
                Level.CAUTION,
                "left: charge it to storage charge today",
            ),
            ("forgotten", known(left(70, 50)), PackTask.LOOK, Level.CAUTION, "Not inspected for 70"),
            (
                "a cell dropped away",
                known(flat),
                PackTask.BALANCE,
                Level.GROUNDED,
                "dropped away",
            ),
            (
                "a cell lags",
                known(lags),
                PackTask.BALANCE,
                Level.CLEAR,
                "balance charge",
            ),
            (
                "a dead cell",
                known(dead),
                PackTask.LOOK,
                Level.GROUNDED,
                "too low, the cell is probably damaged. Measure it again; if it stays",
            ),
            ("hot", known(hot), PackTask.REST, Level.GROUNDED, "let it cool first"),
            ("cold", known(cold), PackTask.WARM, Level.CAUTION, "warm it"),
        )
        for name, summary, task, level, words in rows:
            with self.subTest(name):
                found = need(H1, summary, NOW, Limits())
                self.assertEqual((found.task, found.level), (task, level), found.words.text)
                self.assertIn(words.split()[0], found.words.text)

    def test_the_state_comes_first(self) -> None:
        fine = known(charged(1))
        rows = (
            ("retired for good", {"state": PackState.RETIRED, "condemned": True}, PackTask.DISPOSE, "collection point"),
            ("retired", {"state": PackState.RETIRED}, PackTask.KEEP_AWAY, ""),
            ("set aside", {"state": PackState.QUARANTINED}, PackTask.LOOK, ""),
        )
        for name, changes, task, caution in rows:
            with self.subTest(name):
                found = need(H1.model_copy(update=changes), fine, NOW, Limits(), reason="Swollen.")
                self.assertEqual((found.task, found.level), (task, Level.GROUNDED))
                self.assertIn("swollen", found.words.text)
                self.assertIn(caution, found.caution)
        self.assertIs(need(H1, fine, NOW, Limits(), snag="A lead is nicked").level, Level.GROUNDED)

    def test_worn_out_by_the_pilots_limit(self) -> None:
        flights, readings = [], []
        for i in range(5):
            at = NOW - (60 - 10 * i) * DAY
            flights.append(Flown(at=at, minutes=8, left_percent=40))
            readings.append(Reading(at=at + DAY / 4, recharged_mah=1500, percent=100, after=After.CHARGE))
        worn = summarise(H1, [*readings, left(1, 50)], flights)
        self.assertEqual(need(H1, worn, NOW, Limits()).task, PackTask.RETIRE)
        self.assertNotEqual(need(H1, worn, NOW, Limits(capacity_percent=60)).task, PackTask.RETIRE)

    def test_nickel_is_kept_charged(self) -> None:
        nickel = H1.model_copy(update={"chemistry": Chemistry.NIMH})
        self.assertEqual(need(nickel, known(charged(20)), NOW, Limits()).task, PackTask.CHARGE)
        self.assertEqual(need(nickel, known(charged(5)), NOW, Limits()).task, PackTask.FLY)

    def test_each_bound_at_its_edge(self) -> None:
        """45 and 10 °C, 0.02, 0.05 and 0.10 V, 15 %, the pilot's days and shares: common practice, no source."""
        fine = known(charged(1))

        def but(**changes: object) -> Summary:
            return fine.model_copy(update=changes)

        def charge(mid: float) -> ChargeRange:
            return ChargeRange(low=mid, mid=mid, high=mid)

        lately, full_v = NOW - DAY / 24, overcharged_above_v(Chemistry.LIPO)
        low, high = (charge_percent(v) for v in (3.75, 3.88))
        rows = (
            (but(temperature_c=45.0, temperature_at=lately), 100, PackTask.FLY, Level.CLEAR),
            (but(temperature_c=45.1, temperature_at=lately), 100, PackTask.REST, Level.GROUNDED),
            (but(temperature_c=10.0, temperature_at=lately), 100, PackTask.FLY, Level.CLEAR),
            (but(temperature_c=9.9, temperature_at=lately), 100, PackTask.WARM, Level.CAUTION),
            (but(highest_v=full_v), 100, PackTask.FLY, Level.CLEAR),
            (but(highest_v=full_v + 0.001), 100, PackTask.LOOK, Level.GROUNDED),
            (but(weakest_v=3.0), 100, PackTask.FLY, Level.CLEAR),
            (but(weakest_v=2.999), 100, PackTask.LOOK, Level.GROUNDED),
            (but(weakest_v=None, mean_v=2.999), 100, PackTask.LOOK, Level.GROUNDED),
            (but(imbalance_v=0.02), 100, PackTask.FLY, Level.CLEAR),
            (but(imbalance_v=0.021), 100, PackTask.BALANCE, Level.CLEAR),
            (but(imbalance_v=0.05), 100, PackTask.BALANCE, Level.CLEAR),
            (but(imbalance_v=0.051), 100, PackTask.BALANCE, Level.CAUTION),
            (but(imbalance_v=0.10), 100, PackTask.BALANCE, Level.CAUTION),
            (but(imbalance_v=0.101), 100, PackTask.BALANCE, Level.GROUNDED),
            (but(state_of_health=0.80), 100, PackTask.FLY, Level.CLEAR),
            (but(state_of_health=0.799), 100, PackTask.RETIRE, Level.CAUTION),
            (but(mohm_times=2.0), 100, PackTask.FLY, Level.CLEAR),
            (but(mohm_times=2.01), 100, PackTask.RETIRE, Level.CAUTION),
            (but(full_at=NOW - 3 * DAY), 100, PackTask.FLY, Level.CLEAR),
            (but(full_at=NOW - 3.01 * DAY), 100, PackTask.STORE, Level.CAUTION),
            (but(looked_at=NOW - 60 * DAY), 100, PackTask.FLY, Level.CLEAR),
            (but(looked_at=NOW - 60.01 * DAY), 100, PackTask.LOOK, Level.CAUTION),
            (fine, 14.9, PackTask.RAISE, Level.CAUTION),
            (fine, 15.0, PackTask.CHARGE, Level.CLEAR),
            (fine, low - 5.1, PackTask.CHARGE, Level.CLEAR),
            (fine, low - 5, PackTask.KEEP, Level.CLEAR),
            (fine, high + 5, PackTask.KEEP, Level.CLEAR),
            (fine, high + 5.1, PackTask.CHARGE, Level.CLEAR),
            (fine, 89.9, PackTask.CHARGE, Level.CLEAR),
            (fine, 90.0, PackTask.FLY, Level.CLEAR),
        )
        limits = Limits(full_days=3, look_days=60, capacity_percent=80, resistance_times=2)
        for summary, mid, task, level in rows:
            found = upkeep.need(H1, summary, charge(mid), NOW, limits)
            self.assertEqual((found.task, found.level), (task, level), said(found.words))
        worn = upkeep.need(H1, but(state_of_health=0.7), charge(100), NOW, limits)
        self.assertEqual(said(worn.words), "70 % of rated capacity is left (min 80 %).")
        unknown = upkeep.need(H1, fine, None, NOW, limits)
        self.assertEqual((unknown.task, unknown.level), (PackTask.LOOK, Level.CAUTION))
        for air_c, task in ((9.9, PackTask.WARM), (10.0, PackTask.FLY), (None, PackTask.FLY)):
            self.assertEqual(upkeep.need(H1, fine, charge(100), NOW, limits, air_c=air_c).task, task)
        # a pack felt warm in the pocket is warm, whatever the air
        warm = but(temperature_c=22.0, temperature_at=lately)
        self.assertEqual(upkeep.need(H1, warm, charge(100), NOW, limits, air_c=-5).task, PackTask.FLY)

    def test_a_clock_set_back_makes_nothing_old(self) -> None:
        ahead = known(charged(1)).model_copy(update={"full_at": NOW + 9 * DAY, "looked_at": NOW + 9 * DAY})
        self.assertEqual(need(H1, ahead, NOW, Limits(full_days=1, look_days=7)).task, PackTask.FLY)

    def test_only_what_can_burn_has_the_fire_caution(self) -> None:
        gone = {"state": PackState.RETIRED, "condemned": True}
        for chemistry, burns in ((Chemistry.LIPO, True), (Chemistry.NIMH, False)):
            pack = H1.model_copy(update={**gone, "chemistry": chemistry})
            self.assertEqual(bool(need(pack, known(), NOW, Limits(), reason="Worn").caution), burns)

    def test_reasons_are_written_on(self) -> None:
        """A sentence goes on in small letters; an abbreviation stays as it is."""
        aside = H1.model_copy(update={"state": PackState.QUARANTINED})
        for reason, words in (("Fell down.", "fell down"), ("ESC melted", "ESC melted"), (" ", "by you")):
            self.assertIn(f"Quarantined: {words}.", said(need(aside, known(), NOW, Limits(), reason=reason).words))

    @given(st.floats(0, 100), st.floats(0, 60))
    def test_longer_standing_never_needs_less(self, percent: float, days: float) -> None:
        early = need(H1, known(left(days, percent)), NOW, Limits()).level
        self.assertGreaterEqual(need(H1, known(left(days + 40, percent)), NOW, Limits()).level, early)


class Next(unittest.TestCase):
    def turn(self, number: int, summary: Summary, **changes: object):  # type: ignore[no-untyped-def]
        pack = H1.model_copy(update={"id": number, "label": f"P{number}", **changes})
        return in_line(pack, summary)

    def test_the_order(self) -> None:
        cold = Reading(at=NOW - DAY / 24, percent=98, temperature_c=3)
        box = [
            self.turn(1, known(charged(1))),
            self.turn(2, known(charged(3))),
            self.turn(3, known(charged(5), cold)),
            self.turn(4, known(left(1, 40))),
            self.turn(5, known(charged(3)), cycles_before=80),
            self.turn(6, known(charged(9)), state=PackState.QUARANTINED),
            self.turn(7, known(charged(9))),
        ]
        box[4] = in_line(box[4].pack, summarise(box[4].pack, [charged(3)], ()))
        turns = next_packs(box, NOW, down=frozenset({7}))
        self.assertEqual([t.pack.id for t in turns], [2, 5, 1, 3, 4])
        self.assertIn("Charged but cold: fly it last, once warmed", turns[3].words.text)
        self.assertIn("Only", turns[4].words.text)

    def test_words_and_order_at_their_edges(self) -> None:
        """Charged first, warm before cold, sound before watched, the one charged longest ago, then the fewest cycles."""
        today = [
            (known(charged(0.99)), "Charged today, 1 cycle."),
            (known(charged(1)), "Charged 1 days ago, 1 cycle."),
            (known(charged(9), charged(2)), "Charged 2 days ago, 2 cycles."),
        ]
        for summary, words in today:
            self.assertEqual(said(next_packs([self.turn(1, summary)], NOW)[0].words).replace("day ", "days "), words)
        lately = NOW - DAY / 24
        felt = [
            known(charged(3)).model_copy(update={"temperature_c": t, "temperature_at": lately}) for t in (9.9, 10.0)
        ]
        first, last = next_packs([self.turn(1, felt[0]), self.turn(2, felt[1])], NOW)
        self.assertEqual((first.pack.id, last.pack.id), (2, 1))
        self.assertEqual(said(last.words), "Charged but cold: fly it last, once warmed.")
        watched = self.turn(1, known(charged(9)), state=PackState.MONITOR)
        self.assertEqual([t.pack.id for t in next_packs([watched, self.turn(2, known(charged(1)))], NOW)], [2, 1])
        turns = next_packs([self.turn(1, known(charged(9))), self.turn(2, known(charged(1)))], NOW)
        self.assertEqual([t.pack.id for t in turns], [1, 2])
        half = next_packs([self.turn(1, known(left(1, 40)))], NOW)[0]
        self.assertEqual((said(half.words), half.charged), ("Only 40 % left.", False))

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
        charge = summary.charge_now(pack, NOW)
        wants = upkeep.need(pack, summary, charge, NOW, Limits(), snag="A lead is nicked" if snag else "")
        grounded = wants.level is Level.GROUNDED
        turns = next_packs([in_line(pack, summary)], NOW, down=frozenset({pack.id} if snag else ()))
        self.assertEqual(turns == (), grounded, wants.words.text)
        if wants.caution:
            evening = after_the_day([(pack, summary, charge)], NOW, NOW - DAY)
            self.assertTrue(evening == () or wants.task is PackTask.REST, wants.words.text)

    def test_those_that_were_offered_before(self) -> None:
        for cells in ((4.31, 4.31, 4.31), (4.19, 4.05, 4.19), (3.9, 2.8, 3.9)):
            summary = known(Reading(at=NOW - DAY / 24, cells_v=cells, after=After.CHARGE))
            self.assertEqual(next_packs([in_line(H1, summary)], NOW), (), cells)

    def test_a_chemistry_not_known_is_grounded_with_what_to_do(self) -> None:
        pack = H1.model_copy(update={"chemistry": Chemistry.UNKNOWN})
        found = need(pack, known(charged(1)), NOW, Limits())
        self.assertEqual((found.task, found.level), (PackTask.LOOK, Level.GROUNDED))
        self.assertIn("label", found.caution)


class Evening(unittest.TestCase):
    def test_which_go_to_storage(self) -> None:
        begun = NOW - DAY / 2
        flown = Flown(at=NOW - DAY / 10, minutes=8, left_percent=17)
        rows = (
            ("charged, not flown", known(charged(0.2)), PackTask.STORE),
            ("flown low", known(charged(0.3), flights=(flown,)), PackTask.RAISE),
            ("flown to about half", known(charged(0.3), left(0.1, 48)), None),
            ("untouched", known(charged(6)), None),
        )
        for name, summary, task in rows:
            with self.subTest(name):
                found = after_the_day([(H1, summary, summary.charge_now(H1, NOW))], NOW, begun)
                self.assertEqual([d for _, d, _ in found], [task] if task else [])

    def test_edges_and_the_aim_between(self) -> None:
        """Storage of lithium-polymer, 3.75 to 3.88 V: the aim is the middle of its per cents."""
        low, high = (charge_percent(v) for v in (3.75, 3.88))
        aim = f"about {(low + high) / 2:.0f} %"
        fine = known(charged(0.2))
        for mid, task in (
            (low - 5.01, PackTask.RAISE),
            (low - 5, None),
            (high + 5, None),
            (high + 5.01, PackTask.STORE),
        ):
            charge = ChargeRange(low=mid, mid=mid, high=mid)
            found = after_the_day([(H1, fine, charge)], NOW, NOW - DAY / 2)
            self.assertEqual([d for _, d, _ in found], [task] if task else [], mid)
            if found:
                self.assertIn(aim, said(found[0][2]))
                self.assertIn(": charge to" if task is PackTask.RAISE else "discharge to", said(found[0][2]))
        charge = ChargeRange(low=99, mid=100, high=100)
        at = known(charged(0.5))
        self.assertEqual(
            len(after_the_day([(H1, at, charge)], NOW, NOW - DAY / 2)), 1, "from the first moment of the day on"
        )
        for changes in ({"state": PackState.QUARANTINED}, {"chemistry": Chemistry.NIMH}):
            self.assertEqual(after_the_day([(H1.model_copy(update=changes), at, charge)], NOW, NOW - DAY), ())
        self.assertEqual(after_the_day([(H1, at, None)], NOW, NOW - DAY), ())


class Summaries(unittest.TestCase):
    def test_the_newest_word_counts(self) -> None:
        flight = Flown(at=NOW - DAY, minutes=9, left_percent=44)
        summary = known(charged(3), Reading(at=NOW - 2 * DAY, cells_v=(4.1, 4.0, 4.1)), flights=(flight,))
        self.assertEqual((summary.cycles, summary.readings), (1, 2))
        self.assertEqual(summary.charge.mid if summary.charge else 0, 44)
        self.assertAlmostEqual(summary.imbalance_v or 0, 0.1)
        self.assertIsNone(summary.full_at)

    def test_a_touch_of_warmth_is_forgotten(self) -> None:
        summary = known(Reading(at=NOW - DAY, temperature_c=50))
        self.assertIsNone(summary.felt_c(NOW))
        self.assertEqual(summary.felt_c(NOW - DAY), 50)
