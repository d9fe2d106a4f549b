"""What may be said of any check instead of its own answer: a fault, or a reason to skip it; taking an answer back, and letting two stand."""

from typing import Annotated, Literal, Protocol

from walkround.core.answers.kind import NOTE_CHARS, Answer, Question
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.value import Allowed


class Fault(Answer):
    """A fault was found; the note says what."""

    kind: Literal["fault"] = "fault"
    note: Annotated[str, Allowed(max_length=NOTE_CHARS)] = ""


class Skipped(Answer):
    """Not done, with the reason that stays on the record."""

    kind: Literal["skipped"] = "skipped"
    reason: Annotated[str, Allowed(min_length=1, max_length=NOTE_CHARS)]


class PartsDamaged(Answer):
    """Every part was touched, and these (ids) were reported damaged: what that means is said by the snag on each."""

    kind: Literal["parts_damaged"] = "parts_damaged"
    parts: Annotated[tuple[str, ...], Allowed(min_length=1, max_length=400)]
    touched: Annotated[int, Allowed(ge=1, le=400)]


class Undone(Answer):
    """Takes back an earlier piece of evidence."""

    kind: Literal["undone"] = "undone"
    of: int


class Beside(Answer):
    """Another answer was given without this one having been seen, as on a second device: ``new`` does not replace ``of``; both stand
    until one is withdrawn."""

    kind: Literal["beside"] = "beside"
    of: int
    new: int


class Skippable(Question, Protocol):
    """What a check says of its faults, and of being skipped."""

    @property
    def fault(self) -> str:
        """What a fault means."""

    @property
    def grounds(self) -> bool:
        """Whether a fault grounds."""

    @property
    def if_skipped(self) -> str:
        """What takes its place when it is skipped."""


def judge_way_out(check: Skippable, answer: "WayOut") -> Finding:
    """The finding of a fault, or of a check that was not done.

    Source: a check not done is never a pass; common practice, no source.
    """
    if isinstance(answer, Fault):
        words = f"{check.fault} {answer.note}".strip()
        return Finding(
            name="Fault", level=Level.GROUNDED, reason=Phrase(text=words), remedy=check.remedy, source=check.source
        )
    if isinstance(answer, PartsDamaged):
        many = f"{len(answer.parts)} of {answer.touched} parts" if answer.touched > 1 else "The part"
        verb = "are" if len(answer.parts) > 1 else "is"
        return Finding(
            name="Damage",
            level=Level.CAUTION,
            reason=Phrase(text=f"{many} {verb} damaged. The open snag decides."),
            remedy="Fix or replace it, then touch it again.",
            source=check.source,
        )
    instead = f" Instead: {check.if_skipped}." if check.if_skipped else ""
    grounds = check.grounds and not check.if_skipped
    return Finding(
        name="Skipped",
        level=Level.GROUNDED if grounds else Level.CAUTION,
        reason=Phrase(text=f"Not done: {answer.reason.rstrip('.')}.{instead}"),
        remedy="Do this check. Without it the verdict is Stay down."
        if grounds
        else "Do it if you still can. The reason stays on record.",
        source="a check not done is never a pass",
    )


WayOut = Fault | Skipped | PartsDamaged
"""What is judged the same for every check."""
