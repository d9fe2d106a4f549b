"""A count that runs and completes itself."""

from datetime import datetime
from typing import Annotated, Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import Phrase, second
from walkround.core.base.value import Allowed
from walkround.core.calibration.still import LONGEST_S, start_finding


class AskTimer(Ask, frozen=True, kw_only=True):
    """A count that runs and completes itself; ``signal``: the aircraft gives a signal of its own, which may come sooner or later."""

    kind: Literal["timer"] = "timer"
    seconds: int
    start: str = "Start the count"
    signal: bool = False


class Counted(Answer):
    """A count that ran for so many seconds; after how many of them the aircraft gave its own signal, None where nobody said."""

    kind: Literal["counted"] = "counted"
    seconds: float
    signal_s: Annotated[float | None, Allowed(gt=0, le=LONGEST_S)] = None


def _judge(question: Question, answer: Counted, case: Case, at: datetime) -> tuple[Finding, ...]:
    ask = question.ask
    assert isinstance(ask, AskTimer)
    value, limit = second(answer.seconds), second(ask.seconds)
    if answer.seconds >= ask.seconds:
        words = Phrase.of("{value} counted.", value=value)
        counted = Finding(name="Count", level=Level.CLEAR, value=value, reason=words, source=question.source)
        start = None if answer.signal_s is None else start_finding(answer.signal_s, case.still_usual_s)
        return (counted,) if start is None else (counted, start)
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
