"""Control directions: stick by stick, what moves against what is shown."""

from datetime import datetime
from typing import Annotated, ClassVar, Literal

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_direction_rules import judge_control_directions
from walkround.core.aircraft.control_directions import SHOWN, StickSeen, parts_at_fault, stick_tests
from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding
from walkround.core.base.value import Allowed


class AskControlDirections(Ask, frozen=True, kw_only=True):
    """Stick by stick, what moves against what is shown."""

    kind: Literal["control_directions"] = "control_directions"


class ControlDirectionsSeen(Answer):
    """What each stick movement really moved."""

    opens_snag: ClassVar[bool] = True
    kind: Literal["control_directions"] = "control_directions"
    seen: Annotated[tuple[StickSeen, ...], Allowed(max_length=12)]

    def parts_at_fault(self, ask: Ask, aircraft: Aircraft) -> tuple[str, ...]:
        """What did not move as shown."""
        return parts_at_fault(aircraft, self.seen)


def _judge(question: Question, answer: ControlDirectionsSeen, case: Case, at: datetime) -> tuple[Finding, ...]:
    return judge_control_directions(case.aircraft, answer.seen)


def _example(question: Question, case: Case, at: datetime) -> ControlDirectionsSeen:
    tests = stick_tests(case.aircraft)
    return ControlDirectionsSeen(seen=tuple(StickSeen(stick=test.stick, result=SHOWN) for test in tests))


KIND = AnswerKind(AskControlDirections, ControlDirectionsSeen, _judge, _example)
