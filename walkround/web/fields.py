"""Fields: where they are, what stands there, whom to call."""

from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.errors import InputError, PilotError
from walkround.core.geodesy import Position, decimal, geo_link, parse_position, sexagesimal
from walkround.core.link import return_height
from walkround.core.site import Obstacle, ObstacleKind, Site, Stand, Terrain, parse_obstacle
from walkround.core.units import Measure
from walkround.store import hangar
from walkround.store.settings import Settings
from walkround.web.desk import AtDesk, Number, Sent
from walkround.web.drawings.site import site_plan
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page

router = APIRouter()
NEW = Site(name="?", position=Position(lat_deg=0, lon_deg=0))


def _form(request: Request, settings: Settings, site: Site, status: int = 200, **extra: object) -> Response:
    from walkround.core.presets import PRESETS

    needs = return_height(site, PRESETS["camera-quad"], settings.limits, None)
    return page(
        request,
        "fields/page.html",
        settings,
        status,
        site=site,
        kinds=list(ObstacleKind),
        terrains=list(Terrain),
        stands=list(Stand),
        decimal=decimal(site.position) if site.id else "",
        sexagesimal=sexagesimal(site.position),
        geo=geo_link(site.position),
        plan=site_plan(site),
        needs=needs,
        **extra,
    )


@router.get("/fields/new", name="new_field")
def new(request: Request, desk: AtDesk) -> Response:
    """A new field."""
    return _form(request, desk.settings(), NEW)


@router.get("/fields/{site_id}", name="field")
def edit(request: Request, desk: AtDesk, site_id: Number) -> Response:
    """One field."""
    return _form(request, desk.settings(), hangar.get(Site, site_id))


def read_zone(text: str) -> str:
    """A known time zone name. Raises InputError."""
    try:
        ZoneInfo(text)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise InputError("That time zone is not known. Write it like Europe/Lisbon.", "timezone") from error
    return text


@router.post("/fields", name="save_field")
def save(request: Request, desk: AtDesk, form: Sent) -> Response:
    """Add or change a field; its obstacles stay."""
    settings = desk.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Field")
    before = hangar.get(Site, number) if number else NEW
    station = typed.text("station", "Weather station", longest=4).upper()
    try:
        place = typed.try_("position", lambda: parse_position(typed.get("position")), NEW.position)
        site = typed.build(
            Site,
            id=number,
            name=typed.text("name", "Name", longest=60, needed=True),
            position=place,
            elevation_m=typed.needed("elevation_m", "Elevation", Measure.HEIGHT, -430, 6000),
            timezone=typed.try_("timezone", lambda: read_zone(typed.get("timezone").strip() or "UTC"), "UTC"),
            terrain=typed.choice("terrain", "Ground", [t.value for t in Terrain]),
            flight_radius_m=typed.needed("flight_radius_m", "Flying circle", Measure.HEIGHT, 10, 2000),
            flight_height_m=typed.needed("flight_height_m", "Flying height", Measure.HEIGHT, 2, 500),
            ground_rise_m=typed.number("ground_rise_m", "Ground rises", Measure.HEIGHT, 0, 400, optional=True) or 0.0,
            stand=typed.choice("stand", "You launch from", [s.value for s in Stand])
            if "stand" in form
            else before.stand,
            strip_deg=typed.number("strip_deg", "Strip", Measure.DEGREE, 0, 360, optional=True),
            over_water=bool(typed.get("over_water")),
            obstacles=before.obstacles,
            rules=typed.text("rules", "Rules", longest=500),
            emergency=typed.text("emergency", "Words for help", longest=500),
            station=station,
        )
        with desk.book.write():
            saved = hangar.save(site, desk.now())
    except PilotError as error:
        return _form(
            request, settings, before, status_of(error), errors=error.by_field(), offers=error.offer, typed=typed.raw()
        )
    return go(request, "field", query="saved=1", site_id=saved)


@router.post("/fields/{site_id}/obstacles", name="add_obstacle")
def add_obstacle(request: Request, desk: AtDesk, form: Sent, site_id: Number) -> Response:
    """Mark an obstacle by bearing and distance."""
    settings = desk.settings()
    site = hangar.get(Site, site_id)
    typed = Typed(form, settings.units)
    kind = typed.get("obstacle_kind")
    bearing = typed.needed("obstacle_bearing", "Bearing", Measure.DEGREE, 0, 360)
    away = typed.needed("obstacle_distance", "Distance", Measure.HEIGHT, 0, 5000)
    tall = typed.needed("obstacle_height", "Height", Measure.HEIGHT, 0.1, 600)
    try:
        typed.check()
        obstacle = typed.build(lambda: parse_obstacle(kind, bearing, away, tall))
        if len(site.obstacles) >= 200:
            raise InputError("Two hundred obstacles are marked; remove one first.", "obstacle_kind")
        with desk.book.write():
            hangar.save(site.model_copy(update={"obstacles": (*site.obstacles, obstacle)}), desk.now())
    except PilotError as error:
        return _form(request, settings, site, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "field", query="saved=1", site_id=site_id)


@router.post("/fields/{site_id}/obstacles/{index}/remove", name="remove_obstacle")
def remove_obstacle(request: Request, desk: AtDesk, form: Sent, site_id: Number, index: Number) -> Response:
    """Take an obstacle off the plan; the form names it, so that two tabs never remove each other's."""
    with desk.book.write():
        site = hangar.get(Site, site_id)
        kept = list(site.obstacles)
        if 0 <= index < len(kept) and key_of(kept[index]) == str(form.get("key")):
            del kept[index]
            hangar.save(site.model_copy(update={"obstacles": tuple(kept)}), desk.now())
    return go(request, "field", query="saved=1", site_id=site_id)


def key_of(obstacle: Obstacle) -> str:
    """What tells one obstacle from another."""
    return f"{obstacle.kind.value} {obstacle.bearing_deg:g} {obstacle.distance_m:g} {obstacle.height_m:g}"
