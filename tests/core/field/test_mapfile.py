"""Plans as GeoJSON and GPX: positions against PROJ, round trips, other people's files, and broken ones."""

import json
import math
import unittest

import gpxpy
import pyproj
from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE
from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position, from_plane, to_plane
from walkround.core.field import field_editor, mapfile
from walkround.core.field.marks import MarkKind
from walkround.core.field.site import Site
from walkround.demo.scenario import MEADOW, QUAY

BARE = SITE.model_copy(update={"marks": ()})
GEOD = pyproj.Geod(ellps="WGS84")


def feature(geometry: dict | None, **properties: object) -> dict:  # type: ignore[type-arg]
    return {"type": "Feature", "geometry": geometry, "properties": properties}


def collection(*features: dict) -> str:  # type: ignore[type-arg]
    return json.dumps({"type": "FeatureCollection", "features": features})


class Plane(unittest.TestCase):
    @given(st.floats(-85, 85), st.floats(-180, 180), st.floats(-5000, 5000), st.floats(-5000, 5000))
    def test_against_proj(self, lat: float, lon: float, east: float, north: float) -> None:
        """PROJ's azimuthal equidistant projection about the field gives the same east and north, date line included."""
        here = Position(lat_deg=lat, lon_deg=lon)
        place = from_plane(here, (east, north))
        flat = pyproj.Proj(proj="aeqd", lat_0=lat, lon_0=lon, ellps="WGS84")
        x, y = flat(place.lon_deg, place.lat_deg)
        self.assertAlmostEqual(x, east, delta=0.002)
        self.assertAlmostEqual(y, north, delta=0.002)
        back = to_plane(here, place)
        self.assertAlmostEqual(back[0], east, delta=0.001)
        self.assertAlmostEqual(back[1], north, delta=0.001)


class RoundTrip(unittest.TestCase):
    def same(self, site: Site, text: str) -> None:
        bare = site.model_copy(update={"marks": (), "flight_area": (), "spectator_line": (), "pilot": None})
        back = mapfile.laid_in(bare, mapfile.read_map(text, bare), MarkKind.HAZARD)
        self.assertEqual(len(back.marks), len(site.marks))
        for was, now in zip(*(sorted(s.marks, key=lambda m: (m.kind, m.name)) for s in (site, back)), strict=True):
            self.assertEqual(
                (was.kind, was.name, was.height_m, was.radius_m), (now.kind, now.name, now.height_m, now.radius_m)
            )
            self.assertEqual(len(was.spots), len(now.spots))
            self.assertAlmostEqual(was.nearest((0, 0))[0], now.nearest((0, 0))[0], delta=0.05)
        for key in (field_editor.FLIGHT_AREA, field_editor.SPECTATOR_LINE, field_editor.PILOT):
            self.assertEqual(len(field_editor.spots_of(site, key)), len(field_editor.spots_of(back, key)), key)

    def test_both_formats_keep_everything(self) -> None:
        for site in (MEADOW, QUAY):
            self.same(site, mapfile.geojson(site))
            self.same(site, mapfile.gpx(site))

    def test_what_leaves_is_what_the_standards_ask(self) -> None:
        """RFC 7946: longitude first, rings closed and counter-clockwise. GPX 1.1 read by its own library."""
        data = json.loads(mapfile.geojson(MEADOW))
        by_kind = {f["properties"]["kind"]: f for f in data["features"]}
        ring = by_kind["water"]["geometry"]["coordinates"][0]
        self.assertEqual(ring[0], ring[-1])
        area, _ = GEOD.polygon_area_perimeter([p[0] for p in ring], [p[1] for p in ring])
        self.assertGreater(area, 0, "counter-clockwise")
        pear = by_kind["tree"]["geometry"]["coordinates"]
        bearing, _, away = GEOD.inv(MEADOW.position.lon_deg, MEADOW.position.lat_deg, *pear)
        self.assertAlmostEqual(away, math.hypot(118, 40), delta=0.02)
        self.assertAlmostEqual(bearing % 360, 360 - math.degrees(math.atan2(118, 40)), delta=0.01)
        parsed = gpxpy.parse(mapfile.gpx(MEADOW))
        self.assertEqual({p.type for p in parsed.waypoints}, {"launch point", "pilot's position", "tree", "hazard"})
        self.assertEqual(len(parsed.routes), 8)


