"""Devices: which condition each simulated device plays."""

from fastapi import Request
from starlette.responses import Response

from walkround.simulators import CHOICES, OFF
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContextDep, SentForm
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
NOT_CONNECTED = {OFF: "Not connected"}


@router.get("/devices", name="devices")
def show(request: Request, ctx: AppContextDep) -> Response:
    """All devices and their conditions."""
    settings = ctx.settings()
    listed = [
        (simulator, settings.devices.get(name, OFF), NOT_CONNECTED | dict(simulator.conditions))
        for name, simulator in CHOICES.items()
    ]
    return page(request, "devices/page.html", settings, simulators=listed)


@router.post("/devices", name="save_devices")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Choose conditions."""
    typed = Typed(form, ctx.settings().units)
    chosen = {
        name: typed.choice(name, simulator.title, NOT_CONNECTED | dict(simulator.conditions))
        for name, simulator in CHOICES.items()
    }
    typed.check()
    with ctx.book.write():
        store_settings.save(devices=chosen)
    return go(request, "devices", query="saved=1")
