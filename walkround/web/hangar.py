"""The hangar: everything the pilot owns; describing an aircraft with its drawing changing along."""

import json
from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft, led
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, Kind, Power, Trait
from walkround.core.base.errors import InputError, MissingError, PilotError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.checklist.exchange import FILES, AircraftFile, aircraft_file, schema, text_of
from walkround.core.checklist.history import REPORTABLE, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.packs.upkeep import grounding
from walkround.core.proving.stages import under_proving
from walkround.core.round.upcoming import upcoming
from walkround.store import box, flights, hangar, part_ages, parts
from walkround.store import snags as store_snags
from walkround.store.exchange import free_name, read_file, take_aircraft
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_text
from walkround.web.pages import download, go, page
from walkround.web.routes import Router
from walkround.web.snags import open_from_form
from walkround.web.stale import refuse_stale

router = Router()
MAX_FILE_BYTES = 400_000


@router.get("/hangar", name="hangar")
def show(request: Request, ctx: AppContextDep) -> Response:
    """Every aircraft, and in short the packs and the snags."""
    aircraft = hangar.everything(Aircraft, retired=True)
    snagged, now = store_snags.grounded_packs(), ctx.now()
    known_packs = box.known_packs(now)
    may_fly = [
        pack
        for pack, known in known_packs
        if pack.usable and pack.id not in snagged and not grounding(pack, known, now)
    ]
    return page(
        request,
        "hangar/page.html",
        ctx.settings(),
        aircraft=[(a, drawings.aircraft.place(a, (110, 78), 100, 70)) for a in aircraft],
        packs=len(known_packs),
        down=len(known_packs) - len(may_fly),
        open_snags=store_snags.how_many_open(),
        snags=store_snags.open_counts(),
    )


@router.get("/hangar/aircraft/new", name="choose_aircraft")
def choose(request: Request, ctx: AppContextDep) -> Response:
    """Common shapes to start from, and a file to take one over from."""
    shapes = [(key, preset, drawings.aircraft.place(preset, (110, 78), 100, 70)) for key, preset in PRESETS.items()]
    return page(request, "hangar/choose.html", ctx.settings(), shapes=shapes)


def _setup(aircraft: Aircraft) -> dict[str, Any]:
    """What the form of an aircraft is drawn from."""
    return {
        "aircraft": aircraft,
        "kinds": list(Kind),
        "frames": list(FRAME_MOTORS[aircraft.kind]),
        "motors": sorted(FRAME_MOTORS[aircraft.kind][aircraft.frame]),
        "powers": [p for p in Power if p is not Power.NONE or aircraft.kind is Kind.WING],
        "groups": list(enumerate(KIND_GROUPS[aircraft.kind])),
        "picture": drawings.aircraft.place(aircraft, (200, 150), 178, 132),
        "is_wing": aircraft.kind is Kind.WING,
        "turning": aircraft.kind is Kind.MULTIROTOR,
        "belongs": sum(check.applies.fits(aircraft) for check in CHECKS),
    }


OVERVIEW = (720.0, 470.0)
"""Width and height of the drawing of the page."""


def _overview(ctx: AppContext, settings: Settings, aircraft: Aircraft, open_now: list[Snag]) -> dict[str, Any]:
    """The aircraft itself: drawn with its snags, what it flew, what is due next, its history."""
    flown, events = flights.of_aircraft(aircraft.id), hangar.events(aircraft.id, 30)
    many, minutes = flights.totals(aircraft.id)
    context = aircraft_context(ctx, settings, aircraft.id)
    drawn, callouts = drawings.aircraft.with_snags(aircraft, open_now, *OVERVIEW)
    return {
        "overview": drawn,
        "size": OVERVIEW,
        "callouts": callouts,
        "many": many,
        "compass": aircraft.has(Trait.COMPASS),
        "controller": aircraft.has(Trait.FLIGHT_CONTROLLER),
        "proving": bool(aircraft.proved) or not (many or aircraft.flown_before),
        "proving_now": None
        if context is None
        else under_proving(aircraft, context.situation.history.aircraft_flown, context.situation.history.bench_test),
        "hours": minutes / 60,
        "coming": upcoming(context, part_ages.worn(aircraft, ctx.now())) if context is not None else (),
        "grounding": next((snag for snag in open_now if snag.grounds), None),
        "history": drawings.aircraft_history.draw_history(flown, events, ctx.now()),
    }


