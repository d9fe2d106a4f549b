"""Distances and bearings on the earth."""

import functools
import math
import re
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import pattern
from walkround.core.base.value import Value


class Position(Value):
    """A place on the WGS 84 ellipsoid: latitude and longitude in degrees, north and east positive."""

    lat_deg: float
    lon_deg: float


def position(lat_deg: float, lon_deg: float) -> Position:
    """A checked position. Latitude -90 to 90, longitude -180 to 180, both in degrees.

    Raises InputError outside these, offering the swap when the two look exchanged.
    Source: WGS 84 coordinate ranges.
    """
    if not -90 <= lat_deg <= 90:
        swapped = -90 <= lon_deg <= 90 and -180 <= lat_deg <= 180
        hint = " Are the two swapped?" if swapped else ""
        offer = {"lat_deg": f"{lon_deg:g}", "lon_deg": f"{lat_deg:g}"} if swapped else {}
        raise InputError(f"Latitude {lat_deg:g} is outside -90 to 90.{hint}", "lat_deg", offer)
    if not -180 <= lon_deg <= 180:
        raise InputError(f"Longitude {lon_deg:g} is outside -180 to 180.", "lon_deg")
    return Position(lat_deg=lat_deg, lon_deg=lon_deg)


_PART = r"([+-]?\d+(?:[.,]\d+)?)\s*°?\s*(?:(\d+(?:[.,]\d+)?)\s*['′’]\s*(?:(\d+(?:[.,]\d+)?)\s*(?:\"|″|”|''))?)?"
_HALF = pattern(rf"^\s*([NSEWO]?)\s*{_PART}\s*([NSEWO]?)\s*$", re.IGNORECASE)
_GEO = pattern(r"^\s*geo:([+-]?\d+(?:\.\d+)?),([+-]?\d+(?:\.\d+)?)(?:,[+-]?\d+(?:\.\d+)?)?(?:;.*)?$", re.IGNORECASE)
_PAIR = pattern(r"([+-]\d+(?:\.\d+)?)([+-]\d+(?:\.\d+)?)(?:[+-]\d+(?:\.\d+)?)?/?$")


def parse_position(text: str) -> Position:
    """A position (degrees) from one text: decimal degrees, degrees minutes seconds, a ``geo:`` link, a pasted pair.

    Hemispheres as letters before or after (O is taken for east), or as signs; a decimal comma is understood where the two
    are parted by a semicolon or by spaces. Two letters put the two in their order whichever comes first.
    Raises InputError in words: what could not be read, what is outside its range, with the swap on offer.
    Source: RFC 5870 (``geo:``), ISO 6709 annex H (degrees and signs run together), usual notations.
    """
    cleaned = " ".join(text.strip().split())
    if not cleaned:
        raise InputError("The position is empty. Paste one, for example 48.2213, 15.3318.", "position")
    if cleaned.lower().startswith("geo:") or not any(letter.isdigit() for letter in cleaned):
        link = _GEO.match(cleaned)
        if link is None:
            what = "That geo: link has no latitude and longitude" if ":" in cleaned else "It contains no number"
            raise InputError(f"{what}. Enter two numbers, for example 48.2213, 15.3318.", "position")
        return _checked(float(link[1]), float(link[2]))
    run = _PAIR.match(cleaned.replace(" ", ""))
    if run is not None and "," not in cleaned:
        return _checked(float(run[1]), float(run[2]))
    halves = [_half(part) for part in _split(cleaned)]
    (first, one), (second, other) = halves
    if one in ("E", "W") and other in ("N", "S"):
        (first, one), (second, other) = (second, other), (first, one)
    if one in ("E", "W") or other in ("N", "S"):
        raise InputError("One must be north or south, the other east or west.", "position")
    return _checked(first, second)


def _split(text: str) -> tuple[str, str]:
    """The two halves of a pair."""
    if ";" in text:
        parts = text.split(";")
    elif re.search(r"[NSEWO]", text, re.IGNORECASE):
        # A letter closes the first half, or opens the second one.
        found = re.match(r"^(.*?[NSEWO])[\s,/]*(?=[+-]?\d)(.*)$", text, re.IGNORECASE)
        if re.match(r"^[NSEWO]", text, re.IGNORECASE):
            found = re.match(r"^([NSEWO].*?)[\s,/]*([NSEWO].*)$", text, re.IGNORECASE)
        parts = [found[1], found[2]] if found else [text]
    elif ", " in text:
        parts = text.split(", ")
    elif text.count(",") == 1:
        parts = text.split(",")
    else:
        parts = text.split(" ")
    parts = [part.strip(" ,/") for part in parts if part.strip(" ,/")]
    if len(parts) != 2:
        raise InputError("Enter latitude and longitude, for example 48.2213, 15.3318.", "position")
    return parts[0], parts[1]


