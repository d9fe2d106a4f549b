"""Serving a book: the port, the network, a look over the book, and then pages until it is stopped."""

import contextlib
import ctypes
import gc
import logging
import os
import socket
import subprocess
import sys
import threading
from collections.abc import Callable, Sequence
from datetime import datetime
from pathlib import Path

from walkround.core.base.errors import PilotError

M_MMAP_THRESHOLD, M_ARENA_MAX = -3, -8
MADE_BETWEEN = 20_000
"""So many new things, and Python looks for circles among them: a page makes some thousands. Source: measured."""
LOOKED_OVER_HERE_BYTES, LOOKED_OVER_AFTER_S = 500_000, 5.0
"""A book is looked over whole once the first page is likely to be shown; a larger one by a process of its own."""
LOOPBACK = {"127.0.0.1", "localhost", "::1"}


def say(words: str) -> None:
    """A line on the terminal, at once."""
    print(words, flush=True)


def bold(words: str) -> str:
    """The same in bold, where a person is looking."""
    return f"\033[1m{words}\033[0m" if sys.stdout.isatty() and "NO_COLOR" not in os.environ else words


def free_port(host: str, wanted: int) -> int:
    """The wanted port, or the next free one within twenty."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    for port in range(wanted, wanted + 20):
        with socket.socket(family) as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError:
                continue
            return port
    raise PilotError(f"No free port between {wanted} and {wanted + 19}.")


def network_address(host: str) -> str:
    """The address other devices on the network find this one under; "" when there is none.

    For a wildcard it is the address this machine would send from; asking for it sends nothing.
    """
    if host not in ("0.0.0.0", "::"):
        return host
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # a documentation address, never reached
        except OSError:
            return ""
        return str(probe.getsockname()[0])


def _look_over(folder: Path) -> None:
    """Say what is wrong with the book; it is opened all the same if it can be, so that it can be read.

    Its log and its tables at once, all that it holds a little later, so that nobody waits for it at the field.
    """
    from walkround.store.book import FILE_NAME
    from walkround.store.wholeness import first_look

    book = folder / FILE_NAME
    if not book.exists() or book.stat().st_size == 0:
        return
    try:
        first_look(book)
    except PilotError as error:
        _not_sound(error.message)
        return
    look = _look_over_aside if book.stat().st_size > LOOKED_OVER_HERE_BYTES else _look_over_here
    later = threading.Timer(LOOKED_OVER_AFTER_S, look, (book,))
    later.daemon = True
    later.start()


def _look_over_here(book: Path) -> None:
    from walkround.store.wholeness import examine

    try:
        examine(book)
    except PilotError as error:
        _not_sound(error.message)


def _look_over_aside(book: Path) -> None:
    done = subprocess.run(
        [sys.executable, "-m", "walkround", "doctor", str(book)], capture_output=True, text=True, check=False
    )
    if done.returncode:
        _not_sound(done.stdout.strip())


def _not_sound(words: str) -> None:
    say(f"{bold('This data is damaged.')} {words}")
    say("Export what can be read, then restore a backup. Nothing was changed.")


def serve(
    folder: Path,
    host: str,
    port: int,
    *,
    clock: Callable[[], datetime],
    names: Sequence[str] = (),
    plain: bool = False,
    demo: str = "",
) -> None:
    """Serve the book in a folder until it is stopped. ``names``: under which other devices reach it; ``demo``: what its first
    page says of invented data. Raises PilotError, OSError and peewee's errors where it cannot begin."""
    import uvicorn

    from walkround.store.book import make_private
    from walkround.web.app import create_app
    from walkround.web.certificates import served
    from walkround.web.security import Passphrase

    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")
    passphrase, made, known = None, None, frozenset[str]()
    make_private(folder)
    seen_as = ""
    if host not in LOOPBACK or names:
        passphrase = Passphrase(folder)
        if not passphrase.is_set():
            raise PilotError(
                f"Opening Walk Round to the network ({host}) needs a passphrase. "
                "Set one with: python -m walkround passphrase"
            )
        seen_as = names[0] if names else network_address(host)
        known = frozenset({*names, seen_as, *({host} - {"0.0.0.0", "::"})} - {""})
        made = None if plain else served(folder, [*known, *sorted(LOOPBACK)])
    port = free_port(host, port)
    _look_over(folder)
    app = create_app(
        folder, clock=clock, passphrase=passphrase, network_host=seen_as, names=known,
        authority=made.authority if made else b"", demo=demo,
    )  # fmt: skip
    scheme = "https" if made else "http"
    shown = f"[{host}]" if ":" in host else host
    say(f"Walk Round is open at {bold(f'{scheme}://{shown}:{port}/')}  (book: {folder}; stop with Ctrl-C)")
    if passphrase is not None and seen_as:
        _tell_phones(
            f"{scheme}://{f'[{seen_as}]' if ':' in seen_as else seen_as}:{port}/", made.fingerprint if made else ""
        )
    # What is loaded now stays until the end: the collector need not look through it again on every page.
    gc.freeze()
    gc.set_threshold(MADE_BETWEEN, 20, 20)
    gc.enable()
    share_fairly()
    tls = {"ssl_certfile": str(made.certificate), "ssl_keyfile": str(made.key)} if made else {}
    uvicorn.run(app, host=host, port=port, log_level="warning", server_header=False, **tls)  # type: ignore[arg-type]


def share_fairly() -> None:
    """A page is not held up by a table that is read meanwhile, and memory that is done with goes back to the machine.

    Source: glibc manual, ``mallopt``: with a fixed threshold large blocks are always returned, and few arenas keep few
    leftovers. Elsewhere the allocator stays as it is.
    """
    sys.setswitchinterval(0.001)
    with contextlib.suppress(OSError, AttributeError, TypeError):
        c_library = ctypes.CDLL(None)
        c_library.mallopt(M_MMAP_THRESHOLD, 262_144)
        c_library.mallopt(M_ARENA_MAX, 2)


def _tell_phones(address: str, fingerprint: str) -> None:
    """Address, fingerprint and the square code of the address, for the phone at the field."""
    import io

    import segno

    drawn = io.StringIO()
    segno.make(address, micro=False).terminal(drawn, compact=True)
    say(f"On a phone: {bold(address)}")
    say(drawn.getvalue())
    if fingerprint:
        say(f"Its certificate, once: {address}authority.crt")
        say(f"SHA-256 {fingerprint}")
    else:
        say(f"{bold('Not encrypted:')} anyone on this network can read your data. Leave out --plain to encrypt.")
