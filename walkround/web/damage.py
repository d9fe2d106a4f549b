"""Damage to a part, judged by rule: which part, what, where; the verdict at once, and the snag that follows."""

from urllib.parse import urlencode

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.damage import (
    FIX_FLIGHTS,
    VERDICT_WORDS,
    Bears,
    Damage,
    Material,
    Place,
    Ruled,
    Verdict,
    damage_finding,
    damage_words,
    damageable,
    fixed_before,
    rule,
    same_fixes,
)
from walkround.core.aircraft.part_list import AircraftPart
from walkround.core.base.errors import PilotError
from walkround.core.checklist.history import SnagOn
from walkround.store import hangar, rounds, snags
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.drawings.damage import DRAWN
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.snags import photo_in

router = APIRouter()
LONGEST_NUMBER = 15


class Asked:
    """What is said of the damage so far."""

    def __init__(self, aircraft: Aircraft, typed: Typed) -> None:
        self.aircraft_id = aircraft.id
        self.parts = damageable(aircraft)
        chosen = typed.get("part")
        found = next((one for one in self.parts if one[0].id == chosen), None)
        self.part: AircraftPart | None = None if found is None else found[0]
        self.does: Bears | None = None if found is None else found[1]
        self.damage = next((one for one in Damage if one.name == typed.get("damage")), None)
        self.place = next((one for one in Place if one.name == typed.get("place")), None)
        self.material = next((one for one in Material if one.name == typed.get("material")), None)

    @property
    def ruled(self) -> Ruled | None:
        """The verdict, once part and damage are known."""
        if self.part is None or self.does is None or self.damage is None:
            return None
        ruled = rule(self.does, self.damage, self.place, self.material)
        if ruled.verdict is not Verdict.FIX:
            return ruled
        lately = snags.fixed_lately(self.aircraft_id, self.part.id, FIX_FLIGHTS)
        return fixed_before(ruled, same_fixes(self.part, self.damage, lately))


def _walk_of(typed: Typed, aircraft_id: int) -> int | None:
    """The round in progress that led here, to go back to; None where there is none."""
    given = typed.get("round")
    number = int(given) if given.isascii() and given.isdigit() and len(given) <= LONGEST_NUMBER else 0
    return number if number and rounds.goes_on(number, aircraft_id) else None


def _show(
    request: Request, ctx: AppContext, aircraft: Aircraft, sent: Typed, status: int = 200, **extra: object
) -> Response:
    asked = Asked(aircraft, sent)
    ruled = asked.ruled
    name = "damage/_verdict.html" if asks_fragment(request) and not extra else "damage/page.html"
    return page(
        request, name, ctx.settings(), status,
        aircraft=aircraft, asked=asked, ruled=ruled, drawn=[(kind, DRAWN[kind]) for kind in Damage], wheres=list(Place), materials=list(Material),
        findings=() if ruled is None else (damage_finding(ruled),), words=VERDICT_WORDS,
        round_id=_walk_of(sent, aircraft.id), check_id=sent.get("check"), open_now=[snag for snag in snags.open_ones(aircraft.id) if asked.part is not None and asked.part.id in snag.parts],
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/damage", name="damage")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The page, or the verdict where its own script asks."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id), Typed(request.query_params, ctx.settings().units))  # type: ignore[arg-type]


@router.post("/hangar/aircraft/{aircraft_id}/damage", name="report_damage")
def report(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Put the damage on record as a snag that grounds as the rule says."""
    typed, aircraft = Typed(form, ctx.settings().units), hangar.get(Aircraft, aircraft_id)
    asked = Asked(aircraft, typed)
    if asked.part is None:
        typed.errors["part"] = "Choose the part. It may be gone from the aircraft since this page was opened."
    if asked.damage is None:
        typed.errors["damage"] = "Choose what is wrong; the last one if you are unsure."
    photo = typed.try_("photo", lambda: photo_in(typed), None)
    try:
        typed.check()
        ruled, part, damage = asked.ruled, asked.part, asked.damage
        assert ruled is not None and part is not None and damage is not None
        with ctx.book.write():
            snags.open_one(
                SnagOn.AIRCRAFT,
                aircraft.id,
                damage_words(part, damage, asked.place),
                grounds=ruled.grounds,
                at=ctx.now(),
                parts=(part.id,),
                photo=photo,
            )
    except PilotError as error:
        return _show(request, ctx, aircraft, typed, status_of(error), errors=error.by_field(), typed=typed.raw())
    round_id = _walk_of(typed, aircraft.id)
    if round_id is not None:
        return go(request, "walk", query=urlencode({"check": typed.get("check")}), round_id=round_id)
    return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)
