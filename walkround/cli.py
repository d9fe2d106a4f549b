"""Command line: demo, serve, backup, restore, export, import, doctor, passphrase."""

import argparse
import gc
import json
from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta
from getpass import getpass
from pathlib import Path
from typing import Any

from walkround.core.base.errors import PilotError
from walkround.core.base.wording import capital
from walkround.serving import bold, say

MAX_IMPORT_BYTES = 400_000
NOW = "now"
Given = argparse.Namespace
_COMMANDS: dict[str, tuple[Callable[[Given], None], tuple[tuple[str, dict[str, Any]], ...]]] = {}


def _command(
    name: str, *wants: tuple[str, dict[str, Any]]
) -> Callable[[Callable[[Given], None]], Callable[[Given], None]]:
    """A command of this name, with what it wants besides ``--data``; its docstring is its help."""

    def known(run: Callable[[Given], None]) -> Callable[[Given], None]:
        _COMMANDS[name] = (run, wants)
        return run

    return known


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        "python -m walkround", description="Walk Round: today's walk round before a flight."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for name, (run, wants) in _COMMANDS.items():
        one = commands.add_parser(name, help=run.__doc__, description=run.__doc__)
        data = "Folder of your data. Default: WALKROUND_DATA, else your data folder."
        one.add_argument("--data", type=Path, help=data)
        for word, how in wants:
            one.add_argument(word, **how)
    return parser


def main(words: Sequence[str] | None = None) -> int:
    """Run a command; 0 when it was done. Whatever goes wrong is said in words, with 1; what is a fault of ours goes to the log in
    full."""
    from peewee import PeeweeException

    given = _parser().parse_args(words)
    if given.command not in ("serve", "demo"):
        gc.enable()  # those two collect nothing until all is loaded
    try:
        _COMMANDS[given.command][0](given)
        return 0
    except KeyboardInterrupt:
        return 130  # Ctrl-C, the way to stop it
    except PilotError as error:
        said = error.message
    except OSError as error:
        where = f" ({error.filename})" if error.filename else ""
        said = f"{capital(error.strerror or str(error))}{where}."
    except PeeweeException as error:
        said = f"Your data could not be used: {error}."
    say(f"{bold('Not done.')} {said}")
    return 1


def _folder(given: Given) -> Path:
    from walkround.store.book import data_folder

    return given.data or data_folder()


def clock_from(start: datetime) -> Callable[[], datetime]:
    """A clock that shows an aware time now and runs on from there."""
    from walkround.web.app_context import utc_now

    shift = start - utc_now()
    return lambda: utc_now() + shift


_NETWORK = (
    (
        "--host",
        {"default": "127.0.0.1", "help": "Address to listen on. Anything but this computer needs a passphrase."},
    ),
    ("--port", {"default": 8020, "type": int, "help": "First port to try."}),
    (
        "--name",
        {
            "action": "append",
            "default": [],
            "help": "A name or address under which other devices reach this computer. Repeatable.",
        },
    ),
    ("--plain", {"action": "store_true", "help": "Open to the network without encryption."}),
)


@_command("serve", *_NETWORK)
def _serve(given: Given) -> None:
    """Open your own book (an empty one the first time). To the network: encrypted, and with a passphrase."""
    from walkround.serving import serve
    from walkround.web.app_context import utc_now

    serve(_folder(given), given.host, given.port, clock=utc_now, names=given.name, plain=given.plain)


@_command(
    "demo",
    *_NETWORK,
    ("--fresh", {"action": "store_true", "help": "Delete the demo data and start again."}),
    (
        "--at",
        {"default": "", "help": "Start the demo's clock here, like 2026-05-16T09:40+02:00, or at the real time: now."},
    ),
)
def _demo(given: Given) -> None:
    """Open a demo book with invented data; your own book is not touched."""
    from walkround.demo.opening import MORNING, ensure_demo, left_off
    from walkround.serving import serve
    from walkround.web.app_context import utc_now

    folder = given.data or _folder(given) / "demo"
    try:
        asked = (
            utc_now() if given.at == NOW else datetime.fromisoformat(given.at).astimezone(UTC) if given.at else MORNING
        )
    except ValueError as error:
        raise PilotError(f"--at: “{given.at}” is not a time like 2026-05-16T09:40+02:00.") from error
    ensure_demo(folder, fresh=given.fresh, now=asked)
    begun = asked if given.at else max(asked, left_off(folder) + timedelta(minutes=1))
    said = "" if given.at == NOW else f" Its clock started at {begun.astimezone(MORNING.tzinfo):%H:%M} and runs on."
    serve(
        folder, given.host, given.port, clock=clock_from(begun), names=given.name, plain=given.plain,
        demo=f"Invented data.{said}",
    )  # fmt: skip


