"""A front for positioning sentences (GGA, GSA, RMC): what the receiver says, line by line, and which lines are bad."""

from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.base.units import KNOT_MS
from walkround.core.base.value import Value

MAX_SENTENCES = 20_000
SOLID_FIX_QUALITY = 1


class Fix(Value):
    """The receiver's last word: satellites used, dilutions (no unit), speed in m/s, place, and the time of the fix."""

    satellites: int | None = None
    hdop: float | None = None
    pdop: float | None = None
    quality: int = 0
    dimensions: int = 0
    speed_ms: float | None = None
    position: Position | None = None
    altitude_m: float | None = None
    at: datetime | None = None
    sentences: int = 0
    bad: tuple[str, ...] = ()


def checksum(body: str) -> str:
    """The two-digit checksum of a sentence body (between ``$`` and ``*``): exclusive or of all characters, in hex.

    Source: NMEA 0183, section on checksum field (from memory).
    """
    value = 0
    for character in body:
        value ^= ord(character)
    return f"{value:02X}"


def read_sentences(text: str, now: datetime) -> Fix:
    """Read positioning sentences as they stood at ``now`` (aware); the last of each kind counts.

    Lines with a wrong or missing checksum are left out and named. Raises InputError when no line can be used or the
    text is far too long. Source: NMEA 0183 sentences GGA, GSA, RMC (from memory), decoded by ``pynmea2``.
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not lines:
        raise InputError("No sentences here. Paste lines that start with $.", "sentences")
    if len(lines) > MAX_SENTENCES:
        raise InputError(f"More than {MAX_SENTENCES:,} lines. The last minute is enough.", "sentences")
    good, bad = _parse(lines)
    if not good:
        first = f" Line 1: {bad[0].split(': ', 1)[1]}" if bad else ""
        raise InputError(f"None of the {len(lines)} lines can be used.{first}", "sentences")
    values: dict[str, Any] = {}
    for sentence in good:
        _READERS[sentence.sentence_type](sentence, values)
    at = _moment(values.pop("date", None), values.pop("time", None), now)
    return Fix(at=at, sentences=len(good), bad=tuple(bad), **values)


def _parse(lines: Iterable[str]) -> tuple[list[Any], list[str]]:
    import pynmea2

    good, bad = [], []
    for number, line in enumerate(lines, 1):
        if not line.startswith("$"):
            bad.append(f"line {number}: does not start with $")
            continue
        body, star, given = line[1:].partition("*")
        if not star:
            bad.append(f"line {number}: no checksum")
            continue
        if given.strip().upper() != checksum(body):
            bad.append(f"line {number}: checksum {given.strip()[:4]} should be {checksum(body)}")
            continue
        try:
            sentence = pynmea2.parse(line, check=True)
        except (pynmea2.ParseError, ValueError):
            bad.append(f"line {number}: cannot be read")
            continue
        if getattr(sentence, "sentence_type", "") in _READERS:
            good.append(sentence)
    return good, bad


def _number(text: Any) -> float | None:
    try:
        return float(text)
    except (TypeError, ValueError):
        return None


def _place(sentence: Any) -> Position | None:
    # The package reads empty position fields as 0, 0; an empty field is no position.
    if not sentence.lat or not sentence.lon:
        return None
    try:
        return Position(lat_deg=float(sentence.latitude), lon_deg=float(sentence.longitude))
    except ValueError:
        return None


def _gga(sentence: Any, values: dict[str, Any]) -> None:
    quality = _number(sentence.gps_qual)
    values["quality"] = int(quality) if quality is not None else 0
    used = _number(sentence.num_sats)
    values["satellites"] = None if used is None else int(used)
    values["hdop"] = _number(sentence.horizontal_dil)
    values["altitude_m"] = _number(sentence.altitude)
    values["position"] = _place(sentence) if values["quality"] >= SOLID_FIX_QUALITY else None
    if isinstance(sentence.timestamp, time):
        values["time"] = sentence.timestamp


def _gsa(sentence: Any, values: dict[str, Any]) -> None:
    dimensions = _number(sentence.mode_fix_type)
    values["dimensions"] = int(dimensions) if dimensions is not None else 0
    values["pdop"] = _number(sentence.pdop)
    hdop = _number(sentence.hdop)
    if values.get("hdop") is None:
        values["hdop"] = hdop


def _rmc(sentence: Any, values: dict[str, Any]) -> None:
    if isinstance(sentence.datestamp, date):
        values["date"] = sentence.datestamp
    if isinstance(sentence.timestamp, time):
        values["time"] = sentence.timestamp
    knots = _number(sentence.spd_over_grnd)
    valid = sentence.status == "A"
    values["speed_ms"] = knots * KNOT_MS if knots is not None and valid else None


_READERS = {"GGA": _gga, "GSA": _gsa, "RMC": _rmc}


def _moment(day: date | None, clock: time | None, now: datetime) -> datetime | None:
    """Time of the fix. GGA alone has no date: then the nearest day to now is meant."""
    if clock is None:
        return None
    clock = clock.replace(tzinfo=UTC)
    if day is not None:
        return datetime.combine(day, clock)
    today = now.astimezone(UTC).date()
    near = [datetime.combine(today + timedelta(days=step), clock) for step in (-1, 0, 1)]
    return min(near, key=lambda moment: abs(moment - now))
