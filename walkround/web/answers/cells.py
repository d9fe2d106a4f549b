"""Cell voltages on the pages."""

from typing import Any

from walkround.core.answers.cells import CellsRead
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.packs.reading import parse_cells
from walkround.core.round.offers import cells_on_record
from walkround.core.round.walk import CheckState
from walkround.core.sensors.devices import CellChecker
from walkround.simulators import device
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    pack, typed = sent.situation.pack, sent.typed
    if sent.from_device:
        cells = device(CellChecker, sent.settings.devices).read(pack.cells)
        texts = [f"{volts:.3f}" for volts in cells]
        return CellsRead(reading=parse_cells(texts, "", pack)), "simulated cell checker"
    if typed.get("offered"):
        on_record = cells_on_record(sent.situation)
        if on_record is None:
            raise InputError("They are no longer on record. Enter the voltages.")
        return CellsRead(reading=on_record[0]), "record"
    names = [f"cell_{i}" for i in range(1, pack.cells + 1)]
    return CellsRead(reading=parse_cells([typed.get(n) for n in names], typed.get("total"), pack)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    given = state.evidence.answer if state.evidence is not None else None
    drawn = None
    if isinstance(given, CellsRead) and given.reading.cells_v:
        drawn = drawings.cells.draw_cells(given.reading, loaded.walk.situation)
    on_record = cells_on_record(loaded.walk.situation)
    return {"cells_drawn": drawn, "cells_offer": on_record[1] if on_record else None}


PAGE = AnswerPage(
    "cells", "each cell", _read, button=lambda ask: "Save", device_form=True, advances=True, near_thumb=True, shown=_shown,
    seen="rounds/answers/cells_seen.html",
)  # fmt: skip
