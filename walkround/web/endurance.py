"""Flight time today: minutes as a range with why, the plan on the pack, what the volts do under load."""

from fastapi import Request
from starlette.datastructures import QueryParams
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import PilotError
from walkround.core.base.units import Measure
from walkround.core.packs.charge import FULL
from walkround.core.packs.pack import Pack
from walkround.core.round.context import Context
from walkround.core.round.readiness import flight_findings
from walkround.store import hangar
from walkround.store import packs as store_packs
from walkround.web import drawings
from walkround.web.answers.flight import read_plan
from walkround.web.app_context import AppContext, AppContextDep
from walkround.web.choice import Choice, situation_for, weather_now
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, page
from walkround.web.routes import Router

router = Router()


def _asked(ctx: AppContext, query: QueryParams) -> QueryParams:
    """With only a pack asked for, an aircraft that it fits."""
    pack = query.get("pack", "")
    if query.get("aircraft") or not (pack.isdecimal() and len(pack) < 10):
        return query
    chosen = hangar.get(Pack, int(pack))
    aircraft = next((a for a in hangar.everything(Aircraft) if chosen.fits(a)), None)
    return query if aircraft is None else QueryParams([*query.multi_items(), ("aircraft", str(aircraft.id))])


@router.get("/endurance", name="endurance")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page, or its parts when the page's own script asks."""
    settings = ctx.settings()
    query = _asked(ctx, request.query_params)
    choice = Choice(ctx, query)
    parts: dict[str, object] = {"choice": choice}
    status = 200
    weather, silence = weather_now(ctx, settings, choice.site) if choice.site else (None, "")
    situation = situation_for(ctx, settings, choice, weather)
    if situation is not None and choice.pack is not None:
        typed = Typed(query, settings.units)  # type: ignore[arg-type]
        context = Context(situation, {})
        known = store_packs.in_short(choice.pack.id, ctx.now())
        now = ctx.now()
        read = known.charge_now(choice.pack, now)
        held = FULL if query.get("full") or read is None else read
        warm = typed.try_(
            "pack_c",
            lambda: typed.number("pack_c", "Pack temperature", Measure.TEMPERATURE, -40, 60, optional=True),
            None,
        )
        minutes = context.endurance(pack_c=warm)
        plan = context.flight_plan
        if "work_min" in query:
            try:
                plan = read_plan(typed)
            except PilotError as error:
                parts |= {"errors": error.by_field(), "typed": typed.raw()}
                status = 422
        if typed.errors:
            parts |= {"errors": typed.errors, "typed": typed.raw()}
            status = 422
        asked = context.flight_needs(plan, held=held, known=minutes)
        parts |= {
            "situation": situation,
            "minutes": minutes,
            "drawn_minutes": drawings.minutes.draw_minutes(minutes),
            "plan": plan,
            "asked": asked,
            "drawn": drawings.flight.draw_flight(asked, held, context.flight_clock(None, plan, held, minutes)),
            "findings": flight_findings(context, plan, FULL if query.get("full") else None),
            "held": held,
            "read": read,
            "assumed": held is FULL,
            "load": context.load(warm, held),
            "turns": choice.turns[:5],
            "weather": weather,
            "silence": silence,
        }
    name = "endurance/_main.html" if asks_fragment(request) else "endurance/page.html"
    return page(request, name, settings, status, **parts)
