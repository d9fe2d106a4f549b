"""Samples of a sensor as they come: pasted, as a file, typed or live; in whatever unit, with what cannot be used told apart."""

import io
import math
from enum import StrEnum
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.sensors.columns import read_columns, throttle_share

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

FIELD, ACCELERATION, STRENGTH = ("m", "raw_m"), ("a", "raw_a"), ("strength", "field", "mag", "mag_total", "total")
"""So columns begin, or are named. Source: ``docs/recording.md``."""


class FieldUnit(StrEnum):
    """Units of a magnetic field."""

    MICROTESLA = "µT"
    NANOTESLA = "nT"
    GAUSS = "gauss"
    MILLIGAUSS = "milligauss"


IN_UT = {FieldUnit.MICROTESLA: 1.0, FieldUnit.NANOTESLA: 0.001, FieldUnit.GAUSS: 100.0, FieldUnit.MILLIGAUSS: 0.1}
"""One unit in µT. Source: definitions."""
EARTH_UT = (22.0, 67.0)
"""The Earth's field lies between these anywhere on the ground, in µT. Source: World Magnetic Model 2025."""


class Samples(Struct, frozen=True, kw_only=True):
    """Samples read: n by 3 values, how many rows were dropped and why, how many rows the file had; and where down was at each (n by 3), None where no acceleration was in it."""

    values: Any
    down: Any = None
    dropped: tuple[tuple[str, int], ...] = ()
    rows: int = 0


def read_samples(text: str) -> Samples:
    """Rows of x, y, z from a pasted text or a CSV file, with or without a header and other columns. Raises InputError where there are none.

    Columns are found by the names x, y, z, mag_x, ax and the like; without names the last three numbers of a row count. Lines of JSON have the same names.
    Source of the names: ``docs/recording.md``.
    """
    table = read_columns(text)
    field, weight = table.triple(FIELD, alone=True), table.triple(ACCELERATION)
    found, felt, broken = [], [], 0
    for line in table.rows:
        row = table.three(line, field)
        if row is None:
            broken += 1
        else:
            found.append(row)
            felt.append((table.three(line, weight) if weight is not None else None) or (math.nan,) * 3)
    if not found:
        raise InputError("No row has three numbers. Paste rows of x, y and z, or a file with columns of these names.")
    values = np.array(found, dtype=float)
    finite = np.isfinite(values).all(axis=1)
    dropped = [("not three numbers", broken), ("not a number", int((~finite).sum()))]
    values, up = values[finite], np.array(felt, dtype=float)[finite]
    if not len(values):
        raise InputError("No row has three numbers that can be used.")
    down = -up if np.isfinite(up).all() and np.linalg.norm(up, axis=1).min() > 0 else None
    return Samples(
        values=values, down=down, dropped=tuple((why, many) for why, many in dropped if many), rows=table.total
    )


class ThrottleLog(Struct, frozen=True, kw_only=True):
    """A log of throttle (0 to 1) and strength of the field (in the unit of the log), row by row."""

    throttle: Any
    strength: Any


def read_throttle(text: str) -> ThrottleLog:
    """A log with a column of throttle and either x, y and z of the field or its strength. Raises InputError where there is none.

    Throttle is found by its name (throttle, thr) and may be in per cent, in microseconds of a servo pulse or from 0 to 1: told by its size.
    """
    table = read_columns(text)
    place, axes, total = (
        table.place(("throttle",), ("thr", "throttle")),
        table.triple(FIELD, alone=True),
        table.place(STRENGTH),
    )
    if place is None or (axes is None and total is None):
        raise InputError("A log needs a header with throttle, and x, y and z of the compass or its strength.")
    rows = []
    for line in table.rows:
        throttle, field = table.number(line, place), table.three(line, axes) if axes is not None else None
        strength = math.hypot(*field) if field is not None else None if axes is not None else table.number(line, total)
        if throttle is not None and strength is not None and math.isfinite(throttle) and math.isfinite(strength):
            rows.append((throttle, strength))
    if not rows:
        raise InputError("No row of this log can be used.")
    found = np.array(rows)
    top = float(found[:, 0].max())
    return ThrottleLog(
        throttle=np.array([throttle_share(float(value), top) for value in found[:, 0]]), strength=found[:, 1]
    )


def likely_unit(values: Any) -> FieldUnit | None:
    """The unit that makes these samples as strong as the Earth's field, by their spread about their middle; None where none or several fit.

    Source: ``EARTH_UT``; half the range of an axis that was turned through is the strength.
    """
    low, high = np.percentile(values, [2, 98], axis=0)
    half = float(np.max(high - low)) / 2
    if not math.isfinite(half) or half <= 0:
        return None
    fits = [unit for unit, one in IN_UT.items() if 0.4 * EARTH_UT[0] <= half * one <= 1.6 * EARTH_UT[1]]
    return fits[0] if len(fits) == 1 else None


def as_csv(values: Any) -> str:
    """Samples as CSV with a header."""
    out = io.StringIO()
    out.write("x,y,z\n")
    for x, y, z in values:
        out.write(f"{x:.6g},{y:.6g},{z:.6g}\n")
    return out.getvalue()
