"""Readings against the practice: spread, weakest cell, charge, planned use, temperature."""

from collections.abc import Sequence

from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, percent, temperature, volt
from walkround.core.packs import lithium
from walkround.core.packs.charge import from_volts
from walkround.core.packs.chemistry import CELLS, Chemistry
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import CellReading, Reading

IMBALANCE_GOOD_V, IMBALANCE_CAUTION_V, IMBALANCE_GROUND_V = 0.02, 0.05, 0.10
"""Highest less lowest cell: good up to the first, balance charge up to the second, care up to the third, then down.
Source: 0.02 V common practice, no source; 0.05 and 0.10 V our choice."""
MOST_USE_PERCENT = 80.0
"""More than this share of what the pack holds leaves no reserve. Source: our choice."""
HALF_PACK_PERCENT = 50.0
"""The planned flight uses at most this share of what the pack holds. Source: common practice, no source."""


def judge_imbalance(cells_v: Sequence[float]) -> Finding:
    """Judge the difference (V) between highest and lowest cell; one finding.

    Source: at most 0.02 V good, common practice, no source; 0.05 and 0.10 V our choice.
    """
    imbalance_v = round(max(cells_v) - min(cells_v), 3)
    weakest = min(range(len(cells_v)), key=cells_v.__getitem__) + 1
    gone = imbalance_v > IMBALANCE_GROUND_V
    far = imbalance_v > IMBALANCE_CAUTION_V
    behind = "lags well behind" if far else "lags"
    return measured(
        "Imbalance",
        volt(imbalance_v),
        volt(IMBALANCE_GROUND_V if gone else IMBALANCE_GOOD_V),
        sense="max",
        level=Level.GROUNDED if gone else Level.CAUTION if imbalance_v > IMBALANCE_GOOD_V else Level.CLEAR,
        words={
            Level.CLEAR: "Highest and lowest cell differ by {value} (cell imbalance): OK.",
            Level.CAUTION: f"Cell {weakest} {behind}: the cells differ by {{value}} (aim for {{limit}} or less).",
            Level.GROUNDED: f"Cell {weakest} is far below the others: imbalance {{value}} (max {{limit}}).",
        },
        remedy={
            Level.CAUTION: "Make a short flight at most. Balance charge tonight and monitor this pack."
            if far
            else "Balance charge before the next flight.",
            Level.GROUNDED: "Set this pack aside. Balance charge it at home, attended; if the imbalance returns, retire it.",
        },
        source="0.02 V common practice, no source; 0.05 and 0.10 V our choice",
    )


def judge_weakest(cells_v: Sequence[float], pack: Pack, method: str, *, second_hop: bool = False) -> Finding:
    """Judge the weakest cell (V) against the floor of the practice; one finding. ``second_hop``: this pack's second short
    hop today. Below what a cell survives it is spoiled, whatever the practice.

    Source: 4.00 V a cell (full, by volts) and 3.5 V resting (enough for the plan) for lithium-polymer; common practice, no
    source; other chemistries in ``CELLS``.
    """
    kind = CELLS[pack.chemistry]
    weakest_v = min(cells_v)
    number = list(cells_v).index(weakest_v) + 1
    spoiled = weakest_v < lithium.hurt_below_v(pack.chemistry)
    floor_v = lithium.hurt_below_v(pack.chemistry) if spoiled else kind.bench_v if method == "plan" else kind.floor_v
    low = weakest_v < floor_v - 1e-6
    return measured(
        "Weakest cell",
        volt(weakest_v),
        volt(floor_v),
        sense="min",
        level=Level.GROUNDED if low else Level.CLEAR,
        span=kind.full_v - floor_v,
        words={
            Level.CLEAR: f"The weakest, cell {number}, rests at {{value}}.",
            Level.CAUTION: f"The weakest, cell {number}, rests at {{value}}, exactly at the limit.",
            Level.GROUNDED: f"Cell {number} rests at {{value}}, below {{limit}}"
            + (": over-discharged." if spoiled else "."),
        },
        remedy=f"Measure again: a checker lead may be loose. If it stays: {lithium.TOO_LOW}"
        if spoiled
        else "Recharge before flying. A cell that stays low is failing. Retire the pack.",
        source=PRACTICE,
    )


def judge_chemistry(pack: Pack) -> tuple[Finding, ...]:
    """Ground a pack whose chemistry is not known: no voltage of it says that it is safe or charged; else nothing is said.
    Source: our choice; in doubt a rule grounds."""
    if pack.chemistry is not Chemistry.UNKNOWN:
        return ()
    return (
        Finding(
            name="Chemistry",
            level=Level.GROUNDED,
            reason=Phrase.of("The chemistry of this pack is not known, so its voltage cannot be judged."),
            remedy=lithium.CHEMISTRY_UNKNOWN,
            source=OUR_CHOICE,
        ),
    )


