"""The walk page: the round in hand, answered check by check."""

import contextlib
from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import MissingError, PilotError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.plain import whole
from walkround.core.base.units import Units
from walkround.core.checklist.check import STATION_TITLES, Phase, Station
from walkround.core.round.answer_words import answer_words
from walkround.core.round.contradictions import DISAGREE, ON_RECORD, OTHER_SIDE
from walkround.core.round.evidence import Evidence
from walkround.core.round.groups import Group, group_of
from walkround.core.round.stages import AT_HOME, left_at_home, minutes_before_take_off, stages_left
from walkround.core.round.touches import AFTER_LANDING, by_touch, one_by_one, parts_of, stop_of
from walkround.core.round.walk import CheckState, Walk, try_answer
from walkround.core.weather.weather import HAND_PHENOMENA
from walkround.store import rounds, touches, withdrawals
from walkround.store.pace import pace
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.answers import page_of, read_answer
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.routes import Router
from walkround.web.works import works_here

router = Router()
_LARGE = (drawings.path.MIDDLE, drawings.path.HALF_WIDTH, drawings.path.HALF_HEIGHT)


def can_answer(loaded: OpenRound, state: CheckState) -> bool:
    """Whether a check is open and answerable now."""
    return state.evidence is None and loaded.takes(state)


def next_open(loaded: OpenRound, after: str) -> CheckState | None:
    """The next check to answer after this one: the rest of its station first, then onwards, then from the start."""
    states = list(loaded.walk.states)
    index = next((i for i, s in enumerate(states) if s.planned.check.id == after), -1)
    here = [s for s in states if index >= 0 and s.planned.check.station is states[index].planned.check.station]
    for state in [*here, *states[index + 1 :], *states[: index + 1]]:
        if can_answer(loaded, state) and state.gate is None:
            return state
    return next((s for s in states if can_answer(loaded, s)), None)


def pick(loaded: OpenRound, station: str, check: str) -> tuple[Station, CheckState | None]:
    """Where the pilot stands and which check is in hand, from what the address asks for."""
    with contextlib.suppress(MissingError):
        if check:
            asked = loaded.walk.state(check)
            return asked.planned.check.station, asked
    if station in set(Station):
        here = Station(station)
        states = loaded.walk.at(here)
        state = next((s for s in states if can_answer(loaded, s)), None)
        return here, state or (states[0] if states else None)
    state = next_open(loaded, "")
    if state is None:
        return Station.FIRST_MINUTE, None
    return state.planned.check.station, state


def view(
    request: Request,
    ctx: AppContext,
    loaded: OpenRound,
    settings: Settings,
    station: Station,
    current: CheckState | None,
    *,
    name: str = "",
    status: int = 200,
    edit: bool = False,
    opened: bool = False,
    **extra: Any,
) -> Response:
    """The walk page, or the parts of it that change after an answer."""
    walk = loaded.walk
    asking = current is not None and loaded.takes(current) and (edit or current.evidence is None)
    group = group_of(walk, current.planned.check.id) if asking and current is not None and not opened else None
    parts = group.parts if group is not None else frozenset((current.planned.check.part,) if current else ()) - {""}
    picture = drawings.aircraft.walked(walk.situation.aircraft, walk.states, parts, *_LARGE)
    pin = next((p.pin for p in picture.parts if p.here), None)
    kind = page_of(current) if current is not None else None
    # Where rotors or sticks are asked about, the large drawing shows them, and its rotors are what is tapped.
    scene = kind.scene(walk.situation.aircraft, *_LARGE) if asking and kind is not None else {}
    shown = kind.shown(loaded, current) if kind is not None and current is not None else {}
    order = list(Station)
    index = order.index(station)
    counts = drawings.path.all_counts(walk, flight=loaded.signed)
    ahead = next_open(loaded, current.planned.check.id if current else "")
    context = {
        "round": loaded,
        "walk": walk,
        "situation": walk.situation,
        "station": station,
        "station_number": index + 1,
        "station_title": STATION_TITLES[station],
        "station_states": walk.at(station),
        "group": group,
        "opened": opened,
        "leave_home": len(left_at_home(walk)) if station in AT_HOME and loaded.state == "open" else 0,
        "grounds_at_home": bool(walk.situation.depth and walk.situation.depth.left_at_home) and station in AT_HOME,
        "minutes_left": minutes_before_take_off(stages_left(walk, pace())) if not loaded.signed else 0.0,
        "two_answers": _two_answers(current),
        "stamp": rounds.stamp_of(loaded.state, loaded.evidence),
        "other_side": _other_side(loaded, current, request),
        **_of_group(walk, group, current),
        "on_drawing": _on_drawing(walk, current) if asking else None,
        "left_here": [check for check in walk.plan.shorter_by if check.station is station],
        "known_here": [known for known in walk.plan.on_record if known[0].station is station],
        "previous_station": order[index - 1] if index else None,
        "next_station": order[index + 1] if index + 1 < len(order) else None,
        "current": current,
        "ahead": ahead,
        "counts": counts[station],
        "path_drawing": drawings.path.footpath(counts, station, pin=pin),
        "strip": drawings.path.strip(counts, station),
        "picture": picture,
        "kind": kind,
        "works_here": works_here(walk.situation.aircraft, current.planned.check.id, settings.stick_mode)
        if asking and current is not None
        else None,
        **scene,
        **shown,
        "edit": edit or (current is not None and current.evidence is None),
        "hand_skies": list(HAND_PHENOMENA),
        "Phase": Phase,
    }
    extra.setdefault("fragment", asks_fragment(request))
    name = name or ("rounds/_parts.html" if asks_fragment(request) else "rounds/walk.html")
    return page(request, name, settings, status, **context, **extra)


