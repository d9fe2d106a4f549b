"""One pass through the bag; the second is independent of the first."""

from datetime import datetime
from typing import Literal

from walkround.core.aircraft.bag import Packed, bag_list, judge_bag
from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding

FIRST_PASS = "bag.first_pass"
"""The check with which the second pass is compared. Source: id of the library."""


class AskPacked(Ask, frozen=True, kw_only=True):
    """One pass through the bag; the second is independent of the first."""

    kind: Literal["packed"] = "packed"
    turn: Literal[1, 2]


class BagPacked(Answer):
    """One pass through the bag."""

    kind: Literal["packed"] = "packed"
    packed: Packed


def _judge(question: Question, answer: BagPacked, case: Case, at: datetime) -> tuple[Finding, ...]:
    assert isinstance(question.ask, AskPacked)
    # Only the second pass speaks of differences, so that each is said once.
    first = case.answer_to(FIRST_PASS) if question.ask.turn == 2 else None
    return judge_bag(case.aircraft, answer.packed, first.packed if isinstance(first, BagPacked) else None)


def _example(question: Question, case: Case, at: datetime) -> BagPacked:
    return BagPacked(packed=Packed(have=tuple((thing.id, thing.wanted) for thing in bag_list(case.aircraft))))


KIND = AnswerKind(AskPacked, BagPacked, _judge, _example)
