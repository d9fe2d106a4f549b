"""Packs: what the cells say, and whether that is enough."""

from collections.abc import Sequence
from datetime import datetime
from enum import StrEnum

from pydantic import Field

from walkround.core.aircraft import Aircraft
from walkround.core.base import Value
from walkround.core.errors import InputError
from walkround.core.finding import OUR_CHOICE, PRACTICE, Finding, Level, margin_above, margin_below
from walkround.core.phrase import Phrase, percent, temperature, volt
from walkround.core.traits import Trait
from walkround.core.units import parse_number


class Chemistry(StrEnum):
    """Cell chemistries of this slice; both judged at rest."""

    LIPO = "lithium-polymer"
    LIHV = "high-voltage lithium"


FULL_CELL_V = {Chemistry.LIPO: 4.20, Chemistry.LIHV: 4.35}
"""Resting voltage of a full cell in V. Source: common practice, no source."""
FLY_BELOW_FULL_V = 4.20 - 12.4 / 3
"""A cell this far below full still flies: 12.4 V on three cells. Source: common practice, no source."""
FLOOR_BELOW_FULL_V = 0.20
"""A cell this far below full stays down: 12.0 V on three cells. Source: common practice, no source."""
BENCH_FLOOR_V = 3.5
"""Lowest resting cell under the practice *enough for the plan*. Source: common practice, no source."""
SPREAD_GOOD_V, SPREAD_CARE_V, SPREAD_GROUND_V = 0.02, 0.05, 0.10
"""Highest less lowest cell: good up to the first, balance charge up to the second, care up to the third, then down.
Source: 0.02 V common practice, no source; 0.05 and 0.10 V our choice."""
HIGHEST_CELL_V = 4.5
"""More than any lithium cell of a model shows; a larger number is a slip. Source: common practice, no source."""
HALF_PACK_PERCENT = 50.0
"""The planned flight uses at most this share of what the pack holds. Source: common practice, no source."""

_CHARGE_CURVE = (
    (3.27, 0), (3.61, 5), (3.69, 10), (3.71, 15), (3.73, 20), (3.75, 25), (3.77, 30), (3.79, 35), (3.80, 40), (3.82, 45),
    (3.84, 50), (3.85, 55), (3.87, 60), (3.91, 65), (3.95, 70), (3.98, 75), (4.02, 80), (4.08, 85), (4.11, 90), (4.15, 95),
    (4.20, 100),
)  # fmt: skip


class Pack(Value):
    """One flight pack: cells in series, capacity in mAh."""

    id: int = 0
    label: str = Field(min_length=1, max_length=20)
    chemistry: Chemistry = Chemistry.LIPO
    cells: int = Field(ge=1, le=14)
    capacity_mah: float = Field(gt=0, le=60_000)
    smart: bool = False
    charged_at: datetime | None = None
    retired: bool = False

    def fits(self, aircraft: Aircraft) -> bool:
        """Whether it goes into this aircraft: as many cells, smart or plain as it wants. Source: the pilot's description."""
        return self.cells == aircraft.cells and self.smart == aircraft.has(Trait.SMART_PACK)


class CellReading(Value):
    """Resting voltages in V: each cell, or only the total when nothing finer was measured."""

    cells_v: tuple[float, ...] = ()
    total_v: float

    def mean_v(self, cells: int) -> float:
        """Mean cell voltage in V of a pack of ``cells`` cells. Source: arithmetic."""
        return self.total_v / cells


