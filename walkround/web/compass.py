"""The compass of an aircraft: due or not and why, where and how to turn it, measured live or from a recording, judged against the Earth's field, and its history."""

from itertools import islice
from typing import TYPE_CHECKING, Any
from urllib.parse import urlencode

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.lights import Blink, Colour, Light, Shows, Turning
from walkround.core.answers.tick import Passed
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.later import Later
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure, Units
from walkround.core.calibration.coach import (
    KEEP_AWAY,
    SPEED,
    WAYS,
    WHY,
    Way,
    after_failing,
    holding,
    lit,
    usual_way,
)
from walkround.core.calibration.compass import BENCH_MOST, CompassCalibration, calibration_of, current_finding, dip_of
from walkround.core.calibration.earth import field_at, here_at
from walkround.core.calibration.ellipsoid import FEWEST, fit_ellipsoid
from walkround.core.calibration.recorded import throttle_and_field
from walkround.core.calibration.samples import IN_UT, FieldUnit, likely_unit, read_samples, read_throttle
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.core.round.context import Context
from walkround.core.round.due import compass_due
from walkround.core.round.readiness import Subject, readiness
from walkround.core.sensors.devices import FlightController
from walkround.core.sensors.recording import as_recording
from walkround.simulators import device
from walkround.store import calibrations, hangar, recordings, rounds
from walkround.store.situation import home_zone
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context, round_asked
from walkround.web.compass_live import KEPT, SPEEDS, Turned, frames_of, source_of
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_bytes, uploaded_name, uploaded_text
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.security import MAX_RECORDING_BYTES

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

router = Router()
CHECK = "sensors.compass"
"""The check that a calibration passes. Source: id of the library."""
BENCH_S = 5.0


def _site(context: Context | None) -> Site | None:
    return context.situation.site if context is not None else None


def _show(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: Any) -> Response:
    settings = ctx.settings()
    context = aircraft_context(ctx, settings, aircraft.id)
    site = _site(context)
    past = calibrations.compass_ones(aircraft.id)
    way = next((one for one in Way if one.value == request.query_params.get("way")), usual_way(aircraft))
    round_id = round_asked(request.query_params.get("round", ""), aircraft.id)
    number = whole(request.query_params.get("recording", ""))
    steps = WAYS[way]
    return page(
        request, "compass/page.html", settings, status,
        aircraft=aircraft, site=site, zone=home_zone(), field=field_at(site, ctx.now()), due=compass_due(context.situation) if context is not None else None,
        sources=_once(readiness(context, ctx.now(), only=(Subject.SOURCES,))) if context is not None else (), keep_away=KEEP_AWAY, why=WHY, ways=list(Way), way=way,
        turns=[(turn, lit(aircraft, i, len(steps))) for i, turn in enumerate(steps)], speed=SPEED, turning=aircraft.turning, done=aircraft.turning.light(Shows.DONE),
        not_done=aircraft.turning.light(Shows.FAILED), after_failing=after_failing(1), all_shows=list(Shows), colours=list(Colour), blinks=list(Blink), speeds=SPEEDS,
        playing=recordings.get(aircraft.id, number) if number is not None else None, holding=holding(aircraft), last=past[0] if past else None, findings=calibrations.judged(past[0], aircraft.id, site) if past else (), past=past,
        drawn=drawings.calibrations.draw_offsets(past), sphere=drawings.calibrations.draw_sphere(), field_units=list(FieldUnit), connected=settings.connected("controller"), seed=int(ctx.now().timestamp()) % 100_000, fewest=FEWEST,
        round_id=round_id, reasons=(EventKind.COMPASS_ASKED, EventKind.METAL_CHANGED), **extra,
    )  # fmt: skip


