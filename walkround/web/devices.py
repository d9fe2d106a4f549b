"""Devices: which condition each simulated device plays."""

from collections.abc import Mapping

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.simulators import checker, notices, receiver, weather
from walkround.simulators.absent import OFF
from walkround.store import settings as store_settings
from walkround.store.settings import Devices
from walkround.web.app_context import AppContextDep, Sent
from walkround.web.forms import Typed
from walkround.web.pages import go, page

router = APIRouter()
NONE = {OFF: "Not connected"}


def _words(conditions: Mapping[str, tuple[str, object]]) -> dict[str, str]:
    return NONE | {key: words for key, (words, _) in conditions.items()}


SIMULATORS = {
    "weather": ("Weather station", "Serves report texts to the Sky station and to Today.", _words(weather.CONDITIONS)),
    "checker": ("Cell checker", "Reads the cells of the pack in hand.", _words(checker.CONDITIONS)),
    "notices": ("Notice service", "Serves zones of airspace round a field.", NONE | notices.CONDITIONS),
    "receiver": ("Positioning receiver", "Speaks positioning sentences where you stand.", _words(receiver.CONDITIONS)),
}


@router.get("/devices", name="devices")
def show(request: Request, ctx: AppContextDep) -> Response:
    """All devices and their conditions."""
    return page(request, "devices/page.html", ctx.settings(), simulators=SIMULATORS)


@router.post("/devices", name="save_devices")
def save(request: Request, ctx: AppContextDep, form: Sent) -> Response:
    """Choose conditions."""
    typed = Typed(form, ctx.settings().units)
    chosen = {name: typed.choice(name, title, conditions) for name, (title, _, conditions) in SIMULATORS.items()}
    typed.check()
    with ctx.book.write():
        store_settings.save(devices=Devices(**chosen))
    return go(request, "devices", query="saved=1")
