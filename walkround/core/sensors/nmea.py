"""A front for positioning sentences (GGA, GNS, GLL, RMC, VTG, GSA, GSV): what the receiver says, line by line, and which lines are bad."""

import math
from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.base.units import KNOT_MS
from walkround.core.base.value import Value
from walkround.core.sensors.scatter import DAY_S, Epoch, Rest, at_rest
from walkround.core.sensors.sky import Constellation, SkySatellite, satellite_of, sky_hdop

MAX_NMEA_LINES = 20_000
SOLID_FIX_QUALITY = 1
MOST_SKY = 120
UNKNOWN_HDOP = 50.0
"""From here on a dilution means that it is not known. Source: receivers print 99.99 (from memory); our choice."""


class Fix(Value):
    """The receiver's last word: satellites used, dilutions, speed in m/s, place, and the time of the fix.

    ``bad``: the lines that could not be used; ``newest_damaged``: whether one of them came after the last good line of
    any kind that counts; ``void``: whether the receiver itself marks the position as not valid; ``sky``: the satellites as the last sentences
    told them, ``hdop_sky``: HDOP worked out from where those in use stand; ``rest``: what the fixes of the last minute did; ``first_fix_s``: after how many s
    of a reading that began without one the first fix came; ``receivers``: more than one where two spoke at once, or time went back.
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
    sky: tuple[SkySatellite, ...] = ()
    hdop_sky: float | None = None
    rest: Rest | None = None
    first_fix_s: float | None = None
    receivers: int = 1


def checksum(body: str) -> str:
    """The two-digit checksum of a sentence body (between ``$`` and ``*``): exclusive or of all characters, in hex.

    Source: NMEA 0183, section on checksum field (from memory).
    """
    value = 0
    for character in body:
        value ^= ord(character)
    return f"{value:02X}"


def read_nmea(text: str, now: datetime) -> Fix:
    """Read positioning sentences as they stood at ``now`` (aware): the last of each kind is the fix, all of them are its ``rest``.

    Lines with a wrong or missing checksum are left out and named. Raises InputError when no line can be used or the
    text is far too long. Source: NMEA 0183 sentences (from memory), decoded by ``pynmea2``.
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not lines:
        raise InputError("No NMEA data found. Paste lines that start with $.", "nmea")
    if len(lines) > MAX_NMEA_LINES:
        raise InputError(f"More than {MAX_NMEA_LINES:,} lines. The last minute is enough.", "nmea")
    good, bad, newest_damaged = _parse(lines)
    if not any(one.sentence_type in (*_FIXING, "GSA") for one in good):
        first = f" Line 1: {bad[0].split(': ', 1)[1]}" if bad else ""
        raise InputError(f"None of the {len(lines)} lines can be used.{first}", "nmea")
    values: dict[str, Any] = {}
    for sentence in good:
        _READERS[sentence.sentence_type](sentence, values)
    at = _moment(values.pop("date", None), values.pop("time", None), now)
    fixing = [one for one in good if one.sentence_type in _FIXING]
    if values.get("position") is None and not any(one.sentence_type == "GGA" for one in good):
        values |= _bare_fix(fixing)
    epochs, receivers = _epochs(fixing)
    sky = _sky(good)
    return Fix(
        at=at, nmea_lines=len(good), bad=tuple(bad), newest_damaged=newest_damaged, sky=sky, hdop_sky=sky_hdop(sky), rest=at_rest(epochs),
        first_fix_s=_first_fix_s(epochs), receivers=receivers, **values,
    )  # fmt: skip


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
    used = [last_good[kind] for kind in _LAST_COUNTS if last_good[kind]]
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


def _time_only(sentence: Any, values: dict[str, Any]) -> None:
    """A sentence that tells the time and a place: of use where no GGA comes."""
    _place(sentence)
    if isinstance(sentence.timestamp, time):
        values.setdefault("time", sentence.timestamp)


def _vtg(sentence: Any, values: dict[str, Any]) -> None:
    knots = _number(sentence.spd_over_grnd_kts, "speed", 0, 2_000)
    if knots is not None and values.get("speed_ms") is None:
        values["speed_ms"] = knots * KNOT_MS


