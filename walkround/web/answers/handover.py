"""Handing over on the pages."""

from typing import Any

from walkround.core.answers.handover import Handover, TakeBack
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.base.wording import capital
from walkround.core.round.walk import CheckState, parse_reason
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    who = parse_reason(sent.typed.get("who"), "Who flies", "who", needed=True)
    if len(who) > 80:
        raise InputError("Who flies: 80 characters at most.", "who")
    back = sent.typed.get("back")
    if back not in set(TakeBack):
        raise InputError("Choose how control comes back to you.", "back")
    may = parse_reason(sent.typed.get("may"), "What they may do", "may", needed=False)
    return Handover(who=who, back=TakeBack(back), may=may), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    return {"backs": [(back.value, capital(back.value)) for back in TakeBack]}


PAGE = AnswerPage(
    "handover", "who flies, and how control comes back", _read, button=lambda ask: "Agreed with both", near_thumb=True, shown=_shown
)  # fmt: skip
