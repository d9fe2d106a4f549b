"""Rendering: templates, their filters, and the answer to a page or a fragment."""

from collections.abc import Hashable, Iterator
from datetime import datetime
from functools import lru_cache
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from fastapi import Request
from jinja2 import pass_context
from jinja2.runtime import Context
from markupsafe import Markup
from starlette.responses import RedirectResponse, Response, StreamingResponse
from starlette.templating import Jinja2Templates

from walkround import VERSION
from walkround.core.base.finding import Finding, Level
from walkround.core.base.geodesy import decimal, geo_link, sexagesimal
from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Measure, Quantity, Units, unit_of
from walkround.core.base.wording import MARKS, capital, counted, minutes_words, plural
from walkround.store.export import file_name
from walkround.store.settings import Settings
from walkround.web import compiled, drawings
from walkround.web.catalogue import BY_TEMPLATE, NO_PAGE, Place
from walkround.web.forms import typed_text
from walkround.web.stale import revision

HERE = Path(__file__).parent
LEVEL_WORDS = {Level.CLEAR: "clear", Level.CAUTION: "caution", Level.GROUNDED: "grounded"}
KEPT_PATHS = 5_000
STATIC_PATH = f"/static/{VERSION}"
"""Where style sheets, scripts and drawings are: browsers keep them, so another version has other addresses."""
SEE = {
    "field.airspace": ("airspace", "Airspace zones here", "site_id"),
    "field.path": ("field", "The plan of the field", "site_id"),
    "field.interference": ("field", "The plan of the field", "site_id"),
    "field.launch_circle": ("field", "The plan of the field", "site_id"),
    "field.sun": ("field", "Sun on the plan", "site_id"),
    "field.crew_brief": ("brief", "The crew brief", "site_id"),
    "link.rth_altitude": ("home", "Return to home, from the side", "site_id"),
    "link.lost_action": ("link_lost", "Fly it from anywhere on the plan", "site_id"),
    "link.lost_action_wing": ("link_lost", "Fly it from anywhere on the plan", "site_id"),
    "link.lost_action_heli": ("link_lost", "Fly it from anywhere on the plan", "site_id"),
    "link.lost_action_board": ("link_lost", "Fly it from anywhere on the plan", "site_id"),
    "link.polling": ("failsafe", "The failsafe page", "aircraft_id"),
    "bench.settings_reread": ("failsafe", "The failsafe page", "aircraft_id"),
    "bench.how_it_works": ("works", "Its card, and a quiz", "aircraft_id"),
    "power.arming_known": ("works", "Its card", "aircraft_id"),
    "bench.failsafe": ("bench_test", "Step by step, with a timer", "aircraft_id"),
    "bench.failsafe_engine": ("bench_test", "Step by step, with a timer", "aircraft_id"),
    "bench.failsafe_glider": ("bench_test", "Step by step, with a timer", "aircraft_id"),
    "sensors.compass": ("compass", "Measured, step by step", "aircraft_id"),
    "sensors.offsets": ("compass", "Judged against the field here", "aircraft_id"),
    "sensors.heading": ("heading", "Compare it with the sun or a compass", "aircraft_id"),
    "sensors.accelerometer": ("level", "Six positions, step by step", "aircraft_id"),
    "link.turn_back": ("home", "Turn-back charge by distance", "site_id"),
}
"""Pages that help with a check, by its id: route, words, and whether it is a page of the field or of the aircraft."""


templates = Jinja2Templates(directory=HERE / "templates")
compiled.set_up(templates.env, HERE / "templates" / "__pycache__")


@pass_context
def _say(context: Context, what: Phrase | Quantity | None) -> str:
    """Words of a phrase or quantity in the pilot's units."""
    return "" if what is None else what.say(context["units"])


@pass_context
def _spare(context: Context, finding: Finding) -> str:
    """ "0.12 V to spare" or "over by 0.03 V"."""
    left = finding.spare()
    if left is None:
        return ""
    size = Quantity(value=abs(left.value), measure=left.measure)
    return drawings.bars.spare_words(finding, size.say(context["units"]))


