"""The packs of a set on the pages."""

from typing import Any

from walkround.core.answers.kind import Answer
from walkround.core.answers.matched import Matched
from walkround.core.base.units import Measure
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import read_number


def _read(sent: Sent) -> tuple[Answer, str]:
    units, numbers = sent.settings.units, range(1, sent.situation.pack.together + 1)
    volts = sent.typed.get("in") == "V"
    measure, most = (Measure.VOLT, 70.0) if volts else (Measure.PERCENT, 100.0)
    given = tuple(
        read_number(sent.typed.get(f"pack_{i}"), f"Pack {i}", measure, 0, most, units, f"pack_{i}") for i in numbers
    )
    return (Matched(volts=given) if volts else Matched(percents=given)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    pack = loaded.walk.situation.pack
    return {"set_of": list(range(1, pack.together + 1)), "set_smart": pack.smart}


PAGE = AnswerPage(
    "matched", "the charge of each pack of the set", _read, button=lambda ask: "Save", near_thumb=True, advances=True, shown=_shown
)  # fmt: skip
