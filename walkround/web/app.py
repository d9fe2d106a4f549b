"""The application: its context, routers, middleware."""

from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from datetime import datetime
from functools import cache
from pathlib import Path

from fastapi import APIRouter, FastAPI
from starlette.middleware import Middleware
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.routing import BaseRoute
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from walkround import web
from walkround.core.base.later import modules_of
from walkround.store.book import Book
from walkround.web import errors
from walkround.web.app_context import AppContext, utc_now
from walkround.web.pages import STATIC_PATH
from walkround.web.routes import Ways
from walkround.web.security import Passphrase, SecurityMiddleware

STATIC = Path(__file__).parent / "static"


class CachedStatic(StaticFiles):
    """Static files: addresses carry the version, so they may be kept for long."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """As the parent, with a long life in the browser's cache."""
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


@cache
def everything() -> tuple[BaseRoute, ...]:
    """Every address, found once: of the ``router`` of each module beside this one. Those that are written out are tried before those with
    something to fill in."""
    modules = modules_of(web.__name__, web.__path__)
    routers = [found for module in modules if isinstance(found := getattr(module, "router", None), APIRouter)]
    return tuple(sorted((route for router in routers for route in router.routes), key=_exact_first))


@cache
def ways() -> Ways:
    """The same, found by the shape of an address."""
    return Ways(everything())


def _exact_first(route: BaseRoute) -> list[bool]:
    return [part.startswith("{") for part in str(getattr(route, "path", "")).split("/")]


def create_app(
    folder: Path,
    *,
    clock: Callable[[], datetime] = utc_now,
    passphrase: Passphrase | None = None,
    network_host: str = "",
    names: frozenset[str] = frozenset(),
    authority: bytes = b"",
    demo: str = "",
) -> FastAPI:
    """The application over the book in ``folder``. With a passphrase every page asks for it once.

    ``network_host``: the address under which other devices find this one, for the code on the field card; ``names``: the
    names and addresses it answers to besides this computer's own; ``authority``: the certificate for phones to trust; ``demo``: what Today
    says where the data are invented.
    """
    book = Book(folder)

    @asynccontextmanager
    async def open_book(_: FastAPI) -> AsyncIterator[None]:
        yield
        book.settle()
        book.close()

    app = FastAPI(
        lifespan=open_book,
        openapi_url=None,
        docs_url=None,
        redoc_url=None,
        middleware=[
            Middleware(GZipMiddleware, minimum_size=700, compresslevel=3),
            Middleware(SecurityMiddleware, passphrase, names),
        ],
    )
    app.state.ctx = AppContext(book=book, clock=clock)
    app.state.passphrase = passphrase
    app.state.network_host = network_host
    app.state.authority = authority
    app.state.demo = demo
    app.state.paths = {}
    app.state.tables = {}
    errors.install(app)
    app.router.routes.append(ways())  # included routers would be searched twice for every request
    app.mount(STATIC_PATH, CachedStatic(directory=STATIC), name="static")
    return app
