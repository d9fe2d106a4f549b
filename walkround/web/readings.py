"""Reading a pack, looking it over: what was measured or seen, kept in the pack's own history."""

import contextlib
from datetime import timedelta

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.finding import Finding
from walkround.core.base.units import Measure
from walkround.core.packs.bands import reading_findings
from walkround.core.packs.charge import ChargeRange, from_reading
from walkround.core.packs.inspection import looks, outcome
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import LIGHTS, After, CellReading, Reading, parse_cells, parse_resistance
from walkround.core.sensors.devices import CellChecker
from walkround.simulators import device
from walkround.store import hangar
from walkround.store import packs as store_packs
from walkround.store.settings import Settings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
AFTER_WORDS = {After.REST: "Rested", After.CHARGE: "Charged", After.FLIGHT: "Flown"}


def _show(request: Request, ctx: AppContext, pack: Pack, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "readings/page.html",
        ctx.settings(),
        status,
        pack=pack,
        lights=range(LIGHTS + 1),
        after_words=AFTER_WORDS,
        **extra,
    )


@router.get("/packs/{pack_id}/read", name="read_pack")
def show(request: Request, ctx: AppContextDep, pack_id: Number) -> Response:
    """The page to read a pack, with large fields."""
    return _show(request, ctx, hangar.get(Pack, pack_id))


def read_form(ctx: AppContext, settings: Settings, pack: Pack, typed: Typed) -> Reading:
    """The reading that a form holds. Raises PilotError beside the field."""
    names = [f"cell_{i}" for i in range(1, pack.cells + 1)]
    texts = [typed.get(name) for name in names]
    cells: CellReading | None = None
    by = "pilot"
    if typed.get("action") == "device":
        volts = device(CellChecker, settings.devices).read(pack.cells)
        cells, by = parse_cells([f"{v:.3f}" for v in volts], "", pack), "simulated cell checker"
    elif any(text.strip() for text in texts) or typed.get("total").strip():
        cells = typed.try_("cell_1", lambda: parse_cells(texts, typed.get("total"), pack), None)
    none: tuple[float, ...] = ()
    resistance = typed.try_("resistance", lambda: parse_resistance(typed.get("resistance"), pack), none)
    shown = typed.number("percent", "Charge shown", Measure.PERCENT, 0, 100, optional=True)
    warm = typed.number("temperature", "Temperature", Measure.TEMPERATURE, -40, 90, optional=True)
    since = typed.number("since_min", "Minutes since", Measure.MINUTE, 0, 100_000, optional=True)
    lit = typed.get("lights")
    known = lit in {str(number) for number in range(LIGHTS + 1)}
    if lit and not known:
        typed.errors["lights"] = f"Enter 0 to {LIGHTS} LEDs."
    after = typed.choice("after", "What it did before", [a.value for a in After]) if typed.get("after") else "rest"
    note = typed.text("note", "Note", longest=300)
    return typed.build(
        Reading,
        at=ctx.now(),
        cells_v=cells.cells_v if cells else (),
        total_v=cells.total_v if cells else None,
        percent=shown,
        lights=int(lit) if known else None,
        resistance_mohm=resistance,
        temperature_c=warm,
        after=After(after),
        since_min=None if after == "rest" else since,
        by=by,
        note=note,
    )


def judged(reading: Reading, pack: Pack) -> tuple[tuple[Finding, ...], ChargeRange | None]:
    """What a reading says by itself: spread and temperature judged, the charge as a range."""
    return reading_findings(reading, pack), from_reading(reading, pack)


@router.post("/packs/{pack_id}/read/preview", name="preview_reading")
def preview(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """What is typed so far, judged; nothing is kept, and an unfinished entry is quiet."""
    settings = ctx.settings()
    pack = hangar.get(Pack, pack_id)
    found: tuple[Finding, ...] = ()
    held = None
    with contextlib.suppress(PilotError):
        found, held = judged(read_form(ctx, settings, pack, Typed(form, settings.units)), pack)
    return page(request, "readings/_judged.html", settings, findings=found, held=held)


@router.post("/packs/{pack_id}/read", name="save_reading")
def save(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """Keep a reading."""
    settings = ctx.settings()
    pack = hangar.get(Pack, pack_id)
    typed = Typed(form, settings.units)
    try:
        reading = read_form(ctx, settings, pack, typed)
        with ctx.book.write():
            store_packs.add_reading(pack_id, reading, ctx.now())
    except PilotError as error:
        return _show(
            request, ctx, pack, status_of(error), errors=error.by_field(), offers=error.offer, typed=typed.raw()
        )
    return go(request, "pack", query="saved=1", pack_id=pack_id)


@router.post("/readings/{reading_id}/drop", name="drop_reading")
def drop(request: Request, ctx: AppContextDep, reading_id: Number) -> Response:
    """Delete a reading typed by hand."""
    with ctx.book.write():
        pack_id = store_packs.drop_reading(reading_id, ctx.now())
    return go(request, "pack", query="saved=1", pack_id=pack_id)


@router.get("/packs/{pack_id}/look", name="look_pack")
def look(request: Request, ctx: AppContextDep, pack_id: Number) -> Response:
    """The page to look a pack over."""
    pack = hangar.get(Pack, pack_id)
    return page(request, "readings/look.html", ctx.settings(), pack=pack, looks=looks(pack.chemistry))


@router.post("/packs/{pack_id}/look", name="save_look")
def save_look(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """Keep an inspection: every look answered; the worst fault decides the state."""
    settings = ctx.settings()
    pack = hangar.get(Pack, pack_id)
    typed = Typed(form, settings.units)
    wanted = looks(pack.chemistry)
    said = {one.id: typed.get(f"look-{one.id}") for one in wanted}
    try:
        for one in wanted:
            if said[one.id] not in ("sound", "fault"):
                typed.errors[f"look-{one.id}"] = f"{one.title}: choose OK or a fault."
        typed.check()
        seen = outcome(pack, {key: value == "fault" for key, value in said.items()})
        if pack.condemned:
            raise InputError(f"Pack {pack.label} is retired for good already.", "")
        with ctx.book.write():
            if seen.state is not pack.state or seen.condemned:
                reason = "; ".join(seen.faults)
                store_packs.change_state(pack_id, seen.state, reason, ctx.now(), condemned=seen.condemned)
            store_packs.looked_over(pack_id, seen.faults, ctx.now() + timedelta(microseconds=1))
    except PilotError as error:
        return page(
            request,
            "readings/look.html",
            settings,
            status_of(error),
            pack=pack,
            looks=wanted,
            errors=error.by_field(),
            typed=typed.raw(),
        )
    return go(request, "pack", query="saved=1", pack_id=pack_id)
