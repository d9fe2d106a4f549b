"""A book a hundred times the demo's, for the benchmark: 10,000 flights, 200 packs, 2,000 signed rounds."""

import json
import random
from datetime import datetime, timedelta

from peewee import fn

from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import Reading
from walkround.core.packs.table import BY_TABLE
from walkround.core.round.consequences import Happened
from walkround.core.round.record import canonical, content_hash
from walkround.demo.scenario import PILOT, fill, keep_walked
from walkround.store import hangar, imports
from walkround.store.book import Book
from walkround.store.models import EvidenceRow, FlightRow, PackRow, RecordRow, RoundRow
from walkround.store.settings import Settings
from walkround.store.situation import gather

FLIGHTS, PACKS, ROUNDS = 100, 2, 20
"""For each time that the book is as large as the demo's."""
READINGS = 100
"""For each pack."""
BATCH = 60


def fill_large(book: Book, now: datetime, times: int = 100) -> None:
    """Fill an empty book as it stands at ``now`` (aware), so many times as large as the demo's."""
    with book.write():
        numbers = fill(now)
        quad_packs = [numbers["S1"], numbers["S2"]]
        for i in range(times * PACKS - PackRow.select().count()):
            smart = i % 2 == 0
            pack = Pack(
                label=f"L{i:03d}", cells=3, capacity_mah=3000, smart=smart, charged_at=now - timedelta(days=i % 40)
            )
            number = hangar.save(pack, now)
            if smart:
                quad_packs.append(number)
    begun = now - timedelta(days=400)
    with book.write():
        situation = gather(
            numbers["Sandpiper"], numbers["S1"], numbers["Teasel Common"], now=begun, settings=Settings(pilot=PILOT)
        )
        pattern = keep_walked(situation, begun, PILOT)
    _rounds(book, pattern, begun, times * ROUNDS)
    _flights(book, numbers, quad_packs, now, times * FLIGHTS)
    _readings(book, now)


def _rounds(book: Book, pattern: int, begun: datetime, many: int) -> None:
    """The pattern round again and again, with numbers and times of its own."""
    base = RoundRow.get_by_id(pattern)
    record = json.loads(RecordRow.get(RecordRow.round == pattern).text)
    evidence = list(EvidenceRow.select().where(EvidenceRow.round == pattern).order_by(EvidenceRow.id))
    for start in range(2, many, BATCH):
        with book.write():
            for i in range(start, min(start + BATCH, many)):
                at = begun + timedelta(hours=4.5 * i)
                signed_at = at + timedelta(minutes=25)
                number = int(
                    RoundRow.insert(
                        aircraft=base.aircraft_id,
                        pack=base.pack_id,
                        site=base.site_id,
                        started_at=at,
                        situation=base.situation,
                        state="signed",
                        signed_at=signed_at,
                        level=base.level,
                    ).execute()
                )
                rows = [
                    {"round": number, "check_id": e.check_id, "at": at, "by": e.by, "answer": e.answer}
                    for e in evidence
                ]
                EvidenceRow.insert_many(rows).execute()
                first = int(EvidenceRow.select(fn.MAX(EvidenceRow.id)).scalar()) - len(rows) + 1
                record |= {"round_id": number, "signed_at": _text(signed_at)}
                for place, piece in enumerate(record["evidence"]):
                    piece |= {"id": first + place, "at": _text(at)}
                text = canonical(record)
                RecordRow.insert(
                    round=number, text=text, sha256=content_hash(text), signed_by=PILOT, signed_at=signed_at
                ).execute()


def _text(moment: datetime) -> str:
    """A time as records have it."""
    return moment.isoformat().replace("+00:00", "Z")


def _readings(book: Book, now: datetime) -> None:
    """A hundred readings of each pack, cells and resistance, every few days."""
    dice = random.Random(3)
    rows = {}
    for pack in hangar.everything(Pack, retired=True):
        rows[pack.id] = [
            Reading(
                at=now - timedelta(days=3 * i + 1, minutes=pack.id),
                cells_v=tuple(round(3.82 + dice.uniform(-0.02, 0.02), 3) for _ in range(pack.cells)),
                resistance_mohm=tuple(round(5 + dice.uniform(0, 1), 2) for _ in range(pack.cells)),
                temperature_c=21.0,
                by=BY_TABLE,
            )
            for i in range(READINGS)
        ]
    added = imports.add_rows(book, rows, now)
    imports.refresh_all(book, rows, added.number, now)


def _flights(book: Book, numbers: dict[str, int], packs: list[int], now: datetime, many: int) -> None:
    rows = []
    for i in range(many - FlightRow.select().count()):
        off = now - timedelta(hours=1 + 3.1 * i)
        rows.append(
            {
                "aircraft": numbers["Sandpiper"],
                "pack": packs[i % len(packs)],
                "site": numbers["Teasel Common"],
                "took_off_at": off,
                "landed_at": off + timedelta(minutes=6 + i % 7),
                "minutes": 6 + i % 7,
                "left_percent": 40 + i % 30,
                "happened": Happened.NOTHING.value,
                "note": "",
                "logged_at": off + timedelta(minutes=15),
            }
        )
    with book.write():
        for start in range(0, len(rows), 500):
            FlightRow.insert_many(rows[start : start + 500]).execute()
