"""What happened before: flights, events, snags, and when each check was last done."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.link_trials import BenchTest, Rehearsal
from walkround.core.aircraft.parts import PartKind
from walkround.core.base.geodesy import Position
from walkround.core.base.kept import kept
from walkround.core.base.units import Quantity
from walkround.core.base.value import Allowed, Value
from walkround.core.flight.estimate import Use
from walkround.core.flight.session import GearLasts
from walkround.core.packs.summary import Summary


class EventKind(StrEnum):
    """Events that raise checks, or that settle them."""

    NEW_BUILD = "new build"
    FIRMWARE = "firmware changed"
    CRASH = "crash"
    HARD_LANDING = "hard landing"
    REPAIR = "repair or setting changed"
    PART_REPLACED = "part replaced"
    CARRIED_FAR = "transported a long way"
    LONG_IDLE = "long break"
    NEW_SITE = "new field"
    BORROWED = "borrowed aircraft"
    COMPASS_CALIBRATED = "compass calibrated"
    ACCELEROMETER_CALIBRATED = "accelerometer calibrated"
    BOARD_RESET = "flight controller reset"
    FAILSAFE_FAILED = "failsafe test failed"
    METAL_CHANGED = "metal, magnet or mount changed"
    COMPASS_ASKED = "it asks for a compass calibration"
    UNSTEADY = "it does not hover steadily"
    OPTICAL_CALIBRATED = "obstacle sensors calibrated"


REPORTABLE = (
    EventKind.NEW_BUILD,
    EventKind.FIRMWARE,
    EventKind.CRASH,
    EventKind.HARD_LANDING,
    EventKind.REPAIR,
    EventKind.CARRIED_FAR,
    EventKind.BORROWED,
    EventKind.BOARD_RESET,
    EventKind.METAL_CHANGED,
    EventKind.COMPASS_ASKED,
    EventKind.UNSTEADY,
    EventKind.OPTICAL_CALIBRATED,
)
"""Events a pilot enters by hand. Calibrations of compass and accelerometer come from their checks, replaced parts from the parts themselves; a long
pause, a new site and a long way since the last flight are seen in the logbook; a failed test comes from the test."""

SETTLING = (EventKind.COMPASS_CALIBRATED, EventKind.ACCELEROMETER_CALIBRATED, EventKind.OPTICAL_CALIBRATED)
"""Events that settle checks instead of raising them."""


class Event(Value):
    """Something that happened to an aircraft."""

    kind: EventKind
    at: datetime
    detail: str = ""
    part: PartKind | None = None
    position: Position | None = None
    site: str = ""


class Done(Value):
    """When a check was last passed on this aircraft, and what was measured."""

    check_id: str
    at: datetime
    value: Quantity | None = None


DECIDES = "test:"
"""Before the id of a check: the snag waits for that check to be passed."""


class SnagOn(StrEnum):
    """What carries the snag."""

    AIRCRAFT = "aircraft"
    PACK = "pack"


class Snag(Value):
    """An open defect on an aircraft or a pack; a grounding one keeps it down until closed. ``parts``: ids of the parts it is on, none where nobody said."""

    id: int
    on: SnagOn
    title: Annotated[str, Allowed(min_length=1, max_length=200)]
    grounds: bool
    check_id: str = ""
    parts: tuple[str, ...] = ()
    opened_at: datetime

    @property
    def decided_by(self) -> str:
        """The check whose pass closes it (id), empty for a snag that is closed by what was done."""
        return self.check_id.removeprefix(DECIDES) if self.check_id.startswith(DECIDES) else ""


class History(Value):
    """A summary of bounded size, gathered by the store for one aircraft, pack, field and day.

    ``aircraft_flown`` and ``site_flown``: whether this aircraft was ever flown, here or before this book, and at this field; None
    where that is not known. ``part_firmware``: what is on its parts, and on the packs, in words such as "receiver 1.4".
    ``uses``: what its newest logged flights used; ``pack_state_of_health``: usable capacity of the pack over its label;
    ``pack_mohm``: resistance of one of its cells in mΩ at 25 °C; each None where not known. ``pack_summary``: what is known
    of the pack in short; ``pack_last_flight_clean``: whether the logbook says that nothing happened on its last flight, None where it
    has none; ``packs_ready``: how many packs that fit are charged. ``bench_test``: the last one of its failsafe; ``rehearsals``: its newest returns
    flown on purpose; ``gear``: how long transmitter and the rest last;
    ``still_usual_s``: after how many s it usually gives its own signal. ``events`` holds the newest of each kind, of replaced parts the newest of each part.
    """

    pack_flights_today: int = 0
    pack_last_flight_at: datetime | None = None
    pack_last_flight_clean: bool | None = None
    pack_typical_min: float | None = None
    pack_typical_flights: int = 0
    pilot_last_flight_at: datetime | None = None
    aircraft_flown: bool | None = None
    aircraft_last_flight_at: datetime | None = None
    aircraft_last_position: Position | None = None
    aircraft_last_site: str = ""
    site_flown: bool | None = None
    part_firmware: tuple[str, ...] = ()
    uses: tuple[Use, ...] = ()
    pack_state_of_health: float | None = None
    pack_mohm: float | None = None
    pack_summary: Summary | None = None
    packs_ready: int | None = None
    rounds_today: int = 0
    done: tuple[Done, ...] = ()
    events: tuple[Event, ...] = ()
    snags: tuple[Snag, ...] = ()
    bench_test: BenchTest | None = None
    rehearsals: tuple[Rehearsal, ...] = ()
    gear: tuple[GearLasts, ...] = ()
    still_usual_s: float | None = None

    def last_done(self, check_id: str) -> Done | None:
        """When the check was last passed (aware time), or None. Source: signed rounds."""
        return self._done_by_id().get(check_id)

    @kept
    def _done_by_id(self) -> dict[str, Done]:
        return {d.check_id: d for d in reversed(self.done)}

    def latest(self, *kinds: EventKind) -> Event | None:
        """The newest event of these kinds (aware time), or None. Source: the aircraft's events."""
        return max((e for e in self.events if e.kind in kinds), key=lambda e: e.at, default=None)
