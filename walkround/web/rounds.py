"""The walk page: the round in hand, answered check by check."""

import contextlib
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core import evidence as ev
from walkround.core.check import (
    STATION_TITLES,
    AskCells,
    AskChoice,
    AskFix,
    AskNumber,
    AskTimer,
    AskWeather,
    Phase,
    Station,
)
from walkround.core.errors import ConflictError, InputError, MissingError, PilotError
from walkround.core.evidence import Answer, Evidence
from walkround.core.finding import Finding, Level
from walkround.core.packs import parse_cells
from walkround.core.report import decode_report
from walkround.core.sentences import read_sentences
from walkround.core.units import Measure, Units, parse_number
from walkround.core.walk import CheckState, parse_reason, try_answer
from walkround.core.weather import HAND_PHENOMENA, Weather, by_hand
from walkround.store import rounds
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web.desk import AtDesk, Desk, Number, Sent
from walkround.web.drawings import path as path_drawing
from walkround.web.drawings.aircraft import walked
from walkround.web.errors import status_of
from walkround.web.forms import Typed, read_number, uploaded_text
from walkround.web.pages import asks_fragment, page

router = APIRouter()
MAX_SENTENCE_BYTES = 1_000_000
AUTO_ADVANCE = {"tick", "choice", "timer"}


def can_answer(loaded: OpenRound, state: CheckState) -> bool:
    """Whether a check is open and answerable now."""
    return state.evidence is None and loaded.takes(state)


def next_open(loaded: OpenRound, after: str) -> CheckState | None:
    """The next check to answer after this one: this station first, then onwards, then from the start."""
    states = list(loaded.walk.states)
    index = next((i for i, s in enumerate(states) if s.planned.check.id == after), -1)
    for state in [*states[index + 1 :], *states[: index + 1]]:
        if can_answer(loaded, state) and state.gate is None:
            return state
    return next((s for s in states if can_answer(loaded, s)), None)


def pick(loaded: OpenRound, station: str, check: str) -> tuple[Station, CheckState | None]:
    """Where the pilot stands and which check is in hand, from what the address asks for."""
    with contextlib.suppress(MissingError):
        if check:
            state = loaded.walk.state(check)
            return state.planned.check.station, state
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
    desk: Desk,
    loaded: OpenRound,
    settings: Settings,
    station: Station,
    current: CheckState | None,
    *,
    name: str = "",
    status: int = 200,
    edit: bool = False,
    **extra: Any,
) -> Response:
    """The walk page, or the parts of it that change after an answer."""
    walk = loaded.walk
    part = current.planned.check.part if current else ""
    picture = walked(
        walk.situation.aircraft,
        walk.states,
        part,
        path_drawing.MIDDLE,
        path_drawing.HALF_WIDTH,
        path_drawing.HALF_HEIGHT,
    )
    pin = next((p.pin for p in picture.parts if p.here), None)
    order = list(Station)
    index = order.index(station)
    ahead = next_open(loaded, current.planned.check.id if current else "")
    context = {
        "round": loaded,
        "walk": walk,
        "situation": walk.situation,
        "station": station,
        "station_number": index + 1,
        "station_title": STATION_TITLES[station],
        "station_states": walk.at(station),
        "previous_station": order[index - 1] if index else None,
        "next_station": order[index + 1] if index + 1 < len(order) else None,
        "current": current,
        "ahead": ahead,
        "counts": path_drawing.station_counts(walk, station, flight=loaded.signed),
        "path_drawing": path_drawing.footpath(walk, station, flight=loaded.signed, pin=pin),
        "strip": path_drawing.strip(walk, station, flight=loaded.signed),
        "picture": picture,
        "edit": edit or (current is not None and current.evidence is None),
        "hand_skies": list(HAND_PHENOMENA),
        "Phase": Phase,
    }
    name = name or ("rounds/_parts.html" if asks_fragment(request) else "rounds/walk.html")
    return page(request, name, settings, status, **context, **extra)