def _gsv(sentence: Any, values: dict[str, Any]) -> None:
    _in_view(sentence)


_READERS = {"GGA": _gga, "GSA": _gsa, "RMC": _rmc, "GNS": _time_only, "GLL": _time_only, "VTG": _vtg, "GSV": _gsv}
_LAST_COUNTS = ("GGA", "GSA", "RMC")
"""Kinds whose last sentence decides whether a damaged line came after the fix."""
_FIXING = ("GGA", "GNS", "RMC", "GLL")
"""Kinds that tell a place, best first."""


_MODE_AT = {"RMC": 11, "GLL": 6}
"""Where a sentence has its mode letter, since version 2.3; older ones have none."""
_QUALITY_OF = {"A": 1, "D": 2, "P": 3, "R": 4, "F": 5, "E": 6, "M": 7, "S": 8}
"""Mode letters as qualities of GGA: on its own, differential, precise, fixed, float, estimated, by hand, simulated. Source: NMEA 0183 version 4.11 (from memory)."""


def _quality(sentence: Any) -> int:
    """The quality of the place that a sentence tells, 0 for none; a mode that rests on satellites counts before one that does not."""
    kind = sentence.sentence_type
    if kind == "GGA":
        told = str(sentence.gps_qual)
        return int(told) if told.isdigit() else 0
    if kind == "GNS":
        known = [_QUALITY_OF[letter] for letter in str(sentence.mode_indicator or "") if letter in _QUALITY_OF]
        return min(known, default=0)
    if str(sentence.status) != "A":
        return 0
    at = _MODE_AT[kind]
    letter = str(sentence.data[at]).strip() if len(sentence.data) > at else ""
    return SOLID_FIX_QUALITY if not letter else _QUALITY_OF.get(letter, 0)


def _valid(sentence: Any) -> bool:
    """Whether a sentence says that its place is one."""
    return _quality(sentence) >= SOLID_FIX_QUALITY


def _bare_fix(fixing: list[Any]) -> dict[str, Any]:
    """Where no GGA comes: the last sentence of the best kind that tells a place; what it does not tell stays unknown."""
    kind = next((kind for kind in _FIXING if any(one.sentence_type == kind for one in fixing)), None)
    last = next((one for one in reversed(fixing) if one.sentence_type == kind), None)
    if last is None or not _valid(last) or _place(last) is None:
        return {}
    told: dict[str, Any] = {"position": _place(last), "quality": _quality(last)}
    if kind == "GNS":
        used, hdop = _number(last.num_sats, "number of satellites", 0, 99), _number(last.hdop, "dilution", 0, 100)
        told |= {
            "satellites": None if used is None else int(used),
            "altitude_m": _number(last.altitude, "altitude", -1_000, 60_000),
        }
        told |= {"hdop": hdop} if hdop and hdop < UNKNOWN_HDOP else {}
    return told


def _epochs(fixing: list[Any]) -> tuple[list[Epoch], int]:
    """Every fix of a reading by its time, of the best kind that it has; and how many receivers seem to speak: the same second with two places, or time going back."""
    kind = next((kind for kind in _FIXING if any(one.sentence_type == kind for one in fixing)), None)
    seen: dict[float, Any] = {}
    speeds: dict[float, float] = {}
    begin, last_s, days, receivers = None, None, 0, 1
    for one in fixing:
        if not isinstance(one.timestamp, time):
            continue
        clock = one.timestamp
        day_s = clock.hour * 3600 + clock.minute * 60 + clock.second + clock.microsecond / 1e6
        begin = day_s if begin is None else begin
        at_s = day_s - begin + DAY_S * days
        if last_s is not None and at_s < last_s - DAY_S / 2:
            days += 1
            at_s += DAY_S
        if last_s is not None and at_s < last_s - 1:
            receivers = 2
        last_s = at_s if last_s is None else max(last_s, at_s)
        if one.sentence_type == "RMC" and one.status == "A":
            knots = _number(one.spd_over_grnd, "speed", 0, 2_000)
            if knots is not None:
                speeds[at_s] = max(knots * KNOT_MS, speeds.get(at_s, 0.0))
        if one.sentence_type != kind:
            continue
        if at_s in seen and (seen[at_s].lat, seen[at_s].lon) != (one.lat, one.lon):
            receivers = 2
        seen[at_s] = one
    epochs = [
        Epoch(
            at_s=at_s,
            position=_place(one) if _valid(one) else None,
            altitude_m=_number(one.altitude, "altitude", -1_000, 60_000)
            if kind in ("GGA", "GNS") and _valid(one)
            else None,
            speed_ms=speeds.get(at_s),
        )
        for at_s, one in sorted(seen.items())
    ]
    return epochs, receivers


