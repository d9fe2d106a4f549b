"""Cell chemistries: what each rests at full, stored and empty, and its resting-voltage curve."""

from bisect import bisect_right
from enum import StrEnum

from walkround.core.base.struct import Struct


class Chemistry(StrEnum):
    """Cell chemistries of model packs."""

    LIPO = "lithium-polymer"
    LIHV = "high-voltage lithium"
    LIION = "lithium-ion"
    LIFE = "lithium iron-phosphate"
    NIMH = "nickel-metal hydride"
    UNKNOWN = "not known"


class CellKind(Struct, frozen=True, kw_only=True):
    """One cell of a chemistry. Voltages in V at rest unless named otherwise; the curve as (V, per cent).

    ``charge_to_v``: where the charger stops. ``full_v``: a full cell an hour later. ``fly_v``: from here it is charged.
    ``floor_v``: below, it is not flown on the full practice. ``bench_v``: lowest resting cell on *enough for the plan*.
    ``load_floor_v``: never below this under load. ``least_v``: resting below, a cell is spoiled. ``storage_v``: to keep it; None where it is kept charged.
    ``alarm_v``: usual low-voltage alarm. ``highest_v``: a larger number is a slip. ``nominal_v``: mean over a flight.
    """

    charge_to_v: float
    full_v: float
    fly_v: float
    floor_v: float
    bench_v: float
    load_floor_v: float
    least_v: float
    alarm_v: float
    storage_v: tuple[float, float] | None
    nominal_v: float
    highest_v: float
    curve: tuple[tuple[float, float], ...]


_LIPO = (
    (3.27, 0), (3.61, 5), (3.69, 10), (3.71, 15), (3.73, 20), (3.75, 25), (3.77, 30), (3.79, 35), (3.80, 40), (3.82, 45),
    (3.84, 50), (3.85, 55), (3.87, 60), (3.91, 65), (3.95, 70), (3.98, 75), (4.02, 80), (4.08, 85), (4.11, 90), (4.15, 95),
    (4.20, 100),
)  # fmt: skip
_LIION = (
    (2.80, 0), (3.20, 5), (3.33, 10), (3.43, 15), (3.49, 20), (3.54, 25), (3.58, 30), (3.61, 35), (3.64, 40), (3.67, 45),
    (3.71, 50), (3.77, 55), (3.83, 60), (3.88, 65), (3.92, 70), (3.97, 75), (4.02, 80), (4.06, 85), (4.09, 90), (4.12, 95),
    (4.20, 100),
)  # fmt: skip
_LIFE = (
    (2.60, 0), (3.00, 5), (3.13, 10), (3.20, 20), (3.24, 30), (3.275, 40), (3.285, 50), (3.29, 60), (3.31, 70),
    (3.325, 80), (3.33, 90), (3.34, 97), (3.40, 100),
)  # fmt: skip
_NIMH = (
    (1.00, 0), (1.17, 5), (1.20, 10), (1.235, 20), (1.25, 30), (1.26, 40), (1.27, 50), (1.28, 60), (1.29, 70), (1.31, 80),
    (1.34, 90), (1.40, 100),
)  # fmt: skip
_UP_V = 0.15  # high-voltage cells: the same shape, this much higher at full and nothing at empty

