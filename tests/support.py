"""What the tests share: situations, a clock that stands still, an application on a fresh book."""

import json
import shutil
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from functools import cache
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from selectolax.lexbor import LexborHTMLParser, LexborNode

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, Power
from walkround.core.airspace.rules import Airspace
from walkround.core.answers.kind import Answer
from walkround.core.base.finding import Finding
from walkround.core.base.geodesy import Position
from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Units
from walkround.core.checklist.check import Phase
from walkround.core.checklist.history import Done, Event, EventKind, History
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.field.site import Site
from walkround.core.packs.charge import FULL
from walkround.core.packs.pack import Pack
from walkround.core.packs.summary import Summary
from walkround.core.round.evidence import Evidence
from walkround.core.round.plan import make_plan
from walkround.core.round.record import content_hash
from walkround.core.round.situation import Situation
from walkround.core.weather.weather import Weather
from walkround.demo.scenario import fill
from walkround.demo.walker import good_answer, walked_evidence
from walkround.store import rounds
from walkround.store import settings as store_settings
from walkround.store.book import FILE_NAME, Book
from walkround.store.models import EvidenceRow, RecordRow
from walkround.store.settings import Settings
from walkround.web.app import create_app

NOW = datetime(2026, 5, 16, 7, 40, tzinfo=UTC)
UNITS = Units()
FAST_FOLDER = "/dev/shm" if Path("/dev/shm").is_dir() else None  # full sync to a disk is slow; memory will do here
QUAD: Aircraft = PRESETS["camera-quad"].model_copy(update={"id": 1, "name": "Quad", "firmware": "2.3"})
TRAINER: Aircraft = PRESETS["foam-trainer"].model_copy(update={"id": 2, "name": "Trainer"})
PACK = Pack(id=1, label="P1", cells=3, capacity_mah=3500, smart=True)
PLAIN_PACK = Pack(id=2, label="P2", cells=3, capacity_mah=2200)
SITE = Site(
    id=1,
    name="Test Meadow",
    position=Position(lat_deg=48.2, lon_deg=15.3),
    elevation_m=200,
    timezone="Europe/Vienna",
    marks=(mark_at(MarkKind.TREE, 40, 80, 18),),
)


NO_ZONES = Airspace(near=(), sets=(("Notices", NOW, True),))
CHARGED = Summary(
    cycles=3, readings=3, charge=FULL, charge_at=NOW, full_at=NOW, charged_at=NOW, looked_at=NOW, weakest_v=4.19,
    highest_v=4.2, mean_v=4.195, imbalance_v=0.01,
)  # fmt: skip


def calibrated(days: float = 30, *, site: Site = SITE) -> tuple[Event, ...]:
    """Compass and level calibrated so many days ago at a field."""
    at = NOW - timedelta(days=days)
    return tuple(
        Event(kind=kind, at=at, position=site.position, site=site.name)
        for kind in (EventKind.COMPASS_CALIBRATED, EventKind.ACCELEROMETER_CALIBRATED)
    )


@cache
def season_done(days: float = 10) -> tuple[Done, ...]:
    """Every season check done so many days ago."""
    at = NOW - timedelta(days=days)
    return tuple(Done(check_id=c.id, at=at) for c in CHECKS if c.frequency.value.startswith("season"))


def situation(aircraft: Aircraft = QUAD, **changes: Any) -> Situation:
    """A quiet situation: everything calibrated, season done, flown last week, pack charged this morning, no zone near."""
    history = History(
        done=season_done(), events=calibrated(), pilot_last_flight_at=NOW - timedelta(days=7), pack_summary=CHARGED
    )
    plain = aircraft.rotors <= 1
    base = Situation(
        now=NOW,
        aircraft=aircraft,
        pack=PLAIN_PACK if plain else PACK,
        site=SITE,
        planned_min=4 if plain else 8,
        airspace=NO_ZONES,
        history=history,
    )
    return base.model_copy(update=changes)


