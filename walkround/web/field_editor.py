"""The plan of a field being changed: add, move, bend, remove, undo, files in and out, and what follows for the launch."""

from contextlib import suppress
from datetime import datetime, time
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.datastructures import FormData, QueryParams
from starlette.responses import Response

from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError, MissingError, PilotError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.base.wording import capital, counted
from walkround.core.field import field_editor, mapfile
from walkround.core.field.glare import SunSession, events, session
from walkround.core.field.interference import DISTURBS
from walkround.core.field.marks import MOST_HEIGHT_M, NATURES, MarkKind
from walkround.core.field.site import Site
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.round.context import Context
from walkround.core.round.readiness import FIELD, Subject, readiness
from walkround.store import fields, hangar, zones
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import field_context
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_text
from walkround.web.pages import asks_fragment, download, go, page
from walkround.web.routes import Router

router = Router()
KINDS = [(kind.value, capital(kind.value), nature) for kind, nature in NATURES.items()]
ZONES_M = 1_500.0
"""Zones that come nearer than this are drawn on the plan, in m."""
MOST_FILE = 2_000_000


def sun_of(ctx: AppContext, site: Site, asked: QueryParams | FormData, context: Context | None) -> SunSession:
    """The sun over the session that is asked for: from a clock time of the field on, else from now; as long as the next flight unless said."""
    zone = ZoneInfo(site.timezone)
    begin = ctx.now()
    with suppress(ValueError):
        begin = datetime.combine(begin.astimezone(zone).date(), time.fromisoformat(str(asked.get("from") or "")), zone)
    text = str(asked.get("minutes") or "")
    minutes = whole(text, 9_999)
    if minutes is not None:
        return session(site, begin, min(720, max(5, minutes)))
    return session(site, begin, 60 if context is None else context.planned_min)


def show(request: Request, ctx: AppContext, site: Site, status: int = 200, **extra: object) -> Response:
    """The page of a field, or its plan alone when the plan's own script asks."""
    settings = ctx.settings()
    asked = request.query_params
    selected = str(extra.pop("selected", asked.get("sel", "")))
    try:
        held = field_editor.words_of(site, selected) if selected else ""
    except MissingError:
        selected, held = "", ""
    context = field_context(ctx, settings, site)
    sun = sun_of(ctx, site, asked, context)
    last = fields.last_change(site.id)
    mark = field_editor.mark_of(site, selected) if selected and selected not in field_editor.WORDS else None
    parts: dict[str, object] = {
        "site": site,
        "plan": drawings.site.site_plan(site, settings.units, selected, sun),
        "sun": sun,
        "day": events(site, sun.moments[0].at),
        "selected": selected,
        "held": held,
        "mark": mark,
        "kinds": KINDS,
        "rows": [(field_editor.key_of(m), m, *site.away(m)) for m in site.marks],
        "needs": rth_altitude(site, PRESETS["camera-quad"], settings.limits, None),
        "findings": _findings(context, sun),
        "zones": drawings.airspace.draw_zones(
            zones.zones_near(site.position, ZONES_M), site, sun.moments[0].at, sun.moments[-1].at, ZONES_M
        ),
        "disturbs": DISTURBS.get(mark.kind) if mark else None,
        "undo": last[1],
        "undo_number": last[0],
        "away": site.away(mark) if mark else None,
        "query": asked,
    }
    name = "fields/_plan.html" if asks_fragment(request) else "fields/page.html"
    return page(request, name, settings, status, **(parts | extra))


