"""Tables from chargers and checkers: sent once, columns named once, taken all or nothing, with progress."""

import contextlib
import logging
import secrets
import threading
from dataclasses import dataclass, field
from itertools import islice
from typing import cast
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.datastructures import UploadFile
from starlette.responses import Response

from walkround.core.base.errors import InputError, MissingError, PilotError
from walkround.core.packs import table
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import After
from walkround.core.packs.table import Columns, RowFault, Sheet
from walkround.core.packs.table_dates import DATE_ORDERS, DateOrder
from walkround.store import hangar, imports
from walkround.store import settings as store_settings
from walkround.store.situation import home_zone
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.routes import Router

router = Router()
log = logging.getLogger(__name__)
MAX_TABLE_BYTES = 15_000_000
KEPT = 4
SHOWN_ROWS, SHOWN_CHARS = 6, 40
AFTER_WORDS = {"rest": "At rest", "charge": "Just charged", "flight": "Just flown"}


@dataclass
class Pending:
    """A table that was sent: its text, what its columns hold, and how far taking it has come."""

    text: str
    sheet: Sheet
    columns: Columns
    name: str
    pack_id: int = 0
    state: str = "asked"
    done: int = 0
    words: str = ""
    new: int = 0
    good: int = 0
    packs: int = 0
    bad: int = 0
    faults: tuple[RowFault, ...] = ()
    lock: threading.Lock = field(default_factory=threading.Lock)

    @property
    def done_permille(self) -> int:
        """How much of it is done, of a thousand."""
        return round(1000 * self.done / max(1, self.sheet.rows))

    @property
    def old(self) -> int:
        """Good rows that were there already."""
        return self.good - self.new

    @property
    def not_shown(self) -> int:
        """Bad rows beyond those that are named."""
        return self.bad - len(self.faults)


def _kept(request: Request) -> dict[str, Pending]:
    kept: dict[str, Pending] = request.app.state.tables
    return kept


def _pending(request: Request, token: str) -> Pending:
    found = _kept(request).get(token)
    if found is None:
        raise MissingError("That file has expired. Upload it again.")
    return found


@router.get("/packs/table", name="tables")
def ask(request: Request, ctx: AppContextDep) -> Response:
    """Where a table is sent."""
    return page(request, "tables/page.html", ctx.settings())


