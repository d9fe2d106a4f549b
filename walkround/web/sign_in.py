"""Signing in with the passphrase, when the book is open to the network."""

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response

from walkround.web.desk import AtDesk, Sent
from walkround.web.pages import page
from walkround.web.security import COOKIE, COOKIE_SECONDS, Passphrase

router = APIRouter()


@router.get("/sign-in", name="sign_in")
def show(request: Request) -> Response:
    """The passphrase form."""
    return page(request, "sign_in/page.html")


@router.post("/sign-in", name="do_sign_in")
def sign_in(request: Request, desk: AtDesk, form: Sent) -> Response:
    """Check the passphrase; after several wrong ones wait a while."""
    passphrase: Passphrase | None = request.app.state.passphrase
    today = str(request.app.url_path_for("today"))
    if passphrase is None:
        return RedirectResponse(today, status_code=303)
    waits = passphrase.waits()
    if waits:
        words = f"Too many wrong tries. Wait {waits:.0f} seconds."
        return page(request, "sign_in/page.html", status=429, errors={"passphrase": words})
    given = form.get("passphrase", "")
    if not isinstance(given, str) or not passphrase.accepts(given):
        return page(request, "sign_in/page.html", status=422, errors={"passphrase": "That is not the passphrase."})
    response = RedirectResponse(today, status_code=303)
    response.set_cookie(COOKIE, passphrase.ticket(), max_age=COOKIE_SECONDS, httponly=True, samesite="strict")
    return response
