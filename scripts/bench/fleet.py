"""Pilots and aircraft that the demo has not: a hall with a small helicopter, a racing quad on its fifth pack, a maiden. Invented."""

from datetime import datetime, timedelta
from pathlib import Path

from walkround.core.aircraft.presets import PRESETS
from walkround.core.checklist.check import Frequency
from walkround.core.checklist.history import EventKind
from walkround.core.checklist.library import CHECKS
from walkround.core.field.site import Site
from walkround.core.packs.pack import Chemistry, Pack
from walkround.core.packs.reading import After, Reading
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round.consequences import Happened
from walkround.demo.scenario import MEADOW, PILOT, keep_walked
from walkround.store import hangar, packs
from walkround.store.book import Book
from walkround.store.models import DoneRow, FlightRow
from walkround.store.settings import load
from walkround.store.situation import gather
from walkround.web.choice import NOTHING_ASKED, with_depth

HALL = Site(
    name="Old riding hall", position=MEADOW.position, timezone=MEADOW.timezone, indoors=True, nets=True, flight_radius_m=12, flight_height_m=4,
)  # fmt: skip
TRACK = Site(
    name="Willow Track",
    position=MEADOW.position,
    timezone=MEADOW.timezone,
    flight_radius_m=60,
    flight_height_m=12,
    station="ZZTC",
)
RACER, HELICOPTER, MAIDEN, FAULTY = "Stonechat", "Gnat", "Bittern", "Dunlin"
FLOWN = 40
RACING_PACKS = ("R1", "R2", "R3", "R4", "R5")


def _flown(aircraft: int, pack: int, site: int, off: datetime, number: int | None = None) -> None:
    FlightRow.create(
        round=number, aircraft=aircraft, pack=pack, site=site, took_off_at=off, landed_at=off + timedelta(minutes=4), minutes=4.0,
        left_percent=35, happened=Happened.NOTHING.value, note="", logged_at=off + timedelta(minutes=5),
    )  # fmt: skip


def _charged(label: str, cells: int, mah: float, at: datetime, *, smart: bool = False) -> int:
    pack = Pack(
        label=label, chemistry=Chemistry.LIPO, cells=cells, capacity_mah=mah, charged_at=at, c_rate=60, smart=smart
    )
    number = hangar.save(pack, at)
    volts = tuple(4.19 for _ in range(cells))
    packs.keep(number, Reading(at=at, cells_v=volts, percent=100, after=After.CHARGE, since_min=0))
    packs.refresh(number, at)
    return number


def _known(aircraft: int, pack: int, site: int, now: datetime) -> None:
    """Flown often, the season's inspection done."""
    for i in range(FLOWN):
        _flown(aircraft, pack, site, now - timedelta(days=3 + i, hours=1))
    seasonal = [check.id for check in CHECKS if check.frequency in (Frequency.SEASON, Frequency.EVENT)]
    at = now - timedelta(days=10)
    for kind in (EventKind.COMPASS_CALIBRATED, EventKind.ACCELEROMETER_CALIBRATED):
        hangar.add_event(aircraft, kind, at, position=MEADOW.position, site=MEADOW.name)
    DoneRow.replace_many(
        [{"aircraft": aircraft, "check_id": name, "at": at, "value": None} for name in seasonal]
    ).execute()


def add_others(folder: Path, now: datetime) -> None:
    """Put the other pilots' things into a demo book (``now`` aware)."""
    book = Book(folder)
    settings = load()
    with book.write():
        hall = hangar.save(HALL, now)
        heli = hangar.save(PRESETS["heli-coaxial"].model_copy(update={"name": HELICOPTER}), now)
        _known(heli, _charged("W1", 2, 350, now - timedelta(hours=14)), hall, now)
        hangar.save(PRESETS["twin"].model_copy(update={"name": MAIDEN, "mass_g": 3_000.0, "cells": 6}), now)
        _charged("B1", 6, 5_000, now - timedelta(hours=14))
        quad = hangar.save(PRESETS["camera-quad"].model_copy(update={"name": FAULTY, "firmware": "2.3"}), now)
        meadow = next(site for site in hangar.everything(Site) if site.name == MEADOW.name).id
        _known(quad, _charged("F1", 3, 3_500, now - timedelta(hours=14), smart=True), meadow, now)
        racer = hangar.save(PRESETS["race-quad"].model_copy(update={"name": RACER}), now)
        field = hangar.save(TRACK, now)
        charged = [_charged(label, 4, 1_500, now - timedelta(hours=14)) for label in RACING_PACKS]
        _known(racer, charged[0], field, now)
        for i, pack in enumerate(charged[:-1]):
            begun = now - timedelta(minutes=100 - 22 * i)
            situation = gather(racer, pack, field, now=begun, settings=settings)
            situation = situation.model_copy(update={"methods": ChosenMethods()})
            number = keep_walked(with_depth(situation, NOTHING_ASKED), begun, PILOT)
            _flown(racer, pack, field, begun + timedelta(minutes=8), number)
    book.close()
