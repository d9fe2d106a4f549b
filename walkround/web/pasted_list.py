"""A maker's or a club's list, typed or pasted: matched to our checks, shown, and worked in with its own order."""

from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.plain import whole
from walkround.core.checklist.check import STATION_TITLES
from walkround.core.checklist.custom import belonging
from walkround.core.checklist.matching import Match, match, taken_as_list
from walkround.core.checklist.own_checks import steps_of
from walkround.store import hangar
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()


@router.get("/pasted-list", name="pasted_list")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page, empty."""
    return _show(request, ctx)


def _show(request: Request, ctx: AppContext, status: int = 200, **extra: Any) -> Response:
    fleet = [one for one in hangar.everything(Aircraft) if not one.retired]
    return page(request, "checks/list.html", ctx.settings(), status, fleet=fleet, titles=STATION_TITLES, **extra)


@router.post("/pasted-list", name="take_pasted_list")
def take(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Show what the lines are matched to; with the second button work them in. A line can be kept as a step of its own."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        number = whole(typed.get("aircraft"))
        if number is None:
            raise InputError("Choose the aircraft that the list is for.", "aircraft")
        aircraft = hangar.get(Aircraft, number)
        walking = belonging(settings.custom_checklist, aircraft)
        own = set(typed.many("own"))
        found = tuple(
            Match(one.line, None) if one.line in own else one for one in match(steps_of(typed.get("steps")), walking)
        )
        if typed.get("action") != "keep":
            return _show(request, ctx, found=found, typed=typed.raw())
        day = ctx.now().date()
        with ctx.book.write():
            checklist = ctx.settings().custom_checklist
            only_for = (aircraft.id,) if typed.get("only_for") else ()
            wanted = taken_as_list(checklist, found, walking, only_for=only_for, today=day)
            store_settings.save(custom_checklist=wanted)
    except PilotError as error:
        return _show(request, ctx, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "checks", query=f"saved=1&aircraft={aircraft.id}")
