"""Steps of one's own, added while walking: for today or for every launch, for this aircraft or for all."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.checklist.check import Station
from walkround.core.checklist.custom import add_steps
from walkround.core.checklist.own_checks import steps_of
from walkround.store import rounds
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.rounds import pick, view
from walkround.web.routes import Router

router = Router()


@router.post("/rounds/{round_id}/steps", name="add_own_steps")
def add(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Add what was typed or pasted as steps of this station; they are on today's list at once."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    typed = Typed(form, settings.units)
    station = typed.choice("station", "Station", [s.value for s in Station])
    situation = loaded.walk.situation
    here, current = pick(loaded, station, "")
    try:
        typed.check()
        steps = steps_of(typed.get("steps"))
        only_for = (situation.aircraft.id,) if typed.get("only_for") else ()
        on_day = None if typed.get("always") else situation.today()
        with ctx.book.write():
            checklist = ctx.settings().custom_checklist
            wanted = add_steps(
                checklist, steps, Station(station), only_for=only_for, on_day=on_day, today=situation.today()
            )
            store_settings.save(custom_checklist=wanted)
    except PilotError as error:
        errors = error.by_field()
        return view(
            request, ctx, loaded, settings, here, current, status=status_of(error), errors=errors, typed=typed.raw()
        )
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    here, current = pick(loaded, station, "")
    return view(request, ctx, loaded, settings, here, current, said="Added to your list.")
