"""A front for weather report texts (METAR): reads what can be read and says what was not.

The ``metar`` package decodes single groups; this front feeds it only groups that are whole, cuts the trend and the
remarks away from what is *now*, and refuses the values that the package lets pass (see docs/decisions/0004).
"""

import calendar
import re
import warnings
from datetime import UTC, datetime, timedelta
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.units import FOOT_M
from walkround.core.base.value import Value
from walkround.core.weather.weather import Phenomenon, Weather

MAX_REPORT_CHARS = 2_000
_TIME = re.compile(r"^(\d{2})(\d{2})(\d{2})Z$")
_STATION = re.compile(r"^[A-Z][A-Z0-9]{3}$")
_WIND = re.compile(r"^(\d{3}|VRB)P?(\d{2,3})(G(P?\d{2,3}))?(KT|MPS|KMH)$")
_VARIES = re.compile(r"^\d{3}V\d{3}$")
_VISIBILITY = re.compile(r"^(\d{4}(NDV|[NSEW]{1,2})?|[MP]?\d{1,2}SM|[MP]?\d{1,2}/\d{1,2}SM|CAVOK)$")
_WHOLE_MILES = re.compile(r"^\d{1,2}$")
_FRACTION_MILES = re.compile(r"^\d{1,2}/\d{1,2}SM$")
_WEATHER = re.compile(
    r"^(?:[+-]|VC|-VC|\+VC)?(?:MI|PR|BC|DR|BL|SH|TS|FZ)*(?:DZ|RA|SN|SG|IC|PL|GR|GS|UP)*"
    r"(?:BR|FG|FU|VA|DU|SA|HZ|PY)?(?:PO|SQ|FC|SS|DS)?$"
)
_CLOUD = re.compile(r"^((FEW|SCT|BKN|OVC|VV)\d{3}(CB|TCU|///)?|SKC|CLR|NSC|NCD)$")
_TEMPERATURE = re.compile(r"^(M?\d{2})/(M?\d{2}|//)?$")
_PRESSURE = re.compile(r"^(Q\d{4}|A\d{4})$")
_SKIP = re.compile(r"^(METAR|SPECI|AUTO|COR|CC[A-Z]|RTD|NOSIG|R\d\d[LCR]?/\S+|RE[A-Z]{2,8}|WS|NSW)$")
_SLASHES = re.compile(r"^[/]+$")
_TREND_WORDS = ("TEMPO", "BECMG")

_NAMES = {
    "wind": "wind",
    "visibility": "visibility",
    "weather": "present weather",
    "cloud": "cloud",
    "temperature": "temperature",
    "pressure": "pressure",
}
_WORDS = {
    "MI": "shallow", "PR": "partial", "BC": "patches of", "DR": "low drifting", "BL": "blowing", "SH": "showers of",
    "TS": "thunderstorm", "FZ": "freezing", "DZ": "drizzle", "RA": "rain", "SN": "snow", "SG": "snow grains",
    "IC": "ice crystals", "PL": "ice pellets", "GR": "hail", "GS": "small hail", "UP": "unknown precipitation",
    "BR": "mist", "FG": "fog", "FU": "smoke", "VA": "volcanic ash", "DU": "dust", "SA": "sand", "HZ": "haze",
    "PY": "spray", "PO": "dust whirls", "SQ": "squalls", "FC": "funnel cloud", "SS": "sandstorm", "DS": "dust storm",
}  # fmt: skip
_FALLING = {"DZ", "RA", "SN", "SG", "IC", "PL", "GR", "GS", "UP"}


