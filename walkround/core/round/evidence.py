"""Evidence: what the pilot saw or measured. Append-only; a correction is a new piece, undo is a piece too."""

from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from walkround.core.aircraft.bag import Packed
from walkround.core.aircraft.control_directions import StickSeen
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.base.value import Value
from walkround.core.flight.plan_of_flight import FlightPlan
from walkround.core.packs.reading import CellReading
from walkround.core.sensors.nmea import Fix
from walkround.core.weather.weather import Weather

NOTE_CHARS = 300


class Passed(Value):
    """Looked at and sound."""

    kind: Literal["passed"] = "passed"


class Fault(Value):
    """A fault was found; the note says what."""

    kind: Literal["fault"] = "fault"
    note: str = Field(default="", max_length=NOTE_CHARS)


class Chosen(Value):
    """One of the options, with a note where the option wants one."""

    kind: Literal["chosen"] = "chosen"
    option: str
    note: str = Field(default="", max_length=NOTE_CHARS)


class Measured(Value):
    """A number in the inside unit of the check's measure."""

    kind: Literal["measured"] = "measured"
    value: float


class CellsRead(Value):
    """Cell voltages."""

    kind: Literal["cells"] = "cells"
    reading: CellReading


class Counted(Value):
    """A count that ran for so many seconds."""

    kind: Literal["counted"] = "counted"
    seconds: float


class FixRead(Value):
    """A positioning reading."""

    kind: Literal["fix"] = "fix"
    fix: Fix


class WeatherRead(Value):
    """A weather reading."""

    kind: Literal["weather"] = "weather"
    weather: Weather


class RotorsSeen(Value):
    """What was seen at each rotor."""

    kind: Literal["rotors"] = "rotors"
    seen: tuple[RotorSeen, ...] = Field(max_length=8)


class ControlDirectionsSeen(Value):
    """What each stick movement really moved."""

    kind: Literal["control_directions"] = "control_directions"
    seen: tuple[StickSeen, ...] = Field(max_length=12)


class BagPacked(Value):
    """One pass through the bag."""

    kind: Literal["packed"] = "packed"
    packed: Packed


class Planned(Value):
    """The plan of the flight."""

    kind: Literal["planned"] = "planned"
    plan: FlightPlan


class Skipped(Value):
    """Not done, with the reason that stays on the record."""

    kind: Literal["skipped"] = "skipped"
    reason: str = Field(min_length=1, max_length=NOTE_CHARS)


class Undone(Value):
    """Takes back an earlier piece of evidence."""

    kind: Literal["undone"] = "undone"
    of: int


Answer = Annotated[
    Passed
    | Fault
    | Chosen
    | Measured
    | CellsRead
    | Counted
    | FixRead
    | WeatherRead
    | RotorsSeen
    | ControlDirectionsSeen
    | BagPacked
    | Planned
    | Skipped
    | Undone,
    Field(discriminator="kind"),
]


class Evidence(Value):
    """One piece of evidence: for which check, when, from whom (the pilot or a device), and the answer."""

    id: int
    check_id: str
    at: datetime
    by: str = "pilot"
    answer: Answer

    @property
    def simulated(self) -> bool:
        """Whether a simulated device gave it: good for trying out, never for a flight."""
        return self.by.startswith("simulated")


def live(evidence: Iterable[Evidence]) -> list[Evidence]:
    """The pieces that still count, oldest first: everything but undo pieces and what they took back.

    Source: append-only evidence, as the design says.
    """
    pieces = list(evidence)
    gone = {piece.answer.of for piece in pieces if isinstance(piece.answer, Undone)}
    return [p for p in pieces if p.id not in gone and not isinstance(p.answer, Undone)]


def current(evidence: Iterable[Evidence]) -> dict[str, Evidence]:
    """The newest counting piece for each check id. Source: append-only evidence, as the design says."""
    return {piece.check_id: piece for piece in live(evidence)}
