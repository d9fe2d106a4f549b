"""Level, still and heading of an aircraft: six positions against gravity, a still start by its gyro, and the heading against the sun, a landmark or a hand compass."""

import json
import math
from collections.abc import AsyncIterator
from typing import TYPE_CHECKING, Any

import anyio
from fastapi import Request
from starlette.responses import Response, StreamingResponse

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.base.clock import is_ahead
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.later import Later
from walkround.core.base.units import Measure
from walkround.core.calibration.earth import field_at, gravity_ms2, here_at
from walkround.core.calibration.heading import NEVER, Against, apart_deg, heading_finding, landmarks, shadow, true_deg
from walkround.core.calibration.height import altitude_finding, drift_findings, optical_findings, rest_findings
from walkround.core.calibration.level import Held, LevelCalibration, Position6, fit_level, held, level_calibration
from walkround.core.calibration.still import (
    LONGEST_S,
    NEEDED_S,
    STILL_DPS,
    StillStart,
    StillTimer,
    slow_after_s,
    start_finding,
    usual_s,
)
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.field.sun import sun_height_deg
from walkround.core.round.context import Context
from walkround.core.round.due import accelerometer_due, optical_due
from walkround.core.sensors.devices import FlightController
from walkround.simulators import device
from walkround.store import calibrations, hangar
from walkround.store.situation import home_zone
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context, round_asked
from walkround.web.compass import answer_check
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

router = Router()
LEVEL_CHECK, HEADING_CHECK = "sensors.accelerometer", "sensors.heading"
"""The checks that are answered here. Source: ids of the library."""
UNKNOWN = (math.nan,) * 3
HELD_S, STILL_S, REST_S, FASTER = 2.0, NEEDED_S, 90.0, 3.0


def _snow(context: Context | None) -> bool:
    """Whether snow falls, by the weather of the next flight."""
    weather = context.situation.weather if context is not None else None
    return weather is not None and any("SN" in one.code for one in weather.phenomena or ())


def _site(ctx: AppContext, aircraft: Aircraft) -> Site | None:
    context = aircraft_context(ctx, ctx.settings(), aircraft.id)
    return context.situation.site if context is not None else None


def _past(text: str) -> tuple[Held, ...]:
    """The positions that the form carries; what cannot be one is left out."""
    try:
        return tuple(
            Held(
                position=Position6(one["position"]),
                mean=_three(one["mean"]),
                sd=_three(one["sd"]),
                read=bool(one.get("read")),
            )
            for one in json.loads(text or "[]")[:6]
        )
    except (ValueError, KeyError, TypeError):
        return ()


def _three(values: list[float]) -> tuple[float, float, float]:
    x, y, z = (float(value) for value in values)
    return (x, y, z)


def _text(positions: tuple[Held, ...]) -> str:
    return json.dumps(
        [{"position": one.position.value, "mean": one.mean, "sd": one.sd, "read": one.read} for one in positions]
    )


