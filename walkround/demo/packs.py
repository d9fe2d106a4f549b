"""The invented pilot's box: packs of several kinds and ages, with the readings that tell their stories."""

import random
from datetime import date, datetime, timedelta
from typing import Any

from walkround.core.packs.chemistry import Chemistry, charge_percent
from walkround.core.packs.load import resistance_factor
from walkround.core.packs.pack import Pack, PackState, PackUse
from walkround.core.packs.reading import After, Reading
from walkround.store import hangar, packs
from walkround.store.models import FlightRow

# (label, chemistry, cells, mAh, smart, days since charged, years old, what else)
_BOX: tuple[tuple[Any, ...], ...] = (
    ("S1", Chemistry.LIPO, 3, 3500, True, 1, 1.6, {"firmware": "2.3"}),
    ("S2", Chemistry.LIPO, 3, 3500, True, 9, 0.8, {"firmware": "2.3"}),
    ("S3", Chemistry.LIPO, 3, 3500, True, 2, 0.8, {"firmware": "2.2"}),
    ("H1", Chemistry.LIPO, 3, 2200, False, 2, 1.2, {"c_rate": 30, "mass_g": 185, "connector": "60 A, two pins"}),
    ("H2", Chemistry.LIPO, 3, 2200, False, 30, 2.6, {"c_rate": 30, "mass_g": 185}),
    ("H3", Chemistry.LIPO, 3, 2200, False, 6, 0.5, {"c_rate": 35, "mass_g": 190, "mark": "dropped once"}),
    ("L1", Chemistry.LIPO, 6, 10_000, False, 3, 0.9, {"c_rate": 15, "mass_g": 1340}),
    ("M1", Chemistry.LIHV, 2, 850, False, 3, 0.4, {}),
    ("TX", Chemistry.LIION, 2, 5000, False, 5, 2.0, {"use": PackUse.TRANSMITTER}),
    ("Goggles", Chemistry.LIFE, 2, 1800, False, 12, 1.0, {"use": PackUse.GOGGLES}),
    ("Wing RX", Chemistry.NIMH, 4, 1600, False, 4, 3.0, {"use": PackUse.RECEIVER}),
)  # fmt: skip


def fill_box(now: datetime) -> dict[str, int]:
    """All packs; returns their numbers by label."""
    numbers = {}
    for label, kind, cells, capacity, smart, days, years, more in _BOX:
        pack = Pack(
            label=label,
            chemistry=kind,
            cells=cells,
            capacity_mah=capacity,
            smart=smart,
            charged_at=now - timedelta(days=days),
            bought=date.fromordinal(now.date().toordinal() - int(365 * years)),
            **more,
        )
        numbers[label] = hangar.save(pack, now)
    return numbers


def _cells(count: int, volts: float, imbalance_v: float, dice: random.Random) -> tuple[float, ...]:
    """Cells about a voltage, the second one lagging by the spread."""
    return tuple(round(volts - (imbalance_v if i == 1 else dice.uniform(0, 0.006)), 3) for i in range(count))


def fill_readings(numbers: dict[str, int], now: datetime) -> None:
    """Readings of the past months: S1 loses capacity, H1's cells drift, L1's resistance jumped, the others are well."""
    dice = random.Random(7)
    full = {"S1": 4.19, "S2": 4.19, "S3": 4.2, "H1": 4.19, "H3": 4.19, "L1": 4.19, "M1": 4.33}
    mohm = {"S1": 7.2, "S2": 4.9, "S3": 4.8, "H1": 8.1, "H3": 6.4, "L1": 1.9, "M1": 17.0}
    loss = {"S1": 1.35, "S2": 0.3, "S3": 0.25, "H1": 0.5, "H3": 0.2, "L1": 0.4, "M1": 0.2}
    for label, begun, every in (("S1", 300, 17), ("S2", 240, 21), ("S3", 200, 26), ("H1", 280, 22), ("H3", 150, 24),
                                ("L1", 400, 23), ("M1", 110, 27)):  # fmt: skip
        pack = hangar.get(Pack, numbers[label])
        for step, days in enumerate(range(begun, 11, -every)):
            at = now - timedelta(days=days, hours=3)
            age = (begun - days) / 30
            usable = pack.capacity_mah * (1 - loss[label] * age / 100) * dice.gauss(0.985, 0.012)
            volts = dice.uniform(3.69, 3.75) + (0.04 if label == "M1" else 0)
            shown = round(dice.uniform(28, 52)) if pack.smart else None
            grown = mohm[label] * (1 + 0.012 * age) * dice.gauss(1, 0.025) * (1.45 if label == "L1" and step > 9 else 1)
            warm = round(dice.uniform(18, 26))
            grown *= resistance_factor(warm)
            lag = 0.004 + (0.0035 * age if label == "H1" else 0.0005 * age)
            packs.keep(numbers[label], Reading(
                at=at, percent=shown, cells_v=_cells(pack.cells, volts, lag, dice), temperature_c=warm,
                resistance_mohm=tuple(round(grown * dice.gauss(1, 0.02), 2) for _ in range(pack.cells)),
            ))  # fmt: skip
            left = shown if shown is not None else charge_percent(volts - lag / pack.cells, pack.chemistry)
            recharged_mah = round(usable * (100 - left) / 100)
            packs.keep(
                numbers[label],
                Reading(at=at + timedelta(hours=2), recharged_mah=recharged_mah, percent=100, after=After.CHARGE),
            )
        rested = at + timedelta(days=2)
        packs.keep(numbers[label], Reading(at=rested, percent=50, after=After.CHARGE, note="brought to storage"))
    _charged(numbers, now, dice, full)
    packs.change_state(
        numbers["H2"], PackState.RETIRED, "Rocks on the table: swollen", now - timedelta(days=30), condemned=True
    )
    packs.change_state(
        numbers["H3"], PackState.MONITOR, "Fell off the bench; flat and whole, cells agree", now - timedelta(days=20)
    )
    for label, *_ in _BOX:
        packs.refresh(numbers[label], now)


def _charged(numbers: dict[str, int], now: datetime, dice: random.Random, full: dict[str, float]) -> None:
    """The newest charges, so that some fly, some were full for too long, some were used and not charged since."""
    for label, _, cells, _, _, days, _, _ in _BOX:
        if label in ("H2", "S2", "S3", "L1"):
            continue
        at = now - timedelta(days=days)
        if label == "TX":
            packs.keep(numbers[label], Reading(at=now - timedelta(days=3), percent=62))
            continue
        last = FlightRow.select().where(FlightRow.pack == numbers[label]).order_by(FlightRow.took_off_at.desc()).first()
        if last is None or last.took_off_at < at or label in full:
            packs.keep(numbers[label], Reading(at=at, percent=100, after=After.CHARGE, since_min=0))
        if label == "H1":
            packs.keep(
                numbers[label], Reading(at=at + timedelta(hours=20), cells_v=_cells(cells, full[label], 0.041, dice))
            )
