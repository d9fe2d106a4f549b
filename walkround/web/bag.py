"""The bag of an aircraft: its list, what the pilot adds and leaves out, and the sheet to print."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.bag import bag_list, custom_lines
from walkround.core.base.errors import PilotError
from walkround.core.base.units import Measure
from walkround.store import hangar
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()


def _show(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: object) -> Response:
    everything = bag_list(aircraft.model_copy(update={"bag_leaves": frozenset()}))
    return page(
        request,
        "bag/page.html",
        ctx.settings(),
        status,
        aircraft=aircraft,
        things=bag_list(aircraft),
        everything=[thing for thing in everything if not thing.id.startswith("own-")],
        **extra,
    )


@router.get("/hangar/aircraft/{aircraft_id}/bag", name="bag")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The bag list, to change and to print."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post("/hangar/aircraft/{aircraft_id}/bag", name="save_bag")
def save(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep how many packs go along, own lines, and what stays at home."""
    settings = ctx.settings()
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    packs = int(typed.needed("bag_packs", "Packs", Measure.COUNT, 1, 30))
    none: tuple[str, ...] = ()
    lines = typed.try_("bag_extra", lambda: custom_lines(typed.get("bag_extra")), none)
    known = {thing.id for thing in bag_list(aircraft.model_copy(update={"bag_leaves": frozenset()}))}
    takes = set(typed.many("takes"))
    try:
        typed.check()
        leaves = frozenset(i for i in known if i not in takes and not i.startswith("own-"))
        with ctx.book.write():
            aircraft = hangar.get(Aircraft, aircraft_id)
            bag = {"bag_packs": packs, "bag_extra": lines, "bag_leaves": leaves}
            changed = typed.build(Aircraft, **(aircraft.model_dump() | bag))
            refuse_stale(typed, aircraft, changed, "bag")
            hangar.save(changed, ctx.now())
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "bag", query="saved=1", aircraft_id=aircraft_id)