def _show(
    request: Request,
    ctx: AppContext,
    aircraft: Aircraft,
    positions: tuple[Held, ...] = (),
    status: int = 200,
    **extra: Any,
) -> Response:
    settings = ctx.settings()
    context = aircraft_context(ctx, settings, aircraft.id)
    site = context.situation.site if context is not None else None
    past = calibrations.level_ones(aircraft.id)
    have = {one.position for one in positions}
    starts = calibrations.starts(aircraft.id)
    usual = usual_s(one for one in starts if not is_ahead(one.at, ctx.now()))
    return page(
        request, "compass/level.html", settings, status,
        aircraft=aircraft, site=site, zone=home_zone(), due=accelerometer_due(context.situation) if context is not None else None, all_six=list(Position6), have=have,
        unsteady=EventKind.UNSTEADY, following=next((one for one in Position6 if one not in have), None), carried=_text(positions), past=past, last=past[0] if past else None,
        findings=calibrations.judged(past[0], aircraft.id, site) if past else (), connected=settings.connected("controller"),
        optical=optical_findings(site, sun_height_deg(site.position, ctx.now()), snow=_snow(context)) if site is not None and aircraft.has(Trait.OBSTACLE_SENSORS) else (),
        gravity=gravity_ms2(site.position.lat_deg, site.elevation_m) if site is not None else None, still_s=STILL_S,
        optical_due=optical_due(context.situation) if context is not None else None, optical_event=EventKind.OPTICAL_CALIBRATED,
        optical_last=context.situation.history.latest(EventKind.OPTICAL_CALIBRATED) if context is not None else None,
        usual_s=usual, late_s=None if usual is None else slow_after_s(usual), starts=starts[:5],
        said_of_start=start_finding(starts[0].seconds, usual_s(starts[1:])) if starts else None,
        round_id=round_asked(request.query_params.get("round", ""), aircraft.id), **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/level", name="level")
def show_level(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The accelerometer of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post("/hangar/aircraft/{aircraft_id}/level", name="calibrate_level")
def calibrate_level(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Read the next position, or keep the six; or keep the tilt of a level surface."""
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    positions, site = _past(typed.get("carried")), _site(ctx, aircraft)
    round_id = round_asked(typed.get("round"), aircraft.id)
    about: dict[str, Any] = {"site": site.name if site is not None else ""}
    try:
        if typed.get("how") == "tilt":
            tilt = typed.needed("tilt", "Tilt", Measure.DEGREE, -90, 90)
            typed.check()
            found = LevelCalibration(at=ctx.now(), by="typed from the screen", tilt_deg=tilt, **about)
        else:
            positions = _one_more(ctx, typed, positions)
            if len(positions) < len(Position6):
                return _show(request, ctx, aircraft, positions)
            simulated = any(one.read for one in positions)
            by = "simulated flight controller" if simulated else "typed from the screen"
            found = level_calibration(fit_level(positions, 1.0), at=ctx.now(), by=by, simulated=simulated, **about)
        with ctx.book.write():
            kept = calibrations.keep(aircraft, found, site, ctx.now())
            if round_id is not None and not kept.simulated and kept.level is not None and kept.level < Level.GROUNDED:
                answer_check(round_id, LEVEL_CHECK, Passed(), ctx)
    except PilotError as error:
        fields = error.by_field()
        return _show(request, ctx, aircraft, positions, status_of(error), errors=fields, typed=typed.raw())
    return go(request, "level", query=f"saved=1{f'&round={round_id}' if round_id else ''}", aircraft_id=aircraft_id)


def _one_more(ctx: AppContext, typed: Typed, positions: tuple[Held, ...]) -> tuple[Held, ...]:
    """The positions with the next one, read from the flight controller or typed. Raises PilotError while it moves, and for one that was held already."""
    position = next((one for one in Position6 if one not in {p.position for p in positions}), None)
    if position is None:
        return positions
    if typed.get("how") == "typed":
        values = [typed.number(f"acc_{axis}", axis.upper(), Measure.COUNT, -4, 4) for axis in "xyz"]
        typed.check()
        samples = np.tile(np.array(values, float), (5, 1))
    else:
        controller = device(FlightController, ctx.settings().devices)
        frames = controller.frames(position.value, here_at(None, ctx.now(), None), HELD_S, len(positions))
        samples = np.array([frame.acceleration_g for frame in frames if frame.acceleration_g is not None])
    return (*positions, held(position, samples, positions, 1.0, read=typed.get("how") != "typed"))


@router.get("/hangar/aircraft/{aircraft_id}/still", name="still_live")
async def still(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """A still start as it runs, as server-sent events: the seconds it has been quiet, begun anew when it moves."""
    hangar.get(Aircraft, aircraft_id)
    controller = device(FlightController, ctx.settings().devices)
    frames = controller.frames("still", here_at(None, ctx.now(), None), STILL_S * 3, 4)

    async def events() -> AsyncIterator[str]:
        timer = StillTimer(needed_s=STILL_S)
        for number, frame in enumerate(frames, 1):
            timer = timer.after(frame.at_s, frame.turning_dps or UNKNOWN)
            if number % 10 and not timer.done:
                continue
            data = {
                "quiet": round(timer.quiet_s(frame.at_s), 1),
                "needed": STILL_S,
                "moved": timer.moved,
                "done": timer.done,
                "limit": STILL_DPS,
            }
            yield f"id: {number}\ndata: {json.dumps(data)}\n\n"
            if timer.done:
                return
            await anyio.sleep(10 / 50 / FASTER)

    return StreamingResponse(events(), media_type="text/event-stream", headers={"Cache-Control": "no-store"})


@router.post("/hangar/aircraft/{aircraft_id}/level/start", name="time_start")
def time_start(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep after how many seconds the aircraft gave its own signal."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    seconds = typed.needed("start_s", "Seconds", Measure.SECOND, 0.5, LONGEST_S)
    try:
        typed.check()
    except PilotError as error:
        return _show(request, ctx, aircraft, status=status_of(error), errors=error.by_field(), typed=typed.raw())
    with ctx.book.write():
        calibrations.keep_start(aircraft.id, StillStart(at=ctx.now(), seconds=seconds))
    return go(request, "level", query="saved=1", aircraft_id=aircraft_id)


@router.post("/hangar/aircraft/{aircraft_id}/level/rest", name="height_at_rest")
def height_at_rest(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Judge a height that was read twice at rest on the ground, or the pressure that the flight controller reports there. Nothing is kept of it."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    context = aircraft_context(ctx, ctx.settings(), aircraft.id)
    weather = context.situation.weather if context is not None else None
    site = context.situation.site if context is not None else None
    qnh = weather.qnh_hpa if weather is not None else None
    try:
        if typed.get("how") == "read":
            controller = device(FlightController, ctx.settings().devices)
            frames = controller.frames("still", here_at(site, ctx.now(), qnh), REST_S, 6)
            rest = drift_findings([(f.at_s, f.pressure_hpa) for f in frames if f.pressure_hpa is not None])
        else:
            rest = _typed_rest(typed, site, qnh)
    except PilotError as error:
        return _show(request, ctx, aircraft, status=status_of(error), errors=error.by_field(), typed=typed.raw())
    return _show(request, ctx, aircraft, rest=rest, typed=typed.raw())


def _typed_rest(typed: Typed, site: Site | None, qnh: float | None) -> tuple[Finding, ...]:
    """Two heights at rest as typed, and the height above the sea where it was read too."""
    first, last = (
        typed.needed(name, label, Measure.HEIGHT, -500, 500)
        for name, label in (("first", "First height"), ("last", "Second height"))
    )
    minutes = typed.needed("minutes", "Minutes between", Measure.MINUTE, 0, 120)
    sea = typed.number("sea", "Height above the sea", Measure.HEIGHT, -500, 9_000, optional=True)
    set_hpa = typed.number("set", "Pressure setting", Measure.PRESSURE, 850, 1_090, optional=True)
    if (sea is None) != (set_hpa is None):
        typed.errors["sea"] = "Enter the height above the sea and its pressure setting, or neither."
    typed.check()
    rest = rest_findings(first, last, minutes)
    if sea is None or set_hpa is None or site is None:
        return rest
    return (*rest, altitude_finding(sea, site.elevation_m, set_hpa, qnh if qnh is not None else set_hpa))


def _heading_page(
    request: Request,
    ctx: AppContext,
    aircraft: Aircraft,
    against: Against | None = None,
    status: int = 200,
    **extra: Any,
) -> Response:
    settings, site = ctx.settings(), _site(ctx, aircraft)
    field = field_at(site, ctx.now())
    return page(
        request, "compass/heading.html", settings, status,
        aircraft=aircraft, site=site, field=field, landmarks=landmarks(site) if site is not None else (), shade=shadow(site.position, ctx.now()) if site is not None else None, never=NEVER, againsts=list(Against),
        against=against or next((one for one in Against if one.name == request.query_params.get("against")), Against.SHADOW),
        round_id=round_asked(request.query_params.get("round", ""), aircraft.id), **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/heading", name="heading")
def show_heading(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The heading check."""
    return _heading_page(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post("/hangar/aircraft/{aircraft_id}/heading", name="check_heading")
def check_heading(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Compare the heading that the screen shows with a known one; in a round that answers its check."""
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    typed, site = Typed(form, settings.units), _site(ctx, aircraft)
    against = next((one for one in Against if one.name == typed.get("against")), Against.SHADOW)
    shown = typed.needed("shown", "Heading on the screen", Measure.DEGREE, 0, 360)
    round_id = round_asked(typed.get("round"), aircraft.id)
    try:
        known, known_is_true = _known(ctx, typed, against, site)
        typed.check()
        field = field_at(site, ctx.now())
        shown_is_true = typed.get("shown_is") == "true"
        if field is None and shown_is_true != known_is_true:
            raise InputError(
                "No declination is known here. Compare two that are both true, or both magnetic.", "shown_is"
            )
        declination = 0.0 if field is None else field.declination_deg
        finding = heading_finding(
            shown, known, declination, shown_is_true=shown_is_true, known_is_true=known_is_true, against=against
        )
        off = abs(
            apart_deg(
                true_deg(known, declination, is_true=known_is_true), true_deg(shown, declination, is_true=shown_is_true)
            )
        )
        if round_id is not None:
            with ctx.book.write():
                answer_check(round_id, HEADING_CHECK, Measured(value=round(off, 1)), ctx)
    except PilotError as error:
        return _heading_page(
            request, ctx, aircraft, against, status_of(error), errors=error.by_field(), typed=typed.raw()
        )
    return _heading_page(
        request, ctx, aircraft, against, findings=(finding,), typed=typed.raw(), answered=round_id is not None
    )


def _known(ctx: AppContext, typed: Typed, against: Against, site: Site | None) -> tuple[float, bool]:
    """The heading it is compared with in degrees, and whether it is true: the shadow now, or what was typed."""
    if against is Against.SHADOW:
        shade = shadow(site.position, ctx.now()) if site is not None else None
        if shade is None:
            raise InputError(
                "The sun is too low or too high for a shadow, or no field is known. Compare with a landmark or a hand compass.",
                "against",
            )
        return (shade.bearing_deg + (180 if typed.get("points") == "sun" else 0)) % 360, True
    if against is Against.LANDMARK and typed.get("mark"):
        chosen = next((one for one in landmarks(site) if str(one.id) == typed.get("mark")), None) if site else None
        if chosen is None:
            raise InputError("That landmark is not on the plan any more. Choose another.", "mark")
        return chosen.bearing_deg, True
    known = typed.needed("known", "Known direction", Measure.DEGREE, 0, 360)
    return known, against is Against.LANDMARK or typed.get("known_is") == "true"
