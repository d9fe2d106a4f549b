"""An existing fleet in one go: aircraft by type, name and mass, packs by label and number; the rest is asked when it is first needed."""

from functools import partial
from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.units import Measure
from walkround.core.packs.labels import labels_on
from walkround.core.packs.pack import Pack, PackState
from walkround.store import hangar
from walkround.store import packs as store_packs
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import FormErrors, Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
ROWS = range(1, 7)
"""So many rows of aircraft and of packs; the page can be used again for more."""


@router.get("/hangar/fleet", name="fleet")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page, empty."""
    return _show(request, ctx)


def _show(request: Request, ctx: AppContext, status: int = 200, **extra: Any) -> Response:
    return page(
        request,
        "hangar/fleet.html",
        ctx.settings(),
        status,
        rows=ROWS,
        types=[(key, preset.name) for key, preset in PRESETS.items()],
        **extra,
    )


def _aircraft(typed: Typed) -> list[Aircraft]:
    """The aircraft of the rows that have a name. Mistakes stay with ``typed``."""
    found = []
    for i in ROWS:
        if not typed.get(f"name-{i}").strip():
            continue
        name = typed.text(f"name-{i}", "Name", longest=60, needed=True)
        mass_g = typed.needed(f"mass-{i}", "Mass in grams", Measure.COUNT, 1, 25_000)
        flown = typed.number(f"flown-{i}", "Flights before", Measure.COUNT, 0, 20_000, optional=True) or 0
        preset = PRESETS.get(typed.get(f"type-{i}"))
        if preset is None:
            typed.errors[f"type-{i}"] = "Choose the closest type."
            continue
        bare = None if preset.bare_mass_g is None else min(preset.bare_mass_g, mass_g)
        if not typed.errors:
            changes = {"name": name, "mass_g": mass_g, "bare_mass_g": bare, "flown_before": int(flown)}
            found.append(preset.model_copy(update=changes))
    return found


def _packs(typed: Typed) -> list[Pack]:
    """The packs of the rows that have a label. Mistakes stay with ``typed``."""
    taken = {pack.label for pack in hangar.everything(Pack, retired=True)}
    found: list[Pack] = []
    for i in ROWS:
        if not typed.get(f"label-{i}").strip():
            continue
        label = typed.text(f"label-{i}", "Label", longest=20, needed=True)
        many = int(typed.number(f"many-{i}", "How many", Measure.COUNT, 1, 30, optional=True) or 1)
        cells = int(typed.needed(f"cells-{i}", "Cells", Measure.COUNT, 1, 14))
        capacity_mah = typed.needed(f"capacity-{i}", "Capacity in mAh", Measure.COUNT, 10, 60_000)
        go_on = partial(labels_on, label, many, frozenset(taken))
        labels: tuple[str, ...] = typed.try_(f"label-{i}", go_on, ())
        if typed.errors:
            continue
        pack = Pack(label=label, cells=cells, capacity_mah=capacity_mah, smart=bool(typed.get(f"smart-{i}")))
        found += [pack.model_copy(update={"label": text}) for text in labels]
        taken |= set(labels)
    return found


@router.post("/hangar/fleet", name="save_fleet")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add everything on the page, or nothing where something is wrong."""
    typed = Typed(form, ctx.settings().units)
    aircraft, packs = _aircraft(typed), _packs(typed)
    try:
        typed.check()
        if not aircraft and not packs:
            raise InputError("Enter at least one aircraft or one pack.")
        with ctx.book.write():
            for one in aircraft:
                hangar.save(one, ctx.now())
            for pack in packs:
                store_packs.refresh(hangar.save(pack, ctx.now()), ctx.now())
    except PilotError as error:
        errors = error.by_field() if not isinstance(error, FormErrors) else typed.errors
        return _show(request, ctx, status_of(error), errors=errors, typed=typed.raw())
    return go(request, "hangar")


@router.post("/packs/{pack_id}/more", name="more_packs")
def more(request: Request, ctx: AppContextDep, form: SentForm, pack_id: Number) -> Response:
    """So many more packs like this one, each with a history of its own."""
    typed = Typed(form, ctx.settings().units)
    many = int(typed.needed("many", "How many", Measure.COUNT, 1, 30))
    typed.check()
    with ctx.book.write():
        pack = hangar.get(Pack, pack_id)
        taken = {one.label for one in hangar.everything(Pack, retired=True)}
        for label in labels_on(pack.label, many, taken):
            alike = {"id": 0, "label": label, "charged_at": None, "mark": "", "cycles_before": 0}
            fresh = Pack.model_validate(pack.model_dump() | alike | {"state": PackState.IN_SERVICE, "condemned": False})
            store_packs.refresh(hangar.save(fresh, ctx.now()), ctx.now())
    return go(request, "packs")
