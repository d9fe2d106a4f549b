"""A demo application in its own process, and Debian's Chromium to drive it."""

import json
import os
import shutil
import signal
import socket
import sqlite3
import ssl
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from collections.abc import Callable
from contextlib import closing
from datetime import UTC
from functools import cache
from multiprocessing import get_context
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, Playwright, expect, sync_playwright
from playwright.sync_api import Error as PlaywrightError

from tests.support import FAST_FOLDER, NOW, demo_book, elements
from walkround import serving
from walkround.cli import clock_from
from walkround.demo.opening import MARKER
from walkround.demo.walker import walked_evidence
from walkround.store.situation import situation_in
from walkround.web.app import everything
from walkround.web.pages import STATIC_PATH

ROOT = Path(__file__).parent.parent.parent
AXE = (Path(__file__).parent / "vendor" / "axe-4.14.1.min.js").read_text()
CHROMIUM = shutil.which("chromium") or "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
LEFT_OUT = [
    "AvoidCorsURLLoaderRestartOnRedirect", "AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose", "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable", "LensOverlay", "MediaRouter", "NetworkTimeServiceQuerying", "OptimizationHints",
    "PaintHolding", "PreconnectToSearch", "ThirdPartyStoragePartitioning", "RenderDocument", "SpareRendererForSitePerProcess",
    "WebUIOmniboxAimPopup", "WebUIOmniboxPopup",
]  # fmt: skip
"""Features that the browser of the tests does without. Of the last four, two make much anew for each page, ahead of need, and two
load pages of the address bar, which nobody sees, into each new window; the others Playwright leaves out too, and of two lists only the
last counts."""
UNREPAID = ("--no-opt", "--no-maglev")
"""No page of a test lives long enough to repay what V8 spends on making its code faster: a third of the renderer's time where axe looks."""
ENOUGH_SHARED_BYTES = 1 << 30
MORNING = "2026-05-16T07:40:00+00:00"
DEMO = "Invented data. Its clock started at 09:40 and runs on."
PATIENCE_MS = 20_000
"""So long a page is waited for: a machine that many share may stand still for seconds."""
expect.set_options(timeout=PATIENCE_MS)
LAPTOP, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


def free_port() -> int:
    """A port nobody uses."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _wait_for(base: str, alive: Callable[[], bool]) -> None:
    """Until a server answers. Raises TimeoutError when it is gone, or does not come up within half a minute."""
    unchecked = (
        ssl._create_unverified_context() if base.startswith("https") else None
    )  # the browser checks certificates
    deadline = time.monotonic() + 30
    while True:
        try:
            urllib.request.urlopen(base, timeout=2, context=unchecked).close()
            return
        except OSError:
            if not alive() or time.monotonic() > deadline:
                raise TimeoutError(base) from None
            time.sleep(0.005)


class Server:
    """A demo application in its own process."""

    def __init__(
        self, folder: Path, at: str = MORNING, more: tuple[str, ...] = (), scheme: str = "http", port: int = 0
    ) -> None:
        self.folder = folder
        self.port = port or free_port()
        self.base = f"{scheme}://127.0.0.1:{self.port}"
        command = [
            sys.executable,
            "-m",
            "walkround",
            "demo",
            "--data",
            str(folder),
            "--port",
            str(self.port),
            "--at",
            at,
            *more,
        ]
        self.log = tempfile.TemporaryFile()  # noqa: SIM115  a pipe that nobody reads would fill and hang it
        self.process = subprocess.Popen(
            command, cwd=ROOT, env={**os.environ}, stdout=self.log, stderr=subprocess.STDOUT
        )
        try:
            _wait_for(self.base, lambda: self.process.poll() is None)
        except TimeoutError:
            self.log.seek(0)
            raise RuntimeError(self.log.read().decode()) from None

    def kill(self) -> None:
        """SIGKILL: no goodbye."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
        self.log.close()

    def stop(self) -> None:
        """Ask it to stop."""
        self.process.terminate()
        try:
            self.process.wait(10)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()
        self.log.close()


