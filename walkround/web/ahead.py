"""The hours ahead: when it can be flown here with this aircraft, and what stands against it."""

from fastapi import Request
from starlette.datastructures import FormData, QueryParams
from starlette.responses import Response

from walkround.core.base.errors import DeviceError, InputError
from walkround.core.base.units import Measure
from walkround.core.round.window import parse_ahead, window
from walkround.core.sensors.devices import HourlyWeather
from walkround.core.weather.weather import Weather
from walkround.simulators import device
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.choice import Choice, situation_for
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, page
from walkround.web.routes import Router

router = Router()


@router.get("/ahead", name="ahead")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The hours ahead from the forecast service."""
    return _show(request, ctx, request.query_params)


@router.post("/ahead", name="ahead_pasted")
def pasted(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """The hours ahead from a series that was pasted; nothing of it is kept."""
    return _show(request, ctx, form)


def _show(request: Request, ctx: AppContext, asked: QueryParams | FormData) -> Response:
    settings = ctx.settings()
    choice = Choice(ctx, asked)
    situation = situation_for(ctx, settings, choice)
    typed = Typed(asked, settings.units)  # type: ignore[arg-type]
    parts: dict[str, object] = {"choice": choice, "situation": situation, "typed": typed.raw()}
    status = 200
    if situation is not None:
        asked_min = typed.number("minutes", "Planned length", Measure.MINUTE, 5, 24 * 60, optional=True)
        planned = asked_min or max(60.0, situation.planned_min)
        series: tuple[tuple[Weather, ...], ...] = ()
        text = typed.get("series").strip()
        silence = ""
        try:
            text = text or device(HourlyWeather, settings.devices).hours(situation.site.position.lon_deg, ctx.now())
            series = parse_ahead(text, ctx.now())
        except DeviceError as error:
            silence = error.message
        except InputError as error:
            typed.errors[error.field or "series"] = error.message
        status = 422 if typed.errors else 200
        parts |= {
            "planned": planned,
            "silence": silence,
            "errors": typed.errors,
            "own": bool(typed.get("series").strip()),
        }
        if series:
            found = window(series, situation, planned)
            parts |= {
                "found": found,
                "drawn": drawings.window.draw_window(found, situation.site.timezone, settings.units),
            }
    name = "ahead/_main.html" if asks_fragment(request) else "ahead/page.html"
    return page(request, name, settings, status, **parts)
