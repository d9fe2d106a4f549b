"""Measure what the design promises, print the table, write docs/performance.md. A benchmark, never a test."""

import gzip
import http.client
import platform
import random
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.parse
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from itertools import islice
from pathlib import Path
from zoneinfo import ZoneInfo

from playwright.sync_api import Page, sync_playwright

from scripts import bench_field
from tests.browser.support import CHROMIUM, FLAGS, LAPTOP, MORNING, Server
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import KIND_GROUPS, Kind, Trait
from walkround.core.checklist.check import Occasion
from walkround.core.checklist.history import Done, Event, EventKind, History, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.flight.return_to_home import Place, homeward
from walkround.core.packs import table
from walkround.core.packs.pack import Pack
from walkround.core.packs.trend import trend
from walkround.core.round.context import Context
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import Situation
from walkround.core.round.window import parse_series, window
from walkround.demo.large import fill_large
from walkround.demo.scenario import MARKER, MEADOW
from walkround.simulators.hours import SimulatedHours
from walkround.store import hangar, imports, packs
from walkround.store.book import Book
from walkround.web.catalogue import PAGES

ROOT = Path(__file__).parent.parent
TIMES = 120
TAPS = 40
BARS = {
    "server": 25.0,
    "tap": 100.0,
    "ahead": 10.0,
    "start": 2000.0,
    "import": 300.0,
    "bytes": 250_000.0,
    "plan": 5.0,
    "trend": 5.0,
    "table": 5000.0,
    "frame": 32.0,
    "zones": 10.0,
}


def spread(milliseconds: list[float]) -> tuple[float, float]:
    """Median and 95th percentile."""
    return statistics.median(milliseconds), statistics.quantiles(milliseconds, n=20)[18]


def timed(action: Callable[[], object]) -> float:
    """Milliseconds an action takes."""
    begun = time.perf_counter()
    action()
    return (time.perf_counter() - begun) * 1000


class Caller:
    """A bare keep-alive connection: the client costs next to nothing, so that the server is what is measured."""

    def __init__(self, server: Server) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", server.port)
        self.headers = {"Origin": server.base, "Accept-Encoding": "gzip"}

    def ask(self, path: str, form: dict[str, str] | None = None, *, fragment: bool = False) -> http.client.HTTPResponse:
        """One request, its body read; anything but success ends the benchmark."""
        headers = self.headers | ({"HX-Request": "true"} if fragment else {})
        body = None
        if form is not None:
            body = urllib.parse.urlencode(form)
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        self.connection.request("GET" if form is None else "POST", path, body, headers)
        answer = self.connection.getresponse()
        self.text = answer.read()
        if answer.status >= 400:
            raise RuntimeError(f"{path}: {answer.status}")
        return answer

    def page(self, path: str) -> str:
        """The text of a page."""
        answer = self.ask(path, fragment=True)
        packed = answer.headers.get("Content-Encoding") == "gzip"
        return (gzip.decompress(self.text) if packed else self.text).decode()


def server_times(server: Server) -> dict[str, list[float]]:
    """Request to answer over loopback, one at a time: the server's time and a little more."""
    caller = Caller(server)
    start = caller.ask("/rounds", {"aircraft": "1", "pack": "1", "site": "1"})
    base = start.headers["Location"]
    paths = {"A small file (the floor of this machine)": "/static/icon.svg"}
    paths |= {name: path.format(round=base) for entry in PAGES for name, path in entry.measured}
    found = {name: [timed(lambda path=path: caller.ask(path)) for _ in range(TIMES)] for name, path in paths.items()}
    answered, seen = [], "0"
    for i in range(TIMES):
        form = {"action": "take", "number": f"{3 + i / 100:.2f}", "seen": seen}
        answered.append(timed(lambda form=form: caller.ask(f"{base}/checks/sky.wind_meter", form, fragment=True)))
        again = caller.page(f"{base}?check=sky.wind_meter&edit=1")
        seen = re.search(r'name="seen" value="(\d+)"', again).group(1)  # type: ignore[union-attr]
    found["One check answered"] = answered
    return {name: values[5:] for name, values in found.items()}


TAP = """async () => {
  const chip = () => document.querySelector('#chip');
  const button = document.querySelector('[data-key=p]');
  const before = chip();
  const begun = performance.now();
  button.click();
  while (chip() === before) await new Promise(r => setTimeout(r, 0));
  await new Promise(r => requestAnimationFrame(() => setTimeout(r, 0)));
  return performance.now() - begun;
}"""


def tap_times(page: Page, server: Server) -> list[float]:
    """From the tap on a check to the painted new verdict, in Chromium."""
    taps: list[float] = []
    while len(taps) < TAPS:
        page.goto(server.base)
        page.click("button[form=pick]")
        page.wait_for_url("**/rounds/*")
        page.goto(page.url.split("?")[0] + "?station=airframe")
        for _ in range(9):
            if not page.locator(".ways [data-key=p]").count():
                break
            taps.append(page.evaluate(TAP))
            page.wait_for_timeout(30)
    return taps[2:]


