"""Cell voltages on the pages."""

from typing import Any

from walkround.core.answers.cells import CellsRead
from walkround.core.answers.kind import Answer
from walkround.core.packs.reading import parse_cells
from walkround.core.round.walk import CheckState
from walkround.core.sensors.devices import CellChecker
from walkround.simulators import device
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.drawings.cells import draw_cells


def _read(sent: Sent) -> tuple[Answer, str]:
    pack, typed = sent.situation.pack, sent.typed
    if sent.from_device:
        cells = device(CellChecker, sent.settings.devices).read(pack.cells)
        texts = [f"{volts:.3f}" for volts in cells]
        return CellsRead(reading=parse_cells(texts, "", pack)), "simulated cell checker"
    names = [f"cell_{i}" for i in range(1, pack.cells + 1)]
    return CellsRead(reading=parse_cells([typed.get(n) for n in names], typed.get("total"), pack)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    given = state.evidence.answer if state.evidence is not None else None
    if not isinstance(given, CellsRead) or not given.reading.cells_v:
        return {"cells_drawn": None}
    return {"cells_drawn": draw_cells(given.reading, loaded.walk.situation)}


PAGE = AnswerPage(
    "cells", "each cell", _read, button=lambda ask: "Save", device_form=True, near_thumb=True, shown=_shown,
    seen="rounds/answers/cells_seen.html",
)  # fmt: skip
