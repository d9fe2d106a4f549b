"""The plan of the flight: hover, out, work, height."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question, nothing
from walkround.core.flight.flight_plan import FlightPlan


class AskFlight(Ask, frozen=True, kw_only=True):
    """The plan of the flight: hover, out, work, height."""

    kind: Literal["flight"] = "flight"


class Planned(Answer):
    """The plan of the flight."""

    kind: Literal["planned"] = "planned"
    plan: FlightPlan


def _example(question: Question, case: Case, at: datetime) -> Planned:
    minutes = round(case.aircraft.flight_min * 0.2, 1)
    return Planned(plan=FlightPlan(work_min=minutes, height_m=min(40.0, case.site.flight_height_m)))


KIND = AnswerKind(AskFlight, Planned, nothing, _example, subjects=("plan", "home", "proving"))