@router.get("/fields/{site_id}", name="field")
def field(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """One field with its plan."""
    return show(request, ctx, hangar.get(Site, site_id))


def _findings(context: Context | None, sun: SunSession) -> tuple[Finding, ...]:
    """What the plan of the field and the zones say of the flight that is next here, for this session."""
    if context is None:
        return ()
    begin, end = sun.moments[0].at, sun.moments[-1].at
    found = readiness(context, begin, (end - begin).total_seconds() / 60, only=(*FIELD, Subject.AIRSPACE))
    return tuple(f for f in found if f.level is not Level.CLEAR or f.name != "Airspace")


def _after(
    request: Request, ctx: AppContext, site: Site, selected: str, error: PilotError | None, typed: Typed
) -> Response:
    """The plan again to the script, the page again to everybody else; after a mistake with what was typed."""
    if error is not None:
        return show(request, ctx, site, status_of(error), errors=error.by_field(), typed=typed.raw(), selected=selected)
    if asks_fragment(request):
        return show(request, ctx, site, selected=selected)
    return go(request, "field", query=f"saved=1&sel={selected}", site_id=site.id)


def _points(text: str) -> list[tuple[float, float]]:
    """Taps as the script sends them: "east,north east,north"."""
    try:
        pairs = [part.split(",") for part in text.split()]
        return [(float(east), float(north)) for east, north in pairs]
    except ValueError as error:
        raise InputError("Those taps could not be read. Tap again.", "plan") from error


def _edit(site: Site, typed: Typed) -> tuple[Site, str, str]:
    """The field after one edit, its words for undo, and what is in hand then."""
    do, key = typed.get("do"), typed.get("key")
    corner = typed.whole("corner", "Corner") if typed.get("corner") else None
    typed.check()
    if do == "move":
        at = _points(typed.get("at"))
        if len(at) != 1:
            raise InputError("Choose its place.", "plan")
        words = field_editor.words_of(site, key)
        return field_editor.moved(site, key, *at[0], corner=corner), f"{words} moved", key
    if do == "bend" and corner is not None:
        return (
            field_editor.corner_added(site, key, corner),
            f"corner added to the {field_editor.words_of(site, key)}",
            key,
        )
    if do == "straighten" and corner is not None:
        return (
            field_editor.corner_removed(site, key, corner),
            f"corner removed from the {field_editor.words_of(site, key)}",
            key,
        )
    if do == "remove":
        return field_editor.removed(site, key), f"{field_editor.words_of(site, key)} removed", ""
    if do == "turn":
        by_deg = typed.needed("by", "Turn", Measure.DEGREE, -180, 180)
        typed.check()
        return field_editor.flight_area_turned(site, by_deg), "flying box turned", field_editor.FLIGHT_AREA
    if do == "begin" and key == field_editor.FLIGHT_AREA:
        return field_editor.flight_area_begun(site), "flying box added", field_editor.FLIGHT_AREA
    if do == "begin" and key == field_editor.SPECTATOR_LINE:
        return field_editor.spectator_line_begun(site), "spectator line added", field_editor.SPECTATOR_LINE
    raise InputError("That change is not possible.", "plan")


@router.post("/fields/{site_id}/plan", name="edit_plan")
def edit(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Move, bend, remove or begin a thing on the plan."""
    typed = Typed(form, ctx.settings().units)
    with ctx.book.write():
        site = hangar.get(Site, site_id)
        try:
            site, words, selected = _edit(site, typed)
            fields.change(site, words, ctx.now())
        except PilotError as error:
            return _after(request, ctx, site, typed.get("key"), error, typed)
    return _after(request, ctx, site, selected, None, typed)


def _sizes(typed: Typed, kind: MarkKind) -> tuple[float, float, str]:
    nature = NATURES[kind]
    tall, wide = 0.0, 0.0
    if nature.stands:
        tall = typed.number("height", "Height", Measure.HEIGHT, 0.1, MOST_HEIGHT_M, optional=True) or nature.usual_m
    if nature.round:
        wide = typed.number("radius", "Radius", Measure.HEIGHT, 0, 2000, optional=True) or 0.0
    return tall, wide, typed.text("name", "Name", longest=60)


def _kind(typed: Typed) -> MarkKind:
    return MarkKind(typed.choice("kind", "Type", [kind.value for kind in MarkKind]))


@router.post("/fields/{site_id}/marks", name="add_mark")
def add(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Put a thing on the plan: where it was tapped, or by bearing and distance paced out."""
    typed = Typed(form, ctx.settings().units)
    kind = _kind(typed)
    tall, wide, name = _sizes(typed, kind)
    with ctx.book.write():
        site = hangar.get(Site, site_id)
        try:
            if typed.get("at"):
                typed.check()
                site = field_editor.added(site, kind, _points(typed.get("at")), tall, wide, name)
            else:
                bearing = typed.needed("bearing", "Bearing", Measure.DEGREE, 0, 360)
                away = typed.needed("distance", "Distance", Measure.HEIGHT, 0, 5000)
                typed.check()
                site = field_editor.paced(site, kind, bearing, away, tall, wide, name)
            fresh = site.marks[-1]
            fields.change(site, f"{fresh.words} added", ctx.now())
        except PilotError as error:
            return _after(request, ctx, site, "", error, typed)
    return _after(request, ctx, site, field_editor.key_of(fresh), None, typed)


@router.post("/fields/{site_id}/marks/{number}", name="change_mark")
def change(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number, number: Number) -> Response:
    """Another kind, height, radius or name; or another bearing and distance."""
    typed = Typed(form, ctx.settings().units)
    kind = _kind(typed)
    tall, wide, name = _sizes(typed, kind)
    bearing = typed.number("bearing", "Bearing", Measure.DEGREE, 0, 360, optional=True)
    away = typed.number("distance", "Distance", Measure.HEIGHT, 0, 5000, optional=True)
    key = f"m{number}"
    with ctx.book.write():
        site = hangar.get(Site, site_id)
        try:
            typed.check()
            before = field_editor.mark_of(site, key)
            site = field_editor.changed(site, number, kind=kind, height_m=tall, radius_m=wide, name=name)
            if len(before.spots) == 1 and bearing is not None and away is not None:
                site = field_editor.placed(site, key, bearing, away)
            fields.change(site, f"{before.words} changed", ctx.now())
        except PilotError as error:
            return _after(request, ctx, site, key, error, typed)
    return _after(request, ctx, site, key, None, typed)


@router.post("/fields/{site_id}/undo", name="undo_plan")
def undo(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Take the last change back, the one that the button was shown for."""
    typed = Typed(form, ctx.settings().units)
    error: PilotError | None = None
    with ctx.book.write():
        try:
            fields.undo(site_id, ctx.now(), whole(typed.get("seen")) or 0)
        except PilotError as refused:
            error = refused
    return _after(request, ctx, hangar.get(Site, site_id), "", error, typed)


@router.post("/fields/{site_id}/walked", name="walked_field")
def walked(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """The field was walked today and nothing has changed."""
    with ctx.book.write():
        fields.walked(site_id, ctx.now(), ctx.now())
    return go(request, "field", query="saved=1", site_id=site_id)


@router.post("/fields/{site_id}/map", name="read_map")
def read_map(request: Request, ctx: AppContextDep, form: SentForm, site_id: Number) -> Response:
    """Everything that a GeoJSON or GPX file holds onto the plan, all or nothing."""
    typed = Typed(form, ctx.settings().units)
    with ctx.book.write():
        site = hangar.get(Site, site_id)
        try:
            text = uploaded_text(form, "map", MOST_FILE) or typed.get("pasted")
            found = mapfile.read_map(text, site)
            otherwise = MarkKind(typed.choice("otherwise", "Features without a type", [k.value for k in MarkKind]))
            typed.check()
            site = mapfile.laid_in(site, found, otherwise)
            many = counted(len(found), "feature")
            fields.change(site, f"{many} imported from a file", ctx.now())
        except PilotError as error:
            return _after(request, ctx, site, "", error, typed)
    return _after(request, ctx, site, "", None, typed)


@router.get("/fields/{site_id}/plan.geojson", name="plan_geojson")
def as_geojson(ctx: AppContextDep, site_id: Number) -> Response:
    """The plan as GeoJSON."""
    site = hangar.get(Site, site_id)
    return download(mapfile.geojson(site), "application/geo+json", f"{site.name}.geojson")


@router.get("/fields/{site_id}/plan.gpx", name="plan_gpx")
def as_gpx(ctx: AppContextDep, site_id: Number) -> Response:
    """The plan as GPX."""
    site = hangar.get(Site, site_id)
    return download(mapfile.gpx(site), "application/gpx+xml", f"{site.name}.gpx")


@router.get("/fields/{site_id}/spot", name="better_spot")
def spot(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """A better launch spot, with its reasons."""
    from walkround.core.field.spots import better_launch_at

    settings: Settings = ctx.settings()
    site = hangar.get(Site, site_id)
    found = better_launch_at(site, ctx.now())
    return page(request, "fields/_spot.html", settings, site=site, found=found)
