"""The kinds of answers on the pages. A module of this room that has a ``PAGE`` is one; nothing else lists them."""

from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.base.later import modules_of
from walkround.core.round.walk import CheckState, parse_reason
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.app_context import AppContext
from walkround.web.forms import Typed

_MODULES = modules_of(__name__, __path__)
PAGES: dict[str, AnswerPage] = {m.PAGE.name: m.PAGE for m in _MODULES if hasattr(m, "PAGE")}
"""The kinds by their names in stored data."""


def page_of(state: CheckState) -> AnswerPage:
    """How a check is asked."""
    return PAGES[state.planned.check.ask.kind]


def read_answer(
    ctx: AppContext, settings: Settings, loaded: OpenRound, state: CheckState, typed: Typed, *, device: bool = True
) -> tuple[Answer, str]:
    """What the form says about a check, and from whom. Raises PilotError beside the field."""
    action = typed.get("action")
    if action == "skip":
        return Skipped(reason=parse_reason(typed.get("reason"), "Reason", "reason", needed=True)), "pilot"
    if action == "fault":
        return Fault(note=parse_reason(typed.get("note"), "What you found", "note", needed=False)), "pilot"
    return page_of(state).read(Sent(ctx, settings, loaded, state, typed, from_device=action == "device" and device))
