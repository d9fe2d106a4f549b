"""Single groups of weather reports and forecasts: sorted by what they say, decoded, and compared with each other.

A group counts only if it is whole, and a value that cannot be is refused (see docs/decisions/0004).
"""

import re
from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any

from msgspec.structs import fields, replace

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.struct import Struct
from walkround.core.base.units import FOOT_M, KMH_MS, KNOT_MS, MILE_M
from walkround.core.weather.weather import Phenomenon, Weather

INCH_HPA = 33.86389
"""An inch of mercury at 0 °C in hPa. Source: NIST Special Publication 811, appendix B (from memory)."""
SAME_PRESSURE_HPA = 1.5
"""So far may two altimeter settings in hPa and in inches lie apart by rounding. Source: rounding of both groups."""
TIME = pattern(r"^(\d{2})(\d{2})(\d{2})Z$")
STATION = pattern(r"^[A-Z][A-Z0-9]{3}$")
_WIND = pattern(r"^(\d{3}|VRB|///)P?(\d{2,3})(?:G(?:P?(\d{2,3})|//))?(KT|MPS|KMH)$")
_SPEED_MS = {"KT": KNOT_MS, "MPS": 1.0, "KMH": KMH_MS}
_VARIES = pattern(r"^(\d{3})V(\d{3})$")
_VISIBILITY = pattern(r"^(\d{4}(NDV|[NSEW]{1,2})?|[MP]?\d{1,2}SM|[MP]?\d{1,2}/\d{1,2}SM|\d{1,2}KM|CAVOK)$")
_WHOLE_MILES = pattern(r"^\d{1,2}$")
_MILES = pattern(r"^[MP]?(?:(\d{1,2}) )?(\d{1,2})(?:/(\d{1,2}))?SM$")
_FRACTION_MILES = pattern(r"^\d{1,2}/\d{1,2}SM$")
_WEATHER = pattern(
    r"^(?:[+-]|VC|-VC|\+VC)?(?:MI|PR|BC|DR|BL|SH|TS|FZ)*(?:DZ|RA|SN|SG|IC|PL|GR|GS|UP)*"
    r"(?:BR|FG|FU|VA|DU|SA|HZ|PY)?(?:PO|SQ|FC|SS|DS)?$"
)
_CLOUD = pattern(r"^((FEW|SCT|BKN|OVC|VV)\d{3}(CB|TCU|///)?|VV///|SKC|CLR|NSC|NCD)$")
_NO_CLOUD = {"SKC", "CLR", "NSC", "NCD"}
_TEMPERATURE = pattern(r"^(M?\d{2})/(M?\d{2}|//)?$")
_PRESSURE = pattern(r"^(Q\d{4}|A\d{4})$")
_SKIP = pattern(
    r"^(METAR|SPECI|AUTO|COR|CC[A-Z]|RTD|NOSIG|NSW|R\d\d[LCR]?/(//|[MPVFTDNU/\d]+|CLRD(//|\d\d))|SNOCLO"
    r"|(BLACK)?(BLU\+?|WHT|GRN|YLO[12]?|AMB|RED)|W(M?\d\d|//)/(S[\d/]|H[\d/]{1,3}))$"
)
"""Groups that say nothing of the weather in the air: heads, corrections, runways and their state, colour states, the sea.
Source: WMO-No. 306, FM 15 (from memory); colour states: national practice, from memory."""
_RECENT = pattern(r"^RE[A-Z]{2,8}$")
_SLASHES = pattern(r"^[/]+$")

