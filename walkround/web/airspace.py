"""The airspace at a field: what its zones say, drawn and judged; fetching notices, reading files, dropping them."""

from datetime import timedelta

from fastapi import Request
from starlette.responses import Response

from walkround.core.airspace.reading import read_zones
from walkround.core.airspace.rules import AUTHORITY, NEAR_M, active, free_height_m, next_begin
from walkround.core.base.errors import DeviceError, PilotError
from walkround.core.base.units import Measure
from walkround.core.field.site import Site
from walkround.core.round.readiness import airspace_findings
from walkround.core.sensors.devices import NoticeService
from walkround.simulators import device
from walkround.store import hangar, zones
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import field_context
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_text
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
MOST_BYTES = 15_000_000


def _show(request: Request, ctx: AppContext, site: Site, status: int = 200, **extra: object) -> Response:
    settings = ctx.settings()
    typed = Typed(request.query_params, settings.units)  # type: ignore[arg-type]
    top_m = typed.number("top", "Up to", Measure.HEIGHT, 1, 2000, optional=True) or site.flight_height_m
    context = field_context(ctx, settings, site)
    usual_min = 60 if context is None else context.planned_min
    minutes = typed.number("minutes", "Minutes", Measure.MINUTE, 1, 24 * 60, optional=True) or usual_min
    begin = ctx.now()
    end = begin + timedelta(minutes=minutes)
    known = zones.airspace_at(site)
    rows = [
        (n, active(n.terms.periods, begin, end), next_begin(n.terms.periods, end))
        for n in (known.near if known else ())
    ]
    parts: dict[str, object] = {
        "site": site,
        "known": known,
        "rows": rows,
        "findings": airspace_findings(known, site, top_m, begin, minutes) if known else (),
        "free": free_height_m(known, site, begin, end) if known else None,
        "drawn": drawings.airspace.draw_zones(zones.zones_near(site.position, NEAR_M), site, begin, end),
        "view": f"{-drawings.airspace.HALF_M:g} {-drawings.airspace.HALF_M:g} {2 * drawings.airspace.HALF_M:g} {2 * drawings.airspace.HALF_M:g}",
        "rings": [(km * 1000, -km * 1000, f"{km} km" if km % 2 else "") for km in range(1, 6)],
        "sets": zones.sets(),
        "top_m": top_m,
        "planned": minutes,
        "now": begin,
        "authority": AUTHORITY,
        "connected": settings.connected("notices"),
        "errors": typed.errors,
        "typed": typed.raw(),
    }
    return page(request, "airspace/page.html", settings, 422 if typed.errors else status, **(parts | extra))


@router.get("/fields/{site_id}/airspace", name="airspace")
def show(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """What the zones near a field say."""
    return _show(request, ctx, hangar.get(Site, site_id))


@router.post("/fields/{site_id}/airspace/fetch", name="fetch_zones")
def fetch(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Fetch the zones round a field from the notice service; what was fetched before stays when it does not answer."""
    site = hangar.get(Site, site_id)
    try:
        text = device(NoticeService, ctx.settings().devices).zones(site.position, ctx.now())
        found = read_zones(text)
        with ctx.book.write():
            zones.keep(f"Notices round {site.name}", found, ctx.now(), service=True)
    except (DeviceError, PilotError) as error:
        return _show(request, ctx, site, status_of(error), silence=error.message)
    return go(request, "airspace", query="saved=1", site_id=site_id)


@router.post("/fields/{site_id}/airspace/read", name="read_zones")
def read(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Import a file of zones: all of it or nothing."""
    site = hangar.get(Site, site_id)
    typed = Typed(form, ctx.settings().units)
    try:
        text = uploaded_text(form, "zones", MOST_BYTES) or typed.get("pasted")
        name = typed.text("set_name", "Name", longest=60) or "Zones of my own"
        typed.check()
        found = read_zones(text)
        with ctx.book.write():
            zones.keep(name, found, ctx.now(), service=False)
    except PilotError as error:
        return _show(request, ctx, site, status_of(error), errors=error.by_field(), typed=typed.raw())
    return _show(request, ctx, site, notes=found.notes, read=(name, len(found.zones)))


@router.post("/fields/{site_id}/airspace/{set_id}/drop", name="drop_zones")
def drop(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number, set_id: Number) -> Response:
    """Forget a set of zones."""
    with ctx.book.write():
        zones.drop(set_id)
    return go(request, "airspace", query="saved=1", site_id=site_id)
