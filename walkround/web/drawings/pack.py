"""One pack drawn as it lies in the box: its cells, how full it is as a range, tape across it when it may not fly."""

from walkround.core.base.struct import Struct
from walkround.core.base.wording import counted
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.pack import Pack, PackState

WIDE, TALL, LEAD = 176.0, 74.0, 20.0
SHOWN_CELLS = 8


class PackDrawn(Struct, frozen=True):
    """A pack in picture units: the body's width, lines between cells, the fill, the range, the tape, the words."""

    body: float
    lines: tuple[float, ...]
    low_width: float
    high_width: float
    known: bool
    taped: bool
    swollen: bool
    words: str


def draw_pack(pack: Pack, held: ChargeRange | None) -> PackDrawn:
    """A pack with its cells side by side; the charge fills it from the left."""
    cells = min(pack.cells, SHOWN_CELLS)
    body = WIDE - LEAD
    step = body / cells
    words = counted(pack.cells, "cell")
    if held is not None:
        words += f", {held.low:.0f} to {held.high:.0f} % charged"
    else:
        words += ", charge not known"
    if not pack.usable:
        words += f", {'retired for good' if pack.condemned else pack.state.value}"

    def x(percent: float) -> float:
        return round(body * percent / 100, 1)

    return PackDrawn(
        body=body,
        lines=tuple(round(step * i, 1) for i in range(1, cells)),
        low_width=max(0.0, x(held.low) - 3) if held else 0.0,
        high_width=max(0.0, x(held.high) - 3) if held else 0.0,
        known=held is not None,
        taped=pack.state in (PackState.QUARANTINED, PackState.RETIRED),
        swollen=pack.condemned,
        words=words,
    )
