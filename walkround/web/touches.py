"""Inspecting by touch: each part of today's route on the drawing, confirmed by itself or with its neighbours, reported, or taken back."""

from typing import Any

from fastapi import Request
from starlette.responses import JSONResponse, Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import PartsDamaged
from walkround.core.base.errors import PilotError
from walkround.core.round.touches import AFTER_LANDING, RouteStop, TouchState, left_words, route
from walkround.core.round.walk import CheckState
from walkround.store import flights, rounds, snags, touches
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()


def gate_words(aircraft: Aircraft) -> tuple[str, str]:
    """What is to be done before a hand goes near, and what its button says."""
    if aircraft.has(Trait.LIQUID_FUEL):
        return "Let the engine cool, take the plug lead off, and unplug the receiver pack.", "Engine cold, plug off"
    return "Unplug the pack. A live motor injures fingers.", "Pack is unplugged"


def _stops(loaded: OpenRound, ctx: AppContext) -> tuple[RouteStop, ...]:
    last = touches.last_touched(loaded.walk.situation.aircraft.id, ctx.now())
    return route(loaded.walk, touches.of_round(loaded.id), last)


def _here(stops: tuple[RouteStop, ...], key: str) -> int:
    """Where the hand is: the stop asked for, else the first with something left, else the first."""
    asked = next((i for i, one in enumerate(stops) if one.stop.key == key), None)
    return asked if asked is not None else next((i for i, one in enumerate(stops) if one.left), 0)


def _onward(stops: tuple[RouteStop, ...], at: int) -> RouteStop | None:
    """The next stop with something left: after this one, then from the start."""
    return next((one for one in (*stops[at + 1 :], *stops[:at]) if one.left), None)


def _landed(loaded: OpenRound) -> CheckState | None:
    """The check of the landed aircraft, where this round has flown."""
    return next((s for s in loaded.walk.states if s.planned.check.id == AFTER_LANDING), None) if loaded.signed else None


def _reported_since(loaded: OpenRound) -> tuple[str, ...]:
    """Ids of the parts on which a snag was opened since the take-off of this round's flight."""
    flight = flights.of_round(loaded.id)
    found = snags.open_ones(loaded.walk.situation.aircraft.id) if flight is not None else []
    return tuple(
        part for snag in found if flight is not None and snag.opened_at >= flight.took_off_at for part in snag.parts
    )


def _show(
    request: Request, ctx: AppContext, loaded: OpenRound, key: str, settings: Settings, status: int = 200, **extra: Any
) -> Response:
    situation = loaded.walk.situation
    stops = _stops(loaded, ctx)
    at = _here(stops, key)
    here = stops[at] if stops else None
    words, button = gate_words(situation.aircraft)
    landed = _landed(loaded)
    on = snags.open_ones(situation.aircraft.id)
    return page(
        request, "touches/page.html", settings, status,
        round=loaded, situation=situation, walk=loaded.walk, stops=stops, at=at, number=at + 1, here=here, left=left_words(stops), landed=landed,
        drawn=drawings.touches.draw_stop(situation.aircraft, here, on, situation.history.aircraft_last_flight_at) if here is not None else None,
        shapes=drawings.touches.draw_map(situation.aircraft, stops, here.stop if here is not None else None), map_size=drawings.touches.MAP,
        checks=[loaded.walk.state(check_id).planned.check for check_id in (here.checks if here is not None else ())],
        onward=_onward(stops, at) if stops else None, before=stops[at - 1] if at else None, after=stops[at + 1] if at + 1 < len(stops) else None,
        gate=not loaded.signed and not touches.is_cold(loaded), gate_words=words, gate_button=button, photos=snags.with_photo(),
        then=request.query_params.get("then", "")[:120], reported=len(_reported_since(loaded)) if landed is not None else 0,
        **extra,
    )  # fmt: skip


@router.get("/rounds/{round_id}/touch", name="touch")
def show(request: Request, ctx: AppContextDep, round_id: Number, stop: str = "") -> Response:
    """A stop of today's route, or after landing the same parts to report what has changed."""
    settings = ctx.settings()
    return _show(request, ctx, rounds.load(round_id, settings, ctx.now()), stop, settings)


@router.post("/rounds/{round_id}/touch/unplugged", name="say_unplugged")
def say_unplugged(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Keep that nothing can start before hands go near."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    with ctx.book.write():
        touches.say_cold(loaded, ctx.now())
    return go(request, "touch", query=f"stop={Typed(form, settings.units).get('stop')}", round_id=round_id)


@router.post("/rounds/{round_id}/touch", name="touch_parts")
def touch_parts(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Keep that these parts were touched and are OK, or take that back; the drawing is told in JSON, a form is led on."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    loaded = rounds.load(round_id, settings, ctx.now())
    key, ids = typed.get("stop"), [str(one) for one in form.getlist("part")]
    told = "application/json" in request.headers.get("accept", "")
    try:
        with ctx.book.write():
            if typed.get("state") == "open":
                after = touches.open_again(loaded, ids, at=ctx.now(), settings=settings)
            else:
                ids = _together(loaded, key, ctx) if typed.get("together") else ids
                after = touches.keep(loaded, ids, TouchState.OK, at=ctx.now(), settings=settings)
    except PilotError as error:
        if told:
            return JSONResponse({"words": error.message}, status_of(error))
        return _show(request, ctx, loaded, key, settings, status_of(error), words=error.message)
    stops = _stops(after, ctx)
    at = _here(stops, key)
    onward = _onward(stops, at)
    base = str(request.app.url_path_for("touch", round_id=round_id))
    leads = (
        f"{base}?stop={onward.stop.key}"
        if onward is not None
        else str(request.app.url_path_for("walk", round_id=round_id)) + "?station=airframe"
    )
    left_here, many = (stops[at].left, len(stops[at].together)) if stops else (0, 0)
    if told:
        return JSONResponse(
            {
                "saved": ids,
                "left": left_words(stops),
                "here": left_here,
                "together": f"{many} parts OK" if many else "",
                "next": "" if left_here else leads,
            }
        )
    return _show(request, ctx, after, key, settings) if left_here else _redirect(leads)


def _together(loaded: OpenRound, key: str, ctx: AppContext) -> list[str]:
    """The parts that one tap confirms at a stop."""
    found = next((one for one in _stops(loaded, ctx) if one.stop.key == key), None)
    return list(found.together) if found is not None else []


def _redirect(url: str) -> Response:
    return Response(status_code=303, headers={"Location": url})


@router.post("/rounds/{round_id}/touch/landed", name="nothing_changed")
def nothing_changed(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """After landing: nothing has changed, or nothing but what was reported since."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    state = loaded.walk.state(AFTER_LANDING)
    parts = _reported_since(loaded)
    given = PartsDamaged(parts=parts, touched=len(parts)) if parts else Passed()
    with ctx.book.write():
        rounds.answer(
            round_id,
            AFTER_LANDING,
            given,
            at=ctx.now(),
            settings=settings,
            seen=state.evidence.id if state.evidence else 0,
            loaded=loaded,
        )
    return go(request, "walk", query="station=first-minute", round_id=round_id)
