"""Zones in the book: found by place through the index, replaced by name, dropped whole."""

import math
import random

import pyproj

from tests.support import NOW, WebCase
from walkround.core.airspace.reading import ZoneFile, read_zones
from walkround.core.airspace.rules import NEAR_M
from walkround.core.airspace.zone import Rule, Terms, Zone, unwrapped
from walkround.core.base.geodesy import Position
from walkround.core.field.site import Site
from walkround.simulators.notices import CONDITIONS, SimulatedNotices
from walkround.store import hangar, zones
from walkround.store.models import ZoneBoxRow, ZoneRow

GEOD = pyproj.Geod(ellps="WGS84")


def square(name: str, lat: float, lon: float, half_deg: float) -> Zone:
    ring = [
        (lon - half_deg, lat - half_deg),
        (lon + half_deg, lat - half_deg),
        (lon + half_deg, lat + half_deg),
        (lon - half_deg, lat + half_deg),
    ]
    wrapped = [((x + 180) % 360 - 180, y) for x, y in ring]
    return Zone(terms=Terms(name=name, rule=Rule.ASK), polygons=((unwrapped(wrapped),),))


class Zones(WebCase):
    def setUp(self) -> None:
        super().setUp()
        with self.app.state.ctx.book.write():
            for row in zones.sets():
                zones.drop(row.id)

    def keep(self, *found: Zone, name: str = "mine") -> None:
        with self.app.state.ctx.book.write():
            zones.keep(name, ZoneFile(zones=found, as_of=None, notes=()), NOW, service=False)

    def near(self, lat: float, lon: float, reach: float = 5_000) -> list[str]:
        return sorted(z.terms.name for z in zones.zones_near(Position(lat_deg=lat, lon_deg=lon), reach))

    def test_by_place_against_looking_at_every_one(self) -> None:
        """Whatever lies within reach is among those found; distances by PROJ's geodesic."""
        dice = random.Random(4)
        made = [
            square(f"z{i}", dice.uniform(-80, 80), dice.uniform(-180, 180), dice.uniform(0.001, 0.4))
            for i in range(800)
        ]
        self.keep(*made)
        for _ in range(25):
            here = Position(lat_deg=dice.uniform(-80, 80), lon_deg=dice.uniform(-180, 180))
            reach = dice.uniform(1_000, 400_000)
            found = set(self.near(here.lat_deg, here.lon_deg, reach))
            for zone in made:
                away = [GEOD.inv(here.lon_deg, here.lat_deg, lon, lat)[2] for lon, lat in zone.polygons[0][0]]
                if min(away) < reach and len(found) < zones.MOST_NEAR:
                    self.assertIn(zone.terms.name, found)

    def test_across_the_date_line_and_far_north(self) -> None:
        self.keep(square("fiji", -17, 179.99, 0.05), square("north", 84, 30, 0.01))
        for lon in (179.99, -179.98):
            self.assertEqual(self.near(-17, lon), ["fiji"])
        self.assertEqual(self.near(-17, 179.5), [])
        self.assertEqual(self.near(84, 30 + math.degrees(4000 / 6.37e6 / math.cos(math.radians(84)))), ["north"])

    def test_a_set_of_the_same_name_takes_the_place(self) -> None:
        self.keep(square("old", 48, 15, 0.01))
        self.keep(square("new", 48, 15, 0.01), name="MINE")
        self.assertEqual((self.near(48, 15), [s.count for s in zones.sets()]), (["new"], [1]))
        with self.app.state.ctx.book.write():
            zones.drop(zones.sets()[0].id)
        self.assertEqual((ZoneRow.select().count(), ZoneBoxRow.select().count()), (0, 0))

    def test_nothing_read_is_nothing_known(self) -> None:
        site = hangar.get(Site, self.numbers["Teasel Common"])
        self.assertIsNone(zones.airspace_at(site))
        self.keep(square("far", 10, 15, 0.01))
        known = zones.airspace_at(site)
        assert known is not None
        self.assertEqual(known.near, ())

    def test_every_condition_of_the_stand_in_can_be_read(self) -> None:
        site = hangar.get(Site, self.numbers["Teasel Common"])
        for condition in set(CONDITIONS) - {"silent"}:
            found = read_zones(SimulatedNotices(condition).zones(site.position, NOW))
            self.assertEqual(found.notes, (), condition)
            self.assertTrue(all(z.terms.name for z in found.zones))
            self.keep(*found.zones)
            known = zones.airspace_at(site)
            assert known is not None
            self.assertTrue(all(z.away_m <= NEAR_M for z in known.near))