CELLS: dict[Chemistry, CellKind] = {
    Chemistry.LIPO: CellKind(
        charge_to_v=4.20, full_v=4.20, fly_v=12.4 / 3, floor_v=4.00, bench_v=3.5, load_floor_v=3.3, least_v=3.0, alarm_v=3.7,
        storage_v=(3.75, 3.88), nominal_v=3.7, highest_v=4.5, curve=_LIPO,
    ),
    Chemistry.LIHV: CellKind(
        charge_to_v=4.35, full_v=4.35, fly_v=12.4 / 3 + 0.15, floor_v=4.15, bench_v=3.5, load_floor_v=3.3, least_v=3.0, alarm_v=3.7,
        storage_v=(3.80, 3.95), nominal_v=3.8, highest_v=4.5,
        curve=tuple((round(v + _UP_V * min(1.0, p / 100), 4), p) for v, p in _LIPO),
    ),
    Chemistry.LIION: CellKind(
        charge_to_v=4.20, full_v=4.18, fly_v=4.11, floor_v=3.97, bench_v=3.4, load_floor_v=2.9, least_v=2.5, alarm_v=3.3,
        storage_v=(3.60, 3.80), nominal_v=3.6, highest_v=4.5, curve=_LIION,
    ),
    Chemistry.LIFE: CellKind(
        charge_to_v=3.65, full_v=3.40, fly_v=3.33, floor_v=3.29, bench_v=3.15, load_floor_v=2.8, least_v=2.0, alarm_v=3.0,
        storage_v=(3.20, 3.33), nominal_v=3.2, highest_v=3.9, curve=_LIFE,
    ),
    Chemistry.NIMH: CellKind(
        charge_to_v=1.50, full_v=1.40, fly_v=1.33, floor_v=1.27, bench_v=1.20, load_floor_v=0.95, least_v=0.8, alarm_v=1.1,
        storage_v=None, nominal_v=1.2, highest_v=1.7, curve=_NIMH,
    ),
}  # fmt: skip
_POSSIBLE = [kind for chemistry, kind in CELLS.items() if chemistry is not Chemistry.NIMH]
CELLS[Chemistry.UNKNOWN] = CellKind(
    charge_to_v=min(k.charge_to_v for k in _POSSIBLE),
    full_v=max(k.full_v for k in _POSSIBLE),
    fly_v=max(k.fly_v for k in _POSSIBLE),
    floor_v=max(k.floor_v for k in _POSSIBLE),
    bench_v=max(k.bench_v for k in _POSSIBLE),
    load_floor_v=max(k.load_floor_v for k in _POSSIBLE),
    least_v=max(k.least_v for k in _POSSIBLE),
    alarm_v=max(k.alarm_v for k in _POSSIBLE),
    storage_v=None,
    nominal_v=min(k.nominal_v for k in _POSSIBLE),
    highest_v=max(k.highest_v for k in _POSSIBLE),
    curve=CELLS[Chemistry.LIHV].curve,
)
"""By chemistry; not known: any lithium kind it may be, at each bound the one that grounds first, charged as far as the kind
that holds least at that voltage. Source: lithium-polymer 4.20, 12.4 and 12.0 V on three cells, 3.7 and 3.5 V common practice, no source,
3.3 V from memory; least voltages 3.0 V common practice, 2.5, 2.0 V as published cells are cut off, nickel from memory; the other chemistries and every curve from resting charts of hobby packs, from memory. Checked in the
tests against published cell parameter sets."""

FULL_CELL_V = {chemistry: kind.full_v for chemistry, kind in CELLS.items()}
"""Resting voltage of a full cell in V. Source: ``CELLS``."""


_COLUMNS = {chemistry: (tuple(v for v, _ in k.curve), tuple(p for _, p in k.curve)) for chemistry, k in CELLS.items()}


def _between(x: float, xs: tuple[float, ...], ys: tuple[float, ...]) -> float:
    """Straight between the points, held at the ends."""
    if x <= xs[0]:
        return ys[0]
    if x >= xs[-1]:
        return ys[-1]
    i = bisect_right(xs, x)
    return ys[i - 1] + (ys[i] - ys[i - 1]) * (x - xs[i - 1]) / (xs[i] - xs[i - 1])


def is_lithium(chemistry: Chemistry) -> bool:
    """Whether the cells are lithium cells, which burn when hurt. Source: chemistry."""
    return chemistry is not Chemistry.NIMH


def charge_percent(cell_v: float, chemistry: Chemistry = Chemistry.LIPO) -> float:
    """State of charge in per cent (0 to 100) from the resting voltage (V) of one cell; straight between chart points.

    Values outside the curve are held at its ends. It is one number where there is a range: see ``charge_range``.
    Source: resting charts of hobby packs, from memory; ``CELLS``.
    """
    return _between(cell_v, *_COLUMNS[chemistry])


def resting_v(charge: float, chemistry: Chemistry = Chemistry.LIPO) -> float:
    """Resting voltage (V) of one cell at a state of charge in per cent (0 to 100): the inverse of ``charge_percent``.

    Source: as ``charge_percent``.
    """
    volts, percents = _COLUMNS[chemistry]
    return _between(charge, percents, volts)
