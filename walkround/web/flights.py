"""The flight of a signed round: countdown, clock and calls, notes from the air, landing, logbook line."""

import json
import secrets
from datetime import datetime
from pathlib import Path
from typing import Any

from fastapi import Request
from starlette.responses import FileResponse, JSONResponse, Response

from walkround.core.aircraft.emergency import emergency_card
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import PilotError, SignedError
from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Measure
from walkround.core.base.wording import minutes_words
from walkround.core.checklist.check import Phase, Station
from walkround.core.flight.flight_clock import FlightClock
from walkround.core.flight.plausible import doubts
from walkround.core.packs.charge import from_reading
from walkround.core.packs.reading import After, Reading
from walkround.core.proving.stages import under_proving
from walkround.core.round.consequences import HAPPENED_WORDS
from walkround.core.round.context import Context
from walkround.core.round.evidence import current
from walkround.core.round.in_air import ROSE, InAir, countdown_s, in_air, point_words
from walkround.core.round.walk import parse_reason
from walkround.store import air_notes, flights, rounds
from walkround.store.air_models import AirNoteRow
from walkround.store.models import FlightRow
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go
from walkround.web.rounds import can_answer, view
from walkround.web.routes import Router

router = Router()
WORKER = Path(__file__).parent / "static" / "js" / "flight" / "worker.js"
LATE_S = (30, 60, 120)
"""So late a landing may have been tapped."""