def first_page_bytes(page: Page, server: Server) -> int:
    """Bytes over the wire of the first page, everything, compressed."""
    page.goto(server.base, wait_until="networkidle")
    return int(
        page.evaluate(
            """() => [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')]
                  .reduce((sum, e) => sum + e.transferSize, 0)"""
        )
    )


def import_ms() -> float:
    """Import of the core in a fresh interpreter, best of seven."""
    code = "import time; t = time.perf_counter(); import walkround.core.round.record; print((time.perf_counter() - t) * 1000)"
    return min(
        float(subprocess.run([sys.executable, "-c", code], cwd=ROOT, capture_output=True, text=True, check=True).stdout)
        for _ in range(7)
    )


def large_book(folder: Path) -> None:
    """A book a hundred times the demo's."""
    folder.mkdir(parents=True)
    (folder / MARKER).write_text("benchmark\n")
    book = Book(folder)
    fill_large(book, datetime.fromisoformat(MORNING).astimezone(UTC))
    book.close()


def heaviest() -> Situation:
    """The aircraft that most checks belong to, with all they can ask, ten years of history and every event."""
    groups = [g for g in KIND_GROUPS[Kind.MULTIROTOR] if g.title != "How propellers are held"]
    traits = {t for group in groups for t in group.traits} | {Trait.SCREWED}
    data = PRESETS["camera-hexa"].model_dump() | {"id": 1, "name": "Heaviest", "traits": traits}
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    years = [now - timedelta(days=3650 * i / len(CHECKS)) for i in range(len(CHECKS))]
    history = History(
        done=tuple(Done(check_id=c.id, at=at) for c, at in zip(CHECKS, years, strict=True)),
        events=(
            *(Event(kind=kind, at=now - timedelta(days=3), position=MEADOW.position) for kind in EventKind),
            *(Event(kind=EventKind.PART_REPLACED, part=part, at=now - timedelta(days=9)) for part in PartKind),
        ),
        pilot_last_flight_at=now - timedelta(days=90), aircraft_flown=True, site_flown=False,
        aircraft_last_flight_at=now - timedelta(days=90), aircraft_last_position=MEADOW.position,
        snags=tuple(Snag(id=i, on=SnagOn.AIRCRAFT, title=f"Snag {i}", grounds=False, opened_at=now) for i in range(20)),
    )  # fmt: skip
    pack = Pack(id=1, label="P", cells=6, capacity_mah=10_000, smart=True)
    return Situation(
        now=now,
        aircraft=Aircraft.model_validate(data),
        pack=pack,
        site=MEADOW,
        history=history,
        occasions=tuple(Occasion),
    )


def plan_ms() -> tuple[list[float], int]:
    """Planning the heaviest aircraft, and how many checks come of it."""
    case = heaviest()
    return [timed(lambda: make_plan(case)) for _ in range(300)][20:], len(make_plan(case).checks)


def trend_ms() -> list[float]:
    """The robust line through 1,000 readings."""
    dice = random.Random(5)
    days = sorted(dice.uniform(0, 900) for _ in range(1000))
    values = [5000 - d + dice.gauss(0, 90) for d in days]
    return [timed(lambda: trend(days, values)) for _ in range(120)][20:]


def ahead_ms() -> tuple[list[float], list[float]]:
    """48 hours for all limits, and the ways home over 500 obstacles."""
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    case = heaviest()
    series = [(weather,) for weather in parse_series(SimulatedHours("gusty").hours(15, now))]
    dice = random.Random(6)
    things = tuple(
        mark_at(MarkKind.TREE, dice.uniform(0, 359), dice.uniform(5, 900), dice.uniform(2, 40))
        for _ in range(500)
    )  # fmt: skip
    site = MEADOW.model_copy(update={"marks": things, "flight_radius_m": 800})
    trip = Context(case.model_copy(update={"site": site}), {}).trip
    place = Place(distance_m=800, bearing_deg=45, height_m=30)
    hours = [timed(lambda: window(series, case, 60)) for _ in range(60)][10:]
    ways = [timed(lambda: homeward(trip, place, 60)) for _ in range(60)][10:]
    return hours, ways


