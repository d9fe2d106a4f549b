"""The energy of a session: everything with a battery against the planned flights, what runs out first, what to charge meanwhile."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from enum import StrEnum
from statistics import median

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.base.value import Value
from walkround.core.packs.charge import ChargeRange, from_lights, from_percent
from walkround.core.packs.load import usable_share


class Gear(StrEnum):
    """What has a battery besides the flight packs."""

    TRANSMITTER = "Transmitter"
    GOGGLES = "Goggles"
    SCREEN = "Phone or tablet"
    GROUND = "Ground station"
    CAMERA = "Camera"
    TRACKER = "Tracker"


FIRST_GUESS_H = {
    Gear.TRANSMITTER: 8.0, Gear.GOGGLES: 2.5, Gear.SCREEN: 4.0, Gear.GROUND: 5.0, Gear.CAMERA: 1.5, Gear.TRACKER: 10.0,
}  # fmt: skip
"""Hours from full until it is empty, for gear of which nothing is known. Source: our choice; common practice, no source."""
CHECKS = {"bench.transmitter": Gear.TRANSMITTER, "bench.screen": Gear.SCREEN, "bench.goggles": Gear.GOGGLES}
"""Checks whose answer is a charge of gear."""
BRIGHT_TIMES = 1.5
"""So much more a screen takes at full brightness in the sun (no unit). Source: our choice; common practice, no source."""
FEWEST = 3
"""From so many stretches on the use is the gear's own. Source: our choice."""
SHORTEST_H, LONGEST_H, LEAST_DROP = 0.25, 6.0, 3.0
"""A stretch between two readings tells the use when it is that long and the charge fell that much, in hours and per cent. Source: our choice."""
FRESH_H = 18.0
"""An older reading says nothing of today: the gear may have been used since. In hours. Source: our choice."""
MOST_ON_H = 2.0
"""Since a reading it is taken to be on, for at most so many hours: in between it is switched off. Source: our choice."""
RESERVE = 10.0
"""Below so much per cent gear counts as empty: many switch off before they show nothing. Source: our choice."""


class GearReading(Struct, frozen=True, kw_only=True):
    """A charge that was read (aware time), as a range in per cent."""

    gear: Gear
    at: datetime
    low: float
    high: float

    @property
    def mid(self) -> float:
        """The middle of the range."""
        return (self.low + self.high) / 2


def gear_of(aircraft: Aircraft) -> tuple[Gear, ...]:
    """What a flight with an aircraft needs. Source: its traits."""
    needed = [Gear.TRANSMITTER]
    for trait, gear in (
        (Trait.GOGGLES, Gear.GOGGLES), (Trait.PILOT_SCREEN, Gear.SCREEN), (Trait.FIXED_CAMERA, Gear.CAMERA), (Trait.TRACKER, Gear.TRACKER),
    ):  # fmt: skip
        if aircraft.has(trait):
            needed.append(gear)
    return tuple(needed)


def read_charge(text: str) -> ChargeRange:
    """A charge as it is typed: "80", "80 %", or "3/4" for three of four LEDs. Raises InputError."""
    cleaned = text.replace("%", "").strip()
    lit, slash, of = cleaned.partition("/")
    try:
        if slash:
            if not 2 <= int(of) <= 10:
                raise ValueError
            return from_lights(int(lit), int(of))
        value = float(cleaned.replace(",", "."))
        if not 0 <= value <= 100:
            raise ValueError
    except ValueError:
        raise InputError("Enter a charge such as 80, or 3/4 for three of four LEDs.") from None
    return from_percent(value)


def use_per_hour(readings: Iterable[GearReading]) -> float | None:
    """What gear used in an hour, in per cent, by the median over the stretches of a day; None while few are known.

    Between two readings of a session it is taken to be on. Source: ``FEWEST`` and its neighbours.
    """
    rates = []
    ordered = sorted(readings, key=lambda reading: reading.at)
    for before, after in zip(ordered, ordered[1:], strict=False):
        hours = (after.at - before.at).total_seconds() / 3600
        if SHORTEST_H <= hours <= LONGEST_H and before.mid - after.mid >= LEAST_DROP:
            rates.append((before.mid - after.mid) / hours)
    return median(rates) if len(rates) >= FEWEST else None


