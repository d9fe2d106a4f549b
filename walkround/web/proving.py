"""The proving programme of an aircraft that has not flown: its stages, what came of each, and what causes wrong answers of the controls."""

from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.proved import MOST_RESULTS, StageResult, Trims
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.units import Measure
from walkround.core.proving.causes import Narrowed, Seen, Test, choices, layout_of, narrow, outcome_of
from walkround.core.proving.stages import Stage, known_progress, under_proving, unflown
from walkround.core.proving.trims import FEW_CLICKS, trim_words
from walkround.store import flights, hangar, link_trials
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
AT = "/hangar/aircraft/{aircraft_id}/proving"
AXES = (
    ("roll", "Ailerons, clicks to the right"),
    ("pitch", "Elevator, clicks up"),
    ("yaw", "Rudder, clicks to the right"),
)
MOST_CLICKS = 100


def _show(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: Any) -> Response:
    bench, _ = link_trials.newest(aircraft.id, ctx.now())
    now = known_progress(aircraft, bench)
    found = None
    again = request.query_params.get("stage", "")
    current = next((stage for stage in now.stages[: now.passed] if stage.id == again), now.current)
    last = now.last.get(current.id) if current is not None else None
    if current is not None and current.tests and last is not None:
        found = _narrowed(last, layout_of(aircraft.front_left_clockwise))
    trimmed = [(result, trim_words(result.trims)) for result in aircraft.proved if result.trims is not None]
    return page(
        request, "proving/page.html", ctx.settings(), status,
        aircraft=aircraft, now=now, current=current, last=last, said=current.outcome(last.outcome) if current is not None and last is not None else None,
        open=under_proving(aircraft, flights.ever_flown(aircraft), bench) is not None, tests=[(test, choices(test)) for test in Test], found=found,
        unflown=unflown(now, flights.last_landed(aircraft.id)), axes=AXES, trimmed=trimmed, few=FEW_CLICKS, **extra,
    )  # fmt: skip


def _narrowed(result: StageResult, layout: int) -> Narrowed:
    """What the answers kept with a result leave as causes."""
    return narrow({Test[name]: Seen[what] for name, what in result.seen}, layout)


@router.get(AT, name="proving")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The programme of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post(AT, name="prove")
def prove(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep what came of a stage; only the open one, or one that was passed before, can be answered."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    try:
        with ctx.book.write():
            now = hangar.get(Aircraft, aircraft_id)
            result = _result(typed, now, ctx)
            if len(now.proved) >= MOST_RESULTS:
                raise InputError("So many results are kept already that no more fit.", "outcome")
            hangar.save(now.model_copy(update={"proved": (*now.proved, result)}), ctx.now())
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "proving", query="saved=1", aircraft_id=aircraft_id)


def _result(typed: Typed, aircraft: Aircraft, ctx: AppContext) -> StageResult:
    """What was typed, for a stage that is not locked. Raises FormErrors or InputError."""
    every = known_progress(aircraft, link_trials.newest(aircraft.id, ctx.now())[0])
    able = {stage.id: stage for stage in every.stages[: every.passed + 1]}
    stage = able.get(typed.get("stage"))
    if stage is None:
        raise InputError("That stage is locked: do those before it first.", "outcome")
    seen = _seen(typed) if stage.tests else {}
    trims = None
    if stage.trims:
        clicks = {
            axis: typed.number(axis, words, Measure.COUNT, -MOST_CLICKS, MOST_CLICKS, optional=True)
            for axis, words in AXES
        }
        typed.check()
        if any(value is not None for value in clicks.values()):
            trims = typed.build(
                Trims, **{axis: None if value is None else round(value) for axis, value in clicks.items()}
            )
    outcome = outcome_of(seen) if stage.tests else _outcome(typed, stage)
    return typed.build(
        StageResult, stage=stage.id, outcome=outcome, at=ctx.now(), seen=tuple((test.name, what.name) for test, what in seen.items()), trims=trims, note=typed.text("note", "Note", longest=200)
    )  # fmt: skip


def _outcome(typed: Typed, stage: Stage) -> str:
    if stage.outcome(typed.get("outcome")) is None:
        raise InputError("Choose what came of it.", "outcome")
    return typed.get("outcome")


def _seen(typed: Typed) -> dict[Test, Seen]:
    """What was seen at each test; those left open are not in it. Raises InputError when nothing was entered."""
    found = {}
    for test in Test:
        what = typed.choice(test.name, test.value, ["", *(one.name for one, _ in choices(test))])
        if what:
            found[test] = Seen[what]
    typed.check()
    if not found:
        raise InputError("Enter what you saw at one of the tests at least.", "outcome")
    return found
