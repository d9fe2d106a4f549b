"""The failsafe of an aircraft: settings as read, what is due, the bench test with its timers, returns flown on purpose."""

from collections.abc import Iterable
from enum import Enum, StrEnum
from typing import TypeVar

from fastapi import Request
from starlette.responses import JSONResponse, Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.emergency import emergency_card
from walkround.core.aircraft.failsafe import (
    LONGEST_DELAY_S,
    Climb,
    Controls,
    Failsafe,
    HomeBy,
    LowBattery,
    StopBy,
    actions,
)
from walkround.core.aircraft.link_trials import BenchTest, Rehearsal, Seen
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import DeviceError, PilotError
from walkround.core.base.units import Measure
from walkround.core.base.wording import capital
from walkround.core.lost_link.bench_test import options, steps, watch_s
from walkround.core.lost_link.failsafe_rules import last_read_words
from walkround.core.lost_link.rehearsals import FEWEST, own_return
from walkround.core.round.failsafe import (
    bench_due,
    bench_findings,
    known_findings,
    last_tested,
    passed_by,
)
from walkround.core.sensors.devices import LinkBench
from walkround.simulators import device
from walkround.store import hangar, link_trials
from walkround.store.situation import home_zone
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()
READ_IN = ("aircraft's app", "transmitter", "receiver", "flight controller", "manual only")


def _pairs(kinds: Iterable[StrEnum], none: str = "") -> list[tuple[str, str]]:
    """What can be chosen: names and words, with nothing chosen first where that has a word."""
    return [*([("", none)] if none else []), *((one.name, capital(one.value)) for one in kinds)]