def phenomenon(code: str) -> Phenomenon:
    """Read one present-weather group such as ``-SHRA`` or ``VCTS`` (no unit).

    Source: WMO-No. 306, Manual on Codes, table 4678 (from memory).
    """
    body = code.lstrip("+-")
    nearby = body.startswith("VC")
    body = body.removeprefix("VC")
    parts = re.findall("..", body)
    words = " ".join(_WORDS.get(part, part) for part in parts)
    if parts == ["SH"]:
        words = "showers"
    if parts[:1] == ["TS"] and len(parts) > 1:
        words = "thunderstorm with " + " ".join(_WORDS.get(part, part) for part in parts[1:])
    prefix = "light " if code.startswith("-") else "heavy " if code.startswith("+") else ""
    return Phenomenon(
        code=code,
        words=prefix + words + (" nearby" if nearby else ""),
        precipitation=bool(_FALLING & set(parts)) or (parts == ["SH"]),
        nearby=nearby,
        thunder="TS" in parts or "FC" in parts,
        freezing="FZ" in parts and bool(_FALLING & set(parts)),
    )


def _observed_at(groups: list[str], now: datetime) -> tuple[datetime | None, list[str]]:
    """The time of observation: the latest such day and hour that is not more than an hour ahead of now."""
    for group in groups:
        match = _TIME.match(group)
        if not match:
            continue
        day, hour, minute = (int(part) for part in match.groups())
        if not (1 <= day <= 31 and hour <= 23 and minute <= 59):
            return None, [f"{group} is no time of day"]
        year, month = now.year, now.month
        for _ in range(3):
            if day <= calendar.monthrange(year, month)[1]:
                moment = datetime(year, month, day, hour, minute, tzinfo=UTC)
                if moment <= now + timedelta(hours=1):
                    return moment, []
            year, month = (year, month - 1) if month > 1 else (year - 1, 12)
    return None, []


class _Sorted:
    """Groups of the report sorted by what they say; unknown ones are kept."""

    def __init__(self, groups: list[str]) -> None:
        self.by_kind: dict[str, list[str]] = {kind: [] for kind in _NAMES}
        self.unread: list[str] = []
        self.station = ""
        self.clear_of_weather = False
        index = 0
        while index < len(groups):
            group = groups[index]
            following = groups[index + 1] if index + 1 < len(groups) else ""
            if _WHOLE_MILES.match(group) and _FRACTION_MILES.match(following):
                self.by_kind["visibility"].append(f"{group} {following}")
                index += 2
                continue
            self._sort(group)
            index += 1

    def _sort(self, group: str) -> None:
        if not self.station and _STATION.match(group) and not _SKIP.match(group):
            self.station = group
            return
        if _SKIP.match(group) or _TIME.match(group) or _VARIES.match(group):
            return
        for kind, pattern in (
            ("wind", _WIND),
            ("visibility", _VISIBILITY),
            ("cloud", _CLOUD),
            ("temperature", _TEMPERATURE),
            ("pressure", _PRESSURE),
            ("weather", _WEATHER),
        ):
            if pattern.match(group) and not _SLASHES.match(group):
                self.by_kind[kind].append(group)
                return
        self.unread.append(group)


def _decode(kind: str, text: str, station: str) -> Any:
    """One group through the package: a report of nothing but station, a safe time, and that group.

    A calm wind goes before all but the wind group itself: the package reads a bare ``0400`` as a wind.
    """
    from metar import Metar

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            lead = "" if kind == "wind" else "00000KT "
            return Metar.Metar(f"METAR {station or 'ZZZZ'} 010000Z {lead}{text}", month=1, year=2001, strict=True)
        except Metar.ParserError as error:
            raise InputError(f"{_NAMES[kind]} group {text} cannot be read") from error


