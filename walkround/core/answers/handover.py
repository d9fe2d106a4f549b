"""Somebody else flies: who, how control comes back to the pilot in command, and what they may do."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal

from walkround.core.answers.kind import NOTE_CHARS, Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.value import Allowed


class TakeBack(StrEnum):
    """How control comes back."""

    SWITCH = "switch on the teacher's transmitter"
    SECOND = "second transmitter, which has priority"
    WORD = "on my word the sticks are let go, and it holds"
    HAND = "the transmitter is handed across"


_BY_HAND = "Handing it across takes seconds in which nobody flies."


class AskHandover(Ask, frozen=True, kw_only=True):
    """Who flies in place of the pilot in command."""

    kind: Literal["handover"] = "handover"


class Handover(Answer):
    """Who flies, how control comes back to the pilot in command, and what they may do."""

    kind: Literal["handover"] = "handover"
    who: Annotated[str, Allowed(max_length=80)]
    back: TakeBack
    may: Annotated[str, Allowed(max_length=NOTE_CHARS)] = ""

    def words(self) -> str:
        """The agreement in one line, for everybody."""
        may = f" May: {self.may.rstrip('.')}." if self.may else ""
        return f"{self.who} flies. Control comes back by: {self.back.value}.{may}"


def _judge(question: Question, answer: Handover, case: Case, at: datetime) -> tuple[Finding, ...]:
    if not answer.who:
        raise InputError("Who flies: enter a name.", "who")
    by_hand = answer.back is TakeBack.HAND
    return (
        Finding(
            name="Handover",
            level=Level.CAUTION if by_hand else Level.CLEAR,
            reason=Phrase(text=f"{answer.words()} {_BY_HAND if by_hand else ''}".strip()),
            remedy="Only high enough and close, and say “I have control” both ways." if by_hand else "",
            source=question.source,
        ),
    )


def _example(question: Question, case: Case, at: datetime) -> Handover:
    return Handover(who="Wren", back=TakeBack.SWITCH, may="circuits at the height of the trees")


KIND = AnswerKind(AskHandover, Handover, _judge, _example)
