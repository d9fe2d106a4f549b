"""The quiz: its right answers are those of the card, whatever the card."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.core.aircraft.test_how_it_works import CARD
from tests.support import QUAD
from walkround.core.aircraft.failsafe import Failsafe, HomeBy, StopBy
from walkround.core.aircraft.how_it_works import ArmBy, HowItWorks
from walkround.core.aircraft.quiz import mistakes, questions
from walkround.core.aircraft.traits import Trait

SETTINGS = Failsafe(stop_air=StopBy.STICKS_IN, home_cancel=(HomeBy.BUTTON, HomeBy.STICKS))


class Quiz(unittest.TestCase):
    def test_right_answers(self) -> None:
        quad = QUAD.model_copy(
            update={"works": CARD, "failsafe": SETTINGS, "traits": QUAD.traits | {Trait.RETURN_HOME}}
        )
        right = {q.words: q.options[q.right] for q in questions(quad)}
        self.assertEqual(right["How is it armed?"], "throttle down, yaw right")
        self.assertEqual(right["How long may the arming stick be held at most?"], "15 s")
        self.assertEqual(right["How are the motors stopped in the air?"], "both sticks down and in")
        self.assertEqual(right["What says “ready to fly”?"], "green, blinking slowly; two beeps")
        self.assertEqual(right["Where is switch B for launch?"], "down")
        (cancel,) = (q for q in questions(quad) if "cancelled" in q.words)
        self.assertNotIn("moving the sticks", cancel.options, "the other right way is no wrong answer")

    def test_nothing_on_record_nothing_asked(self) -> None:
        bare = QUAD.model_copy(update={"works": None, "failsafe": None, "traits": frozenset()})
        self.assertEqual(questions(bare), ())

    @given(st.sampled_from(ArmBy), st.sampled_from(ArmBy), st.none() | st.floats(2, 60), st.sampled_from(StopBy))
    def test_every_question_has_one_right_answer_among_others(
        self, arm: ArmBy, disarm: ArmBy, most: float | None, stop: StopBy
    ) -> None:
        card = HowItWorks(arm=arm, disarm=disarm, arm_most_s=most)
        for q in questions(QUAD.model_copy(update={"works": card, "failsafe": Failsafe(stop_air=stop)})):
            self.assertEqual(len(set(q.options)), len(q.options))
            self.assertGreaterEqual(len(q.options), 2)
            self.assertIn(q.right, range(len(q.options)))

    def test_marking(self) -> None:
        asked = questions(QUAD.model_copy(update={"works": CARD, "failsafe": SETTINGS}))
        right = [q.right for q in asked]
        self.assertEqual(mistakes(asked, right), ())
        self.assertEqual(mistakes(asked, []), tuple(range(len(asked))), "nothing answered is nothing right")
        self.assertEqual(mistakes(asked, [None, *right[1:]]), (0,))
