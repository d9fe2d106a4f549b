"""The compass of an aircraft: due or not and why, where and how to turn it, measured live or from a recording, judged against the Earth's field, and its history."""

import json
from collections.abc import AsyncIterator, Iterator
from itertools import islice
from typing import TYPE_CHECKING, Any
from urllib.parse import urlencode

import anyio
from fastapi import APIRouter, Request
from starlette.responses import Response, StreamingResponse

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.answers.tick import Passed
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.later import Later
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure, Units
from walkround.core.calibration.coach import KEEP_AWAY, WAYS, WHY, Way, holding, next_turn, usual_way
from walkround.core.calibration.compass import BENCH_MOST, CompassCalibration, calibration_of, current_finding, dip_of
from walkround.core.calibration.earth import EarthField
from walkround.core.calibration.ellipsoid import FEWEST, FitKind, fit_ellipsoid
from walkround.core.calibration.samples import IN_UT, FieldUnit, likely_unit, read_samples, read_throttle
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.round.context import Context
from walkround.core.round.due import compass_due
from walkround.core.round.readiness import Subject, readiness
from walkround.core.sensors.devices import FlightController, Frame
from walkround.simulators import device
from walkround.simulators.controller import hold
from walkround.store import calibrations, hangar, rounds
from walkround.store.situation import home_zone
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context, round_asked
from walkround.web.drawings.calibrations import draw_offsets, draw_sphere
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_text
from walkround.web.pages import go, page

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

router = APIRouter()
CHECK = "sensors.compass"
"""The check that a calibration passes. Source: id of the library."""
SECONDS, EVERY, FASTER = 60.0, 25, 3.0
"""A turn is recorded for so many seconds; of so many frames one is shown; the stand-in goes so many times as fast as a hand."""
MAX_FILE, BENCH_S = 60_000_000, 5.0
MOST_KEPT, TURN_DEG, PER_EVENT = 16, 720, 2
"""Turns by hand that are kept; the most a finger turns; frames in one event, so that none is older than 40 ms when it is sent."""
KEPT: dict[tuple[int, int], list[Frame]] = {}
"""The frames of the newest turns by hand, by aircraft and seed: what a finger did cannot be made again."""
MOST_TOLD = 600
"""What is shown while it is turned rests on so many samples, evenly taken; what is kept on all."""


def _site(context: Context | None) -> Site | None:
    return context.situation.site if context is not None else None


def _show(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: Any) -> Response:
    settings = ctx.settings()
    context = aircraft_context(ctx, settings, aircraft.id)
    site = _site(context)
    past = calibrations.compass_ones(aircraft.id)
    way = next((one for one in Way if one.value == request.query_params.get("way")), usual_way(aircraft))
    round_id = round_asked(request.query_params.get("round", ""), aircraft.id)
    return page(
        request, "compass/page.html", settings, status,
        aircraft=aircraft, site=site, zone=home_zone(), field=calibrations.field_at(site, ctx.now()), due=compass_due(context.situation) if context is not None else None,
        sources=_once(readiness(context, ctx.now(), only=(Subject.SOURCES,))) if context is not None else (), keep_away=KEEP_AWAY, why=WHY, ways=list(Way), way=way, turns=WAYS[way],
        holding=holding(aircraft), last=past[0] if past else None, findings=calibrations.judged(past[0], aircraft.id, site) if past else (), past=past,
        drawn=draw_offsets(past), sphere=draw_sphere(), field_units=list(FieldUnit), connected=settings.connected("controller"), seed=int(ctx.now().timestamp()) % 100_000, fewest=FEWEST,
        round_id=round_id, reasons=(EventKind.COMPASS_ASKED, EventKind.METAL_CHANGED), **extra,
    )  # fmt: skip


