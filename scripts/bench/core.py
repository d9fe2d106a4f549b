"""The core and the store by themselves: plan, hours ahead, ways home, trend, a long table, imports, start."""

import gc
import random
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from itertools import islice
from pathlib import Path
from zoneinfo import ZoneInfo

from scripts.bench import field
from scripts.bench.rows import MOST, Part, Row, stolen, timed, times_row
from tests.browser.support import MORNING, ROOT, Server
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import KIND_GROUPS, Kind, Trait
from walkround.core.checklist.check import Occasion
from walkround.core.checklist.history import Done, Event, EventKind, History, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.flight.return_to_home import TurnPoint, homeward
from walkround.core.packs import table
from walkround.core.packs.pack import Pack
from walkround.core.packs.trend import trend
from walkround.core.round.context import Context
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import Situation
from walkround.core.round.window import parse_series, window
from walkround.demo.scenario import MEADOW
from walkround.simulators.hours import SimulatedHours
from walkround.store import hangar, imports
from walkround.store.book import Book

TABLE_S, ZONES_MS, WAYS_MS, TREND_MS, SPOT_MS, SUN_MS = 4.0, 10.0, 10.0, 5.0, 1000.0, 25.0
PLAN_MS, AHEAD_MS = 2.5, 8.0
TABLES, STARTS, FEWEST_STARTS = 3, 9, 4
CORE_SHARE, WEB_SHARE, START_SHARE = 0.5, 1.4, 2.0
LIBRARIES = "import fastapi, jinja2, peewee, pydantic"


def heaviest() -> Situation:
    """The aircraft that most checks belong to, with all they can ask, ten years of history and every event."""
    groups = [g for g in KIND_GROUPS[Kind.MULTIROTOR] if not g.one]
    traits = {t for group in groups for t in group.traits} | {Trait.SCREWED, Trait.CHARGE_LEDS, Trait.SHOWS_HDOP}
    data = PRESETS["camera-hexa"].model_dump() | {"id": 1, "name": "Heaviest", "traits": traits}
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    years = [now - timedelta(days=3650 * i / len(CHECKS)) for i in range(len(CHECKS))]
    history = History(
        done=tuple(Done(check_id=c.id, at=at) for c, at in zip(CHECKS, years, strict=True)),
        events=(
            *(Event(kind=kind, at=now - timedelta(days=3), position=MEADOW.position) for kind in EventKind),
            *(Event(kind=EventKind.PART_REPLACED, part=part, at=now - timedelta(days=9)) for part in PartKind),
        ),
        pilot_last_flight_at=now - timedelta(days=90), aircraft_flown=True, site_flown=False,
        aircraft_last_flight_at=now - timedelta(days=90), aircraft_last_position=MEADOW.position,
        snags=tuple(Snag(id=i, on=SnagOn.AIRCRAFT, title=f"Snag {i}", grounds=False, opened_at=now) for i in range(20)),
    )  # fmt: skip
    pack = Pack(id=1, label="P", cells=6, capacity_mah=10_000, smart=True)
    return Situation(
        now=now,
        aircraft=Aircraft.model_validate(data),
        pack=pack,
        site=MEADOW,
        history=history,
        occasions=tuple(Occasion),
    )


def plan_ms() -> tuple[list[float], int]:
    """Planning the heaviest aircraft, a value of its own each time, and how many checks come of it."""
    case = heaviest()
    cases = [case.model_copy() for _ in range(300)]
    return [timed(lambda case=case: make_plan(case)) for case in cases][20:], len(make_plan(case).checks)


def trend_ms() -> list[float]:
    """The robust line through 1,000 readings."""
    dice = random.Random(5)
    days = sorted(dice.uniform(0, 900) for _ in range(1000))
    values = [5000 - d + dice.gauss(0, 90) for d in days]
    return [timed(lambda: trend(days, values)) for _ in range(120)][20:]


def ahead_ms() -> tuple[list[float], list[float]]:
    """48 hours for all limits, and the ways home over 500 obstacles."""
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    case = heaviest()
    series = [(weather,) for weather in parse_series(SimulatedHours("gusty").hours(15, now))]
    dice = random.Random(6)
    things = tuple(
        mark_at(MarkKind.TREE, dice.uniform(0, 359), dice.uniform(5, 900), dice.uniform(2, 40))
        for _ in range(500)
    )  # fmt: skip
    site = MEADOW.model_copy(update={"marks": things, "flight_radius_m": 800})
    trip = Context(case.model_copy(update={"site": site}), {}).trip
    place = TurnPoint(distance_m=800, bearing_deg=45, height_m=30)
    # Nothing that was worked out for one counts for the next: each has a series and a situation of its own.
    fresh = [([(hour.model_copy(),) for (hour,) in series], case.model_copy()) for _ in range(60)]
    hours = [timed(lambda hours=hours, case=case: window(hours, case, 60)) for hours, case in fresh][10:]
    ways = [timed(lambda: homeward(trip, place, 60)) for _ in range(60)][10:]
    return hours, ways


