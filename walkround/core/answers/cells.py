"""Resting voltages of a pack, cell by cell or in total."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding
from walkround.core.base.phrase import volt
from walkround.core.base.units import Quantity
from walkround.core.packs import bands
from walkround.core.packs.chemistry import CELLS
from walkround.core.packs.reading import CellReading, Reading


class AskCells(Ask, frozen=True, kw_only=True):
    """Resting voltages, cell by cell or in total."""

    kind: Literal["cells"] = "cells"


class CellsRead(Answer):
    """Cell voltages."""

    kind: Literal["cells"] = "cells"
    reading: CellReading

    def remembered(self, ask: Ask) -> Quantity | None:
        """The total voltage."""
        return volt(self.reading.total_v)

    def pack_reading(self, at: datetime, by: str) -> Reading:
        """The reading of the pack that it is, taken at an aware time."""
        return Reading(at=at, cells_v=self.reading.cells_v, total_v=self.reading.total_v, by=by)


def _judge(question: Question, answer: CellsRead, case: Case, at: datetime) -> tuple[Finding, ...]:
    return bands.judge_cells(
        answer.reading,
        case.pack,
        case.methods.charge,
        planned_percent=case.planned_percent,
        second_hop=case.second_hop,
    )


def _example(question: Question, case: Case, at: datetime) -> CellsRead:
    full_v = CELLS[case.pack.chemistry].full_v
    cells = tuple(round(full_v - (0.01 if i % 3 else 0.0), 3) for i in range(case.pack.cells))
    return CellsRead(reading=CellReading(cells_v=cells, total_v=round(sum(cells), 3)))


KIND = AnswerKind(AskCells, CellsRead, _judge, _example)
