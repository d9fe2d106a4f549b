"""Snags of everything, and closing them."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.errors import PilotError
from walkround.core.history import SnagOn
from walkround.core.plan import NEVER_AGAIN
from walkround.core.walk import parse_reason
from walkround.store import hangar
from walkround.web.desk import AtDesk, Number, Sent
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page

router = APIRouter()


def _show(request: Request, desk: AtDesk, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "snags/page.html",
        desk.settings(),
        status,
        rows=hangar.all_open_snags(),
        never_again=NEVER_AGAIN,
        **{"failed": 0, **extra},
    )


@router.get("/snags", name="snags")
def show(request: Request, desk: AtDesk) -> Response:
    """All open snags."""
    return _show(request, desk)


def open_from_form(desk: AtDesk, typed: Typed, on: SnagOn, owner_id: int) -> None:
    """Open the snag that a form describes, on an aircraft or a pack. Raises FormErrors."""
    title = typed.text("title", "The snag", longest=200, needed=True)
    typed.check()
    with desk.book.write():
        hangar.open_snag(on, owner_id, title, grounds=bool(typed.get("grounds")), at=desk.now())


@router.post("/snags/{snag_id}/close", name="close_snag")
def close(request: Request, desk: AtDesk, form: Sent, snag_id: Number) -> Response:
    """Close a snag with what was done."""
    typed = Typed(form, desk.settings().units)
    try:
        how = parse_reason(typed.get("how"), "What was done", "how", needed=True)
        with desk.book.write():
            hangar.close_snag(snag_id, how, desk.now())
    except PilotError as error:
        if not error.field:
            raise
        return _show(
            request,
            desk,
            status_of(error),
            failed=snag_id,
            errors=error.by_field(),
            typed=typed.raw(),
        )
    return go(request, "snags")