def parse_cells(texts: Sequence[str], total_text: str, pack: Pack) -> CellReading:
    """Read typed cell voltages (V) of a pack; one field may hold several, pasted with spaces or slashes.

    Raises InputError for an empty, textual, negative or impossible voltage and for a wrong number of cells; a reading
    in millivolts comes back as an offer in volts. With no cell at all, a total alone is taken.
    Source: ranges as in ``HIGHEST_CELL_V``.
    """
    split = [text.replace("/", " ").replace(";", " ").split() for text in texts]
    pieces = [piece for parts in split for piece in parts]
    if not pieces:
        if total_text.strip():
            return CellReading(total_v=_total(total_text, pack))
        raise InputError(f"Type the {pack.cells} cell voltages, or only the total.", "cell_1")
    if len(pieces) != pack.cells:
        if len(pieces) < pack.cells and len(texts) == pack.cells:
            empty = next(i for i, parts in enumerate(split, 1) if not parts)
            raise InputError(f"Cell {empty} is empty. Pack {pack.label} has {pack.cells} cells.", f"cell_{empty}")
        raise InputError(f"Pack {pack.label} has {pack.cells} cells; you gave {len(pieces)}.", "cell_1")
    cells = []
    for number, piece in enumerate(pieces, 1):
        field = f"cell_{number}"
        value = parse_number(piece.rstrip("vV"), f"Cell {number}", field)
        if value < 0:
            raise InputError(f"Cell {number}: {value:g} V is negative. Are the checker's leads reversed?", field)
        if 1000 <= value <= HIGHEST_CELL_V * 1000:
            offer = {}
            for index, other in enumerate(pieces, 1):
                volts = parse_number(other, f"Cell {index}", f"cell_{index}")
                offer[f"cell_{index}"] = f"{volts / 1000 if volts >= 1000 else volts:.3f}".rstrip("0").rstrip(".")
            raise InputError(
                f"Cell {number}: {value:g} looks like millivolts; that is {value / 1000:.2f} V.", field, offer
            )
        if value > HIGHEST_CELL_V:
            raise InputError(
                f"Cell {number}: {value:g} V cannot be one lithium cell; a full one shows "
                f"{FULL_CELL_V[pack.chemistry]:.2f} V.",
                field,
            )
        cells.append(value)
    return CellReading(cells_v=tuple(cells), total_v=round(sum(cells), 3))


def _total(text: str, pack: Pack) -> float:
    value = parse_number(text.strip().rstrip("vV"), "Total", "total")
    top = HIGHEST_CELL_V * pack.cells
    if value < 0:
        raise InputError(f"Total: {value:g} V is negative. Are the leads reversed?", "total")
    if 1000 <= value <= top * 1000:
        raise InputError(
            f"Total: {value:g} looks like millivolts; that is {value / 1000:.2f} V.",
            "total",
            {"total": f"{value / 1000:g}"},
        )
    if value > top:
        raise InputError(f"Total: {value:g} V is more than {pack.cells} cells can show ({top:.1f} V).", "total")
    return value


def charge_percent(cell_v: float, chemistry: Chemistry = Chemistry.LIPO) -> float:
    """State of charge in per cent (0 to 100) from the resting voltage (V) of one cell.

    Values outside the curve are held at its ends. The middle of the curve is flat: read it as a range of ten points.
    Source: resting-voltage chart of hobby lithium-polymer packs, from memory.
    """
    value_v = cell_v - (FULL_CELL_V[chemistry] - FULL_CELL_V[Chemistry.LIPO])
    if value_v <= _CHARGE_CURVE[0][0]:
        return 0.0
    for (low_v, low), (high_v, high) in zip(_CHARGE_CURVE, _CHARGE_CURVE[1:], strict=False):
        if value_v <= high_v:
            return low + (high - low) * (value_v - low_v) / (high_v - low_v)
    return 100.0


def planned_use_percent(planned_min: float, flight_min: float, charge: float) -> float:
    """Planned minutes as a share (per cent) of what the pack holds now.

    ``flight_min``: minutes a full pack gives this aircraft; ``charge``: state of charge in per cent (0 to 100).
    Returns more than 100 when the plan asks more than there is. Source: arithmetic.
    """
    left_min = flight_min * charge / 100
    return 999.0 if left_min <= 0 else min(999.0, 100 * planned_min / left_min)


def judge_spread(cells_v: Sequence[float]) -> Finding:
    """Judge the difference (V) between highest and lowest cell; one finding.

    Source: at most 0.02 V good, common practice, no source; 0.05 and 0.10 V our choice.
    """
    spread_v = round(max(cells_v) - min(cells_v), 3)
    weakest = min(range(len(cells_v)), key=cells_v.__getitem__) + 1
    value, limit = volt(spread_v), volt(SPREAD_GOOD_V)
    remedy = "Balance charge before the next flight."
    if spread_v <= SPREAD_GOOD_V:
        level, words, remedy = Level.CLEAR, "Highest and lowest cell differ by {value}; the cells agree.", ""
    elif spread_v <= SPREAD_CARE_V:
        level, words = Level.CARE, f"Cell {weakest} lags: the spread is {{value}}, good is up to {{limit}}."
    elif spread_v <= SPREAD_GROUND_V:
        level, words = Level.CARE, f"Cell {weakest} lags well behind: the spread is {{value}}, good is up to {{limit}}."
        remedy = "Fly short if at all; balance charge tonight and watch this pack."
    else:
        limit = volt(SPREAD_GROUND_V)
        level, words = (
            Level.GROUNDED,
            f"Cell {weakest} has dropped away: the spread is {{value}}, the end is {{limit}}.",
        )
        remedy = "Set this pack aside. Balance charge it at home, attended; if the spread returns, retire it."
    return Finding(
        name="Spread",
        level=level,
        value=value,
        limit=limit,
        sense="max",
        margin=margin_below(spread_v, limit.value),
        reason=Phrase.of(words, value=value, limit=limit),
        remedy=remedy,
        source="0.02 V common practice, no source; 0.05 and 0.10 V our choice",
    )


