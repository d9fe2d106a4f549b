"""Command line: demo, serve, backup, restore, export, import, doctor, passphrase."""

import contextlib
import ctypes
import gc
import json
import logging
import socket
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated

import typer

from walkround.core.base.errors import PilotError
from walkround.core.base.wording import capital

cli = typer.Typer(add_completion=False, no_args_is_help=True, help="Walk Round: today's walk round before a flight.")
M_MMAP_THRESHOLD, M_ARENA_MAX = -3, -8
LOOKED_OVER_FIRST_BYTES, LOOKED_OVER_AFTER_S = 1_000_000, 5.0
"""Larger books are looked over aside, once the first page is likely to be shown."""
MAX_IMPORT_BYTES = 400_000
LOOPBACK = {"127.0.0.1", "localhost", "::1"}
DataFolder = Annotated[
    Path | None, typer.Option("--data", help="Folder of your data. Default: WALKROUND_DATA, else your data folder.")
]


def _bold(words: str) -> str:
    return typer.style(words, bold=True)


def _folder(data: Path | None) -> Path:
    from walkround.store.book import data_folder

    return data or data_folder()


@contextmanager
def _in_words() -> Iterator[None]:
    """Whatever goes wrong is said in words, with exit code 1; what is a fault of ours goes to the log in full."""
    from peewee import PeeweeException

    try:
        yield
    except PilotError as error:
        words = error.message
    except OSError as error:
        where = f" ({error.filename})" if error.filename else ""
        words = f"{capital(error.strerror or str(error))}{where}."
    except PeeweeException as error:
        words = f"Your data could not be used: {error}."
    else:
        return
    typer.echo(f"{_bold('Not done.')} {words}")
    raise typer.Exit(1)


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


def _clock(start: str) -> Callable[[], datetime]:
    """The real clock, or one that starts at a given moment and runs on from there (for pictures and tests)."""
    from walkround.web.app_context import utc_now

    if not start:
        return utc_now
    shift = datetime.fromisoformat(start).astimezone(UTC) - utc_now()
    return lambda: utc_now() + shift


def _look_over(folder: Path) -> None:
    """Say at the start what is wrong with the book; it is opened all the same if it can be, so that it can be read.

    A large book is looked over by a process of its own while it is in use, so that nobody waits for it at the field.
    """
    from walkround.store.book import FILE_NAME
    from walkround.store.wholeness import examine, first_look

    book = folder / FILE_NAME
    if not book.exists() or book.stat().st_size == 0:
        return
    try:
        if book.stat().st_size > LOOKED_OVER_FIRST_BYTES:
            first_look(book)
            aside = threading.Timer(LOOKED_OVER_AFTER_S, _look_over_aside, (book,))
            aside.daemon = True
            aside.start()
        else:
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
    typer.echo(f"{_bold('This data is damaged.')} {words}")
    typer.echo("Export what can be read, then restore a backup. Nothing was changed.")


def _run(folder: Path, host: str, port: int, *, at: str = "", names: Sequence[str] = (), plain: bool = False) -> None:
    import uvicorn

    from walkround.store.book import make_private
    from walkround.web.app import create_app
    from walkround.web.certificates import served
    from walkround.web.security import Passphrase

    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")
    passphrase, made, known = None, None, frozenset[str]()
    with _in_words():
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
            folder, clock=_clock(at), passphrase=passphrase, network_host=seen_as, names=known,
            authority=made.authority if made else b"",
        )  # fmt: skip
    scheme = "https" if made else "http"
    shown = f"[{host}]" if ":" in host else host
    typer.echo(f"Walk Round is open at {_bold(f'{scheme}://{shown}:{port}/')}  (book: {folder}; stop with Ctrl-C)")
    if passphrase is not None and seen_as:
        _tell_phones(
            f"{scheme}://{f'[{seen_as}]' if ':' in seen_as else seen_as}:{port}/", made.fingerprint if made else ""
        )
    # What is loaded now stays until the end: the collector need not look through it again on every page.
    gc.freeze()
    gc.enable()
    _share_fairly()
    tls = {"ssl_certfile": str(made.certificate), "ssl_keyfile": str(made.key)} if made else {}
    uvicorn.run(app, host=host, port=port, log_level="warning", server_header=False, **tls)  # type: ignore[arg-type]


def _share_fairly() -> None:
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
    typer.echo(f"On a phone: {_bold(address)}")
    typer.echo(drawn.getvalue())
    if fingerprint:
        typer.echo(f"Its certificate, once: {address}authority.crt")
        typer.echo(f"SHA-256 {fingerprint}")
    else:
        typer.echo(
            f"{_bold('Not encrypted:')} anyone on this network can read your data. Leave out --plain to encrypt."
        )


Host = Annotated[str, typer.Option(help="Address to listen on. Anything but this computer needs a passphrase.")]
Names = Annotated[
    list[str] | None,
    typer.Option("--name", help="A name or address under which other devices reach this computer. Repeatable."),
]
Plain = Annotated[bool, typer.Option("--plain", help="Open to the network without encryption.")]
Port = Annotated[int, typer.Option(help="First port to try.")]