@router.get("/rounds/{round_id}", name="walk")
def show(
    request: Request, desk: AtDesk, round_id: Number, station: str = "", check: str = "", edit: bool = False
) -> Response:
    """The walk page at a station or check."""
    settings = desk.settings()
    loaded = rounds.load(round_id, settings)
    here, current = pick(loaded, station, check)
    return view(request, desk, loaded, settings, here, current, edit=edit)


@router.post("/rounds/{round_id}/checks/{check_id}", name="answer")
def answer(request: Request, desk: AtDesk, form: Sent, round_id: Number, check_id: str) -> Response:
    """Judge and keep an answer; a mistake comes back beside its field with what was typed."""
    settings = desk.settings()
    loaded = rounds.load(round_id, settings)
    state = loaded.walk.state(check_id)
    typed = Typed(form, settings.units)
    try:
        given, by = read_answer(desk, settings, loaded, state, typed)
        seen = int(typed.get("seen")) if typed.get("seen").isdecimal() else 0
        with desk.book.write():
            after = rounds.answer(
                round_id, check_id, given, at=desk.now(), settings=settings, seen=seen, by=by, loaded=loaded
            )
    except ConflictError as error:
        fresh = rounds.load(round_id, settings)
        now = fresh.walk.state(check_id)
        return view(request, desk, fresh, settings, now.planned.check.station, now, status=409, words=error.message)
    except PilotError as error:
        return view(
            request,
            desk,
            loaded,
            settings,
            state.planned.check.station,
            state,
            status=status_of(error),
            edit=True,
            errors=error.by_field(),
            offers=error.offer,
            typed=typed.raw(),
        )
    answered = after.walk.state(check_id)
    current = _onward(after, answered)
    return view(request, desk, after, settings, current.planned.check.station, current)


def _onward(after: OpenRound, answered: CheckState) -> CheckState:
    """Stay where there is something to read; go on by itself after a plain and clear answer."""
    plain = answered.planned.check.ask.kind in AUTO_ADVANCE and answered.level is Level.CLEAR
    if not plain:
        return answered
    return next_open(after, answered.planned.check.id) or answered


@router.post("/rounds/{round_id}/checks/{check_id}/preview", name="preview")
def preview(request: Request, desk: AtDesk, form: Sent, round_id: Number, check_id: str) -> Response:
    """Judge what is typed so far, keeping nothing. An unfinished entry is quiet, not a mistake."""
    settings = desk.settings()
    loaded = rounds.load(round_id, settings)
    state = loaded.walk.state(check_id)
    findings: tuple[Finding, ...] = ()
    try:
        given, _ = read_answer(desk, settings, loaded, state, Typed(form, settings.units), device=False)
        piece = Evidence(id=0, check_id=check_id, at=desk.now(), answer=given)
        findings = try_answer(loaded.walk, check_id, given, piece)
    except PilotError:
        findings = ()
    return page(request, "rounds/_findings.html", settings, findings=findings)


@router.post("/rounds/{round_id}/undo", name="undo")
def undo(request: Request, desk: AtDesk, round_id: Number) -> Response:
    """Take back the last answer."""
    settings = desk.settings()
    with desk.book.write():
        after, check_id = rounds.undo(round_id, at=desk.now(), settings=settings)
    state = after.walk.state(check_id)
    words = f"Taken back: {state.planned.check.title}."
    return view(request, desk, after, settings, state.planned.check.station, state, said=words)