def with_history(base: Situation, **changes: Any) -> Situation:
    """The same situation with another history."""
    return base.model_copy(update={"history": base.history.model_copy(update=changes)})


def planned_ids(case: Situation) -> set[str]:
    """Ids on the plan."""
    return {p.check.id for p in make_plan(case).checks}


def said(what: Phrase | Finding, units: Units = UNITS) -> str:
    """A sentence with plain spaces."""
    phrase = what.reason if isinstance(what, Finding) else what
    words = phrase.say(units).replace("\u202f", " ")
    assert "{" not in words, f"a number is missing: {words}"
    return words


def piece(check_id: str, answer: Answer, number: int = 1, at: datetime = NOW) -> Evidence:
    """One piece of evidence."""
    return Evidence(id=number, check_id=check_id, at=at, answer=answer)


def dry_weather(**changes: Any) -> Weather:
    """A calm and complete weather."""
    base = Weather(
        at=NOW,
        wind_ms=3,
        wind_from_deg=240,
        visibility_m=10_000,
        phenomena=(),
        ceiling_known=True,
        temperature_c=15,
        dew_point_c=7,
        qnh_hpa=1016,
    )
    return base.model_copy(update=changes)


def variants() -> list[Aircraft]:
    """Aircraft of every kind, frame, number of motors and power, each with as many traits as can be true together."""
    found = []
    for kind, frames in FRAME_MOTORS.items():
        base = next(a for a in PRESETS.values() if a.kind is kind)
        for frame, numbers in frames.items():
            for motors in numbers:
                for power in (Power.NONE,) if motors == 0 else (Power.ELECTRIC, Power.LIQUID_FUEL):
                    for pick in range(3):
                        traits = {
                            t for g in KIND_GROUPS[kind] for t in (g.traits[pick : pick + 1] if g.one else g.traits)
                        }
                        data = base.model_dump() | {
                            "id": 1, "name": f"{frame} {motors} {power}", "frame": frame, "rotors": motors, "power": power,
                            "traits": traits,
                        }  # fmt: skip
                        found.append(Aircraft.model_validate(data))
    return found


def broken_records() -> list[int]:
    """Numbers of signed rounds whose text no longer matches their hash."""
    return [r.round_id for r in RecordRow.select() if content_hash(r.text) != r.sha256]


@cache
def demo_book() -> tuple[Path, dict[str, int]]:
    """The demo scenario in a book of its own, made once: every test takes a copy."""
    folder = Path(tempfile.mkdtemp(prefix="walkround-demo-", dir=FAST_FOLDER))
    Finalize(None, shutil.rmtree, (folder, True), exitpriority=0)
    book = Book(folder)
    with book.write():
        numbers = fill(NOW)
    book.database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    book.close()
    return folder / FILE_NAME, numbers


class BookCase(unittest.TestCase):
    """A fresh book for every test; ``filled`` puts the demo scenario in."""

    filled = True

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="walkround-test-", dir=FAST_FOLDER))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.numbers: dict[str, int] = {}
        if self.filled:
            made, numbers = demo_book()
            shutil.copy(made, self.folder / FILE_NAME)
            self.numbers = dict(numbers)
        self.book = Book(self.folder)
        self.addCleanup(self.book.close)
        self.now = NOW
        self.settings = store_settings.load() if self.filled else Settings()

    def walk_all(self, round_id: int, **answers: Answer) -> None:
        """Answer everything before take-off that is still open, straight into the book."""
        loaded = rounds.load(round_id, self.settings, self.now)
        given = {name.replace("__", "."): value for name, value in answers.items()}
        have = {e.check_id for e in loaded.evidence}
        for p in walked_evidence(loaded.walk.situation, self.now, answers=given, pace_s=0):
            if p.check_id not in have:
                text = json.dumps(p.answer.model_dump(mode="json"))
                EvidenceRow.create(round=round_id, check_id=p.check_id, at=self.now, by="pilot", answer=text)


