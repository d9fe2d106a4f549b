"""Fields: where they are, on what terms, whom to call. Their plan is in ``rotor_layout``."""

from functools import cache, partial
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.geodesy import Position, decimal, parse_position
from walkround.core.base.units import Measure
from walkround.core.field.site import USUAL_CREW, GroundSurface, LaunchPlatform, Role, Site, Terrain
from walkround.store import fields, hangar
from walkround.store.settings import Settings
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import DRAWN, refuse_stale

router = Router()
CREW_ROWS = 5


@cache
def blank() -> Site:
    """What the form of a new field begins with."""
    return Site(name="?", position=Position(lat_deg=0, lon_deg=0))


def _form(request: Request, settings: Settings, site: Site, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "fields/details.html",
        settings,
        status,
        site=site,
        terrains=list(Terrain),
        launch_platforms=list(LaunchPlatform),
        surfaces=list(GroundSurface),
        crew=[*(site.crew or USUAL_CREW), *[Role(does="-")] * CREW_ROWS][:CREW_ROWS],
        decimal=decimal(site.position) if site.id else "",
        **extra,
    )


@router.get("/fields", name="fields")
def index(request: Request, ctx: AppContextDep) -> Response:
    """Every field."""
    return page(request, "fields/index.html", ctx.settings(), sites=hangar.everything(Site))


@router.get("/fields/new", name="new_field")
def new(request: Request, ctx: AppContextDep) -> Response:
    """A new field."""
    return _form(request, ctx.settings(), blank())


@router.get("/fields/{site_id}/details", name="field_details")
def edit(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """What is known of one field besides its plan."""
    return _form(request, ctx.settings(), hangar.get(Site, site_id))


def _changed(before: Site, **values: object) -> Site:
    """The field with what the form says; what is drawn on its plan stays."""
    drawn = {name: getattr(before, name) for name in DRAWN}
    return Site.model_validate(drawn | values)


def read_zone(text: str) -> str:
    """A known time zone name. Raises InputError."""
    try:
        ZoneInfo(text)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise InputError("That time zone is not known. Use a name like Europe/Lisbon.", "timezone") from error
    return text


def _crew(typed: Typed) -> tuple[Role, ...]:
    """Who does what, row by row; a row that does nothing is none."""
    rows = []
    for i in range(CREW_ROWS):
        does = typed.text(f"does_{i}", "What they do", longest=160)
        who = typed.text(f"who_{i}", "Who", longest=60)
        if does or who:
            rows.append(Role(who=who, does=does or "Helps where the pilot asks."))
    return tuple(rows)


@router.post("/fields", name="save_field")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add or change a field; its obstacles stay."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Field")
    before = hangar.get(Site, number) if number else blank()
    station = typed.text("station", "Weather station", longest=4).upper()
    try:
        place = typed.try_("position", lambda: parse_position(typed.get("position")), blank().position)
        site = typed.build(
            partial(_changed, before),
            id=number,
            name=typed.text("name", "Name", longest=60, needed=True),
            position=place,
            elevation_m=typed.needed("elevation_m", "Elevation", Measure.HEIGHT, -430, 6000),
            timezone=typed.try_("timezone", lambda: read_zone(typed.get("timezone").strip() or "UTC"), "UTC"),
            terrain=typed.choice("terrain", "Ground", [t.value for t in Terrain]),
            flight_radius_m=typed.needed("flight_radius_m", "Flying circle", Measure.HEIGHT, 10, 2000),
            flight_height_m=typed.needed("flight_height_m", "Flying height", Measure.HEIGHT, 2, 500),
            ground_rise_m=typed.number("ground_rise_m", "Highest ground", Measure.HEIGHT, 0, 400, optional=True) or 0.0,
            launch_platform=typed.choice("launch_platform", "Launching from", [s.value for s in LaunchPlatform])
            if "launch_platform" in form
            else before.launch_platform,
            strip_deg=typed.number("strip_deg", "Strip", Measure.DEGREE, 0, 360, optional=True),
            uphill_deg=typed.number("uphill_deg", "Uphill", Measure.DEGREE, 0, 360, optional=True),
            surface=typed.choice("surface", "Surface", [s.value for s in GroundSurface])
            if "surface" in form
            else before.surface,
            crew=_crew(typed) if "does_0" in form else before.crew,
            notes=typed.text("notes", "Notes", longest=1000),
            access=typed.text("access", "Emergency access", longest=500),
            over_water=bool(typed.get("over_water")),
            indoors=bool(typed.get("indoors")),
            open_door=bool(typed.get("open_door")),
            nets=bool(typed.get("nets")),
            rules=typed.text("rules", "Rules", longest=500),
            emergency=typed.text("emergency", "Emergency number and words", longest=500),
            station=station,
        )
        with ctx.book.write():
            if number:
                now = hangar.get(Site, number)
                site = site.model_copy(update={name: getattr(now, name) for name in DRAWN})
                refuse_stale(typed, now, site, "field")
                fields.change(site, "details changed", ctx.now())
            saved = number or hangar.save(site, ctx.now())
    except PilotError as error:
        return _form(
            request, settings, before, status_of(error), errors=error.by_field(), offers=error.offer, typed=typed.raw()
        )
    return go(request, "field", query="saved=1", site_id=saved)
