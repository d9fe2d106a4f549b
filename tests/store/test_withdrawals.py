"""Two answers to one check: both kept, one withdrawn, with what followed from it."""

from tests.store.test_rounds import RoundCase
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault
from walkround.core.base.errors import MissingError, SignedError
from walkround.core.base.finding import Level
from walkround.store import rounds, withdrawals
from walkround.store.rounds import OpenRound

SHELL = "airframe.shell"


class TwoAnswers(RoundCase):
    def withdraw(self, number: int) -> OpenRound:
        with self.book.write():
            return withdrawals.withdraw(self.round, number, at=self.now, settings=self.settings)[0]

    def test_both_stand_and_the_snag_goes_with_its_answer(self) -> None:
        ok = self.answer(SHELL, Passed()).evidence[-1].id
        both = self.answer(SHELL, Fault(note="crack"), seen=0).walk.state(SHELL)
        assert both.evidence is not None and both.rival is not None
        self.assertEqual((both.level, both.rival.id), (Level.GROUNDED, ok))
        self.assertEqual(self.snags(), ["crack"])
        again = rounds.load(self.round, self.settings, self.now)
        self.assertEqual(again.walk.state(SHELL).rival, both.rival, "read from the book it is the same")
        left = self.withdraw(both.evidence.id).walk.state(SHELL)
        self.assertEqual((left.level, left.rival), (Level.CLEAR, None))
        self.assertEqual(self.snags(), [])

    def test_only_one_that_stands_beside_another(self) -> None:
        alone = self.answer(SHELL, Passed()).evidence[-1].id
        self.assertIsNotNone(self.withdraw(alone).walk.state(SHELL).evidence, "nothing stands beside it")
        for odd in (0, 99_999):
            with self.assertRaises(MissingError):
                self.withdraw(odd)

    def test_an_answer_taken_back_meanwhile_is_simply_answered(self) -> None:
        first = self.answer(SHELL, Passed()).evidence[-1].id
        with self.book.write():
            withdrawals.undo(self.round, at=self.now, settings=self.settings, seen=first)
        state = self.answer(SHELL, Fault(note="crack"), seen=first).walk.state(SHELL)
        self.assertEqual((state.level, state.rival), (Level.GROUNDED, None))

    def test_nothing_after_the_signature(self) -> None:
        ok = self.answer(SHELL, Passed()).evidence[-1].id
        self.answer(SHELL, Fault(note="crack"), seen=0)
        self.walk()
        self.sign()
        with self.assertRaises(SignedError):
            self.withdraw(ok)
