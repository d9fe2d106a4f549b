"""A front for positioning sentences (GGA, GSA, RMC): what the receiver says, line by line, and which lines are bad."""

import math
from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.base.units import KNOT_MS
from walkround.core.base.value import Value

MAX_NMEA_LINES = 20_000
SOLID_FIX_QUALITY = 1
UNKNOWN_HDOP = 50.0
"""From here on a dilution means that it is not known. Source: receivers print 99.99 (from memory); our choice."""


class Fix(Value):
    """The receiver's last word: satellites used, dilutions, speed in m/s, place, and the time of the fix.

    ``bad``: the lines that could not be used; ``newest_damaged``: whether one of them came after the last good line of
    any kind that counts; ``void``: whether the receiver itself marks the position as not valid.
    """

    satellites: int | None = None
    hdop: float | None = None
    pdop: float | None = None
    quality: int = 0
    dimensions: int = 0
    void: bool = False
    speed_ms: float | None = None
    position: Position | None = None
    altitude_m: float | None = None
    at: datetime | None = None
    nmea_lines: int = 0
    bad: tuple[str, ...] = ()
    newest_damaged: bool = False


def checksum(body: str) -> str:
    """The two-digit checksum of a sentence body (between ``$`` and ``*``): exclusive or of all characters, in hex.

    Source: NMEA 0183, section on checksum field (from memory).
    """
    value = 0
    for character in body:
        value ^= ord(character)
    return f"{value:02X}"


