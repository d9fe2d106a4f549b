"""The packs of a set that fly together: each by itself, so that none is dragged along by the others."""

from datetime import datetime
from typing import Annotated, Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import percent, volt
from walkround.core.base.value import Allowed, whole
from walkround.core.packs.bands import IMBALANCE_CAUTION_V, IMBALANCE_GROUND_V

NAME = "Packs of the set"
POINTS_CAUTION, POINTS_GROUND = 4.0, 10.0
"""So many per cent may the packs of a set differ. Source: our choice; common practice, no source."""
SWAP = "Charge the set together, or fly with a set that matches. Connect packs in parallel only when they match."


class AskMatched(Ask, frozen=True, kw_only=True):
    """The charge of each pack of the set."""

    kind: Literal["matched"] = "matched"


class Matched(Answer):
    """The charge of each pack: all in per cent, or all as total volts."""

    kind: Literal["matched"] = "matched"
    percents: Annotated[tuple[float, ...], Allowed(max_length=4)] = ()
    volts: Annotated[tuple[float, ...], Allowed(max_length=4)] = ()

    @whole
    def one_of_them(self) -> "Matched":
        """Refuse both, none, and what cannot be."""
        if bool(self.percents) == bool(self.volts):
            raise InputError("Enter the charge of each pack, all in % or all in volts.", "pack_1")
        if any(not 0 <= p <= 100 for p in self.percents) or any(not 0 < v <= 70 for v in self.volts):
            raise InputError("That is not a charge.", "pack_1")
        return self


def _judge(question: Question, answer: Matched, case: Case, at: datetime) -> tuple[Finding, ...]:
    given, pack = answer.percents or answer.volts, case.pack
    if len(given) != pack.together:
        raise InputError(f"The set has {pack.together} packs. Enter each of them.", "pack_1")
    apart = max(given) - min(given)
    if answer.percents:
        value, caution, ground = percent(apart), POINTS_CAUTION, POINTS_GROUND
    else:
        apart /= pack.cells
        value, caution, ground = volt(apart), IMBALANCE_CAUTION_V, IMBALANCE_GROUND_V
    level = Level.GROUNDED if apart > ground else Level.CAUTION if apart > caution else Level.CLEAR
    limit = ground if level is Level.GROUNDED else caution
    return (
        measured(
            NAME,
            value,
            percent(limit) if answer.percents else volt(limit),
            sense="max",
            level=level,
            words={
                Level.CLEAR: "The packs match: {value} apart.",
                Level.CAUTION: "The packs are {value} apart. The emptier one is dragged along.",
                Level.GROUNDED: "The packs are {value} apart (max {limit}). The fuller one charges the other in the air, or one fails first.",
            },
            remedy={Level.CAUTION: SWAP, Level.GROUNDED: SWAP},
            source=question.source,
        ),
    )


def _example(question: Question, case: Case, at: datetime) -> Matched:
    return Matched(percents=(98.0,) * case.pack.together)


KIND = AnswerKind(AskMatched, Matched, _judge, _example)
