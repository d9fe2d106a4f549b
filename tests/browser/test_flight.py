"""A flight under hand: what it says and when, what it keeps without a connection, and that nothing is lost or there twice."""

import sqlite3
import tempfile
import time
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.support import MORNING, PHONE, BrowserCase, Server

STAND_IN = """
  window.spoken = [];
  Object.defineProperty(window, 'speechSynthesis', { value: { speak: (words) => window.spoken.push([Date.now(), words.text]), cancel() {} } });
  window.SpeechSynthesisUtterance = class { constructor(text) { this.text = text; } };
"""
"""Speech as the page asks for it, kept instead of spoken."""

UNLUCKY = """() => {
  const fetch = window.fetch.bind(window);
  window.luck = { seed: 7, lost: 0, doubled: 0 };
  const dice = () => (window.luck.seed = (window.luck.seed * 16807) % 2147483647) / 2147483647;
  window.fetch = async (url, how) => {
    if (!String(url).endsWith("/notes")) return fetch(url, how);
    const luck = dice();
    if (luck < 0.3) { window.luck.lost += 1; throw new TypeError("never arrived"); }
    if (luck < 0.6) { window.luck.lost += 1; await fetch(url, how); throw new TypeError("arrived, its answer did not"); }
    if (luck < 0.8) { window.luck.doubled += 1; await fetch(url, how); }
    return fetch(url, how);
  };
}"""
"""A connection that drops notes before and after they arrive, and sends some twice; the same each time."""


class FlightCase(BrowserCase):
    def flying(self, page: Page) -> str:
        """A flight that was just taken off; its address."""
        address = self.signed_round(page)
        page.goto(f"{address}/flight")
        page.click("button:has-text('Take off')")
        expect(page.locator("[data-part=label]")).to_have_text("Take off in")
        return address

    def notes(self, folder: Path, address: str) -> list[tuple[str, float | None]]:
        """Kind and charge of the notes of a round, in order."""
        with closing(sqlite3.connect(folder / "walkround.sqlite")) as book:
            number = int(address.rsplit("/", 1)[1])
            return book.execute(
                "SELECT kind, percent FROM air_note WHERE round_id = ? ORDER BY at, id", (number,)
            ).fetchall()


class InTheAir(FlightCase):
    SECONDS_A_TEST = 15

    def test_every_call_is_said_at_its_second(self) -> None:
        page = self.page(PHONE, own=True)
        page.add_init_script(STAND_IN)
        page.clock.install()
        page.route(
            "**/flight/state*", lambda route: route.fulfill(status=503)
        )  # its clock does not run ahead with the page's
        self.flying(page)
        plan = page.evaluate("JSON.parse(document.querySelector('[data-flight]').dataset.flight)")
        off = page.evaluate("f => f.tookOff - Number(localStorage.getItem(`walkround-clock-${f.round}`))", plan)
        page.clock.run_for(int(1000 * (plan["land"] + 70)))
        spoken = page.evaluate("window.spoken")
        self.assertEqual(
            [text for _, text in spoken],
            [c["text"] for c in plan["calls"] if c["at"] <= plan["land"] + 62][-len(spoken) :],
        )
        self.assertGreaterEqual(len(spoken), len([c for c in plan["calls"] if -3 < c["at"] < plan["land"] + 62]))
        by_text = {text: at for at, text in spoken}
        for call in plan["calls"]:
            if call["tone"] != "routine" and call["at"] < plan["land"] + 62:
                self.assertAlmostEqual((by_text[call["text"]] - off) / 1000, call["at"], delta=1.5, msg=call["text"])
        expect(page.locator("[data-part=label]")).to_have_text("Land now, over by")

    def test_muted_it_says_nothing_and_remembers(self) -> None:
        page = self.page(PHONE, own=True)
        page.add_init_script(STAND_IN)
        address = self.signed_round(page)
        page.goto(f"{address}/flight")
        page.click("[data-part=voice]")
        expect(page.locator("[data-part=speaks]")).to_have_text("off")
        page.click("button:has-text('Take off')")
        page.wait_for_timeout(2500)
        self.assertEqual(page.evaluate("window.spoken"), [])
        page.reload()
        expect(page.locator("[data-part=speaks]")).to_have_text("off")

    def test_the_cards_open_and_a_sighting_is_kept(self) -> None:
        page = self.page(PHONE)
        self.flying(page)
        page.click("button:has-text('How to stop')")
        expect(page.locator("#stop-card")).to_contain_text("On the ground:")
        page.keyboard.press("Escape")
        page.click("button:has-text('Lost model')")
        page.fill("#f-air-words", "by the pear")
        page.click("#lost-card button[data-point=west]")
        expect(page.locator("[data-part=unsaved]")).to_be_hidden()
        page.reload()
        page.click("button:has-text('Lost model')")
        expect(page.locator("[data-part=last-seen]")).to_contain_text("west, by the pear")

    def test_a_charge_read_on_another_device_moves_this_clock(self) -> None:
        page = self.page(PHONE)
        address = self.flying(page)
        expect(page.locator("[data-part=label]")).to_have_text("Turn back in", timeout=9000)
        before = page.locator("[data-part=turn-at]").text_content() or ""
        second = self.page(PHONE)
        second.goto(f"{address}/flight")
        second.click(".air-charge summary")
        second.click(".charge-keys button[value='40']")
        expect(page.locator("[data-part=turn-at]")).not_to_have_text(before, timeout=9000)
        self.assertEqual(
            page.locator("[data-part=turn-at]").text_content() or "",
            second.locator("[data-part=turn-at]").text_content() or "",
        )

    def test_what_waits_on_the_device_is_sent_from_any_page(self) -> None:
        page = self.page(PHONE)
        address = self.flying(page)
        page.goto(f"{self.server.base}/hangar")
        page.evaluate(
            """url => localStorage.setItem('walkround-notes', JSON.stringify([
              { round: 1, url, uid: 'left-behind-1', kind: 'charge', at: new Date().toISOString(), values: { percent: '66' } }]))""",
            f"{address}/flight/notes",
        )
        page.goto(self.server.base)
        page.wait_for_function("() => localStorage.getItem('walkround-notes') === '[]'")
        self.assertEqual(self.notes(self.server.folder, address), [("charge", 66.0)])

    def test_drops_and_doubles_lose_nothing_and_double_nothing(self) -> None:
        page = self.page(PHONE)
        address = self.flying(page)
        page.evaluate(UNLUCKY)
        page.click(".air-charge summary")
        for percent in ("80", "70", "60", "50"):
            page.click(f".charge-keys button[value='{percent}']")
            page.wait_for_timeout(100)
        page.wait_for_function("() => JSON.parse(localStorage.getItem('walkround-notes')).length === 0", timeout=60_000)
        lost, doubled = page.evaluate("[window.luck.lost, window.luck.doubled]")
        self.assertTrue(lost > 0 and doubled > 0, "nothing went wrong, so nothing was tried")
        self.assertEqual(self.notes(self.server.folder, address), [("charge", p) for p in (80.0, 70.0, 60.0, 50.0)])