def read_nmea(text: str, now: datetime) -> Fix:
    """Read positioning sentences as they stood at ``now`` (aware); the last of each kind counts.

    Lines with a wrong or missing checksum are left out and named. Raises InputError when no line can be used or the
    text is far too long. Source: NMEA 0183 sentences GGA, GSA, RMC (from memory), decoded by ``pynmea2``.
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not lines:
        raise InputError("No NMEA data found. Paste lines that start with $.", "nmea")
    if len(lines) > MAX_NMEA_LINES:
        raise InputError(f"More than {MAX_NMEA_LINES:,} lines. The last minute is enough.", "nmea")
    good, bad, newest_damaged = _parse(lines)
    if not good:
        first = f" Line 1: {bad[0].split(': ', 1)[1]}" if bad else ""
        raise InputError(f"None of the {len(lines)} lines can be used.{first}", "nmea")
    values: dict[str, Any] = {}
    for sentence in good:
        _READERS[sentence.sentence_type](sentence, values)
    at = _moment(values.pop("date", None), values.pop("time", None), now)
    return Fix(at=at, nmea_lines=len(good), bad=tuple(bad), newest_damaged=newest_damaged, **values)


def _parse(lines: Iterable[str]) -> tuple[list[Any], list[str], bool]:
    good: list[Any] = []
    bad: list[str] = []
    last_good, last_bad = dict.fromkeys(_READERS, 0), 0
    for number, line in enumerate(lines, 1):
        damaged = len(bad)
        sentence = _sentence(line, number, bad)
        if len(bad) > damaged:
            last_bad = number
        elif sentence is not None:
            good.append(sentence)
            last_good[sentence.sentence_type] = number
    # A damaged line may have been of any kind: it is newest unless each kind that is used came again after it.
    used = [at for at in last_good.values() if at]
    return good, bad, bool(last_bad) and (not used or last_bad > min(used))


def _sentence(line: str, number: int, bad: list[str]) -> Any:
    """The sentence of one line, or None: of another kind, or damaged, which is then named."""
    import pynmea2

    if not line.startswith("$"):
        bad.append(f"line {number}: does not start with $")
        return None
    body, star, given = line[1:].partition("*")
    if not star:
        bad.append(f"line {number}: no checksum")
        return None
    if given.strip().upper() != checksum(body):
        bad.append(f"line {number}: checksum {given.strip()[:4]} should be {checksum(body)}")
        return None
    try:
        sentence = pynmea2.parse(line, check=True)
        if getattr(sentence, "sentence_type", "") not in _READERS:
            return None
        _READERS[sentence.sentence_type](sentence, {})
    except (pynmea2.ParseError, ValueError) as error:
        bad.append(f"line {number}: {error if isinstance(error, _Odd) else 'cannot be read'}")
        return None
    return sentence


class _Odd(ValueError):
    """A value that no receiver gives."""


def _number(text: Any, what: str, low: float, high: float) -> float | None:
    """A number within what it can be, None for an empty field. Raises _Odd, also for what is not a number."""
    if text is None or str(text).strip() == "":
        return None
    try:
        value = float(text)
    except (TypeError, ValueError) as error:
        raise _Odd(f"{what} {str(text)[:12]} is not a number") from error
    if not (math.isfinite(value) and low <= value <= high):
        raise _Odd(f"{what} {str(text)[:12]} is not plausible")
    return value


def _place(sentence: Any) -> Position | None:
    # The package reads empty position fields as 0, 0; an empty field is no position.
    if not sentence.lat or not sentence.lon:
        return None
    for text, what in ((sentence.lat, "latitude"), (sentence.lon, "longitude")):
        minutes = _number(
            str(text)[-9:] if "." not in str(text) else str(text)[str(text).index(".") - 2 :], what, 0, 59.99999999
        )
        if minutes is None:
            raise _Odd(f"{what} {str(text)[:12]} has no minutes")
    latitude = _number(sentence.latitude, "latitude", -90, 90)
    longitude = _number(sentence.longitude, "longitude", -180, 180)
    assert latitude is not None and longitude is not None
    return Position(lat_deg=latitude, lon_deg=longitude)


def _gga(sentence: Any, values: dict[str, Any]) -> None:
    quality = _number(sentence.gps_qual, "fix quality", 0, 9)
    values["quality"] = int(quality) if quality is not None else 0
    used = _number(sentence.num_sats, "number of satellites", 0, 99)
    values["satellites"] = None if used is None else int(used)
    # A dilution of 0 or of 50 and more is what receivers print for "unknown".
    hdop = _number(sentence.horizontal_dil, "dilution", 0, 100)
    values["hdop"] = hdop if hdop and hdop < UNKNOWN_HDOP else None
    values["altitude_m"] = _number(sentence.altitude, "altitude", -1_000, 60_000)
    values["position"] = _place(sentence) if values["quality"] >= SOLID_FIX_QUALITY else None
    if isinstance(sentence.timestamp, time):
        values["time"] = sentence.timestamp


def _gsa(sentence: Any, values: dict[str, Any]) -> None:
    dimensions = _number(sentence.mode_fix_type, "fix type", 1, 3)
    values["dimensions"] = int(dimensions) if dimensions is not None else 1
    pdop, hdop = (_number(text, "dilution", 0, 100) for text in (sentence.pdop, sentence.hdop))
    values["pdop"] = pdop if pdop and pdop < UNKNOWN_HDOP else None
    if values.get("hdop") is None:
        values["hdop"] = hdop if hdop and hdop < UNKNOWN_HDOP else None


def _rmc(sentence: Any, values: dict[str, Any]) -> None:
    if isinstance(sentence.datestamp, date) and isinstance(sentence.timestamp, time):
        values["date"] = (sentence.datestamp, sentence.timestamp)
        values["time"] = sentence.timestamp
    knots = _number(sentence.spd_over_grnd, "speed", 0, 2_000)
    valid = sentence.status == "A"
    values["void"] = not valid
    values["speed_ms"] = knots * KNOT_MS if knots is not None and valid else None


_READERS = {"GGA": _gga, "GSA": _gsa, "RMC": _rmc}


def _moment(dated: tuple[date, time] | None, clock: time | None, now: datetime) -> datetime | None:
    """Time of the fix. A clock without a date belongs to the day nearest to the last dated sentence, else to now."""
    if clock is None:
        return None
    clock = clock.replace(tzinfo=UTC)
    about = now if dated is None else datetime.combine(dated[0], dated[1].replace(tzinfo=UTC))
    day = about.astimezone(UTC).date()
    near = [datetime.combine(day + timedelta(days=step), clock) for step in (-1, 0, 1)]
    return min(near, key=lambda moment: abs(moment - about))
