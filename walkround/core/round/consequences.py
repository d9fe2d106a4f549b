"""What follows: from an answer a snag or a calibration, from a flight an event and snags. The store only keeps it."""

from datetime import datetime
from enum import StrEnum

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.answers.choice import AskChoice, Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.timer import Counted
from walkround.core.answers.ways_out import Fault
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.base.struct import Struct
from walkround.core.base.units import Units
from walkround.core.calibration.still import StillStart
from walkround.core.checklist.check import Check
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.packs.pack import PackState
from walkround.core.packs.reading import Reading
from walkround.core.pilot.accident import Occurrence

CALIBRATES = {
    "sensors.compass": EventKind.COMPASS_CALIBRATED,
    "sensors.accelerometer": EventKind.ACCELEROMETER_CALIBRATED,
}
"""Checks that, once passed, are events of the aircraft. Source: the checks themselves."""
TITLE_CHARS = 200


class Happened(StrEnum):
    """What happened on a flight."""

    NOTHING = "nothing"
    WARNING = "warning"
    PACK_ERROR = "pack error"
    HARD_LANDING = "hard landing"
    CRASH = "crash"
    LOST = "lost"
    NEAR_MISS = "near miss"


HAPPENED_WORDS = {
    Happened.NOTHING: "Nothing to report",
    Happened.WARNING: "A warning or an odd sound",
    Happened.PACK_ERROR: "The pack showed an error or faded",
    Happened.HARD_LANDING: "Hard landing or tip-over",
    Happened.CRASH: "Crash",
    Happened.LOST: "Lost: not found yet",
    Happened.NEAR_MISS: "Near miss",
}


class NewSnag(Struct, frozen=True, kw_only=True):
    """A snag to be opened: on what, its words, and whether it grounds."""

    on: SnagOn
    title: str
    grounds: bool
    parts: tuple[str, ...] = ()


def snag_from(check: Check, answer: Answer, findings: tuple[Finding, ...], aircraft: Aircraft) -> NewSnag | None:
    """The snag that an answer opens, or None: a fault found, or a choice or drawing that is not clear.

    Its words are the pilot's note, else what was found. Source: a fault stays until it is put right; common practice,
    no source.
    """
    if check.snag_on is None:
        return None
    if isinstance(answer, Chosen) and (check.id, answer.option) in CONDEMNED:
        return None  # the pack itself is out; there is nothing left to close
    if isinstance(answer, Chosen) and _passing(check, answer):
        return None
    level = worst(findings)
    seen = answer.opens_snag and level > Level.CLEAR
    if not (isinstance(answer, Fault) or seen):
        return None
    words = answer.note if isinstance(answer, Fault | Chosen) else ""
    if not words and not isinstance(answer, Fault | Chosen):
        words = max(findings, key=lambda f: f.level).reason.say(Units())
    title = (words or check.fault).rstrip(".")[:TITLE_CHARS]
    parts = answer.parts_at_fault(check.ask, aircraft) if check.snag_on is SnagOn.AIRCRAFT else ()
    grounds = check.grounds and level is Level.GROUNDED
    return NewSnag(on=check.snag_on, title=title, grounds=grounds, parts=parts)


def _passing(check: Check, answer: Chosen) -> bool:
    """Whether an answer speaks of this moment only, and leaves nothing to repair."""
    options = check.ask.options if isinstance(check.ask, AskChoice) else ()
    return any(option.passing for option in options if option.id == answer.option)


class PackConsequences(Struct, frozen=True, kw_only=True):
    """What an answer brings for the pack: a reading, and a change of state with its reason."""

    reading: Reading | None = None
    state: PackState | None = None
    reason: str = ""
    condemned: bool = False


CONDEMNED = (("pack.body", "out"), ("pack.again", "out"))
"""The checks and their options after which a pack never flies again. Source: the checks themselves."""
FROM_RECORD = ("record", "weather report", "last round")
"""Who says a value that was taken from the record: it is no new reading."""


def pack_consequences(check: Check, answer: Answer, at: datetime, by: str) -> PackConsequences:
    """What an answer brings for the pack (V, per cent, °C; aware time): readings are kept in its own history too.

    Source: a swollen, punctured, leaking or sweet-smelling pack is never flown again; common practice, no source.
    """
    if by in FROM_RECORD:
        return PackConsequences()
    if (reading := answer.pack_reading(at, by)) is not None:
        return PackConsequences(reading=reading)
    if isinstance(answer, Measured) and check.id == "pack.temperature":
        return PackConsequences(reading=Reading(at=at, temperature_c=answer.value, by=by))
    if isinstance(answer, Chosen) and (check.id, answer.option) in CONDEMNED:
        reason = answer.note or "swollen, punctured, leaking or smelling"
        return PackConsequences(state=PackState.RETIRED, reason=reason, condemned=True)
    return PackConsequences()


def calibration_from(check_id: str, answer: Answer) -> EventKind | None:
    """The calibration that an answer stands for, or None. Source: ``CALIBRATES``."""
    return CALIBRATES.get(check_id) if isinstance(answer, Passed) else None


def start_from(answer: Answer, at: datetime) -> StillStart | None:
    """The start that an answer timed at an aware moment, or None. Source: the count itself."""
    if not isinstance(answer, Counted) or answer.signal_s is None:
        return None
    return StillStart(at=at, seconds=answer.signal_s)


def after_flight(what: Happened, note: str) -> tuple[EventKind | None, tuple[NewSnag, ...]]:
    """The event and the snags that follow from what happened on a flight.

    After a crash aircraft and pack stay down until they were looked over. Source: after any crash all of the walk round
    again, a crashed pack never flies; common practice, no source.
    """
    if what is Happened.PACK_ERROR:
        return None, (NewSnag(on=SnagOn.PACK, title=f"Error in flight: {note}"[:TITLE_CHARS], grounds=True),)
    if what is Happened.WARNING:
        return None, (NewSnag(on=SnagOn.AIRCRAFT, title=note[:TITLE_CHARS], grounds=False),)
    if what is Happened.HARD_LANDING:
        return EventKind.HARD_LANDING, ()
    if what is Happened.CRASH:
        pack = NewSnag(on=SnagOn.PACK, title="Was in a crash: check for dents and swelling", grounds=True)
        return EventKind.CRASH, (NewSnag(on=SnagOn.AIRCRAFT, title=f"Crash: {note}"[:TITLE_CHARS], grounds=True), pack)
    if what is Happened.LOST:
        return EventKind.CRASH, (NewSnag(on=SnagOn.AIRCRAFT, title=f"Lost: {note}"[:TITLE_CHARS], grounds=True),)
    return None, ()


def after_occurrence(kind: Occurrence, words: str) -> tuple[EventKind | None, NewSnag | None]:
    """The event and the snag that follow from an accident or a near miss: all but a near miss keeps the aircraft down until it was looked over.

    Source: after any crash all of the walk round again; common practice, no source.
    """
    if kind is Occurrence.NEAR_MISS:
        return None, None
    title = f"{kind.value[0].upper()}{kind.value[1:]}: {words}"[:TITLE_CHARS]
    return EventKind.CRASH, NewSnag(on=SnagOn.AIRCRAFT, title=title, grounds=True)
