"""If the signal is lost here: the aircraft dragged on the plan, the failsafe flown from there many times; the whole area; what would be safer."""

import json
import math
from collections.abc import Iterator

from fastapi import Request
from starlette.datastructures import QueryParams
from starlette.responses import JSONResponse, Response, StreamingResponse

from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.base.struct import Struct
from walkround.core.base.units import Measure, Units, from_pilot
from walkround.core.field.site import LaunchPlatform, Site
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.lost_link.area import Area
from walkround.core.lost_link.flown import Lost
from walkround.core.lost_link.proposals import Setup, area_of, body_for, proposals, whole_area
from walkround.core.lost_link.what_if import WhatIf, findings, landed_words, track, what_if_at
from walkround.core.round.context import Context
from walkround.core.round.lost_link import Moves, besides, lost_at, setup_of
from walkround.store import hangar
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number
from walkround.web.choice import Choice, situation_for, weather_now
from walkround.web.forms import Typed, typed_text
from walkround.web.pages import asks_fragment, page, templates
from walkround.web.routes import Router

router = Router()
BOAT_MINUTES = (2.0, 5.0, 10.0)
FIELDS = ("away", "bearing", "height", "speed", "heading", "charge", "rth", "boat")


class Asked(Struct, frozen=True, kw_only=True):
    """What was asked: the situation, the setup, where it is lost (bearing in degrees true, distance in m, heading in degrees true or None), mistakes by field, and how the launch
    point moves."""

    context: Context
    setup: Setup
    bearing_deg: float
    away_m: float
    heading_deg: float | None
    moves: Moves | None
    typed: Typed


def _asked(ctx: AppContext, settings: Settings, site: Site, query: QueryParams) -> tuple[Asked | None, Choice, str]:
    """What was asked of a field; what is wrong is noted, and the usual taken in its place."""
    query = QueryParams([*((k, v) for k, v in query.multi_items() if k != "site"), ("site", str(site.id))])
    choice = Choice(ctx, query)
    weather, silence = weather_now(ctx, settings, site)
    situation = situation_for(ctx, settings, choice, weather)
    if situation is None:
        return None, choice, silence
    context, typed = Context(situation, {}), Typed(query, settings.units)  # type: ignore[arg-type]
    able = actions(situation.aircraft.kind, situation.aircraft.features())
    wish = query.get("action")
    setup = setup_of(
        context,
        action=next((one for one in able if one.name == wish), None),
        rth_altitude_m=typed.number("rth", "RTH altitude", Measure.HEIGHT, 1, 500, optional=True),
        height_m=typed.number("height", "Height", Measure.HEIGHT, 1, 500, optional=True),
        speed_ms=typed.number("speed", "Speed", Measure.SPEED, 0, 100, optional=True),
        charge_percent=typed.number("charge", "Charge", Measure.PERCENT, 0, 100, optional=True),
    )
    away = typed.number("away", "Distance", Measure.HEIGHT, 0, 5_000, optional=True)
    bearing = typed.number("bearing", "Direction", Measure.DEGREE, 0, 360, optional=True)
    boat = typed.number("boat", "Speed of the boat", Measure.SPEED, 0, 30, optional=True)
    moves = None
    if site.launch_platform is LaunchPlatform.MOVING and boat is not None:
        moves = Moves(speed_ms=boat, minutes=context.flight_clock().land_s / 60)
    usual_bearing, usual_away = _far_point(site)
    asked = Asked(
        context=context, setup=setup, moves=moves, typed=typed,
        bearing_deg=usual_bearing if bearing is None else bearing,
        away_m=usual_away if away is None else away,
        heading_deg=typed.number("heading", "Heading", Measure.DEGREE, 0, 360, optional=True),
    )  # fmt: skip
    return asked, choice, silence


def _far_point(site: Site) -> tuple[float, float]:
    """A place to begin with: in the flying area, two thirds of the way to its farthest corner; degrees true and m."""
    lx, ly = site.launch.xy
    corner = max(site.flight_polygon(), key=lambda p: math.dist(p, (lx, ly)))
    return math.degrees(math.atan2(corner[0] - lx, corner[1] - ly)) % 360, math.dist(corner, (lx, ly)) * 2 / 3