def judge_weakest(cells_v: Sequence[float], pack: Pack, practice: str) -> Finding:
    """Judge the weakest cell (V) against the floor of the practice; one finding.

    Source: 4.00 V a cell (full, by volts) and 3.5 V resting (enough for the plan); common practice, no source.
    """
    full_v = FULL_CELL_V[pack.chemistry]
    floor_v = BENCH_FLOOR_V if practice == "plan" else full_v - FLOOR_BELOW_FULL_V
    weakest_v = min(cells_v)
    number = list(cells_v).index(weakest_v) + 1
    value, limit = volt(weakest_v), volt(floor_v)
    if weakest_v < floor_v - 1e-6:
        level, words = Level.GROUNDED, f"Cell {number} rests at {{value}}, below {{limit}}."
    else:
        level, words = Level.CLEAR, f"The weakest, cell {number}, rests at {{value}}."
    remedy = ""
    if level is Level.GROUNDED:
        remedy = "Recharge before flying. A cell that stays low is failing: retire the pack."
        if weakest_v < 3.0:
            remedy = "A cell this low is damaged, or a checker lead is loose. Read again; if it stays, retire the pack."
    return Finding(
        name="Weakest cell",
        level=level,
        value=value,
        limit=limit,
        sense="min",
        margin=margin_above(weakest_v, floor_v, full_v - floor_v),
        reason=Phrase.of(words, value=value, limit=limit),
        remedy=remedy,
    )


def judge_total(total_v: float, pack: Pack, *, second_hop: bool) -> Finding:
    """Judge the total voltage (V) at rest; one finding. ``second_hop``: this pack's second short hop today.

    On three cells: 12.4 V flies; 12.0 to 12.4 V is recharged, unless it is the second short hop of the same pack
    (then care); below 12.0 V stays down. Other packs by the same volts a cell. Source: common practice, no source.
    """
    full_v = FULL_CELL_V[pack.chemistry] * pack.cells
    fly_v = round(full_v - FLY_BELOW_FULL_V * pack.cells, 3)
    floor_v = round(full_v - FLOOR_BELOW_FULL_V * pack.cells, 3)
    value, limit = volt(total_v), volt(fly_v)
    remedy = "Recharge this pack before flying."
    if total_v >= fly_v:
        level, words, remedy = Level.CLEAR, "{value} at rest: charged.", ""
    elif total_v < floor_v:
        limit = volt(floor_v)
        level, words = Level.GROUNDED, "{value} at rest is below {limit}: do not fly this pack."
    elif second_hop:
        level, words = Level.CARE, "{value} at rest is below {limit}: enough for a second short hop, no more."
        remedy = "Set the timer short and recharge after this hop."
    else:
        level, words = Level.GROUNDED, "{value} at rest is below {limit}: not charged."
    return Finding(
        name="Charge",
        level=level,
        value=value,
        limit=limit,
        sense="min",
        margin=margin_above(total_v, limit.value, max(full_v - limit.value, 0.001)),
        reason=Phrase.of(words, value=value, limit=limit),
        remedy=remedy,
    )


def judge_use(planned_min: float, flight_min: float, charge: float, *, grounds: bool) -> Finding:
    """Judge planned use: at most half of what the pack holds now; one finding.

    Minutes planned, minutes from a full pack, state of charge in per cent. Over half grounds under the practice
    *enough for the plan* (``grounds``), else it is care; over 80 % always grounds.
    Source: half the pack, common practice, no source; 80 % our choice.
    """
    use = planned_use_percent(planned_min, flight_min, charge)
    value, limit = percent(use), percent(HALF_PACK_PERCENT)
    if use > 80:
        limit = percent(80)
        level, words = (
            Level.GROUNDED,
            "The plan takes {value} of what this pack holds now; past {limit} no reserve is left.",
        )
    elif use > HALF_PACK_PERCENT:
        level = Level.GROUNDED if grounds else Level.CARE
        words = "The plan takes {value} of what this pack holds now, more than half."
    else:
        level, words = Level.CLEAR, "The plan takes {value} of what this pack holds now."
    return Finding(
        name="Planned use",
        level=level,
        value=value,
        limit=limit,
        sense="max",
        margin=margin_below(use, limit.value),
        reason=Phrase.of(words, value=value, limit=limit),
        remedy="" if level is Level.CLEAR else "Plan a shorter flight, or take a fuller pack.",
        source="half the pack: common practice, no source; 80 %: our choice",
    )


