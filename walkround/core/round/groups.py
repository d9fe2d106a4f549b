"""Inspections of one group that one tap may confirm together.

Only eye and hand: ticks and plain choices that are still open, of one group at one station. Never a measurement, a legal item, what a gate
waits for, a part with an open snag or a fault in this round or the last three, what an event or the season raises, and nothing on the full
list: there it is part by part. But what was seen in the air is one sweep on every list. A measurement between two inspections of a part keeps them apart: what follows it is not confirmed before it.
Source: our choice; common practice, no source.
"""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.answers.choice import AskChoice, Chosen, Option
from walkround.core.answers.kind import Answer
from walkround.core.answers.tick import AskTick, Passed
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Check, Depth, Frequency, Phase, Risk
from walkround.core.round.depth import HELD_BY_GATES
from walkround.core.round.walk import CheckState, Walk

FEWEST = 2
_PARTS = {
    "body": "airframe", "arms": "airframe", "antennas": "airframe", "wheels": "airframe", "guards": "airframe", "propellers": "propellers and motors",
    "motors": "propellers and motors", "gimbal": "camera", "pack": "pack", "wing": "wing", "tail": "tail", "rotor": "rotor", "fuel": "fuel",
}  # fmt: skip
"""Parts of the drawing, and the group a hand meets them in."""
_SUBJECTS = {
    "bag.fire": "loading", "bag.first_aid": "loading", "bag.transmitter_case": "loading", "bag.gimbal_cover": "loading",
    "bag.magnets": "loading", "link.both_ways": "said aloud", "first.timer": "said aloud",
    "first.stop_aloud": "said aloud", "first.step_back": "around you", "first.look_listen": "around you",
}  # fmt: skip
"""Checks that are on no part of the drawing and are done in one go."""


IN_THE_AIR = "in the air"
"""What was seen in the flight is answered on the ground in one sweep, on every list: all fine, or which was not."""
IN_HAND, HELD_MM = "aircraft in the hand", 350.0
_HELD = frozenset(_PARTS.values()) - {"pack", "fuel"}
"""An aircraft of at most so many mm is turned in one hand: all of it is one group, but for the pack. Source: our choice."""


class Group(Struct, frozen=True, kw_only=True):
    """Open inspections of one group, in walking order, and what they are called together."""

    name: str
    states: tuple[CheckState, ...]

    @property
    def ids(self) -> tuple[str, ...]:
        """The checks it confirms, exactly these."""
        return tuple(state.planned.check.id for state in self.states)

    @property
    def parts(self) -> frozenset[str]:
        """The parts of the drawing that it confirms."""
        return frozenset(state.planned.check.part for state in self.states) - {""}

    @property
    def title(self) -> str:
        """What it is called, by what is really in it."""
        if self.name == "propellers and motors" and len(self.parts) == 1:
            return next(iter(self.parts)).capitalize()
        return self.name.capitalize()

    @property
    def words(self) -> str:
        """What the button says."""
        return f"{self.title}: {len(self.states)} checks OK"


def good_option(check: Check) -> Option | None:
    """The one answer of a plain choice that finds nothing wrong; None where there are several, or where it hangs on something else."""
    if not isinstance(check.ask, AskChoice):
        return None
    good = [option for option in check.ask.options if option.level is Level.CLEAR and not option.needs_note]
    if len(good) != 1 or good[0].caution_under or good[0].grounds_at or good[0].caution_at:
        return None
    return good[0]


def confirmed(check: Check) -> Answer:
    """The answer that confirms an inspection of a group."""
    option = good_option(check)
    return Passed() if option is None else Chosen(option=option.id)


def ok_words(check: Check) -> str:
    """What is confirmed of an inspection, in words."""
    option = good_option(check)
    return option.label if option is not None else check.ask.ok if isinstance(check.ask, AskTick) else ""


def _subject(check: Check, aircraft: Aircraft) -> str:
    if check.phase is Phase.AIR:
        return IN_THE_AIR
    subject = _SUBJECTS.get(check.id) or _PARTS.get(check.part, "")
    return IN_HAND if aircraft.span_mm <= HELD_MM and subject in _HELD else subject


def _by_eye(check: Check) -> bool:
    return isinstance(check.ask, AskTick) or good_option(check) is not None


def may_join(state: CheckState, walk: Walk) -> bool:
    """Whether an open check may be confirmed together with others: by eye or hand, not raised by an event, and not on the full list. Source: above."""
    planned, check = state.planned, state.planned.check
    depth = walk.situation.depth
    if check.phase is Phase.AIR:
        found = depth.found if depth is not None else ()
        return state.evidence is None and state.gate is None and _by_eye(check) and check.id not in found
    return (
        depth is not None
        and depth.depth is not Depth.FULL
        and walk.situation.methods.round != "every"
        and state.evidence is None
        and state.gate is None
        and not planned.by_event
        and _by_eye(check)
        and check.phase is Phase.BEFORE
        and check.frequency in (Frequency.LAUNCH, Frequency.DAY)
        and not (check.grounds and check.risk is Risk.LAW)
        and check.id not in HELD_BY_GATES
        and check.id not in depth.found
    )


def _marked_parts(walk: Walk) -> frozenset[str]:
    """Parts with an open snag, with anything but clear in this round, or with a fault in the last three rounds."""
    found = walk.situation.depth.found if walk.situation.depth else ()
    return frozenset(
        state.planned.check.part
        for state in walk.states
        if state.planned.snag is not None
        or state.planned.check.id in found
        or (state.level is not None and state.level is not Level.CLEAR)
    ) - {""}


def group_of(walk: Walk, check_id: str) -> Group | None:
    """The inspections that may be confirmed together with a check, itself among them; None where it stands alone. Source: above."""
    asked = walk.state(check_id)
    check, marked = asked.planned.check, _marked_parts(walk)
    aircraft = walk.situation.aircraft
    subject = _subject(check, aircraft)
    if not subject or check.part in marked or not may_join(asked, walk):
        return None
    together: list[CheckState] = []
    for state in walk.at(check.station):
        other = state.planned.check
        if _subject(other, aircraft) != subject:
            continue
        if other.part not in marked and may_join(state, walk):
            together.append(state)
        elif not _by_eye(other):
            if asked in together:
                break
            together.clear()
    return Group(name=subject, states=tuple(together)) if len(together) >= FEWEST else None
