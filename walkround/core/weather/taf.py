"""Forecast texts for an aerodrome (TAF): what prevails, what changes, what comes and goes; hour by hour.

The groups themselves are read by ``groups``; this module knows when each holds.
"""

from datetime import UTC, datetime, timedelta
from enum import StrEnum
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.struct import Struct
from walkround.core.weather.groups import Elements, read_elements
from walkround.core.weather.weather import Weather

MAX_FORECAST_CHARS = 3_000
MOST_AHEAD_H = 48
_ISSUED = pattern(r"^(\d{2})(\d{2})(\d{2})Z$")
_PERIOD = pattern(r"^(\d{2})(\d{2})/(\d{2})(\d{2})$")
_FROM = pattern(r"^FM(\d{2})(\d{2})(\d{2})$")
_PROBABLE = pattern(r"^PROB(\d{2})$")
_EXTREME = pattern(r"^(T[XN]M?\d{2}/\d{2,4}Z|QNH\d{4}INS|[56]\d{5})$")
"""Groups that are read past: highest and lowest temperature, lowest pressure, icing and turbulence aloft. Source: WMO-No.
306, FM 51, and national practice (from memory)."""
_SHEAR = pattern(r"^WS\d{3}/\d{5}KT$")
_STATION = pattern(r"^[A-Z][A-Z0-9]{3}$")


class ChangeKind(StrEnum):
    """How a change comes."""

    FROM = "from"
    BECOMING = "becoming"
    TEMPO = "temporarily (TEMPO)"
    PROBABLE = "possible"
    UNREAD = "not understood"


class ForecastChange(Struct, frozen=True, kw_only=True):
    """One change group: its kind, from, to (aware), chance in per cent (100 without one), what it says."""

    kind: ChangeKind
    begin: datetime
    end: datetime
    chance: int = 100
    says: Elements


class Forecast(Struct, frozen=True, kw_only=True):
    """A forecast as read: station, issued, valid from and to (aware), what prevails first, the changes, what was not read."""

    station: str
    issued: datetime | None
    begin: datetime
    end: datetime
    first: Elements
    changes: tuple[ForecastChange, ...]
    notes: tuple[str, ...] = ()


def _near(now: datetime, day: int, hour: int, minute: int = 0) -> datetime:
    """The moment with this day and hour that lies nearest to now. Raises InputError for a day or hour that is none."""
    if not (1 <= day <= 31 and 0 <= hour <= 24 and 0 <= minute <= 59):
        raise InputError(f"{day:02d}{hour:02d} is not a day and hour.", "series")
    found = []
    for months in (-1, 0, 1):
        year, month = divmod(now.year * 12 + now.month - 1 + months, 12)
        try:
            midnight = datetime(year, month + 1, day, tzinfo=UTC)
        except ValueError:
            continue
        found.append(midnight + timedelta(hours=hour, minutes=minute))
    if not found:
        raise InputError(f"No month near now has a day {day}.", "series")
    return min(found, key=lambda moment: abs(moment - now))


def _period(text: str, now: datetime) -> tuple[datetime, datetime]:
    match = _PERIOD.match(text)
    if match is None:
        raise InputError(f"“{text[:12]}” is not a period like 1606/1706.", "series")
    day, hour, last_day, last_hour = (int(part) for part in match.groups())
    begin, end = _near(now, day, hour), _near(now, last_day, last_hour)
    if end <= begin:
        raise InputError(f"The period {text} ends before it begins.", "series")
    return begin, end


def decode_forecast(text: str, now: datetime) -> Forecast:
    """Read a forecast text (TAF) at ``now`` (aware). Inside units: m/s, m, °C, aware times.

    What could not be read is named in ``notes`` and never guessed. Raises InputError when it is no forecast, has no
    valid period, or is cancelled. Source: WMO-No. 306, Manual on Codes, FM 51 (from memory).
    """
    if len(text) > MAX_FORECAST_CHARS:
        raise InputError("That is too long for one forecast. Paste a single one.", "series")
    groups = " ".join(text.upper().replace("=", " ").split()).split()
    if groups[:1] != ["TAF"]:
        raise InputError("A forecast text begins with TAF.", "series")
    groups = groups[1:]
    if "TAF" in groups[1:]:
        raise InputError("Two forecasts in one text. Paste a single one.", "series")
    while groups and groups[0] in ("TAF", "AMD", "COR"):
        groups.pop(0)
    if "CNL" in groups or "NIL" in groups:
        raise InputError("The forecast is cancelled or empty.", "series")
    station = groups.pop(0) if groups and _STATION.match(groups[0]) else ""
    issued = None
    if groups and (match := _ISSUED.match(groups[0])):
        issued = _near(now, *(int(part) for part in match.groups()))
        groups.pop(0)
    if not groups:
        raise InputError("The forecast ends before its period.", "series")
    if not station:
        raise InputError("The forecast does not say for which station it is.", "series")
    begin, end = _period(groups.pop(0), now)
    first, changes, notes = _parts(groups, begin, end, now)
    return Forecast(
        station=station, issued=issued, begin=begin, end=end, first=first, changes=changes, notes=tuple(notes)
    )


