"""A recording of a flight controller: frames that were written to CSV or lines of JSON, read again in any usual unit; and which of its sensors are in it."""

import csv
import io
import json
import math
from collections.abc import Callable, Iterable
from enum import StrEnum
from typing import Any

import msgspec

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.sensors.columns import Columns, read_columns, throttle_share
from walkround.core.sensors.devices import Frame

RATE_HZ = 50.0
"""A recording without a clock was made at this rate. Source: ``docs/recording.md``."""
STANDARD_GRAVITY_MS2 = 9.80665
"""Source: CGPM 1901."""
MOST_CHANNELS = 16


class Sensor(StrEnum):
    """What a recording can hold."""

    COMPASS = "compass"
    ACCELEROMETER = "accelerometer"
    GYRO = "gyro"
    BAROMETER = "air pressure"
    THROTTLE = "throttle"
    STICKS = "stick channels"
    BOARD = "board voltage"
    PACK = "pack voltage"
    SATELLITES = "NMEA data"
    MODE = "mode"
    FAILSAFE = "failsafe"
    MESSAGES = "messages"


class Recording(Struct, frozen=True, kw_only=True):
    """Frames in their order, what is in them, how many rows the file had, and how many of them could not be used."""

    frames: tuple[Frame, ...]
    sensors: frozenset[Sensor]
    total: int
    dropped: int

    @property
    def seconds(self) -> float:
        """How long it lasts, in s."""
        return self.frames[-1].at_s - self.frames[0].at_s

    def wants(self, *sensors: Sensor) -> str:
        """What is missing for a purpose, in words; "" where nothing is."""
        return " and ".join(sensor.value for sensor in sensors if sensor not in self.sensors)


_CLOCKS = (("at_s", 1.0), ("time_s", 1.0), ("t", 1.0), ("time", 1.0), ("time_ms", 1e-3), ("ms", 1e-3), ("time_us", 1e-6), ("us", 1e-6))  # fmt: skip


def read_recording(text: str, field_unit_ut: float = 1.0) -> Recording:
    """Frames of a recording with a header, ``field_unit_ut`` being one unit of its field in µT. Raises InputError where no column is known.

    Acceleration is told to be in m/s² by its size. Rows without any number are left out and counted. A clock that stands or runs back is replaced by the rate.
    Source of the names: ``docs/recording.md``.
    """
    table = read_columns(text)
    field, weight, gyro = (
        table.triple(("m", "raw_m"), alone=True),
        table.triple(("a", "raw_a")),
        table.triple(("g", "w")),
    )
    single = {
        "throttle": table.place(("throttle",), ("thr",)), "pressure_hpa": table.place(("pressure", "pressure_hpa", "baro", "hpa")),
        "board_v": table.place(("board_v", "board", "vcc")), "pack_v": table.place(("pack_v", "pack", "battery", "battery_v")),
        "lean_most_deg": table.place(("lean_most_deg",)),
    }  # fmt: skip
    words = {name: table.place((name,)) for name in ("mode", "failsafe", "nmea")}
    said = table.place(("message", "messages"))
    sticks = tuple(i for n in range(1, MOST_CHANNELS + 1) if (i := table.place((f"ch{n}", f"ch_{n}"))) is not None)
    if table.names and not (
        field
        or weight
        or gyro
        or sticks
        or said is not None
        or any(v is not None for v in (*single.values(), *words.values()))
    ):
        raise InputError(
            "No column of this file is known here. The columns that are read are in the help on recordings."
        )
    clock, unit_s = next(
        ((place, unit) for name, unit in _CLOCKS if (place := table.place((name,))) is not None), (None, 1.0)
    )
    gravity, turning_dps = _gravity(table, weight), math.degrees(1) if gyro and "rad" in table.names[gyro[0]] else 1.0
    top = max(
        (abs(v) for row in table.rows if (v := table.number(row, single["throttle"])) is not None and math.isfinite(v)),
        default=1.0,
    )
    frames = []
    for row in table.rows:
        at_s = table.number(row, clock)
        frame = Frame(
            at_s=unit_s * at_s if at_s is not None and math.isfinite(at_s) else math.nan,
            field_ut=_scaled(table.three(row, field) if field or not table.names else None, field_unit_ut),
            acceleration_g=_scaled(table.three(row, weight) if weight else None, 1 / gravity),
            turning_dps=_scaled(table.three(row, gyro) if gyro else None, turning_dps),
            sticks=tuple(_stick(value) for i in sticks if (value := table.number(row, i)) is not None and math.isfinite(value)),
            mode=_word(row, words["mode"]),
            failsafe=_yes(_word(row, words["failsafe"])),
            nmea=_word(row, words["nmea"]),
            messages=tuple(part.strip() for part in _word(row, said).split("|") if part.strip()),
            **{name: _finite(table.number(row, place)) for name, place in single.items()},
        )  # fmt: skip
        if frame.throttle is not None:
            frame = msgspec.structs.replace(frame, throttle=throttle_share(frame.throttle, top))
        if any(there(frame) for there in _THERE.values()):
            frames.append(frame)
    if not frames:
        raise InputError("No row of this file can be used.")
    timed = _timed(frames, clock is not None)
    return Recording(
        frames=timed, sensors=frozenset(_sensors(timed)), total=table.total, dropped=len(table.rows) - len(frames)
    )


