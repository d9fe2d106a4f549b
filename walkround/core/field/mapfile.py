"""The plan of a field as GeoJSON and as GPX, out and in."""

import json
import math
from collections.abc import Iterator
from typing import Any

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position, from_plane, to_plane
from walkround.core.base.plain import read_json, where_broken
from walkround.core.base.struct import Struct
from walkround.core.field import field_editor, planar_geometry
from walkround.core.field.marks import NATURES, REACH_M, MarkKind, MarkShape
from walkround.core.field.site import Site

MOST_BYTES = 2_000_000
PLACES = 7
"""Decimals of a degree written: a centimetre. Source: RFC 7946, section 11.2, on how many make sense."""
_KEYS = {words: key for key, words in field_editor.WORDS.items()}
_KINDS = {kind.value: kind for kind in MarkKind}


class Found(Struct, frozen=True, kw_only=True):
    """One thing of a file: its key (launch, pilot, box, crowd) or its kind; points in m; top and radius in m, None unknown."""

    key: str = ""
    kind: MarkKind | None = None
    points: tuple[planar_geometry.Point, ...]
    line: bool = False
    height_m: float | None = None
    radius_m: float | None = None
    name: str = ""


def _features(site: Site) -> Iterator[tuple[str, str, MarkShape, list[planar_geometry.Point], dict[str, Any]]]:
    """Everything on the plan: words, name, shape, points in m, properties."""
    yield field_editor.WORDS[field_editor.LAUNCH], "", MarkShape.POINT, [site.launch.xy], {}
    if site.pilot:
        yield field_editor.WORDS[field_editor.PILOT], "", MarkShape.POINT, [site.pilot.xy], {}
    if site.flight_area:
        yield (
            field_editor.WORDS[field_editor.FLIGHT_AREA],
            "",
            MarkShape.AREA,
            [s.xy for s in site.flight_area],
            {"height_m": site.flight_height_m},
        )
    if site.spectator_line:
        yield (
            field_editor.WORDS[field_editor.SPECTATOR_LINE],
            "",
            MarkShape.LINE,
            [s.xy for s in site.spectator_line],
            {},
        )
    for mark in site.marks:
        shape = MarkShape.AREA if mark.closed else MarkShape.LINE if len(mark.spots) > 1 else MarkShape.POINT
        properties: dict[str, Any] = {"height_m": mark.height_m} if mark.height_m else {}
        if mark.radius_m:
            properties["radius_m"] = mark.radius_m
        yield mark.kind.value, mark.name, shape, mark.points, properties


def geojson(site: Site) -> str:
    """The plan as GeoJSON: positions in degrees, heights and radii in m as properties, outlines counter-clockwise.

    Source: RFC 7946.
    """

    def degrees(points: list[planar_geometry.Point]) -> list[list[float]]:
        places = [from_plane(site.position, p) for p in points]
        return [[round(p.lon_deg, PLACES), round(p.lat_deg, PLACES)] for p in places]

    features = []
    for words, name, shape, points, properties in _features(site):
        if shape is MarkShape.POINT:
            geometry: dict[str, Any] = {"type": "Point", "coordinates": degrees(points)[0]}
        elif shape is MarkShape.LINE:
            geometry = {"type": "LineString", "coordinates": degrees(points)}
        else:
            area = sum(a[0] * b[1] - b[0] * a[1] for a, b in planar_geometry.segments(points, closed=True))
            ring = degrees(points if area > 0 else points[::-1])
            geometry = {"type": "Polygon", "coordinates": [[*ring, ring[0]]]}
        named = {"name": name} if name else {}
        features.append({"type": "Feature", "geometry": geometry, "properties": {"kind": words, **named, **properties}})
    return json.dumps({"type": "FeatureCollection", "name": site.name, "features": features}, indent=1)


def gpx(site: Site) -> str:
    """The plan as GPX 1.1: spots as waypoints, lines and outlines as routes, what they are as their type; degrees.

    Heights and radii in m stand in the comment. Source: GPX 1.1 schema, through gpxpy.
    """
    import gpxpy.gpx

    out = gpxpy.gpx.GPX()
    out.name = site.name
    for words, name, shape, points, properties in _features(site):
        places = [from_plane(site.position, p) for p in points]
        comment = " ".join(f"{key}={value:g}" for key, value in properties.items())
        where = [(round(p.lat_deg, PLACES), round(p.lon_deg, PLACES)) for p in places]
        if shape is MarkShape.POINT:
            lat, lon = where[0]
            point = gpxpy.gpx.GPXWaypoint(lat, lon, name=name or words, type=words, comment=comment or None)
            out.waypoints.append(point)
            continue
        route = gpxpy.gpx.GPXRoute(name=name or words)
        route.type, route.comment = words, comment or None
        closed = [*where, where[0]] if shape is MarkShape.AREA else where
        route.points = [gpxpy.gpx.GPXRoutePoint(lat, lon) for lat, lon in closed]
        out.routes.append(route)
    return str(out.to_xml(version="1.1"))


