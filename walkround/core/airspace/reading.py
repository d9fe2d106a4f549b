"""Zones as GeoJSON: our own few properties, every part checked, nothing taken by halves."""

import math
from datetime import datetime
from typing import Any

from walkround.core.airspace.zone import ActivePeriod, Edge, Ref, Ring, Rule, Terms, Zone, checked, unwrapped
from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.base.plain import sensible
from walkround.core.base.struct import Struct
from walkround.core.field.mapfile import parts_of, read_collection

MOST_ZONES = 60_000
FOOT_M = 0.3048


class ZoneFile(Struct, frozen=True, kw_only=True):
    """What a file holds: its zones, what time it says of itself (aware, None: nothing), and what is to be known of it."""

    zones: tuple[Zone, ...]
    as_of: datetime | None
    notes: tuple[str, ...]


def read_zones(text: str) -> ZoneFile:
    """Zones from GeoJSON: polygons, and points with ``radius_m``; heights in m or feet, times in ISO 8601.

    Properties: ``name``, ``rule`` (closed, ask first, allowed up to, caution), ``floor_m`` or ``floor_ft`` with
    ``floor_from`` (ground or sea), the same for ``max_height``, ``up_to_m``, ``times`` (a list of from and until), ``asks``.
    A zone that does not say its rule is one to ask first. An outline that crosses itself counts as all that it encloses,
    a hole that crosses itself as none; both are noted. Raises InputError in words, naming the feature. Source: RFC 7946.
    """
    data = read_collection(text, "zones")
    features = data["features"]
    if len(features) > MOST_ZONES:
        raise InputError(f"{len(features)} zones (max {MOST_ZONES}).", "zones")
    zones, notes = [], []
    for number, feature in enumerate(features, 1):
        properties = feature.get("properties")
        if not isinstance(properties, dict):
            raise InputError(f"Feature {number} has no properties.", "zones")
        name = " ".join(str(properties.get("name") or f"zone {number}").split())[:120]
        where = f"{name} (feature {number})"
        terms = _terms(properties, name, where)
        zone, crossed = _zone(feature.get("geometry"), properties, terms, where)
        zones.append(checked(zone))
        notes += [f"{name}: {words}" for words in crossed]
    if not zones:
        raise InputError("The file has no zones.", "zones")
    return ZoneFile(
        zones=tuple(zones),
        as_of=None if data.get("as_of") in (None, "") else _time(data["as_of"], "as_of"),
        notes=tuple(notes),
    )


def _time(value: Any, where: str) -> datetime:
    try:
        moment = datetime.fromisoformat(str(value).strip())
    except ValueError as error:
        raise InputError(f"{where}: “{str(value)[:30]}” is not a time like 2026-05-16T08:00Z.", "zones") from error
    if moment.tzinfo is None:
        words = f"{where}: “{str(value)[:30]}” has no time zone. Add Z for UTC, or an offset like +02:00."
        raise InputError(words, "zones")
    return sensible(moment, f"{where}: “{str(value)[:30]}” is not a time like 2026-05-16T08:00Z.", "zones")


def _number(properties: dict[str, Any], name: str, where: str) -> float | None:
    value = properties.get(name)
    if value is None or value == "":
        return None
    try:
        number = float(value) if not isinstance(value, bool) else math.nan
    except (TypeError, ValueError) as error:
        raise InputError(f"{where}: {name} “{str(value)[:16]}” is not a number.", "zones") from error
    if not (math.isfinite(number) and -2_000 <= number <= 500_000):
        raise InputError(f"{where}: {name} {str(value)[:16]} is not plausible.", "zones")
    return number


def _edge(properties: dict[str, Any], name: str, where: str) -> Edge | None:
    metres, feet = _number(properties, f"{name}_m", where), _number(properties, f"{name}_ft", where)
    if metres is not None and feet is not None:
        raise InputError(f"{where}: {name} in m and in feet. Keep one of them.", "zones")
    value = metres if metres is not None else None if feet is None else feet * FOOT_M
    if value is None:
        return None
    ref = str(properties.get(f"{name}_from") or "ground").strip().lower()
    if ref not in set(Ref):
        raise InputError(f"{where}: {name}_from is ground or sea, not “{ref[:16]}”.", "zones")
    if not -500 <= value <= 100_000:
        raise InputError(f"{where}: a {name} of {value:g} m is not plausible.", "zones")
    return Edge(height_m=value, ref=Ref(ref))


