"""The fence: headers on every answer, who may ask, where a write may come from, how much may be sent."""

import hmac
import re
import secrets
import time
from pathlib import Path
from urllib.parse import urlsplit

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from itsdangerous import BadSignature, TimestampSigner
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from walkround.web import errors

MAX_BODY_BYTES = 1_500_000
MAX_PHOTO_BYTES = 16_000_000
WITH_PHOTO = re.compile(
    r"^/(hangar/aircraft|packs)/\d+/snags$|^/snags/\d+/photo$|^/packs/table$|^/fields/\d+/(map|airspace/read)$"
)
"""Where a photo, a table or a map may come along, and so more may be sent."""
DRAIN_BYTES = 64_000_000
MOST_CHARS = 200
"""Longer is no passphrase. Source: our choice."""
COOKIE = "walkround"
COOKIE_SECONDS = 14 * 24 * 3600
LOOPBACK = {"127.0.0.1", "localhost", "::1"}
CONTENT_SECURITY_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'"
)
HEADERS = {
    "Content-Security-Policy": CONTENT_SECURITY_POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Frame-Options": "DENY",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=()",
}
SAFE = {"GET", "HEAD", "OPTIONS"}


class Passphrase:
    """The passphrase that a book opened to the network asks for: an Argon2 hash and a signing secret beside the book."""

    WAIT_AFTER, WAIT_SECONDS = 5, 30.0

    def __init__(self, folder: Path) -> None:
        self.hash_file = folder / "passphrase"
        self.secret_file = folder / "secret"
        self.failures = 0
        self.wait_until = 0.0

    def is_set(self) -> bool:
        """Whether a passphrase was chosen."""
        return self.hash_file.exists()

    def choose(self, words: str) -> None:
        """Set the passphrase; everyone signed in is signed out."""
        self._keep(self.hash_file, PasswordHasher().hash(words))
        self._keep(self.secret_file, secrets.token_urlsafe(32))

    def _keep(self, path: Path, text: str) -> None:
        path.touch(mode=0o600, exist_ok=True)
        path.chmod(0o600)
        path.write_text(text)

    def waits(self) -> float:
        """Seconds to wait after too many wrong tries."""
        return max(0.0, self.wait_until - time.monotonic())

    def accepts(self, words: str) -> bool:
        """Whether these are the words; wrong ones count."""
        try:
            PasswordHasher().verify(self.hash_file.read_text(), words)
        except (VerifyMismatchError, InvalidHashError):
            self.failures += 1
            if self.failures >= self.WAIT_AFTER:
                self.failures = 0
                self.wait_until = time.monotonic() + self.WAIT_SECONDS
            return False
        self.failures = 0
        return True

    def _signer(self) -> TimestampSigner:
        return TimestampSigner(self.secret_file.read_text(), salt="walkround-session")

    def ticket(self) -> str:
        """A signed ticket for the cookie."""
        return self._signer().sign(b"pilot").decode()

    def knows(self, ticket: str) -> bool:
        """Whether a ticket is ours and not too old."""
        try:
            return hmac.compare_digest(self._signer().unsign(ticket, max_age=COOKIE_SECONDS), b"pilot")
        except (BadSignature, OSError):
            return False


def host_name(host: str) -> str:
    """Name or address of a Host header, without the port."""
    return urlsplit(f"//{host}").hostname or ""


class Fence:
    """Plain ASGI, so that it costs next to nothing. ``passphrase`` None: loopback only, and only its names as host."""

    def __init__(self, app: ASGIApp, passphrase: Passphrase | None) -> None:
        self.app = app
        self.passphrase = passphrase

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse what must not come in; put the headers on what goes out."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def fenced(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers[name] = value
                if not scope["path"].startswith("/static/"):
                    headers["Cache-Control"] = "no-store"
            await send(message)

        try:
            refusal = self._refusal(scope)
        except ValueError:
            refusal = (400, "That request could not be read.")
        if refusal is not None:
            await self._answer(scope, receive, fenced, *refusal)
            return
        if scope["method"] in SAFE:
            await self.app(scope, receive, fenced)
            return
        most = MAX_PHOTO_BYTES if WITH_PHOTO.match(scope["path"]) else MAX_BODY_BYTES
        length = Headers(scope=scope).get("content-length", "0")
        if not length.isdecimal() or int(length) > most:
            await self._too_large(scope, receive, fenced, most)
            return
        await self.app(scope, _limited(receive, most), fenced)

    def _refusal(self, scope: Scope) -> tuple[int, str] | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if self.passphrase is None and host_name(host) not in LOOPBACK:
            return 403, "This Walk Round answers only on this computer. Open it by its own address."
        if scope["method"] not in SAFE:
            origin = headers.get("origin") or headers.get("referer") or ""
            if not origin or urlsplit(origin).netloc != host:
                return 403, "That request did not come from this page, so nothing was changed."
        if self.passphrase is not None and not _open_to_all(scope["path"]):
            ticket = Request(scope).cookies.get(COOKIE, "")
            if not self.passphrase.knows(ticket):
                return 401, ""
        return None

    async def _answer(self, scope: Scope, receive: Receive, send: Send, status: int, words: str) -> None:
        request = Request(scope, receive)
        if status == 401:
            from starlette.responses import RedirectResponse, Response

            target = str(scope["app"].url_path_for("sign_in")) if "app" in scope else "/sign-in"
            if request.headers.get("HX-Request"):
                await Response(status_code=204, headers={"HX-Redirect": target})(scope, receive, send)
            else:
                await RedirectResponse(target, status_code=303)(scope, receive, send)
            return
        await errors.answer(request, status, words)(scope, receive, send)

    async def _too_large(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        """Read the body away unkept, so that the browser gets to see the answer; then say it in words."""
        taken, more = 0, True
        while more and taken < DRAIN_BYTES:
            message = await receive()
            if message["type"] != "http.request":
                return
            taken += len(message.get("body", b""))
            more = message.get("more_body", False)
        smaller = "send a smaller photo" if most == MAX_PHOTO_BYTES else "what belongs here is far smaller"
        words = f"That is more than {most / 1e6:g} MB. Nothing was saved; {smaller}."
        await errors.answer(Request(scope), 413, words)(scope, receive, send)


def _limited(receive: Receive, most: int) -> Receive:
    """Stop a body without a length from growing past the limit."""
    taken = 0

    async def limited() -> Message:
        nonlocal taken
        message = await receive()
        taken += len(message.get("body", b""))
        if taken > most:
            return {"type": "http.disconnect"}
        return message

    return limited


def _open_to_all(path: str) -> bool:
    return path.startswith("/static/") or path == "/sign-in"
