"""The box: all packs and what each needs now; one pack with its history; a pack changed, charged, set aside."""

from datetime import timedelta
from functools import cache

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.clock import is_ahead
from walkround.core.base.errors import PilotError
from walkround.core.base.finding import Level
from walkround.core.base.kept import Same, kept
from walkround.core.base.plain import whole
from walkround.core.base.struct import Struct
from walkround.core.base.units import Measure
from walkround.core.base.wording import counted
from walkround.core.checklist.history import SnagOn
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.health import IMBALANCE_LIMIT_V, Health, Outlook, Series, outlook
from walkround.core.packs.load import WARM_C
from walkround.core.packs.pack import STATE_WORDS, Pack, PackState, PackUse
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.summary import Summary
from walkround.core.packs.upkeep import PackNeed, PackTask, after_the_day, need
from walkround.core.pilot.limits import Limits
from walkround.store import box, flights, hangar
from walkround.store import packs as store_packs
from walkround.store import snags as store_snags
from walkround.store.export import readings_csv
from walkround.store.settings import Settings
from walkround.store.situation import home_zone
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import download, go, page
from walkround.web.routes import Router
from walkround.web.snags import open_from_form
from walkround.web.stale import refuse_stale

router = Router()
A_PAGE = 48
FIRST_READINGS = 8
"""So many readings stand open on the page of a pack; the others are folded."""
_TO_STORAGE = 50.0


@cache
def blank() -> Pack:
    """What the form of a new pack begins with."""
    return Pack(label="?", cells=3, capacity_mah=2200)


class Line(Struct, frozen=True):
    """One pack in the box: what is known, drawn, and what it needs."""

    pack: Pack
    known: Summary
    held: ChargeRange | None
    need: PackNeed
    age: str

    @property
    def drawn(self) -> "drawings.pack.PackDrawn":
        """The pack drawn."""
        return drawings.pack.draw_pack(self.pack, self.held)

    @property
    def trend(self) -> str:
        """How its capacity goes, in a few words."""
        return month_words(self.known.capacity_month_percent)


def age_words(years: float | None) -> str:
    """How old a pack is, in a few words; "" while it is not known."""
    if years is None:
        return ""
    months = round(years * 12)
    if months < 20:
        return f"{counted(months, 'month')} old"
    return f"{years:.1f} years old".replace(".0 ", " ")


def month_words(monthly: float | None) -> str:
    """How the capacity goes a month, in a few words; "" while it is not known."""
    if monthly is None:
        return ""
    return "steady" if abs(monthly) < 0.25 else f"{monthly:+.1f} % a month".replace("-", "\u2212")


def lines_of(ctx: AppContext, settings: Settings, known_packs: list[tuple[Pack, Summary]]) -> list[Line]:
    """Each pack with its drawing and what it needs now."""
    now, reasons, grounding = ctx.now(), store_packs.reasons(), store_snags.grounding_titles()
    lines = []
    for pack, known in known_packs:
        held = known.charge_now(pack, now)
        needs = need(
            pack, known, held, now, settings.limits, reason=reasons.get(pack.id, ""), snag=grounding.get(pack.id, "")
        )
        age = age_words(pack.age_years(now.date()))
        lines.append(Line(pack=pack, known=known, held=held, need=needs, age=age))
    return lines


def _rank(line: Line) -> tuple[int, int, str]:
    """Those that ask for something first; retired ones last."""
    order = list(PackTask)
    gone = line.pack.retired
    return (2 if gone else 0 if line.need.level > Level.CLEAR else 1, order.index(line.need.task), line.pack.label)


