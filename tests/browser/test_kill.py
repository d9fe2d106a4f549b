"""Killed at any moment: every answer that was shown as saved is there."""

import random
import re
import shutil
import tempfile
import threading
import unittest
from pathlib import Path

import httpx2

from tests.browser.support import Server
from walkround.store.book import FILE_NAME
from walkround.store.migrations.steps import MIGRATIONS
from walkround.store.wholeness import examine


class Killed(unittest.TestCase):
    SECONDS_A_TEST = 15
    FILLS_GAPS = False

    ROUNDS = 3

    def test_every_answer_shown_as_saved_is_there(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="walkround-kill-"))  # a real disk: full sync is what is tested
        self.addCleanup(shutil.rmtree, folder, ignore_errors=True)
        dice = random.Random(20260516)
        shown = 0
        for _ in range(self.ROUNDS):
            server = Server(folder / "demo")
            try:
                shown += self.answer_until_killed(server, dice.uniform(0.3, 1.0))
            finally:
                server.kill()
        self.assertGreater(shown, 10, "the test answered too little to say anything")
        self.assertEqual(examine(folder / "demo" / FILE_NAME).schema, MIGRATIONS[-1][0])

    def answer_until_killed(self, server: Server, after_s: float) -> int:
        client = httpx2.Client(base_url=server.base, headers={"Origin": server.base, "HX-Request": "true"})
        start = client.post("/rounds", data={"aircraft": "1", "pack": "1", "site": "1"})
        base = start.headers["HX-Redirect"]
        page = client.get(base).text
        threading.Timer(after_s, server.kill).start()
        seen, shown, last = "0", 0, ""
        for number in range(500):
            note = f"fault number {number}"
            try:
                answer = client.post(
                    f"{base}/checks/airframe.shell", data={"action": "fault", "note": note, "seen": seen}
                )
            except httpx2.HTTPError:
                break
            self.assertEqual(answer.status_code, 200)
            self.assertIn(note, answer.text)
            shown, last = shown + 1, note
            edit = client_get(client, f"{base}?check=airframe.shell&edit=1")
            if edit is None:
                break
            seen = re.search(r'name="seen" value="(\d+)"', edit).group(1)  # type: ignore[union-attr]
        client.close()
        server.process.wait(10)
        self.assertIn("airframe", page)
        again = Server(server.folder)
        try:
            found = httpx2.get(f"{again.base}{base}?check=airframe.shell").text
            if last:
                # The last one shown is there; one more may have been kept and never shown.
                ahead = f"fault number {int(last.split()[-1]) + 1}"
                self.assertTrue(last in found or ahead in found, f"{last} was shown as saved and is gone")
            done = re.search(r"(\d+) of \d+ done", found)
            self.assertIsNotNone(done)
        finally:
            again.stop()
        return shown


def client_get(client: httpx2.Client, address: str) -> str | None:
    """The page, or None when the server is gone."""
    try:
        return client.get(address).text
    except httpx2.HTTPError:
        return None
