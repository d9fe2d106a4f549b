"""The crew brief of a flight at a field: one page to read out and to print, ticked on the round as given."""

from fastapi import Request
from starlette.datastructures import QueryParams
from starlette.responses import Response

from walkround.core.field.glare import session
from walkround.core.field.site import Site
from walkround.core.round.brief import make_brief, planned_words
from walkround.core.round.context import Context
from walkround.core.round.readiness import readiness
from walkround.store import hangar, round_list, rounds
from walkround.web import drawings
from walkround.web.app_context import AppContextDep, Number
from walkround.web.choice import Choice, situation_for, weather_now
from walkround.web.pages import page
from walkround.web.routes import Router

router = Router()
CHECK = "field.crew_brief"


@router.get("/fields/{site_id}/brief", name="brief")
def show(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The brief for the open round at this field, else for the aircraft asked for or flown last."""
    settings = ctx.settings()
    site = hangar.get(Site, site_id)
    row = round_list.open_round()
    loaded = rounds.load(row.id, settings, ctx.now()) if row is not None and row.site_id == site_id else None
    query = request.query_params
    if loaded is not None and not query.get("aircraft"):
        given = {one.planned.check.id: one.evidence for one in loaded.walk.states if one.evidence is not None}
        context = Context(loaded.walk.situation, given)
    else:
        loaded = None
        asked = QueryParams([*((k, v) for k, v in query.multi_items() if k != "site"), ("site", str(site_id))])
        weather, _ = weather_now(ctx, settings, site)
        situation = situation_for(ctx, settings, Choice(ctx, asked), weather)
        if situation is None:
            return page(request, "brief/page.html", settings, site=site, brief=None)
        context = Context(situation, {})
    now = ctx.now()
    conditions = readiness(context, now)
    sun = session(site, now, context.planned_min)
    state = None
    if loaded is not None:
        state = next((one for one in loaded.walk.before() if one.planned.check.id == CHECK), None)
    return page(
        request,
        "brief/page.html",
        settings,
        site=site,
        brief=make_brief(context, conditions),
        planned=planned_words(context),
        plan=drawings.site.site_plan(site, settings.units, sun=sun),
        now=now,
        pilot=settings.pilot,
        figures=drawings.sticks.draw_stops(context.situation.aircraft.failsafe, settings.stick_mode),
        weather=context.weather,
        round=loaded,
        state=state,
        check_id=CHECK,
    )
