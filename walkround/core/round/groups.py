"""Inspections of one part of the aircraft that one tap may confirm together.

Only eye and hand: a tick that is still open, on one part at one station, without a caution at the act. Never a measurement, a legal item,
what a gate waits for, a part with an open snag or a fault in this round or the last three, what an event or the season raises, and nothing on
the full list: there it is part by part. Source: our choice; common practice, no source.
"""

from walkround.core.answers.tick import AskTick
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Depth, Frequency, Phase, Risk
from walkround.core.round.depth import HELD_BY_GATES
from walkround.core.round.walk import CheckState, Walk

FEWEST = 2
PARTS = {
    "body": "airframe", "arms": "arms", "propellers": "propellers", "motors": "motors", "antennas": "antennas", "gimbal": "camera",
    "pack": "pack", "wing": "wing", "tail": "tail", "wheels": "wheels", "rotor": "rotor",
}  # fmt: skip
"""Parts of the drawing in words, where several inspections meet."""


class Group(Struct, frozen=True, kw_only=True):
    """Open inspections of one part, in walking order, and what they are called together."""

    states: tuple[CheckState, ...]
    words: str

    @property
    def ids(self) -> tuple[str, ...]:
        """The checks it confirms, exactly these."""
        return tuple(state.planned.check.id for state in self.states)


def _may_join(state: CheckState, walk: Walk) -> bool:
    planned, check = state.planned, state.planned.check
    depth = walk.situation.depth
    return (
        depth is not None
        and depth.depth is not Depth.FULL
        and walk.situation.methods.round != "every"
        and state.evidence is None
        and state.gate is None
        and not planned.by_event
        and isinstance(check.ask, AskTick)
        and check.part in PARTS
        and check.phase is Phase.BEFORE
        and check.frequency in (Frequency.LAUNCH, Frequency.DAY)
        and not check.caution
        and not (check.grounds and check.risk is Risk.LAW)
        and check.id not in HELD_BY_GATES
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
    )


def group_of(walk: Walk, check_id: str) -> Group | None:
    """The inspections that may be confirmed together with a check, itself among them; None where it stands alone. Source: above."""
    asked = walk.state(check_id)
    if not _may_join(asked, walk):
        return None
    check = asked.planned.check
    if check.part in _marked_parts(walk):
        return None
    states = tuple(s for s in walk.at(check.station) if s.planned.check.part == check.part and _may_join(s, walk))
    if len(states) < FEWEST:
        return None
    return Group(states=states, words=f"{len(states)} checks of the {PARTS[check.part]}: OK")
