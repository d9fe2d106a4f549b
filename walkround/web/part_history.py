"""A part with its history; and what a pilot says of the parts of an aircraft: which it has, what its maker allows, how long they last."""

from datetime import UTC, datetime, time
from typing import Any
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.flaws import Bears, Damage, Life, OwnPart, Place, Tolerance
from walkround.core.aircraft.parts import Part
from walkround.core.base.errors import MissingError, PilotError
from walkround.core.base.units import Measure
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.spares import kind_of, replaced_id
from walkround.core.inspection.touched import TouchedPart, damageable
from walkround.core.inspection.wear import LIVES, limit_of, worn_parts
from walkround.core.round.touches import suspect_since
from walkround.core.round.walk import parse_reason
from walkround.store import hangar, part_ages, parts, snags, spares
from walkround.store.situation import home_zone
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()


def _part(aircraft: Aircraft, part_id: str) -> TouchedPart:
    found = next((part for part in damageable(aircraft) if part.id == part_id), None)
    if found is None:
        raise MissingError("This aircraft has no such part.")
    return found


def _show(
    request: Request, ctx: AppContext, aircraft: Aircraft, part: TouchedPart, status: int = 200, **extra: Any
) -> Response:
    age = part_ages.ages(aircraft, (part,), ctx.now())[part.id]
    return page(
        request, "parts/part.html", ctx.settings(), status,
        aircraft=aircraft, part=part, age=age, zone=home_zone(), spare=spares.left(aircraft, part), replaced=replaced_id(aircraft, part),
        findings=[one.finding() for one in worn_parts(aircraft, (part,), {part.id: age}, ctx.now())],
        lives=[(rule, limit_of(rule, aircraft.lives)) for rule in LIVES if rule.fits(part, aircraft)], refits=part.aspect is Aspect.LOCK,
        open_now=[snag for snag in snags.open_ones(aircraft.id) if part.id in snag.parts],
        closed=snags.closed_on(aircraft.id, part.id),
        suspect=suspect_since(part, hangar.latest_events(aircraft.id, ctx.now()), age.touched_at),
        photos=snags.with_photo(), then=request.query_params.get("then", "")[:120], **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/part", name="part")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number, part_id: str = "") -> Response:
    """One part: its age, what wears, and every finding."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    return _show(request, ctx, aircraft, _part(aircraft, part_id))


@router.post("/hangar/aircraft/{aircraft_id}/part", name="replace_part")
def replace(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Replace a part, from the bag or with another; or say since when it has been on."""
    aircraft, typed = hangar.get(Aircraft, aircraft_id), Typed(form, ctx.settings().units)
    part = _part(aircraft, typed.get("part_id"))
    try:
        if typed.get("done") == "fitted":
            if not typed.get("fitted"):
                typed.errors["fitted"] = "Enter the day."
            day = typed.day("fitted", "Fitted on", ctx.now().date())
            at = datetime.combine(day, time(), ZoneInfo(home_zone())).astimezone(UTC)
            if at > ctx.now():
                typed.errors["fitted"] = "Enter a day that is not ahead."
            typed.check()
            replaced = replaced_id(aircraft, part)
            with ctx.book.write():
                parts.fit(
                    aircraft.id,
                    Part(kind=kind_of(aircraft, replaced), part_id=replaced, name=part.name[:60], fitted_at=at),
                )
        else:
            why = parse_reason(typed.get("why"), "Reason", "why", needed=True)
            with ctx.book.write():
                spares.fit(aircraft, part, from_bag=typed.get("done") == "from_bag", why=why, at=ctx.now())
    except PilotError as error:
        return _show(request, ctx, aircraft, part, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "part", query=f"part_id={part.id}&saved=1", aircraft_id=aircraft_id)


def _page(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: Any) -> Response:
    listed = damageable(aircraft)
    whole = damageable(aircraft.model_copy(update={"without_parts": frozenset()}))
    ages = part_ages.ages(aircraft, listed, ctx.now())
    marked = {part for snag in snags.open_ones(aircraft.id) for part in snag.parts}
    return page(
        request, "parts/setup.html", ctx.settings(), status,
        aircraft=aircraft, parts=listed, ages=ages, marked=marked, zone=home_zone(),
        worn={one.part.id: one for one in worn_parts(aircraft, listed, ages, ctx.now())},
        gone=[part for part in whole if part.id in aircraft.without_parts], bears=list(Bears), damages=list(Damage), wheres=list(Place),
        lives=[(rule, limit_of(rule, aircraft.lives)) for rule in LIVES if any(rule.fits(part, aircraft) for part in listed)],
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/inspection", name="inspection")
def inspection(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """Every part of an aircraft with its age, and what its pilot says of them."""
    return _page(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post("/hangar/aircraft/{aircraft_id}/inspection", name="save_inspection")
def save(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Add or take away a part, enter what the maker allows, change a life; one change at a time."""
    aircraft, typed = hangar.get(Aircraft, aircraft_id), Typed(form, ctx.settings().units)
    change = _CHANGES.get(typed.get("change"))
    try:
        if change is None:
            raise MissingError("That button is not known here. Load the page again.")
        values = change(aircraft, typed)
        typed.check()
        with ctx.book.write():
            changed = typed.build(Aircraft, **(hangar.get(Aircraft, aircraft_id).model_dump() | values))
            refuse_stale(typed, aircraft, changed, "inspection")
            hangar.save(changed, ctx.now())
    except PilotError as error:
        return _page(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "inspection", query="saved=1", aircraft_id=aircraft_id)


def _add(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    name = typed.text("name", "Name", longest=40)
    does = next((one for one in Bears if one.name == typed.get("does")), None)
    if not name:
        typed.errors["name"] = "Enter what the part is called."
    if does is None:
        typed.errors["does"] = "Choose what it does. If it carries load, say so: its rules are stricter."
    typed.check()
    assert does is not None
    used = [int(one.id.removeprefix("own-")) for one in aircraft.own_parts]
    return {"own_parts": (*aircraft.own_parts, OwnPart(id=f"own-{max(used, default=0) + 1}", name=name, does=does))}


def _take_away(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    part = _part(aircraft, typed.get("part_id"))
    if part.id.startswith("own-"):
        return {"own_parts": tuple(one for one in aircraft.own_parts if one.id != part.id)}
    return {"without_parts": aircraft.without_parts | {part.id}}


def _bring_back(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    return {"without_parts": aircraft.without_parts - {typed.get("part_id")}}


def _allow(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    does = next((one for one in Bears if one.name == typed.get("allow_does")), None)
    damage = next((one for one in Damage if one.name == typed.get("allow_damage")), None)
    words, source = typed.text("words", "What is allowed", longest=120), typed.text("source", "Source", longest=120)
    for name, value, ask in (
        ("allow_does", does, "Choose what kind of part."), ("allow_damage", damage, "Choose the damage."),
        ("words", words, "Enter what the maker allows, with its number."), ("source", source, "Enter the manual and its page."),
    ):  # fmt: skip
        if not value:
            typed.errors[name] = ask
    typed.check()
    assert does is not None and damage is not None
    place = next((one for one in Place if one.name == typed.get("allow_place")), None)
    allowed = typed.build(Tolerance, does=does, damage=damage, place=place, words=words, source=source)
    return {"tolerances": (*aircraft.tolerances, allowed)}


def _forbid(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    number = typed.get("number")
    return {"tolerances": tuple(one for i, one in enumerate(aircraft.tolerances) if str(i) != number)}


def _lives(aircraft: Aircraft, typed: Typed) -> dict[str, Any]:
    kept = []
    for rule in LIVES:
        given = typed.get(f"life-{rule.name}")
        if not given:
            continue
        limit = typed.number(f"life-{rule.name}", rule.words, Measure.COUNT, 1, 100_000)
        if limit is not None and limit != rule.limit:
            kept.append(Life(rule=rule.name, limit=limit))
    return {"lives": tuple(kept)}


_CHANGES = {"add": _add, "away": _take_away, "back": _bring_back, "allow": _allow, "forbid": _forbid, "lives": _lives}
