"""One place that turns errors into answers: a person's mistake in words, a fault as a quiet page and a log entry."""

import logging

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect
from starlette.responses import Response

from walkround.core.base.errors import (
    BlockedError,
    BusyError,
    ConflictError,
    DeviceError,
    DiskError,
    MissingError,
    PilotError,
    SignedError,
)
from walkround.web.pages import asks_fragment, page
from walkround.web.stale import StaleError

log = logging.getLogger("walkround")

STATUS: dict[type[PilotError], int] = {
    MissingError: 404,
    BlockedError: 409,
    SignedError: 409,
    ConflictError: 409,
    DeviceError: 503,
    BusyError: 503,
    DiskError: 503,
    StaleError: 409,
}
TITLES = {404: "Page not found", 409: "Conflict", 413: "Too large", 422: "Check your entries", 503: "Not available"}


def status_of(error: PilotError) -> int:
    """The status for a person's mistake."""
    return next((s for kind, s in STATUS.items() if isinstance(error, kind)), 422)


def answer(request: Request, status: int, words: str) -> Response:
    """A friendly page, or a notice at the top of the page that asked."""
    if asks_fragment(request):
        response = page(request, "_notice.html", status=status, words=words)
        response.headers["HX-Retarget"] = "#notices"
        response.headers["HX-Reswap"] = "innerHTML"
        return response
    return page(request, "error.html", status=status, title=TITLES.get(status, "Something went wrong"), words=words)


async def _pilot(request: Request, error: Exception) -> Response:
    assert isinstance(error, PilotError)
    return answer(request, status_of(error), error.message)


async def _http(request: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    words = {
        404: "There is no such page. It may have been moved, or the link is wrong.",
        405: "That address cannot be used this way.",
        403: "That request did not come from this page, so nothing was changed.",
    }.get(error.status_code, "That request could not be read, and nothing was saved.")
    return answer(request, error.status_code, words)


async def _cut_off(request: Request, error: Exception) -> Response:
    assert isinstance(error, ClientDisconnect)
    return answer(request, 413, "The upload was too large or broke off. Nothing was saved.")


async def _invalid(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    in_path = any(part.get("loc", ("",))[0] == "path" for part in error.errors())
    if in_path:
        return answer(request, 404, "There is no entry with that number.")
    return answer(request, 422, "That request could not be read, and nothing was saved.")


async def _fault(request: Request, error: Exception) -> Response:
    log.exception("fault at %s %s", request.method, request.url.path, exc_info=error)
    return answer(
        request,
        500,
        "Something went wrong on the server. What was shown as saved is saved. Go back and try again.",
    )


def install(app: FastAPI) -> None:
    """Map both families of errors."""
    app.add_exception_handler(PilotError, _pilot)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(ClientDisconnect, _cut_off)
    app.add_exception_handler(Exception, _fault)
