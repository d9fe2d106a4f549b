"""A compass while it is turned: frames of a flight controller or of a recording as they come, and what they tell so far."""

import json
import math
from array import array
from collections.abc import AsyncIterator, Iterator, Mapping
from typing import TYPE_CHECKING, Any

import anyio
from fastapi import Request
from starlette.responses import Response, StreamingResponse

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.plain import whole
from walkround.core.base.struct import Struct
from walkround.core.base.units import Measure
from walkround.core.calibration.coach import Way, next_turn, usual_way
from walkround.core.calibration.earth import field_at, here_at
from walkround.core.calibration.ellipsoid import FEWEST, FitKind, fit_ellipsoid
from walkround.core.sensors.devices import FlightController, Frame, Here
from walkround.simulators import device
from walkround.simulators.controller import hold
from walkround.store import hangar, recordings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context
from walkround.web.forms import Typed
from walkround.web.routes import Router

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

router = Router()
SECONDS, BY_HAND_S, EVERY, FASTER = 60.0, 600.0, 25, 3.0
"""A scripted turn lasts so many seconds, one by hand at most so many; of so many frames one is judged; the stand-in goes so many times as fast as a hand."""
SPEEDS = (1, 3, 10, 50)
"""A recording is played so many times as fast as it was made."""
MOST_KEPT, TURN_DEG, MOST_A_SECOND = 4, 720, 25
"""Turns that are kept while they go on; the most a finger turns; events in one second, so that no frame is older than 40 ms when it is sent."""
KEPT: dict[tuple[int, int], "Turned"] = {}
"""The newest turns, by aircraft and seed: what a finger did cannot be made again."""
MOST_TOLD = 600
"""What is shown while it is turned rests on so many samples, evenly taken; what is kept on all."""


class Turned:
    """A turn as far as it has come: moments, field, acceleration and turning of its frames, in little room (ten numbers of eight bytes a frame)."""

    _WIDTH = 10

    def __init__(self) -> None:
        self._numbers = array("d")

    def __len__(self) -> int:
        return len(self._numbers) // self._WIDTH

    def add(self, frame: Frame) -> None:
        """One frame more, where it has a field."""
        if frame.field_ut is not None:
            none = (math.nan,) * 3
            self._numbers.extend((frame.at_s, *frame.field_ut, *(frame.acceleration_g or none), *(frame.turning_dps or none)))  # fmt: skip

    def cut(self, many: int) -> None:
        """Forget all but the first so many."""
        del self._numbers[many * self._WIDTH :]

    def rows(self, many: int | None = None) -> Any:
        """The first so many frames, all without a number (n by 10). Others may add meanwhile: bytes are copied in one go, an array is not."""
        return np.frombuffer(self._numbers.tobytes()).reshape(-1, self._WIDTH)[:many]

    def frames(self, many: int | None = None) -> list[Frame]:
        """The same as frames."""
        return [
            Frame(at_s=row[0], field_ut=tuple(row[1:4]), acceleration_g=_known(row[4:7]), turning_dps=_known(row[7:10]))
            for row in self.rows(many).tolist()
        ]


def _known(three: list[float]) -> tuple[float, float, float] | None:
    x, y, z = three
    return (x, y, z) if math.isfinite(x + y + z) else None


class Source(Struct, frozen=True):
    """Where the frames of a turn come from: a recording of the aircraft, or the flight controller turned in some way; how often they come in a second, and for how long."""

    way: Way
    seed: int
    recording: recordings.Kept | None
    here: Here
    seconds: float
    pace: float


def source_of(ctx: AppContext, aircraft: Aircraft, given: Mapping[str, str]) -> Source:
    """The source that a page or a form names. Raises MissingError for a recording that is gone, InputError where no field is known for a stand-in."""
    context = aircraft_context(ctx, ctx.settings(), aircraft.id)
    weather = context.situation.weather if context is not None else None
    site = context.situation.site if context is not None else None
    here = here_at(site, ctx.now(), weather.qnh_hpa if weather is not None else None)
    way = next((one for one in Way if one.value == given.get("way")), usual_way(aircraft))
    number = whole(given.get("recording", ""))
    kept = recordings.get(aircraft.id, number) if number is not None else None
    if kept is None and field_at(site, ctx.now()) is None:
        raise InputError(
            "No field is known, or the magnetic model does not reach this date. Paste a recording instead.", "samples"
        )
    by_hand = way is Way.BY_HAND and kept is None
    speed = whole(given.get("speed", "")) or SPEEDS[0]
    pace = float(speed if speed in SPEEDS else SPEEDS[0]) if kept is not None else 1.0 if by_hand else FASTER
    return Source(way, whole(given.get("seed", "")) or 0, kept, here, BY_HAND_S if by_hand else SECONDS, pace)


