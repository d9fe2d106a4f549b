"""Measure the field: zones among 20,000, and the plan with 200 things while it is dragged."""

import json
import math
import random
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page, expect

from scripts.bench.rows import timed, undisturbed
from tests.browser.support import MORNING, Server
from walkround.core.airspace.reading import ZoneFile
from walkround.core.airspace.rules import judge_airspace
from walkround.core.airspace.zone import Rule, Terms, Zone
from walkround.core.base.geodesy import Position, from_plane
from walkround.core.field.glare import session
from walkround.core.field.site import Site
from walkround.core.field.spots import better_launch
from walkround.demo.scenario import MEADOW, QUAY
from walkround.store import zones
from walkround.store.book import Book

ZONES, THINGS = 20_000, 200
MIDDLE = Position(lat_deg=48.0, lon_deg=15.0)


def _zone(dice: random.Random, number: int) -> Zone:
    """A polygon of 5 to 60 corners, some hundred metres to some kilometres wide, over some 600 km by 450 km."""
    lat, lon = MIDDLE.lat_deg + dice.uniform(-2, 2), MIDDLE.lon_deg + dice.uniform(-4, 4)
    corners, size = dice.randint(5, 60), dice.uniform(0.002, 0.06)
    ring = []
    for k in range(corners):
        angle, share = 2 * math.pi * k / corners, dice.uniform(0.6, 1)
        ring.append((lon + size * 1.5 * share * math.sin(angle), lat + size * share * math.cos(angle)))
    return Zone(terms=Terms(name=f"zone {number}", rule=Rule.ASK), polygons=((tuple(ring),),))


def zones_ms(folder: Path) -> list[float]:
    """Everything the zones say for a flight, 20,000 of them in the book, somewhere else each time: asked, read, judged."""
    dice, book = random.Random(8), Book(folder)
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    found = ZoneFile(zones=tuple(_zone(dice, i) for i in range(ZONES)), as_of=now, notes=())
    with book.write():
        zones.keep("all", found, now, service=False)
    times = []
    for _ in range(80):
        place = Position(
            lat_deg=MIDDLE.lat_deg + dice.uniform(-1.8, 1.8), lon_deg=MIDDLE.lon_deg + dice.uniform(-3.8, 3.8)
        )
        site = MEADOW.model_copy(update={"position": place})
        times.append(timed(lambda site=site: _asked_and_judged(site, now)))
    book.close()
    return times[10:]


def _asked_and_judged(site: Site, now: datetime) -> None:
    known = zones.airspace_at(site)
    if known is None:
        raise RuntimeError("the zones are gone")
    judge_airspace(known, site, top_m=50, begin=now, end=now)


def plan_file() -> str:
    """A plan of 200 things as GeoJSON: trees, wires and buildings over half a kilometre."""
    dice, features = random.Random(9), []
    for i in range(THINGS):
        kind = ("tree", "wire", "building", "row of trees")[i % 4]
        east, north = dice.uniform(-280, 280), dice.uniform(-280, 280)
        shape = {
            "tree": [(0, 0)],
            "wire": [(0, 0), (40, 12), (80, 30)],
            "row of trees": [(0, 0), (30, -8)],
            "building": [(0, 0), (12, 0), (12, 9), (0, 9), (0, 0)],
        }[kind]
        places = [from_plane(QUAY.position, (east + x, north + y)) for x, y in shape]
        degrees = [[p.lon_deg, p.lat_deg] for p in places]
        geometry: dict[str, object] = {"type": "LineString", "coordinates": degrees}
        if kind == "tree":
            geometry = {"type": "Point", "coordinates": degrees[0]}
        elif kind == "building":
            geometry = {"type": "Polygon", "coordinates": [degrees]}
        features.append({"type": "Feature", "geometry": geometry, "properties": {"kind": kind, "height_m": 8}})
    return json.dumps({"type": "FeatureCollection", "features": features})


def frames_ms(page: Page, server: Server) -> dict[str, Sequence[float]]:
    """Times between frames while the plan of field 2 is dragged, while one thing of it is, and while it is zoomed."""
    page.goto(f"{server.base}/fields/2")
    page.wait_for_selector(".plan-svg[data-mpp]")
    page.evaluate(
        """() => { window.frames_ = []; const note = (t) => { window.frames_.push(t); requestAnimationFrame(note); };
        requestAnimationFrame(note); }"""
    )
    box = page.locator(".plan-map").bounding_box()
    if box is None:
        raise RuntimeError("no plan is shown")
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)

    def dragged(x: float, y: float) -> list[float]:
        page.mouse.move(x, y)
        page.mouse.down()
        page.evaluate("window.frames_.length = 0")
        for i in range(120):
            page.mouse.move(x + 90 * math.sin(i / 12), y + 60 * math.sin(i / 7))
        times = page.evaluate("window.frames_.slice()")
        page.mouse.up()
        return [b - a for a, b in zip(times, times[1:], strict=False)]

    found: dict[str, Sequence[float]] = {
        "Plan with 200 things dragged, frame": dragged(middle[0] + 170, middle[1] + 220)
    }
    page.locator('[data-thing="m9"] .grip').focus()
    page.keyboard.press("Enter")
    page.wait_for_selector('[data-thing="m9"].held')
    page.evaluate("window.frames_.length = 0")
    for _ in range(12):
        page.mouse.move(*middle)
        page.click("[data-zoom=in]")
        page.click("[data-zoom=out]")
    times = page.evaluate("window.frames_.slice()")
    found["Plan with 200 things zoomed, frame"] = [b - a for a, b in zip(times, times[1:], strict=False)]

    def thing_dragged() -> Sequence[float]:
        expect(page.locator('[data-thing="m9"] .grip')).to_have_count(1)  # where it was put before is saved
        thing = page.locator('[data-thing="m9"] .grip').bounding_box()
        if thing is None:
            raise RuntimeError("the thing in hand is not seen")
        return dragged(thing["x"] + thing["width"] / 2, thing["y"] + thing["height"] / 2)

    found["One of 200 things dragged, frame"] = undisturbed(thing_dragged)
    return found


def launch_ms() -> tuple[list[float], list[float]]:
    """A better launch spot, and the sun over a session with its cures."""
    now = datetime.fromisoformat(MORNING).astimezone(UTC)

    spots = [timed(lambda: better_launch(MEADOW, 110)) for _ in range(12)][2:]
    suns = [timed(lambda: session(MEADOW, now, 60)) for _ in range(40)][5:]
    return spots, suns
