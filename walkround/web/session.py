"""The energy of the session: what runs out first, what to charge meanwhile."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.base.units import Measure
from walkround.core.flight.session import Gear, gear_of, plan_session, read_charge, short_by
from walkround.core.round.context import Context
from walkround.store import box
from walkround.store import gear as store_gear
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.choice import Choice, situation_for, weather_now
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
FLIGHTS, BETWEEN_MIN = 3, 10.0
"""A usual session. Source: our choice."""


@router.get("/session", name="session")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page."""
    return _show(request, ctx, Typed(request.query_params, ctx.settings().units))  # type: ignore[arg-type]


def _show(request: Request, ctx: AppContext, asked: Typed, status: int = 200, **extra: object) -> Response:
    settings, choice = ctx.settings(), Choice(ctx, request.query_params)
    if choice.aircraft is None or choice.pack is None or choice.site is None:
        return page(request, "session/page.html", settings, status, session=None, **extra)
    weather, _ = weather_now(ctx, settings, choice.site)
    situation = situation_for(ctx, settings, choice, weather)
    assert situation is not None
    context, now = Context(situation, {}), ctx.now()
    flights = int(asked.number("flights", "Flights", Measure.COUNT, 1, 20, optional=True) or FLIGHTS)
    between = asked.number("between", "Between flights", Measure.MINUTE, 0, 240, optional=True)
    between_min = BETWEEN_MIN if between is None else between
    bright, needed = bool(asked.get("bright")), gear_of(choice.aircraft)
    latest, learned = store_gear.known(needed, now)
    air_c = weather.temperature_c if weather is not None and weather.temperature_c is not None else 20.0
    ready = sum(turn.charged for turn in box.flying_order(choice.aircraft, now))
    flight_min = context.flight_clock().land_s / 60
    session = plan_session(
        needed, latest, learned,
        flights=flights, flight_min=flight_min, between_min=between_min, packs_ready=ready, now=now, temperature_c=air_c, bright=bright,
    )  # fmt: skip
    return page(
        request,
        "session/page.html",
        settings,
        status,
        choice=choice,
        session=session,
        drawn=drawings.session.draw_session(session, flight_min),
        flight_min=flight_min,
        between_min=between_min,
        bright=bright,
        ready=ready,
        rows=[(gear.name, gear.value, latest.get(gear), gear in learned) for gear in needed],
        short=[(t.name, short_by(t, session.hours)) for t in session.things if t.out_in and t.charge is not None],
        unknown=[t.name for t in session.things if t.per_hour and t.charge is None],
        **{"errors": asked.errors, **extra},
    )


@router.post("/session", name="read_gear")
def read(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Keep the charges that were read."""
    typed = Typed(form, ctx.settings().units)
    found = []
    for gear in Gear:
        text = typed.get(f"charge_{gear.name}").strip()
        if text:
            held = typed.try_(f"charge_{gear.name}", lambda text=text: read_charge(text), None)  # type: ignore[misc]
            if held is not None:
                found.append((gear, held))
    try:
        typed.check()
        with ctx.book.write():
            for gear, held in found:
                store_gear.keep(gear, held, ctx.now())
    except PilotError as error:
        asked = Typed(request.query_params, ctx.settings().units)  # type: ignore[arg-type]
        return _show(request, ctx, asked, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "session", query=str(request.query_params))
