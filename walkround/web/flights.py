"""The flight of a signed round: timer, landing, logbook line."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError, SignedError
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Phase, Station
from walkround.core.round.consequences import HAPPENED_WORDS
from walkround.core.round.walk import parse_reason, timer_min
from walkround.store import flights, rounds
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go
from walkround.web.rounds import can_answer, view

router = APIRouter()


@router.get("/rounds/{round_id}/flight", name="flight")
def show(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """The flight page: big timer, the checks of the first minute and after."""
    return _show(request, ctx, round_id)


def _show(request: Request, ctx: AppContextDep, round_id: Number, status: int = 200, **extra: Any) -> Response:
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    if not loaded.signed:
        raise SignedError("Sign the round before you take off.")
    flight = flights.of_round(round_id)
    # Both thumbs fly: what was seen in the air is asked for on the ground.
    landed = flight is not None and flight.landed_at is not None
    states = [s for s in loaded.walk.at(Station.FIRST_MINUTE) if s.planned.check.phase is not Phase.BEFORE]
    current = next((s for s in states if landed and can_answer(loaded, s)), None)
    minutes = flight.minutes if flight else None
    elapsed = (ctx.now() - flight.took_off_at).total_seconds() if flight and not flight.landed_at else 0
    return view(
        request,
        ctx,
        loaded,
        settings,
        Station.FIRST_MINUTE,
        current,
        name="flights/page.html",
        status=status,
        flight=flight,
        minutes=minutes,
        elapsed=max(0, int(elapsed)),
        planned_s=int(timer_min(loaded.walk) * 60),
        happened=HAPPENED_WORDS,
        **extra,
    )


@router.post("/rounds/{round_id}/flight/take-off", name="take_off")
def take_off(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Start the timer."""
    with ctx.book.write():
        flights.take_off(round_id, ctx.now(), ctx.settings().units)
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/land", name="land")
def land(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Stop the timer."""
    with ctx.book.write():
        flights.land(round_id, ctx.now())
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/fly-on", name="fly_on")
def fly_on(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Take a tap on *landed* back; the timer goes on from the take-off."""
    with ctx.book.write():
        flights.fly_on(round_id)
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/log", name="log_flight")
def log_flight(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Write the logbook line."""
    typed = Typed(form, ctx.settings().units)
    minutes = typed.needed("minutes", "Minutes in the air", Measure.MINUTE, 0.05, 24 * 60)
    left_percent = typed.number("left_percent", "Pack left", Measure.PERCENT, 0, 100, optional=True)
    left_v = typed.number("left_v", "Voltage left", Measure.VOLT, 0.1, 70, optional=True)
    note = typed.try_("note", lambda: parse_reason(typed.get("note"), "Note", "note", needed=False), "")
    try:
        typed.check()
        with ctx.book.write():
            flights.log(
                round_id,
                left_percent=left_percent,
                left_v=left_v,
                happened=typed.get("happened"),
                note=note,
                minutes=minutes,
                at=ctx.now(),
            )
    except PilotError as error:
        return _show(request, ctx, round_id, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "logbook", query="new=1")
