"""Touches in the book: kept at once, a check answered by its last part, taken back with what rested on them, two devices, the gate."""

from datetime import timedelta

from tests.store.test_rounds import RoundCase
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault, PartsDamaged
from walkround.core.base.errors import BlockedError, ConflictError, MissingError, SignedError
from walkround.core.base.finding import Level
from walkround.core.round.touches import TouchState, parts_of
from walkround.store import rounds, touches
from walkround.store.part_models import TouchRow
from walkround.store.rounds import OpenRound


class TouchCase(RoundCase):
    def loaded(self) -> OpenRound:
        return rounds.load(self.round, self.settings, self.now)

    def cold(self) -> None:
        with self.book.write():
            touches.say_cold(self.loaded(), self.now)

    def touch(self, *ids: str, state: TouchState = TouchState.OK) -> OpenRound:
        with self.book.write():
            return touches.keep(self.loaded(), ids, state, at=self.now, settings=self.settings)

    def back(self, *ids: str) -> OpenRound:
        with self.book.write():
            return touches.open_again(self.loaded(), ids, at=self.now, settings=self.settings)

    @property
    def blades(self) -> tuple[str, ...]:
        return parts_of("airframe.propellers", self.loaded().walk.situation.aircraft)


class Touches(TouchCase):
    def test_nothing_before_the_pack_is_unplugged(self) -> None:
        with self.assertRaises(BlockedError):
            self.touch("arm-1")
        self.assertFalse(touches.of_round(self.round))
        self.cold()
        self.touch("arm-1")
        self.assertEqual(set(touches.of_round(self.round)), {"arm-1"})

    def test_said_again_once_it_was_powered(self) -> None:
        self.cold()
        self.assertTrue(touches.is_cold(self.loaded()))
        self.now += timedelta(minutes=5)
        self.walk_all(self.round)
        self.assertFalse(touches.is_cold(self.loaded()))

    def test_the_last_part_answers_the_check(self) -> None:
        self.cold()
        for part in self.blades[:-1]:
            self.assertIsNone(self.touch(part).walk.state("airframe.propellers").evidence)
        after = self.touch(self.blades[-1])
        state = after.walk.state("airframe.propellers")
        assert state.evidence is not None
        self.assertEqual((state.level, state.evidence.answer), (Level.CLEAR, Passed()))
        self.assertEqual(self.loaded().walk, after.walk, "it is in the book")

    def test_a_damaged_part_is_never_clear_and_not_overruled(self) -> None:
        self.cold()
        self.touch(*self.blades[1:])
        after = self.touch(self.blades[0], state=TouchState.DAMAGED)
        state = after.walk.state("airframe.propellers")
        assert state.evidence is not None
        self.assertIsInstance(state.evidence.answer, PartsDamaged)
        self.assertIs(state.level, Level.CAUTION)
        with self.assertRaises(ConflictError):  # another device, which has not seen it
            self.touch(self.blades[0])
        mended = self.touch(self.blades[0], state=TouchState.FIXED).walk.state("airframe.propellers")
        self.assertIs(mended.level, Level.CLEAR)

    def test_two_devices_touching_the_same(self) -> None:
        self.cold()
        self.touch(*self.blades)
        pieces = len(self.loaded().evidence)
        self.touch(self.blades[0])
        self.assertEqual(len(self.loaded().evidence), pieces, "nothing is answered twice")

    def test_taken_back_it_is_open_again(self) -> None:
        self.cold()
        self.touch(*self.blades)
        after = self.back(self.blades[0])
        self.assertIsNone(after.walk.state("airframe.propellers").evidence)
        self.assertEqual(set(touches.of_round(self.round)), set(self.blades[1:]))
        self.assertIs(self.touch(self.blades[0]).walk.state("airframe.propellers").level, Level.CLEAR)

    def test_undo_on_the_walk_opens_its_parts(self) -> None:
        self.cold()
        self.touch(*self.blades)
        self.undo()
        self.assertFalse(touches.of_round(self.round))

    def test_what_was_said_otherwise_stands(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip"))
        self.cold()
        after = self.touch(*self.blades)
        state = after.walk.state("airframe.propellers")
        assert state.evidence is not None
        self.assertIsInstance(state.evidence.answer, Fault, "a fault is put right on the walk, not by a tap")

    def test_a_part_that_is_gone_and_a_round_that_is_signed(self) -> None:
        self.cold()
        for gone in ("arm-9", "", "tail"):
            with self.assertRaises(MissingError):
                self.touch(gone)
        self.walk()
        self.sign()
        with self.assertRaises(SignedError):
            self.touch("arm-1")
        with self.assertRaises(SignedError):
            self.back("arm-1")

    def test_when_a_part_was_last_touched(self) -> None:
        self.cold()
        self.touch("arm-1")
        first = self.now
        self.now += timedelta(hours=1)
        self.round = self.begin()
        self.cold()
        self.touch("arm-2")
        aircraft = self.numbers["Sandpiper"]
        self.assertEqual(touches.last_touched(aircraft, self.now), {"arm-1": first, "arm-2": self.now})
        self.assertEqual(
            touches.last_touched(aircraft, first), {"arm-1": first}, "what is dated ahead counts for nothing"
        )
        self.assertEqual(TouchRow.select().where(TouchRow.round == self.round).count(), 2)