def frames_of(ctx: AppContext, aircraft: Aircraft, source: Source) -> Iterator[Frame]:
    """The frames of a source from its beginning. Raises DeviceError, MissingError."""
    if source.recording is not None:
        return (one for one in recordings.played(aircraft.id, source.recording.id).frames if one.field_ut is not None)
    controller = device(FlightController, ctx.settings().devices)
    return controller.frames(source.way.value, source.here, source.seconds, source.seed)


def told(turned: Turned, dip_deg: float) -> dict[str, Any]:
    """What a page shows while it is turned: sectors that are seen, their share, the fit so far, and which turn comes next."""
    rows = turned.rows()
    fit = fit_ellipsoid(rows[:: max(1, len(rows) // MOST_TOLD), 1:4])
    share = round(100 * fit.covered)
    said = {
        FitKind.NONE: "Too little yet",
        FitKind.OFFSET: "Enough for the offset only",
        FitKind.FULL: "Enough for a full fit",
    }[fit.kind]
    return {
        "at": round(float(rows[-1, 0]), 2), "sectors": [int(many > 0) for many in fit.sectors], "share": share, "kind": fit.kind.name, "words": f"{said}: {share} % of the directions.",
        "next": next_turn(fit.sectors, dip_deg), "left_out": fit.rejected, "scatter": f"{100 * fit.residual:.1f} %", "many": len(rows), "enough": fit.kind is FitKind.FULL,
    }  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/compass/live", name="compass_live")
async def live(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """Frames of the flight controller or of a recording as they come, as server-sent events; a dropped connection goes on where it was."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    source = source_of(ctx, aircraft, request.query_params)
    frames = await anyio.to_thread.run_sync(frames_of, ctx, aircraft, source)
    north, east, down = source.here.earth_ut
    dip_deg = math.degrees(math.atan2(down, math.hypot(north, east)))
    begun = whole(request.headers.get("last-event-id", "")) or 0
    # A hand goes on from where it is; a script or a recording is run again as far as it had come.
    goes_on = source.way is Way.BY_HAND and source.recording is None
    per_event = max(2, round(50 * source.pace / MOST_A_SECOND))

    async def events() -> AsyncIterator[str]:
        turned = KEPT.pop((aircraft_id, source.seed), None) or Turned()
        KEPT[aircraft_id, source.seed] = turned
        while len(KEPT) > MOST_KEPT:
            KEPT.pop(next(iter(KEPT)))
        turned.cut(begun if goes_on else 0)
        newest: list[list[float]] = []
        for frame in frames:
            turned.add(frame)
            many = len(turned)
            if many <= begun or frame.field_ut is None:
                continue
            newest.append([round(v, 1) for v in frame.field_ut])
            if len(newest) >= per_event:
                yield f"event: frames\ndata: {json.dumps(newest)}\n\n"
                newest.clear()
                await anyio.sleep(per_event / 50 / source.pace)
            if many % (EVERY * max(1, round(source.pace / FASTER))) == 0 and many >= FEWEST:
                data = await anyio.to_thread.run_sync(told, turned, dip_deg)
                yield f"id: {many}\ndata: {json.dumps(data)}\n\n"
        if newest:
            yield f"event: frames\ndata: {json.dumps(newest)}\n\n"
        if len(turned) >= FEWEST:
            data = await anyio.to_thread.run_sync(told, turned, dip_deg)
            yield f"id: {len(turned)}\ndata: {json.dumps(data)}\n\n"
        yield f"id: {len(turned)}\nevent: done\ndata: {{}}\n\n"

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