def decode_report(text: str, now: datetime) -> Weather:
    """Read a weather report text as it stood at ``now`` (aware). Inside units: m/s, m, °C, hPa.

    What could not be read, contradicts itself or is missing is named in ``missing`` and ``notes`` and never guessed.
    Raises InputError when nothing at all can be read.
    Source: WMO-No. 306, Manual on Codes, FM 15 (from memory); single groups through the ``metar`` package.
    """
    if len(text) > MAX_REPORT_CHARS:
        raise InputError("That is too long for one weather report. Paste a single report.", "report")
    flat = " ".join(text.upper().replace("=", " ").split())
    body, trend = _without_trend(flat.split())
    if "NIL" in body:
        raise InputError("The station reports nothing (NIL).", "report")
    at, notes = _observed_at(body, now)
    groups = _Sorted(body)
    values: dict[str, Any] = {}
    for read in (_read_wind, _read_visibility, _read_weather, _read_cloud, _read_temperature, _read_pressure):
        try:
            read(groups, values, notes)
        except InputError as error:
            notes.append(error.message)
    if not values:
        raise InputError(
            "Nothing in this text reads as a weather report. It starts with a station and a time, like "
            "“METAR XXYY 251150Z 24008KT 9999 BKN030 11/06 Q1016”.",
            "report",
        )
    if at is None:
        notes.append("no time of observation; taken as now")
    missing = [name for kind, name in _NAMES.items() if not _has(kind, values)]
    notes += [f"not understood: {group}" for group in groups.unread if not _SLASHES.match(group)]
    return Weather(
        at=at or now,
        station=groups.station,
        text=flat,
        trend=trend,
        missing=tuple(missing),
        notes=tuple(dict.fromkeys(notes)),
        **values,
    )


class Elements(Value):
    """What some groups say, in inside units; None where they say nothing. ``notes``: what was not understood."""

    wind_ms: float | None = None
    gust_ms: float | None = None
    wind_from_deg: float | None = None
    visibility_m: float | None = None
    phenomena: tuple[Phenomenon, ...] | None = None
    ceiling_m: float | None = None
    ceiling_known: bool = False
    notes: tuple[str, ...] = ()

    def followed_by(self, later: "Elements") -> "Elements":
        """These, with what later groups say in their place: wind whole, visibility, weather and cloud each."""
        changed: dict[str, Any] = {}
        if later.wind_ms is not None:
            changed |= {"wind_ms": later.wind_ms, "gust_ms": later.gust_ms, "wind_from_deg": later.wind_from_deg}
        if later.visibility_m is not None:
            changed["visibility_m"] = later.visibility_m
        if later.phenomena is not None:
            changed["phenomena"] = later.phenomena
        if later.ceiling_known:
            changed |= {"ceiling_m": later.ceiling_m, "ceiling_known": True}
        return self.model_copy(update=changed)

    def weather(self, at: datetime, station: str) -> Weather:
        """As the weather of a moment (aware)."""
        return Weather(
            at=at,
            station=station,
            text="forecast",
            **self.model_dump(exclude={"notes", "phenomena"}),
            phenomena=self.phenomena,
        )


def read_elements(groups: list[str]) -> Elements:
    """What wind, visibility, weather and cloud groups say (inside units), as in a forecast; ``NSW`` says none falls.

    Source: WMO-No. 306, Manual on Codes (from memory); single groups through the ``metar`` package.
    """
    sorted_groups = _Sorted(["ZZZZ", *groups])
    values: dict[str, Any] = {}
    notes: list[str] = []
    for read in (_read_wind, _read_visibility, _read_weather, _read_cloud):
        try:
            read(sorted_groups, values, notes)
        except InputError as error:
            notes.append(error.message)
    if "NSW" in groups:
        values["phenomena"] = ()
    notes += [f"not understood: {group}" for group in sorted_groups.unread if not _SLASHES.match(group)]
    return Elements(**values, notes=tuple(notes))


def _has(kind: str, values: dict[str, Any]) -> bool:
    key = {
        "wind": "wind_ms",
        "visibility": "visibility_m",
        "weather": "phenomena",
        "cloud": "ceiling_known",
        "temperature": "temperature_c",
        "pressure": "pressure_hpa",
    }[kind]
    return key in values


def _without_trend(groups: list[str]) -> tuple[list[str], str]:
    """Split what is now from trend and remarks."""
    for index, group in enumerate(groups):
        if group in ("RMK", "RMKS"):
            return groups[:index], ""
        if group in _TREND_WORDS:
            rest = groups[index:]
            end = next((i for i, g in enumerate(rest) if g in ("RMK", "RMKS")), len(rest))
            return groups[:index], " ".join(rest[:end])
    return groups, ""