def _parts(
    groups: list[str], begin: datetime, end: datetime, now: datetime
) -> tuple[Elements, tuple[ForecastChange, ...], list[str]]:
    """The first part and the changes after it."""
    cut: list[tuple[dict[str, Any], list[str]]] = [({"begin": begin}, [])]
    shear: list[str] = []
    index = 0
    while index < len(groups):
        group = groups[index]
        if group in ("RMK", "RMKS"):
            break
        probable = _PROBABLE.match(group)
        if match := _FROM.match(group):
            moment = _near(now, *(int(part) for part in match.groups()))
            cut.append(({"kind": ChangeKind.FROM, "begin": moment, "end": end}, []))
        elif probable or group in ("TEMPO", "INTER", "BECMG"):
            chance = int(probable[1]) if probable else 100
            kind = ChangeKind.PROBABLE if probable else ChangeKind.TEMPO
            kind = ChangeKind.BECOMING if group == "BECMG" else kind
            if probable and groups[index + 1 : index + 2] == ["TEMPO"]:
                index += 1
            index += 1
            if index >= len(groups):
                raise InputError(f"{group} is at the end without its period.", "series")
            since, until = _period(groups[index], now)
            cut.append(({"kind": kind, "begin": since, "end": until, "chance": chance}, []))
        elif groups[index + 1 : index + 2] and _PERIOD.match(groups[index + 1]):
            # A word of change that is not known, with its period. It may have been one after which nothing is as before.
            since, _ = _period(groups[index + 1], now)
            cut.append(({"kind": ChangeKind.UNREAD, "begin": since, "end": end}, [group, groups[index + 1]]))
            index += 1
        elif _SHEAR.match(group):
            shear.append(f"wind shear aloft: {group}")
        elif not _EXTREME.match(group):
            cut[-1][1].append(group)
        index += 1
    notes = list(shear)
    first: Elements | None = None
    changes = []
    for number, (head, body) in enumerate(cut):
        says = read_elements(body)
        if head.get("kind") is ChangeKind.UNREAD:
            says = Elements(unread=(" ".join(body),))
        notes += [*says.notes, *(f"not understood: {text}" for text in says.unread)]
        if number == 0:
            first = says
        elif head["kind"] is not ChangeKind.UNREAD:
            changes.append(ForecastChange(says=says, **head))
        if says.unread:
            # It may have been the head of the next part, so it holds until one that replaces everything.
            until = next((h["begin"] for h, _ in cut[number + 1 :] if h["kind"] is ChangeKind.FROM), end)
            lost = Elements(unread=says.unread)
            changes.append(
                ForecastChange(kind=ChangeKind.UNREAD, begin=head["begin"], end=max(until, head["begin"]), says=lost)
            )
    assert first is not None
    if first.wind_ms is None:
        notes.append("no wind in the first part")
    return first, tuple(changes), list(dict.fromkeys(notes))


def hours_of(forecast: Forecast, now: datetime) -> tuple[tuple[Weather, ...], ...]:
    """For each full hour from now (aware) to the end, everything that may hold in it: what prevails first (inside units).

    While a change is becoming, both count; what comes temporarily (TEMPO), or is only possible, counts beside what prevails.
    Raises InputError for a forecast that is over. Source: FM 51; that all of it counts is our choice: when in doubt a
    rule grounds.
    """
    if forecast.end <= now:
        raise InputError(f"This forecast ended on {forecast.end:%A %d %B, %H:%M} UTC.", "series")
    start = max(forecast.begin, now.astimezone(UTC).replace(minute=0, second=0, microsecond=0))
    hours: list[tuple[Weather, ...]] = []
    while start < forecast.end and len(hours) < MOST_AHEAD_H:
        hours.append(_may_hold(forecast, start))
        start += timedelta(hours=1)
    return tuple(hours)


def _may_hold(forecast: Forecast, at: datetime) -> tuple[Weather, ...]:
    """Everything that may hold in the hour from ``at``."""
    until = at + timedelta(hours=1)
    prevailing = [forecast.first]
    beside: list[Elements] = []
    for change in forecast.changes:
        if change.kind is ChangeKind.FROM and change.begin < until:
            # Within its hour both count; after it everything before is gone.
            prevailing = [change.says] if change.begin <= at else [*prevailing, change.says]
        elif change.kind is ChangeKind.BECOMING and change.begin < until:
            now_says = [old.followed_by(change.says) for old in prevailing]
            prevailing = now_says if change.end <= at else [*prevailing, *now_says]
        elif (
            change.kind in (ChangeKind.TEMPO, ChangeKind.PROBABLE, ChangeKind.UNREAD)
            and change.begin < until
            and change.end > at
        ):
            beside.append(change.says)
    states = [*prevailing, *(prevailing[-1].followed_by(says) for says in beside)]
    return tuple(state.weather(at, forecast.station) for state in dict.fromkeys(states))