def _once(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Each sentence once: a source that disturbs two things is still one source."""
    return tuple({finding.reason.say(Units()): finding for finding in findings}.values())


@router.get("/hangar/aircraft/{aircraft_id}/compass", name="compass")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The compass of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


Measured = tuple[CompassCalibration, recordings.Coming | None]
"""A calibration, and the recording that is to be kept with it."""


def _measured(ctx: AppContext, typed: Typed, aircraft: Aircraft, site: Site | None) -> Measured:
    """The calibration that a form brings: live, pasted or as a file, typed, or only its light. Raises PilotError beside its field."""
    how, now = typed.get("how"), ctx.now()
    about: dict[str, Any] = {
        "site": site.name if site else "",
        "position": site.position if site else None,
        "firmware": aircraft.firmware,
    }
    if how == "live":
        return _of_turn(ctx, typed, aircraft, about)
    if how == "samples":
        text = _pasted(typed)
        found = read_samples(text)
        unit = next((one for one in FieldUnit if one.value == typed.get("unit")), None) or likely_unit(found.values)
        if unit is None:
            raise InputError("Choose the unit: by their size these numbers may be of several.", "unit")
        fit = fit_ellipsoid(found.values)
        new = recordings.coming(text, uploaded_name(typed.form, "file"))
        dip = dip_of(fit, found.values, found.down)
        return calibration_of(fit, IN_UT[unit], at=now, by="recording", simulated=new.simulated, dip=dip, **about), new
    if how == "typed":
        return _typed(typed, now, about), None
    failed = typed.get("light") == "failed"
    times = calibrations.failed_in_a_row(aircraft.id) + 1 if failed else 0
    return CompassCalibration(at=now, by="its light", light="failed" if failed else "done", failed=times, **about), None


def _of_turn(ctx: AppContext, typed: Typed, aircraft: Aircraft, about: dict[str, Any]) -> Measured:
    """The calibration of the turn that was shown, as far as it had come; one of a hand is kept as a recording, since it cannot be made again."""
    source = source_of(ctx, aircraft, typed.raw())
    many = whole(typed.get("many")) or None
    turned = KEPT.get((aircraft.id, source.seed))
    if turned is None or len(turned) < (many or FEWEST):
        turned = Turned()
        if source.way is not Way.BY_HAND or source.recording is not None:
            for frame in islice(frames_of(ctx, aircraft, source), many):
                turned.add(frame)
    rows = turned.rows(many)
    if len(rows) < FEWEST:
        raise InputError("That turn is not here any more. Turn it again.", "samples")
    simulated = source.recording is None or source.recording.simulated
    new = None
    if source.recording is None:
        text = f"{recordings.SIMULATED}\n{as_recording(turned.frames(many))}"
        new = recordings.coming(text, f"Turned {source.way.value}")
    fit = fit_ellipsoid(rows[:, 1:4])
    felt = np.isfinite(rows[:, 4:7]).all() and bool(np.linalg.norm(rows[:, 4:7], axis=1).min() > 0)
    by = "simulated flight controller" if source.recording is None else f"recording “{source.recording.name}”"
    dip = dip_of(fit, rows[:, 1:4], -rows[:, 4:7]) if felt else None
    return calibration_of(fit, 1.0, at=ctx.now(), by=by[:60], simulated=simulated, dip=dip, **about), new


def _pasted(typed: Typed) -> str:
    """What was pasted or chosen as a file."""
    return typed.get("samples") or uploaded_text(typed.form, "file", MAX_RECORDING_BYTES)


def _kept_as_it_is(ctx: AppContext, typed: Typed, aircraft: Aircraft) -> str:
    """Keep a recording that could not be judged, text or not, and say so; "" where there is none, or it is far too large."""
    try:
        given = typed.get("samples") or uploaded_bytes(typed.form, "file", MAX_RECORDING_BYTES)
        if not given.strip():
            return ""
        new = recordings.coming(given, uploaded_name(typed.form, "file"))
        with ctx.book.write():
            recordings.keep(aircraft.id, new, ctx.now())
    except PilotError:
        return ""
    return "It is kept among its recordings as it came."


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
        found, new = _measured(ctx, typed, aircraft, site)
        with ctx.book.write():
            if new is not None:
                recordings.keep(aircraft.id, new, ctx.now())
            kept = calibrations.keep(aircraft, found, site, ctx.now())
            if round_id is not None and not kept.simulated and kept.level is not None and kept.level < Level.GROUNDED:
                answer_check(round_id, CHECK, Passed(), ctx)
    except PilotError as error:
        fields = error.by_field()
        if typed.get("how") == "samples" and fields.keys() <= {"", "samples", "unit", "file"}:
            fields = {name: f"{words} {_kept_as_it_is(ctx, typed, aircraft)}" for name, words in fields.items()}
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
            frames = controller.frames("throttle", here_at(None, ctx.now(), None), BENCH_S, 1)
            found = current_finding(*throttle_and_field(frames, BENCH_MOST), in_flight=False)
        else:
            log = read_throttle(typed.get("log") or uploaded_text(typed.form, "log_file", MAX_RECORDING_BYTES))
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


@router.post("/hangar/aircraft/{aircraft_id}/compass/light", name="compass_light")
def light(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep how its compass is turned, and what its light shows meanwhile."""
    settings, aircraft = ctx.settings(), hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, settings.units)
    way = typed.choice("way", "Way", {one.value: one.value for one in Way})
    lights = []
    for shows in Shows:
        name = shows.name.lower()
        if not typed.get(f"colour_{name}"):
            continue
        colour = typed.choice(f"colour_{name}", "Colour", {one.value: one.value for one in Colour})
        blink = typed.choice(f"blink_{name}", "How it shines", {one.value: one.value for one in Blink})
        if not typed.errors:
            lights.append(Light(shows=shows, colour=Colour(colour), blink=Blink(blink)))
    alike = [one for one in lights if sum((one.colour, one.blink) == (two.colour, two.blink) for two in lights) > 1]
    if {one.shows for one in alike} & {Shows.DONE, Shows.FAILED}:
        typed.errors["light"] = "Done and failed cannot look like anything else: enter how they differ."
    try:
        typed.check()
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    with ctx.book.write():
        hangar.save(aircraft.model_copy(update={"turning": Turning(way=way, lights=tuple(lights))}), ctx.now())
    round_id = round_asked(typed.get("round"), aircraft.id)
    return go(request, "compass", query=f"saved=1{f'&round={round_id}' if round_id else ''}", aircraft_id=aircraft_id)


def answer_check(round_id: int, check_id: str, given: Any, ctx: AppContext) -> None:
    """Answer a check of an open round that has it, in the caller's transaction; otherwise nothing."""
    loaded = rounds.load(round_id, ctx.settings(), ctx.now())
    state = next((s for s in loaded.walk.states if s.planned.check.id == check_id), None)
    if state is not None and state.gate is None and loaded.takes(state):
        seen = state.evidence.id if state.evidence is not None else 0
        rounds.answer(round_id, check_id, given, at=ctx.now(), settings=ctx.settings(), seen=seen, loaded=loaded)
