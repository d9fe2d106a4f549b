"""What an answer said, in words, for whoever has to choose between two."""

from walkround.core.answers.choice import AskChoice, Chosen
from walkround.core.answers.handover import Handover
from walkround.core.answers.kind import Answer
from walkround.core.answers.tick import AskTick, Passed
from walkround.core.answers.ways_out import Fault, PartsDamaged, Skipped
from walkround.core.base.phrase import Phrase
from walkround.core.base.wording import counted
from walkround.core.checklist.check import Check


def answer_words(answer: Answer, check: Check) -> Phrase:
    """What an answer to a check said, in words; its number where it has one. Source: the answer."""
    if isinstance(answer, Fault):
        return Phrase(text=f"Fault. {answer.note or check.fault}".strip())
    if isinstance(answer, PartsDamaged):
        return Phrase(text=f"{counted(len(answer.parts), 'damaged part')}")
    if isinstance(answer, Skipped):
        return Phrase(text=f"Skipped: {answer.reason}")
    if isinstance(answer, Chosen) and isinstance(check.ask, AskChoice):
        label = next((option.label for option in check.ask.options if option.id == answer.option), answer.option)
        return Phrase(text=f"{label}. {answer.note}".strip() if answer.note else label)
    if isinstance(answer, Handover):
        return Phrase(text=answer.words())
    if isinstance(answer, Passed) and isinstance(check.ask, AskTick):
        return Phrase(text=check.ask.ok)
    value = answer.remembered(check.ask)
    return Phrase.of("{value}", value=value) if value is not None else Phrase(text="As entered")