def judge_overcharge(highest_v: float, pack: Pack, *, mean: bool = False) -> tuple[Finding, ...]:
    """Judge the highest cell (V), or the mean where only the total is known, against the full voltage of the chemistry and
    the error of a checker: above it grounds; else nothing is said. Source: ``lithium``."""
    limit_v = lithium.overcharged_above_v(pack.chemistry)
    if highest_v <= limit_v:
        return ()
    who = "By the total a cell is at {value}" if mean else "The highest cell is at {value}"
    kind = f"{pack.chemistry} cell" if pack.chemistry is not Chemistry.UNKNOWN else "cell of the kind that bears least"
    return (
        measured(
            "Overcharged",
            volt(highest_v),
            volt(limit_v),
            sense="max",
            level=Level.GROUNDED,
            words=f"{who}, above the {{limit}} that a full {kind} may show.",
            remedy=lithium.OVERCHARGED,
            source="full voltage of the chemistry and 0.03 V for the checker; our choice",
        ),
    )


def judge_total(total_v: float, pack: Pack, *, second_hop: bool, method: str = "volts") -> Finding:
    """Judge the voltage at rest (V) of the whole pack, or of its weakest cell times its cells; one finding.

    ``second_hop``: this pack's second short hop today. On three cells: 12.4 V flies; from 12.0 to 12.4 V it is a caution under
    the method *full*, and under *by volts* recharged, unless it is the second short hop (then care); below 12.0 V stays
    down. Other packs by the same volts a cell. Source: common practice, no source.
    """
    kind = CELLS[pack.chemistry]
    full_v, fly_v, floor_v = (round(v * pack.cells, 3) for v in (kind.full_v, kind.fly_v, kind.floor_v))
    under = total_v < floor_v
    limit_v = floor_v if under else fly_v
    between = Level.CAUTION if second_hop or method == "full" else Level.GROUNDED
    return measured(
        "Charge",
        volt(total_v),
        volt(limit_v),
        sense="min",
        level=Level.GROUNDED if under else Level.CLEAR if total_v >= fly_v else between,
        span=max(full_v - limit_v, 0.001),
        words={
            Level.CLEAR: "{value} at rest: charged.",
            Level.CAUTION: "{value} at rest is just at {limit}: just charged."
            if total_v >= fly_v
            else "{value} at rest is below {limit}: enough for a second short hop only."
            if second_hop
            else "{value} at rest is below {limit}: not quite full.",
            Level.GROUNDED: "{value} at rest is below {limit}: do not fly this pack."
            if under
            else "{value} at rest is below {limit}: not charged.",
        },
        remedy={
            Level.CAUTION: "Set a short timer and recharge after this hop."
            if second_hop
            else "Top it up, or plan a shorter flight.",
            Level.GROUNDED: "Recharge this pack before flying.",
        },
        source=PRACTICE,
    )


def used_share(planned_percent: float, charge: float) -> float:
    """Per cent that a plan takes of what the pack holds now, from its share of a full pack and the charge (per cent).

    More than 100 when the plan asks more than there is; 999 at most.
    """
    return 999.0 if charge <= 0 else min(999.0, 100 * planned_percent / charge)


def judge_use(use: float, *, grounds: bool, holder: str = "this pack") -> Finding:
    """Judge planned use in per cent of what the pack holds now: at most half; one finding.

    Over half grounds under the method *enough for the plan* (``grounds``), else it is a caution; over 80 % always grounds.
    Source: half the pack, common practice, no source; 80 % our choice.
    """
    over = use > MOST_USE_PERCENT
    half = Level.GROUNDED if grounds else Level.CAUTION
    return measured(
        "Planned use",
        percent(use),
        percent(MOST_USE_PERCENT if over else HALF_PACK_PERCENT),
        sense="max",
        level=Level.GROUNDED if over else half if use > HALF_PACK_PERCENT else Level.CLEAR,
        words=f"The plan takes {{value}} of what {holder} holds now. Above {{limit}} no reserve is left."
        if over
        else {
            Level.CLEAR: f"The plan takes {{value}} of what {holder} holds now.",
            Level.CAUTION: f"The plan takes {{value}} of what {holder} holds now. Half is the usual maximum.",
            Level.GROUNDED: f"The plan takes {{value}} of what {holder} holds now, more than half.",
        },
        remedy="Plan a shorter flight, or fill the tank."
        if holder == "the tank"
        else "Plan a shorter flight, or use a fuller pack.",
        source="half the pack: common practice, no source; 80 %: our choice",
    )


