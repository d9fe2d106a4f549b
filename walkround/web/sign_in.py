"""Signing in with the passphrase, when the book is open to the network."""

from fastapi import Request
from starlette.responses import RedirectResponse, Response

from walkround.core.base.errors import MissingError
from walkround.web.app_context import AppContextDep, SentForm
from walkround.web.pages import page
from walkround.web.routes import Router
from walkround.web.security import COOKIE, COOKIE_SECONDS, Passphrase

router = Router()


@router.get("/sign-in", name="sign_in")
def show(request: Request) -> Response:
    """The passphrase form."""
    return page(request, "sign_in/page.html")


@router.post("/sign-in", name="do_sign_in")
def sign_in(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Check the passphrase; after several wrong ones wait a while."""
    passphrase: Passphrase | None = request.app.state.passphrase
    today = str(request.app.url_path_for("today"))
    if passphrase is None:
        return RedirectResponse(today, status_code=303)
    given = form.get("passphrase", "")
    address = request.client.host if request.client else ""
    accepted = passphrase.try_(given if isinstance(given, str) else "", address)
    if accepted is False:
        return page(request, "sign_in/page.html", status=422, errors={"passphrase": "That is not the passphrase."})
    if accepted is not True:
        words = f"Too many wrong passphrases from this device. Wait {accepted:.0f} seconds."
        return page(request, "sign_in/page.html", status=429, errors={"passphrase": words})
    response = RedirectResponse(today, status_code=303)
    secure = request.url.scheme == "https"
    ticket = passphrase.ticket()
    response.set_cookie(COOKIE, ticket, max_age=COOKIE_SECONDS, httponly=True, samesite="strict", secure=secure)
    return response


@router.post("/sign-out", name="sign_out")
def sign_out(request: Request) -> Response:
    """End this device's ticket: a copy of it opens nothing any more either."""
    passphrase: Passphrase | None = request.app.state.passphrase
    if passphrase is not None:
        passphrase.end(request.cookies.get(COOKIE, ""))
    response = RedirectResponse(str(request.app.url_path_for("sign_in")), status_code=303)
    response.delete_cookie(COOKIE, httponly=True, samesite="strict", secure=request.url.scheme == "https")
    return response


@router.get("/authority.crt", name="authority")
def authority(request: Request) -> Response:
    """The certificate that a phone is told to trust, once."""
    data: bytes = request.app.state.authority
    if not data:
        raise MissingError("There is no certificate: Walk Round was opened without encryption.")
    headers = {"Content-Disposition": 'attachment; filename="walk-round.crt"'}
    return Response(data, media_type="application/x-x509-ca-cert", headers=headers)
