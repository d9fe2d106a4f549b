"""What every page works with: the book, the clock and the pilot's settings."""

from collections.abc import Callable
from contextlib import AsyncExitStack
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Depends, Path, Request
from starlette.datastructures import FormData

from walkround.store import settings as store_settings
from walkround.store.book import Book
from walkround.store.settings import Settings

FORM_FIELDS = 700


def utc_now() -> datetime:
    """The time, aware."""
    return datetime.now(UTC)


@dataclass
class AppContext:
    """The book and the clock of this application."""

    book: Book
    clock: Callable[[], datetime] = field(default=utc_now)

    def now(self) -> datetime:
        """The time, aware."""
        return self.clock()

    def settings(self) -> Settings:
        """The pilot's settings as saved."""
        return store_settings.load()


async def _app_context(request: Request) -> AppContext:
    ctx: AppContext = request.app.state.ctx
    return ctx


async def _form(request: Request) -> FormData:
    form = await request.form(max_files=2, max_fields=FORM_FIELDS)
    afterwards: AsyncExitStack = request.scope["fastapi_middleware_astack"]
    afterwards.push_async_callback(form.close)
    return form


AppContextDep = Annotated[AppContext, Depends(_app_context)]
SentForm = Annotated[FormData, Depends(_form)]
Number = Annotated[int, Path(ge=0, le=2**53)]
"""A row's number in an address; a larger one is no row of ours."""
