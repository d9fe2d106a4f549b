"""The hangar: aircraft, their traits, events and snags."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.aircraft import KIND_TRAITS, PRESETS, Aircraft, Kind, Trait
from walkround.core.errors import MissingError, PilotError
from walkround.core.history import REPORTABLE, EventKind, SnagOn
from walkround.core.packs import Pack
from walkround.core.site import Site
from walkround.core.units import Measure
from walkround.store import hangar
from walkround.store.settings import Settings
from walkround.web.desk import AtDesk, Desk, Number, Sent
from walkround.web.drawings.aircraft import place
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.snags import open_from_form

router = APIRouter()


@router.get("/hangar", name="hangar")
def show(request: Request, desk: AtDesk) -> Response:
    """Everything the pilot owns, and the fields."""
    aircraft = hangar.everything(Aircraft, retired=True)
    snags: dict[tuple[str, int], int] = {}
    for plane in aircraft:
        snags["aircraft", plane.id] = len(hangar.open_snags(aircraft_id=plane.id))
    grounded = hangar.grounded_packs()
    return page(
        request,
        "hangar/page.html",
        desk.settings(),
        aircraft=[(a, place(a, (110, 78), 100, 70)) for a in aircraft],
        packs=hangar.everything(Pack, retired=True),
        sites=hangar.everything(Site),
        snags=snags,
        grounded=grounded,
        presets=PRESETS,
    )


def _form(
    request: Request, desk: Desk, settings: Settings, plane: Aircraft, status: int = 200, **extra: object
) -> Response:
    return page(
        request,
        "hangar/aircraft.html",
        settings,
        status,
        plane=plane,
        traits=KIND_TRAITS[plane.kind],
        picture=place(plane, (200, 150), 178, 132),
        snags=hangar.open_snags(aircraft_id=plane.id) if plane.id else (),
        closed=hangar.closed_snags(aircraft_id=plane.id) if plane.id else (),
        events=hangar.events(plane.id, 30) if plane.id else (),
        event_kinds=REPORTABLE,
        **{"is_wing": plane.kind is Kind.WING, **extra},
    )


@router.get("/hangar/aircraft/new/{preset}", name="new_aircraft")
def new(request: Request, desk: AtDesk, preset: str) -> Response:
    """A new aircraft from a preset."""
    if preset not in PRESETS:
        raise MissingError("There is no such starting point for an aircraft.")
    return _form(request, desk, desk.settings(), PRESETS[preset])


@router.get("/hangar/aircraft/{aircraft_id}", name="aircraft")
def edit(request: Request, desk: AtDesk, aircraft_id: Number) -> Response:
    """One aircraft: description, snags, events."""
    return _form(request, desk, desk.settings(), hangar.get(Aircraft, aircraft_id))


def read_aircraft(typed: Typed, number: int) -> Aircraft:
    """The aircraft that a form describes. Raises FormErrors."""
    kind = Kind(typed.choice("kind", "Kind", [k.value for k in Kind]))
    allowed = {t.value for t in KIND_TRAITS[kind]}
    values: dict[str, object] = {
        "id": number,
        "kind": kind,
        "traits": frozenset(Trait(t) for t in typed.many("traits") if t in allowed),
        "name": typed.text("name", "Name", longest=60, needed=True),
        "mass_g": typed.needed("mass_g", "Mass in grams", Measure.COUNT, 1, 25_000),
        "span_mm": typed.needed("span_mm", "Size", Measure.MILLIMETRE, 50, 8_000),
        "top_speed_ms": typed.needed("top_speed_ms", "Top speed", Measure.SPEED, 1, 100),
        "flight_min": typed.needed("flight_min", "Minutes from a full pack", Measure.MINUTE, 1, 600),
        "cells": int(typed.needed("cells", "Cells", Measure.COUNT, 1, 14)),
        "firmware": typed.text("firmware", "Firmware", longest=40),
        "retired": bool(typed.get("retired")),
    }
    if kind is Kind.MULTIROTOR:
        values["rotors"] = int(typed.needed("rotors", "Rotors", Measure.COUNT, 3, 8))
        values["front_left_clockwise"] = typed.get("front_left") != "counter-clockwise"
    else:
        values["rotors"] = 1
        values["bands"] = int(typed.number("bands", "Rubber bands", Measure.COUNT, 0, 40, optional=True) or 0)
        low = typed.number("balance_min_mm", "Balance point from", Measure.MILLIMETRE, 0, 2000, optional=True)
        high = typed.number("balance_max_mm", "Balance point to", Measure.MILLIMETRE, 0, 2000, optional=True)
        values |= {"balance_min_mm": low, "balance_max_mm": high}
    return typed.build(Aircraft, **values)


@router.post("/hangar/aircraft", name="save_aircraft")
def save(request: Request, desk: AtDesk, form: Sent) -> Response:
    """Add or change an aircraft. A changed firmware is an event."""
    settings = desk.settings()
    typed = Typed(form, settings.units)
    number = typed.whole("id", "Aircraft")
    before = hangar.get(Aircraft, number) if number else None
    try:
        plane = read_aircraft(typed, number)
        with desk.book.write():
            saved = hangar.save(plane, desk.now())
            if before is not None and before.firmware != plane.firmware:
                hangar.add_event(saved, EventKind.FIRMWARE, desk.now(), detail=plane.firmware)
            if before is None and typed.get("new_build"):
                hangar.add_event(saved, EventKind.NEW_BUILD, desk.now())
    except PilotError as error:
        shown = before or PRESETS["foam-trainer" if typed.get("kind") == Kind.WING else "camera-quad"]
        return _form(
            request,
            desk,
            settings,
            shown,
            status_of(error),
            errors=error.by_field(),
            typed=typed.raw(),
            ticked=typed.many("traits"),
        )
    return go(request, "aircraft", query="saved=1", aircraft_id=saved)


@router.post("/hangar/aircraft/{aircraft_id}/events", name="add_event")
def add_event(request: Request, desk: AtDesk, form: Sent, aircraft_id: Number) -> Response:
    """Note something that happened; the next plan raises what follows from it."""
    settings = desk.settings()
    plane = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    kind = typed.choice("event", "What happened", [k.value for k in REPORTABLE])
    detail = typed.text("detail", "Detail", longest=100)
    if EventKind.FIRMWARE.value == kind and not detail:
        typed.errors.setdefault("detail", "Which firmware is on it now?")
    try:
        typed.check()
        with desk.book.write():
            hangar.add_event(aircraft_id, EventKind(kind), desk.now(), detail=detail)
            if kind == EventKind.FIRMWARE:
                hangar.save(plane.model_copy(update={"firmware": detail[:40]}), desk.now())
    except PilotError as error:
        return _form(request, desk, settings, plane, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)


@router.post("/hangar/aircraft/{aircraft_id}/snags", name="add_snag")
def add_snag(request: Request, desk: AtDesk, form: Sent, aircraft_id: Number) -> Response:
    """Open a snag on an aircraft."""
    settings = desk.settings()
    plane = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    try:
        open_from_form(desk, typed, SnagOn.AIRCRAFT, aircraft_id)
    except PilotError as error:
        return _form(request, desk, settings, plane, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)
