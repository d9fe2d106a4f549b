"""Why it will not arm: what its flight controller reports, what a pilot types and what it says, tested in order; and the numbers within which this one arms."""

import math
from typing import Any

import msgspec
from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.controller import GENERIC, Arms, ControllerProfile, Mode, generic
from walkround.core.base.errors import PilotError
from walkround.core.base.units import Measure
from walkround.core.diagnosis.arming import ArmingValues, Ends, diagnose, usual_profile, values_from
from walkround.core.diagnosis.messages import Message, read_messages
from walkround.core.sensors.devices import FlightController
from walkround.simulators import device
from walkround.store import calibrations, hangar
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import here_of
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
AT = "/hangar/aircraft/{aircraft_id}/arming"
READ_S = 8.0
"""So long the sticks are moved while it is read."""
YES = {"": None, "yes": True, "no": False}
ASKED = (
    ("model_right", "The right model is selected", "yes", "no"), ("signal", "The receiver has a signal", "yes", "no"), ("arm_switch_on", "The arm switch is", "on", "off"),
    ("calibrated", "Radio and accelerometer are calibrated", "yes", "no"), ("fix", "It has a position fix", "yes", "no"), ("inside_fence", "It is inside the geofence, or none is set", "yes", "no"),
    ("failsafe", "Failsafe is active", "yes", "no"),
)  # fmt: skip
"""What is asked with three answers: its field, its words, and how yes and no are called."""
NUMBERS = (
    ("throttle_us", "Throttle, stick down", "µs", 700, 2_300), ("failsafe_us", "Throttle without a signal", "µs", 500, 2_300), ("tilt_deg", "Tilt on the ground", "°", 0, 180),
    ("turning_dps", "Turning at rest", "°/s", 0, 500), ("field_ut", "Magnetic field", "µT", 0, 1_000), ("hdop", "HDOP", "", 0, 100), ("board_v", "Board", "V", 0, 60),
    ("cell_v", "One cell of the pack", "V", 0, 5), ("lean_most_deg", "Largest lean angle", "°", 0, 180),
)  # fmt: skip
"""Numbers that are asked: their field, words, unit and bounds."""
LIMITS = (
    ("ends_low_us", "Lower ends reach", "µs"), ("ends_high_us", "Upper ends reach", "µs"), ("centre_off_us", "Centres off by at most", "µs"), ("idle_most_us", "Throttle low up to", "µs"),
    ("silence_us", "Silence below", "µs"), ("tilt_most_deg", "Tilt at most", "°"), ("turning_most_dps", "Turning at most", "°/s"), ("offset_most_ut", "Compass offsets together at most", "µT"),
    ("field_off", "Field off by at most, as a share", ""), ("hdop_most", "HDOP below", ""), ("board_least_v", "Board at least", "V"), ("board_most_v", "Board at most", "V"),
    ("cell_least_v", "One cell at least", "V"), ("lean_least_deg", "Lean angle at least", "°"), ("lean_most_deg", "Lean angle at most", "°"),
)  # fmt: skip
"""The numbers of a profile: their field, words and unit."""


def _show(
    request: Request,
    ctx: AppContext,
    aircraft: Aircraft,
    status: int = 200,
    values: ArmingValues | None = None,
    **extra: Any,
) -> Response:
    settings = ctx.settings()
    profile = aircraft.controller or usual_profile(aircraft)
    found = None if values is None else diagnose(values, profile, aircraft.works)
    return page(
        request, "arming/page.html", settings, status,
        aircraft=aircraft, profile=profile, own=aircraft.controller is not None, generic=list(GENERIC), connected=settings.connected("controller"), found=found,
        channels=drawings.channels.draw_channels(values.ends, profile) if values is not None else (), asked=ASKED, numbers=NUMBERS, limits=LIMITS, all_arms=list(Arms),
        messages=values.messages if values is not None else (), **extra,
    )  # fmt: skip


