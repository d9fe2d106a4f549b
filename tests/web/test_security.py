"""The fence: origin, host, headers, sizes, passphrase; and the two families of errors."""

import re
import threading
import time
from functools import partial
from pathlib import Path
from unittest import mock

import argon2
from fastapi.testclient import TestClient

from tests.support import BookCase, WebCase, plain, within
from walkround.core.base.errors import BusyError
from walkround.store.models import RoundRow
from walkround.web import security
from walkround.web.app import create_app
from walkround.web.pages import STATIC_PATH
from walkround.web.security import MAX_BODY_BYTES, Passphrase, host_name


class SecurityMiddleware(WebCase):
    PAGES = (
        "/",
        "/hangar",
        "/logbook",
        "/snags",
        "/settings",
        "/devices",
        "/rounds/1",
        "/rounds/1/verdict",
        "/nowhere",
        "/static/nowhere.css",
    )

    def test_headers_on_every_answer(self) -> None:
        for path in self.PAGES:
            headers = self.client.get(path).headers
            policy = headers["Content-Security-Policy"]
            self.assertIn("default-src 'none'", policy)
            self.assertNotIn("unsafe", policy)
            self.assertEqual((headers["X-Content-Type-Options"], headers["X-Frame-Options"]), ("nosniff", "DENY"))

    def test_pages_carry_nothing_inline(self) -> None:
        for path in (
            *self.PAGES,
            "/hangar/aircraft/1",
            "/fields/1",
            "/packs/1",
            f"/rounds/{self.start()}?check=pack.cells",
        ):
            page = self.client.get(path).text
            self.assertIsNone(re.search(r"<script(?![^>]*\bsrc=)|<style|\sstyle=|\son[a-z]+=|javascript:", page), path)

    def test_a_write_from_elsewhere_changes_nothing(self) -> None:
        form = {"aircraft": "1", "pack": "1", "site": "1"}
        bare = TestClient(self.app, base_url="http://127.0.0.1")
        for headers in (
            {},
            {"Origin": "http://evil.example"},
            {"Origin": "null"},
            {"Origin": "http://127.0.0.1:9999"},
            {"Referer": "http://evil.example/x"},
        ):
            answer = bare.post("/rounds", data=form, headers=headers)
            self.assertEqual(answer.status_code, 403, headers)
            self.assertIn("did not come from this page", plain(answer.text))
        self.assertEqual(RoundRow.select().count(), 1)

    def test_another_host_name_is_refused(self) -> None:
        for host in ("evil.example", "127.0.0.1.evil.example", ""):
            answer = self.client.get("/", headers={"Host": host})
            self.assertEqual(answer.status_code, 403, host)
        for host in ("localhost:8020", "127.0.0.1:8020", "[::1]:8020"):
            self.assertEqual(self.client.get("/", headers={"Host": host}).status_code, 200, host)
        self.assertEqual(host_name("[::1]:8020"), "::1")

    def test_twenty_megabytes(self) -> None:
        number = self.start()
        answer = self.client.post(
            f"/rounds/{number}/checks/sensors.satellites",
            files={"file": ("big.txt", b"$" * 20_000_000, "text/plain")},
            headers={"HX-Request": "true"},
        )
        self.assertEqual(answer.status_code, 413)
        self.assertIn("more than 1.5 MB", plain(answer.text))
        self.assertEqual(answer.headers["HX-Retarget"], "#notices")

    def test_a_body_without_length_is_cut_off(self) -> None:
        def endless():  # type: ignore[no-untyped-def]
            for _ in range(MAX_BODY_BYTES // 100_000 + 5):
                yield b"a" * 100_000

        answer = self.client.post(
            "/settings/you",
            content=endless(),
            headers={"content-type": "application/x-www-form-urlencoded", "transfer-encoding": "chunked"},
        )
        self.assertGreaterEqual(answer.status_code, 400)
        self.assertLess(answer.status_code, 500)

    def test_static_files_stay_in_their_folder(self) -> None:
        for path in ("/static/../app.py", "/static/%2e%2e/app.py", "/static/..%2f..%2fcli.py"):
            self.assertEqual(self.client.get(path).status_code, 404, path)

    def test_too_many_fields(self) -> None:
        answer = self.client.post("/settings/you", data={f"f{i}": "x" for i in range(500)})
        self.assertIn(answer.status_code, (400, 422))
        self.assertNotIn("Traceback", answer.text)


class OpenToTheNetwork(BookCase):
    """A passphrase is hashed at the least cost there is; what it costs in truth is asked once."""

    CHEAP = partial(argon2.PasswordHasher, time_cost=1, memory_cost=8, parallelism=1)

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(mock.patch("walkround.web.security.argon2.PasswordHasher", self.CHEAP))
        self.words = Passphrase(self.folder)
        self.words.choose("four calm herons standing")
        app = create_app(
            self.folder, clock=lambda: self.now, passphrase=self.words, names=frozenset({"field.local", "192.0.2.7"})
        )
        self.client = TestClient(
            app, base_url="http://field.local", headers={"Origin": "http://field.local"}, follow_redirects=False
        )

    def sign_in(self, words: str):  # type: ignore[no-untyped-def]
        return self.client.post("/sign-in", data={"passphrase": words})

    def test_every_page_asks_first(self) -> None:
        for path in ("/", "/logbook.csv", "/rounds/1/record.json", "/hangar"):
            answer = self.client.get(path)
            self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/sign-in"), path)
        answer = self.client.get("/", headers={"HX-Request": "true"})
        self.assertEqual(answer.headers["HX-Redirect"], "/sign-in")
        self.assertEqual(self.client.get(f"{STATIC_PATH}/css/theme.css").status_code, 200)

    def test_right_and_wrong_words(self) -> None:
        wrong = self.sign_in("three calm herons")
        self.assertEqual(wrong.status_code, 422)
        self.assertNotIn("set-cookie", wrong.headers)
        right = self.sign_in("four calm herons standing")
        cookie = right.headers["set-cookie"]
        self.assertIn("HttpOnly", cookie)
        self.assertIn("samesite=strict", cookie.lower())
        self.assertEqual(self.client.get("/").status_code, 200)

    def test_a_forged_cookie(self) -> None:
        for value in ("pilot", "pilot.abc.def", self.words.ticket()[:-2] + "xx"):
            answer = self.client.get("/", headers={"Cookie": f"walkround={value}"})
            self.assertEqual(answer.status_code, 303)

    def test_guessing_is_slowed_down(self) -> None:
        with mock.patch("walkround.web.security.time.monotonic", return_value=1000.0):
            for _ in range(Passphrase.WAIT_AFTER):
                self.sign_in("guess")
            answer = self.sign_in("four calm herons standing")
        self.assertEqual(answer.status_code, 429)
        self.assertIn("Too many wrong passphrases from this device. Wait 30 seconds.", plain(answer.text))

    def test_many_tries_at_once_are_five_tries_one_after_the_other(self) -> None:
        hashed, most, now = [], [], []

        def slow(words: str) -> bool:
            now.append(1)
            most.append(len(now))
            time.sleep(0.01)
            now.pop()
            hashed.append(words)
            return False

        said: list[object] = []

        def go() -> None:
            try:
                said.append(self.words.try_("guess", "192.0.2.1"))
            except BusyError as error:
                said.append(error)

        with mock.patch.object(self.words, "_verified", slow):
            threads = [threading.Thread(target=go) for _ in range(64)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual((len(hashed), max(most), len(said)), (Passphrase.WAIT_AFTER, 1, 64))

    def test_one_device_locks_no_other_out(self) -> None:
        for _ in range(Passphrase.WAIT_AFTER):
            self.assertIs(self.words.try_("guess", "192.0.2.1"), False)
        self.assertGreater(float(self.words.try_("guess", "192.0.2.1")), 25)
        self.assertIs(self.words.try_("four calm herons standing", "192.0.2.2"), True)
        with mock.patch.object(self.words, "_verified", lambda words: False):
            for i in range(2 * Passphrase.ADDRESSES):
                self.words.try_("guess", f"2001:db8::{i:x}")
        self.assertLessEqual(len(self.words._tries), Passphrase.ADDRESSES)
        self.assertNotIsInstance(self.words.try_("guess", "192.0.2.1"), bool, "it still waits")

    def test_the_wait_ends_and_a_right_try_forgets_the_wrong_ones(self) -> None:
        with mock.patch("walkround.web.security.time.monotonic", side_effect=lambda: clock[0]):
            clock = [100.0]
            for _ in range(Passphrase.WAIT_AFTER - 1):
                self.words.try_("guess", "a")
            self.assertIs(self.words.try_("four calm herons standing", "a"), True)
            for _ in range(Passphrase.WAIT_AFTER):
                self.assertIs(self.words.try_("guess", "a"), False)
            clock[0] += Passphrase.WAIT_SECONDS - 1
            self.assertEqual(self.words.try_("four calm herons standing", "a"), 1)
            clock[0] += 1
            self.assertIs(self.words.try_("four calm herons standing", "a"), True)

    def test_a_passphrase_of_megabytes_is_not_hashed(self) -> None:
        with mock.patch.object(self.words, "_verified", side_effect=AssertionError("hashed")):
            self.assertIs(self.words.try_("x" * 1_000_000, "a"), False)

    def test_signing_out_ends_the_ticket_for_whoever_holds_a_copy(self) -> None:
        ticket = self.sign_in("four calm herons standing").cookies["walkround"]
        other = self.words.ticket()
        self.assertEqual(self.client.get("/").status_code, 200)
        self.assertEqual(self.client.post("/sign-out").headers["location"], "/sign-in")
        self.assertFalse(self.words.knows(ticket))
        self.assertTrue(self.words.knows(other), "other devices stay signed in")
        self.assertFalse(Passphrase(self.folder).knows(ticket), "after a restart too")
        self.assertEqual(self.client.get("/", headers={"Cookie": f"walkround={ticket}"}).status_code, 303)
        self.assertEqual(self.words.ended_file.stat().st_mode & 0o077, 0)
        self.words.end("forged.ticket")
        self.assertEqual(len(self.words.ended_file.read_text().splitlines()), 1)

    def test_only_names_that_it_was_told(self) -> None:
        for host, status in (("field.local", 303), ("FIELD.local:8020", 303), ("192.0.2.7", 303), ("127.0.0.1", 303), ("evil.example", 403),
                             ("field.local.evil.example", 403), ("", 403)):  # fmt: skip
            self.assertEqual(self.client.get("/", headers={"Host": host}).status_code, status, host)

    def test_another_scheme_is_another_origin(self) -> None:
        for origin, status in (
            ("https://field.local", 403),
            ("http://field.local", 422),
            ("http://field.local:81", 403),
            ("null", 403),
        ):
            answer = self.client.post("/sign-in", data={"passphrase": "x"}, headers={"Origin": origin})
            self.assertEqual(answer.status_code, status, origin)

    def test_without_encryption_every_page_says_so(self) -> None:
        self.assertIn("Not encrypted", within(self.client.get("/sign-in").text, ".open-air"))
        self.sign_in("four calm herons standing")
        self.assertIn("Not encrypted", within(self.client.get("/").text, ".open-air"))
        self.assertEqual(self.client.get("/authority.crt").status_code, 404)

    def test_what_pages_may_ask_of_the_device(self) -> None:
        """Exactly what the scripts use: the position, a screen that stays on, and how the device lies."""
        policy = self.client.get("/sign-in").headers["Permissions-Policy"]
        allowed = {part.split("=")[0].strip() for part in policy.split(", ") if part.endswith("(self)")}
        folder = Path(security.__file__).parent / "static" / "js"
        script = (folder / "device.js").read_text() + (folder / "compass.js").read_text()
        uses = {
            name
            for name, word in {
                "geolocation": "navigator.geolocation",
                "screen-wake-lock": "navigator.wakeLock",
                "camera": "getUserMedia",
                "accelerometer": "deviceorientation",
                "gyroscope": "deviceorientation",
            }.items()
            if word in script
        }
        self.assertEqual(allowed, uses)

    def test_a_new_passphrase_signs_everyone_out(self) -> None:
        self.sign_in("four calm herons standing")
        self.words.choose("five calm herons standing")
        self.assertEqual(self.client.get("/").status_code, 303)

    def test_kept_as_a_hash_for_its_owner_only(self) -> None:
        with mock.patch("walkround.web.security.argon2.PasswordHasher", self.CHEAP.func):
            self.words.choose("four calm herons standing")
        kept = self.words.hash_file.read_text()
        self.assertTrue(kept.startswith("$argon2id$v=19$m=65536,t=3,p=4$"), "RFC 9106, section 4, second choice")
        self.assertIs(self.words.try_("four calm herons standing", "192.0.2.1"), True)
        self.assertIs(self.words.try_("four calm herons stood", "192.0.2.1"), False)
        self.assertEqual(self.words.hash_file.stat().st_mode & 0o077, 0)
        self.assertEqual(self.words.secret_file.stat().st_mode & 0o077, 0)