class GearLasts(Value):
    """How long one thing lasts from now, in minutes at the low end of its charge; None: its charge is not known."""

    name: str
    minutes: float | None


def gear_lasts(
    gear: Sequence[Gear], latest: Mapping[Gear, GearReading], learned: Mapping[Gear, float], now: datetime
) -> tuple[GearLasts, ...]:
    """How long each thing lasts from an aware time on, in minutes; use in per cent an hour where it is learned. A reading older than ``FRESH_H`` says nothing.

    Since it was read it was on. Source: the pilot's own readings, ``FIRST_GUESS_H``.
    """
    found = []
    for one in gear:
        read = latest.get(one)
        if read is None or not 0 <= (age_h := (now - read.at).total_seconds() / 3600) <= FRESH_H:
            found.append(GearLasts(name=one.value, minutes=None))
            continue
        per_hour = learned.get(one) or 100 / FIRST_GUESS_H[one]
        on_h = min(age_h, MOST_ON_H)
        found.append(GearLasts(name=one.value, minutes=60 * max(0.0, (read.low - RESERVE) / per_hour - on_h)))
    return tuple(found)


class Lasts(Struct, frozen=True, kw_only=True):
    """How long one thing lasts: charge as a range in per cent (None: not known), use in per cent an hour and whether it is learned, hours
    until empty as low and high, and the flight in which it may run out (0: in none)."""

    name: str
    charge: tuple[float, float] | None
    per_hour: float
    learned: bool
    hours: tuple[float, float]
    out_in: int


class Session(Struct, frozen=True, kw_only=True):
    """A session: flights, hours, what lasts how long, and what may run out first (None: nothing)."""

    flights: int
    hours: float
    each_h: float
    things: tuple[Lasts, ...]
    first: Lasts | None


def _flight_at(hours: float, each_h: float, flights: int) -> int:
    """In which flight a time lies; 0 once all are flown."""
    return 0 if hours >= flights * each_h - 1e-9 else int(hours / each_h) + 1


def plan_session(
    gear: Sequence[Gear],
    latest: Mapping[Gear, GearReading],
    learned: Mapping[Gear, float],
    *,
    flights: int,
    flight_min: float,
    between_min: float,
    packs_ready: int,
    now: datetime,
    temperature_c: float = 20.0,
    bright: bool = False,
) -> Session:
    """A session of so many flights with minutes between them; use in per cent an hour where it is learned; temperature in °C; ``now``: aware.

    Judged at the low end of each charge. Gear of unknown charge lasts nothing until it is read. Source: the pilot's own readings,
    ``usable_share`` for the cold.
    """
    each_h = (flight_min + between_min) / 60
    cold = min(1.0, usable_share(temperature_c))
    things = [
        Lasts(
            name="Flight packs",
            charge=None,
            per_hour=0.0,
            learned=True,
            hours=(packs_ready * each_h, packs_ready * each_h),
            out_in=0 if packs_ready >= flights else packs_ready + 1,
        )  # fmt: skip
    ]
    for one in gear:
        own = learned.get(one)
        per_hour = (own or 100 / FIRST_GUESS_H[one]) * (BRIGHT_TIMES if bright and one is Gear.SCREEN else 1.0) / cold
        read = latest.get(one)
        if read is not None and (now - read.at).total_seconds() > 3600 * FRESH_H:
            read = None
        ends = (
            (0.0, 0.0)
            if read is None
            else tuple(max(0.0, charge - RESERVE) / per_hour for charge in (read.low, read.high))
        )
        things.append(
            Lasts(
                name=one.value,
                charge=None if read is None else (read.low, read.high),
                per_hour=per_hour,
                learned=own is not None,
                hours=(ends[0], ends[1]),
                out_in=_flight_at(ends[0], each_h, flights),
            )
        )
    short = [thing for thing in things if thing.out_in]
    return Session(
        flights=flights, hours=flights * each_h, each_h=each_h, things=tuple(things),
        first=min(short, key=lambda thing: thing.hours[0], default=None),
    )  # fmt: skip


def short_by(thing: Lasts, hours: float) -> float:
    """How much charge is missing for a session of so many hours, in per cent, at the low end; 0 where it lasts."""
    return max(0.0, (hours - thing.hours[0]) * thing.per_hour)
