"""Parts of an aircraft: fitted, given new firmware, replaced, taken off."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import part_list, part_of
from walkround.core.aircraft.parts import Part, part_kinds
from walkround.core.base.errors import PilotError
from walkround.core.base.wording import capital
from walkround.core.round.walk import parse_reason
from walkround.store import hangar, parts
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
ROTATIONS = ("", "clockwise", "counter-clockwise")


def choices(aircraft: Aircraft) -> list[tuple[str, str]]:
    """What can be fitted: the parts of this aircraft that are kept with a history by their ids, then other kinds."""
    listed = [(part.id, part.name) for part in part_list(aircraft) if part.kind is not None]
    others = [(kind.value, kind.value) for kind in part_kinds(aircraft)]
    return [(value, capital(words)) for value, words in (*listed, *others)]


def read_part(typed: Typed, ctx: AppContextDep, aircraft: Aircraft) -> Part:
    """The part that a form describes, fitted now. Raises FormErrors."""
    kind = typed.choice("kind", "Part", [value for value, _ in choices(aircraft)])
    one = part_of(aircraft, kind)
    place = typed.text("place", "Position", longest=40)
    values = {
        "part_id": "" if one is None else one.id,
        "name": typed.text("part_name", "Name", longest=60),
        "place": place if one is None else place or one.place,
        "rotation": typed.choice("rotation", "Hand", ROTATIONS),
        "size": typed.text("size", "Size", longest=20),
        "firmware": typed.text("firmware", "Firmware", longest=40),
    }
    if one is not None and one.kind is not None:
        kind = one.kind.value
        values["rotation"] = values["rotation"] or (str(one.spin) if one.spin is not None else "")
    return typed.build(Part, kind=kind, fitted_at=ctx.now(), **values)


def _show(request: Request, ctx: AppContextDep, aircraft: Aircraft, status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "parts/page.html",
        ctx.settings(),
        status,
        aircraft=aircraft,
        parts=parts.of_aircraft(aircraft.id),
        old_parts=parts.of_aircraft(aircraft.id, removed=True),
        choices=choices(aircraft),
        rotations=[(h, capital(h) or "Does not matter") for h in ROTATIONS],
        **{"failed": 0, **extra},
    )


@router.get("/hangar/aircraft/{aircraft_id}/parts", name="parts")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """All parts, those on it and those taken off."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post("/hangar/aircraft/{aircraft_id}/parts", name="fit_part")
def fit(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Fit a part; its count begins now."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    try:
        part = read_part(typed, ctx, aircraft)
        with ctx.book.write():
            parts.fit(aircraft_id, part)
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "parts", query="saved=1", aircraft_id=aircraft_id)


@router.post("/hangar/aircraft/{aircraft_id}/parts/{part_id}", name="change_part")
def change(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number, part_id: Number) -> Response:
    """Replace a part, take it off, or note its firmware, as the button says."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    action = typed.choice("action", "What to do", ("replace", "off", "firmware"))
    try:
        typed.check()
        with ctx.book.write():
            if action == "firmware":
                firmware = typed.text("firmware", "Firmware", longest=40)
                typed.check()
                parts.set_firmware(aircraft_id, part_id, firmware, ctx.now())
            else:
                why = parse_reason(typed.get("why"), "Reason", "why", needed=True)
                if action == "off":
                    parts.take_off(aircraft_id, part_id, why, ctx.now())
                else:
                    firmware = typed.text("firmware", "Firmware", longest=40)
                    typed.check()
                    fresh = parts.get(aircraft_id, part_id).model_copy(
                        update={"id": 0, "fitted_at": ctx.now(), "removed_at": None, "firmware": firmware}
                    )
                    parts.replace(aircraft_id, part_id, fresh, why)
    except PilotError as error:
        if not error.by_field().keys() - {""}:
            raise
        return _show(
            request, ctx, aircraft, status_of(error), failed=part_id, errors=error.by_field(), typed=typed.raw()
        )
    return go(request, "parts", query="saved=1", aircraft_id=aircraft_id)
