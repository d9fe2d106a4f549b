"""Damage to a part, judged by rule: which part, what, where; the verdict at once, and the snag that follows."""

from enum import StrEnum
from urllib.parse import urlencode

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.flaws import Damage, Material, Place
from walkround.core.base.errors import PilotError
from walkround.core.checklist.history import SnagOn
from walkround.core.inspection.damage import (
    FIX_FLIGHTS,
    VERDICT_WORDS,
    Ruled,
    Verdict,
    damage_finding,
    damage_words,
    fixed_before,
    rule,
    same_fixes,
)
from walkround.core.inspection.spares import SpareLeft, replaced_id
from walkround.core.inspection.touched import TouchedPart, damageable
from walkround.core.round.touches import TouchState
from walkround.store import hangar, rounds, snags, spares, touches
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import round_asked
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.routes import Router
from walkround.web.snags import photo_in

router = Router()


class Done(StrEnum):
    """What is done about it: put on record, fixed or cleaned on the spot, or replaced with a spare of the bag or with another."""

    RECORD = "record"
    FIXED = "fixed"
    FROM_BAG = "from_bag"
    OTHER = "other"


FIXABLE = (Verdict.CLEAN, Verdict.FIX)
"""What may be put right on the spot. What must be replaced, or grounds, may not."""


class Asked:
    """What is said of the damage so far."""

    def __init__(self, aircraft: Aircraft, typed: Typed) -> None:
        self.aircraft = aircraft
        self.parts = damageable(aircraft)
        chosen = typed.get("part")
        self.part: TouchedPart | None = next((one for one in self.parts if one.id == chosen), None)
        self.damage = next((one for one in Damage if one.name == typed.get("damage")), None)
        self.place = next((one for one in Place if one.name == typed.get("place")), None)
        self.material = next((one for one in Material if one.name == typed.get("material")), None)

    @property
    def ruled(self) -> Ruled | None:
        """The verdict, once part and damage are known."""
        if self.part is None or self.damage is None:
            return None
        ruled = rule(self.part.does, self.damage, self.place, self.material, self.aircraft.tolerances)
        if ruled.verdict is not Verdict.FIX:
            return ruled
        lately = snags.fixed_lately(self.aircraft.id, self.part.id, FIX_FLIGHTS)
        return fixed_before(ruled, same_fixes(self.part, self.damage, lately))

    @property
    def spare(self) -> SpareLeft | None:
        """The spare of the bag for the part, once it is known."""
        return None if self.part is None else spares.left(self.aircraft, self.part)


def _show(
    request: Request, ctx: AppContext, aircraft: Aircraft, sent: Typed, status: int = 200, **extra: object
) -> Response:
    asked = Asked(aircraft, sent)
    ruled = asked.ruled
    name = "damage/_verdict.html" if asks_fragment(request) and not extra else "damage/page.html"
    part_id = asked.part.id if asked.part is not None else ""
    return page(
        request, name, ctx.settings(), status,
        aircraft=aircraft, asked=asked, ruled=ruled, drawn=[(kind, drawings.damage.DRAWN[kind]) for kind in Damage], wheres=list(Place), materials=list(Material),
        findings=() if ruled is None else (damage_finding(ruled),), words=VERDICT_WORDS, fixable=ruled is not None and ruled.verdict in FIXABLE,
        spare=asked.spare if ruled is not None else None, stop=sent.get("stop"), photos=snags.photos_of(aircraft.id, part_id) if part_id else [],
        round_id=round_asked(sent.get("round"), aircraft.id), open_now=[snag for snag in snags.open_ones(aircraft.id) if part_id and part_id in snag.parts],
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/damage", name="damage")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The page, or the verdict where its own script asks."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id), Typed(request.query_params, ctx.settings().units))  # type: ignore[arg-type]


@router.post("/hangar/aircraft/{aircraft_id}/damage", name="report_damage")
def report(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Put the damage on record as a snag that grounds as the rule says, with what was done about it at once."""
    typed, aircraft = Typed(form, ctx.settings().units), hangar.get(Aircraft, aircraft_id)
    asked, settings = Asked(aircraft, typed), ctx.settings()
    if asked.part is None:
        typed.errors["part"] = "Choose the part. It may be gone from the aircraft since this page was opened."
    if asked.damage is None:
        typed.errors["damage"] = "Choose what is wrong; the last one if you are unsure."
    done = next((one for one in Done if one.value == typed.get("done")), Done.RECORD)
    if done is Done.FIXED and asked.ruled is not None and asked.ruled.verdict not in FIXABLE:
        typed.errors["damage"] = "By the rule this is not fixed on the spot. Put it on record, or replace the part."
    photo = typed.try_("photo", lambda: photo_in(typed), None)
    round_id = round_asked(typed.get("round"), aircraft.id)
    try:
        typed.check()
        ruled, part, damage = asked.ruled, asked.part, asked.damage
        assert ruled is not None and part is not None and damage is not None
        loaded = rounds.load(round_id, settings, ctx.now()) if round_id is not None else None
        with ctx.book.write():
            number = snags.open_one(
                SnagOn.AIRCRAFT,
                aircraft.id,
                damage_words(part, damage, asked.place),
                grounds=ruled.grounds,
                at=ctx.now(),
                parts=(part.id,),
                photo=photo,
            )
            if done is Done.FIXED:
                snags.close(number, "Fixed on the spot", ctx.now())
            elif done is not Done.RECORD:
                spares.fit(
                    aircraft,
                    part,
                    from_bag=done is Done.FROM_BAG,
                    why=damage_words(part, damage, asked.place),
                    at=ctx.now(),
                )
            if loaded is not None:
                _touch(loaded, aircraft, part, done, ctx)
    except PilotError as error:
        return _show(request, ctx, aircraft, typed, status_of(error), errors=error.by_field(), typed=typed.raw())
    then = {} if done is Done.RECORD or not ruled.after else {"then": ruled.after}
    if round_id is not None:
        return go(request, "touch", query=urlencode({"stop": typed.get("stop"), **then}), round_id=round_id)
    if done is Done.RECORD:
        return go(request, "aircraft", query="saved=1", aircraft_id=aircraft_id)
    return go(request, "part", query=urlencode({"part_id": part.id, **then}), aircraft_id=aircraft_id)


def _touch(loaded: OpenRound, aircraft: Aircraft, part: TouchedPart, done: Done, ctx: AppContext) -> None:
    """How the part is left in the round: damaged or fixed; what came new is touched anew. A round that is signed, or not unplugged, only gets the snag."""
    if loaded.state != "open" or part.id not in touches.listed(loaded, ctx.now()) or not touches.is_cold(loaded):
        return
    settings, after = ctx.settings(), loaded
    if done in (Done.FROM_BAG, Done.OTHER):
        replaced = spares.within(touches.of_round(loaded.id), replaced_id(aircraft, part))
        after = touches.open_again(loaded, replaced, at=ctx.now(), settings=settings)
    state = TouchState.DAMAGED if done is Done.RECORD else TouchState.FIXED
    touches.keep(after, (part.id,), state, at=ctx.now(), settings=settings)