@router.get("/rounds/{round_id}/flight", name="flight")
def show(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """The flight page: before take-off, in the air, after landing."""
    return _show(request, ctx, round_id)


def _in_air(loaded: OpenRound, settings: Settings, flight: FlightRow | None, notes: list[AirNoteRow]) -> InAir:
    context = Context(loaded.walk.situation, current(loaded.evidence))
    asked = {s.planned.check.id for s in loaded.walk.states if s.planned.check.phase is Phase.AIR}
    read = air_notes.charge_read(flight, notes) if flight is not None else None
    return in_air(context, asked, settings.units, read)


def _millis(moment: datetime) -> int:
    return round(moment.timestamp() * 1000)


def _clock_json(flown: InAir, drawn: "drawings.flight_path.FlightPathDrawn", charges: int) -> dict[str, Any]:
    clock = flown.clock
    return {
        "turn": clock.turn_s,
        "land": clock.land_s,
        "end": drawn.end_s,
        "charges": charges,
        "calls": [{"at": call.at_s, "text": call.text, "tone": call.tone.value} for call in flown.calls],
    }


def _turn_words(clock: FlightClock, percent: float | None) -> str:
    return f"at {minutes_words(clock.turn_s)}" + (f", or {percent:.0f} %" if percent is not None else "")


def _seen_words(notes: list[AirNoteRow], loaded: OpenRound) -> str:
    seen = [note for note in notes if note.kind == "seen"]
    if not seen:
        return ""
    last = seen[-1]
    where = "" if last.bearing_deg is None else point_words(last.bearing_deg)
    at = loaded.walk.situation.local(last.at)
    return f"{at:%H:%M}: {', '.join(part for part in (where, last.words) if part)}."


def _air(
    ctx: AppContext, loaded: OpenRound, settings: Settings, flight: FlightRow | None, notes: list[AirNoteRow]
) -> dict[str, Any]:
    """What the page shows and knows of a flight that has not landed."""
    flown = _in_air(loaded, settings, flight, notes)
    clock, drawn, now = flown.clock, drawings.flight_path.draw_flight_path(flown.clock), ctx.now()
    gone_s = (now - flight.took_off_at).total_seconds() if flight else 0.0
    before = [call.text for call in flown.calls if call.at_s <= gone_s] if flight else []
    request_paths = {name: f"/rounds/{loaded.id}/flight/{name}" for name in ("notes", "state")}
    data = {
        **_clock_json(flown, drawn, _charges(notes)),
        **request_paths,
        "round": loaded.id,
        "scrub": flights.SCRUB.total_seconds(),
        "now": _millis(now),
        "tookOff": _millis(flight.took_off_at) if flight else None,
        "landed": flight is not None and flight.landed_at is not None,
        "zone": loaded.walk.situation.site.timezone,
    }
    handover = Context(loaded.walk.situation, current(loaded.evidence)).handover
    return {
        "handover": handover.words() if handover is not None else "",
        "flight_json": json.dumps(data),
        "path_drawn": drawn,
        "countdown": flown.countdown_s,
        "unknown": flown.unknown,
        "clock_words": {
            "turn": minutes_words(clock.turn_s - max(0.0, gone_s) if gone_s < clock.turn_s else clock.turn_s),
            "land": minutes_words(clock.land_s),
            "flown": minutes_words(max(0.0, gone_s)),
            "turn_words": _turn_words(clock, flown.turn_percent),
            "limit": clock.limit,
        },
        "said_before": before[-1] if before else "",
        "last_seen": _seen_words(notes, loaded),
        "card": emergency_card(loaded.walk.situation.aircraft),
        "figures": drawings.sticks.draw_stops(loaded.walk.situation.aircraft.failsafe, ctx.settings().stick_mode),
        "rose": ROSE,
        "uids": [secrets.token_hex(12) for _ in range(4)],
    }


def _show(request: Request, ctx: AppContextDep, round_id: Number, status: int = 200, **extra: Any) -> Response:
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    if not loaded.signed:
        raise SignedError("Sign the round before you take off.")
    flight = flights.of_round(round_id)
    # Both thumbs fly: what was seen in the air is asked for on the ground.
    landed = flight is not None and flight.landed_at is not None
    states = [s for s in loaded.walk.at(Station.FIRST_MINUTE) if s.planned.check.phase is not Phase.BEFORE]
    current_state = next((s for s in states if landed and can_answer(loaded, s)), None)
    minutes = flight.minutes if flight else None
    situation = loaded.walk.situation
    notes = air_notes.of_round(round_id) if flight is not None else []
    return view(
        request,
        ctx,
        loaded,
        settings,
        Station.FIRST_MINUTE,
        current_state,
        name="flights/_flight.html" if asks_fragment(request) and not landed else "flights/page.html",
        status=status,
        flight=flight,
        minutes=minutes,
        earlier=[(s, minutes - s / 60) for s in LATE_S if minutes is not None and minutes > s / 60],
        still_open=[s.planned.check for s in states if landed and s.evidence is None],
        notes=notes if landed else (),
        proving=under_proving(situation.aircraft, situation.history.aircraft_flown, situation.history.bench_test)
        if landed
        else None,
        known_before=[snag.title for snag in loaded.walk.situation.history.snags],
        can_scrub=flight is not None and ctx.now() - flight.took_off_at <= flights.SCRUB,
        happened=HAPPENED_WORDS,
        **_air(ctx, loaded, settings, flight, notes),
        **extra,
    )


@router.post("/rounds/{round_id}/flight/take-off", name="take_off")
def take_off(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Start the countdown, and the clock after it."""
    settings = ctx.settings()
    situation = rounds.load(round_id, settings, ctx.now()).walk.situation
    seconds = countdown_s(situation.aircraft, situation.methods.launch)
    with ctx.book.write():
        flights.take_off(round_id, ctx.now(), settings.units, countdown_s=seconds)
    if not asks_fragment(request):
        return go(request, "flight", round_id=round_id)
    # The page that was tapped stays the same document: only then may it speak.
    response = _show(request, ctx, round_id)
    response.headers["HX-Push-Url"] = str(request.app.url_path_for("flight", round_id=round_id))
    return response


@router.post("/rounds/{round_id}/flight/scrub", name="scrub")
def scrub(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """It did not take off after all."""
    with ctx.book.write():
        flights.scrub(round_id, ctx.now())
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/notes", name="air_note")
def note(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Landed, a charge, a sighting: from the page, or later from the device that kept it."""
    as_json = request.headers.get("accept") == "application/json"
    typed, now = Typed(form, ctx.settings().units), ctx.now()
    try:
        at = _sent_at(typed.get("at"), now)
        percent = typed.number("percent", "Charge", Measure.PERCENT, 0, 100, optional=True)
        bearing = typed.number("bearing", "Direction", Measure.DEGREE, 0, 359.9, optional=True)
        words = typed.text("words", "Near what", longest=200)
        typed.check()
        with ctx.book.write():
            air_notes.keep(
                round_id,
                typed.get("uid"),
                typed.get("kind"),
                at=at,
                now=now,
                percent=percent,
                bearing_deg=bearing,
                words=words,
            )
    except PilotError as error:
        if as_json:
            return JSONResponse({"error": error.message}, status_of(error))
        raise
    if not as_json:
        return go(request, "flight", round_id=round_id)
    return JSONResponse(_after_note(ctx, round_id))


def _sent_at(text: str, now: datetime) -> datetime:
    """The time a device gave a note, or now where it gave none that can be read."""
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return now
    return at if at.tzinfo is not None else now


def _after_note(ctx: AppContext, round_id: int) -> dict[str, Any]:
    settings, flight, notes = ctx.settings(), flights.of_round(round_id), air_notes.of_round(round_id)
    flown = _in_air(rounds.load(round_id, settings, ctx.now()), settings, flight, notes)
    left_s = max(0.0, flown.clock.turn_s - (ctx.now() - flight.took_off_at).total_seconds()) if flight else 0.0
    return {
        "flight": _clock_json(flown, drawings.flight_path.draw_flight_path(flown.clock), _charges(notes)),
        "turn_words": _turn_words(flown.clock, flown.turn_percent),
        "words": f"Turn back in {minutes_words(left_s)}." if left_s else "Turn back now.",
    }


@router.get("/rounds/{round_id}/flight/state", name="flight_state")
def state(ctx: AppContextDep, round_id: Number, charges: int = 0) -> Response:
    """Whether a flight has landed: asked every few seconds, so that a page knows whether it is alone; with the new times where another
    device has noted more charges than the page knows."""
    flight = flights.of_round(round_id)
    told: dict[str, Any] = {"landed": flight is None or flight.landed_at is not None, "now": _millis(ctx.now())}
    if flight is not None and not told["landed"] and _charges(air_notes.of_round(round_id)) > charges:
        told |= _after_note(ctx, round_id)
    return JSONResponse(told)


def _charges(notes: list[AirNoteRow]) -> int:
    return sum(note.kind == "charge" for note in notes)


@router.post("/rounds/{round_id}/flight/landed-after", name="landed_after")
def landed_after(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """It had landed before the tap."""
    typed = Typed(form, ctx.settings().units)
    minutes = typed.needed("minutes", "Minutes in the air", Measure.MINUTE, 0, 24 * 60)
    typed.check()
    with ctx.book.write():
        flights.landed_after(round_id, minutes)
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/fly-on", name="fly_on")
def fly_on(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Take a tap on *landed* back; the timer goes on from the take-off."""
    with ctx.book.write():
        flights.fly_on(round_id)
    return go(request, "flight", round_id=round_id)


@router.post("/rounds/{round_id}/flight/log", name="log_flight")
def log_flight(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Write the logbook line."""
    typed = Typed(form, ctx.settings().units)
    minutes = typed.needed("minutes", "Minutes in the air", Measure.MINUTE, 0.05, 24 * 60)
    left_percent = typed.number("left_percent", "Pack left", Measure.PERCENT, 0, 100, optional=True)
    left_v = typed.number("left_v", "Voltage left", Measure.VOLT, 0.1, 70, optional=True)
    said = typed.try_("note", lambda: parse_reason(typed.get("note"), "Note", "note", needed=False), "")
    try:
        typed.check()
        odd = () if typed.get("sure") else _doubts(ctx, round_id, minutes, left_percent, left_v)
        if odd:
            return _show(request, ctx, round_id, 422, doubts=odd, typed=typed.raw())
        with ctx.book.write():
            flights.log(
                round_id,
                left_percent=left_percent,
                left_v=left_v,
                happened=typed.get("happened"),
                note=said,
                minutes=minutes,
                at=ctx.now(),
            )
    except PilotError as error:
        return _show(request, ctx, round_id, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "logbook", query="new=1")


def _doubts(
    ctx: AppContext, round_id: int, minutes: float, left_percent: float | None, left_v: float | None
) -> tuple[Phrase, ...]:
    """What does not fit in a line for the logbook: asked about once."""
    loaded, flight = rounds.load(round_id, ctx.settings(), ctx.now()), flights.of_round(round_id)
    context = Context(loaded.walk.situation, current(loaded.evidence))
    pack = loaded.walk.situation.pack
    if left_percent is None and left_v is not None:
        read = from_reading(Reading(at=ctx.now(), total_v=left_v, after=After.FLIGHT, since_min=1), pack)
        left_percent = read.mid if read is not None else None
    known = context.endurance() if loaded.walk.situation.aircraft.has(Trait.ELECTRIC) else None
    timed = flight.minutes if flight is not None else None
    return doubts(minutes, timed_min=timed, left_percent=left_percent, held=context.charge, known=known)


@router.get("/flight-worker.js", name="flight_worker")
def worker() -> Response:
    """What keeps the flight page on the device; it has to stand at the root to see it."""
    return FileResponse(WORKER, media_type="text/javascript", headers={"Cache-Control": "no-cache"})