@cli.callback()
def _begin(context: typer.Context) -> None:
    if context.invoked_subcommand not in ("serve", "demo"):
        gc.enable()  # those two collect nothing until all is loaded


@cli.command()
def serve(
    host: Host = "127.0.0.1", port: Port = 8020, name: Names = None, plain: Plain = False, data: DataFolder = None
) -> None:
    """Open your own book (an empty one the first time). To the network: encrypted, and with a passphrase."""
    _run(_folder(data), host, port, names=name or (), plain=plain)


@cli.command()
def demo(
    host: Host = "127.0.0.1",
    port: Port = 8020,
    name: Names = None,
    plain: Plain = False,
    data: DataFolder = None,
    fresh: Annotated[bool, typer.Option(help="Delete the demo data and start again.")] = False,
    at: Annotated[str, typer.Option(help="Start the demo's clock here, like 2026-05-16T09:40+00:00.")] = "",
) -> None:
    """Open a demo book with invented data; your own book is not touched."""
    from walkround.demo.scenario import ensure_demo

    folder = data or _folder(None) / "demo"
    with _in_words():
        ensure_demo(folder, fresh=fresh, now=_clock(at)())
    _run(folder, host, port, at=at, names=name or (), plain=plain)


@cli.command()
def backup(
    target: Annotated[Path, typer.Argument(help="File or folder to write to.")], data: DataFolder = None
) -> None:
    """Copy the book, even while it is in use, and verify the copy."""
    from walkround.store import backup as store_backup

    with _in_words():
        written = store_backup.backup(_folder(data), target)
        typer.echo(f"Backed up and verified: {str(written)}, its checksum beside it.")


@cli.command()
def restore(source: Annotated[Path, typer.Argument(help="A backup file.")], data: DataFolder = None) -> None:
    """Replace the book by a backup, after verifying it. The old book is kept beside it."""
    from walkround.store import backup as store_backup
    from walkround.store.wholeness import examine

    with _in_words():
        checked = examine(source)
        kept = store_backup.restore(source, _folder(data))
        typer.echo("Restored." + (f" The old data is kept as {kept}" if kept else ""))
        for words in checked.unchecked:
            typer.echo(f"Not checked: {words}")


@cli.command()
def export(folder: Annotated[Path, typer.Argument(help="Folder to write to.")], data: DataFolder = None) -> None:
    """Write every signed round as JSON and the logbook as CSV."""
    from walkround.store.book import FILE_NAME, Book
    from walkround.store.export import write_everything

    with _in_words():
        if not (_folder(data) / FILE_NAME).exists():
            raise PilotError(f"There is no data in {_folder(data)}.")
        Book(_folder(data))
        count = write_everything(folder)
        typer.echo(f"Wrote {count} signed rounds and the logbook to {folder}, with a list of checksums.")


@cli.command(name="import")
def take_over(
    source: Annotated[Path, typer.Argument(help="A file that Walk Round exported: an aircraft, or a list of checks.")],
    name: Annotated[str, typer.Option(help="Another name for the aircraft.")] = "",
    data: DataFolder = None,
) -> None:
    """Take over an aircraft or a list of checks from a file."""
    from walkround.store.book import Book
    from walkround.store.exchange import take_file

    with _in_words():
        if not source.is_file():
            raise PilotError(f"There is no file {source}.")
        if source.stat().st_size > MAX_IMPORT_BYTES:
            raise PilotError(
                f"{source} is larger than {MAX_IMPORT_BYTES // 1000} kB. A file from Walk Round is never that large."
            )
        text = source.read_text(encoding="utf-8", errors="replace")
        book = Book(_folder(data))
        with book.write():
            words = take_file(text, datetime.now(UTC), name)
        typer.echo(words)


@cli.command()
def doctor(
    source: Annotated[Path | None, typer.Argument(help="A backup to check instead of your data.")] = None,
    data: DataFolder = None,
) -> None:
    """Look the book over: is everything there, does it parse, are all signed rounds as they were signed."""
    from walkround.store.book import FILE_NAME
    from walkround.store.wholeness import examine

    with _in_words():
        found = examine(source or _folder(data) / FILE_NAME)
        told: dict[str, object] = {
            "book": str(source or _folder(data) / FILE_NAME), "schema": found.schema, "signed_rounds": found.records, "faults": 0,
        }  # fmt: skip
        told |= {"whole": True} if found.whole else {"not_checked": list(found.unchecked)}
        typer.echo(json.dumps(told))


@cli.command()
def passphrase(
    words: Annotated[
        str,
        typer.Option(prompt="Passphrase", hide_input=True, confirmation_prompt=True, help="At least ten characters."),
    ],
    data: DataFolder = None,
) -> None:
    """Choose the passphrase that a book opened to the network asks for."""
    from walkround.store.book import make_private
    from walkround.web.security import MOST_CHARS, Passphrase

    with _in_words():
        if len(words) < 10:
            raise PilotError("Use at least ten characters.")
        if len(words) > MOST_CHARS:
            raise PilotError(f"At most {MOST_CHARS} characters.")
        folder = _folder(data)
        make_private(folder)
        Passphrase(folder).choose(words)
        typer.echo("Passphrase set. Everyone who was signed in has been signed out.")
