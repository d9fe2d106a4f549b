"""Every address and form of the application, with hostile values: never a fault, never slow, never markup let through.

The routes come from the application's own table, the fields from its own pages. ``WALKROUND_FUZZ=40000`` sends more; the
seed is printed when something is found.
"""

import os
import random
import re
import time
from typing import Any
from unittest import mock

from tests.support import WebCase
from walkround.store.models import AircraftRow, PackRow, RoundRow, SiteRow
from walkround.web.app import everything
from walkround.web.security import MAX_BODY_BYTES

REQUESTS = int(os.environ.get("WALKROUND_FUZZ", "1200"))
SEED = int(os.environ.get("WALKROUND_FUZZ_SEED", "20261127"))
MARKUP = "<img src=x onerror=alert(7)>"
TEXTS = (
    "", " ", "0", "1", "2", "-1", "7", "1e308", "-1e308", "nan", "inf", "-0", "0x10", "1.5", "1,5", "9" * 17, "9" * 400, "9" * 5000, "٣", "½",
    MARKUP, f'">{MARKUP}', "{{7*7}}", "{v}", "%s%n", "' OR 1=1 --", "../../etc/passwd", "\x00", "a\x00b", "\ud83d\ude00".encode("utf-16", "surrogatepass").decode("utf-16"), "\u202etxt", "x" * 3000,
    "é" * 500, "\r\nSet-Cookie: a=b", "2026-05-16", "0001-01-01", "9999-12-31", "2026-02-30", "24:61", "2026-05-16T10:00+25:00", "on", "true", "null", "[]", "{}", "None",
    "METAR ZZTC 160730Z 21005KT 9999 SCT040 18/09 Q1015", "TAF ZZTC 160500Z 1606/1612 23006KT 9999 FEW030", "$GPGGA,074000,4813.278,N,01519.908,E,1,12,0.9,200,M,,M,,*47",
    '{"type":"FeatureCollection","features":[]}', '{"type":"FeatureCollection","features":[{"type":"Feature","geometry":{"type":"Point","coordinates":[' + "9" * 400 + ',48]},"properties":{"radius_m":1' + "0" * 500 + "}}]}",
    "[" * 3000, '{"hours":[{"at":"0001-01-01T00:00+00:00","wind_ms":3,"temperature_c":14}]}', "Pack;Date;Cell 1\nH1;16.05.2026 09:40;4,1", "Pack;" * 4000 + "\n1", "<gpx><wpt lat='x'/></gpx>",
    '<!DOCTYPE a [<!ENTITY b "c">]><gpx>&b;</gpx>', "48.2, 15.3", "-33.87 S, 151 W", "geo:1,1", "Europe/Vienna", "../Europe", "H1", "Sandpiper", "fault", "pass", "skip", "take", "device", "shown",
)  # fmt: skip