class Forked:
    """The demo in a fork of this process, which has everything loaded already: it is up at once."""

    def __init__(self, folder: Path) -> None:
        everything()
        folder.mkdir()
        made, _ = demo_book()
        shutil.copy(made, folder / made.name)
        (folder / MARKER).write_text("for the tests\n")
        self.folder, port = folder, free_port()
        self.base = f"http://127.0.0.1:{port}"
        self.process = get_context("fork").Process(
            target=serving.serve, args=(folder, "127.0.0.1", port), kwargs={"clock": clock_from(NOW), "demo": DEMO}
        )
        self.process.start()
        _wait_for(self.base, self.process.is_alive)

    def stop(self) -> None:
        """Ask it to stop."""
        self.process.terminate()
        self.process.join(10)
        if self.process.is_alive():
            self.process.kill()
            self.process.join()


def launched(playwright: Playwright, *more: str) -> Browser:
    """A browser as the tests use it, with more flags."""
    roomy = FAST_FOLDER is not None and shutil.disk_usage(FAST_FOLDER).free > ENOUGH_SHARED_BYTES
    return playwright.chromium.launch(
        executable_path=CHROMIUM,
        args=[*FLAGS, f"--disable-features={','.join(LEFT_OUT)}", f"--js-flags={','.join(UNREPAID)}", *more],
        ignore_default_args=["--disable-dev-shm-usage"] if roomy else None,  # pictures pass through memory, not files
    )


@cache
def started() -> tuple[Playwright, Browser]:
    """The browser of this process: started when first asked for, ended with the process."""
    playwright = sync_playwright().start()
    Finalize(None, playwright.stop, exitpriority=10)
    browser = launched(playwright)
    Finalize(None, browser.close, exitpriority=20)
    return playwright, browser


@cache
def shared_window(phone: bool) -> BrowserContext:
    """The window of this process that the pages of tests are opened in."""
    return started()[1].new_context(viewport=PHONE if phone else LAPTOP, has_touch=phone)  # type: ignore[arg-type]


_TABS: dict[bool, Page] = {}


def shared_tab(phone: bool) -> Page:
    """The tab of that window, left without a trace by one test for the next: in a new one, and in a new process, the first page takes five times as long."""
    if phone not in _TABS:
        _TABS[phone] = shared_window(phone).new_page()
    return _TABS[phone]