def _words(node: LexborNode) -> str:
    """The text of an element with plain spaces."""
    return " ".join(node.text(separator=" ").replace("\u202f", " ").split())


def elements(text: str, css: str) -> list[LexborNode]:
    """The elements of a page, or of a fragment of one, that a selector finds."""
    return LexborHTMLParser(text).css(css)


def within(text: str, css: str) -> str:
    """The text of those elements together, with plain spaces. Fails where there is none."""
    found = elements(text, css)
    assert found, f"nothing on the page is {css}"
    return " ".join(map(_words, found))


def plain(text: str) -> str:
    """The text of what a page is about, with plain spaces: neither its navigation, nor its foot, nor its list of keys."""
    tree = LexborHTMLParser(text)
    node = tree.css_first("main") or tree.body or tree.root
    return "" if node is None else _words(node)


HEADERS = {"Origin": "http://127.0.0.1", "Accept-Encoding": "identity"}
"""What a client of a test sends: nothing needs to be made smaller on its way to it."""


class WebCase(BookCase):
    """The application on a fresh book, with a clock that moves only when told to."""

    def setUp(self) -> None:
        super().setUp()
        self.app = create_app(self.folder, clock=lambda: self.now)
        self.client = self.enterContext(  # entered, it keeps one event loop for all that a test asks
            TestClient(self.app, base_url="http://127.0.0.1", headers=HEADERS, follow_redirects=False)
        )

    def start(self, aircraft: str = "Sandpiper", pack: str = "S1", site: str = "Teasel Common", depth: str = "") -> int:
        """Start a round through the page; returns its number."""
        answer = self.client.post(
            "/rounds",
            data={k: str(self.numbers[v]) for k, v in (("aircraft", aircraft), ("pack", pack), ("site", site))}
            | ({"depth": depth} if depth else {}),
        )
        self.assertEqual(answer.status_code, 303, answer.text)
        return int(answer.headers["location"].rsplit("/", 1)[1])

    def hidden(self, page: str, action: str) -> dict[str, str]:
        """What the form with this address on a page carries unseen: its number, its revision, what it was shown for."""
        found = elements(self.client.get(page).text, f'form[action="{action}"]')[:1]
        fields = [field for form in found for field in form.css("input[type=hidden]")]
        return {str(field.attributes["name"]): field.attributes["value"] or "" for field in fields}

    def filled(self, page: str, action: str) -> dict[str, str]:
        """What a browser would send if nothing were changed in the form with this address on a page."""
        (form,) = elements(self.client.get(page).text, f'form[action="{action}"]')
        sent = {}
        for field in form.css("input[name], textarea[name]"):
            kind, checked = field.attributes.get("type"), "checked" in field.attributes
            if kind not in ("radio", "checkbox") or checked:
                sent[str(field.attributes["name"])] = field.attributes.get("value") or field.text()
        for field in form.css("select[name]"):
            option = field.css_first("option[selected]") or field.css_first("option")
            sent[str(field.attributes["name"])] = option.attributes.get("value") or option.text() if option else ""
        return sent

    def asked_before(self, round_id: int) -> int:
        """How many checks a round asks before it can be signed."""
        return len(rounds.load(round_id, self.settings, self.now).walk.before())

    def answer(self, round_id: int, check_id: str, *, fragment: bool = True, **form: str) -> Any:
        """Send an answer as the page does."""
        headers = {"HX-Request": "true"} if fragment else {}
        form.setdefault("seen", "0")
        return self.client.post(f"/rounds/{round_id}/checks/{check_id}", data=form, headers=headers)

    def signed(self, **start: str) -> int:
        """A round walked and signed."""
        round_id = self.start(**start)
        self.walk_all(round_id)
        answer = self.client.post(f"/rounds/{round_id}/sign", data={"signed_by": "Tamsin Rook"})
        self.assertEqual(answer.status_code, 303, answer.text)
        return round_id


__all__ = ["Phase", "good_answer"]