_THERE: dict[Sensor, Callable[[Frame], bool]] = {
    Sensor.COMPASS: lambda f: f.field_ut is not None,
    Sensor.ACCELEROMETER: lambda f: f.acceleration_g is not None,
    Sensor.GYRO: lambda f: f.turning_dps is not None,
    Sensor.BAROMETER: lambda f: f.pressure_hpa is not None,
    Sensor.THROTTLE: lambda f: f.throttle is not None,
    Sensor.STICKS: lambda f: bool(f.sticks),
    Sensor.BOARD: lambda f: f.board_v is not None,
    Sensor.PACK: lambda f: f.pack_v is not None,
    Sensor.SATELLITES: lambda f: bool(f.nmea),
    Sensor.MODE: lambda f: bool(f.mode),
    Sensor.FAILSAFE: lambda f: f.failsafe is not None,
    Sensor.MESSAGES: lambda f: bool(f.messages),
}


def _sensors(frames: Iterable[Frame]) -> list[Sensor]:
    left, found = dict(_THERE), []
    for frame in frames:
        for sensor in [sensor for sensor, there in left.items() if there(frame)]:
            found.append(sensor)
            del left[sensor]
        if not left:
            break
    return found


def _timed(frames: list[Frame], clocked: bool) -> tuple[Frame, ...]:
    """Frames with s since the first; by the rate where their clock is missing, stands or runs back."""
    first = frames[0].at_s
    times = [frame.at_s - first for frame in frames]
    good = (
        clocked and all(math.isfinite(t) for t in times) and all(b >= a for a, b in zip(times, times[1:], strict=False))
    )
    if not good or (len(times) > 1 and times[-1] <= 0):
        times = [i / RATE_HZ for i in range(len(frames))]
    return tuple(msgspec.structs.replace(frame, at_s=at_s) for frame, at_s in zip(frames, times, strict=True))


def _gravity(table: Columns, weight: tuple[int, int, int] | None) -> float:
    """One g in the unit of the accelerations: told by the middle of their sizes. Source: at rest it reads one g; a turn in the hand adds little."""
    if weight is None:
        return 1.0
    step = max(1, len(table.rows) // 200)
    sizes = sorted(math.hypot(*three) for row in table.rows[::step] if (three := table.three(row, weight)) is not None)
    middle = sizes[len(sizes) // 2] if sizes else 1.0
    return 1.0 if middle <= 4 else STANDARD_GRAVITY_MS2 if middle < 25 else middle


def _scaled(three: tuple[float, float, float] | None, one: float) -> tuple[float, float, float] | None:
    if three is None or not all(math.isfinite(value) for value in three):
        return None
    return (three[0] * one, three[1] * one, three[2] * one)


def _finite(value: float | None) -> float | None:
    return value if value is not None and math.isfinite(value) else None


def _stick(value: float) -> float:
    """A channel from -1 to 1, from a pulse of 1,000 to 2,000 µs where it is one by its size."""
    return (value - 1500) / 500 if abs(value) > 200 else value


def _word(row: tuple[str, ...], place: int | None) -> str:
    return row[place].strip('"') if place is not None and place < len(row) else ""


def _yes(word: str) -> bool | None:
    return None if word == "" else word.lower() in ("1", "true", "yes", "on", "active")


COLUMNS = ("at_s", "mag_x", "mag_y", "mag_z", "acc_x", "acc_y", "acc_z", "gyro_x", "gyro_y", "gyro_z", "throttle", "pressure_hpa", "board_v", "pack_v", "lean_most_deg", "ch1", "ch2", "ch3", "ch4", "mode", "failsafe", "message")  # fmt: skip


def as_recording(frames: Iterable[Frame]) -> str:
    """Frames as CSV with a header, as it is read again: field in µT, acceleration in g, turning in degrees a second."""
    out = io.StringIO()
    write = csv.writer(out, lineterminator="\n")
    write.writerow(COLUMNS)
    for f in frames:
        three = [v for value in (f.field_ut, f.acceleration_g, f.turning_dps) for v in (value or ("", "", ""))]
        sticks = [*f.sticks[:4], *[""] * (4 - len(f.sticks[:4]))]
        failsafe = "" if f.failsafe is None else int(f.failsafe)
        row = [f.at_s, *three, f.throttle, f.pressure_hpa, f.board_v, f.pack_v, f.lean_most_deg, *sticks, f.mode, failsafe, " | ".join(f.messages)]  # fmt: skip
        write.writerow([_short(value) for value in row])
    return out.getvalue()


def as_lines(frames: Iterable[Frame]) -> str:
    """Frames as one JSON object a line, under the same names."""
    rows = csv.DictReader(io.StringIO(as_recording(frames)))
    return "".join(json.dumps({name: value for name, value in row.items() if value != ""}) + "\n" for row in rows)


def _short(value: Any) -> str:
    return "" if value is None else f"{value:.6g}" if isinstance(value, float) else str(value).replace(",", ";")