def _two_answers(current: CheckState | None) -> list[tuple[Evidence, Phrase]]:
    """Both answers of a check that was answered twice, in words, the worse first."""
    if current is None or current.rival is None or current.evidence is None:
        return []
    check = current.planned.check
    return [(piece, answer_words(piece.answer, check)) for piece in (current.evidence, current.rival)]


def _other_side(loaded: OpenRound, current: CheckState | None, request: Request) -> list[tuple[str, str]]:
    """Where the other side of a contradiction is corrected, each as words and address."""
    if current is None or all(f.name != DISAGREE for f in current.findings):
        return []
    check, walk = current.planned.check, loaded.walk
    here = request.app.url_path_for("walk", round_id=loaded.id)
    listed = {s.planned.check.id: s.planned.check.title for s in walk.states if s.evidence is not None}
    found = [(listed[i], f"{here}?check={i}&edit=1") for i in OTHER_SIDE.get(check.id, ()) if i in listed]
    page_name = ON_RECORD.get(check.id)
    if page_name is not None:
        numbers = {
            "aircraft": {"aircraft_id": walk.situation.aircraft.id},
            "field": {"site_id": walk.situation.site.id},
        }
        found.append(("The record", str(request.app.url_path_for(page_name, **numbers.get(page_name, {})))))
    return found


def _on_drawing(walk: Walk, current: CheckState | None) -> dict[str, Any] | None:
    """Where the check in hand is done on the drawing: its stop, how many parts, and whether one after the other; None where it is not."""
    if current is None or not (
        by_touch(current, walk) or (current.planned.check.id == AFTER_LANDING and current.gate is None)
    ):
        return None
    check_id, aircraft = current.planned.check.id, walk.situation.aircraft
    return {
        "stop": stop_of(check_id, aircraft),
        "parts": len(parts_of(check_id, aircraft)),
        "alone": one_by_one(current, walk),
    }


def _of_group(walk: Walk, group: Group | None, current: CheckState | None) -> dict[str, Any]:
    """What the rows of a group show: its small drawing, its cautions, and what stands with the check in hand."""
    if group is None or current is None:
        return {"with_it": frozenset[str]()}
    return {
        "with_it": frozenset(group.ids) - {current.planned.check.id},
        "group_drawing": drawings.aircraft.small(walk.situation.aircraft, walk.states, group.parts)
        if group.parts
        else None,
    }


