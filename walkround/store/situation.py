"""Gathering a situation: everything the core needs to know now, in a bounded number of queries."""

import json
from datetime import UTC, datetime, time, timedelta
from statistics import median
from zoneinfo import ZoneInfo

from peewee import fn

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.clock import is_ahead, latest
from walkround.core.base.geodesy import Position
from walkround.core.base.units import Quantity
from walkround.core.checklist.check import Occasion
from walkround.core.checklist.history import Done, History
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.packs.upkeep import next_packs
from walkround.core.round.situation import Situation, usual_minutes
from walkround.core.weather.weather import Weather
from walkround.store import hangar, packs, parts, snags, upgrade, zones
from walkround.store.models import DoneRow, FlightRow, RoundRow, SiteRow, tuples
from walkround.store.settings import Settings

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
) -> Situation:
    """The situation for things at hand: their history added, and the pilot's limits and methods."""
    history = _history(aircraft, pack, site, now)
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
    last = FlightRow.select(SiteRow.spec).join(SiteRow).order_by(FlightRow.took_off_at.desc()).tuples().first()
    first = last or SiteRow.select(SiteRow.spec).order_by(SiteRow.id).tuples().first()
    return str(json.loads(first[0]).get("timezone", "UTC")) if first else "UTC"


def day_bounds(now: datetime, zone: str) -> tuple[datetime, datetime]:
    """First moment of the day at the field and of the next one, in UTC."""
    local = now.astimezone(ZoneInfo(zone))
    start = datetime.combine(local.date(), time(), ZoneInfo(zone))
    end = datetime.combine(local.date() + timedelta(days=1), time(), ZoneInfo(zone))
    return start.astimezone(UTC), end.astimezone(UTC)


def _ready(aircraft: Aircraft, now: datetime) -> int:
    """How many packs that fit are charged and may fly."""
    fitting = [pack for pack in hangar.everything(Pack) if pack.usable and pack.fits(aircraft)]
    known_packs = [(pack, known, known.charge_now(pack, now)) for pack, known in packs.known_packs(now, fitting)]
    return sum(turn.charged for turn in next_packs(known_packs, now, down=frozenset(snags.grounded_packs())))


def _history(aircraft: Aircraft, pack: Pack, site: Site, now: datetime) -> History:
    aircraft_id = aircraft.id
    pack_id, known = pack.id, packs.in_short(pack.id, now)
    start, end = day_bounds(now, site.timezone)
    pack_flights = list(
        tuples(
            FlightRow.select(FlightRow.took_off_at, FlightRow.minutes)
            .where((FlightRow.pack == pack_id) & FlightRow.minutes.is_null(False))
            .order_by(FlightRow.took_off_at.desc())
            .limit(TYPICAL_FLIGHTS)
        )
    )
    minutes = [flown for _, flown in pack_flights]
    last = FlightRow.select(fn.MAX(FlightRow.took_off_at)).where(FlightRow.took_off_at <= latest(now)).scalar()
    here = (FlightRow.site == site.id) & FlightRow.landed_at.is_null(False)
    at, position, where = _last_flight(aircraft_id)
    return History(
        pack_flights_today=sum(start <= off < end for off, _ in pack_flights),
        pack_last_flight_at=pack_flights[0][0] if pack_flights else None,
        pack_typical_min=round(median(minutes), 1) if minutes else None,
        pack_typical_flights=len(minutes),
        pilot_last_flight_at=datetime.fromisoformat(last) if isinstance(last, str) else last,
        aircraft_flown=at is not None,
        aircraft_last_flight_at=at,
        aircraft_last_position=position,
        aircraft_last_site=where,
        uses=packs.uses(aircraft_id),
        pack_state_of_health=known.state_of_health,
        pack_mohm=known.mohm,
        pack_summary=known,
        packs_ready=_ready(aircraft, now),
        part_firmware=(*parts.firmware_of(aircraft_id), *(packs.firmware_of(pack.cells) if pack.smart else ())),
        site_flown=FlightRow.select(FlightRow.id).where(here).limit(1).scalar() is not None,
        rounds_today=RoundRow.select()
        .where(
            (RoundRow.aircraft == aircraft_id)
            & (RoundRow.state == "signed")
            & (RoundRow.signed_at >= start)
            & (RoundRow.signed_at < end)
        )
        .count(),
        done=_done(aircraft_id, now),
        events=tuple(hangar.latest_events(aircraft_id, now)),
        snags=tuple(snags.open_ones(aircraft_id, pack_id)),
    )


def _done(aircraft_id: int, now: datetime) -> tuple[Done, ...]:
    """When each check was last passed on an aircraft, and what was measured; never what is dated ahead of the clock."""
    rows = tuples(DoneRow.select(DoneRow.check_id, DoneRow.at, DoneRow.value).where(DoneRow.aircraft == aircraft_id))
    return tuple(
        Done(check_id=check_id, at=at, value=None if value is None else Quantity.model_validate_json(value))
        for check_id, at, value in rows
        if not is_ahead(at, now)
    )


def _last_flight(aircraft_id: int) -> tuple[datetime | None, Position | None, str]:
    """The last flight of an aircraft: when and where it was; None when it never flew."""
    flown = (FlightRow.aircraft == aircraft_id) & FlightRow.landed_at.is_null(False)
    newest = (
        FlightRow.select(FlightRow.took_off_at, SiteRow.id, SiteRow.name, SiteRow.spec)
        .join(SiteRow)
        .where(flown)
        .order_by(FlightRow.took_off_at.desc())
        .first()
    )
    if newest is None:
        return None, None, ""
    position = Position.model_validate(json.loads(newest.site.spec)["position"])
    return newest.took_off_at, position, newest.site.name


def situation_in(text: str) -> Situation:
    """A situation as stored, by whichever version. Raises ValueError when it is none."""
    return Situation.model_validate(upgrade.read("situation", json.loads(text)))


def situation_text(situation: Situation) -> str:
    """A situation to be stored, with the number of its format."""
    return json.dumps(upgrade.marked(situation.model_dump(mode="json")))
