"""The home point: that it is where one stands, and, where it was measured, how far off and which way."""

from datetime import datetime
from typing import Annotated, Literal

from walkround.core.answers import choice
from walkround.core.answers.choice import AskChoice, Chosen
from walkround.core.answers.kind import AnswerKind, Case, Question
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding
from walkround.core.base.geodesy import Position
from walkround.core.base.value import Allowed, whole

MOST_OFF_M = 100_000.0


class AskHome(AskChoice, frozen=True, kw_only=True):
    """One of a few answers, and the home point measured if the pilot wishes."""

    kind: Literal["home"] = "home"  # type: ignore[assignment]


class HomeSeen(Chosen):
    """One of the options; ``offset_m`` and ``toward_deg``: how far the home point is from the launch point and towards where (degrees true), each None where it was
    not measured; ``position``: as the screen showed it."""

    kind: Literal["home_seen"] = "home_seen"  # type: ignore[assignment]
    offset_m: Annotated[float | None, Allowed(ge=0, le=MOST_OFF_M)] = None
    toward_deg: Annotated[float | None, Allowed(ge=0, le=360)] = None
    position: Position | None = None

    @whole
    def direction_has_a_distance(self) -> "HomeSeen":
        """Refuse a direction without a distance."""
        if self.toward_deg is not None and self.offset_m is None:
            raise InputError("Enter the distance too, or leave the direction open.", "offset")
        return self


def _judge(question: Question, answer: Chosen, case: Case, at: datetime) -> tuple[Finding, ...]:
    """The choice, and the landing circle where home is where it should be or was measured."""
    chosen = choice.KIND.judge(question, answer, case, at)
    if answer.option == "wrong":
        return chosen
    return (*chosen, *case.by_rule("landing_circle", 0.0))


def _example(question: Question, case: Case, at: datetime) -> HomeSeen:
    assert isinstance(question.ask, AskHome)
    return HomeSeen(option=question.ask.options[0].id)


KIND = AnswerKind(AskHome, HomeSeen, _judge, _example, also=(Chosen,))
