"""Readings: what was measured on a pack, when, and how rested it was; and reading them from typed text."""

from collections.abc import Sequence
from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.base.errors import InputError
from walkround.core.base.units import parse_number
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.packs.chemistry import CELLS, FULL_CELL_V
from walkround.core.packs.pack import Pack

LIGHTS = 4
"""Lights of a smart pack's gauge. Source: four lights = full; common practice, no source."""


class After(StrEnum):
    """What the pack did before it was read."""

    REST = "rest"
    FLIGHT = "flight"
    CHARGE = "charge"


class CellReading(Value):
    """Resting voltages in V: each cell, or only the total when nothing finer was measured."""

    cells_v: tuple[float, ...] = ()
    total_v: float

    def mean_v(self, cells: int) -> float:
        """Mean cell voltage in V of a pack of ``cells`` cells."""
        return self.total_v / cells


class Reading(Value):
    """One reading of a pack; whatever was not measured is None or empty.

    Voltages in V, ``lights`` lit of four, ``resistance_mohm`` one a cell (or one for the whole pack), temperature in °C,
    ``recharged_mah`` what the charger put in, ``since_min`` minutes since the charge or flight that came before.
    ``looked_over``: it was inspected by eye, hand and nose then.
    """

    at: datetime
    cells_v: Annotated[tuple[float, ...], Allowed(max_length=14)] = ()
    total_v: Annotated[float | None, Allowed(ge=0, le=70)] = None
    percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    lights: Annotated[int | None, Allowed(ge=0, le=LIGHTS)] = None
    resistance_mohm: Annotated[tuple[float, ...], Allowed(max_length=14)] = ()
    temperature_c: Annotated[float | None, Allowed(ge=-40, le=90)] = None
    recharged_mah: Annotated[float | None, Allowed(gt=0, le=60_000)] = None
    after: After = After.REST
    since_min: Annotated[float | None, Allowed(ge=0, le=1e7)] = None
    by: Annotated[str, Allowed(max_length=40)] = "pilot"
    note: Annotated[str, Allowed(max_length=300)] = ""
    looked_over: bool = False

    @whole
    def says_something(self) -> "Reading":
        """Refuse a reading that holds no number."""
        known = (self.cells_v, self.resistance_mohm, *(
            () if x is None else (x,) for x in (self.total_v, self.percent, self.lights, self.temperature_c, self.recharged_mah)
        ))  # fmt: skip
        if not any(known) and not self.looked_over:
            raise InputError("Enter at least one value: cells, percentage, LEDs, resistance, temperature or mAh.")
        return self

    def mean_v(self, pack: Pack) -> float | None:
        """Mean cell voltage in V, or None without volts."""
        if self.cells_v:
            return sum(self.cells_v) / len(self.cells_v)
        return None if self.total_v is None else self.total_v / pack.cells

    def imbalance_v(self) -> float | None:
        """Highest less lowest cell in V, or None when cells were not read."""
        return round(max(self.cells_v) - min(self.cells_v), 4) if len(self.cells_v) > 1 else None

    def cell_mohm(self, pack: Pack) -> float | None:
        """Internal resistance in mΩ of the worst cell, or None; one value stands for the whole pack and is shared out.

        Source: cells in series add; a pack is as good as its worst cell.
        """
        if not self.resistance_mohm:
            return None
        one_for_all = len(self.resistance_mohm) == 1
        return self.resistance_mohm[0] / pack.cells if one_for_all else max(self.resistance_mohm)


