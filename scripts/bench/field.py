"""Measure the field: zones among 20,000, and the plan with 200 things while it is dragged."""

import json
import math
import random
import statistics
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page, expect

from scripts.bench.rows import MOST, Thefts, timed
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

ZONES, THINGS, FRAMES = 20_000, 200, 60
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


NOTE = """() => { window.frames_ = []; const note = (t) => { window.frames_.push(t + performance.timeOrigin); requestAnimationFrame(note); };
requestAnimationFrame(note); }"""


class Frames:
    """Times between frames of a page while something goes on, those from which no processor time was stolen: a row of them is as long as its
    longest."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.thefts = Thefts()
        self.seen, self.kept_ms = 0, list[float]()

    def begin(self) -> None:
        """From here on frames count."""
        self.thefts.look()
        self.page.evaluate("window.frames_.length = 0")

    def end(self) -> None:
        """Up to here they did."""
        moments: list[float] = self.page.evaluate("window.frames_.slice()")
        for _ in range(2):
            self.thefts.look()
        for a, b in zip(moments, moments[1:], strict=False):
            self.seen += 1
            if not self.thefts.any_in(a / 1000, b / 1000):
                self.kept_ms.append(b - a)

    def spread_ms(self) -> tuple[float, float]:
        """Median and longest; without end where none was kept."""
        return (statistics.median(self.kept_ms), max(self.kept_ms)) if self.kept_ms else (math.inf, math.inf)

    def repeat(self, action: Callable[[], None]) -> None:
        """An action that begins and ends, again and again until enough frames are kept."""
        for _ in range(MOST):
            action()
            if len(self.kept_ms) >= FRAMES:
                return


def frames_of(page: Page, server: Server) -> dict[str, Frames]:
    """Frames while the plan of field 2 is dragged, while one thing of it is, and while it is zoomed."""
    page.goto(f"{server.base}/fields/2")
    page.wait_for_selector(".plan-svg[data-mpp]")
    page.evaluate(NOTE)
    box = page.locator(".plan-map").bounding_box()
    if box is None:
        raise RuntimeError("no plan is shown")
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    whole, zoomed, one = Frames(page), Frames(page), Frames(page)

    def dragged(frames: Frames, x: float, y: float) -> None:
        page.mouse.move(x, y)
        page.mouse.down()
        frames.begin()
        for i in range(120):
            page.mouse.move(x + 90 * math.sin(i / 12), y + 60 * math.sin(i / 7))
            frames.thefts.look()
        frames.end()
        if frames is whole:  # back to where it was, for the next time
            page.mouse.move(x, y)
        page.mouse.up()

    def thing_dragged() -> None:
        expect(page.locator('[data-thing="m9"] .grip')).to_have_count(1)  # where it was put before is saved
        thing = page.locator('[data-thing="m9"] .grip').bounding_box()
        if thing is None:
            raise RuntimeError("the thing in hand is not seen")
        dragged(one, thing["x"] + thing["width"] / 2, thing["y"] + thing["height"] / 2)

    def zooms() -> None:
        zoomed.begin()
        for _ in range(12):
            page.mouse.move(*middle)
            page.click("[data-zoom=in]")
            zoomed.thefts.look()
            page.click("[data-zoom=out]")
            zoomed.thefts.look()
        zoomed.end()

    whole.repeat(lambda: dragged(whole, middle[0] + 170, middle[1] + 220))
    page.locator('[data-thing="m9"] .grip').focus()
    page.keyboard.press("Enter")
    page.wait_for_selector('[data-thing="m9"].held')
    zoomed.repeat(zooms)
    one.repeat(thing_dragged)
    return {
        "Plan with 200 things dragged, frame": whole,
        "Plan with 200 things zoomed, frame": zoomed,
        "One of 200 things dragged, frame": one,
    }


def launch_ms() -> tuple[list[float], list[float]]:
    """A better launch spot, and the sun over a session with its cures."""
    now = datetime.fromisoformat(MORNING).astimezone(UTC)

    spots = [timed(lambda: better_launch(MEADOW, 110)) for _ in range(12)][2:]
    suns = [timed(lambda: session(MEADOW, now, 60)) for _ in range(40)][5:]
    return spots, suns
