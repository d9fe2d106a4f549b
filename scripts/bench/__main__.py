"""Measure what the design promises, print the table, write docs/performance.md; ends with the rows that miss their bar.

A benchmark, never a test. Its exit code says whether every bar was kept.
"""

import contextlib
import math
import platform
import shutil
import sys
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from scripts.bench import compass, core, field, fleet, lost_link, pages, taps, touch
from scripts.bench.rows import SLOWED, Part, Row, enough, full_speed_ms, look_at_speed, times_row, told
from tests.browser.support import CHROMIUM, FLAGS, LAPTOP, MORNING, ROOT, Server
from walkround.demo.large import fill_large
from walkround.demo.opening import MARKER, ensure_demo
from walkround.store.book import Book

TAPS = 40
TAP_MS, FRAME_MS, MOST_BYTES = 100.0, 32.0, 100_000
SIZES = (1, 10, 100)
SETTLED_S, LOOKED_S = 8, 5
"""By then a server has looked its book over."""


def book_of(folder: Path, times: int) -> None:
    """A book so many times the demo's; the demo itself fills its own."""
    if times == 1:
        return
    folder.mkdir(parents=True)
    (folder / MARKER).write_text("benchmark\n")
    book = Book(folder)
    fill_large(book, datetime.fromisoformat(MORNING).astimezone(UTC), times)
    book.close()


TAP = """() => new Promise((painted, failed) => {
  const chip = () => document.querySelector('#chip');
  const before = chip();
  const watched = new MutationObserver(() => {
    if (chip() === before) return;
    watched.disconnect();
    requestAnimationFrame(() => setTimeout(() => painted(performance.now() - begun)));
  });
  watched.observe(document.body, { childList: true, subtree: true });
  setTimeout(() => failed(new Error('no verdict')), 5000);
  const begun = performance.now();
  document.querySelector('.ways [data-key=p]').click();
})"""
"""From a tap until the frame that first holds the new verdict is painted: asked for right when the verdict is put into the page, so that it is
not the frame after that one."""


def tap_times(page: Page, server: Server) -> list[float]:
    """From the tap on a check to the painted new verdict, in Chromium."""
    taps: list[float] = []
    while not enough(taps[2:], TAPS):
        page.goto(server.base)
        page.click("button[form=pick]")
        page.wait_for_url("**/rounds/*")
        page.goto(page.url.split("?")[0] + "?station=airframe")
        for _ in range(9):
            if not page.locator(".ways [data-key=p]").count():
                break
            rows = page.locator(".rows > li")
            if rows.count():  # a group is confirmed once its last row was on the screen
                rows.last.scroll_into_view_if_needed()
                page.wait_for_selector(".ways [data-key=p]:enabled")
            taps.append(told(lambda: float(page.evaluate(TAP))))
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


