"""The flight controller of an aircraft: what it says in words, what it reports now, and its recordings, each judged for what is in it."""

import json
import math
from collections.abc import AsyncIterator, Callable
from typing import Any

import anyio
from fastapi import Request
from starlette.responses import Response, StreamingResponse

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, PilotError
from walkround.core.calibration.recorded import judged_recording
from walkround.core.diagnosis.arming import holds, last_fix
from walkround.core.diagnosis.messages import Message, message_findings, read_messages
from walkround.core.sensors.devices import FlightController, Frame, Here
from walkround.core.sensors.recording import Sensor
from walkround.simulators import device
from walkround.store import hangar, recordings
from walkround.store.situation import home_zone
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import here_of
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_bytes, uploaded_name
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.security import MAX_RECORDING_BYTES

router = Router()
AT = "/hangar/aircraft/{aircraft_id}/controller"
LISTENED_S, LIVE_S, RATE_HZ, PER_SECOND = 2.0, 600.0, 50, 5
"""What it says is listened to for so many s; values are shown for so long at most, so many times a second."""


def _show(
    request: Request,
    ctx: AppContext,
    aircraft: Aircraft,
    status: int = 200,
    messages: tuple[Message, ...] = (),
    **extra: Any,
) -> Response:
    settings = ctx.settings()
    events = list(dict.fromkeys(one.event for one in messages if one.event is not None))
    return page(
        request, "controller/page.html", settings, status,
        aircraft=aircraft, zone=home_zone(), connected=settings.connected("controller"), kept=recordings.of_aircraft(aircraft.id), compass=Sensor.COMPASS,
        messages=messages, said=message_findings(messages), events=events, values=list(VALUES), **extra,
    )  # fmt: skip


