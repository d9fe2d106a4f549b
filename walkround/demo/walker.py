"""Walking a round by itself: a sensible answer to every check, for the demo's past, the benchmark and the tests."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from functools import lru_cache

from walkround.core.answers import KINDS
from walkround.core.answers.choice import Chosen
from walkround.core.answers.fix import AskFix, FixRead
from walkround.core.answers.flight import AskFlight, Planned
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import AskNumber, Measured
from walkround.core.answers.weather import AskWeather, WeatherRead
from walkround.core.base.geodesy import Position
from walkround.core.checklist.check import Check, Phase
from walkround.core.field.interference import sources
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.packs.chemistry import CELLS
from walkround.core.round.context import Context
from walkround.core.round.contradictions import versions_on_record
from walkround.core.round.evidence import Evidence
from walkround.core.round.judge import RoundCase
from walkround.core.round.plan import SNAG_STILL, make_plan
from walkround.core.round.situation import Situation
from walkround.core.sensors.nmea import Fix, read_nmea
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


@lru_cache(maxsize=8)
def _fix(position: Position, at: datetime, elevation_m: float) -> Fix:
    return read_nmea(SimulatedReceiver().nmea(position, at, elevation_m), at)


def good_answer(check: Check, situation: Situation, at: datetime) -> Answer:
    """An answer that finds nothing wrong with this check, at an aware moment."""
    ask = check.ask
    if check.id.startswith("snag."):
        return Chosen(option=SNAG_STILL)
    if check.id == "bench.firmware" and len(versions_on_record(situation)) > 1:
        return Chosen(option="packs")
    if isinstance(ask, AskFlight):
        most = Context(situation, {}).endurance().today.mid
        plan = FlightPlan(work_min=round(most * 0.35, 1), height_m=min(40.0, situation.site.flight_height_m))
        return Planned(plan=plan)
    if isinstance(ask, AskFix):
        return FixRead(fix=_fix(situation.site.position, at, situation.site.elevation_m))
    if isinstance(ask, AskWeather):
        return WeatherRead(weather=decode_report(SimulatedWeatherStation().report(situation.site.station, at), at))
    if isinstance(ask, AskNumber) and (value := _number(check, situation)) is not None:
        return Measured(value=value)
    return KINDS[ask.kind].example(check, RoundCase(Context(situation, {})), at)


def _number(check: Check, situation: Situation) -> float | None:
    """What a number that is judged by rule has to be, in its inside unit; None where its bands say it."""
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
    return _NUMBERS.get(check.id)


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