def _half(text: str) -> tuple[float, str]:
    """Degrees and the hemisphere letter, "" without one."""
    found = _HALF.match(text)
    if found is None:
        raise InputError(
            f"“{text[:24]}” is not a latitude or longitude. Use degrees, for example 48.2213 or 48° 13' 16.7\".",
            "position",
        )
    before, degrees, minutes, seconds, after = found.groups()
    letter = (before or after).upper().replace("O", "E")
    if before and after:
        raise InputError(f"“{text[:24]}” has its hemisphere twice.", "position")
    if letter and degrees[:1] in "+-":
        raise InputError(f"“{text[:24]}” has a sign and a letter. Use one of them: -33.87, or 33.87 S.", "position")
    parts = [float((part or "0").replace(",", ".")) for part in (degrees.lstrip("+-"), minutes, seconds)]
    if parts[1] >= 60 or parts[2] >= 60:
        raise InputError(f"“{text[:24]}”: minutes and seconds must be below 60.", "position")
    value = parts[0] + parts[1] / 60 + parts[2] / 3600
    negative = degrees.startswith("-") != (letter in ("S", "W"))
    return (-value if negative else value), letter


def _checked(lat_deg: float, lon_deg: float) -> Position:
    """As ``position``, for the one field both stand in."""
    try:
        return position(lat_deg, lon_deg)
    except InputError as error:
        swap = {"position": f"{lon_deg:g}, {lat_deg:g}"} if error.offer else {}
        raise InputError(error.message, "position", swap) from error


def decimal(place: Position) -> str:
    """A position as decimal degrees with signs, to five places (a metre): "48.22130, 15.33180"."""
    return f"{place.lat_deg:.5f}, {place.lon_deg:.5f}"


def sexagesimal(place: Position) -> str:
    """A position in degrees, minutes and seconds with letters, to a tenth of a second (3 m), as rescuers say it.

    Source: ISO 6709 annex D, human interface.
    """

    def half(value: float, letters: str) -> str:
        tenths = round(abs(value) * 36_000)
        degrees, rest = divmod(tenths, 36_000)
        minutes, rest = divmod(rest, 600)
        return f"{degrees}° {minutes:02d}' {rest / 10:04.1f}\" {letters[0] if value >= 0 else letters[1]}"

    return f"{half(place.lat_deg, 'NS')}, {half(place.lon_deg, 'EW')}"


def geo_link(place: Position) -> str:
    """A position as a ``geo:`` link in degrees. Source: RFC 5870."""
    return f"geo:{place.lat_deg:.5f},{place.lon_deg:.5f}"


@functools.cache
def _earth() -> Any:
    from geographiclib.geodesic import Geodesic

    return Geodesic.WGS84


@functools.lru_cache(maxsize=4096)
def course(a: Position, b: Position) -> tuple[float, float]:
    """Geodesic distance in m and initial bearing in degrees true (0 to 360) from ``a`` to ``b`` on WGS 84.

    Source: C. F. F. Karney, Algorithms for geodesics, J. Geodesy 87 (2013), through geographiclib.
    """
    line = _earth().Inverse(a.lat_deg, a.lon_deg, b.lat_deg, b.lon_deg)
    return float(line["s12"]), float(line["azi1"]) % 360


def distance_m(a: Position, b: Position) -> float:
    """Geodesic distance in m between two positions in degrees on WGS 84. Source: as ``course``."""
    return course(a, b)[0]


def bearing_deg(a: Position, b: Position) -> float:
    """Initial bearing in degrees true (0 to 360) from ``a`` to ``b`` on WGS 84. Source: as ``course``."""
    return course(a, b)[1]


def to_plane(origin: Position, place: Position) -> tuple[float, float]:
    """East and north in m of a place as seen from an origin (both degrees): the azimuthal equidistant plane, in which
    distance and bearing from the origin are those of the geodesic. Source: as ``course``."""
    line = _earth().Inverse(origin.lat_deg, origin.lon_deg, place.lat_deg, place.lon_deg)
    angle = math.radians(line["azi1"])
    return (line["s12"] * math.sin(angle), line["s12"] * math.cos(angle))


def from_plane(origin: Position, point: tuple[float, float]) -> Position:
    """The place (degrees) at so many m east and north of an origin; the way back of ``to_plane``. Source: as ``course``."""
    east, north = point
    bearing = math.degrees(math.atan2(east, north))
    line = _earth().Direct(origin.lat_deg, origin.lon_deg, bearing, math.hypot(east, north))
    return Position(lat_deg=float(line["lat2"]), lon_deg=float(line["lon2"]))


def degree_lengths_m(lat_deg: float) -> tuple[float, float]:
    """Length of a degree of latitude and of longitude at a latitude in degrees, in m on WGS 84.

    Source: meridian and parallel arcs, R = a(1 - e²)/(1 - e² sin²)^1.5 and a cos/(1 - e² sin²)^0.5.
    """
    a, e2 = 6_378_137.0, 0.00669437999014
    sin2 = math.sin(math.radians(lat_deg)) ** 2
    turn = math.pi / 180
    along = a * (1 - e2) / (1 - e2 * sin2) ** 1.5
    across = a * math.cos(math.radians(lat_deg)) / math.sqrt(1 - e2 * sin2)
    return along * turn, across * turn