def _form(
    request: Request, ctx: AppContext, settings: Settings, aircraft: Aircraft, status: int = 200, **extra: object
) -> Response:
    known = bool(aircraft.id)
    open_now = store_snags.open_ones(aircraft_id=aircraft.id) if known else []
    return page(
        request,
        "hangar/aircraft.html",
        settings,
        status,
        **_setup(aircraft),
        **(_overview(ctx, settings, aircraft, open_now) if known else {}),
        snags=open_now,
        closed=store_snags.closed(aircraft_id=aircraft.id) if known else (),
        photos=store_snags.with_photo() if known else set(),
        events=hangar.events(aircraft.id, 30) if known else (),
        event_kinds=REPORTABLE,
        **extra,
    )


@router.get("/hangar/aircraft/new/{preset}", name="new_aircraft")
def new(request: Request, ctx: AppContextDep, preset: str) -> Response:
    """A new aircraft from a preset."""
    if preset not in PRESETS:
        raise MissingError("There is no such aircraft type.")
    return _form(request, ctx, ctx.settings(), PRESETS[preset])


@router.get("/hangar/aircraft/{aircraft_id}", name="aircraft")
def edit(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """One aircraft: description, snags, parts, events."""
    return _form(request, ctx, ctx.settings(), hangar.get(Aircraft, aircraft_id))


def _shape(typed: Typed) -> dict[str, object]:
    """Kind, frame, motors, power and traits as sent. Notes mistakes on ``typed``."""
    kind = Kind(typed.choice("kind", "Kind", [k.value for k in Kind]))
    frame = typed.choice("frame", "Frame", [f.value for f in FRAME_MOTORS[kind]])
    power = typed.choice("power", "Power", [p.value for p in Power])
    picked = [t for t in typed.many("traits") if t]
    picked += [t for i, group in enumerate(KIND_GROUPS[kind]) if group.one for t in typed.many(f"pick-{i}") if t]
    allowed = {t.value for group in KIND_GROUPS[kind] for t in group.traits}
    motors = int(typed.needed("rotors", "Motors", Measure.COUNT, 0, 8))
    traits = frozenset(Trait(t) for t in picked if t in allowed)
    return {"kind": kind, "frame": frame, "power": power, "traits": traits, "rotors": motors}


def read_aircraft(typed: Typed, before: Aircraft | None) -> Aircraft:
    """The aircraft that a form describes; what the form does not show stays as before. Raises FormErrors."""
    values: dict[str, object] = {} if before is None else before.model_dump()
    values |= _shape(typed)
    values |= {
        "name": typed.text("name", "Name", longest=60, needed=True),
        "mass_g": typed.needed("mass_g", "Mass in grams", Measure.COUNT, 1, 25_000),
        "bare_mass_g": typed.number("bare_mass_g", "Mass without payload", Measure.COUNT, 1, 25_000, optional=True),
        "span_mm": typed.needed("span_mm", "Size", Measure.MILLIMETRE, 50, 8_000),
        "top_speed_ms": typed.needed("top_speed_ms", "Top speed", Measure.SPEED, 1, 100),
        "wind_max_ms": typed.number("wind_max_ms", "Wind, maximum", Measure.SPEED, 1, 30, optional=True),
        "flight_min": typed.needed("flight_min", "Flight time from a full pack", Measure.MINUTE, 1, 600),
        "cruise_ms": typed.number("cruise_ms", "Cruise speed", Measure.SPEED, 0.5, 100, optional=True),
        "propeller_mm": typed.number("propeller_mm", "Propeller diameter", Measure.MILLIMETRE, 20, 2000, optional=True),
        "cruise_current_a": typed.number("cruise_current_a", "Current", Measure.RATIO, 0.1, 400, optional=True),
        "cells": int(typed.needed("cells", "Cells", Measure.COUNT, 1, 14)),
        "flown_before": int(typed.number("flown_before", "Flown before", Measure.COUNT, 0, 20_000, optional=True) or 0),
        "charge_steps": int(typed.number("charge_steps", "LEDs or bars", Measure.COUNT, 2, 10, optional=True) or 4),
        "signal_bars": int(typed.number("signal_bars", "Bars", Measure.COUNT, 2, 10, optional=True) or 5),
        "record_mbits": typed.number("record_mbits", "Bit rate", Measure.COUNT, 1, 2000, optional=True),
        "firmware": typed.text("firmware", "Firmware", longest=40),
        "stop_words": typed.text("stop_words", "How its motors are stopped", longest=200),
        "home_words": typed.text("home_words", "How RTH is started and cancelled", longest=200),
        "front_left_clockwise": typed.get("front_left") != "counter-clockwise",
        "bands": int(typed.number("bands", "Rubber bands", Measure.COUNT, 0, 40, optional=True) or 0),
        "cg_min_mm": typed.number("cg_min_mm", "CG range from", Measure.MILLIMETRE, 0, 2000, optional=True),
        "cg_max_mm": typed.number("cg_max_mm", "CG range to", Measure.MILLIMETRE, 0, 2000, optional=True),
    }
    return typed.build(Aircraft, **values)


def draft(typed: Typed, base: Aircraft) -> Aircraft:
    """The aircraft as far as a half-filled form describes it: what does not go together is led to what does."""
    sent = _shape(typed)
    kind = Kind(str(sent["kind"]))
    frame, motors, power = led(kind, typed.get("frame"), int(str(sent["rotors"])), typed.get("power"))
    values = base.model_dump() | {
        "kind": kind, "frame": frame, "rotors": motors, "power": power, "traits": sent["traits"],
        "front_left_clockwise": typed.get("front_left") != "counter-clockwise",
    }  # fmt: skip
    bands = whole(typed.get("bands"), 40)
    if bands is not None:
        values["bands"] = bands
    return Aircraft.model_validate(values)


def _base(typed: Typed, before: Aircraft | None) -> Aircraft:
    """What a half-filled form is laid over: the aircraft as it was, else a preset of the kind."""
    kind = next((k for k in Kind if k == typed.get("kind")), Kind.MULTIROTOR)
    return before or next(a for a in PRESETS.values() if a.kind is kind)


@router.post("/hangar/aircraft/draw", name="draw_aircraft")
def draw(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """The form drawn anew as it is being filled; keeps nothing."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Aircraft")
    aircraft = draft(typed, _base(typed, hangar.get(Aircraft, number) if number else None))
    raw = {k: v for k, v in typed.raw().items() if k not in ("frame", "rotors", "power")}
    return page(request, "hangar/_setup.html", settings, **_setup(aircraft), typed=raw)


@router.post("/hangar/aircraft", name="save_aircraft")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add or change an aircraft. A changed firmware is an event."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Aircraft")
    before = hangar.get(Aircraft, number) if number else None
    try:
        with ctx.book.write():
            before = hangar.get(Aircraft, number) if number else None
            aircraft = read_aircraft(typed, before)
            if before is not None:
                refuse_stale(typed, before, aircraft, "aircraft")
            saved = hangar.save(aircraft, ctx.now())
            if before is not None and before.firmware != aircraft.firmware:
                hangar.add_event(saved, EventKind.FIRMWARE, ctx.now(), detail=aircraft.firmware)
            for name, kind in (("new_build", EventKind.NEW_BUILD), ("borrowed", EventKind.BORROWED)):
                if before is None and typed.get(name):
                    hangar.add_event(saved, kind, ctx.now())
    except PilotError as error:
        again = Typed(form, settings.units)
        shown = draft(again, _base(again, before)).model_copy(update={"id": number})
        errors = error.by_field()
        return _form(request, ctx, settings, shown, status_of(error), errors=errors, typed=typed.raw())
    return go(request, "aircraft", query="saved=1", aircraft_id=saved)


@router.post("/hangar/aircraft/{aircraft_id}/copy", name="copy_aircraft")
def copy(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """A second aircraft described the same, with a history of its own."""
    with ctx.book.write():
        aircraft = hangar.get(Aircraft, aircraft_id)
        twin = aircraft.model_copy(update={"id": 0, "name": free_name(aircraft.name), "retired": False})
        saved = hangar.save(twin, ctx.now())
    return go(request, "aircraft", query="saved=1", aircraft_id=saved)


@router.post("/hangar/aircraft/{aircraft_id}/retire", name="retire_aircraft")
def retire(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Retire an aircraft, or bring it back, as the button said: its history stays either way."""
    typed = Typed(form, ctx.settings().units)
    retired = typed.choice("retired", "Retired", ("yes", "no")) == "yes"
    typed.check()
    with ctx.book.write():
        aircraft = hangar.get(Aircraft, aircraft_id)
        hangar.save(aircraft.model_copy(update={"retired": retired}), ctx.now())
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)


@router.get("/hangar/aircraft/{aircraft_id}/aircraft.json", name="export_aircraft")
def export(aircraft_id: Number, ctx: AppContextDep) -> Response:
    """The aircraft as a file to hand on."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    file = aircraft_file(aircraft, tuple(parts.of_aircraft(aircraft_id)))
    return download(text_of(file), "application/json", f"{aircraft.name}.aircraft.json")


@router.get("/schemas/{which}.json", name="schema")
def published(which: str) -> Response:
    """The schema of a file of ours."""
    if which not in FILES:
        raise MissingError("There is no such schema.")
    return Response(json.dumps(schema(which), indent=2), media_type="application/schema+json")


@router.post("/hangar/import", name="import_aircraft")
def take_over(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Take an aircraft over from a file. A name that is taken comes back as a question."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        text = uploaded_text(form, "file", MAX_FILE_BYTES) or typed.get("text")
        if not text.strip():
            raise InputError("Choose a file, or paste its text.", "file")
        file = read_file(text, AircraftFile)
        name = typed.text("name", "Name", longest=60)
        typed.check()
        with ctx.book.write():
            saved = take_aircraft(file, name, ctx.now())
    except PilotError as error:
        shapes = [(key, preset, drawings.aircraft.place(preset, (110, 78), 100, 70)) for key, preset in PRESETS.items()]
        raw = typed.raw() | ({"text": text} if "name" in error.by_field() else {})
        return page(
            request, "hangar/choose.html", settings, status_of(error), shapes=shapes, errors=error.by_field(),
            offers=error.offer, typed=raw,
        )  # fmt: skip
    return go(request, "aircraft", query="saved=1", aircraft_id=saved)


@router.post("/hangar/aircraft/{aircraft_id}/events", name="add_event")
def add_event(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Note something that happened; the next plan raises what follows from it."""
    settings = ctx.settings()
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    kind = typed.choice("event", "What happened", [k.value for k in REPORTABLE])
    detail = typed.text("detail", "Detail", longest=100)
    if EventKind.FIRMWARE.value == kind and not detail:
        typed.errors.setdefault("detail", "Enter the installed firmware.")
    try:
        typed.check()
        with ctx.book.write():
            hangar.add_event(aircraft_id, EventKind(kind), ctx.now(), detail=detail)
            if kind == EventKind.FIRMWARE:
                now = hangar.get(Aircraft, aircraft_id)
                hangar.save(now.model_copy(update={"firmware": detail[:40]}), ctx.now())
    except PilotError as error:
        return _form(request, ctx, settings, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)


@router.post("/hangar/aircraft/{aircraft_id}/snags", name="add_snag")
def add_snag(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Open a snag on an aircraft."""
    settings = ctx.settings()
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    try:
        open_from_form(ctx, typed, SnagOn.AIRCRAFT, aircraft_id)
    except PilotError as error:
        return _form(request, ctx, settings, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)
