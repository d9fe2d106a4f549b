"""Reading an answer: what the form of a check says, and from whom."""

from walkround.core.aircraft.bag import MOST, Packed, bag_list
from walkround.core.aircraft.control_directions import SHOWN, StickSeen, stick_tests
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.aircraft.rotors import Rotation, rotor_layout
from walkround.core.base.errors import InputError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure, Units, parse_number
from walkround.core.checklist.check import (
    AskCells,
    AskChoice,
    AskControlDirections,
    AskFix,
    AskFlight,
    AskNumber,
    AskPacked,
    AskRotors,
    AskTimer,
    AskWeather,
)
from walkround.core.flight.plan_of_flight import FlightPlan
from walkround.core.packs.reading import parse_cells
from walkround.core.round import evidence as ev
from walkround.core.round.evidence import Answer
from walkround.core.round.walk import CheckState, parse_reason
from walkround.core.sensors.nmea import read_nmea
from walkround.core.weather.beaufort import FORCES
from walkround.core.weather.metar import decode_report
from walkround.core.weather.weather import HAND_PHENOMENA, ONE_WIND, Weather, by_hand
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web.app_context import AppContext
from walkround.web.forms import Typed, read_number, uploaded_text

MAX_NMEA_BYTES = 1_000_000


def read_answer(
    ctx: AppContext, settings: Settings, loaded: OpenRound, state: CheckState, typed: Typed, *, device: bool = True
) -> tuple[Answer, str]:
    """What the form says about a check, and from whom. Raises PilotError beside the field."""
    ask = state.planned.check.ask
    action = typed.get("action")
    if action == "skip":
        return ev.Skipped(reason=parse_reason(typed.get("reason"), "Reason", "reason", needed=True)), "pilot"
    if action == "fault":
        return ev.Fault(note=parse_reason(typed.get("note"), "What you found", "note", needed=False)), "pilot"
    from_device = action == "device" and device
    if isinstance(ask, AskRotors):
        return ev.RotorsSeen(seen=_rotors(ask, loaded, typed)), "pilot"
    if isinstance(ask, AskControlDirections):
        return ev.ControlDirectionsSeen(seen=_control_directions(loaded, typed)), "pilot"
    if isinstance(ask, AskPacked):
        return ev.BagPacked(packed=_packed(loaded, typed)), "pilot"
    if isinstance(ask, AskFlight):
        return ev.Planned(plan=read_plan(typed)), "pilot"
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
        return _cells(ctx, settings, loaded, typed, from_device)
    if isinstance(ask, AskFix):
        return _fix(ctx, settings, loaded, typed, from_device)
    if isinstance(ask, AskWeather):
        return _weather(ctx, settings, loaded, typed, from_device)
    if action != "pass":
        raise InputError("Say what you saw: sound, a fault, or skipped with a reason.")
    return ev.Passed(), "pilot"


def _spin(text: str) -> Rotation | None:
    return Rotation(text) if text in set(Rotation) else None


def _rotors(ask: AskRotors, loaded: OpenRound, typed: Typed) -> tuple[RotorSeen, ...]:
    """What was tapped at each rotor; with "the rest as drawn" what was not tapped is as the drawing has it."""
    rest = typed.get("action") == "shown"
    seen = []
    for rotor in rotor_layout(loaded.walk.situation.aircraft):
        drawn = rotor.spin if rest else None
        if ask.look == "motors":
            seen.append(RotorSeen(number=rotor.number, spin=_spin(typed.get(f"spin-{rotor.number}")) or drawn))
            continue
        edge = typed.get(f"edge-{rotor.number}")
        rotation = _spin(typed.get(f"rotation-{rotor.number}")) or drawn
        seen.append(
            RotorSeen(
                number=rotor.number,
                rotation=rotation,
                edge_leads={"thick": True, "thin": False}.get(edge, True if rest else None),
            )
        )
    return tuple(seen)


def _control_directions(loaded: OpenRound, typed: Typed) -> tuple[StickSeen, ...]:
    """What was said for each stick movement; one not said is not there, unless the rest is as shown."""
    rest = SHOWN if typed.get("action") == "shown" else ""
    given = [
        (c.stick, typed.get(f"move-{c.stick.name.lower()}") or rest)
        for c in stick_tests(loaded.walk.situation.aircraft)
    ]
    return tuple(StickSeen(stick=stick, result=result) for stick, result in given if result)