def seen_part(server: Server) -> Part:
    """What is seen in Chromium: a tap until its verdict is painted, the plan under the hand, the first page's weight."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_context(viewport=LAPTOP).new_page()  # type: ignore[arg-type]
        size = first_page_bytes(page, server)
        rows = [times_row("Tap to new verdict", tap_times(page, server), TAP_MS)]
        rows.append(
            times_row(
                "Aircraft dragged on the plan to its new track", lost_link.track_ms(page, server), lost_link.TRACK_MS
            )
        )
        rows += [*compass.live_rows(page, server), *compass.stream_rows(server)]
        pages.Caller(server.port).ask("/fields/2/map", {"otherwise": "tree", "pasted": field.plan_file()})
        for what, frames in field.frames_of(page, server).items():
            middle, longest = frames.spread_ms()
            bar, kept = (f"{FRAME_MS:g}", longest <= FRAME_MS) if "dragged" in what else ("", None)
            said = (f"{ms:.1f}" if math.isfinite(ms) else "" for ms in (middle, longest))
            cells = (*said, f"{len(frames.kept_ms)} of {frames.seen}")
            rows.append(Row(f"{what}: median and longest", cells, bar, kept))
        browser.close()
    rows.append(Row("First page over the wire, bytes", (f"{size:,}", ""), f"{MOST_BYTES:,}", size <= MOST_BYTES))
    return Part("In Chromium", ("p50 ms", "p95 ms", "at full speed"), tuple(rows))


def thumb_parts(folder: Path, bare: pages.Caller) -> tuple[Part, ...]:
    """What a round costs a thumb, and what inspecting by touch costs, on a demo book of its own."""
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    ensure_demo(folder, now=now)
    fleet.add_others(folder, now)
    heavy = touch.add_heavy(folder, now)
    server = Server(folder)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            part = taps.taps_part(server, browser)
            touched = Part(
                "By touch, in Chromium", ("p50 ms", "p95 ms", "at full speed"), touch.thumb_rows(server, browser)
            )
            browser.close()
        rows = touch.heavy_rows(pages.Caller(server.port), bare, heavy)
        return part, touched, touch.heavy_part(rows)
    finally:
        server.stop()


def flat_times(folder: Path) -> dict[str, tuple[list[float], list[float]]]:
    """The smallest and the largest book, both open."""
    with contextlib.ExitStack() as both:
        callers = []
        for times in (SIZES[0], SIZES[-1]):
            server = Server(folder / f"x{times}")
            both.callback(server.stop)
            callers.append(pages.Caller(server.port))
        time.sleep(SETTLED_S)
        return pages.in_turn(*callers)


def measure(folder: Path) -> list[Part]:
    """Everything."""
    parts, by_size = [], {}
    look_at_speed(LOOKED_S)
    with pages.Bare() as bare:
        for times in SIZES:
            book_of(folder / f"x{times}", times)
            server = Server(folder / f"x{times}")
            try:
                caller = pages.Caller(server.port)
                by_size[times] = pages.measured(caller, bare)
                if times == 1:
                    answered, commits = pages.answer_times(caller), pages.commit_times(folder)
                    tapped = Part(
                        "A tap", ("p50 ms", "p95 ms", "at full speed"), (pages.answer_row(answered, commits),)
                    )
                    seen = seen_part(server)
                if times == SIZES[-1]:
                    memory = pages.memory_part(server, caller)
            finally:
                server.stop()
        flat = flat_times(folder)
        thumb = thumb_parts(folder / "thumb", bare)
    parts.append(pages.pages_part("Pages beside a bare page of like size, demo data", by_size[1]))
    parts.append(pages.pages_part("The same, x100: 10,000 flights, 200 packs, 2,000 rounds", by_size[SIZES[-1]]))
    parts += [
        tapped,
        *thumb,
        seen,
        pages.growth_part(by_size, flat),
        memory,
        lost_link.lost_link_part(),
        compass.compass_part(),
        core.core_part(folder),
        core.start_part(folder / "x1"),
    ]
    return parts


def main() -> int:
    """Measure, print, write."""
    folder = Path(tempfile.mkdtemp(prefix="walkround-bench-"))
    try:
        parts = measure(folder)
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    missed = [row for part in parts for row in part.told() if row.kept is False]
    text = "\n".join(
        (
            "# Performance",
            "",
            "Printed by `make bench`. Machines here are noisy: compare ratios, not digits. The bare page is a synchronous route",
            "with the same middleware and compression and one Jinja loop over rows in memory, as many elements and bytes as the page,",
            "asked in turn with it. Server times are request to answer over loopback, one at a time, on a real disk with full sync.",
            f"The machine may change its speed by itself: a fixed loop of {full_speed_ms():.2f} ms runs before and after whatever is timed, which begins",
            f"when that is within {SLOWED:g} times its best. Where it is not so, or the kernel counts processor time that the host gave to others",
            "meanwhile (*steal*), the time is left out, however long it was: *at full speed* says how many stayed. Of pages, where only the ratio",
            "counts, and of frames under the hand, what was stolen from is left out.",
            "",
            f"Measured {datetime.now(UTC):%Y-%m-%d} on {platform.system()} {platform.machine()}, Python {platform.python_version()}.",
            "",
            *(part.text() for part in parts),
            "## Bars missed",
            "",
            *([row.line(4) for row in missed] or ["None."]),
            "",
        )
    )
    print(text)
    (ROOT / "docs" / "performance.md").write_text(text)
    return 1 if missed else 0


if __name__ == "__main__":
    sys.exit(main())