def table_ms(folder: Path) -> float:
    """A table of 100,000 rows for 200 packs: read, judged, written in one transaction, packs brought up to date."""
    book = Book(folder)
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    with book.write():
        for i in range(200):
            hangar.save(Pack(label=f"T{i:03d}", cells=3, capacity_mah=2200), now)
    begun = datetime(2025, 4, 10, tzinfo=UTC)  # local time, one summer: no hour is left out or comes twice
    rows = (
        f"T{i % 200:03d};{begun + timedelta(minutes=2 * i):%d.%m.%Y %H:%M:%S};4,{i % 20:02d};4,10;4,11;{20 + i % 5};21"
        for i in range(100_000)
    )
    text = "Pack;Date;Cell 1;Cell 2;Cell 3;IR (mOhm);Temp\n" + "\n".join(rows)

    def take_it() -> None:
        sheet = table.look(text)
        columns = table.guess(sheet, list(islice(table.rows_of(text, sheet), 40)))
        taken = table.take(text, sheet, columns, hangar.everything(Pack), zone=ZoneInfo("Europe/Vienna"), now=now)
        if taken.bad or taken.good != 100_000:
            raise RuntimeError(f"{taken.bad} rows were refused")
        imports.add_rows(book, taken.rows, now)
        packs.refresh_all(book, taken.rows, now)

    took = timed(take_it)
    book.close()
    return took


def row(name: str, values: list[float], bar: float) -> str:
    """One line of the table."""
    middle, high = spread(values)
    return f"| {name} | {middle:.1f} | {high:.1f} | {bar:.0f} | {'yes' if high <= bar else '**no**'} |"


def main() -> int:
    """Measure everything and write the table."""
    lines = [
        "# Performance",
        "",
        "Printed by `make bench`; times in milliseconds. Machines here are noisy: compare ratios, not digits.",
        "",
        f"Measured {datetime.now(UTC):%Y-%m-%d} on {platform.system()} {platform.machine()}, Python {platform.python_version()}.",
        "Server times are request to answer over loopback, one at a time.",
        "",
    ]
    folder = Path(tempfile.mkdtemp(prefix="walkround-bench-"))
    try:
        large_book(folder / "large")
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            for title, name in (
                ("Demo data", "demo"),
                ("Demo data x100 (10,000 flights, 200 packs, 2,000 rounds)", "large"),
            ):
                starts = []
                for _ in range(3):
                    begun = time.perf_counter()
                    server = Server(folder / name)
                    starts.append((time.perf_counter() - begun) * 1000)
                    server.stop()
                server = Server(folder / name)
                try:
                    times = server_times(server)
                    page = browser.new_context(viewport=LAPTOP).new_page()  # type: ignore[arg-type]
                    size = first_page_bytes(page, server)
                    taps = tap_times(page, server)
                    Caller(server).ask("/fields/2/map", {"otherwise": "tree", "pasted": bench_field.plan_file()})
                    frames = bench_field.frames_ms(page, server)
                    page.context.close()
                finally:
                    server.stop()
                lines += [f"## {title}", "", "| what | p50 | p95 | bar | kept |", "|---|---|---|---|---|"]
                lines += [row(f"{what}, server", values, BARS["server"]) for what, values in times.items()]
                lines.append(row("Tap to new verdict, Chromium", taps, BARS["tap"]))
                for what, values in frames.items():
                    asked = "dragged" in what
                    kept = ("yes" if max(values) <= BARS["frame"] else "**no**") if asked else ""
                    bar = f"{BARS['frame']:.0f}" if asked else ""
                    lines.append(
                        f"| {what}: median and longest | {spread(values)[0]:.1f} | {max(values):.1f} | {bar} | {kept} |"
                    )
                best, slowest = min(starts), max(starts)
                kept = "yes" if slowest <= BARS["start"] else "**no**"
                lines.append(
                    f"| Start to first page (best and worst of 3) | {best:.0f} | {slowest:.0f} | {BARS['start']:.0f} | {kept} |"
                )
                kept = "yes" if size <= BARS["bytes"] else "**no**"
                lines += [f"| First page over the wire, bytes | {size:,} | | {BARS['bytes']:,.0f} | {kept} |", ""]
            browser.close()
        plans, many = plan_ms()
        lines += ["## In the core", "", "| what | p50 | p95 | bar | kept |", "|---|---|---|---|---|"]
        lines += [row(f"Plan of the heaviest aircraft, ten years of history ({many} checks)", plans, BARS["plan"]), ""]
        lines[-1:] = [row("Trend over 1,000 readings", trend_ms(), BARS["trend"])]
        hours, ways = ahead_ms()
        lines.append(row("48 hours ahead for all limits", hours, BARS["ahead"]))
        lines.append(row("Ways home at every height over 500 obstacles", ways, BARS["ahead"]))
        lines.append(row("Zones among 20,000 asked and judged", bench_field.zones_ms(folder / "zones"), BARS["zones"]))
        spots, suns = bench_field.launch_ms()
        lines.append(row("A better launch spot", spots, 1000))
        lines.append(row("The sun over a session, with its cures", suns, BARS["server"]))
        took = table_ms(folder / "table")
        kept = "yes" if took <= BARS["table"] else "**no**"
        lines += [f"| Table of 100,000 rows into the book, once | {took:.0f} | | {BARS['table']:.0f} | {kept} |", ""]
        took = import_ms()
        lines += [f"Import of the core: {took:.0f} ms (bar {BARS['import']:.0f} ms).", ""]
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    text = "\n".join(lines)
    print(text)
    (ROOT / "docs" / "performance.md").write_text(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
