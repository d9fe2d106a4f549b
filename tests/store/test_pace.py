"""The pace of the pilot, from the signed rounds of the book."""

from tests.store.test_rounds import RoundCase
from walkround.core.round.stages import FEWEST_ROUNDS, FIRST_GUESS_S, Stage
from walkround.demo.scenario import keep_walked
from walkround.store.pace import pace
from walkround.store.situation import gather


class PaceOfABook(RoundCase):
    def test_it_is_learned_from_signed_rounds_only(self) -> None:
        self.walk()
        before = pace()
        self.assertFalse(before.learned(Stage.FIELD))
        self.assertEqual(before.seconds[Stage.FIELD], FIRST_GUESS_S[Stage.FIELD])
        for _ in range(FEWEST_ROUNDS):
            situation = gather(
                self.numbers["Sandpiper"],
                self.numbers["S1"],
                self.numbers["Teasel Common"],
                now=self.now,
                settings=self.settings,
            )
            with self.book.write():
                keep_walked(situation, self.now, "Tamsin Rook")
        after = pace()
        self.assertTrue(after.learned(Stage.FIELD))
        self.assertAlmostEqual(after.seconds[Stage.FIELD], 25, delta=0.5)  # how fast the walker of the demo walks