class BrowserCase(unittest.TestCase):
    """One server a class, one browser a process; a fresh page a test, with its complaints collected."""

    SECONDS_A_TEST: float = 4
    FILLS_GAPS = False
    browser: Browser
    server: Forked

    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(tempfile.mkdtemp(prefix="walkround-browser-", dir=FAST_FOLDER))
        cls.addClassCleanup(shutil.rmtree, cls.folder, ignore_errors=True)
        cls.server = Forked(cls.folder / "demo")
        cls.addClassCleanup(cls.server.stop)
        cls.browser = started()[1]

    def setUp(self) -> None:
        self.in_use: set[bool] = set()

    def page(self, size: dict[str, int] = LAPTOP, *, own: bool = False, **options: Any) -> Page:
        """A page that fails the test when its console complains or it asks another host.

        A first page of its size is in the tab that tests share, one after the other; ``own``: in a window of its own, for what changes
        the whole of it, such as its clock, or stays with it, such as a script for every page.
        """
        phone = size is PHONE
        if own or options or phone in self.in_use:
            context = self.browser.new_context(viewport=size, has_touch=phone, **options)  # type: ignore[arg-type]
            self.addCleanup(context.close)
            page = context.new_page()
        else:
            self.in_use.add(phone)
            page = shared_tab(phone)
            self.addCleanup(self.leave, phone)
        page.set_default_timeout(PATIENCE_MS)
        self.complaints: list[str] = []
        heard: dict[str, Callable[[Any], None]] = {
            "console": self.hear,
            "pageerror": lambda error: self.complaints.append(str(error)),
            "request": lambda r: (
                None if r.url.startswith((self.server.base, "data:")) else self.complaints.append(r.url)
            ),
        }
        for event, listener in heard.items():
            page.on(event, listener)  # type: ignore[call-overload]
            self.addCleanup(page.remove_listener, event, listener)
        self.addCleanup(lambda: self.assertEqual(self.complaints, []))
        return page

    def hear(self, message: ConsoleMessage) -> None:
        """Keep a complaint of the console; that an answer was refused is none, nor that a page was left that still asked."""
        # htmx says afterRequest besides with every fault of a request: what the fault was is said apart.
        none = ("status of 4", "status of 503", "htmx:sendAbort", "htmx:afterRequest")
        if message.type == "error" and not any(words in message.text for words in none):
            self.complaints.append(message.text)

    def leave(self, phone: bool) -> None:
        """Leave the shared tab as if nothing had happened there: nothing stored, no page that runs on; a tab that cannot be, for good."""
        page, context = _TABS[phone], shared_window(phone)
        try:
            context.set_offline(False)
            context.clear_cookies()
            page.unroute_all()
            page.evaluate("sessionStorage.clear()")
            page.goto(f"{self.server.base}{STATIC_PATH}/icon.svg")
            page.mouse.move(0, 0)
            everything_stored = {"origin": self.server.base, "storageTypes": "all"}
            cdp = context.new_cdp_session(page)
            cdp.send("Storage.clearDataForOrigin", everything_stored)
            cdp.detach()
        except PlaywrightError:
            _TABS.pop(phone).close()
        for other in context.pages:
            if other is not _TABS.get(phone):
                other.close()

    def start_round(self, page: Page, aircraft: str = "Sandpiper", pack: str = "", depth: str = "") -> str:
        """Start a new round as the form of Today would, as deep as today asks or deeper; returns its address."""
        chosen: dict[str, str] = {}
        for name, label in (("aircraft", aircraft), ("pack", pack)):
            options = elements(self.today(page, chosen), f"#pick select[name={name}] option") if label else []
            for option in options:
                if option.text().strip() == label:
                    chosen[name] = str(option.attributes["value"])
        today = self.today(page, chosen | ({"depth": depth} if depth else {}))
        sent = {
            str(f.attributes["name"]): f.attributes["value"] or "" for f in elements(today, "#pick > input, #f-day")
        }
        for select in elements(today, "#pick select"):
            sent[str(select.attributes["name"])] = str(
                elements(select.html or "", "option[selected]")[0].attributes["value"]
            )
        started = page.request.post(
            f"{self.server.base}/rounds", form=sent, headers={"Origin": self.server.base}, max_redirects=0
        )
        self.assertEqual(started.status, 303, started.text())
        return self.server.base + started.headers["location"]

    def today(self, page: Page, chosen: dict[str, str]) -> str:
        """What Today says for a choice."""
        return page.request.get(self.server.base, params=dict(chosen)).text()

    def started_by_hand(self, page: Page, aircraft: str, pack: str) -> str:
        """Choose and start on Today as a pilot does, each choice shown before the next; returns the round's address."""
        page.goto(self.server.base)
        for name, label, shown in (("aircraft", aircraft, aircraft), ("pack", pack, f"with {pack}")):
            if page.locator(f"select[name={name}] option:checked").inner_text().strip() != label:
                page.select_option(f"select[name={name}]", label=label)
                page.wait_for_selector(f"h1:has-text('{shown}')")
                expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)
        page.click("button[form=pick]")
        page.wait_for_url("**/rounds/*")
        return page.url.split("?")[0]

    def signed_round(self, page: Page, aircraft: str = "Sandpiper") -> str:
        """A round with every answer before take-off in the book, signed; returns its address."""
        address = self.start_round(page, aircraft)
        answer_all(self.server.folder, int(address.rsplit("/", 1)[1]))
        signed = page.request.post(
            f"{address}/sign", form={"signed_by": "Tamsin Rook"}, headers={"Origin": self.server.base}, max_redirects=0
        )
        self.assertEqual(signed.status, 303, signed.text())
        return address


def answer_all(folder: Path, number: int) -> None:
    """Answer everything before take-off, straight into the book in a folder."""
    with closing(sqlite3.connect(folder / "walkround.sqlite", timeout=10)) as book, book:
        (text,) = book.execute("SELECT situation FROM round WHERE id = ?", (number,)).fetchone()
        situation = situation_in(text)
        for given in walked_evidence(situation, situation.now, pace_s=0):
            at = situation.now.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%f+00:00")
            answer = json.dumps(given.answer.model_dump(mode="json"))
            book.execute(
                'INSERT INTO evidence (round_id, check_id, at, "by", answer) VALUES (?, ?, ?, ?, ?)',
                (number, given.check_id, at, "pilot", answer),
            )