def parse_cells(texts: Sequence[str], total_text: str, pack: Pack) -> CellReading:
    """Read typed cell voltages (V) of a pack; one field may hold several, pasted with spaces or slashes.

    Raises InputError for an empty, textual, negative or impossible voltage and for a wrong number of cells; a reading
    in millivolts comes back as an offer in volts. With no cell at all, a total alone is taken.
    Source: ranges as in ``CELLS``.
    """
    split = [text.replace("/", " ").replace(";", " ").split() for text in texts]
    pieces = [piece for parts in split for piece in parts]
    if not pieces:
        if total_text.strip():
            return CellReading(total_v=_total(total_text, pack))
        raise InputError(f"Enter the {pack.cells} cell voltages, or only the total.", "cell_1")
    if len(pieces) != pack.cells:
        if len(pieces) < pack.cells and len(texts) == pack.cells:
            empty = next(i for i, parts in enumerate(split, 1) if not parts)
            raise InputError(f"Cell {empty} is empty. Pack {pack.label} has {pack.cells} cells.", f"cell_{empty}")
        raise InputError(f"Pack {pack.label} has {pack.cells} cells. You entered {len(pieces)}.", "cell_1")
    highest_v = CELLS[pack.chemistry].highest_v
    cells = []
    for number, piece in enumerate(pieces, 1):
        field = f"cell_{number}"
        value = parse_number(piece.rstrip("vV"), f"Cell {number}", field)
        if value < 0:
            raise InputError(f"Cell {number}: {value:g} V is negative. Are the checker leads reversed?", field)
        if 900 <= value <= highest_v * 1000:
            offer = {}
            for index, other in enumerate(pieces, 1):
                volts = parse_number(other, f"Cell {index}", f"cell_{index}")
                offer[f"cell_{index}"] = f"{volts / 1000 if volts >= 900 else volts:.3f}".rstrip("0").rstrip(".")
            raise InputError(
                f"Cell {number}: {value:g} looks like millivolts; that is {value / 1000:.2f} V.", field, offer
            )
        if value > highest_v:
            raise InputError(
                f"Cell {number}: {value:g} V is not plausible for a {pack.chemistry} cell. A full one has "
                f"{FULL_CELL_V[pack.chemistry]:.2f} V.",
                field,
            )
        cells.append(value)
    return CellReading(cells_v=tuple(cells), total_v=round(sum(cells), 3))


def _total(text: str, pack: Pack) -> float:
    value = parse_number(text.strip().rstrip("vV"), "Total", "total")
    top = CELLS[pack.chemistry].highest_v * pack.cells
    if value < 0:
        raise InputError(f"Total: {value:g} V is negative. Are the leads reversed?", "total")
    if 900 <= value <= top * 1000:
        raise InputError(
            f"Total: {value:g} looks like millivolts; that is {value / 1000:.2f} V.",
            "total",
            {"total": f"{value / 1000:g}"},
        )
    if value > top:
        raise InputError(f"Total: {value:g} V is more than {pack.cells} cells can show ({top:.1f} V).", "total")
    return value


HIGHEST_MOHM = 500.0
"""More than a cell of a pack that still flies shows, in mΩ. Source: our choice; common practice, no source."""


def parse_resistance(text: str, pack: Pack) -> tuple[float, ...]:
    """Internal resistance in mΩ: one value for each cell or one for the whole pack; () for an empty text.

    Raises InputError for a wrong number of values, a negative one, and one that no cell shows (is it in ohms?).
    Source: ranges our choice.
    """
    pieces = text.replace("/", " ").replace(";", " ").split()
    if len(pieces) not in (0, 1, pack.cells):
        raise InputError(
            f"Enter one resistance for the whole pack or {pack.cells}, one per cell. You entered {len(pieces)}.",
            "resistance",
        )
    found = []
    for piece in pieces:
        value = parse_number(piece.rstrip("Ωm"), "Resistance", "resistance")
        if value <= 0:
            raise InputError(f"A resistance of {value:g} mΩ is not plausible. Is a lead loose?", "resistance")
        if value < 0.2 and len(pieces) > 1:
            offer = {"resistance": " ".join(f"{parse_number(p, 'Resistance') * 1000:g}" for p in pieces)}
            raise InputError(f"{value:g} looks like ohms; that is {value * 1000:g} mΩ.", "resistance", offer)
        if value > HIGHEST_MOHM * pack.cells:
            raise InputError(f"{value:g} mΩ is too high for a usable pack.", "resistance")
        found.append(value)
    return tuple(found)
