"""Inspecting by touch: every part of a camera quad one by one by a scripted thumb, and an aircraft of 300 parts with ten years of findings."""

import time
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path

from playwright.sync_api import Browser

from scripts.bench.pages import Caller, beside, page_row
from scripts.bench.rows import Part, Row, times_row
from tests.browser.support import PHONE, Server
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.flaws import Bears, OwnPart
from walkround.core.checklist.history import SnagOn
from walkround.core.inspection.touched import touched_parts
from walkround.store import hangar, snags
from walkround.store.book import Book
from walkround.store.models import FlightRow

PRESSED_MS, SAVED_MS, WHOLE_S = 50.0, 100.0, 60.0
PARTS, YEARS, FLIGHTS, FINDINGS = 300, 10, 2_000, 1_500
HEAVY = "Old Faithful"
WATCH = """() => { window.begun_ = new Map();
  addEventListener("click", (e) => { const t = e.target.closest(".target"); if (t) window.begun_.set(t.dataset.part, performance.now()); }, true);
  new MutationObserver((all) => { for (const { target } of all) {
    const begun = window.begun_.get(target.dataset.part); if (begun === undefined) continue;
    const took = performance.now() - begun;
    if (target.classList.contains("pending")) requestAnimationFrame(() => window.pressed_(performance.now() - begun));
    else if (target.classList.contains("ok")) { window.saved_(took); window.begun_.delete(target.dataset.part); }
  } }).observe(document.querySelector(".close-up"), { attributes: true, attributeFilter: ["class"], subtree: true }); }"""


def thumb_rows(server: Server, browser: Browser) -> tuple[Row | Callable[[], Row], ...]:
    """A whole round of touches at full depth on a phone, each part tapped where it is drawn, going on when its mark is saved."""
    page = browser.new_context(viewport=PHONE).new_page()  # type: ignore[arg-type]
    page.goto(f"{server.base}/?aircraft=1")
    page.click("button[form=pick]")
    page.wait_for_url("**/rounds/*")
    number = page.url.split("?")[0].rsplit("/", 1)[1]
    Caller(server.port).ask(f"/rounds/{number}/deepen", {"depth": "full", "station": "airframe"})
    page.goto(f"{server.base}/rounds/{number}/touch")
    page.click(".touch-gate button")
    pressed: list[float] = []
    saved: list[float] = []
    page.expose_function("pressed_", lambda took: pressed.append(took))
    page.expose_function("saved_", lambda took: saved.append(took))
    begun, many = time.perf_counter(), 0
    while True:
        page.wait_for_selector(".close-up")
        page.evaluate(WATCH)
        middles = page.evaluate(
            """() => [...document.querySelectorAll(".target.left")].map((t) => {
              const box = t.getBoundingClientRect(); return [box.x + box.width / 2, box.y + box.height / 2]; })"""
        )
        for x, y in middles:
            page.mouse.click(x, y)
            many += 1
            page.wait_for_timeout(120)
        last = page.url
        page.wait_for_timeout(400)
        if "/touch" not in page.url or (page.url == last and not page.locator(".target.left").count()):
            break
    seconds = time.perf_counter() - begun
    rows = (
        times_row("Part touched to drawn as pressed", pressed, PRESSED_MS),
        times_row("Part touched to its saved mark, after the commit", saved, SAVED_MS),
        Row(
            f"{many} parts of a camera quad one by one, seconds",
            (f"{seconds:.0f}", ""),
            f"{WHOLE_S:g}",
            seconds <= WHOLE_S and many >= 30,
        ),
    )
    page.context.close()
    return rows


def add_heavy(folder: Path, now: datetime) -> int:
    """An aircraft of 300 parts with ten years of flights and findings, in a book; returns its number."""
    book = Book(folder)
    with book.write():
        quad = hangar.get(Aircraft, 1)
        more = PARTS - len(touched_parts(quad))
        own = tuple(OwnPart(id=f"own-{i}", name=f"Fitting {i}", does=Bears.HOLDS) for i in range(1, more + 1))
        heavy = quad.model_copy(update={"id": 0, "name": HEAVY, "own_parts": own})
        number = hangar.save(heavy, now)
        ids = [part.id for part in touched_parts(heavy)]
        for i in range(FLIGHTS):
            off = now - timedelta(days=60 + YEARS * 365 * i / FLIGHTS)  # nothing of it is of these days
            FlightRow.create(aircraft=number, pack=8, site=2, took_off_at=off, minutes=6.0, logged_at=off)
        for i in range(FINDINGS):
            at = now - timedelta(days=60 + YEARS * 365 * i / FINDINGS)
            snag = snags.open_one(
                SnagOn.AIRCRAFT, number, "Found loose", grounds=False, at=at, parts=(ids[i % len(ids)],)
            )
            if i > 5:
                snags.close(snag, "Tightened", at + timedelta(hours=1))
    book.close()
    return number


def heavy_rows(caller: Caller, bare: Caller, number: int) -> tuple[Row, ...]:
    """Its pages beside bare pages of like size."""
    paths = {
        f"Parts to inspect, {PARTS} parts": f"/hangar/aircraft/{number}/inspection",
        "One of them": f"/hangar/aircraft/{number}/part?part_id=arm-1",
        "Damage to one of them": f"/hangar/aircraft/{number}/damage?part=arm-1&damage=NICK",
    }
    base = str(caller.ask("/rounds", {"aircraft": str(number), "pack": "1", "site": "1"}).header("Location"))
    paths["By touch"] = f"{base}/touch"
    return tuple(page_row(name, *beside(caller, bare, path)) for name, path in paths.items())


def heavy_part(rows: tuple[Row, ...]) -> Part:
    """The table of the aircraft of 300 parts."""
    return Part(
        f"{PARTS} parts with ten years of findings", ("p50 ms", "p95 ms", "bare p50 ms", "ratio p50", "ratio p95"), rows
    )
