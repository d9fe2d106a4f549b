"""Packs: add one, change one, note a charge, retire one, open a snag on one."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.aircraft import Aircraft
from walkround.core.errors import PilotError
from walkround.core.history import SnagOn
from walkround.core.packs import Chemistry, Pack
from walkround.core.traits import Trait
from walkround.core.units import Measure
from walkround.store import hangar
from walkround.store import snags as store_snags
from walkround.store.settings import Settings
from walkround.web.desk import AtDesk, Number, Sent
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.snags import open_from_form

router = APIRouter()
NEW = Pack(label="?", cells=3, capacity_mah=2200)


def _form(request: Request, settings: Settings, pack: Pack, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "packs/page.html",
        settings,
        status,
        pack=pack,
        chemistries=list(Chemistry),
        snags=store_snags.open_ones(pack_id=pack.id) if pack.id else (),
        closed=store_snags.closed(pack_id=pack.id) if pack.id else (),
        photos=store_snags.with_photo() if pack.id else set(),
        **extra,
    )


@router.get("/packs/new", name="new_pack")
def new(request: Request, desk: AtDesk, aircraft: str = "") -> Response:
    """A new pack, such as the aircraft asked about wants."""
    pack = NEW
    if aircraft.isdecimal() and len(aircraft) < 10:
        plane = hangar.get(Aircraft, int(aircraft))
        pack = NEW.model_copy(update={"cells": plane.cells, "smart": plane.has(Trait.SMART_PACK)})
    return _form(request, desk.settings(), pack)


@router.get("/packs/{pack_id}", name="pack")
def edit(request: Request, desk: AtDesk, pack_id: Number) -> Response:
    """One pack."""
    return _form(request, desk.settings(), hangar.get(Pack, pack_id))


@router.post("/packs", name="save_pack")
def save(request: Request, desk: AtDesk, form: Sent) -> Response:
    """Add or change a pack."""
    settings = desk.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Pack")
    before = hangar.get(Pack, number) if number else NEW
    try:
        pack = typed.build(
            Pack,
            id=number,
            label=typed.text("label", "Label", longest=20, needed=True),
            chemistry=typed.choice("chemistry", "Chemistry", [c.value for c in Chemistry]),
            cells=int(typed.needed("cells", "Cells", Measure.COUNT, 1, 14)),
            capacity_mah=typed.needed("capacity_mah", "Capacity in mAh", Measure.COUNT, 10, 60_000),
            smart=bool(typed.get("smart")),
            charged_at=before.charged_at,
            retired=bool(typed.get("retired")),
        )
        with desk.book.write():
            saved = hangar.save(pack, desk.now())
    except PilotError as error:
        return _form(request, settings, before, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=saved)


@router.post("/packs/{pack_id}/charged", name="pack_charged")
def charged(request: Request, desk: AtDesk, pack_id: Number) -> Response:
    """Note that a pack came off the charger just now."""
    with desk.book.write():
        pack = hangar.get(Pack, pack_id)
        hangar.save(pack.model_copy(update={"charged_at": desk.now()}), desk.now())
    return go(request, "pack", query="saved=1", pack_id=pack_id)


@router.post("/packs/{pack_id}/snags", name="add_pack_snag")
def add_snag(request: Request, desk: AtDesk, form: Sent, pack_id: Number) -> Response:
    """Open a snag on a pack."""
    settings = desk.settings()
    pack = hangar.get(Pack, pack_id)
    typed = Typed(form, settings.units)
    try:
        open_from_form(desk, typed, SnagOn.PACK, pack_id)
    except PilotError as error:
        return _form(request, settings, pack, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=pack_id)
