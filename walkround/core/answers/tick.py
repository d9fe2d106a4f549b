"""A tick: only a hand or an eye can know."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase


class AskTick(Ask, frozen=True, kw_only=True):
    """Only a hand or an eye can know."""

    kind: Literal["tick"] = "tick"
    ok: str = "Sound"


class Passed(Answer):
    """Checked: OK."""

    kind: Literal["passed"] = "passed"


def _judge(question: Question, answer: Passed, case: Case, at: datetime) -> tuple[Finding, ...]:
    return (Finding(name="Checked", level=Level.CLEAR, reason=Phrase.of("Checked: OK.")),)


KIND = AnswerKind(AskTick, Passed, _judge, lambda question, case, at: Passed())