def table_s(folder: Path) -> float:
    """Seconds for a table of 100,000 rows for 200 packs, read, judged, written in one transaction, packs brought up to date: the best
    of a few, for no machine keeps its full speed so long."""
    return min(_table_s(folder / str(i)) for i in range(TABLES))


def _table_s(folder: Path) -> float:
    book = Book(folder)
    now = datetime.fromisoformat(MORNING).astimezone(UTC)
    with book.write():
        for i in range(200):
            hangar.save(Pack(label=f"T{i:03d}", cells=3, capacity_mah=2200), now)
    begun = datetime(2025, 4, 10, tzinfo=UTC)  # local time, one summer: no hour is left out or comes twice
    rows = (
        f"T{i % 200:03d};{begun + timedelta(minutes=2 * i):%d.%m.%Y %H:%M:%S};4,{i % 20:02d};4,10;4,11;{20 + i % 5};21"
        for i in range(100_000)
    )
    text = "Pack;Date;Cell 1;Cell 2;Cell 3;IR (mOhm);Temp\n" + "\n".join(rows)

    def take_it() -> None:
        sheet = table.look(text)
        columns = table.guess(sheet, list(islice(table.rows_of(text, sheet), 40)))
        taken = table.take(text, sheet, columns, hangar.everything(Pack), zone=ZoneInfo("Europe/Vienna"), now=now)
        if taken.bad or taken.good != 100_000:
            raise RuntimeError(f"{taken.bad} rows were refused")
        added = imports.add_rows(book, taken.rows, now)
        imports.refresh_all(book, taken.rows, added.number, now)

    took = timed(take_it)
    book.close()
    return took / 1000


def _fresh_ms(code: str) -> float:
    """Milliseconds of a statement in a new interpreter, without the interpreter's own start."""
    timed_code = f"import time; t = time.perf_counter(); {code}; print((time.perf_counter() - t) * 1000)"
    ran = subprocess.run([sys.executable, "-c", timed_code], cwd=ROOT, capture_output=True, text=True, check=True)
    return float(ran.stdout)


def start_part(folder: Path) -> Part:
    """Imports and start, against importing the libraries that they stand on, in turn in the same run."""
    whats: tuple[tuple[str, Callable[[], float], float], ...] = (
        ("Import of the core", lambda: _fresh_ms("import walkround.core.round.record"), CORE_SHARE),
        (
            "Import of the whole web application",
            lambda: _fresh_ms("import walkround.web.app; walkround.web.app.everything()"),
            WEB_SHARE,
        ),
        ("Start to first page, Python's own start and all", lambda: _start_ms(folder), START_SHARE),
    )
    began, libraries, rows = stolen(), [_fresh_ms(LIBRARIES)], []
    for what, one, most in whats:
        tried, good = list[tuple[float, float]](), list[tuple[float, float]]()
        while len(good) < STARTS and len(tried) < MOST * STARTS:
            took, begins = one(), stolen()
            libraries.append(_fresh_ms(LIBRARIES))
            tried.append((took, 2 * took / (libraries[-2] + libraries[-1])))
            if stolen() == began:  # from none of the three
                good.append(tried[-1])
            began = begins
        kept = good if len(good) >= FEWEST_STARTS else tried
        middle, ratio = (statistics.median(values) for values in zip(*kept, strict=True))
        cells = (f"{middle:.0f}", f"{ratio:.2f}x", f"{len(kept)} of {len(tried)}")
        rows.append(Row(what, cells, f"{most:g}x", ratio <= most))
    own = Row("Importing FastAPI, Jinja2, peewee, Pydantic", (f"{statistics.median(libraries):.0f}", ""))
    return Part("Start", ("ms", "against the libraries before and after", "kept of all"), (own, *rows))


def _start_ms(folder: Path) -> float:
    """From the command to the first page, on a book that is there."""
    begun = time.perf_counter()
    server = Server(folder)
    took = (time.perf_counter() - begun) * 1000
    server.stop()
    return took


def core_part(folder: Path) -> Part:
    """Everything but the start."""
    gc.collect()
    gc.freeze()  # as the server does before its first page
    plans, many = plan_ms()
    hours, ways = ahead_ms()
    spots, suns = field.launch_ms()
    took = table_s(folder / "table")
    rows = (
        times_row(f"Plan of the heaviest aircraft, ten years of history ({many} checks)", plans, PLAN_MS, high=False),
        times_row("48 hours ahead for all limits", hours, AHEAD_MS, high=False),
        times_row("Ways home at every height over 500 obstacles", ways, WAYS_MS),
        times_row("Trend over 1,000 readings", trend_ms(), TREND_MS),
        times_row("Zones among 20,000 asked and judged", field.zones_ms(folder / "zones"), ZONES_MS),
        times_row("A better launch spot", spots, SPOT_MS),
        times_row("The sun over a session, with its cures", suns, SUN_MS),
        Row("Table of 100,000 rows into the store, s", (f"{took:.1f}", ""), f"{TABLE_S:g}", took <= TABLE_S),
    )
    return Part("Core and store", ("p50 ms", "p95 ms", "at full speed"), rows)