def _once(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Each sentence once: a source that disturbs two things is still one source."""
    return tuple({finding.reason.say(Units()): finding for finding in findings}.values())


@router.get("/hangar/aircraft/{aircraft_id}/compass", name="compass")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The compass of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


def _frames(ctx: AppContext, field: EarthField, way: Way, seed: int) -> Iterator[Frame]:
    controller = device(FlightController, ctx.settings().devices)
    return controller.frames(way.value, (field.north_ut, field.east_ut, field.down_ut), SECONDS, seed)


def told(frames: list[Frame], dip_deg: float) -> dict[str, Any]:
    """What a page shows while it is turned: sectors that are seen, their share, the fit so far, and which turn comes next."""
    thin = frames[:: max(1, len(frames) // MOST_TOLD)]
    fit = fit_ellipsoid(np.array([frame.field_ut for frame in thin]))
    share = round(100 * fit.covered)
    said = {
        FitKind.NONE: "Too little yet",
        FitKind.OFFSET: "Enough for the offset only",
        FitKind.FULL: "Enough for a full fit",
    }[fit.kind]
    return {
        "at": round(frames[-1].at_s, 2), "sectors": [int(many > 0) for many in fit.sectors], "share": share, "kind": fit.kind.name, "words": f"{said}: {share} % of the directions.",
        "next": next_turn(fit.sectors, dip_deg), "left_out": fit.rejected, "scatter": f"{100 * fit.residual:.1f} %", "many": len(frames), "enough": fit.kind is FitKind.FULL,
    }  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/compass/live", name="compass_live")
async def live(request: Request, ctx: AppContextDep, aircraft_id: Number, way: str = "", seed: int = 0) -> Response:
    """Frames of the flight controller as they come, as server-sent events; a dropped connection goes on where it was."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    site = _site(aircraft_context(ctx, ctx.settings(), aircraft_id))
    field = calibrations.field_at(site, ctx.now())
    if field is None:
        raise InputError(
            "No field is known, or the magnetic model does not reach this date. Paste a recording instead."
        )
    chosen = next((one for one in Way if one.value == way), usual_way(aircraft))
    frames = _frames(ctx, field, chosen, seed)
    begun = whole(request.headers.get("last-event-id", "")) or 0

    async def events() -> AsyncIterator[str]:
        seen: list[Frame] = KEPT.setdefault((aircraft_id, seed), [])
        if len(KEPT) > MOST_KEPT:
            KEPT.pop(next(iter(KEPT)))
        del seen[begun if chosen is Way.BY_HAND else 0 :]
        pause_s = PER_EVENT / 50 / (1.0 if chosen is Way.BY_HAND else FASTER)
        for frame in frames:
            seen.append(frame)
            if len(seen) <= begun:
                continue
            if len(seen) % PER_EVENT == 0:
                yield f"event: frames\ndata: {json.dumps([[round(v, 1) for v in one.field_ut] for one in seen[-PER_EVENT:]])}\n\n"
                await anyio.sleep(pause_s)
            if len(seen) % EVERY == 0 and len(seen) >= FEWEST:
                data = await anyio.to_thread.run_sync(told, list(seen), field.inclination_deg)
                yield f"id: {len(seen)}\ndata: {json.dumps(data)}\n\n"
        yield f"id: {len(seen)}\nevent: done\ndata: {{}}\n\n"

    return StreamingResponse(
        events(), media_type="text/event-stream", headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"}
    )


@router.post("/hangar/aircraft/{aircraft_id}/compass/turn", name="compass_turn")
def turn(ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Turn the stand-in with a finger: roll, pitch and yaw from now on."""
    typed = Typed(form, ctx.settings().units)
    angles = [
        typed.number(name, name.capitalize(), Measure.DEGREE, -TURN_DEG, TURN_DEG) for name in ("roll", "pitch", "yaw")
    ]
    typed.check()
    hold(whole(typed.get("seed")) or 0, *(angle or 0.0 for angle in angles))
    return Response(status_code=204)


def _measured(ctx: AppContext, typed: Typed, aircraft: Aircraft, site: Site | None) -> CompassCalibration:
    """The calibration that a form brings: live, pasted or as a file, typed, or only done. Raises PilotError beside its field."""
    how, now = typed.get("how"), ctx.now()
    about: dict[str, Any] = {
        "site": site.name if site else "",
        "position": site.position if site else None,
        "firmware": aircraft.firmware,
    }
    if how == "live":
        field = calibrations.field_at(site, now)
        way = next((one for one in Way if one.value == typed.get("way")), None)
        if field is None or way is None:
            raise InputError("Start the turn again: no field is known for it.", "samples")
        # The same turn as was shown, as far as it had come.
        seed = whole(typed.get("seed")) or 0
        many = min(whole(typed.get("many")) or int(SECONDS * 50), int(SECONDS * 50))
        turned = KEPT.get((aircraft.id, seed), []) if way is Way.BY_HAND else _frames(ctx, field, way, seed)
        frames = list(islice(turned, many))
        if len(frames) < FEWEST:
            raise InputError("That turn is not here any more. Turn it again.", "samples")
        samples = np.array([frame.field_ut for frame in frames])
        fit = fit_ellipsoid(samples)
        dip = dip_of(fit, samples, -np.array([frame.acceleration_g for frame in frames]))
        return calibration_of(fit, 1.0, at=now, by="simulated flight controller", simulated=True, dip_deg=dip, **about)
    if how == "samples":
        text = typed.get("samples") or uploaded_text(typed.form, "file", MAX_FILE)
        found = read_samples(text)
        unit = next((one for one in FieldUnit if one.value == typed.get("unit")), None) or likely_unit(found.values)
        if unit is None:
            raise InputError("Choose the unit: by their size these numbers may be of several.", "unit")
        fit = fit_ellipsoid(found.values)
        return calibration_of(
            fit, IN_UT[unit], at=now, by="recording", dip_deg=dip_of(fit, found.values, found.down), **about
        )
    if how == "typed":
        return _typed(typed, now, about)
    return CompassCalibration(at=now, by="its own signal", **about)


def _typed(typed: Typed, now: Any, about: dict[str, Any]) -> CompassCalibration:
    one = next((IN_UT[unit] for unit in FieldUnit if unit.value == typed.get("typed_unit")), None)
    if one is None:
        typed.errors["typed_unit"] = "Choose the unit that the screen shows."
    axes = [typed.number(f"offset_{axis}", f"Offset {axis}", Measure.COUNT, -1e6, 1e6, optional=True) for axis in "xyz"]
    strength = typed.number("strength", "Field strength", Measure.COUNT, 0, 1e6, optional=True)
    if any(axis is None for axis in axes) and any(axis is not None for axis in axes):
        typed.errors["offset_x"] = "Enter all three offsets, or none."
    if all(axis is None for axis in axes) and strength is None:
        typed.errors["strength"] = "Enter the offsets or the strength: nothing is typed yet."
    typed.check()
    assert one is not None
    offset = None if axes[0] is None else tuple(float(axis or 0) * one for axis in axes)
    return typed.build(
        CompassCalibration,
        at=now,
        by="typed from the screen",
        offset_ut=offset,
        strength_ut=None if strength is None else max(1e-6, strength * one),
        **about,
    )


@router.post("/hangar/aircraft/{aircraft_id}/compass", name="calibrate_compass")
def calibrate(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Judge and keep a calibration; where a round led here and it passes, its check is answered."""
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    site = _site(aircraft_context(ctx, settings, aircraft_id))
    round_id = round_asked(typed.get("round"), aircraft.id)
    try:
        found = _measured(ctx, typed, aircraft, site)
        with ctx.book.write():
            kept = calibrations.keep(aircraft, found, site, ctx.now())
            if round_id is not None and not kept.simulated and kept.level is not None and kept.level < Level.GROUNDED:
                answer_check(round_id, CHECK, Passed(), ctx)
    except PilotError as error:
        fields = error.by_field()
        if set(fields) == {""}:
            fields = {typed.get("how") if typed.get("how") in ("samples", "typed") else "samples": fields[""]}
        return _show(request, ctx, aircraft, status_of(error), errors=fields, typed=typed.raw())
    return go(
        request,
        "compass",
        query=urlencode(
            {
                "saved": 1,
                **({"way": typed.get("way")} if typed.get("way") else {}),
                **({"round": round_id} if round_id else {}),
            }
        ),
        aircraft_id=aircraft_id,
    )


@router.post("/hangar/aircraft/{aircraft_id}/compass/current", name="compass_current")
def current(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """What current does to the compass: judged from a log of a flight, or on the bench with the propellers off. Nothing is kept of it."""
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    try:
        if typed.get("how") == "bench":
            if typed.get("off") != "1":
                raise InputError("Take the propellers off first, and say so.", "off")
            controller = device(FlightController, settings.devices)
            frames = list(controller.frames("throttle", (20.0, 0.0, 44.0), BENCH_S, 1))
            throttle, strength = (
                [BENCH_MOST * f.throttle for f in frames],
                [float(np.linalg.norm(f.field_ut)) for f in frames],
            )
            found = current_finding(throttle, strength, in_flight=False)
        else:
            log = read_throttle(typed.get("log") or uploaded_text(typed.form, "log_file", MAX_FILE))
            found = current_finding(log.throttle, log.strength, in_flight=True)
    except PilotError as error:
        fields = error.by_field()
        return _show(
            request,
            ctx,
            aircraft,
            status_of(error),
            errors={"log" if name == "" else name: words for name, words in fields.items()},
            typed=typed.raw(),
        )
    return _show(request, ctx, aircraft, current_findings=(found,))


def answer_check(round_id: int, check_id: str, given: Any, ctx: AppContext) -> None:
    """Answer a check of an open round that has it, in the caller's transaction; otherwise nothing."""
    loaded = rounds.load(round_id, ctx.settings(), ctx.now())
    state = next((s for s in loaded.walk.states if s.planned.check.id == check_id), None)
    if state is not None and state.gate is None and loaded.takes(state):
        seen = state.evidence.id if state.evidence is not None else 0
        rounds.answer(round_id, check_id, given, at=ctx.now(), settings=ctx.settings(), seen=seen, loaded=loaded)