@router.get(AT, name="controller")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The flight controller of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post(f"{AT}/messages", name="read_messages")
def messages(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Tell apart what it says: pasted, or listened to. What is pasted is kept as it came."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    simulated = typed.get("how") == "read"
    try:
        if simulated:
            frames = device(FlightController, ctx.settings().devices).frames(
                "still", here_of(ctx, aircraft_id), LISTENED_S, 2
            )
            said = [line for frame in frames for line in frame.messages]
            found = read_messages("\n".join(said)) if said else ()
        else:
            found = read_messages(typed.get("messages"))
            new = recordings.coming(typed.get("messages"), "Messages", kind=recordings.Kind.MESSAGES)
            with ctx.book.write():
                recordings.keep(aircraft.id, new, ctx.now())
    except PilotError as error:
        fields = {name or "messages": words for name, words in error.by_field().items()}
        return _show(request, ctx, aircraft, status_of(error), errors=fields, typed=typed.raw())
    return _show(request, ctx, aircraft, messages=found, typed=typed.raw(), listened=simulated, silent=not found)


@router.post(f"{AT}/recordings", name="keep_recording")
def keep(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep a recording, also of a kind that is not known here, and show what is in it."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    try:
        given = typed.get("log") or _text_or_bytes(uploaded_bytes(form, "log_file", MAX_RECORDING_BYTES))
        if not given.strip():
            raise InputError("Paste a recording, or choose a file.", "log")
        new = recordings.coming(given, uploaded_name(form, "log_file"))
        with ctx.book.write():
            kept = recordings.keep(aircraft.id, new, ctx.now())
    except PilotError as error:
        fields = {name or "log": words for name, words in error.by_field().items()}
        return _show(request, ctx, aircraft, status_of(error), errors=fields, typed=typed.raw())
    return go(request, "recording", aircraft_id=aircraft_id, number=kept.id)


def _text_or_bytes(data: bytes) -> str | bytes:
    """A file as text where it is one."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data


@router.get(f"{AT}/recordings/{{number}}", name="recording")
def recording(request: Request, ctx: AppContextDep, aircraft_id: Number, number: Number) -> Response:
    """One recording, judged for what is in it."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    kept = recordings.get(aircraft_id, number)
    listed: tuple[Message, ...] = ()
    if kept.kind is recordings.Kind.MESSAGES:
        listed = read_messages(recordings.text_of(aircraft_id, number))
        return _show(request, ctx, aircraft, messages=listed, opened=kept)
    if kept.kind is recordings.Kind.UNKNOWN:
        return _show(request, ctx, aircraft, opened=kept)
    played = recordings.played(aircraft_id, number)
    lines = [line for frame in played.frames for line in frame.messages]
    listed = read_messages("\n".join(lines)) if lines else ()
    return _show(
        request, ctx, aircraft, messages=listed, opened=kept, seconds=played.seconds, dropped=played.dropped, found=judged_recording(played.frames)
    )  # fmt: skip


@router.get(f"{AT}/recordings/{{number}}/text", name="recording_text")
def text(aircraft_id: Number, number: Number) -> Response:
    """A recording as it came."""
    kept = recordings.get(aircraft_id, number)
    name = "".join(one if one.isascii() and (one.isalnum() or one == ".") else "-" for one in kept.name)
    headers = {"Content-Disposition": f'attachment; filename="{name.strip("-.") or "recording"}"'}
    media = "application/octet-stream" if kept.kind is recordings.Kind.UNKNOWN else "text/plain; charset=utf-8"
    return Response(recordings.data_of(aircraft_id, number), media_type=media, headers=headers)


@router.post(f"{AT}/recordings/{{number}}/remove", name="remove_recording")
def remove(request: Request, ctx: AppContextDep, aircraft_id: Number, number: Number) -> Response:
    """Throw a recording away."""
    with ctx.book.write():
        recordings.remove(aircraft_id, number)
    return go(request, "controller", query="saved=1", aircraft_id=aircraft_id)


def _three(value: tuple[float, float, float] | None, unit: str, decimals: int = 0) -> str:
    return "" if value is None else f"{math.hypot(*value):.{decimals}f} {unit}"


def _number(value: float | None, unit: str, decimals: int = 1) -> str:
    return "" if value is None else f"{value:.{decimals}f} {unit}"


VALUES: dict[str, Callable[[Frame], str]] = {
    "Magnetic field": lambda f: _three(f.field_ut, "µT"),
    "Attitude": lambda f: _number(f.tilt_deg, "° from level"),
    "Turning": lambda f: _three(f.turning_dps, "°/s", 1),
    "Air pressure": lambda f: _number(f.pressure_hpa, "hPa"),
    "Board": lambda f: _number(f.board_v, "V", 2),
    "Pack": lambda f: _number(f.pack_v, "V", 2),
    "Throttle": lambda f: "" if f.throttle is None else f"{100 * f.throttle:.0f} %",
    "Channels": lambda f: "  ".join(f"{i}:\N{NO-BREAK SPACE}{value:+.2f}" for i, value in enumerate(f.sticks, 1)),
    "Mode": lambda f: f.mode,
    "Failsafe": lambda f: "" if f.failsafe is None else "active" if f.failsafe else "not active",
    "Largest lean angle": lambda f: _number(f.lean_most_deg, "°", 0),
    "Satellites": lambda f: f.nmea,
}
"""What is shown of a frame, by its name; "" where it does not report that."""


def _satellites(nmea: str, here: Here) -> str:
    """What its receiver said last, in short."""
    fix = last_fix(nmea, here)
    if fix is None:
        return ""
    hdop = f", HDOP {fix.hdop:.1f}" if fix.hdop is not None else ""
    return f"{fix.satellites or 0}{hdop}, {'fix' if holds(fix) else 'no fix'}"


@router.get(f"{AT}/live", name="controller_live")
async def live(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """Its values as they come, as server-sent events, while its sticks are moved."""
    hangar.get(Aircraft, aircraft_id)
    here = here_of(ctx, aircraft_id)
    frames = device(FlightController, ctx.settings().devices).frames("sticks", here, LIVE_S, 3)

    async def events() -> AsyncIterator[str]:
        said = list[str]()
        sky = ""
        for number, frame in enumerate(frames, 1):
            said += [line for line in frame.messages if line not in said]
            sky = _satellites(frame.nmea, here) if frame.nmea else sky
            if number % (RATE_HZ // PER_SECOND):
                continue
            values = {
                name: (sky if name == "Satellites" else read(frame)) or "not reported" for name, read in VALUES.items()
            }
            yield f"id: {number}\ndata: {json.dumps({'values': values, 'said': said})}\n\n"
            await anyio.sleep(1 / PER_SECOND)
        yield "event: done\ndata: {}\n\n"

    return StreamingResponse(
        events(), media_type="text/event-stream", headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"}
    )
