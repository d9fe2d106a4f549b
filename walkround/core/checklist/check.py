"""A check: one thing to look at or measure, as data. The library is made of these."""

from datetime import date
from enum import StrEnum
from typing import Any, Literal

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import ANY, For
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.answers import AnyAsk
from walkround.core.answers.tick import AskTick
from walkround.core.base.finding import PRACTICE
from walkround.core.base.struct import Struct
from walkround.core.base.value import KeptStruct
from walkround.core.checklist.history import EventKind, SnagOn


class Station(StrEnum):
    """The eleven places of the walk round, in walking order."""

    BENCH = "bench"
    BAG = "bag"
    FIELD = "field"
    SKY = "sky"
    AIRFRAME = "airframe"
    PACK = "pack"
    POWER = "power"
    SENSORS = "sensors"
    LINK = "link"
    CONTROLS = "controls"
    FIRST_MINUTE = "first-minute"


STATION_TITLES: dict[Station, tuple[str, str]] = {
    Station.BENCH: ("Bench", "At home, with mains power and time"),
    Station.BAG: ("Bag", "Packed, and checked again before you leave"),
    Station.FIELD: ("Field", "Ground, people, air and sun"),
    Station.SKY: ("Sky", "Wind, rain, cloud and cold"),
    Station.AIRFRAME: ("Airframe", "Cold aircraft, nothing plugged in"),
    Station.PACK: ("Pack", "By eye, hand, nose and volts"),
    Station.POWER: ("Power", "Order matters here"),
    Station.SENSORS: ("Sensors", "Compass, level, satellites"),
    Station.LINK: ("Link", "Signal loss and return to home"),
    Station.CONTROLS: ("Controls", "Each stick moves what it should"),
    Station.FIRST_MINUTE: ("First minute", "Hover or climb, test, then land and inspect"),
}


class Frequency(StrEnum):
    """How often a check comes up."""

    LAUNCH = "every launch"
    DAY = "first launch of the day"
    SEASON = "season start and mid-season"
    EVENT = "after an event"


class Depth(StrEnum):
    """How deep a list goes."""

    SHORT = "short"
    NORMAL = "normal"
    FULL = "full"

    @property
    def rank(self) -> int:
        """0 for the short list, 2 for the full one."""
        return _RANK[self]


_RANK = {depth: number for number, depth in enumerate(Depth)}

FROM_FREQUENT_TO_RARE = (Frequency.LAUNCH, Frequency.DAY, Frequency.SEASON, Frequency.EVENT)
"""Cadences from the most frequent to the rarest. Source: the practice."""


class Occasion(StrEnum):
    """What makes a day special: its checks come on top of the base list."""

    CREW = "flight with crew or public"
    OVER_WATER = "over water"
    VIDEO = "video work"
    MAIDEN = "maiden flight"
    AFTER_PAUSE = "after a long pause"
    CLUB_DAY = "club day"
    GUEST = "a student or guest flies"


class Phase(StrEnum):
    """When it is done: before the round is signed, in the air, or after landing."""

    BEFORE = "before"
    AIR = "in the air"
    AFTER_LANDING = "after landing"


class Wording(KeptStruct, frozen=True, kw_only=True):
    """Texts of a check for aircraft with a trait or of a kind, in place of the usual ones; empty ones stay as they are."""

    has: Trait | None = None
    kind: Kind | None = None
    title: str = ""
    how: str = ""
    why: str = ""
    ok: str = ""
    remedy: str = ""
    caution: str = ""

    def fits(self, kind: Kind, features: frozenset[Trait]) -> bool:
        """Whether it is for an aircraft of this kind with these features."""
        return (self.has is None or self.has in features) and (self.kind is None or self.kind is kind)


class Risk(StrEnum):
    """Why a fault keeps it down."""

    AIRCRAFT = "a fault here can bring the aircraft down"
    PEOPLE = "a fault here can hurt someone"
    LAW = "flying without it breaks the rules"

    @property
    def words(self) -> str:
        """The same in few words, for a card."""
        return self.value.replace("a fault here", "it")


class Check(KeptStruct, frozen=True, kw_only=True):
    """One check of the library.

    ``grounds``: a fault here brings it down or hurts someone; otherwise it only spoils the day.
    ``fault``: what a fault means, in one sentence. ``due`` names a rule that decides whether it is due.
    ``adds`` names subjects of ``readiness`` that are judged too whenever the check is answered.
    ``if_skipped``: what takes its place when it is skipped; without that a skipped check that grounds keeps it down.
    ``risk``: why it grounds; ``outdoors``: not asked in a hall; ``indoors``: only there; ``wordings``: other texts for some aircraft, later ones before earlier.
    ``part``: the part of the drawing it belongs to. ``short``: on every list,
    the short one too; ``deep``: only on the full one; ``floor_for``: of which aircraft ``short`` holds.
    ``known`` names a rule of ``round.known``: below the full list it is not asked where the answer is on record.
    ``replaces``: on the short list this one check is asked in place of those.
    ``on_parts``: raised when such a part was replaced. ``occasions``: comes up only on these, or after its events.
    ``method``: "topic=method", comes up only where the pilot follows that method. ``origin``: whose it is. ``only_for``: numbers of the aircraft that a check of
    the pilot's own is for, none: all; ``on_day``: it is for this day only.
    """

    id: str
    station: Station
    title: str
    how: str
    why: str
    grounds: bool
    frequency: Frequency
    events: tuple[EventKind, ...] = ()
    on_parts: tuple[PartKind, ...] = ()
    occasions: tuple[Occasion, ...] = ()
    method: str = ""
    applies: For = ANY
    ask: AnyAsk
    fault: str
    remedy: str
    caution: str = ""
    phase: Phase = Phase.BEFORE
    part: str = ""
    snag_on: SnagOn | None = None
    short: bool = False
    deep: bool = False
    floor_for: For = ANY
    known: str = ""
    replaces: tuple[str, ...] = ()
    due: str = ""
    adds: str = ""
    if_skipped: str = ""
    risk: Risk = Risk.AIRCRAFT
    wordings: tuple[Wording, ...] = ()
    outdoors: bool = False
    indoors: bool = False
    source: str = PRACTICE
    origin: Literal["built-in", "changed", "custom"] = "built-in"
    only_for: tuple[int, ...] = ()
    on_day: date | None = None

    def worded(self, kind: Kind, features: frozenset[Trait]) -> "Check":
        """The check as it reads for an aircraft of this kind with these features."""
        texts: dict[str, Any] = {}
        for wording in self.wordings:
            if wording.fits(kind, features):
                texts |= {n: t for n in ("title", "how", "why", "remedy", "caution") if (t := getattr(wording, n))}
                if wording.ok and isinstance(self.ask, AskTick):
                    texts["ask"] = replace(self.ask, ok=wording.ok)
        return replace(self, **texts) if texts else self


class Gate(Struct, frozen=True, kw_only=True):
    """A step that must come before others because the wrong order does harm."""

    id: str
    blocks: tuple[str, ...]
    needs: tuple[str, ...]
    says: str


class SafeState(Struct, frozen=True, kw_only=True):
    """A state the aircraft is kept in until one of these checks is passed; shown while the list runs."""

    id: str
    says: str
    until: tuple[str, ...]
    applies: For = ANY
