"""Today: the next flight, what stands between it and flying, one clear way to start."""

from datetime import datetime, time
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.datastructures import FormData, QueryParams
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import PilotError
from walkround.core.checklist.check import Depth, Occasion, Phase
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.blockers import stands_between
from walkround.core.round.occasions import seen_occasions
from walkround.core.round.plan import make_plan
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.stages import stages_ahead, stages_left
from walkround.core.round.why import Day
from walkround.store import flights, hangar, part_ages, round_list, rounds
from walkround.store import packs as store_packs
from walkround.store.models import RoundRow
from walkround.store.pace import pace
from walkround.store.settings import Settings
from walkround.store.situation import gather
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.choice import Choice, occasions_asked, situation_for, weather_now, with_depth
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.routes import Router

router = Router()
MOST_DAYS_AHEAD = 60


@router.get("/", name="today")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page of today."""
    return _show(request, ctx, request.query_params)


def _show(
    request: Request, ctx: AppContext, asked: QueryParams | FormData, error: PilotError | None = None
) -> Response:
    settings = ctx.settings()
    choice = Choice(ctx, asked)
    open_row = round_list.open_round()
    context: dict[str, object] = {"choice": choice, "open_round": _open_words(open_row, settings, ctx.now())}
    context["flying"] = flights.unfinished()
    if error is not None:
        context["errors"] = error.by_field()
    if choice.aircraft and choice.pack and choice.site:
        weather, silence = weather_now(ctx, settings, choice.site)
        asked_for = occasions_asked(asked)
        situation = situation_for(ctx, settings, choice, weather, asked_for, asked)
        assert situation is not None and situation.depth is not None
        seen_for = seen_occasions(situation)
        day = Day(situation, words=False)  # how many checks, not why each
        plan = make_plan(situation, day)
        before = sum(p.check.phase is Phase.BEFORE for p in plan.checks)
        context |= {
            "situation": situation,
            "silence": silence,
            "weather": weather,
            "sky": readiness(day.context, situation.now, only=(Subject.WEATHER, Subject.HOME)) if weather else (),
            "between": stands_between(situation, day),
            "before": before,
            "stages": stages_ahead(plan, pace()),
            "after": len(plan.checks) - before,
            "occasions": list(Occasion),
            "asked_for": asked_for,
            "seen_for": seen_for,
            "special": len(asked_for) + len(seen_for),
            "left_out": plan.left_out,
            "depth": situation.depth,
            "asked_depth": asked.get("depth") if asked.get("depth") == situation.depth.depth else "",
            "depths": [depth for depth in Depth if depth.rank >= situation.depth.depth.rank],
            "shorter_by": plan.shorter_by,
            "on_record": plan.on_record,
            "picture": drawings.aircraft.place(choice.aircraft, (200, 150), 178, 132),
        }
    name = "today/_main.html" if asks_fragment(request) else "today/page.html"
    return page(request, name, settings, 422 if error else 200, **context)


def _open_words(row: RoundRow | None, settings: Settings, now: datetime) -> dict[str, object] | None:
    if row is None:
        return None
    loaded = rounds.load(row.id, settings, now)
    situation = loaded.walk.situation
    return {
        "left": [left for left in stages_left(loaded.walk, pace()) if left.open],
        "id": row.id,
        "aircraft": situation.aircraft.name,
        "pack": situation.pack.label,
        "site": situation.site.name,
        "at": situation.local(row.started_at),
    }


@router.post("/rounds", name="start_round")
def start(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Start today's round for what was chosen."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    aircraft_id, pack_id, site_id = (
        typed.whole(name, label) for name, label in (("aircraft", "Aircraft"), ("pack", "Pack"), ("site", "Field"))
    )
    try:
        typed.check()
        site = hangar.get(Site, site_id)
        today = ctx.now().astimezone(ZoneInfo(site.timezone)).date()
        day = typed.day("day", "Day", today)
        if day < today:
            typed.errors["day"] = "That day is in the past. Choose today or a later day."
        elif (day - today).days > MOST_DAYS_AHEAD:
            typed.errors["day"] = f"A round is planned at most {MOST_DAYS_AHEAD} days ahead."
        typed.check()
        pack = hangar.get(Pack, pack_id)
        if not pack.usable:
            typed.errors["pack"] = store_packs.why_down(pack)
        elif not pack.fits(hangar.get(Aircraft, aircraft_id)):
            typed.errors["pack"] = "That pack does not fit this aircraft."
        typed.check()
    except PilotError as error:
        return _show(request, ctx, form, error)
    now = ctx.now()
    moment = now if day == today else datetime.combine(day, time(10), ZoneInfo(site.timezone))
    weather, _ = weather_now(ctx, settings, site) if day == today else (None, "")
    with ctx.book.write():
        part_ages.note_wear(hangar.get(Aircraft, aircraft_id), now)
        situation = gather(
            aircraft_id,
            pack_id,
            site_id,
            now=moment,
            settings=settings,
            weather=weather,
            occasions=occasions_asked(form),
        )
        situation = with_depth(situation, form)
        number = rounds.start(situation, now)
    return go(request, "walk", round_id=number)
