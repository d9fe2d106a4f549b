"""Readings against the practice: spread, weakest cell, charge, planned use, temperature."""

from collections.abc import Sequence

from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, margin_above, margin_below, measured
from walkround.core.base.phrase import Phrase, percent, temperature, volt
from walkround.core.packs.charge import from_cells
from walkround.core.packs.chemistry import CELLS
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import CellReading

SPREAD_GOOD_V, SPREAD_CARE_V, SPREAD_GROUND_V = 0.02, 0.05, 0.10
"""Highest less lowest cell: good up to the first, balance charge up to the second, care up to the third, then down.
Source: 0.02 V common practice, no source; 0.05 and 0.10 V our choice."""
HALF_PACK_PERCENT = 50.0
"""The planned flight uses at most this share of what the pack holds. Source: common practice, no source."""


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
    return measured(
        "Spread",
        level,
        value,
        limit,
        sense="max",
        margin=margin_below(spread_v, limit.value),
        words=words,
        remedy=remedy,
        source="0.02 V common practice, no source; 0.05 and 0.10 V our choice",
    )


def judge_weakest(cells_v: Sequence[float], pack: Pack, practice: str) -> Finding:
    """Judge the weakest cell (V) against the floor of the practice; one finding.

    Source: 4.00 V a cell (full, by volts) and 3.5 V resting (enough for the plan) for lithium-polymer; common practice, no
    source; other chemistries in ``CELLS``.
    """
    kind = CELLS[pack.chemistry]
    full_v, floor_v = kind.full_v, kind.bench_v if practice == "plan" else kind.floor_v
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
        if weakest_v < kind.load_floor_v - 0.3:
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
    kind = CELLS[pack.chemistry]
    full_v, fly_v, floor_v = (round(v * pack.cells, 3) for v in (kind.full_v, kind.fly_v, kind.floor_v))
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


def used_share(planned_percent: float, charge: float) -> float:
    """Per cent that a plan takes of what the pack holds now, from its share of a full pack and the charge (per cent).

    More than 100 when the plan asks more than there is; 999 at most. Source: arithmetic.
    """
    return 999.0 if charge <= 0 else min(999.0, 100 * planned_percent / charge)


def judge_use(use: float, *, grounds: bool) -> Finding:
    """Judge planned use in per cent of what the pack holds now: at most half; one finding.

    Over half grounds under the practice *enough for the plan* (``grounds``), else it is care; over 80 % always grounds.
    Source: half the pack, common practice, no source; 80 % our choice.
    """
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
    return measured(
        "Planned use",
        level,
        value,
        limit,
        sense="max",
        margin=margin_below(use, limit.value),
        words=words,
        remedy="Plan a shorter flight, or take a fuller pack.",
        source="half the pack: common practice, no source; 80 %: our choice",
    )


def judge_cells(
    reading: CellReading, pack: Pack, practice: str, *, planned_percent: float, second_hop: bool
) -> tuple[Finding, ...]:
    """Judge a resting reading (V) of a pack under the pilot's charge practice ("full", "plan" or "volts").

    ``planned_percent``: what the plan takes of a full pack. Returns spread, weakest cell and charge as far as measured.
    Source: the bands in this module.
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
        findings.append(judge_use(used_share(planned_percent, from_cells(reading, pack).mid), grounds=True))
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
        measured(
            "Charge shown",
            level,
            value,
            limit,
            sense="min",
            margin=margin_above(charge, limit.value, 100 - limit.value),
            words=words,
            remedy=remedy,
            source="full before launch: common practice, no source; the per cents: our choice",
        ),
    )


def judge_pack_temperature(temperature_c: float, warm_to_c: float | None = None) -> tuple[Finding, ...]:
    """Judge the pack's temperature (°C): 10 to 40 flies, down to 0 and up to 45 is care, outside stays down.

    ``warm_to_c``: how warm this pack has to be for this aircraft, if that is known.

    Source: warm a cold pack before flight, common practice, no source; the numbers from memory.
    """
    value = temperature(temperature_c)
    if temperature_c < 10:
        limit, sense, margin = temperature(0), "min", margin_above(temperature_c, 0, 20)
        level = Level.GROUNDED if temperature_c < 0 else Level.CARE
        words, remedy = (
            "A pack at {value} sags under load." + ("" if warm_to_c is None else " Warm it to {warm}."),
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
            reason=Phrase.of(words, value=value, **({} if warm_to_c is None else {"warm": temperature(warm_to_c)})),
            remedy=remedy,
            source=PRACTICE + "; the numbers from memory",
        ),
    )
