"""The phone at the field: under a name that browsers do not trust by itself, encrypted and not; the round usable in both."""

import base64
import hashlib
import shutil
import tempfile
import unittest
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import serialization
from playwright.sync_api import Page, expect

from tests.browser.support import PATIENCE_MS, PHONE, Server, launched, started
from tests.support import FAST_FOLDER
from walkround.web.certificates import AUTHORITY, CERTIFICATE
from walkround.web.security import Passphrase

NAME, WORDS = "field.test", "four calm herons standing"


def key_hash(path: Path) -> str:
    """SHA-256 of the public key of a certificate, as Chromium takes it for one to trust."""
    made = x509.load_pem_x509_certificate(path.read_bytes())
    spki = made.public_key().public_bytes(serialization.Encoding.DER, serialization.PublicFormat.SubjectPublicKeyInfo)
    return base64.b64encode(hashlib.sha256(spki).digest()).decode()


class AtTheField(unittest.TestCase):
    """The name is mapped to this machine inside the browser; nothing leaves it."""

    SECONDS_A_TEST = 6
    FILLS_GAPS = False

    def open(self, scheme: str) -> Page:
        folder = Path(tempfile.mkdtemp(prefix="walkround-https-", dir=FAST_FOLDER))
        self.addCleanup(shutil.rmtree, folder, ignore_errors=True)
        book = folder / "demo"
        book.mkdir()
        Passphrase(book).choose(WORDS)
        more = ("--name", NAME, *(("--plain",) if scheme == "http" else ()))
        server = Server(book, more=more, scheme=scheme)
        self.addCleanup(server.stop)
        trust = [f"--ignore-certificate-errors-spki-list={key_hash(book / CERTIFICATE)}"] if scheme == "https" else []
        browser = launched(started()[0], f"--host-resolver-rules=MAP {NAME} 127.0.0.1", *trust)
        self.addCleanup(browser.close)
        context = browser.new_context(
            viewport=PHONE,
            has_touch=True,
            geolocation={"latitude": 48.2213, "longitude": 15.3318},
            permissions=["geolocation"],
        )  # type: ignore[arg-type]
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        page.goto(f"{scheme}://{NAME}:{server.port}/")
        page.fill("input[name=passphrase]", WORDS)
        page.click("text=Sign in")
        page.wait_for_selector("button[form=pick]")
        self.base, self.book = f"{scheme}://{NAME}:{server.port}", book
        return page

    def a_check_is_answered(self, page: Page) -> None:
        page.click("button[form=pick]")
        page.wait_for_url("**/rounds/*")
        page.goto(page.url.split("?")[0] + "?check=airframe.shell")
        page.click("button[data-key=p]")
        expect(page.locator(".chip")).to_contain_text("1 of")

    def test_encrypted_the_device_may_be_asked(self) -> None:
        page = self.open("https")
        self.assertTrue(page.evaluate("isSecureContext && 'wakeLock' in navigator && 'geolocation' in navigator"))
        expect(page.locator(".open-air")).to_have_count(0)
        self.a_check_is_answered(page)
        page.goto(f"{self.base}/fields/new")
        page.click("text=Use the position of this device")
        expect(page.locator("#f-position")).to_have_value("48.221300, 15.331800")
        with page.expect_download() as taken:
            page.evaluate("location.href = '/authority.crt'")
        self.assertEqual(Path(taken.value.path()).read_bytes(), _public(self.book / AUTHORITY))
        cookie = page.context.cookies()[0]
        self.assertTrue(cookie["secure"] and cookie["httpOnly"])
        page.goto(f"{self.base}/settings")
        page.click("text=Sign out")
        expect(page.locator("h1")).to_have_text("Passphrase")

    def test_not_encrypted_it_says_so_and_everything_has_a_way_by_hand(self) -> None:
        page = self.open("http")
        self.assertFalse(page.evaluate("isSecureContext || 'wakeLock' in navigator"))
        expect(page.locator(".open-air")).to_contain_text("Not encrypted")
        self.a_check_is_answered(page)
        page.goto(f"{self.base}/fields/new")
        expect(page.locator("[data-locate]")).to_be_hidden()
        page.fill("#f-position", "48.2213, 15.3318")
        # the words of the flight clock, for a browser that lets the screen go dark
        page.evaluate("document.querySelector('main').insertAdjacentHTML('beforeend', '<p data-awake hidden>dark</p>')")
        page.evaluate("document.dispatchEvent(new Event('visibilitychange'))")
        expect(page.locator("[data-awake]")).to_be_visible()


def _public(path: Path) -> bytes:
    return x509.load_pem_x509_certificate(path.read_bytes()).public_bytes(serialization.Encoding.PEM)
