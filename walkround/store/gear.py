"""Charges of the gear as they were read, on this page or in a round."""

from datetime import datetime

import msgspec
from peewee import Select

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.units import Quantity
from walkround.core.flight.session import CHECKS, Gear, GearLasts, GearReading, gear_lasts, gear_of, use_per_hour
from walkround.core.packs.charge import ChargeRange, from_percent
from walkround.store.air_models import GearReadingRow
from walkround.store.models import DoneRow
from walkround.store.statements import prepared

MOST = 60
"""So many readings of each tell the use. Source: our choice."""


def keep(gear: Gear, charge: ChargeRange, at: datetime) -> None:
    """Keep a charge that was read at an aware time."""
    GearReadingRow.create(gear=gear.value, at=at, low=charge.low, high=charge.high)


@prepared
def _newest() -> Select:
    columns = (GearReadingRow.gear, GearReadingRow.at, GearReadingRow.low, GearReadingRow.high)
    return GearReadingRow.select(*columns).order_by(GearReadingRow.at.desc()).limit(MOST * len(Gear))


@prepared
def _asked() -> Select:
    return DoneRow.select(DoneRow.check_id, DoneRow.at, DoneRow.value).where(DoneRow.check_id.in_(list(CHECKS)))


def _typed() -> list[GearReading]:
    return [GearReading(gear=Gear(gear), at=at, low=low, high=high) for gear, at, low, high in _newest()]


def _from_rounds() -> list[GearReading]:
    """The newest charge of each that a round asked for."""
    found = []
    for check_id, at, value in _asked():
        if value is not None:
            held = from_percent(msgspec.json.decode(value, type=Quantity).value)
            found.append(GearReading(gear=CHECKS[check_id], at=at, low=held.low, high=held.high))
    return found


def known(gear: tuple[Gear, ...], now: datetime) -> tuple[dict[Gear, GearReading], dict[Gear, float]]:
    """The newest charge of each up to an aware time, and what it uses in an hour in per cent where that is learned."""
    latest: dict[Gear, GearReading] = {}
    learned: dict[Gear, float] = {}
    every = [*_typed(), *_from_rounds()]
    for one in gear:
        readings = [r for r in every if r.gear is one and r.at <= now]
        if readings:
            latest[one] = max(readings, key=lambda reading: reading.at)
        if (rate := use_per_hour(readings)) is not None:
            learned[one] = rate
    return latest, learned


def lasts(aircraft: Aircraft, now: datetime) -> tuple[GearLasts, ...]:
    """How long transmitter and the rest last for an aircraft, from an aware time on."""
    needed = gear_of(aircraft)
    return gear_lasts(needed, *known(needed, now), now)
