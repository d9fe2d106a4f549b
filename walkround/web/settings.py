"""Settings: name, theme, units, own limits, methods."""

from datetime import date
from functools import partial

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.units import Units
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.pilot.methods import METHODS
from walkround.core.pilot.regions import DEFER, REGIONS, WRITTEN, with_region
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContextDep, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed, typed_text
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()
SPEEDS, HEIGHTS, TEMPERATURES = ("m/s", "kt", "mph", "km/h"), ("m", "ft"), ("°C", "°F")
STICK_MODES = ("1", "2", "3", "4")
THEMES = {"auto": "As the device", "light": "Light", "dark": "Dark"}


def _show(request: Request, ctx: AppContextDep, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "settings/page.html",
        ctx.settings(),
        status,
        specs=LIMITS,
        regions=REGIONS,
        written=WRITTEN,
        defer=DEFER,
        methods=METHODS,
        speeds=SPEEDS,
        heights=HEIGHTS,
        temperatures=TEMPERATURES,
        themes=THEMES,
        stick_modes=STICK_MODES,
        **extra,
    )


@router.get("/settings", name="settings")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The settings as they are."""
    return _show(request, ctx)


def season_day(text: str, field: str) -> str:
    """A day of the year as MM-DD from "1 April", "04-01" or "1.4."; raises InputError."""
    try:
        return date.fromisoformat(f"2001-{text.strip()}").strftime("%m-%d")
    except ValueError as error:
        raise InputError("Enter month and day, for example 04-01 for 1 April.", field) from error


@router.post("/settings/you", name="save_you")
def save_you(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Name, theme and units."""
    typed = Typed(form, ctx.settings().units)
    pilot = typed.text("pilot", "Name", longest=60)
    theme = typed.choice("theme", "Theme", THEMES)
    speed = typed.choice("speed", "Wind", SPEEDS)
    height = typed.choice("height", "Heights", HEIGHTS)
    temperature = typed.choice("temperature", "Temperature", TEMPERATURES)
    try:
        mode = (
            int(typed.choice("stick_mode", "Stick mode", STICK_MODES))
            if typed.get("stick_mode")
            else ctx.settings().stick_mode
        )
        units = typed.build(Units, speed=speed, height=height, temperature=temperature)
        with ctx.book.write():
            now = ctx.settings()
            refuse_stale(
                typed,
                now,
                now.model_copy(update={"pilot": pilot, "theme": theme, "units": units, "stick_mode": mode}),
                "you",
            )
            store_settings.save(pilot=pilot, theme=theme, units=units, stick_mode=mode)
    except PilotError as error:
        return _failed(request, ctx, error, typed)
    return go(request, "settings", query="saved=1")


def _season(typed: Typed, number: int) -> str:
    name = f"season_{number}"
    return season_day(typed.get(name), name)


@router.post("/settings/limits", name="save_limits")
def save_limits(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """The pilot's own minimums, typed in the pilot's units."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    values = {}
    for spec in LIMITS:
        now = getattr(settings.limits, spec.name)
        # A limit shown rounded and sent back untouched stays as exact as it was.
        untouched = typed.get(spec.name) == typed_text(now, spec.measure, settings.units)
        values[spec.name] = now if untouched else typed.needed(spec.name, spec.label, spec.measure, spec.low, spec.high)
    season = [typed.try_(f"season_{i}", partial(_season, typed, i), "04-01") for i in (1, 2)]
    try:
        limits = typed.build(Limits, **values, season_days=(season[0], season[1]))
        with ctx.book.write():
            now_kept = ctx.settings()
            refuse_stale(typed, now_kept, now_kept.model_copy(update={"limits": limits}), "limits")
            store_settings.save(limits=limits)
    except PilotError as error:
        return _failed(request, ctx, error, typed)
    return go(request, "settings", query="saved=1")


@router.post("/settings/region", name="save_region")
def save_region(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Take a region's defaults into the limits; what it does not name stays as it is."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        name = typed.get("region")
        with ctx.book.write():
            limits = typed.build(with_region, limits=ctx.settings().limits, name=name)
            store_settings.save(limits=limits, region=name)
    except PilotError as error:
        return _failed(request, ctx, error, typed)
    return go(request, "settings", query="saved=1")


def _failed(request: Request, ctx: AppContextDep, error: PilotError, typed: Typed) -> Response:
    return _show(request, ctx, status_of(error), errors=error.by_field(), typed=typed.raw())