def read_map(text: str, site: Site) -> tuple[Found, ...]:
    """What a GeoJSON or GPX file holds, in m from the field's position.

    Raises InputError in words: what cannot be read and where, what lies too far away, with the swap of latitude and
    longitude named where it would help. Source: RFC 7946; GPX 1.1.
    """
    if len(text) > MOST_BYTES:
        raise InputError(f"That file is larger than {MOST_BYTES / 1e6:g} MB. A plan needs far less.", "map")
    if not text.strip():
        raise InputError("The file is empty.", "map")
    found = tuple(_from_gpx(text, site) if text.lstrip("\ufeff \r\n\t").startswith("<") else _from_geojson(text, site))
    if not found:
        raise InputError("The file has no point, line or outline.", "map")
    return found


def laid_in(site: Site, found: tuple[Found, ...], otherwise: MarkKind) -> Site:
    """The field with all that a file holds; what has no kind of its own is taken as ``otherwise``; m throughout.

    All or nothing: raises InputError naming the thing that is not plausible.
    """
    for number, one in enumerate(found, 1):
        try:
            if one.key:
                site = field_editor.laid(site, one.key, one.points)
                continue
            kind, nature = one.kind or otherwise, NATURES[one.kind or otherwise]
            points = list(one.points)
            if nature.shape is MarkShape.POINT and len(points) > 1:
                raise InputError(f"a {kind.value} is a single place, not a line or an area.", "map")
            tall = nature.usual_m if one.height_m is None else one.height_m
            site = field_editor.added(site, kind, points, tall, one.radius_m or 0.0, one.name)
        except InputError as error:
            raise InputError(
                f"Feature {number} of the file, {one.name or one.key or one.kind or otherwise}: {error.message}", "map"
            ) from error
    return site


def _point(lon: Any, lat: Any, where: str, site: Site) -> planar_geometry.Point:
    try:
        lat_deg, lon_deg = float(lat), float(lon)
    except (TypeError, ValueError) as error:
        raise InputError(f"{where}: “{str(lat)[:12]}, {str(lon)[:12]}” is not a position.", "map") from error
    if not (math.isfinite(lat_deg) and math.isfinite(lon_deg) and abs(lat_deg) <= 90 and abs(lon_deg) <= 540):
        raise InputError(f"{where}: latitude {lat_deg:g}, longitude {lon_deg:g} is not a place on earth.", "map")
    east, north = to_plane(site.position, Position(lat_deg=lat_deg, lon_deg=lon_deg))
    if math.hypot(east, north) > REACH_M:
        hint = ""
        if abs(lon_deg) <= 90:
            swapped = to_plane(site.position, Position(lat_deg=lon_deg, lon_deg=lat_deg))
            hint = " Latitude and longitude seem to be swapped in this file." if math.hypot(*swapped) <= REACH_M else ""
        raise InputError(
            f"{where} lies {math.hypot(east, north) / 1000:,.0f} km from this field; the plan reaches {REACH_M / 1000:g} km.{hint}",
            "map",
        )
    return (east, north)


def _sized(properties: dict[str, Any], name: str, where: str) -> float | None:
    value = properties.get(name)
    if value is None or value == "":
        return None
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        raise InputError(f"{where}: {name} is not a number.", "map")
    try:
        number = float(value)
    except ValueError as error:
        raise InputError(f"{where}: {name} “{str(value)[:12]}” is not a number.", "map") from error
    if not (math.isfinite(number) and 0 <= number <= 2_000):
        raise InputError(f"{where}: {name} {number:g} is not plausible.", "map")
    return number


def _named(
    words: str, properties: dict[str, Any], where: str, points: list[planar_geometry.Point], *, line: bool
) -> Found:
    closed = len(points) > 3 and math.dist(points[0], points[-1]) < 0.01
    points = points[:-1] if closed else points
    key = _KEYS.get(words, "")
    return Found(
        key=key,
        kind=None if key else _KINDS.get(words),
        points=tuple(points),
        line=line and not closed,
        height_m=_sized(properties, "height_m", where),
        radius_m=_sized(properties, "radius_m", where),
        name="" if str(properties.get("name") or "") in ("", words) else " ".join(str(properties["name"]).split())[:60],
    )


def _from_geojson(text: str, site: Site) -> Iterator[Found]:
    features = read_collection(text, "map")["features"]
    for number, feature in enumerate(features, 1):
        where = f"Feature {number}"
        properties = feature.get("properties") or {}
        if not isinstance(properties, dict):
            raise InputError(f"{where}: its properties are not an object.", "map")
        words = str(properties.get("kind") or "").strip().lower()
        for shape, coordinates in parts_of(feature.get("geometry"), where, "map"):
            rows = [coordinates] if shape == "Point" else coordinates[0] if shape == "Polygon" else coordinates
            points = [_point(*_pair(row, where), where, site) for row in rows]
            yield _named(words, properties, where, points, line=shape == "LineString")


