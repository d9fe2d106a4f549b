"""Zones of airspace: kept in sets, found by place through an index over their boxes."""

import math
from datetime import datetime
from functools import lru_cache
from typing import Any

from peewee import Select, fn

from walkround.core.airspace.reading import ZoneFile
from walkround.core.airspace.rules import NEAR_M, Airspace
from walkround.core.airspace.zone import METRES_A_DEGREE, Zone, nearby
from walkround.core.base.geodesy import Position
from walkround.core.base.kept import Same
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.store.models import ZoneBoxRow, ZoneRow, ZoneSetRow
from walkround.store.statements import prepared, until_changed

BATCH = 150
MOST_NEAR = 200
"""So many zones near one field are looked at; more than that is no field. Source: our choice."""


class ZoneSet(Struct, frozen=True, kw_only=True):
    """A set of zones as listed: when it was read and what time it speaks of, aware; how many zones it holds."""

    id: int
    name: str
    service: bool
    read_at: datetime
    as_of: datetime | None
    count: int


def keep(name: str, found: ZoneFile, at: datetime, *, service: bool) -> None:
    """Keep a set of zones in place of the one of the same name. Runs inside the caller's transaction."""
    drop_named(name)
    made = ZoneSetRow.create(name=name, service=service, read_at=at, as_of=found.as_of)
    last = ZoneRow.select().order_by(ZoneRow.id.desc()).first()
    begin = (last.id if last else 0) + 1
    rows = [{"id": begin + i, "set": made.id, "spec": zone.model_dump_json()} for i, zone in enumerate(found.zones)]
    boxes = []
    for i, zone in enumerate(found.zones):
        west, east, south, north = zone.box()
        boxes.append({"id": begin + i, "min_lon": west, "max_lon": east, "min_lat": south, "max_lat": north})
    for start in range(0, len(rows), BATCH):
        ZoneRow.insert_many(rows[start : start + BATCH]).execute()
        ZoneBoxRow.insert_many(boxes[start : start + BATCH]).execute()


def drop(set_id: int) -> None:
    """Forget a set of zones. Runs inside the caller's transaction."""
    inside = ZoneRow.select(ZoneRow.id).where(ZoneRow.set == set_id)
    ZoneBoxRow.delete().where(ZoneBoxRow.id.in_(inside)).execute()
    ZoneRow.delete().where(ZoneRow.set == set_id).execute()
    ZoneSetRow.delete().where(ZoneSetRow.id == set_id).execute()


def drop_named(name: str) -> None:
    """Forget the set of that name, if there is one."""
    row = ZoneSetRow.get_or_none(ZoneSetRow.name == name)
    if row is not None:
        drop(row.id)


def sets() -> list[ZoneSet]:
    """All sets, the service's first."""
    return [
        ZoneSet(id=number, name=name, service=service, read_at=read_at, as_of=as_of, count=count)
        for number, name, service, read_at, as_of, count in _listed()
    ]


@prepared
def _listed() -> Select:
    s = ZoneSetRow
    inside = ZoneRow.select(fn.COUNT(ZoneRow.id)).where(ZoneRow.set == s.id)
    return s.select(s.id, s.name, s.service, s.read_at, s.as_of, inside).order_by(s.service.desc(), s.name)


_BOX = "SELECT id FROM zone_box WHERE max_lat >= ? AND min_lat <= ? AND max_lon >= ? AND min_lon <= ?"
NEAR_SQL = f"SELECT spec FROM zone WHERE id IN ({_BOX} UNION {_BOX} UNION {_BOX}) LIMIT ?"
"""One question for each turn of the globe, since each must be answered from the index."""


@lru_cache(maxsize=2048)
def _zone(spec: str) -> Zone:
    return Zone.model_validate_json(spec)


@until_changed
def zones_near(place: Position, reach_m: float) -> tuple[Zone, ...]:
    """Zones whose box comes within so many m of a place, whichever turn of the globe their longitudes count."""
    up = reach_m / (METRES_A_DEGREE * 0.99)
    wide = min(180.0, up / max(0.01, math.cos(math.radians(min(89.0, abs(place.lat_deg) + up)))))
    west, east = place.lon_deg - wide, place.lon_deg + wide
    asked = [
        v for turn in (-360.0, 0.0, 360.0) for v in (place.lat_deg - up, place.lat_deg + up, west + turn, east + turn)
    ]
    rows = ZoneRow._meta.database.execute_sql(NEAR_SQL, (*asked, MOST_NEAR))
    return tuple(_zone(spec) for (spec,) in rows.fetchall())


def airspace_at(site: Site) -> Airspace | None:
    """What is known of the airspace at a field, nearest first; None where no zones were ever read."""
    known = _sets()
    if not known:
        return None
    return _airspace(Same(site, *zones_near(site.position, NEAR_M + site.reach_m)), tuple(known))


@lru_cache(maxsize=64)
def _airspace(there: Same, known: tuple[tuple[Any, ...], ...]) -> Airspace:
    """A field and the zones that come near it, looked at; the same from the same."""
    site, *zones = there.things
    area = site.flight_polygon()
    found = [nearby(zone, site.position, site.launch.xy, area, NEAR_M) for zone in zones]
    near = sorted((one for one in found if one is not None), key=lambda one: one.away_m)
    return Airspace(
        near=tuple(near), sets=tuple((name, as_of or read_at, service) for name, as_of, read_at, service in known)
    )


@prepared
def _sets() -> Select:
    return ZoneSetRow.select(ZoneSetRow.name, ZoneSetRow.as_of, ZoneSetRow.read_at, ZoneSetRow.service)