class WithoutAConnection(FlightCase):
    SECONDS_A_TEST = 40

    def test_the_server_is_killed_and_started_again_in_the_flight(self) -> None:
        folder = Path(tempfile.mkdtemp(dir=self.folder)) / "demo"
        server = Server(folder)
        self.server = server  # type: ignore[assignment]
        begun = time.monotonic()
        page = self.page(PHONE)
        try:
            address = self.flying(page)
            page.wait_for_selector("html[data-kept=yes]", state="attached")
            server.kill()
            expect(page.locator("[data-part=alone]")).to_be_visible(timeout=15_000)
            page.wait_for_function("() => /Turn back in/.test(document.querySelector('[data-part=label]').textContent)")
            page.click(".air-charge summary")
            page.click(".charge-keys button[value='70']")
            expect(page.locator("[data-part=unsaved-what]")).to_contain_text("charge 09:40")
            page.reload()
            expect(page.locator("[data-part=unsaved]")).to_be_visible()
            page.wait_for_function("() => /Turn back in/.test(document.querySelector('[data-part=label]').textContent)")
            page.click("button:has-text('How to stop')")
            expect(page.locator("#stop-card")).to_be_visible()
            page.keyboard.press("Escape")
            page.click("[data-part=land] button")
            expect(page.locator("[data-part=label]")).to_have_text("Landed after")
            expect(page.locator("[data-part=unsaved-what]")).to_contain_text("landing")
            page.reload()
            expect(page.locator("[data-part=label]")).to_have_text("Landed after")
            flown = page.locator("[data-part=flown]").inner_text()
            later = datetime.fromisoformat(MORNING) + timedelta(seconds=time.monotonic() - begun + 1)
            server = self.server = Server(folder, at=later.isoformat(), port=server.port)  # type: ignore[assignment]
            expect(page.locator("h2:has-text('Log the flight')")).to_be_visible(timeout=15_000)
            self.assertEqual(self.notes(folder, address), [("charge", 70.0), ("landed", None)])
            with closing(sqlite3.connect(folder / "walkround.sqlite")) as book:
                (minutes,) = book.execute(
                    "SELECT minutes FROM flight WHERE landed_at IS NOT NULL ORDER BY id DESC"
                ).fetchone()
            minute, second = map(int, flown.split(":"))
            self.assertAlmostEqual(minutes * 60, 60 * minute + second, delta=2)
            self.assertEqual(page.evaluate("localStorage.getItem('walkround-notes')"), "[]")
        finally:
            self.complaints[:] = [c for c in self.complaints if "ERR_" not in c and not c.startswith("Failed to fetch")]
            server.stop()
