"""A count on the pages."""

from typing import Any

from walkround.core.answers.kind import Answer
from walkround.core.answers.timer import Counted
from walkround.core.base.units import parse_number
from walkround.core.calibration.still import slow_after_s
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    signal_s = sent.typed.get("signal_s")
    return (
        Counted(
            seconds=parse_number(sent.typed.get("seconds"), "Count", "seconds"),
            signal_s=parse_number(signal_s, "Signal", "seconds") if signal_s else None,
        ),
        "pilot",
    )


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    usual = loaded.walk.situation.history.still_usual_s
    return {"usual_s": usual, "late_s": None if usual is None else slow_after_s(usual)}


PAGE = AnswerPage("timer", "a count that runs by itself", _read, advances=True, shown=_shown)