class Reading(unittest.TestCase):
    def test_files_of_others(self) -> None:
        point = {"type": "Point", "coordinates": [15.301, 48.201]}
        line = {"type": "LineString", "coordinates": [[15.3, 48.2], [15.301, 48.2]]}
        many = {"type": "MultiPoint", "coordinates": [[15.3, 48.2], [15.3005, 48.2]]}
        group = {"type": "GeometryCollection", "geometries": [point, line]}
        rows = (
            ("no kind, as a hazard", collection(feature(point)), 1),
            ("many points", collection(feature(many, kind="tree", height_m="7.5")), 2),
            ("a collection of geometries", collection(feature(group, kind="Fence")), 2),
            ("a single feature", json.dumps(feature(line, kind="wire"))),
            ("byte order mark", "\ufeff" + collection(feature(point, kind="mast")), 1),
            ("no properties", collection({**feature(point), "properties": None}), 1),
        )
        for name, text, *count in rows:
            with self.subTest(name):
                found = mapfile.read_map(text, BARE)
                self.assertEqual(len(found), *(count or [1]))
                mapfile.laid_in(BARE, found, MarkKind.FENCE)

    def test_a_track_walked_along_a_hedge(self) -> None:
        text = """<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>hedge</name>
        <trkseg><trkpt lat="48.2000" lon="15.3000"/><trkpt lat="48.2002" lon="15.3003"/><trkpt lat="48.2005" lon="15.3004"/></trkseg></trk></gpx>"""
        site = mapfile.laid_in(BARE, mapfile.read_map(text, BARE), MarkKind.TREES)
        self.assertEqual((site.marks[0].name, len(site.marks[0].spots)), ("hedge", 3))
        _, _, away = GEOD.inv(15.3, 48.2, 15.3004, 48.2005)
        self.assertAlmostEqual(
            site.marks[0].spots[2].east_m ** 2 + site.marks[0].spots[2].north_m ** 2, away**2, delta=3
        )

    def test_broken_files(self) -> None:
        far = {"type": "Point", "coordinates": [16.9, 48.2]}
        swapped = {"type": "Point", "coordinates": [48.2, 15.3]}
        open_ring = {"type": "Polygon", "coordinates": [[[15.3, 48.2], [15.31, 48.2], [15.31, 48.21]]]}
        crossed = {
            "type": "Polygon",
            "coordinates": [[[15.3, 48.2], [15.301, 48.201], [15.301, 48.2], [15.3, 48.201], [15.3, 48.2]]],
        }
        rows = (
            ("", "empty"),
            ("{", "not GeoJSON: it breaks off in line 1"),
            ("[1, 2]", "That is not GeoJSON: it needs a FeatureCollection with a list of"),
            ('{"type": "FeatureCollection"}', "list of features"),
            (collection(), "no point, line or outline"),
            (collection({"type": "Thing"}), "Feature 1 is not a feature"),
            (collection(feature(None)), "geometry"),
            (collection(feature({"type": "Circle", "coordinates": [1, 2]})), "geometry"),
            (collection(feature({"type": "Point", "coordinates": ["a", "b"]})), "not a position"),
            (collection(feature({"type": "Point", "coordinates": [15, 95]})), "is not a place on earth"),
            (collection(feature(far)), "119 km from this field"),
            (collection(feature(swapped)), "Latitude and longitude seem to be swapped in this file"),
            (collection(feature(open_ring)), "an outline needs at least four positions, the last the same as the"),
            (collection(feature(crossed, kind="water")), "crosses itself"),
            (collection(feature({"type": "Point", "coordinates": [15.3, 48.2]}, height_m="tall")), "is not a number"),
            (
                collection(feature({"type": "Point", "coordinates": [15.3, 48.2]}, kind="tree", height_m=900)),
                "Feature 1 of the file",
            ),
            ("<gpx", "not a GPX file"),
            (
                '<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "b">]><gpx/>',
                "That file declares entities, which a GPX file must not contain",
            ),
            ("<html></html>", "not a GPX file"),
            (" " * 2_000_001, "larger than 2 MB"),
        )
        for text, words in rows:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                mapfile.laid_in(BARE, mapfile.read_map(text, BARE), MarkKind.TREE)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "map")
