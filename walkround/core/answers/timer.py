"""A count that runs and completes itself."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import Phrase, second


class AskTimer(Ask):
    """A count that runs and completes itself."""

    kind: Literal["timer"] = "timer"
    seconds: int
    start: str = "Start the count"


class Counted(Answer):
    """A count that ran for so many seconds."""

    kind: Literal["counted"] = "counted"
    seconds: float


def _judge(question: Question, answer: Counted, case: Case, at: datetime) -> tuple[Finding, ...]:
    ask = question.ask
    assert isinstance(ask, AskTimer)
    value, limit = second(answer.seconds), second(ask.seconds)
    if answer.seconds >= ask.seconds:
        words = Phrase.of("{value} counted.", value=value)
        return (Finding(name="Count", level=Level.CLEAR, value=value, reason=words, source=question.source),)
    return (
        measured(
            "Count",
            value,
            limit,
            sense="min",
            level=Level.GROUNDED,
            words="The count stopped at {value} of {limit}.",
            remedy="Start the count again.",
            source=question.source,
        ),
    )


def _example(question: Question, case: Case, at: datetime) -> Counted:
    assert isinstance(question.ask, AskTimer)
    return Counted(seconds=question.ask.seconds)


KIND = AnswerKind(AskTimer, Counted, _judge, _example)
