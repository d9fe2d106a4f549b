"""The verdict: the worst level wins, with every reason and margin on the table."""

from collections.abc import Sequence
from enum import StrEnum

from walkround.core.base.finding import Finding, Level, worst
from walkround.core.base.value import KeptStruct


class Word(StrEnum):
    """What the verdict says."""

    CLEAR = "Clear to fly"
    CAUTION = "Fly with care"
    GROUNDED = "Stay down"
    OPEN = "Not complete"


WORDS = {Level.CLEAR: Word.CLEAR, Level.CAUTION: Word.CAUTION, Level.GROUNDED: Word.GROUNDED}
CLOSEST = 3


class Verdict(KeptStruct, frozen=True, kw_only=True):
    """The sum of a round. ``open`` counts checks not yet done: while there are any, it is only *so far*."""

    level: Level
    grounds: tuple[Finding, ...] = ()
    cautions: tuple[Finding, ...] = ()
    closest: tuple[Finding, ...] = ()
    open: int = 0
    done: int = 0

    @property
    def word(self) -> Word:
        """The verdict in words: nothing flies while a check before take-off is open, and what grounds is said at once."""
        return WORDS[self.level] if self.complete or self.level is Level.GROUNDED else Word.OPEN

    @property
    def tone(self) -> str:
        """How it is coloured: "grounded" at once, "open" while a check before take-off is open, then "caution" or "clear"."""
        if self.level is Level.GROUNDED:
            return "grounded"
        return "open" if not self.complete else self.level.name.lower()

    @property
    def sentence(self) -> str:
        """What a verdict without anything to mind may say of itself, and no more."""
        if not self.complete:
            return "None so far. Checks are still open."
        return "Every answer is within its limit."

    @property
    def asked(self) -> int:
        """How many checks there are before take-off."""
        return self.open + self.done

    @property
    def complete(self) -> bool:
        """Whether everything before take-off is answered."""
        return self.open == 0


def sum_up(findings: Sequence[Finding], open_checks: int, done_checks: int) -> Verdict:
    """Sum findings up; margins without unit decide which three have the smallest margin.

    Source: worst level wins, as the design says.
    """
    measured = sorted((f for f in findings if f.margin is not None), key=lambda f: (f.margin or 0.0, f.name))
    return Verdict(
        level=worst(tuple(findings)),
        grounds=tuple(f for f in findings if f.level is Level.GROUNDED),
        cautions=tuple(f for f in findings if f.level is Level.CAUTION),
        closest=tuple(measured[:CLOSEST]),
        open=open_checks,
        done=done_checks,
    )
