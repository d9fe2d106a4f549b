"""Snags of everything, and closing them."""

from datetime import datetime, timedelta

from fastapi import Request
from starlette.datastructures import UploadFile
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, PilotError
from walkround.core.checklist.history import SnagOn
from walkround.core.inspection.weak_parts import FEWEST, WITHIN_DAYS, WeakPart, weak_parts
from walkround.core.packs.lithium import NEVER_AGAIN
from walkround.core.round.walk import parse_reason
from walkround.store import hangar
from walkround.store import snags as store_snags
from walkround.store.photos import MAX_BYTES, Photo, read_photo
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()


def _often(now: datetime) -> tuple[WeakPart, ...]:
    """The parts that fail across the hangar; the aircraft are read only where a part has a snag."""
    told = store_snags.parts_since(now - timedelta(days=WITHIN_DAYS))
    return weak_parts(hangar.everything(Aircraft), told) if len({number for number, _ in told}) >= FEWEST else ()


def _show(request: Request, ctx: AppContextDep, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "snags/page.html",
        ctx.settings(),
        status,
        rows=store_snags.all_open(),
        never_again=NEVER_AGAIN,
        photos=store_snags.with_photo(),
        often=_often(ctx.now()),
        **{"failed": 0, **extra},
    )


@router.get("/snags", name="snags")
def show(request: Request, ctx: AppContextDep) -> Response:
    """All open snags."""
    return _show(request, ctx)


def open_from_form(ctx: AppContextDep, typed: Typed, on: SnagOn, owner_id: int) -> None:
    """Open the snag that a form describes, on an aircraft or a pack. Raises FormErrors."""
    title = typed.text("title", "The snag", longest=200, needed=True)
    photo = typed.try_("photo", lambda: photo_in(typed), None)
    typed.check()
    with ctx.book.write():
        store_snags.open_one(on, owner_id, title, grounds=bool(typed.get("grounds")), at=ctx.now(), photo=photo)


def photo_in(typed: Typed) -> Photo | None:
    """The photo that came along, re-encoded. Raises InputError."""
    upload = typed.form.get("photo")
    if not isinstance(upload, UploadFile) or not upload.filename:
        return None
    return read_photo(upload.file.read(MAX_BYTES + 1))


def photos_in(typed: Typed) -> list[Photo]:
    """All photos that came along, re-encoded. Raises InputError."""
    sent = [one for one in typed.form.getlist("photo") if isinstance(one, UploadFile) and one.filename]
    return [read_photo(one.file.read(MAX_BYTES + 1)) for one in sent]


@router.post("/snags/{snag_id}/photo", name="add_photo")
def add_photo(request: Request, ctx: AppContextDep, form: SentForm, snag_id: Number) -> Response:
    """Keep a photo of a snag that is open already, as one found on a walk."""
    typed = Typed(form, ctx.settings().units)
    try:
        taken = photo_in(typed)
        if taken is None:
            raise InputError("Choose a photo.", "photo")
        with ctx.book.write():
            store_snags.keep_photo(snag_id, taken, ctx.now())
    except PilotError as error:
        if not error.field:
            raise
        return _show(request, ctx, status_of(error), failed=snag_id, errors=error.by_field(), typed=typed.raw())
    return go(request, "snags", query="saved=1")


@router.get("/snags/{snag_id}/photo.jpg", name="snag_photo")
def photo(snag_id: Number) -> Response:
    """The photo of a snag."""
    return Response(store_snags.photo_of(snag_id), media_type="image/jpeg")


@router.post("/snags/{snag_id}/close", name="close_snag")
def close(request: Request, ctx: AppContextDep, form: SentForm, snag_id: Number) -> Response:
    """Close a snag with what was done."""
    typed = Typed(form, ctx.settings().units)
    try:
        how = parse_reason(typed.get("how"), "What was done", "how", needed=True)
        with ctx.book.write():
            store_snags.close(snag_id, how, ctx.now())
    except PilotError as error:
        if not error.field:
            raise
        return _show(
            request,
            ctx,
            status_of(error),
            failed=snag_id,
            errors=error.by_field(),
            typed=typed.raw(),
        )
    return go(request, "snags")