@_command("backup", ("target", {"type": Path, "help": "File or folder to write to."}))
def _backup(given: Given) -> None:
    """Copy the book, even while it is in use, and verify the copy."""
    from walkround.store import backup as store_backup

    written = store_backup.backup(_folder(given), given.target)
    say(f"Backed up and verified: {written}, its checksum beside it.")


@_command("restore", ("source", {"type": Path, "help": "A backup file."}))
def _restore(given: Given) -> None:
    """Replace the book by a backup, after verifying it. The old book is kept beside it."""
    from walkround.store import backup as store_backup
    from walkround.store.wholeness import examine

    checked = examine(given.source)
    kept = store_backup.restore(given.source, _folder(given))
    say("Restored." + (f" The old data is kept as {kept}" if kept else ""))
    for words in checked.unchecked:
        say(f"Not checked: {words}")


@_command("export", ("folder", {"type": Path, "help": "Folder to write to."}))
def _export(given: Given) -> None:
    """Write every signed round as JSON and the logbook as CSV."""
    from walkround.store.book import FILE_NAME, Book
    from walkround.store.export import write_everything

    if not (_folder(given) / FILE_NAME).exists():
        raise PilotError(f"There is no data in {_folder(given)}.")
    Book(_folder(given))
    count = write_everything(given.folder)
    say(f"Wrote {count} signed rounds and the logbook to {given.folder}, with a list of checksums.")


@_command(
    "import",
    ("source", {"type": Path, "help": "A file that Walk Round exported: an aircraft, or a list of checks."}),
    ("--name", {"default": "", "help": "Another name for the aircraft."}),
)
def _import(given: Given) -> None:
    """Take over an aircraft or a list of checks from a file."""
    from walkround.store.book import Book
    from walkround.store.exchange import take_file

    if not given.source.is_file():
        raise PilotError(f"There is no file {given.source}.")
    if given.source.stat().st_size > MAX_IMPORT_BYTES:
        raise PilotError(
            f"{given.source} is larger than {MAX_IMPORT_BYTES // 1000} kB. A file from Walk Round is never that large."
        )
    text = given.source.read_text(encoding="utf-8", errors="replace")
    book = Book(_folder(given))
    with book.write():
        words = take_file(text, datetime.now(UTC), given.name)
    say(words)


@_command("doctor", ("source", {"type": Path, "nargs": "?", "help": "A backup to check instead of your data."}))
def _doctor(given: Given) -> None:
    """Look the book over: is everything there, does it parse, are all signed rounds as they were signed."""
    from walkround.store.book import FILE_NAME
    from walkround.store.wholeness import examine

    book = given.source or _folder(given) / FILE_NAME
    found = examine(book)
    told: dict[str, object] = {"book": str(book), "schema": found.schema, "signed_rounds": found.records, "faults": 0}
    told |= {"whole": True} if found.whole else {"not_checked": list(found.unchecked)}
    say(json.dumps(told))


@_command(
    "passphrase", ("--words", {"default": "", "help": "At least ten characters. Asked for where it is not given."})
)
def _passphrase(given: Given) -> None:
    """Choose the passphrase that a book opened to the network asks for."""
    from walkround.store.book import make_private
    from walkround.web.security import MOST_CHARS, Passphrase

    words = given.words or getpass("Passphrase: ")
    if not given.words and getpass("The same again: ") != words:
        raise PilotError("The two do not match.")
    if len(words) < 10:
        raise PilotError("Use at least ten characters.")
    if len(words) > MOST_CHARS:
        raise PilotError(f"At most {MOST_CHARS} characters.")
    folder = _folder(given)
    make_private(folder)
    Passphrase(folder).choose(words)
    say("Passphrase set. Everyone who was signed in has been signed out.")
