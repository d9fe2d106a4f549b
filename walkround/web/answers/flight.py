"""The plan of the flight on the pages."""

from typing import Any

from walkround.core.answers.flight import Planned
from walkround.core.answers.kind import Answer
from walkround.core.base.units import Measure
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import Typed


def read_plan(typed: Typed) -> FlightPlan:
    """The plan of a flight from its fields. Raises FormErrors."""
    hover = typed.number("hover_min", "Hover", Measure.MINUTE, 0, 600, optional=True)
    work = typed.number("work_min", "Time on station", Measure.MINUTE, 0, 600, optional=True)
    out = typed.number("out_m", "Distance out", Measure.HEIGHT, 0, 20_000, optional=True)
    up = typed.needed("height_m", "Height", Measure.HEIGHT, 1, 500)
    return typed.build(FlightPlan, hover_min=hover or 0.0, work_min=work or 0.0, out_m=out or 0.0, height_m=up)


def _read(sent: Sent) -> tuple[Answer, str]:
    return Planned(plan=read_plan(sent.typed)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    given = state.evidence.answer if state.evidence is not None else None
    return {"drawn": drawings.flight.draw_plan(loaded, given.plan)} if isinstance(given, Planned) else {}


def _preview(loaded: OpenRound, given: Answer) -> tuple[str, dict[str, Any]]:
    assert isinstance(given, Planned)
    return "endurance/_preview.html", {"drawn": drawings.flight.draw_plan(loaded, given.plan)}


PAGE = AnswerPage(
    "flight", "a plan: minutes, distance, height", _read, button=lambda ask: "Use this plan", near_thumb=True,
    advances=True, shown=_shown, seen="endurance/_flight.html", preview=_preview,
)  # fmt: skip
