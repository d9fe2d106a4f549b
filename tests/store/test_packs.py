"""The box in the book: readings, states with reasons, what answers of a round bring, what flights used."""

from datetime import timedelta

from tests.support import BookCase
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Measured
from walkround.core.base.errors import InputError, MissingError, SignedError
from walkround.core.base.finding import Level
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.reading import After, CellReading, Reading
from walkround.core.packs.table import BY_TABLE
from walkround.store import box, flights, hangar, imports, packs, rounds, snags, withdrawals
from walkround.store.models import FlightRow, PackRow, RoundRow
from walkround.store.situation import gather

DAY = timedelta(days=1)


class Readings(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.pack = self.numbers["M1"]

    def test_a_reading_comes_back_as_it_was(self) -> None:
        reading = Reading(
            at=self.now, cells_v=(4.31, 4.3), total_v=8.61, percent=97, lights=4, resistance_mohm=(17.5, 18), temperature_c=-3,
            recharged_mah=412, after=After.CHARGE, since_min=12, by="simulated cell checker", note="by the stove",
        )  # fmt: skip
        number = packs.add_reading(self.pack, reading, self.now)
        self.assertEqual(packs.numbered(self.pack)[0], (number, reading))
        self.assertEqual(packs.readings(self.pack)[-1], reading)

    def test_the_summary_follows(self) -> None:
        before = packs.in_short(self.pack, self.now)
        packs.add_reading(self.pack, Reading(at=self.now, percent=40), self.now)
        after = packs.in_short(self.pack, self.now)
        self.assertEqual((after.readings, after.charge.mid if after.charge else 0), (before.readings + 1, 40))
        packs.drop_reading(packs.numbered(self.pack)[0][0], self.now)
        self.assertEqual(packs.in_short(self.pack, self.now), before)

    def test_a_summary_that_is_not_there_is_made(self) -> None:
        kept = packs.in_short(self.pack, self.now)
        PackRow.update(summary=None).where(PackRow.id == self.pack).execute()
        self.assertEqual(packs.in_short(self.pack, self.now), kept)
        self.assertEqual({p.id: k for p, k in box.known_packs(self.now)}[self.pack], kept)

    def test_mistakes(self) -> None:
        packs.add_reading(self.pack, Reading(at=self.now, percent=40), self.now)
        with self.assertRaisesRegex(InputError, "There is already a reading of this pack at that time"):
            packs.add_reading(self.pack, Reading(at=self.now, percent=41), self.now)
        with self.assertRaises(MissingError):
            packs.drop_reading(99_999, self.now)

    def test_a_table_is_taken_once(self) -> None:
        rows = {
            self.pack: [
                Reading(at=self.now - i * DAY, cells_v=(4.1, 4.1), temperature_c=20.0, by=BY_TABLE) for i in range(5)
            ]
        }
        self.assertEqual(imports.add_rows(self.book, rows, self.now).new, 5)
        self.assertEqual(imports.add_rows(self.book, rows, self.now).new, 0)
        self.assertEqual(packs.readings(self.pack)[-1].cells_v, (4.1, 4.1))


class States(BookCase):
    def test_every_change_has_a_reason(self) -> None:
        pack = self.numbers["S2"]
        packs.change_state(pack, PackState.QUARANTINED, "dropped in the lane", self.now)
        packs.change_state(pack, PackState.MONITOR, "cells agree after a day", self.now + DAY)
        self.assertEqual([(c.state, c.reason) for c in packs.changes(pack)],
                         [(PackState.MONITOR, "cells agree after a day"), (PackState.QUARANTINED, "dropped in the lane")])  # fmt: skip
        self.assertEqual(packs.reasons()[pack], "cells agree after a day")
        self.assertIs(hangar.get(Pack, pack).state, PackState.MONITOR)
        with self.assertRaisesRegex(InputError, "Enter a reason"):
            packs.change_state(pack, PackState.IN_SERVICE, "  ", self.now)

    def test_out_for_good_cannot_be_talked_back(self) -> None:
        pack = self.numbers["H2"]
        for state in PackState:
            with (
                self.subTest(state),
                self.assertRaisesRegex(InputError, "is retired for good. It cannot return to service"),
            ):
                packs.change_state(pack, state, "it looks flat today", self.now)
        self.assertTrue(hangar.get(Pack, pack).condemned)
        self.assertIn("retired for good: Rocks on the table", packs.why_down(hangar.get(Pack, pack)))

    def test_set_aside_does_not_take_off(self) -> None:
        n = self.numbers
        RoundRow.update(state="signed", level=int(Level.CLEAR)).where(RoundRow.id == 1).execute()
        FlightRow.update(round=None).where(FlightRow.round == 1).execute()
        packs.change_state(n["S2"], PackState.QUARANTINED, "warm at rest", self.now)
        with self.assertRaisesRegex(SignedError, "quarantined: warm at rest"):
            flights.take_off(1, self.now)


class FromRounds(BookCase):
    def setUp(self) -> None:
        super().setUp()
        n = self.numbers
        self.pack = n["H1"]
        situation = gather(n["Haymaker"], self.pack, n["Teasel Common"], now=self.now, settings=self.settings)
        self.round = rounds.start(situation, self.now)

    def say(self, check_id: str, answer: Answer, seen: int = 0) -> None:
        rounds.answer(self.round, check_id, answer, at=self.now, settings=self.settings, seen=seen)

    def newest(self) -> int:
        last = rounds.load(self.round, self.settings, self.now).walk.last
        return last.id if last else 0

    def undo(self) -> None:
        withdrawals.undo(self.round, at=self.now, settings=self.settings, seen=self.newest())

    def test_what_a_round_reads_is_kept_with_the_pack(self) -> None:
        before = len(packs.readings(self.pack))
        self.say("pack.cells", CellsRead(reading=CellReading(cells_v=(4.2, 4.19, 4.2), total_v=12.59)))
        self.say("pack.temperature", Measured(value=17))
        newest = packs.readings(self.pack)[before:]
        self.assertEqual({(r.cells_v, r.temperature_c) for r in newest}, {((4.2, 4.19, 4.2), None), ((), 17)})
        self.undo()
        self.assertEqual(len(packs.readings(self.pack)), before + 1)
        self.undo()
        self.assertEqual(len(packs.readings(self.pack)), before)

    def test_another_answer_takes_the_place_of_the_first(self) -> None:
        before = len(packs.readings(self.pack))
        self.say("pack.temperature", Measured(value=17))
        number = rounds.load(self.round, self.settings, self.now).walk.state("pack.temperature").evidence.id
        self.say("pack.temperature", Measured(value=19), seen=number)
        self.assertEqual([r.temperature_c for r in packs.readings(self.pack)[before:]], [19])
        self.undo()
        self.assertEqual([r.temperature_c for r in packs.readings(self.pack)[before:]], [17], "the first counts again")

    def test_swollen_is_out_for_good_and_a_slip_of_the_thumb_is_not(self) -> None:
        self.say("pack.body", Chosen(option="out"))
        self.assertTrue(hangar.get(Pack, self.pack).condemned)
        self.assertEqual(snags.open_ones(pack_id=self.pack), [], "there is nothing to close with words")
        self.undo()
        self.assertEqual((hangar.get(Pack, self.pack).state, hangar.get(Pack, self.pack).condemned),
                         (PackState.IN_SERVICE, False))  # fmt: skip

    def test_a_torn_wrap_is_a_snag(self) -> None:
        self.say("pack.body", Chosen(option="wrap"))
        self.assertEqual([s.grounds for s in snags.open_ones(pack_id=self.pack)], [True])
        self.assertIs(hangar.get(Pack, self.pack).state, PackState.IN_SERVICE)

    def test_a_reading_of_a_round_stays_with_it(self) -> None:
        self.say("pack.temperature", Measured(value=17))
        with self.assertRaisesRegex(InputError, "belongs to a walk round"):
            packs.drop_reading(packs.numbered(self.pack)[0][0], self.now)


class Uses(BookCase):
    def test_what_flights_used(self) -> None:
        """Minutes and what was left as the demo's logbook says; a full start unless something was read before."""
        found = packs.uses(self.numbers["Sandpiper"])
        by_minutes = {u.minutes: u for u in found}
        self.assertAlmostEqual(by_minutes[8.4].used_percent, 43, delta=0.01)
        self.assertEqual(by_minutes[8.4].capacity_mah, 3500)
        self.assertEqual([u.at for u in found], sorted((u.at for u in found), reverse=True))
        self.assertEqual(packs.uses(99_999), ())

    def test_a_flight_on_half_a_pack_counts_from_there(self) -> None:
        n = self.numbers
        off = self.now - DAY / 2
        packs.add_reading(n["S3"], Reading(at=off - DAY / 24, percent=70), self.now)
        FlightRow.create(
            aircraft=n["Sandpiper"], pack=n["S3"], site=n["Teasel Common"], took_off_at=off, landed_at=off + DAY / 200,
            minutes=5.5, left_percent=40, logged_at=off + DAY / 100, mass_g=910,
        )  # fmt: skip
        newest = packs.uses(n["Sandpiper"])[0]
        self.assertEqual((newest.used_percent, newest.minutes, newest.mass_g), (30, 5.5, 910))

    def test_the_plan_of_the_day_knows_them(self) -> None:
        n = self.numbers
        history = gather(n["Sandpiper"], n["S1"], n["Teasel Common"], now=self.now, settings=self.settings).history
        self.assertGreaterEqual(len(history.uses), 4)
        self.assertAlmostEqual(history.pack_state_of_health or 0, 0.87, delta=0.03)
        self.assertGreater(history.pack_mohm or 0, 6)
