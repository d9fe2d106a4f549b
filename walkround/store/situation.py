"""Gathering a situation: everything the core needs to know now, in a bounded number of queries."""

import json
from datetime import UTC, datetime, time, timedelta
from functools import lru_cache
from statistics import median
from typing import Any, NamedTuple
from zoneinfo import ZoneInfo

import msgspec
from peewee import Select, fn

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.clock import is_ahead, latest
from walkround.core.base.geodesy import Position
from walkround.core.base.units import Quantity
from walkround.core.calibration.still import usual_s
from walkround.core.checklist.check import Occasion
from walkround.core.checklist.history import Done, History
from walkround.core.field.site import Site
from walkround.core.flight.estimate import Use
from walkround.core.packs.pack import Pack
from walkround.core.round.consequences import Happened
from walkround.core.round.situation import Situation, usual_minutes
from walkround.core.weather.weather import Weather
from walkround.store import box, calibrations, gear, hangar, link_trials, packs, parts, snags, upgrade, zones
from walkround.store.models import DoneRow, FlightRow, RoundRow, SiteRow
from walkround.store.settings import Settings
from walkround.store.statements import prepared, until_changed

TYPICAL_FLIGHTS = 10


def gather(
    aircraft_id: int,
    pack_id: int,
    site_id: int,
    *,
    now: datetime,
    settings: Settings,
    weather: Weather | None = None,
    planned_min: float | None = None,
    occasions: tuple[Occasion, ...] = (),
) -> Situation:
    """The situation for an aircraft, a pack and a field by their numbers, at an aware moment. Raises MissingError."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    pack = hangar.get(Pack, pack_id)
    site = hangar.get(Site, site_id)
    return situation_of(
        aircraft, pack, site, now=now, settings=settings, weather=weather, planned_min=planned_min, occasions=occasions
    )


def situation_of(
    aircraft: Aircraft,
    pack: Pack,
    site: Site,
    *,
    now: datetime,
    settings: Settings,
    weather: Weather | None = None,
    planned_min: float | None = None,
    occasions: tuple[Occasion, ...] = (),
    packs_ready: int | None = None,
) -> Situation:
    """The situation for things at hand: their history added, and the pilot's limits and methods. ``packs_ready``: how many
    packs that fit are charged and may fly, if at hand."""
    history = _history(aircraft, pack, site, now, packs_ready)
    return Situation(
        now=now,
        aircraft=aircraft,
        pack=pack,
        site=site,
        planned_min=planned_min or usual_minutes(history, aircraft),
        weather=weather,
        airspace=zones.airspace_at(site),
        limits=settings.limits,
        methods=settings.methods,
        history=history,
        occasions=occasions,
        custom_checklist=settings.custom_checklist,
    )


def home_zone() -> str:
    """The time zone of the field last flown at, else of the first field, else UTC."""
    spec = _last_site.value() or _first_site.value()
    return str(json.loads(spec).get("timezone", "UTC")) if spec else "UTC"


@prepared
def _last_site() -> Select:
    return FlightRow.select(SiteRow.spec).join(SiteRow).order_by(FlightRow.took_off_at.desc()).limit(1)


@prepared
def _first_site() -> Select:
    return SiteRow.select(SiteRow.spec).order_by(SiteRow.id).limit(1)


def day_bounds(now: datetime, zone: str) -> tuple[datetime, datetime]:
    """First moment of the day at the field and of the next one, in UTC."""
    local = now.astimezone(ZoneInfo(zone))
    start = datetime.combine(local.date(), time(), ZoneInfo(zone))
    end = datetime.combine(local.date() + timedelta(days=1), time(), ZoneInfo(zone))
    return start.astimezone(UTC), end.astimezone(UTC)


def _ready(aircraft: Aircraft, now: datetime) -> int:
    """How many packs that fit are charged and may fly."""
    return sum(turn.charged for turn in box.flying_order(aircraft, now))


def _history(aircraft: Aircraft, pack: Pack, site: Site, now: datetime, packs_ready: int | None) -> History:
    aircraft_id = aircraft.id
    pack_id, known = pack.id, packs.in_short(pack.id, now)
    start, end = day_bounds(now, site.timezone)
    logged = _logged(aircraft_id, pack_id, site.id)
    pack_flights = logged.pack_flights
    minutes = [flown for _, flown, _ in pack_flights]
    last = _last_take_off.value(latest(now))
    at, position, where = logged.last_flight
    bench_test, rehearsals = link_trials.newest(aircraft_id, now)
    return History(
        pack_flights_today=sum(start <= off < end for off, _, _ in pack_flights),
        pack_last_flight_at=pack_flights[0][0] if pack_flights else None,
        pack_last_flight_clean=pack_flights[0][2] == Happened.NOTHING if pack_flights else None,
        pack_typical_min=round(median(minutes), 1) if minutes else None,
        pack_typical_flights=len(minutes),
        pilot_last_flight_at=datetime.fromisoformat(last) if isinstance(last, str) else last,
        aircraft_flown=at is not None or aircraft.flown_before > 0,
        aircraft_last_flight_at=at,
        aircraft_last_position=position,
        aircraft_last_site=where,
        uses=logged.uses,
        pack_state_of_health=known.state_of_health,
        pack_mohm=known.mohm,
        pack_summary=known,
        packs_ready=_ready(aircraft, now) if packs_ready is None else packs_ready,
        part_firmware=(*parts.firmware_of(aircraft_id), *(packs.firmware_of(pack.cells) if pack.smart else ())),
        site_flown=logged.site_flown,
        rounds_today=_signed_rounds.value(aircraft_id, start, end),
        done=_done(aircraft_id, now),
        events=tuple(hangar.latest_events(aircraft_id, now)),
        snags=tuple(snags.open_ones(aircraft_id, pack_id)),
        bench_test=bench_test,
        rehearsals=rehearsals,
        gear=gear.lasts(aircraft, now),
        still_usual_s=usual_s(one for one in calibrations.starts(aircraft_id) if not is_ahead(one.at, now)),
    )


class _Logged(NamedTuple):
    """What the logbook says of an aircraft, a pack and a field, whenever it is asked: flights of the pack with their minutes and what
    happened, newest first; the last flight of the aircraft, when and where; what its flights used; whether the field was flown at."""

    pack_flights: tuple[tuple[datetime, float, str], ...]
    last_flight: tuple[datetime | None, Position | None, str]
    uses: tuple[Use, ...]
    site_flown: bool


@until_changed
def _logged(aircraft_id: int, pack_id: int, site_id: int) -> _Logged:
    return _Logged(
        tuple(_flights_of_pack(pack_id)),
        _last_flight(aircraft_id),
        packs.uses(aircraft_id),
        _flown_at.first(site_id) is not None,
    )


@prepared
def _flights_of_pack(pack: Any) -> Select:
    flown = FlightRow.select(FlightRow.took_off_at, FlightRow.minutes, FlightRow.happened)
    flown = flown.where((FlightRow.pack == pack) & FlightRow.minutes.is_null(False))
    return flown.order_by(FlightRow.took_off_at.desc()).limit(TYPICAL_FLIGHTS)


@prepared
def _last_take_off(until: Any) -> Select:
    return FlightRow.select(fn.MAX(FlightRow.took_off_at)).where(FlightRow.took_off_at <= until)


@prepared
def _flown_at(site: Any) -> Select:
    return FlightRow.select(FlightRow.id).where((FlightRow.site == site) & FlightRow.landed_at.is_null(False)).limit(1)


@prepared
def _signed_rounds(aircraft: Any, start: Any, end: Any) -> Select:
    today = (RoundRow.signed_at >= start) & (RoundRow.signed_at < end)
    of_it = (RoundRow.aircraft == aircraft) & (RoundRow.state == "signed")
    return RoundRow.select(fn.COUNT(RoundRow.id)).where(of_it & today)


@prepared
def _passed(aircraft: Any) -> Select:
    return DoneRow.select(DoneRow.check_id, DoneRow.at, DoneRow.value).where(DoneRow.aircraft == aircraft)


@prepared
def _flown_last(aircraft: Any) -> Select:
    flown = (FlightRow.aircraft == aircraft) & FlightRow.landed_at.is_null(False)
    newest = FlightRow.select(FlightRow.took_off_at, SiteRow.name, SiteRow.spec).join(SiteRow).where(flown)
    return newest.order_by(FlightRow.took_off_at.desc()).limit(1)


def _done(aircraft_id: int, now: datetime) -> tuple[Done, ...]:
    """When each check was last passed on an aircraft, and what was measured; never what is dated ahead of the clock."""
    return tuple(_done_of(row) for row in _passed(aircraft_id) if not is_ahead(row[1], now))


@lru_cache(maxsize=8192)
def _done_of(row: tuple[str, datetime, str | None]) -> Done:
    check_id, at, value = row
    return Done(check_id=check_id, at=at, value=None if value is None else msgspec.json.decode(value, type=Quantity))


def _last_flight(aircraft_id: int) -> tuple[datetime | None, Position | None, str]:
    """The last flight of an aircraft: when and where it was; None when it never flew."""
    newest = _flown_last.first(aircraft_id)
    if newest is None:
        return None, None, ""
    took_off_at, name, spec = newest
    return took_off_at, Position.model_validate(json.loads(spec)["position"]), name


@lru_cache(maxsize=32)
def situation_in(text: str) -> Situation:
    """A situation as stored, by whichever version. Raises ValueError when it is none. Kept by its text: a change of it is
    another text."""
    return Situation.model_validate(upgrade.read("situation", json.loads(text)))


def situation_text(situation: Situation) -> str:
    """A situation to be stored, with the number of its format."""
    return json.dumps(upgrade.marked(situation.model_dump(mode="json")))