def read_collection(text: str, field: str) -> dict[str, Any]:
    """A GeoJSON text as a collection with its features, without unit. Raises InputError under ``field``: no JSON and where,
    no GeoJSON.

    Source: RFC 7946, sections 3.2 and 3.3.
    """
    data = read_json(text, f"That is not GeoJSON: it breaks off in line {where_broken(text)}.", field)
    if isinstance(data, dict) and data.get("type") == "Feature":
        data = {"type": "FeatureCollection", "features": [data]}
    if (
        not isinstance(data, dict)
        or data.get("type") != "FeatureCollection"
        or not isinstance(data.get("features"), list)
    ):
        raise InputError("That is not GeoJSON: it needs a FeatureCollection with a list of features.", field)
    for number, feature in enumerate(data["features"], 1):
        if not isinstance(feature, dict) or feature.get("type") != "Feature":
            raise InputError(f"Feature {number} is not a feature.", field)
    return data


_MANY = {"MultiPoint": "Point", "MultiLineString": "LineString", "MultiPolygon": "Polygon"}


def parts_of(geometry: Any, where: str, field: str) -> list[tuple[str, list[Any]]]:
    """A geometry as simple parts, "Point", "LineString" or "Polygon" each with its coordinates in degrees.

    Raises InputError under ``field``. Source: RFC 7946, section 3.1.
    """
    if not isinstance(geometry, dict):
        raise InputError(f"{where} has no geometry.", field)
    kind, coordinates = geometry.get("type"), geometry.get("coordinates")
    if kind == "GeometryCollection":
        inner = geometry.get("geometries")
        if not isinstance(inner, list):
            raise InputError(f"{where} has no geometry.", field)
        return [
            part
            for one in inner
            if isinstance(one, dict) and one.get("type") != kind
            for part in parts_of(one, where, field)
        ]
    if not isinstance(coordinates, list) or not coordinates:
        raise InputError(f"{where} has no coordinates.", field)
    parts = [(_MANY[str(kind)], one) for one in coordinates] if kind in _MANY else [(str(kind), coordinates)]
    for shape, one in parts:
        if shape not in ("Point", "LineString", "Polygon"):
            raise InputError(f"{where}: “{str(kind)[:20]}” is not a geometry.", field)
        least = {"Point": 2, "LineString": 2, "Polygon": 1}[shape]
        if not isinstance(one, list) or len(one) < least:
            raise InputError(f"{where} has too few coordinates.", field)
        if shape == "Polygon" and any(
            not isinstance(ring, list) or len(ring) < 4 or ring[0] != ring[-1] for ring in one
        ):
            raise InputError(
                f"{where}: an outline needs at least four positions, the last the same as the first.", field
            )
    return parts


def _pair(row: Any, where: str) -> tuple[Any, Any]:
    if not isinstance(row, list) or len(row) < 2:
        raise InputError(f"{where}: a position needs a longitude and a latitude.", "map")
    return row[0], row[1]


def _from_gpx(text: str, site: Site) -> Iterator[Found]:
    import gpxpy
    import gpxpy.gpx

    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        raise InputError("That file declares entities, which a GPX file must not contain.", "map")
    if "<gpx" not in text:
        raise InputError("That is not a GPX file.", "map")
    try:
        data = gpxpy.parse(text)
    except (gpxpy.gpx.GPXException, ValueError, AttributeError) as error:
        raise InputError("That is not a GPX file: it could not be read to its end.", "map") from error
    for number, point in enumerate(data.waypoints, 1):
        where = f"Waypoint {number}"
        at = _point(point.longitude, point.latitude, where, site)
        yield _named(
            str(point.type or "").lower(), {"name": point.name, **_comment(point.comment)}, where, [at], line=False
        )
    lines: list[tuple[str, Any, list[Any]]] = [
        (f"Route {i}", route, list(route.points)) for i, route in enumerate(data.routes, 1)
    ]
    lines += [
        (f"Track {i}", track, list(segment.points))
        for i, track in enumerate(data.tracks, 1)
        for segment in track.segments
    ]
    for where, line, points in lines:
        if points:
            places = [_point(p.longitude, p.latitude, where, site) for p in points]
            yield _named(
                str(line.type or "").lower(), {"name": line.name, **_comment(line.comment)}, where, places, line=True
            )


def _comment(text: str | None) -> dict[str, str]:
    """Heights and radii that our own files keep in the comment."""
    pairs = (part.partition("=") for part in (text or "").split())
    return {key: value for key, _, value in pairs if key in ("height_m", "radius_m")}
