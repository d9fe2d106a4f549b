"""Security: headers on every answer, who may ask, where a write may come from, how much may be sent."""

import secrets
import threading
import time
from collections import OrderedDict
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from walkround.core.base.errors import BusyError
from walkround.core.base.later import Later, pattern
from walkround.core.base.plain import whole
from walkround.web import errors

argon2 = Later("argon2")
if TYPE_CHECKING:
    import itsdangerous
else:
    itsdangerous = Later("itsdangerous")

MAX_BODY_BYTES = 1_500_000
MAX_PHOTO_BYTES = 16_000_000
WITH_PHOTO = pattern(
    r"^/(hangar/aircraft|packs)/\d+/snags$|^/hangar/aircraft/\d+/damage$|^/accident(/\d+/photos)?$|^/snags/\d+/photo$|^/packs/table$|^/fields/\d+/(map|airspace/read)$"
)
"""Where a photo, a table or a map may come along, and so more may be sent."""
MAX_RECORDING_BYTES = 32_000_000
WITH_RECORDING = pattern(r"^/hangar/aircraft/\d+/(compass|compass/current|controller/recordings)$")
"""Where a recording may come along: a million rows of a compass are 25 MB."""
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
    "Permissions-Policy": "camera=(), microphone=(), geolocation=(self), screen-wake-lock=(self), accelerometer=(self), gyroscope=(self), magnetometer=(), usb=(), serial=(), payment=()",
}
SAFE = {"GET", "HEAD", "OPTIONS"}


class Passphrase:
    """The passphrase that a book opened to the network asks for: an Argon2 hash and a signing secret beside the book.

    Tries are counted before anything is hashed, for each address by itself, and one is hashed at a time: many at once take
    neither memory nor more tries, and one device's slips lock nobody else out.
    """

    WAIT_AFTER, WAIT_SECONDS = 5, 30.0
    ADDRESSES, QUEUE = 512, 8

    def __init__(self, folder: Path) -> None:
        self.hash_file = folder / "passphrase"
        self.secret_file = folder / "secret"
        self.ended_file = folder / "signed-out"
        self._guard, self._hashing = threading.Lock(), threading.Lock()
        self._tries: OrderedDict[str, tuple[int, float]] = OrderedDict()
        self._waiting = 0

    def is_set(self) -> bool:
        """Whether a passphrase was chosen."""
        return self.hash_file.exists()

    def choose(self, words: str) -> None:
        """Set the passphrase; everyone signed in is signed out."""
        self._keep(self.hash_file, argon2.PasswordHasher().hash(words))
        self._keep(self.secret_file, secrets.token_urlsafe(32))
        self.ended_file.unlink(missing_ok=True)

    def _keep(self, path: Path, text: str) -> None:
        path.touch(mode=0o600, exist_ok=True)
        path.chmod(0o600)
        path.write_text(text)

    def _counted(self, address: str) -> float:
        """Count a try of an address; the seconds it has to wait instead, 0 where it may try."""
        now = time.monotonic()
        with self._guard:
            count, until = self._tries.pop(address, (0, 0.0))
            if until > now:
                self._tries[address] = (count, until)
                return until - now
            count = count + 1 if count < self.WAIT_AFTER else 1
            self._tries[address] = (count, now + self.WAIT_SECONDS if count >= self.WAIT_AFTER else 0.0)
            while len(self._tries) > self.ADDRESSES:
                # The longest unheard one that need not wait; where all wait, the longest unheard.
                gone = next((a for a, (_, u) in self._tries.items() if u <= now), next(iter(self._tries)))
                del self._tries[gone]
            return 0.0

    def try_(self, words: str, address: str) -> float | bool:
        """Whether these are the words, tried from an address; or the seconds to wait before trying again. Raises BusyError
        while too many wait for their turn."""
        waits = self._counted(address)
        if waits:
            return waits
        with self._guard:
            if self._waiting >= self.QUEUE:
                raise BusyError
            self._waiting += 1
        try:
            with self._hashing:
                right = len(words) <= MOST_CHARS and self._verified(words)
        finally:
            with self._guard:
                self._waiting -= 1
        if right:
            with self._guard:
                self._tries.pop(address, None)
        return right

    def _verified(self, words: str) -> bool:
        try:
            return bool(argon2.PasswordHasher().verify(self.hash_file.read_text(), words))
        except (argon2.exceptions.VerifyMismatchError, argon2.exceptions.InvalidHashError):
            return False

    def _signer(self) -> "itsdangerous.TimestampSigner":
        return itsdangerous.TimestampSigner(self.secret_file.read_text(), salt="walkround-session")

    def ticket(self) -> str:
        """A signed ticket for the cookie, unlike any other."""
        return self._signer().sign(secrets.token_urlsafe(12)).decode()

    def knows(self, ticket: str) -> bool:
        """Whether a ticket is ours, not too old, and not signed out."""
        try:
            return self._signer().unsign(ticket, max_age=COOKIE_SECONDS).decode() not in self._ended()
        except (itsdangerous.BadSignature, OSError, UnicodeDecodeError):
            return False

    def end(self, ticket: str) -> None:
        """Sign a ticket out: it opens nothing any more, whoever holds a copy of it, also after a restart."""
        try:
            number = self._signer().unsign(ticket, max_age=COOKIE_SECONDS).decode()
        except (itsdangerous.BadSignature, OSError, UnicodeDecodeError):
            return
        with self._guard:
            now = int(time.time())
            still = {n: at for n, at in self._ended().items() if at > now - COOKIE_SECONDS} | {number: now}
            self._keep(self.ended_file, "".join(f"{n} {at}\n" for n, at in still.items()))

    def _ended(self) -> dict[str, int]:
        """Tickets signed out, and when."""
        if not self.ended_file.exists():
            return {}
        rows = (line.split() for line in self.ended_file.read_text().splitlines())
        return {row[0]: int(row[1]) for row in rows if len(row) == 2 and row[1].isdecimal()}


