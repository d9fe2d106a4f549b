"""Cells of a reading as small drawn tanks, with the floor of the practice as a line."""

from walkround.core.base.struct import Struct
from walkround.core.packs.chemistry import CELLS
from walkround.core.packs.reading import CellReading
from walkround.core.round.situation import Situation

TOP, TALL, GAP, WIDTH = 4.0, 84.0, 10.0, 360.0
SHOWN_BELOW_FULL_V = 0.7


class Cell(Struct, frozen=True):
    """One drawn cell in picture units."""

    number: int
    text: str
    x: float
    middle: float
    width: float
    top: float
    fill: float
    weak: bool


class Cells(Struct, frozen=True):
    """All cells, the height of the floor line, and the words."""

    width: float
    cells: tuple[Cell, ...]
    limit_y: float
    words: str


def draw_cells(reading: CellReading, situation: Situation) -> Cells:
    """The cells of a reading; full is the full cell of the chemistry, empty is 0.7 V below."""
    kind = CELLS[situation.pack.chemistry]
    full_v, floor_v = kind.full_v, kind.bench_v if situation.methods.charge == "plan" else kind.floor_v
    count = len(reading.cells_v)
    width = (WIDTH - GAP * (count - 1)) / count
    weakest = min(reading.cells_v)

    def share(volts: float) -> float:
        return min(1.0, max(0.0, (volts - (full_v - SHOWN_BELOW_FULL_V)) / SHOWN_BELOW_FULL_V))

    cells = []
    for index, volts in enumerate(reading.cells_v):
        x = index * (width + GAP)
        fill = TALL * share(volts)
        cells.append(
            Cell(
                number=index + 1,
                text=f"{volts:.2f}",
                x=round(x, 1),
                middle=round(x + width / 2, 1),
                width=round(width, 1),
                top=round(TOP + TALL - fill, 1),
                fill=round(fill, 1),
                weak=volts == weakest and max(reading.cells_v) > weakest,
            )
        )
    said = ", ".join(f"cell {c.number} {c.text} V" for c in cells)
    return Cells(width=WIDTH, cells=tuple(cells), limit_y=round(TOP + TALL * (1 - share(floor_v)), 1), words=said)
