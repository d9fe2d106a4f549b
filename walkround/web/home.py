"""Return to home at a field: the way back in side view, its height to be dragged, the charge to turn at."""

from fastapi import Request
from msgspec.structs import replace
from starlette.datastructures import QueryParams
from starlette.responses import Response

from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import PilotError
from walkround.core.base.units import Measure
from walkround.core.field.site import Site
from walkround.core.flight.return_to_home import TurnPoint, homeward
from walkround.core.flight.speed_home import when_link_lost
from walkround.core.round.context import Context
from walkround.core.round.failsafe import left_over
from walkround.core.round.numbers import RULES, return_findings
from walkround.store import hangar
from walkround.web import drawings
from walkround.web.app_context import AppContextDep, Number
from walkround.web.choice import Choice, situation_for, weather_now
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, page
from walkround.web.routes import Router

router = Router()
TOWARDS = {"": "not known (worst case)", "0": "north", "45": "north-east", "90": "east", "135": "south-east", "180": "south",
           "225": "south-west", "270": "west", "315": "north-west"}  # fmt: skip
TURNS = 6


def _directions(context: Context, place: TurnPoint, return_m: float) -> "list[tuple[str, drawings.home.TurnBar]]":
    """The charge to turn at for each direction from home, at the distance looked at; none where the wind has no known direction."""
    if context.weather is None or context.weather.steady_from_deg is None:
        return []
    turns = [
        (words, context.turn_table([place.distance_m], replace(place, bearing_deg=float(key)), return_m))
        for key, words in TOWARDS.items()
        if key
    ]
    return [(words, drawings.home.turn_bars(table)[0]) for words, table in turns]


@router.get("/fields/{site_id}/home", name="home")
def show(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The page, or its result when the page's own script asks."""
    settings = ctx.settings()
    site = hangar.get(Site, site_id)
    query = request.query_params
    asked = QueryParams([*((k, v) for k, v in query.multi_items() if k != "site"), ("site", str(site_id))])
    choice = Choice(ctx, asked)
    weather, silence = weather_now(ctx, settings, site)
    situation = situation_for(ctx, settings, choice, weather)
    parts: dict[str, object] = {"site": site, "choice": choice, "towards": TOWARDS}
    status = 200
    if situation is not None:
        typed = Typed(query, settings.units)  # type: ignore[arg-type]
        done = situation.history.last_done("link.rth_altitude")
        usual = TurnPoint(distance_m=site.reach_m, height_m=site.flight_height_m)
        setting = done.value.value if done is not None and done.value is not None else None
        try:
            place = TurnPoint(
                distance_m=typed.number("distance", "Distance", Measure.HEIGHT, 5, 20_000, optional=True)
                or usual.distance_m,
                bearing_deg=float(query["bearing"]) if query.get("bearing") in set(TOWARDS) - {""} else None,
                height_m=typed.number("flown", "Flying height", Measure.HEIGHT, 1, 500, optional=True)
                or usual.height_m,
            )
            asked_m = typed.number("height", "RTH altitude", Measure.HEIGHT, 1, 500, optional=True)
            typed.check()
        except PilotError as error:
            parts |= {"errors": error.by_field(), "typed": typed.raw()}
            place, asked_m, status = usual, None, 422
        context, limits = Context(situation, {}), situation.limits
        trip = context.trip
        found = homeward(trip, place, asked_m or setting)
        return_m = found.return_m
        distances = sorted({float(round(place.distance_m * (i + 1) / TURNS)) for i in range(TURNS)})
        turns = context.turn_table(distances, place, return_m)
        set_at = situation.history.last_done("link.turn_back")
        parts |= {
            "situation": situation,
            "place": place,
            "return_m": return_m,
            "setting": setting,
            "found": found,
            "drawn": drawings.home.draw_home(place, found, site, limits),
            "turns": drawings.home.turn_bars(turns),
            "ways": _directions(context, place, return_m),
            "gear": [one for one in situation.history.gear if one.minutes is not None],
            "unknown_gear": [one.name for one in situation.history.gear if one.minutes is None],
            "findings": (
                *return_findings(context, place, return_m, found),
                *left_over(context),
                *(
                    RULES["turn_back"](set_at.value.value, context)
                    if set_at is not None and set_at.value is not None
                    else ()
                ),
            ),
            "weather": weather,
            "silence": silence,
            "lost_link": when_link_lost(situation.aircraft, site, context.failsafe.action),
            "returns": situation.aircraft.has(Trait.RETURN_HOME),
            "most_m": max(limits.height_max_m, found.lowest_m * 1.2),
        }
    name = "home/_main.html" if asks_fragment(request) else "home/page.html"
    return page(request, name, settings, status, **parts)
