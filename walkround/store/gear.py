"""Charges of the gear as they were read, on this page or in a round."""

from datetime import datetime

import msgspec

from walkround.core.base.units import Quantity
from walkround.core.flight.session import CHECKS, Gear, GearReading, use_per_hour
from walkround.core.packs.charge import ChargeRange, from_percent
from walkround.store.air_models import GearReadingRow
from walkround.store.models import DoneRow

MOST = 60
"""So many readings of each tell the use. Source: our choice."""


def keep(gear: Gear, charge: ChargeRange, at: datetime) -> None:
    """Keep a charge that was read at an aware time."""
    GearReadingRow.create(gear=gear.value, at=at, low=charge.low, high=charge.high)


def _typed(gear: Gear) -> list[GearReading]:
    rows = (
        GearReadingRow.select().where(GearReadingRow.gear == gear.value).order_by(GearReadingRow.at.desc()).limit(MOST)
    )
    return [GearReading(gear=gear, at=row.at, low=row.low, high=row.high) for row in rows]


def _from_rounds() -> list[GearReading]:
    """The newest charge of each that a round asked for."""
    found = []
    rows = DoneRow.select(DoneRow.check_id, DoneRow.at, DoneRow.value).where(DoneRow.check_id.in_(list(CHECKS)))
    for row in rows:
        if row.value is not None:
            held = from_percent(msgspec.json.decode(row.value, type=Quantity).value)
            found.append(GearReading(gear=CHECKS[row.check_id], at=row.at, low=held.low, high=held.high))
    return found


def known(gear: tuple[Gear, ...], now: datetime) -> tuple[dict[Gear, GearReading], dict[Gear, float]]:
    """The newest charge of each up to an aware time, and what it uses in an hour in per cent where that is learned."""
    latest: dict[Gear, GearReading] = {}
    learned: dict[Gear, float] = {}
    rounds = _from_rounds()
    for one in gear:
        readings = [r for r in (*_typed(one), *(r for r in rounds if r.gear is one)) if r.at <= now]
        if readings:
            latest[one] = max(readings, key=lambda reading: reading.at)
        if (rate := use_per_hour(readings)) is not None:
            learned[one] = rate
    return latest, learned
