"""A pass through the bag on the pages."""

from typing import Any

from walkround.core.aircraft.bag import MOST, Packed, bag_groups, bag_list
from walkround.core.answers.kind import Answer
from walkround.core.answers.packed import AskPacked, BagPacked
from walkround.core.base.errors import InputError
from walkround.core.base.plain import whole
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import Typed


def _found(loaded: OpenRound, typed: Typed) -> Packed:
    """What this pass found in the bag: a tick is one, a number what was counted."""
    have = []
    for thing in bag_list(loaded.walk.situation.aircraft):
        text = typed.get(f"bag-{thing.id}").strip()
        if not text:
            continue
        number = whole(text, MOST)
        if number is None:
            raise InputError(f"{thing.title}: “{text[:12]}” is not a number from 0 to {MOST}.", f"bag-{thing.id}")
        have.append((thing.id, number))
    return Packed(have=tuple(have))


def _read(sent: Sent) -> tuple[Answer, str]:
    return BagPacked(packed=_found(sent.loaded, sent.typed)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    ask = state.planned.check.ask
    assert isinstance(ask, AskPacked)
    return {"bag": bag_groups(loaded.walk.situation.aircraft, backwards=ask.turn == 2)}


PAGE = AnswerPage(
    "packed", "the bag list", _read, button=lambda ask: "Save", first=True, advances=True, shown=_shown
)  # fmt: skip