def _terms(properties: dict[str, Any], name: str, where: str) -> Terms:
    rule = str(properties.get("rule") or Rule.ASK.value).strip().lower()
    rule = {"take care": Rule.CAUTION.value}.get(rule, rule)  # as files were written for 0.6
    if rule not in set(Rule):
        raise InputError(f"{where}: rule “{rule[:24]}” is not one of {', '.join(r.value for r in Rule)}.", "zones")
    times = properties.get("times") or []
    if not isinstance(times, list) or any(not isinstance(row, dict) for row in times) or len(times) > 200:
        raise InputError(f"{where}: times must be a list of from and until.", "zones")
    periods = []
    for row in times:
        begin, end = (_time(row[key], where) if row.get(key) else None for key in ("from", "until"))
        if begin is not None and end is not None and end <= begin:
            raise InputError(f"{where}: it ends before it begins.", "zones")
        periods.append(ActivePeriod(begin=begin, end=end))
    up_to = _number(properties, "up_to_m", where)
    if up_to is not None and not 0 <= up_to <= 10_000:
        raise InputError(f"{where}: up_to_m {up_to:g} is not plausible.", "zones")
    return Terms(
        name=name,
        rule=Rule(rule),
        floor=_edge(properties, "floor", where) or Edge(height_m=0),
        max_height=_edge(properties, "ceiling", where),
        up_to_m=up_to,
        periods=tuple(periods),
        asks=" ".join(str(properties.get("asks") or "").split())[:500],
    )


def _corner(row: Any, where: str) -> tuple[float, float]:
    if (
        not isinstance(row, list)
        or len(row) < 2
        or any(isinstance(v, bool) or not isinstance(v, int | float) for v in row[:2])
    ):
        raise InputError(f"{where}: a position needs a longitude and a latitude.", "zones")
    lon, lat = float(row[0]), float(row[1])
    if not (math.isfinite(lon) and math.isfinite(lat) and abs(lat) <= 90 and abs(lon) <= 540):
        swap = " Are the two swapped?" if abs(lat) <= 180 and abs(lon) <= 90 else ""
        raise InputError(f"{where}: latitude {lat:g}, longitude {lon:g} is not a place on earth.{swap}", "zones")
    return (lon, lat)


def _zone(geometry: Any, properties: dict[str, Any], terms: Terms, where: str) -> tuple[Zone, list[str]]:
    polygons: list[tuple[Ring, ...]] = []
    notes: list[str] = []
    for shape, coordinates in parts_of(geometry, where, "zones"):
        if shape == "Point":
            lon, lat = _corner(coordinates, where)
            radius = _number(properties, "radius_m", where)
            if radius is None or not 0 < radius <= 500_000:
                raise InputError(f"{where}: a circle needs a radius_m above 0.", "zones")
            centre = Position(lat_deg=lat, lon_deg=(lon + 180) % 360 - 180)
            return Zone(terms=terms, centre=centre, radius_m=radius), []
        if shape != "Polygon":
            raise InputError(f"{where}: a line has no area. Use a polygon or a circle.", "zones")
        rings = [unwrapped([_corner(row, where) for row in ring]) for ring in coordinates]
        if any(len(set(ring)) < 3 for ring in rings):
            raise InputError(f"{where}: an outline needs at least three different corners.", "zones")
        crossed = [not _simple(ring) for ring in rings]
        if crossed[0]:
            notes.append("its outline crosses itself, so everything inside it counts.")
        if any(crossed[1:]):
            notes.append("a hole in it crosses itself and is not counted as a hole.")
        polygons.append((rings[0], *(ring for ring, bad in zip(rings[1:], crossed[1:], strict=True) if not bad)))
    return Zone(terms=terms, polygons=tuple(polygons)), notes


def _simple(ring: Ring) -> bool:
    import shapely

    return bool(shapely.LinearRing(ring).is_simple)