def judge_cells(
    reading: CellReading, pack: Pack, practice: str, *, planned_min: float, flight_min: float, second_hop: bool
) -> tuple[Finding, ...]:
    """Judge a resting reading (V) of a pack under the pilot's charge practice ("full", "plan" or "volts").

    ``planned_min``/``flight_min``: minutes planned, minutes from a full pack. Returns spread, weakest cell and charge
    as far as measured. Source: the bands in this module.
    """
    findings: list[Finding] = []
    if len(reading.cells_v) > 1:
        findings.append(judge_spread(reading.cells_v))
    elif not reading.cells_v and pack.cells > 1:
        findings.append(
            Finding(
                name="Spread",
                level=Level.CARE,
                reason=Phrase.of("Only the total was measured; one weak cell can hide behind two good ones."),
                remedy="Read each cell when a checker is at hand.",
                source=OUR_CHOICE,
            )
        )
    if reading.cells_v:
        findings.append(judge_weakest(reading.cells_v, pack, practice))
    if practice == "plan":
        charge = charge_percent(reading.mean_v(pack.cells), pack.chemistry)
        findings.append(judge_use(planned_min, flight_min, charge, grounds=True))
    else:
        findings.append(judge_total(reading.total_v, pack, second_hop=second_hop and practice == "volts"))
    return tuple(findings)


def judge_charge_percent(charge: float, practice: str) -> tuple[Finding, ...]:
    """Judge the per cent a smart pack shows (0 to 100) under the charge practice.

    Full or by volts: 90 flies, 75 to 90 is care, below 75 stays down. Enough for the plan: 50 and more is clear,
    30 to 50 care, below 30 stays down; the plan itself is judged with the minutes.
    Source: four lights before launch, common practice, no source; the per cents are our choice.
    """
    fly, floor = (50.0, 30.0) if practice == "plan" else (90.0, 75.0)
    value, limit = percent(charge), percent(fly)
    remedy = "Charge this pack, attended, before flying."
    if charge >= fly:
        level, words, remedy = Level.CLEAR, "{value} shown.", ""
    elif charge >= floor:
        level, words = Level.CARE, "{value} shown; your practice asks for {limit}."
    else:
        limit = percent(floor)
        level, words = Level.GROUNDED, "{value} shown is below {limit}, too little to launch with."
    return (
        Finding(
            name="Charge shown",
            level=level,
            value=value,
            limit=limit,
            sense="min",
            margin=margin_above(charge, limit.value, 100 - limit.value),
            reason=Phrase.of(words, value=value, limit=limit),
            remedy=remedy,
            source="full before launch: common practice, no source; the per cents: our choice",
        ),
    )


def judge_pack_temperature(temperature_c: float) -> tuple[Finding, ...]:
    """Judge the pack's temperature (°C): 10 to 40 flies, down to 0 and up to 45 is care, outside stays down.

    Source: warm a cold pack before flight, common practice, no source; the numbers from memory.
    """
    value = temperature(temperature_c)
    if temperature_c < 10:
        limit, sense, margin = temperature(0), "min", margin_above(temperature_c, 0, 20)
        level = Level.GROUNDED if temperature_c < 0 else Level.CARE
        words, remedy = (
            "A pack at {value} sags under load.",
            "Warm it in a pocket, then hover first and watch the volts.",
        )
    elif temperature_c > 40:
        limit, sense, margin = temperature(45), "max", margin_below(temperature_c, 45)
        level = Level.GROUNDED if temperature_c > 45 else Level.CARE
        words, remedy = (
            "A pack at {value} is hot before it has worked.",
            "Let it cool in the shade, away from the cases.",
        )
    else:
        limit, sense, margin = temperature(0), "min", margin_above(temperature_c, 0, 20)
        level, words, remedy = Level.CLEAR, "{value}: ready to work.", ""
    return (
        Finding(
            name="Pack temperature",
            level=level,
            value=value,
            limit=limit,
            sense="max" if sense == "max" else "min",
            margin=margin,
            reason=Phrase.of(words, value=value),
            remedy=remedy,
            source=PRACTICE + "; the numbers from memory",
        ),
    )