class Hostile(WebCase):
    """One book under fire, restored whenever too much of it is gone to go on."""

    def setUp(self) -> None:
        for name in (
            "walkround.web.compass_live.SECONDS",
            "walkround.web.compass_live.BY_HAND_S",
            "walkround.web.controller.LIVE_S",
            "walkround.web.level.STILL_S",
        ):  # a turn lasts as long as its hand
            self.enterContext(mock.patch(name, 1.5))
        self.enterContext(mock.patch("anyio.sleep", mock.AsyncMock()))
        super().setUp()
        self.dice = random.Random(SEED)
        self.rounds = [self.start(), self.signed()]
        self.routes = [
            (method, route.path, sorted(set(re.findall(r"{(\w+)}", route.path))))
            for route in everything()
            for method in sorted(route.methods & {"GET", "POST"})
        ]
        self.fields = self.found_fields()

    def found_fields(self) -> dict[str, list[str]]:
        """Names of fields by the address of their form, read from the pages; of all of them under ""."""
        found: dict[str, set[str]] = {
            "": {
                "seen",
                "revision",
                "action",
                "number",
                "note",
                "option",
                "reason",
                "round",
                "page",
                "from",
                "minutes",
                "sel",
            }
        }
        places = {
            "round_id": self.rounds[0],
            "site_id": 1,
            "aircraft_id": 1,
            "pack_id": 4,
            "check_id": "pack.cells",
            "preset": "camera-quad",
        }
        for method, path, names in self.routes:
            if method != "GET" or not set(names) <= set(places):
                continue
            text = self.client.get(path.format(**{n: places[n] for n in names})).text
            for form in re.findall(r"<form(.*?)</form>", text, re.DOTALL):
                inside = set(re.findall(r'name="([^"{]+)"', form))
                address = (re.findall(r'action="([^"]+)"', form) or [path])[0]
                found.setdefault(re.sub(r"/\d+", "/1", address), set()).update(inside)
                found[""] |= inside
        return {address: sorted(names) for address, names in found.items()}

    def text(self) -> str:
        return self.dice.choice(TEXTS)

    def place(self, name: str) -> str:
        """A value for a part of an address: mostly one that leads somewhere."""
        good = {
            "round_id": [str(n) for n in self.rounds], "site_id": ["1", "2"], "aircraft_id": ["1", "2", "3"], "pack_id": ["1", "4", "5"],
            "check_id": ["pack.cells", "sky.weather", "sensors.satellites", "airframe.shell", "bag.first_pass", "field.people", "custom.1"], "snag_id": ["1"], "number": ["1", "2"],
            "preset": ["camera-quad"], "which": ["walk-round-list"],
        }  # fmt: skip
        if name in good and self.dice.random() < 0.8:
            return self.dice.choice(good[name])
        from urllib.parse import quote

        return quote(self.text()[:600], safe="") or "0"

    def form(self, address: str) -> dict[str, Any]:
        own = self.fields.get(re.sub(r"/\d+", "/1", address), [])
        names = [n for n in own if self.dice.random() < 0.8] + [
            self.dice.choice(self.fields[""]) for _ in range(self.dice.randrange(3))
        ]
        good = {
            "id": "1",
            "kind": "fixed wing",
            "frame": "high wing",
            "power": "electric",
            "name": "Kite",
            "terrain": "open grass",
            "chemistry": "not known",
        }
        values: dict[str, Any] = {}
        for name in names:
            text = good[name] if name in good and self.dice.random() < 0.5 else self.text()
            values[name] = [text, self.text()] if self.dice.random() < 0.08 else text
        return values

    def send(self, method: str, path: str, names: list[str]) -> tuple[str, Any]:
        address = path.format(**{name: self.place(name) for name in names})
        headers = {"HX-Request": "true"} if self.dice.random() < 0.3 else {}
        if method == "GET":
            query = {self.dice.choice(self.fields[""]): self.text()[:2000] for _ in range(self.dice.randrange(4))}
            return f"GET {address[:200]} {str(query)[:300]}", self.client.get(address, params=query, headers=headers)
        form, roll = self.form(address), self.dice.random()
        said = f"POST {address[:200]} {str(form)[:400]}"
        if roll < 0.08:
            files = {
                self.dice.choice(["file", "map", "photo", "zones"]): (
                    "a.bin",
                    self.dice.choice(
                        (
                            b"",
                            b"\xff\xfe\x00",
                            b"RIFF\xff\xff\xff\xffWEBPVP8X" + b"\xff" * 40,
                            self.text().encode("utf-8", "replace"),
                        )
                    ),
                )
            }
            return said + " with a file", self.client.post(address, data=form, files=files, headers=headers)
        if roll < 0.14:
            kind = self.dice.choice(
                [
                    "application/json",
                    "text/plain",
                    "multipart/form-data",
                    "multipart/form-data; boundary=x",
                    "application/x-www-form-urlencoded; charset=utf-16",
                    "x",
                ]
            )
            body = self.dice.choice(
                (b"{", b"\xff\xfe" * 40, b"a=%ff%fe&b=%zz", b"--x\r\n\r\n", b"&" * 3000, b"a" * 20_000)
            )
            return said + f" as {kind}", self.client.post(
                address, content=body, headers=headers | {"content-type": kind}
            )
        return said, self.client.post(address, data=form, headers=headers)

    def test_never_a_fault_never_slow_never_markup(self) -> None:
        """Below 500 (503 with words aside), at most two seconds of work, at most a megabyte, and no tag that was sent."""
        slowest, seen = 0.0, set()
        for i in range(REQUESTS):
            method, path, names = (
                self.routes[i % len(self.routes)] if i < 3 * len(self.routes) else self.dice.choice(self.routes)
            )
            begun = time.process_time()
            said, answer = self.send(method, path, names)
            took = time.process_time() - begun
            slowest = max(slowest, took)
            seen.add((method, path))
            where = f"seed {SEED}, request {i}: {said}"
            self.assertTrue(answer.status_code < 500 or answer.status_code == 503, f"{answer.status_code} {where}")
            self.assertLess(took, 2.0, where)
            self.assertLess(len(answer.content), 1_000_000, where)
            if "html" in answer.headers.get("content-type", ""):
                self.assertNotIn(MARKUP, answer.text, where)
                self.assertNotIn("Traceback", answer.text, where)
            if i % 200 == 199:
                self.whole_again()
        self.assertEqual(seen, {(m, p) for m, p, _ in self.routes}, "every route was met")

    def whole_again(self) -> None:
        """Whatever was sent, the book still holds and opens."""
        for path in ("/", "/hangar", "/packs", "/settings", "/logbook", "/checks"):
            self.assertEqual(self.client.get(path).status_code, 200, path)
        for row, path in (
            (AircraftRow, "/hangar/aircraft"),
            (PackRow, "/packs"),
            (SiteRow, "/fields"),
            (RoundRow, "/rounds"),
        ):
            for number in [r.id for r in row.select(row.id).limit(12)]:
                self.assertEqual(self.client.get(f"{path}/{number}").status_code, 200, f"{path}/{number}")

    def test_bodies_that_are_too_much(self) -> None:
        for size in (MAX_BODY_BYTES + 1, 40_000_000):
            answer = self.client.post(
                "/settings/you", content=b"a" * size, headers={"content-type": "application/x-www-form-urlencoded"}
            )
            self.assertEqual(answer.status_code, 413)