def _packed(loaded: OpenRound, typed: Typed) -> Packed:
    """What this pass found in the bag: a tick is one, a number what was counted."""
    have = []
    for thing in bag_list(loaded.walk.situation.aircraft):
        text = typed.get(f"bag-{thing.id}").strip()
        if not text:
            continue
        number = whole(text, MOST)
        if number is None:
            raise InputError(f"{thing.title}: “{text[:12]}” is not a number from 0 to {MOST}.", f"bag-{thing.id}")
        have.append((thing.id, number))
    return Packed(have=tuple(have))


def read_plan(typed: Typed) -> FlightPlan:
    """The plan of a flight from its fields. Raises FormErrors."""
    hover = typed.number("hover_min", "Hover", Measure.MINUTE, 0, 600, optional=True)
    work = typed.number("work_min", "In the air out there", Measure.MINUTE, 0, 600, optional=True)
    out = typed.number("out_m", "Distance out", Measure.HEIGHT, 0, 20_000, optional=True)
    up = typed.needed("height_m", "Height", Measure.HEIGHT, 1, 500)
    return typed.build(FlightPlan, hover_min=hover or 0.0, work_min=work or 0.0, out_m=out or 0.0, height_m=up)


def _cells(
    ctx: AppContext, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool
) -> tuple[Answer, str]:
    pack = loaded.walk.situation.pack
    if from_device:
        cells = ctx.cell_checker(settings.devices).read(pack.cells)
        texts = [f"{volts:.3f}" for volts in cells]
        return ev.CellsRead(reading=parse_cells(texts, "", pack)), "simulated cell checker"
    names = [f"cell_{i}" for i in range(1, pack.cells + 1)]
    return ev.CellsRead(reading=parse_cells([typed.get(n) for n in names], typed.get("total"), pack)), "pilot"


def _fix(ctx: AppContext, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool) -> tuple[Answer, str]:
    site = loaded.walk.situation.site
    if from_device:
        text, by = ctx.receiver(settings.devices).nmea(site.position, ctx.now()), "simulated receiver"
    else:
        text, by = uploaded_text(typed.form, "file", MAX_NMEA_BYTES) or typed.get("nmea"), "pilot"
    return ev.FixRead(fix=read_nmea(text, ctx.now())), by


def _weather(
    ctx: AppContext, settings: Settings, loaded: OpenRound, typed: Typed, from_device: bool
) -> tuple[Answer, str]:
    site = loaded.walk.situation.site
    if from_device:
        text = ctx.weather_station(settings.devices).report(site.station, ctx.now())
        return ev.WeatherRead(weather=decode_report(text, ctx.now(), site.station)), "simulated weather station"
    if typed.get("way") == "hand":
        return ev.WeatherRead(weather=weather_by_hand(typed, settings.units, ctx)), "pilot"
    if not typed.get("report").strip():
        raise InputError("Paste a report, take one from the station, or enter what you measure.", "report")
    return ev.WeatherRead(
        weather=decode_report(typed.get("report"), ctx.now(), loaded.walk.situation.site.station)
    ), "pilot"


def weather_by_hand(typed: Typed, units: Units, ctx: AppContext) -> Weather:
    """Weather from the fields of the hand form. Raises FormErrors or InputError."""
    felt = typed.choice("felt", "Wind as felt", ("", *map(str, range(len(FORCES))))) if typed.get("felt") else ""
    wind = None if felt else typed.needed("wind", "Wind", Measure.SPEED, 0, 75)
    if felt and typed.get("wind").strip():
        typed.errors["wind"] = ONE_WIND
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
        ctx.now(),
        wind_ms=wind,
        gust_ms=gust,
        wind_from_deg=from_deg,
        visibility_m=seen,
        sky=sky,
        ceiling_m=base,
        temperature_c=air,
        dew_point_c=dew,
        qnh_hpa=pressure,
        felt=int(felt) if felt else None,
    )