@router.get("/packs", name="packs")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The box."""
    settings = ctx.settings()
    asked = request.query_params.get("aircraft", "")
    fleet = hangar.everything(Aircraft)
    aircraft = next((a for a in fleet if str(a.id) == asked), None)
    known_packs = box.known_packs(ctx.now())
    if aircraft is not None:
        known_packs = [(p, k) for p, k in known_packs if p.fits(aircraft)]
    lines = sorted(lines_of(ctx, settings, known_packs), key=_rank)
    number = request.query_params.get("page", "1")
    at = max(1, whole(number, 9_999) or 1)
    pages = max(1, -(-len(lines) // A_PAGE))
    at = min(at, pages)
    now = ctx.now()
    begun = now - timedelta(hours=16)
    live = [(line.pack, line.known, line.held) for line in lines if line.pack.use is PackUse.FLIGHT]
    return page(
        request,
        "packs/list.html",
        settings,
        lines=lines[(at - 1) * A_PAGE : at * A_PAGE],
        count=len(lines),
        asking=sum(line.need.level > Level.CLEAR and not line.pack.retired for line in lines),
        fleet=fleet,
        aircraft=aircraft,
        turns=box.flying_order(aircraft, now)[:4] if aircraft is not None else (),
        evening=after_the_day(live, now, begun),
        at=at,
        before=at - 1,
        after=at + 1,
        pages=pages,
        flew=flights.flown_since(begun),
    )


class Ageing(Struct, frozen=True):
    """One quantity over time: its picture, its newest value, and when it reaches its limit."""

    title: str
    unit: str
    decimals: int
    series: Series
    drawn: "drawings.trend.TrendDrawn | None"
    outlook: Outlook | None
    limit: float


@kept
def _ageing(health: Health, of: Same, limits: Limits) -> list[Ageing]:
    pack: Pack = of.things[0]
    ohm_limit = limits.resistance_times * (health.resistance.first or 0)
    rows = (
        ("Usable capacity", "mAh", 0, health.capacity, limits.capacity_percent / 100 * pack.capacity_mah, True),
        (f"Internal resistance of a cell at {WARM_C:g} °C", "mΩ", 1, health.resistance, ohm_limit, False),
        ("Cell imbalance", "V", 3, health.imbalance, IMBALANCE_LIMIT_V, False),
    )
    return [
        Ageing(
            title=title,
            unit=unit,
            decimals=decimals,
            series=series,
            drawn=drawings.trend.draw_trend(series, limit, unit=unit, decimals=decimals, name=title),
            outlook=outlook(series, limit, falling=falling),
            limit=limit,
        )
        for title, unit, decimals, series, limit, falling in rows
        if series.count
    ]


def _form(
    request: Request, ctx: AppContext, settings: Settings, pack: Pack, status: int = 200, **extra: object
) -> Response:
    more: dict[str, object] = {}
    if pack.id:
        now = ctx.now()
        everything = store_packs.known_of(pack, now)
        known = everything.short
        held = known.charge_now(pack, now)
        changes = store_packs.changes(pack.id)
        snags = store_snags.open_ones(pack_id=pack.id)
        reason = changes[0].reason if changes else ""
        grounding = next((s.title for s in snags if s.grounds), "")
        more = {
            "known": known,
            "held": held,
            "drawn": drawings.pack.draw_pack(pack, held),
            "need": need(pack, known, held, now, settings.limits, reason=reason, snag=grounding),
            "ageing": _ageing(everything.aged, Same(pack), settings.limits),
            "changes": changes,
            "readings": everything.readings[:FIRST_READINGS],
            "earlier": everything.readings[FIRST_READINGS:],
            "ahead": {r.at for _, r in everything.readings if is_ahead(r.at, now)},
            "flown": everything.flights,
            "snags": snags,
            "closed": store_snags.closed(pack_id=pack.id),
            "photos": store_snags.with_photo(),
            "states": [s for s in PackState if s is not pack.state],
            "state_words": STATE_WORDS,
            "zone": home_zone(),
        }
    return page(
        request,
        "packs/page.html",
        settings,
        status,
        pack=pack,
        chemistries=list(Chemistry),
        purposes=list(PackUse),
        aircraft=hangar.everything(Aircraft),
        **more,
        **extra,
    )


@router.get("/packs/new", name="new_pack")
def new(request: Request, ctx: AppContextDep, aircraft: str = "") -> Response:
    """A new pack, such as the aircraft asked about wants."""
    pack = blank()
    if aircraft.isdecimal() and len(aircraft) < 10:
        described = hangar.get(Aircraft, int(aircraft))
        pack = pack.model_copy(update={"cells": described.cells, "smart": described.has(Trait.SMART_PACK)})
    return _form(request, ctx, ctx.settings(), pack)


@router.get("/packs/{pack_id}", name="pack")
def edit(request: Request, ctx: AppContextDep, pack_id: Number) -> Response:
    """One pack."""
    return _form(request, ctx, ctx.settings(), hangar.get(Pack, pack_id))


@router.post("/packs", name="save_pack")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add or change a pack."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Pack")
    before = hangar.get(Pack, number) if number else blank()
    try:
        rate = typed.number("c_rate", "Discharge rating", Measure.RATIO, 0.5, 300, optional=True)
        mass = typed.number("mass_g", "Mass", Measure.COUNT, 1, 20_000, optional=True)
        cycles = typed.number(
            "cycles_before", "Cycles before you started logging", Measure.COUNT, 0, 5000, optional=True
        )
        bought = typed.get("bought") and typed.day("bought", "Bought", ctx.now().date())
        if bought and bought > ctx.now().date() + timedelta(days=1):
            typed.errors["bought"] = "That day is in the future."
        pack = typed.build(
            Pack,
            id=number,
            label=typed.text("label", "Label", longest=20, needed=True),
            use=typed.choice("use", "Used for", [u.value for u in PackUse]) if "use" in form else before.use,
            chemistry=typed.choice("chemistry", "Chemistry", [c.value for c in Chemistry]),
            cells=int(typed.needed("cells", "Cells", Measure.COUNT, 1, 14)),
            capacity_mah=typed.needed("capacity_mah", "Capacity in mAh", Measure.COUNT, 10, 60_000),
            together=int(typed.number("together", "Packs in the set", Measure.COUNT, 1, 4, optional=True) or 1),
            c_rate=rate,
            mass_g=mass,
            connector=typed.text("connector", "Connector", longest=30),
            bought=bought or None,
            cycles_before=int(cycles or 0),
            firmware=typed.text("firmware", "Firmware", longest=40),
            mark=typed.text("mark", "Mark", longest=60),
            smart=bool(typed.get("smart")),
            only_for=frozenset(n for text in typed.many("only_for") if (n := whole(text)) is not None),
            charged_at=before.charged_at,
            state=before.state,
            condemned=before.condemned,
        )
        with ctx.book.write():
            if number:
                now = hangar.get(Pack, number)
                refuse_stale(typed, now, pack, "pack")
                kept = {name: getattr(now, name) for name in ("charged_at", "state", "condemned")}
                pack = pack.model_copy(update=kept)
            saved = hangar.save(pack, ctx.now())
            store_packs.refresh(saved, ctx.now())
    except PilotError as error:
        return _form(request, ctx, settings, before, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=saved)


@router.get("/packs/{pack_id}/readings.csv", name="readings_csv")
def readings_as_csv(ctx: AppContextDep, pack_id: Number) -> Response:
    """All readings of a pack as a table."""
    return download(readings_csv(pack_id), "text/csv; charset=utf-8", f"{hangar.get(Pack, pack_id).label}.readings.csv")


@router.post("/packs/{pack_id}/charged", name="pack_charged")
def charged(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """Note that a pack came off the charger just now: full, or brought to storage charge; with what was put back if known."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    pack = hangar.get(Pack, pack_id)
    to_storage = typed.get("to") == "storage"
    try:
        recharged_mah = typed.number("recharged_mah", "mAh charged", Measure.COUNT, 1, 60_000, optional=True)
        typed.check()
        reading = Reading(
            at=ctx.now(),
            percent=_TO_STORAGE if to_storage else 100.0,
            recharged_mah=None if to_storage else recharged_mah,
            after=After.CHARGE,
            since_min=0,
            note="brought to storage charge" if to_storage else "",
        )
        with ctx.book.write():
            if not to_storage:
                hangar.save(pack.model_copy(update={"charged_at": ctx.now()}), ctx.now())
            store_packs.add_reading(pack_id, reading, ctx.now())
    except PilotError as error:
        return _form(request, ctx, settings, pack, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=pack_id)


@router.post("/packs/{pack_id}/state", name="pack_state")
def state(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """Change the state of a pack, with the reason."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    pack = hangar.get(Pack, pack_id)
    chosen = typed.choice("state", "State", [s.value for s in PackState])
    reason = typed.text("state_reason", "Reason", longest=300, needed=True)
    try:
        typed.check()
        with ctx.book.write():
            store_packs.change_state(pack_id, PackState(chosen), reason, ctx.now())
    except PilotError as error:
        return _form(request, ctx, settings, pack, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=pack_id)


@router.post("/packs/{pack_id}/snags", name="add_pack_snag")
def add_snag(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """Open a snag on a pack."""
    settings = ctx.settings()
    pack = hangar.get(Pack, pack_id)
    typed = Typed(form, settings.units)
    try:
        open_from_form(ctx, typed, SnagOn.PACK, pack_id)
    except PilotError as error:
        return _form(request, ctx, settings, pack, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "pack", query="saved=1", pack_id=pack_id)