def host_name(host: str) -> str:
    """Name or address of a Host header, without the port."""
    return urlsplit(f"//{host}").hostname or ""


class SecurityMiddleware:
    """Plain ASGI, so that it costs next to nothing. ``passphrase`` None: loopback only. ``names``: the names and addresses
    that the server was told; it answers to no other."""

    def __init__(self, app: ASGIApp, passphrase: Passphrase | None, names: frozenset[str] = frozenset()) -> None:
        self.app = app
        self.passphrase = passphrase
        self.names = LOOPBACK | {name.lower().strip("[]") for name in names}

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
        most = most_bytes(scope["path"])
        length = Headers(scope=scope).get("content-length", "0")
        told = whole(length)
        if told is None or told > most:
            await self._too_large(scope, receive, fenced, most)
            return
        await self.app(scope, _limited(receive, most), fenced)

    def _refusal(self, scope: Scope) -> tuple[int, str] | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if host_name(host) not in self.names:
            if self.passphrase is None:
                return 403, "This Walk Round answers only on this computer. Open it by its own address."
            return (
                403,
                "This Walk Round was not told that name. Open it by the address that it printed when it was started.",
            )
        if scope["method"] not in SAFE:
            origin = urlsplit(headers.get("origin") or headers.get("referer") or "")
            if (origin.scheme, origin.netloc) != (scope["scheme"], host):
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
        smaller = {
            MAX_PHOTO_BYTES: "send a smaller photo",
            MAX_RECORDING_BYTES: "cut it to the minutes that matter",
        }.get(most, "what belongs here is far smaller")
        words = f"That is more than {most / 1e6:g} MB. Nothing was saved; {smaller}."
        await errors.answer(Request(scope), 413, words)(scope, receive, send)


def most_bytes(path: str) -> int:
    """How much may be sent to an address, in bytes."""
    if WITH_RECORDING.match(path):
        return MAX_RECORDING_BYTES
    return MAX_PHOTO_BYTES if WITH_PHOTO.match(path) else MAX_BODY_BYTES


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
    return path.startswith("/static/") or path in ("/sign-in", "/authority.crt")