@pass_context
def _typed(context: Context, value: float | None, measure: str) -> str:
    return typed_text(value, Measure(measure), context["units"])


@pass_context
def _unit(context: Context, measure: str) -> str:
    """The pilot's unit for a measure."""
    return unit_of(Measure(measure), context["units"])


@pass_context
def _clock(context: Context, moment: datetime | None, zone: str = "UTC", form: str = "%H:%M") -> str:
    """A moment in a field's own time."""
    return "" if moment is None else moment.astimezone(ZoneInfo(zone)).strftime(form)


@pass_context
def _path(context: Context, name: str, **params: Any) -> str:
    """A link by route name, without the host."""
    known: dict[object, str] = context["request"].app.state.paths
    key = (name, *params.items())
    if key not in known:
        if len(known) > KEPT_PATHS:
            known.clear()
        known[key] = str(context["request"].app.url_path_for(name, **params))
    return known[key]


def _about_minutes(minutes: float) -> str:
    """ "under a minute" or "about 4 min"."""
    return "under a minute" if minutes < 1 else f"about {round(minutes)} min"


def _hours(minutes: float) -> str:
    whole = round(minutes)
    return f"{whole // 60} h {whole % 60} min"


@lru_cache(maxsize=2048)
def _drawing(template: str, macro: str, *given: Hashable) -> Markup:
    """What a macro that asks for nothing else draws of some values: the same of the same, so it is drawn once."""
    return Markup(getattr(templates.env.get_template(template).module, macro)(*given))


templates.env.filters |= {
    "say": _say,
    "spare": _spare,
    "typed": _typed,
    "unit": _unit,
    "clock": _clock,
    "bar": drawings.bars.bar,
    "level": lambda level: LEVEL_WORDS[Level(level)],
    "decimal": decimal,
    "sexagesimal": sexagesimal,
    "geo": geo_link,
    "minutes": minutes_words,
    "about_minutes": _about_minutes,
    "hours": _hours,
    "capital": lambda text: capital(str(text)),
    "counted": counted,
    "plural": plural,
    "percent_of": lambda share: round(100 * share, 1),
    "named": lambda options: [(str(o), capital(str(o))) for o in options],
    "zip_same": lambda options: [(str(o), capital(str(o)) if len(str(o)) > 4 else str(o)) for o in options],
}
templates.env.globals |= {
    "path": _path,
    "drawing": _drawing,
    "places": tuple(Place),
    "mark_words": MARKS,
    "version": VERSION,
    "static": STATIC_PATH,
    "see_also": SEE,
    "revision": revision,
}


def asks_fragment(request: Request) -> bool:
    """Whether the page's own script asked, and a fragment is enough; going back asks for the whole page."""
    asked = request.headers
    return asked.get("HX-Request") == "true" and asked.get("HX-History-Restore-Request") != "true"


def page(request: Request, name: str, settings: Settings | None = None, status: int = 200, **context: Any) -> Response:
    """Render a template with the pilot's settings at hand."""
    settings = settings or Settings()
    units: Units = settings.units
    entry = BY_TEMPLATE.get(name, NO_PAGE)
    return templates.TemplateResponse(
        request,
        name,
        {"settings": settings, "units": units, "errors": {}, "offers": {}, "typed": {}, "entry": entry, **context},
        status_code=status,
    )


def go(request: Request, route: str, query: str = "", **params: Any) -> Response:
    """Send the browser to another page after a write."""
    url = str(request.app.url_path_for(route, **params)) + (f"?{query}" if query else "")
    if asks_fragment(request):
        return Response(status_code=204, headers={"HX-Redirect": url})
    return RedirectResponse(url, status_code=303)


def download(text: str | Iterator[str], kind: str, name: str) -> Response:
    """A file to keep, by a name that any system takes; a long one in pieces, as they are made."""
    headers = {"Content-Disposition": f'attachment; filename="{file_name(name)}"'}
    if isinstance(text, str):
        return Response(text, media_type=kind, headers=headers)
    return StreamingResponse(text, media_type=kind, headers=headers)