def judge_cells(
    reading: CellReading, pack: Pack, method: str, *, planned_percent: float, second_hop: bool
) -> tuple[Finding, ...]:
    """Judge a resting reading (V) of a pack under the pilot's charge practice ("full", "plan" or "volts").

    ``planned_percent``: what the plan takes of a full pack. Returns imbalance, weakest cell and charge as far as measured; a
    pack is as good as its worst cell, and of a total the mean bounds it. Source: the bands in this module.
    """
    findings: list[Finding] = [*judge_chemistry(pack)]
    mean_v = reading.total_v / pack.cells
    whole = bool(reading.cells_v) or pack.cells == 1
    if whole:
        cells = reading.cells_v or (reading.total_v,)
        if len(cells) > 1:
            findings.append(judge_imbalance(cells))
        findings += judge_overcharge(max(cells), pack)
        findings.append(judge_weakest(cells, pack, method, second_hop=second_hop))
        worst_v = min(cells)
    else:
        findings += judge_overcharge(mean_v, pack, mean=True)
        worst_v = mean_v
        if mean_v < lithium.hurt_below_v(pack.chemistry):
            findings.append(judge_weakest((mean_v,), pack, method))
        findings.append(
            Finding(
                name="Cells not measured",
                level=Level.CAUTION,
                reason=Phrase.of("Only the total was measured. It can hide a weak cell."),
                remedy="Measure each cell with a checker.",
                source=OUR_CHOICE,
            )
        )
    if method == "plan":
        charge = from_volts(worst_v, pack.chemistry)
        findings.append(judge_use(used_share(planned_percent, charge.mid), grounds=True))
    else:
        hop = second_hop and method == "volts"
        findings.append(judge_total(round(worst_v * pack.cells, 3), pack, second_hop=hop, method=method))
    return tuple(findings)


def judge_charge_percent(charge: float, method: str, pack: Pack) -> tuple[Finding, ...]:
    """Judge the per cent a smart pack shows (0 to 100) under the charge practice.

    Full or by volts: 90 flies, 75 to 90 is a caution, below 75 stays down. Enough for the plan: 50 and more is clear,
    30 to 50 care, below 30 stays down; the plan itself is judged with the minutes.
    Source: four lights before launch, common practice, no source; the per cents are our choice.
    """
    fly, floor = (50.0, 30.0) if method == "plan" else (90.0, 75.0)
    under = charge < floor
    return (
        *judge_chemistry(pack),
        measured(
            "Charge shown",
            percent(charge),
            percent(floor if under else fly),
            sense="min",
            level=Level.GROUNDED if under else Level.CAUTION if charge < fly else Level.CLEAR,
            span=100 - (floor if under else fly),
            words={
                Level.CLEAR: "{value} shown.",
                Level.CAUTION: "{value} shown. Your method needs {limit}.",
                Level.GROUNDED: "{value} shown is below {limit}, too little to launch with.",
            },
            remedy="Charge this pack, attended, before flying.",
            source="full before launch: common practice, no source; the percentages: our choice",
        ),
    )


PACK_CAUTION_COLD_C, PACK_COLD_C, PACK_CAUTION_HOT_C, PACK_HOT_C = 10.0, 0.0, 40.0, 45.0
"""A pack flies between the second and the fourth, in °C; outside the first and third with care. Source: warm a cold pack
before flight, common practice, no source; the numbers from memory."""


def judge_pack_temperature(temperature_c: float, warm_to_c: float | None = None) -> tuple[Finding, ...]:
    """Judge the pack's temperature (°C): 10 to 40 flies, down to 0 and up to 45 is a caution, outside stays down.

    ``warm_to_c``: how warm this pack has to be for this aircraft, if that is known. Source: ``PACK_COLD_C``.
    """
    hot = temperature_c > PACK_CAUTION_HOT_C
    cold = temperature_c < PACK_CAUTION_COLD_C
    grounds = temperature_c > PACK_HOT_C or temperature_c < PACK_COLD_C
    sags = "A pack at {value} sags under load." + ("" if warm_to_c is None else " Warm it to {warm}.")
    bad = "A pack at {value} is hot before flight." if hot else sags
    too_hot = temperature_c >= lithium.HOT_C
    return (
        measured(
            "Pack temperature",
            temperature(temperature_c),
            temperature(PACK_HOT_C if hot else PACK_COLD_C),
            sense="max" if hot else "min",
            level=Level.GROUNDED if grounds else Level.CAUTION if hot or cold else Level.CLEAR,
            span=20,
            words={Level.CLEAR: "{value}: good to fly.", Level.CAUTION: bad, Level.GROUNDED: bad},
            remedy=lithium.SET_ASIDE
            if too_hot
            else "Let it cool in the shade, away from other packs."
            if hot
            else "Warm it in a pocket, then hover first and watch the voltage.",
            source=PRACTICE + "; the numbers from memory",
            numbers=None if warm_to_c is None else {"warm": temperature(warm_to_c)},
        ),
    )


def reading_findings(reading: Reading, pack: Pack) -> tuple[Finding, ...]:
    """What a reading kept with a pack says by itself, whatever is planned (V, °C): overcharged, over-discharged, spread,
    temperature."""
    found: list[Finding] = [*judge_chemistry(pack)]
    mean_v = reading.mean_v(pack)
    cells = reading.cells_v or ((mean_v,) if mean_v is not None else ())
    if len(reading.cells_v) > 1:
        found.append(judge_imbalance(reading.cells_v))
    if cells:
        found += judge_overcharge(max(cells), pack, mean=not reading.cells_v)
        if min(cells) < lithium.hurt_below_v(pack.chemistry):
            found.append(judge_weakest(cells, pack, "plan"))
    if reading.temperature_c is not None:
        found += judge_pack_temperature(reading.temperature_c)
    return tuple(found)
