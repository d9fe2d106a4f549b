"""The application: its context, routers, middleware."""

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware import Middleware
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from walkround.store.book import Book
from walkround.web import (
    ahead,
    airspace,
    bag,
    brief,
    cards,
    charging,
    checks,
    devices,
    endurance,
    errors,
    field_editor,
    fields,
    flights,
    hangar,
    home,
    logbook,
    methods,
    packs,
    parts,
    readings,
    rounds,
    settings,
    sign_in,
    snags,
    tables,
    today,
    verdicts,
)
from walkround.web.app_context import AppContext, utc_now
from walkround.web.security import Passphrase, SecurityMiddleware

PAGES = (
    today, ahead, rounds, cards, verdicts, flights, logbook, hangar, parts, bag, charging, tables, packs,
    readings, endurance, home, fields, field_editor, airspace, brief, snags, checks, methods,
    settings, devices, sign_in,
)  # fmt: skip
"""Every module that answers addresses; the first that matches an address answers it."""
STATIC = Path(__file__).parent / "static"


class CachedStatic(StaticFiles):
    """Static files: addresses carry the version, so they may be kept for long."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """As the parent, with a long life in the browser's cache."""
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def create_app(
    folder: Path,
    *,
    clock: Callable[[], datetime] = utc_now,
    passphrase: Passphrase | None = None,
    network_host: str = "",
    names: frozenset[str] = frozenset(),
    authority: bytes = b"",
) -> FastAPI:
    """The application over the book in ``folder``. With a passphrase every page asks for it once.

    ``network_host``: the address under which other devices find this one, for the code on the field card; ``names``: the
    names and addresses it answers to besides this computer's own; ``authority``: the certificate for phones to trust.
    """
    app = FastAPI(
        openapi_url=None,
        docs_url=None,
        redoc_url=None,
        middleware=[
            Middleware(GZipMiddleware, minimum_size=700, compresslevel=5),
            Middleware(SecurityMiddleware, passphrase, names),
        ],
    )
    app.state.ctx = AppContext(book=Book(folder), clock=clock)
    app.state.passphrase = passphrase
    app.state.network_host = network_host
    app.state.authority = authority
    app.state.paths = {}
    app.state.tables = {}
    errors.install(app)
    for module in PAGES:
        app.include_router(module.router)
    app.mount("/static", CachedStatic(directory=STATIC), name="static")
    return app