def _read_wind(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["wind"]:
        return
    group = groups.by_kind["wind"][0]
    decoded = _decode("wind", group, groups.station)
    if decoded.wind_dir is not None:
        direction = float(decoded.wind_dir.value())
        if direction > 360:
            raise InputError(f"wind group {group} has no such direction")
        values["wind_from_deg"] = direction % 360
    wind_ms = float(decoded.wind_speed.value("MPS"))
    gust_ms = None if decoded.wind_gust is None else float(decoded.wind_gust.value("MPS"))
    if wind_ms > 75:
        values.pop("wind_from_deg", None)
        raise InputError(f"wind group {group} is stronger than any wind measured here")
    values["wind_ms"] = wind_ms
    if gust_ms is not None and gust_ms < wind_ms:
        notes.append(f"gust in {group} is below the mean wind; not believed")
    elif gust_ms is not None:
        values["gust_ms"] = gust_ms


def _read_visibility(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    known = groups.by_kind["visibility"]
    if not known:
        return
    if known[0] == "CAVOK":
        values |= {"visibility_m": 10_000.0, "phenomena": (), "ceiling_known": True}
        return
    if known[0] == "9999" or known[0].startswith("P"):
        decoded = _decode("visibility", known[0].removeprefix("P"), groups.station)
        values["visibility_m"] = 10_000.0 if known[0] == "9999" else float(decoded.vis.value("M"))
        return
    lowest = []
    for group in known:
        decoded = _decode("visibility", group.removeprefix("M"), groups.station)
        lowest.append(float(decoded.vis.value("M")))
    values["visibility_m"] = min(lowest)
    if known[0].startswith("M"):
        notes.append(f"visibility is less than {known[0][1:]}")


def _read_weather(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if "phenomena" in values:
        return
    slashed = [g for g in groups.unread if _SLASHES.match(g) and len(g) == 2]
    if slashed:
        return
    for group in groups.by_kind["weather"]:
        _decode("weather", group, groups.station)
    # No group at all means nothing significant, but only in a report that reached its end.
    if groups.by_kind["weather"] or groups.by_kind["temperature"] or groups.by_kind["pressure"]:
        values["phenomena"] = tuple(phenomenon(group) for group in groups.by_kind["weather"])


def _read_cloud(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    clouds = groups.by_kind["cloud"]
    if not clouds:
        return
    values["ceiling_known"] = True
    bases_m = [
        int(re.sub(r"\D", "", group)[:3]) * 100 * FOOT_M for group in clouds if group.startswith(("BKN", "OVC", "VV"))
    ]
    if bases_m:
        values["ceiling_m"] = min(bases_m)
    for group in clouds:
        if group.endswith(("CB", "TCU")):
            notes.append(f"towering cloud reported: {group}")


def _read_temperature(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["temperature"]:
        return
    group = groups.by_kind["temperature"][0]
    decoded = _decode("temperature", group, groups.station)
    temperature_c = float(decoded.temp.value("C"))
    if not -60 <= temperature_c <= 60:
        raise InputError(f"temperature group {group} cannot be")
    values["temperature_c"] = temperature_c
    if decoded.dewpt is not None:
        dew_point_c = float(decoded.dewpt.value("C"))
        if dew_point_c > temperature_c:
            notes.append(f"dew point in {group} lies above the temperature; not believed")
        else:
            values["dew_point_c"] = dew_point_c


def _read_pressure(groups: _Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["pressure"]:
        return
    group = next((g for g in groups.by_kind["pressure"] if g.startswith("Q")), groups.by_kind["pressure"][0])
    pressure_hpa = float(_decode("pressure", group, groups.station).press.value("HPA"))
    if not 850 <= pressure_hpa <= 1090:
        raise InputError(f"pressure group {group} cannot be")
    values["pressure_hpa"] = pressure_hpa