@router.get("/rounds/{round_id}", name="walk")
def show(
    request: Request,
    ctx: AppContextDep,
    round_id: Number,
    station: str = "",
    check: str = "",
    edit: bool = False,
    fault: bool = False,
) -> Response:
    """The walk page at a station or check."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    here, current = pick(loaded, station, check)
    return view(request, ctx, loaded, settings, here, current, edit=edit, opened=bool(check), faulty=fault)


@router.get("/rounds/{round_id}/stamp", name="stamp")
def stamp(round_id: Number) -> Response:
    """What the round stands at, so that another device sees when it has gone on."""
    return Response(rounds.stamp(round_id), media_type="text/plain", headers={"Cache-Control": "no-store"})


@router.post("/rounds/{round_id}/checks/{check_id}", name="answer")
def answer(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number, check_id: str) -> Response:
    """Judge and keep an answer; a mistake comes back beside its field with what was typed."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    state = loaded.walk.state(check_id)
    typed = Typed(form, settings.units)
    try:
        given, by = read_answer(ctx, settings, loaded, state, typed)
        seen = whole(typed.get("seen")) or 0
        with ctx.book.write():
            after = rounds.answer(
                round_id, check_id, given, at=ctx.now(), settings=settings, seen=seen, by=by, loaded=loaded
            )
            if state.planned.snag is not None and not after.signed:
                after = touches.refresh(after, ctx.now(), settings)
    except PilotError as error:
        return view(
            request,
            ctx,
            loaded,
            settings,
            state.planned.check.station,
            state,
            status=status_of(error),
            edit=True,
            opened=True,
            errors=error.by_field(),
            offers=error.offer,
            typed=typed.raw(),
        )
    answered = after.walk.state(check_id)
    if finished(after, answered):
        return go(request, "verdict", round_id=round_id)
    current = onward(after, answered)
    said = _measured_words(answered, settings.units) if current is not answered else ""
    begun = _leads_to(after, answered, current)
    return view(request, ctx, after, settings, current.planned.check.station, current, said=said, begun=begun)


def _leads_to(after: OpenRound, answered: CheckState, current: CheckState) -> bool:
    """Whether what was just done is what the check in hand waits for: a count begins by itself then."""
    here, done = current.planned.check.id, answered.planned.check.id
    return current.gate is None and any(here in gate.blocks and done in gate.needs for gate in after.walk.plan.gates)


def _measured_words(answered: CheckState, units: Units) -> str:
    """What was just measured, for a line above the check that follows; "" where nothing was."""
    value = next((finding.value for finding in answered.findings if finding.value is not None), None)
    return "" if value is None else f"{answered.planned.check.title}: {value.say(units)}, clear."


def finished(after: OpenRound, answered: CheckState) -> bool:
    """Whether the last answer completes the round and leaves nothing here to read."""
    return not after.signed and after.walk.verdict.complete and answered.level is Level.CLEAR


def onward(after: OpenRound, answered: CheckState) -> CheckState:
    """Stay where there is something to read; go on by itself after a plain and clear answer."""
    plain = page_of(answered).advances and answered.level is Level.CLEAR
    if not plain:
        return answered
    return next_open(after, answered.planned.check.id) or answered


@router.post("/rounds/{round_id}/checks/{check_id}/preview", name="preview")
def preview(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number, check_id: str) -> Response:
    """Judge what is typed so far, keeping nothing. An unfinished entry is quiet, not a mistake."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    state = loaded.walk.state(check_id)
    findings: tuple[Finding, ...] = ()
    try:
        given, _ = read_answer(ctx, settings, loaded, state, Typed(form, settings.units), device=False)
        piece = Evidence(id=0, check_id=check_id, at=ctx.now(), answer=given)
        findings = try_answer(loaded.walk, check_id, given, piece)
        kind = page_of(state)
        if kind.judged_as_tapped:
            # What was not tapped yet stands in as drawn here: only what is wrong is worth a word.
            findings = tuple(f for f in findings if f.level > Level.CLEAR)
    except PilotError:
        return page(request, "rounds/_findings.html", settings, findings=())
    name, shown = kind.preview(loaded, given) if kind.preview is not None else ("rounds/_findings.html", {})
    return page(request, name, settings, findings=findings, **shown)


@router.post("/rounds/{round_id}/withdraw", name="withdraw")
def withdraw(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Withdraw one of two answers to the same check."""
    settings = ctx.settings()
    piece = whole(Typed(form, settings.units).get("piece")) or 0
    with ctx.book.write():
        after, check_id = withdrawals.withdraw(round_id, piece, at=ctx.now(), settings=settings)
    state = after.walk.state(check_id)
    return view(
        request, ctx, after, settings, state.planned.check.station, state, said="Withdrawn. The other answer counts."
    )


@router.post("/rounds/{round_id}/undo", name="undo")
def undo(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Take back the last answer, the one that the button was shown for."""
    settings = ctx.settings()
    seen = whole(Typed(form, settings.units).get("seen")) or 0
    with ctx.book.write():
        after, check_id = withdrawals.undo(round_id, at=ctx.now(), settings=settings, seen=seen)
    state = after.walk.state(check_id)
    words = f"Undone: {state.planned.check.title}."
    return view(request, ctx, after, settings, state.planned.check.station, state, said=words)