def _show(request: Request, ctx: AppContext, aircraft_id: int, status: int = 200, **extra: object) -> Response:
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    context, kept = aircraft_context(ctx, settings, aircraft_id), aircraft.failsafe or Failsafe()
    _, flown = link_trials.newest(aircraft_id, ctx.now())
    known = context.failsafe if context is not None else kept
    site = context.situation.site if context is not None else None
    local = None if kept.read_at is None or site is None or context is None else context.situation.local(kept.read_at)
    return page(
        request, "failsafe/page.html", settings, status,
        aircraft=aircraft,
        kept=known,
        findings=known_findings(aircraft, known, context),
        read_words=last_read_words(aircraft.failsafe, site.name if site else "", local or kept.read_at),
        site=site,
        tested=None if context is None else last_tested(context),
        due=None if context is None else bench_due(context),
        returns=aircraft.has(Trait.RETURN_HOME),
        motor=not aircraft.has(Trait.NO_MOTOR),
        choices={
            "action": _pairs(actions(aircraft.kind, aircraft.features()), "Not known"), "controls": _pairs(Controls), "low": _pairs(LowBattery),
            "climb": _pairs(Climb), "stop": _pairs(StopBy, "Not known"), "stop_ground": _pairs(StopBy, "The same"), "read_in": READ_IN,
        },
        home_by=tuple(HomeBy),
        rehearsals=flown,
        own=own_return(flown),
        fewest=FEWEST,
        card=emergency_card(aircraft),
        figures=drawings.sticks.draw_stops(aircraft.failsafe, settings.stick_mode),
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/failsafe", name="failsafe")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The page."""
    return _show(request, ctx, aircraft_id)


E = TypeVar("E", bound=Enum)


def _one(typed: Typed, name: str, label: str, kinds: type[E]) -> E | None:
    """One of the kinds by its name; None where nothing was chosen."""
    chosen = typed.choice(name, label, ["", *(kind.name for kind in kinds)])
    return kinds[chosen] if chosen else None


def _read(typed: Typed, aircraft: Aircraft, site: str, ctx: AppContext) -> Failsafe:
    """The settings as typed. Raises FormErrors."""
    able = {action.name: action for action in actions(aircraft.kind, aircraft.features())}
    action = typed.choice("action", "Failsafe action", ["", *able])

    values: dict[str, object] = {
        "action": able.get(action),
        "delay_s": typed.number("delay", "Delay", Measure.SECOND, 0, LONGEST_DELAY_S, optional=True),
        "throttle_percent": typed.number("throttle", "Throttle", Measure.PERCENT, 0, 100, optional=True),
        "controls": _one(typed, "controls", "Controls", Controls) or Controls.UNKNOWN,
        "stop_air": _one(typed, "stop_air", "Stop in the air", StopBy),
        "stop_ground": _one(typed, "stop_ground", "Stop on the ground", StopBy),
        "stop_hold_s": typed.number("stop_hold", "Held for", Measure.SECOND, 0, 20, optional=True),
        "read_at": ctx.now(),
        "read_by": typed.choice("read_by", "Read in", READ_IN),
        "read_site": site,
    }
    if aircraft.has(Trait.RETURN_HOME):
        values |= {
            "rth_altitude_m": typed.number("rth_altitude", "RTH altitude", Measure.HEIGHT, 1, 500, optional=True),
            "rth_speed_ms": typed.number("rth_speed", "RTH speed", Measure.SPEED, 0.5, 100, optional=True),
            "climb": _one(typed, "climb", "Climb", Climb) or Climb.FIRST,
            "confirm_s": typed.number("confirm", "Confirmation", Measure.SECOND, 0, 600, optional=True),
            "low": _one(typed, "low", "Low battery", LowBattery) or LowBattery.UNKNOWN,
            "low_percent": typed.number("low_percent", "Low battery at", Measure.PERCENT, 0, 100, optional=True),
            "home_start": tuple(by for by in HomeBy if by.name in typed.many("home_start")),
            "home_cancel": tuple(by for by in HomeBy if by.name in typed.many("home_cancel")),
        }
    return typed.build(Failsafe, **values)


@router.post("/hangar/aircraft/{aircraft_id}/failsafe", name="save_failsafe")
def save(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep the settings as read now; what they pass of a round counts as checked today."""
    settings, typed = ctx.settings(), Typed(form, ctx.settings().units)
    try:
        context = aircraft_context(ctx, settings, aircraft_id)
        with ctx.book.write():
            aircraft = hangar.get(Aircraft, aircraft_id)
            read = _read(typed, aircraft, context.situation.site.name if context else "", ctx)
            refuse_stale(typed, aircraft, aircraft.model_copy(update={"failsafe": read}), "failsafe")
            passed = passed_by(context, read) if context is not None else ()
            link_trials.read_settings(aircraft, read, ctx.now(), passed)
    except PilotError as error:
        return _show(request, ctx, aircraft_id, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "failsafe", query="saved=1", aircraft_id=aircraft_id)


@router.post("/hangar/aircraft/{aircraft_id}/rehearsals", name="add_rehearsal")
def add_rehearsal(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep a return flown on purpose, with what was computed for it."""
    settings, typed = ctx.settings(), Typed(form, ctx.settings().units)
    aircraft = hangar.get(Aircraft, aircraft_id)
    distance_m = typed.needed("distance", "Distance", Measure.HEIGHT, 5, 20_000)
    seconds = typed.needed("seconds", "Time", Measure.SECOND, 3, 3_600)
    used = typed.number("used", "Charge used", Measure.PERCENT, 0, 100, optional=True)
    offset_m = typed.needed("offset", "Landing offset", Measure.HEIGHT, 0, 1_000)
    try:
        typed.check()
        context = aircraft_context(ctx, settings, aircraft_id)
        flown = typed.build(
            Rehearsal,
            at=ctx.now(),
            distance_m=distance_m,
            seconds=seconds,
            used_percent=used,
            expected_percent=None if context is None else context.percent_home(distance_m),
            offset_m=offset_m,
        )
        with ctx.book.write():
            link_trials.keep(aircraft.id, flown)
    except PilotError as error:
        return _show(request, ctx, aircraft_id, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "failsafe", query="saved=1", aircraft_id=aircraft_id)


def _bench(
    request: Request,
    ctx: AppContext,
    aircraft: Aircraft,
    status: int = 200,
    last: BenchTest | None = None,
    **extra: object,
) -> Response:
    """The bench test with the last one kept, or with the one just tried."""
    settings = ctx.settings()
    test = last or link_trials.newest(aircraft.id, ctx.now())[0]
    return page(
        request, "failsafe/bench.html", settings, status,
        aircraft=aircraft, steps=steps(aircraft, aircraft.failsafe), seen=options(aircraft),
        watch_s=watch_s(aircraft.failsafe), delay_s=aircraft.failsafe.delay_s if aircraft.failsafe else None,
        zone=home_zone(), simulated=settings.connected("link_bench"), beeper=aircraft.has(Trait.BEEPER), last=test,
        findings=bench_findings(test, aircraft),
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/failsafe/test", name="bench_test")
def show_bench(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The bench test, step by step."""
    return _bench(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.get("/hangar/aircraft/{aircraft_id}/failsafe/reading", name="bench_reading")
def reading(ctx: AppContextDep, aircraft_id: Number) -> Response:
    """What transmitter and receiver on the bench do once the signal is gone: seconds until the failsafe acts and the beeper sounds, null where they do not."""
    aircraft, settings = hangar.get(Aircraft, aircraft_id), ctx.settings()
    delay_s = aircraft.failsafe.delay_s if aircraft.failsafe else None
    try:
        read = device(LinkBench, settings.devices).after_signal_loss(delay_s, watch_s(aircraft.failsafe))
    except DeviceError as error:
        return JSONResponse({"error": error.message}, 503)
    acted = next((one.at_s for one in read if one.acted), None)
    return JSONResponse({"acted": acted, "beeper": next((one.at_s for one in read if one.beeper), None)})


@router.post("/hangar/aircraft/{aircraft_id}/failsafe/test", name="save_bench_test")
def save_bench(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep what was seen. Without its gates confirmed nothing is kept: the test was not done as it must be. Nor what the simulated transmitter and
    receiver did: it says nothing about the aircraft."""
    typed = Typed(form, ctx.settings().units)
    aircraft = hangar.get(Aircraft, aircraft_id)
    open_gates = [
        step for step in steps(aircraft, aircraft.failsafe) if step.gate and step.id not in typed.many("gate")
    ]
    if open_gates:
        typed.errors["gate"] = f"Confirm first: {open_gates[0].words}"
    seen = typed.choice("seen", "What happened", ["", *(one.name for one in options(aircraft))])
    if not seen:
        typed.errors.setdefault("seen", "Say what happened.")
    after = typed.number("after", "Seconds until it acted", Measure.SECOND, 0, 120, optional=True)
    heard = typed.choice("beeper", "Beeper", ["", "yes", "no"])
    try:
        typed.check()
        test = typed.build(
            BenchTest,
            at=ctx.now(),
            seen=Seen[seen],
            after_s=after if Seen[seen].acted else None,
            beeper={"yes": True, "no": False}.get(heard),
        )
        if typed.get("by") == "bench":
            return _bench(request, ctx, aircraft, last=test, tried=True)
        with ctx.book.write():
            link_trials.keep_test(hangar.get(Aircraft, aircraft_id), test)
    except PilotError as error:
        return _bench(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "bench_test", query="saved=1", aircraft_id=aircraft_id)