@router.get("/fields/{site_id}/link-lost", name="link_lost")
def show(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The page, or its result where the page's own script asks."""
    settings, site = ctx.settings(), hangar.get(Site, site_id)
    asked, choice, silence = _asked(ctx, settings, site, request.query_params)
    fragment = asks_fragment(request)
    if asked is None:
        return page(request, "link_lost/page.html", settings, site=site, asked=None, choice=choice)
    setup, typed = asked.setup, asked.typed
    found = what_if_at(_lost(asked), setup.plan, body_for(setup), setup.air, site)
    reach = [(m, asked.moves.speed_ms * m * 60) for m in BOAT_MINUTES] if asked.moves else []
    lost = _lost(asked)
    said = _said(asked, found)
    able = actions(setup.aircraft.kind, setup.aircraft.features())
    parts: dict[str, object] = {
        "site": site,
        "choice": choice,
        "asked": asked,
        "setup": setup,
        "able": able,
        "returns": Action.RETURN in able,
        "found": found,
        "findings": said,
        "level": worst(said),
        "landed": landed_words(found),
        "drawn": drawings.link_lost.draw_lost(
            (lost.east_m, lost.north_m), lost.heading_deg, found, site.launch.xy, reach
        ),
        "errors": typed.errors,
        "typed": typed.raw(),
        "weather": asked.context.weather,
        "silence": silence,
        "moving": site.launch_platform is LaunchPlatform.MOVING,
        "fragment": fragment,
    }
    if request.query_params.get("whole") and not fragment:
        parts |= _whole(asked, whole_area(setup), settings.units)
    if not fragment:
        parts |= {
            "plan": drawings.site.site_plan(site, settings.units),
            "metres": from_pilot(1.0, Measure.HEIGHT, settings.units),
        }
    name = "link_lost/_result.html" if fragment else "link_lost/page.html"
    return page(request, name, settings, 422 if typed.errors else 200, **parts)


def _lost(asked: Asked) -> Lost:
    return lost_at(asked.setup, asked.bearing_deg, asked.away_m, asked.heading_deg)


def _said(asked: Asked, found: WhatIf) -> tuple[Finding, ...]:
    return tuple(sorted((*besides(asked.context, asked.setup, asked.moves), *findings(found)), key=lambda f: -f.level))


@router.get("/fields/{site_id}/link-lost/track", name="link_lost_track")
def show_track(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The path alone, with nothing uncertain, while the aircraft is dragged."""
    site = hangar.get(Site, site_id)
    asked, _, _ = _asked(ctx, ctx.settings(), site, request.query_params)
    if asked is None:
        return JSONResponse({"d": ""})
    return JSONResponse(
        {"d": drawings.link_lost.path_d(track(_lost(asked), asked.setup.plan, body_for(asked.setup), asked.setup.air))}
    )


def _least(asked: Asked, setup: Setup) -> Level:
    """What no place of the area is worth less than: what the page says besides the runs."""
    return worst(besides(asked.context, setup, asked.moves))


def _whole(asked: Asked, area: Area, units: Units) -> dict[str, object]:
    """The area as drawn, and what would be safer."""
    context, setup = asked.context, asked.setup
    s = context.situation
    lowest = rth_altitude(s.site, s.aircraft, s.limits, context.weather).lowest_m
    better = proposals(setup, lowest) if area.badness[1] > 0 else ()
    return {
        "area": drawings.link_lost.draw_area(area, s.site.launch.xy),
        "better": [
            (one, drawings.link_lost.draw_area(one.area, one.setup.site.launch.xy), _query(asked, one.setup, units))
            for one in better
        ],
    }


def _query(asked: Asked, setup: Setup, units: Units) -> dict[str, str]:
    """What of a changed setup can be asked of this page, as typed in its fields; empty where the change is on the plan."""
    now, height = asked.setup, Measure.HEIGHT
    changes = {}
    if setup.plan.action is not now.plan.action:
        changes["action"] = setup.plan.action.name
    if setup.plan.rth_altitude_m != now.plan.rth_altitude_m:
        changes["rth"] = typed_text(setup.plan.rth_altitude_m, height, units)
    if setup.height_m != now.height_m:
        changes["height"] = typed_text(setup.height_m, height, units)
    return changes


@router.get("/fields/{site_id}/link-lost/area", name="link_lost_area")
def show_area(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The whole area, a line of JSON for each part that is done and one for the end; who goes away stops it."""
    settings, site = ctx.settings(), hangar.get(Site, site_id)
    asked, _, _ = _asked(ctx, settings, site, request.query_params)
    if asked is None:
        return JSONResponse({"done": 1.0, "words": "This needs an aircraft and a pack."})
    setup = asked.setup
    env = templates.env

    def lines() -> Iterator[str]:
        for part in area_of(setup):
            if isinstance(part, Area):
                drawn = _whole(asked, part, settings.units)
                given = {"request": request, "units": settings.units, "site": site, "setup": setup, **drawn}
                cells = env.get_template("link_lost/_cells.html").render(given)
                side = env.get_template("link_lost/_whole.html").render(given)
                yield json.dumps({"done": 1.0, "cells": cells, "side": side}) + "\n"
            else:
                yield json.dumps({"done": round(0.9 * part, 3)}) + "\n"

    return StreamingResponse(lines(), media_type="application/x-ndjson", headers={"Cache-Control": "no-store"})
