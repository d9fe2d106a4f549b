"""Walking a round by itself: a sensible answer to every check, for the demo's past, the benchmark and the tests."""

from collections.abc import Mapping
from datetime import datetime, timedelta

from walkround.core.aircraft.bag import Packed, bag_list
from walkround.core.aircraft.control_directions import SHOWN, StickSeen, stick_tests
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.base.finding import Level
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
    Band,
    Check,
    Phase,
)
from walkround.core.field.interference import sources
from walkround.core.flight.plan_of_flight import FlightPlan
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.packs.chemistry import CELLS
from walkround.core.packs.reading import CellReading
from walkround.core.round import evidence as ev
from walkround.core.round.agree import versions_on_record
from walkround.core.round.context import Context
from walkround.core.round.evidence import Answer, Evidence
from walkround.core.round.plan import SNAG_STILL, make_plan
from walkround.core.round.situation import Situation
from walkround.core.sensors.nmea import read_nmea
from walkround.core.weather.metar import decode_report
from walkround.simulators.receiver import SimulatedReceiver
from walkround.simulators.weather import SimulatedWeatherStation

_NUMBERS = {
    "bench.transmitter": 88.0,
    "bench.screen": 91.0,
    "bench.card": 54.0,
    "bench.board_voltage": 5.1,
    "field.launch_circle": 7.0,
    "sky.wind_meter": 3.4,
    "pack.percent": 98.0,
    "pack.temperature": 21.0,
    "sensors.heading": 3.0,
    "sensors.barometer": 0.4,
}


def good_answer(check: Check, situation: Situation, at: datetime) -> Answer:
    """An answer that finds nothing wrong with this check, at an aware moment."""
    ask = check.ask
    if check.id.startswith("snag."):
        return ev.Chosen(option=SNAG_STILL)
    if check.id == "bench.firmware" and len(versions_on_record(situation)) > 1:
        return ev.Chosen(option="packs")
    if isinstance(ask, AskChoice):
        return ev.Chosen(option=next(o.id for o in ask.options if o.level is Level.CLEAR))
    if isinstance(ask, AskNumber):
        return ev.Measured(value=_number(check, situation))
    if isinstance(ask, AskRotors | AskControlDirections | AskPacked):
        return _drawn(ask, situation)
    if isinstance(ask, AskFlight):
        most = Context(situation, {}).endurance().today.mid
        plan = FlightPlan(work_min=round(most * 0.35, 1), height_m=min(40.0, situation.site.flight_height_m))
        return ev.Planned(plan=plan)
    if isinstance(ask, AskTimer):
        return ev.Counted(seconds=ask.seconds)
    if isinstance(ask, AskCells):
        cells = tuple((4.20, 4.19, 4.19)[i % 3] for i in range(situation.pack.cells))
        return ev.CellsRead(reading=CellReading(cells_v=cells, total_v=round(sum(cells), 3)))
    if isinstance(ask, AskFix):
        text = SimulatedReceiver().nmea(situation.site.position, at)
        return ev.FixRead(fix=read_nmea(text, at))
    if isinstance(ask, AskWeather):
        text = SimulatedWeatherStation().report(situation.site.station, at)
        return ev.WeatherRead(weather=decode_report(text, at))
    return ev.Passed()


def _drawn(ask: AskRotors | AskControlDirections | AskPacked, situation: Situation) -> Answer:
    """Everything as the drawing or the list has it."""
    aircraft = situation.aircraft
    if isinstance(ask, AskControlDirections):
        return ev.ControlDirectionsSeen(
            seen=tuple(StickSeen(stick=c.stick, result=SHOWN) for c in stick_tests(aircraft))
        )
    if isinstance(ask, AskPacked):
        return ev.BagPacked(packed=Packed(have=tuple((t.id, t.wanted) for t in bag_list(aircraft))))
    motors = ask.look == "motors"
    seen = [
        RotorSeen(number=r.number, spin=r.spin)
        if motors
        else RotorSeen(number=r.number, rotation=r.spin, edge_leads=True)
        for r in rotor_layout(aircraft)
    ]
    return ev.RotorsSeen(seen=tuple(seen))


def _clear_of(band: Band) -> float:
    """A number that lies well inside a band."""
    lows = [x for x in (band.ground_below, band.caution_below) if x is not None]
    highs = [x for x in (band.caution_above, band.ground_above) if x is not None]
    if lows and highs:
        return (max(lows) + min(highs)) / 2
    return max(lows) * 1.2 + 1 if lows else min(highs) * 0.5


def _number(check: Check, situation: Situation) -> float:
    aircraft = situation.aircraft
    if check.id == "field.max_height":
        return min(situation.site.flight_height_m, situation.limits.height_max_m * 0.5)
    if check.id == "airframe.bands":
        return float(aircraft.bands)
    if check.id == "airframe.cg":
        return ((aircraft.cg_min_mm or 0) + (aircraft.cg_max_mm or 0)) / 2
    if check.id == "link.rth_altitude":
        needs = rth_altitude(situation.site, aircraft, situation.limits, None)
        return float(min(situation.limits.height_max_m, needs.lowest_m + 12))
    if check.id == "bench.packs_ready":
        return float(max(1, situation.history.packs_ready or 2))
    if check.id == "field.interference":
        return min((one.away_m for one in sources(situation.site)), default=150.0)
    if check.id == "link.turn_back":
        return min(100.0, (Context(situation, {}).turn_back_percent or 60.0) + 15)
    if check.id == "pack.alarm":
        kind = CELLS[situation.pack.chemistry]
        return (kind.load_floor_v + kind.alarm_v) / 2 + 0.2
    if check.id == "pack.receiver_voltage":
        return min(8.0, max(5.2, situation.pack.cells * CELLS[situation.pack.chemistry].floor_v))
    if check.id == "field.public_line":
        return situation.limits.people_m * 2
    if check.id in _NUMBERS:
        return _NUMBERS[check.id]
    assert isinstance(check.ask, AskNumber) and check.ask.band is not None
    return _clear_of(check.ask.band)


def walked_evidence(
    situation: Situation,
    begun: datetime,
    first_id: int = 1,
    answers: Mapping[str, Answer] | None = None,
    pace_s: float = 25,
) -> tuple[Evidence, ...]:
    """Evidence for every check before take-off, gates in order, ``pace_s`` seconds apart; ``answers`` replace the good ones."""
    pieces = []
    order = [p.check for p in make_plan(situation).checks if p.check.phase is Phase.BEFORE]
    for number, check in enumerate(order):
        at = begun + timedelta(seconds=pace_s * number)
        given = (answers or {}).get(check.id) or good_answer(check, situation, at)
        pieces.append(Evidence(id=first_id + number, check_id=check.id, at=at, answer=given))
    return tuple(pieces)
