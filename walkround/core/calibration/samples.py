"""Samples of a sensor as they come: pasted, as a file, typed or live; in whatever unit, with what cannot be used told apart."""

import io
import json
import math
from enum import StrEnum
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

MOST_ROWS = 50_000
"""So many rows are read of a file; a longer one is thinned out evenly. Source: our choice."""
MOST_BYTES = 60_000_000


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
    if len(text) > MOST_BYTES:
        raise InputError(
            "This file is too large to be a recording of one calibration. Cut it to the minutes of the calibration."
        )
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    if not lines:
        raise InputError("There is nothing to read. Paste rows of x, y and z.")
    if lines[0].lstrip().startswith("{"):
        lines = _from_json(lines)
    mark = next((one for one in (";", "\t", ",") if one in lines[0]), None)
    names = _columns(lines[0], mark)
    weight = _columns(lines[0], mark, "a") if names is not None else None
    body = lines[1:] if names is not None or not _numbers(lines[0], mark) else lines
    step = max(1, -(-len(body) // MOST_ROWS))
    found, felt, broken = [], [], 0
    for line in body[::step]:
        row = _row(line, mark, names)
        if row is None:
            broken += 1
        else:
            found.append(row)
            felt.append((_row(line, mark, weight) if weight is not None else None) or (math.nan,) * 3)
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
        values=values, down=down, dropped=tuple((why, many) for why, many in dropped if many), rows=len(body)
    )


class ThrottleLog(Struct, frozen=True, kw_only=True):
    """A log of throttle (0 to 1) and strength of the field (in the unit of the log), row by row."""

    throttle: Any
    strength: Any


def read_throttle(text: str) -> ThrottleLog:
    """A log with a column of throttle and either x, y and z of the field or its strength. Raises InputError where there is none.

    Throttle is found by its name (throttle, thr) and may be in per cent, in microseconds of a servo pulse or from 0 to 1: told by its size.
    """
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    mark = next((one for one in (";", "\t", ",") if lines and one in lines[0]), None)
    names = [part.lower().strip('"') for part in _split(lines[0], mark)] if lines else []
    place = next((i for i, name in enumerate(names) if name.startswith("thr") or "throttle" in name), None)
    axes = _columns(lines[0], mark) if lines else None
    total = next(
        (i for i, name in enumerate(names) if name in ("strength", "field", "mag", "mag_total", "total")), None
    )
    if place is None or (axes is None and total is None):
        raise InputError("A log needs a header with throttle, and x, y and z of the compass or its strength.")
    rows = []
    for line in lines[1 :: max(1, -(-len(lines) // MOST_ROWS))]:
        parts = _split(line, mark)
        try:
            throttle = _value(parts[place], mark)
            strength = (
                math.hypot(*(_value(parts[i], mark) for i in axes))
                if axes is not None
                else _value(parts[total or 0], mark)
            )
        except (ValueError, IndexError):
            continue
        if math.isfinite(throttle) and math.isfinite(strength):
            rows.append((throttle, strength))
    if not rows:
        raise InputError("No row of this log can be used.")
    found = np.array(rows)
    given, top = found[:, 0], float(found[:, 0].max())
    share = (given - 1000) / 1000 if top > 200 else given / 100 if top > 1.5 else given
    return ThrottleLog(throttle=np.clip(share, 0, 1), strength=found[:, 1])


def _value(part: str, mark: str | None) -> float:
    return float(part.replace(",", ".") if mark == ";" else part)


def _split(line: str, mark: str | None) -> list[str]:
    return [part.strip() for part in (line.split(mark) if mark else line.split())]


def _numbers(line: str, mark: str | None) -> list[float]:
    found = []
    for part in _split(line, mark):
        try:
            found.append(float(part.replace(",", ".") if mark == ";" else part))
        except ValueError:
            continue
    return found


def _from_json(lines: list[str]) -> list[str]:
    """Lines of JSON as rows of CSV with a header: the names of the first line. Raises InputError where they are none."""
    try:
        rows = [json.loads(line) for line in lines]
        names = list(rows[0])
        return [",".join(names), *(",".join(str(row.get(name, "")) for name in names) for row in rows)]
    except (ValueError, AttributeError) as error:
        raise InputError(
            "These lines begin like JSON and are none. One object a line, each with x, y and z."
        ) from error


def _columns(line: str, mark: str | None, of: str = "m") -> tuple[int, int, int] | None:
    """Where x, y and z stand, by their names: of the magnetic field, or of the acceleration ("a")."""
    names = [part.lower().strip('"') for part in _split(line, mark)]
    places = []
    for axis in "xyz":
        mine = [
            i
            for i, name in enumerate(names)
            if name.rstrip("]").split("[")[0].strip("_ ").endswith(axis) and len(name) <= 24 and not name[:-1].isdigit()
        ]
        if len(mine) == 0:
            return None
        named = [i for i in mine if names[i].startswith(of) or ("mag" if of == "m" else "acc") in names[i]]
        if of == "a" and not named:
            return None
        places.append((named or mine)[0])
    return (places[0], places[1], places[2])


def _row(line: str, mark: str | None, names: tuple[int, int, int] | None) -> tuple[float, float, float] | None:
    if names is None:
        numbers = _numbers(line, mark)
        return (numbers[-3], numbers[-2], numbers[-1]) if len(numbers) >= 3 else None
    parts = _split(line, mark)
    if len(parts) <= max(names):
        return None
    try:
        x, y, z = (_value(parts[i], mark) for i in names)
    except ValueError:
        return None
    return (x, y, z)


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