@router.get(AT, name="arming")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """What may keep it from arming."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post(AT, name="test_arming")
def test(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Test what is reported, typed and pasted; what is typed prevails. Nothing is kept of it."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    here = here_of(ctx, aircraft_id)
    listened = typed.get("how") == "read"
    try:
        given = _typed(typed)
        typed.check()
        read = ArmingValues()
        if listened:
            frames = device(FlightController, ctx.settings().devices).frames("sticks", here, READ_S, 3)
            read = values_from(frames, here, cells=aircraft.cells)
        last = calibrations.before(aircraft.id, ctx.now())
        known: dict[str, Any] = {"expected_ut": math.hypot(*here.earth_ut)}
        if last is not None and last.offset_ut is not None:
            known["offset_ut"] = math.hypot(*last.offset_ut)
        values = msgspec.structs.replace(read, **(known | given))
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw())
    return _show(request, ctx, aircraft, values=values, typed=typed.raw(), listened=listened)


def _typed(typed: Typed) -> dict[str, Any]:
    """What was typed, by the fields of the values; what was left empty is not in it."""
    found: dict[str, Any] = {name: YES.get(typed.get(name)) for name, *_ in ASKED}
    for name, label, _, low, high in NUMBERS:
        found[name] = typed.number(name, label, Measure.COUNT, low, high, optional=True)
    offsets = [
        typed.number(f"offset_{axis}", f"Offset {axis}", Measure.COUNT, -1_000, 1_000, optional=True) for axis in "xyz"
    ]
    if all(axis is not None for axis in offsets):
        found["offset_ut"] = math.hypot(*(axis or 0.0 for axis in offsets))
    elif any(axis is not None for axis in offsets):
        typed.errors["offset_x"] = "Enter all three offsets, or none."
    ends = []
    for i in range(1, 5):
        three = [
            typed.number(f"{end}_{i}", f"Channel {i}", Measure.COUNT, 500, 2_500, optional=True)
            for end in ("low", "centre", "high")
        ]
        if all(one is not None for one in three):
            ends.append(Ends(low_us=three[0] or 0, centre_us=three[1] or 0, high_us=three[2] or 0))
        elif any(one is not None for one in three):
            typed.errors[f"low_{i}"] = f"Enter low, centre and high of channel {i}."
    found["ends"] = tuple(ends) if len(ends) == 4 else None
    found["mode"] = typed.get("mode") or None
    if typed.get("messages").strip():
        found["messages"] = typed.try_("messages", lambda: read_messages(typed.get("messages")), tuple[Message, ...]())
    return {name: value for name, value in found.items() if value is not None}


@router.post(f"{AT}/profile", name="arming_profile")
def profile(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep the numbers within which this one arms, or go back to generic ones."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    try:
        if typed.get("generic"):
            chosen = generic(typed.choice("generic", "Kind", list(GENERIC)))
            typed.check()
        else:
            numbers = {name: typed.number(name, label, Measure.COUNT, -1e4, 1e4) for name, label, _ in LIMITS}
            arms = Arms(typed.choice("arms", "It is armed", [one.value for one in Arms]))
            modes = tuple(_mode(line) for line in typed.get("modes").splitlines() if line.strip())
            typed.check()
            chosen = typed.build(
                ControllerProfile, arms=arms, satellites=typed.get("satellites") == "1", modes=modes, **numbers
            )
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw(), editing=True)
    with ctx.book.write():
        hangar.save(aircraft.model_copy(update={"controller": chosen}), ctx.now())
    return go(request, "arming", query="saved=1", aircraft_id=aircraft_id)


def _mode(line: str) -> Mode:
    """A mode from a line: its name, then "no" where it may not arm, and "position" where it needs one."""
    name, *more = [part.strip() for part in line.split(",")]
    words = {part.lower() for part in more}
    return Mode(name=name[:30], arms="no" not in words, position="position" in words)