def read_answer(
    desk: Desk, settings: Settings, loaded: OpenRound, state: CheckState, typed: Typed, *, device: bool = True
) -> tuple[Answer, str]:
    """What the form says about a check, and from whom. Raises PilotError beside the field."""
    ask = state.planned.check.ask
    action = typed.get("action")
    if action == "skip":
        return ev.Skipped(reason=parse_reason(typed.get("reason"), "Reason", "reason", needed=True)), "pilot"
    if action == "fault":
        return ev.Fault(note=parse_reason(typed.get("note"), "What you found", "note", needed=False)), "pilot"
    from_device = action == "device" and device
    if isinstance(ask, AskChoice):
        note = parse_reason(typed.get("note"), "What was done", "note", needed=False)
        if not typed.get("option"):
            raise InputError("Choose one of the answers.", "option")
        return ev.Chosen(option=typed.get("option"), note=note), "pilot"
    if isinstance(ask, AskNumber):
        value = read_number(typed.get("number"), ask.label, ask.measure, ask.low, ask.high, settings.units, "number")
        return ev.Measured(value=value), "pilot"
    if isinstance(ask, AskTimer):
        return ev.Counted(seconds=parse_number(typed.get("seconds"), "Count", "seconds")), "pilot"
    if isinstance(ask, AskCells):
        return _cells(desk, settings, loaded, typed, from_device)
    if isinstance(ask, AskFix):
        return _fix(desk, settings, loaded, typed, from_device)
    if isinstance(ask, AskWeather):
        return _weather(desk, settings, loaded, typed, from_device)
    if action != "pass":
        raise InputError("Say what you saw: sound, a fault, or skipped with a reason.")
    return ev.Passed(), "pilot"


def _cells(desk: Desk, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool) -> tuple[Answer, str]:
    pack = loaded.walk.situation.pack
    if from_device:
        cells = desk.cell_checker(settings.devices).read(pack.cells)
        texts = [f"{volts:.3f}" for volts in cells]
        return ev.CellsRead(reading=parse_cells(texts, "", pack)), "simulated cell checker"
    names = [f"cell_{i}" for i in range(1, pack.cells + 1)]
    return ev.CellsRead(reading=parse_cells([typed.get(n) for n in names], typed.get("total"), pack)), "pilot"


def _fix(desk: Desk, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool) -> tuple[Answer, str]:
    site = loaded.walk.situation.site
    if from_device:
        text, by = desk.receiver(settings.devices).sentences(site.position, desk.now()), "simulated receiver"
    else:
        text, by = uploaded_text(typed.form, "file", MAX_SENTENCE_BYTES) or typed.get("sentences"), "pilot"
    return ev.FixRead(fix=read_sentences(text, desk.now())), by


def _weather(desk: Desk, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool) -> tuple[Answer, str]:
    site = loaded.walk.situation.site
    if from_device:
        text = desk.weather_station(settings.devices).report(site.station, desk.now())
        return ev.WeatherRead(weather=decode_report(text, desk.now())), "simulated weather station"
    if typed.get("way") == "hand":
        return ev.WeatherRead(weather=weather_by_hand(typed, settings.units, desk)), "pilot"
    if not typed.get("report").strip():
        raise InputError("Paste a report, take one from the station, or enter what you measure.", "report")
    return ev.WeatherRead(weather=decode_report(typed.get("report"), desk.now())), "pilot"


def weather_by_hand(typed: Typed, units: Units, desk: Desk) -> Weather:
    """Weather from the fields of the hand form. Raises FormErrors or InputError."""
    wind = typed.needed("wind", "Wind", Measure.SPEED, 0, 75)
    gust = typed.number("gust", "Gust", Measure.SPEED, 0, 100, optional=True)
    from_deg = typed.number("wind_from", "Wind direction", Measure.DEGREE, 0, 360, optional=True)
    seen = typed.number("visibility", "Visibility", Measure.DISTANCE, 0, 200_000, optional=True)
    base = typed.number("ceiling", "Cloud base", Measure.HEIGHT, 0, 20_000, optional=True)
    air = typed.needed("temperature", "Temperature", Measure.TEMPERATURE, -60, 60)
    dew = typed.number("dew_point", "Dew point", Measure.TEMPERATURE, -80, 60, optional=True)
    pressure = typed.number("pressure", "Pressure", Measure.PRESSURE, 850, 1090, optional=True)
    sky = typed.choice("sky", "Sky", HAND_PHENOMENA)
    typed.check()
    return by_hand(
        desk.now(),
        wind_ms=wind,
        gust_ms=gust,
        wind_from_deg=from_deg,
        visibility_m=seen,
        sky=sky,
        ceiling_m=base,
        temperature_c=air,
        dew_point_c=dew,
        pressure_hpa=pressure,
    )