def _first_fix_s(epochs: list[Epoch]) -> float | None:
    """After how many s the first fix came, where the reading began without one."""
    first = next((epoch.at_s for epoch in epochs if epoch.position is not None), None)
    return None if first is None or epochs[0].position is not None else round(first - epochs[0].at_s, 1)


def _in_view(sentence: Any) -> list[SkySatellite]:
    """The satellites of one GSV sentence: four fields each; a field left over names the signal."""
    fields, told = list(sentence.data[3:]), []
    for i in range(0, len(fields) - len(fields) % 4, 4):
        number = _number(fields[i], "satellite", 0, 999)
        if number is None:
            continue
        whose, own = satellite_of(sentence.talker, int(number))
        told.append(
            SkySatellite(
                whose=whose, number=own, elevation_deg=_number(fields[i + 1], "elevation", -10, 90), bearing_deg=_number(fields[i + 2], "azimuth", 0, 360),
                strength_db=_number(fields[i + 3], "strength", 0, 99),
            )
        )  # fmt: skip
    return told


def _sky(good: list[Any]) -> tuple[SkySatellite, ...]:
    """The satellites that the last turn of GSV sentences of each talker shows, of several signals the strongest, with those that the last GSA sentences use."""
    shown: dict[str, dict[tuple[Constellation, int], SkySatellite]] = {}
    turn: dict[str, int] = {}
    used: dict[str, set[tuple[Constellation, int]]] = {}
    last_gsa = ""
    for sentence in good:
        kind, talker = sentence.sentence_type, sentence.talker
        if kind == "GSV":
            number = int(_number(sentence.data[1], "message", 1, 99) or 1)
            again = shown.setdefault(talker, {})
            # A second signal begins at one again, but with the same satellites: only another kind of sentence in between begins a new turn.
            if number == 1 and turn.get(talker) != 0:
                again.clear()
            turn[talker] = 0
            for one in _in_view(sentence):
                before = again.get((one.whose, one.number))
                if before is None or (one.strength_db or 0) >= (before.strength_db or 0):
                    again[one.whose, one.number] = one
            continue
        turn = dict.fromkeys(turn, 1)
        if kind == "GSA":
            system = str(sentence.data[17]).strip() if len(sentence.data) > 17 else ""
            ids = [_number(text, "satellite", 0, 999) for text in sentence.data[2:14]]
            if last_gsa != "GSA":
                used.clear()
            used.setdefault(f"{talker}{system}", set()).update(satellite_of(talker, int(n), system) for n in ids if n)
        last_gsa = kind
    chosen = {one for group in used.values() for one in group}
    seen = {key: one for group in shown.values() for key, one in group.items()}
    sky = [one.model_copy(update={"used": key in chosen}) for key, one in seen.items()]
    sky += [SkySatellite(whose=whose, number=number, used=True) for whose, number in chosen - set(seen)]
    return tuple(sorted(sky, key=lambda one: (list(Constellation).index(one.whose), one.number)))[:MOST_SKY]


def _moment(dated: tuple[date, time] | None, clock: time | None, now: datetime) -> datetime | None:
    """Time of the fix. A clock without a date belongs to the day nearest to the last dated sentence, else to now."""
    if clock is None:
        return None
    clock = clock.replace(tzinfo=UTC)
    about = now if dated is None else datetime.combine(dated[0], dated[1].replace(tzinfo=UTC))
    day = about.astimezone(UTC).date()
    near = [datetime.combine(day + timedelta(days=step), clock) for step in (-1, 0, 1)]
    return min(near, key=lambda moment: abs(moment - about))