@router.post("/packs/table", name="send_table")
def send(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Look at a table: delimiter, header, a first guess at its columns, or what was named the last time."""
    settings = ctx.settings()
    try:
        text, name = _text_of(form.get("file"), str(form.get("text") or ""))
        sheet = table.look(text)
        columns = settings.columns.get(sheet.key) or table.guess(sheet, list(islice(table.rows_of(text, sheet), 40)))
    except PilotError as error:
        return page(request, "tables/page.html", settings, status_of(error), errors=error.by_field())
    kept = _kept(request)
    while len(kept) >= KEPT:
        kept.pop(next(iter(kept)))
    token = secrets.token_urlsafe(9)
    kept[token] = Pending(text=text, sheet=sheet, columns=columns, name=name)
    return go(request, "table", token=token)


def _text_of(upload: object, pasted: str) -> tuple[str, str]:
    if isinstance(upload, UploadFile) and upload.filename:
        data = upload.file.read(MAX_TABLE_BYTES + 1)
        upload.file.close()
        if len(data) > MAX_TABLE_BYTES:
            raise InputError(f"That file is larger than {MAX_TABLE_BYTES // 1_000_000} MB. Split it.", "file")
        return table.decode(data), upload.filename[:60]
    if pasted.strip():
        return pasted, "pasted rows"
    raise InputError("Choose a file, or paste the rows.", "file")


def _page(
    request: Request, ctx: AppContext, token: str, pending: Pending, status: int = 200, **extra: object
) -> Response:
    width = len(pending.sheet.header)
    rows = islice(table.rows_of(pending.text, pending.sheet), SHOWN_ROWS)
    first = [[cell[:SHOWN_CHARS] for cell in row[:width]] for row in rows]
    name = "tables/_progress.html" if asks_fragment(request) else "tables/table.html"
    return page(
        request,
        name,
        ctx.settings(),
        status,
        token=token,
        pending=pending,
        rows=first,
        fields=table.FIELDS,
        orders=DATE_ORDERS,
        afters=AFTER_WORDS,
        packs=hangar.everything(Pack),
        zone=home_zone(),
        **extra,
    )


@router.get("/packs/table/{token}", name="table")
def show(request: Request, ctx: AppContextDep, token: str) -> Response:
    """The table with its columns to be named, or how far taking it has come."""
    return _page(request, ctx, token, _pending(request, token))


@router.post("/packs/table/{token}", name="take_table")
def take(request: Request, ctx: AppContextDep, form: SentForm, token: str) -> Response:
    """Import the table with these columns, in the background."""
    pending = _pending(request, token)
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        if not typed.get("again"):
            fields = tuple(
                typed.choice(f"column-{i}", name or f"column {i + 1}", table.FIELDS)
                for i, name in enumerate(pending.sheet.header)
            )
            order = typed.choice("dates", "Dates", DATE_ORDERS)
            after = typed.choice("after", "Taken", AFTER_WORDS)
            typed.check()
            pending.columns = Columns(
                fields=fields,
                dates=cast(DateOrder, order),
                after=After(after),
                millivolts=bool(typed.get("millivolts")),
            )
            pending.pack_id = typed.whole("one_pack", "Pack") if typed.get("one_pack") else 0
        lacking = table.missing(pending.columns, bool(pending.pack_id))
        if lacking:
            raise InputError(lacking, "columns")
    except PilotError as error:
        return _page(request, ctx, token, pending, status_of(error), errors=error.by_field())
    with ctx.book.write():
        names = ctx.settings().columns | {pending.sheet.key: pending.columns}
        store_settings.save(columns={k: v.model_dump(mode="json") for k, v in list(names.items())[-30:]})
    with pending.lock:
        if pending.state != "running":
            pending.state, pending.done, pending.words = "running", 0, "Reading the rows."
            worker = threading.Thread(target=_work, args=(ctx, pending, bool(typed.get("skip_bad"))), daemon=True)
            worker.start()
    return go(request, "table", token=token)


_ONE_AT_A_TIME = threading.Lock()
"""Tables wait for each other: their rows do not add up in memory, and the book takes them one after the other anyway."""


def _work(ctx: AppContext, pending: Pending, skip_bad: bool) -> None:
    """Read, then write in one transaction, then bring the packs up to date; each step is said."""
    try:
        with _ONE_AT_A_TIME:
            _take(ctx, pending, skip_bad)
    except PilotError as error:
        pending.state, pending.words = "failed", error.message
    except Exception:
        log.exception("taking a table failed")
        pending.state, pending.words = "failed", "Something went wrong, and nothing was saved. See the log."
    finally:
        with contextlib.suppress(Exception):
            ctx.book.close()


def _take(ctx: AppContext, pending: Pending, skip_bad: bool) -> None:
    packs = hangar.everything(Pack, retired=True)
    one = next((p for p in packs if p.id == pending.pack_id), None)

    def heard(rows: int) -> None:
        pending.done = rows

    taken = table.take(
        pending.text,
        pending.sheet,
        pending.columns,
        packs,
        zone=ZoneInfo(home_zone()),
        now=ctx.now(),
        one_pack=one,
        progress=heard,
    )
    pending.bad, pending.faults, pending.good, pending.packs = taken.bad, taken.faults, taken.good, len(taken.rows)
    if taken.bad and not skip_bad:
        pending.state, pending.words = "faults", ""
        return
    pending.words = "Saving them."
    added = imports.add_rows(ctx.book, taken.rows, ctx.now(), pending.name)
    pending.new = added.new
    pending.words = "Updating the packs."
    imports.refresh_all(ctx.book, taken.rows, added.number, ctx.now())
    pending.state, pending.words = "done", ""