_HEADS = {"METAR", "SPECI", "COR", "AUTO"}
NAMES = {
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
_SEVERE = {"SQ", "VA", "SS", "DS", "FC", "GR"}
"""Squalls, ash, storms of sand and dust, funnel clouds and hail end every flight. Source: our choice."""


def phenomenon(code: str) -> Phenomenon:
    """Read one present-weather group such as ``-SHRA`` or ``VCTS``.

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
        freezing="FZ" in parts,
        severe=bool(_SEVERE & set(parts)),
        blowing=bool({"BL", "DR", "PO", "SA", "DU"} & set(parts)),
    )


class Sorted:
    """Groups of the report sorted by what they say; unknown ones are kept."""

    def __init__(self, groups: list[str]) -> None:
        self.by_kind: dict[str, list[str]] = {kind: [] for kind in NAMES}
        self.unread: list[str] = []
        self.station = ""
        self.times = 0
        self.headed = False
        self.sectors: list[tuple[float, float]] = []
        self.recent: list[str] = []
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
        if not self.headed and STATION.match(group) and not _SKIP.match(group):
            self.station, self.headed = group, True
            return
        # A station stands at the head; later four letters are something else, such as FZFG.
        self.headed = self.headed or group not in _HEADS
        if _SKIP.match(group) or (TIME.match(group) and not self.times):
            self.times += bool(TIME.match(group))
            return
        if match := _VARIES.match(group):
            self.sectors.append((float(match[1]), float(match[2])))
            return
        if _RECENT.match(group):
            self.recent.append(group)
            return
        for kind, shape in (
            ("wind", _WIND),
            ("visibility", _VISIBILITY),
            ("cloud", _CLOUD),
            ("temperature", _TEMPERATURE),
            ("pressure", _PRESSURE),
            ("weather", _WEATHER),
        ):
            if shape.match(group) and not _SLASHES.match(group):
                self.by_kind[kind].append(group)
                return
        self.unread.append(group)


_Reader = Callable[[Sorted, dict[str, Any], list[str]], None]


def read_all(readers: Sequence[_Reader], groups: Sorted, values: dict[str, Any], notes: list[str]) -> list[str]:
    """Let each reader say what it finds (inside units); returns what was not understood or contradicts itself.

    Source: WMO-No. 306, FM 15 (from memory): wind, temperature and pressure come once.
    """
    unread = [group for group in groups.unread if not _SLASHES.match(group)]
    for kind in ("wind", "temperature", "pressure"):
        given = list(dict.fromkeys(groups.by_kind[kind]))
        if kind == "pressure" and len(given) == 2 and {g[0] for g in given} == {"Q", "A"}:
            continue  # the same in two units; they are compared where they are read
        if len(given) > 1:
            unread.append(f"{NAMES[kind]} given twice ({' and '.join(given)})")
    told = [*groups.by_kind["weather"], *groups.by_kind["cloud"], *groups.by_kind["visibility"]]
    if "CAVOK" in told and set(told) != {"CAVOK"}:
        unread.append(f"CAVOK beside {', '.join(g for g in told if g != 'CAVOK')}")
    cloud = groups.by_kind["cloud"]
    if _NO_CLOUD & set(cloud) and not set(cloud) <= _NO_CLOUD:
        unread.append(f"no cloud beside cloud ({' '.join(cloud)})")
    if len(set(groups.sectors)) > 1:
        unread.append("two sectors of wind")
    for read in readers:
        try:
            read(groups, values, notes)
        except InputError as error:
            unread.append(error.message)
    return unread


class Elements(Struct, frozen=True, kw_only=True):
    """What some groups say, in inside units; None where they say nothing. ``notes``: what was not understood."""

    wind_ms: float | None = None
    gust_ms: float | None = None
    wind_from_deg: float | None = None
    wind_sector_deg: tuple[float, float] | None = None
    visibility_m: float | None = None
    phenomena: tuple[Phenomenon, ...] | None = None
    ceiling_m: float | None = None
    ceiling_known: bool = False
    notes: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()

    def followed_by(self, later: "Elements") -> "Elements":
        """These, with what later groups say in their place: wind whole, visibility, weather and cloud each."""
        changed: dict[str, Any] = {"unread": (*self.unread, *later.unread), "notes": (*self.notes, *later.notes)}
        if later.wind_ms is not None:
            names = ("wind_ms", "gust_ms", "wind_from_deg", "wind_sector_deg")
            changed |= {name: getattr(later, name) for name in names}
        if later.visibility_m is not None:
            changed["visibility_m"] = later.visibility_m
        if later.phenomena is not None:
            changed["phenomena"] = later.phenomena
        if later.ceiling_known:
            changed |= {"ceiling_m": later.ceiling_m, "ceiling_known": True}
        return replace(self, **changed)

    def weather(self, at: datetime, station: str) -> Weather:
        """As the weather of a moment (aware)."""
        needed = (("wind", self.wind_ms), ("visibility", self.visibility_m))
        return Weather(
            at=at,
            station=station,
            text="forecast",
            missing=tuple(name for name, value in needed if value is None),
            **{field.name: getattr(self, field.name) for field in fields(self)},
        )


def read_elements(groups: list[str]) -> Elements:
    """What wind, visibility, weather and cloud groups say (inside units), as in a forecast; ``NSW`` says none falls.

    Source: WMO-No. 306, Manual on Codes (from memory); single groups through the ``metar`` package.
    """
    sorted_groups = Sorted(["ZZZZ", *groups])
    values: dict[str, Any] = {}
    notes: list[str] = []
    unread = read_all((_read_wind, _read_visibility, _read_weather, _read_cloud), sorted_groups, values, notes)
    if "NSW" in groups:
        if values.get("phenomena"):
            unread.append("no weather beside weather")
        values.setdefault("phenomena", ())
    return Elements(**values, notes=tuple(notes), unread=tuple(unread))


def has(kind: str, values: dict[str, Any]) -> bool:
    """Whether a kind of group was read."""
    key = {
        "wind": "wind_ms",
        "visibility": "visibility_m",
        "weather": "phenomena",
        "cloud": "ceiling_known",
        "temperature": "temperature_c",
        "pressure": "qnh_hpa",
    }[kind]
    return key in values


def _read_wind(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["wind"]:
        return
    group = groups.by_kind["wind"][0]
    told = _WIND.match(group)
    assert told is not None
    direction, speed, gust, unit = told.groups()
    if direction == "///":
        notes.append(f"direction of the wind not reported in {group}")
    if "G//" in group:
        notes.append(f"gust not reported in {group}")
    if direction.isdigit() and int(direction) > 360:
        notes.append(f"{group} has no such direction; any direction counts")
    wind_ms = int(speed) * _SPEED_MS[unit]
    gust_ms = None if gust is None else int(gust) * _SPEED_MS[unit]
    if wind_ms > 75:
        raise InputError(f"wind group {group} is not plausible")
    values["wind_ms"] = wind_ms
    if direction.isdigit() and int(direction) <= 360:
        values["wind_from_deg"] = float(direction) % 360
    for begin, end in groups.sectors[:1]:
        if begin > 360 or end > 360:
            notes.append("the sector of the wind has no such direction; any direction counts")
            values.pop("wind_from_deg", None)
        else:
            values["wind_sector_deg"] = (begin % 360, end % 360)
    if gust_ms is not None and gust_ms < wind_ms:
        notes.append(f"gust in {group} is below the mean wind; ignored")
    elif gust_ms is not None:
        values["gust_ms"] = gust_ms


def _visibility_m(group: str) -> float:
    if group in ("CAVOK", "9999"):
        return 10_000.0
    if group.endswith("KM"):
        return float(group.removesuffix("KM")) * 1000
    if miles := _MILES.match(group):
        whole, over, under = miles.groups()
        if under is not None and int(under) == 0:
            raise InputError(f"visibility group {group} cannot be read")
        return (int(whole or 0) + int(over) / int(under or 1)) * MILE_M
    return float(group[:4])


def _read_visibility(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    known = groups.by_kind["visibility"]
    if not known:
        return
    if "CAVOK" in known:
        values |= {"phenomena": (), "ceiling_known": True}
    # A second group tells the lowest visibility and where it is: whichever is lowest counts.
    values["visibility_m"] = min(_visibility_m(group) for group in known)
    for group in known:
        if group.startswith("M"):
            notes.append(f"visibility is less than {group[1:]}")


def _read_weather(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if "phenomena" in values:
        return
    slashed = [g for g in groups.unread if _SLASHES.match(g) and len(g) == 2]
    if slashed:
        return
    # No group at all means nothing significant, but only in a report that reached its end.
    if groups.by_kind["weather"] or groups.by_kind["temperature"] or groups.by_kind["pressure"]:
        values["phenomena"] = tuple(phenomenon(group) for group in groups.by_kind["weather"])


def _read_cloud(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    clouds = groups.by_kind["cloud"]
    if not clouds:
        return
    values["ceiling_known"] = True
    bases_m = [
        int(re.sub(r"\D", "", group)[:3]) * 100 * FOOT_M
        for group in clouds
        if group.startswith(("BKN", "OVC", "VV")) and group != "VV///"
    ]
    if "VV///" in clouds:
        notes.append("sky hidden, how far one sees upward is not reported: VV///")
        bases_m.append(0.0)
    if bases_m:
        values["ceiling_m"] = min(bases_m)
    for group in clouds:
        if group.endswith(("CB", "TCU")):
            notes.append(f"towering cloud reported: {group}")


def _celsius(text: str) -> float:
    """``M04`` is four degrees below zero."""
    return -float(text[1:]) if text.startswith("M") else float(text)


def _read_temperature(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["temperature"]:
        return
    group = groups.by_kind["temperature"][0]
    told, _, dew = group.partition("/")
    temperature_c = _celsius(told)
    if not -60 <= temperature_c <= 60:
        raise InputError(f"temperature group {group} is not plausible")
    values["temperature_c"] = temperature_c
    if dew.strip("/"):
        dew_point_c = _celsius(dew)
        if dew_point_c > temperature_c:
            notes.append(f"dew point in {group} is above the temperature; ignored")
        else:
            values["dew_point_c"] = dew_point_c


def _read_pressure(groups: Sorted, values: dict[str, Any], notes: list[str]) -> None:
    if not groups.by_kind["pressure"]:
        return
    found = []
    for group in groups.by_kind["pressure"]:
        qnh_hpa = float(group[1:]) if group.startswith("Q") else int(group[1:]) / 100 * INCH_HPA
        if not 850 <= qnh_hpa <= 1090:
            raise InputError(f"pressure group {group} is not plausible")
        found.append(qnh_hpa)
    if max(found) - min(found) > SAME_PRESSURE_HPA:
        raise InputError(f"pressures disagree: {' and '.join(groups.by_kind['pressure'])}")
    values["qnh_hpa"] = found[0]


READERS: tuple[_Reader, ...] = (
    _read_wind,
    _read_visibility,
    _read_weather,
    _read_cloud,
    _read_temperature,
    _read_pressure,
)
