"""The rotor map: every rotor compared with the drawing, the propellers on it or how the motors turn."""

from datetime import datetime
from typing import Annotated, ClassVar, Literal

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.propeller_check import (
    RotorSeen,
    judge_propellers,
    judge_spins,
    motors_at_fault,
    propellers_at_fault,
)
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding
from walkround.core.base.value import Allowed


class AskRotors(Ask, frozen=True, kw_only=True):
    """The rotor map, every rotor compared with the drawing: the propellers on it, or how the motors turn."""

    kind: Literal["rotors"] = "rotors"
    look: Literal["propellers", "motors"]


class RotorsSeen(Answer):
    """What was seen at each rotor."""

    opens_snag: ClassVar[bool] = True
    kind: Literal["rotors"] = "rotors"
    seen: Annotated[tuple[RotorSeen, ...], Allowed(max_length=8)]

    def parts_at_fault(self, ask: Ask, aircraft: Aircraft) -> tuple[str, ...]:
        """The propellers or motors that are not as drawn."""
        propellers = isinstance(ask, AskRotors) and ask.look == "propellers"
        return (propellers_at_fault if propellers else motors_at_fault)(aircraft, self.seen)


def _judge(question: Question, answer: RotorsSeen, case: Case, at: datetime) -> tuple[Finding, ...]:
    assert isinstance(question.ask, AskRotors)
    judge_them = judge_propellers if question.ask.look == "propellers" else judge_spins
    return judge_them(case.aircraft, answer.seen)


def _example(question: Question, case: Case, at: datetime) -> RotorsSeen:
    assert isinstance(question.ask, AskRotors)
    motors = question.ask.look == "motors"
    seen = [
        RotorSeen(number=r.number, spin=r.spin)
        if motors
        else RotorSeen(number=r.number, rotation=r.spin, edge_leads=True)
        for r in rotor_layout(case.aircraft)
    ]
    return RotorsSeen(seen=tuple(seen))


KIND = AnswerKind(AskRotors, RotorsSeen, _judge, _example)
