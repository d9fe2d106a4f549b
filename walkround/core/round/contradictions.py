"""Answers that cannot both be true: two of a round, or one and what is on record. Each names both and what to measure again."""

from collections.abc import Callable

from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.fix import FixRead
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.phrase import Phrase, height, percent
from walkround.core.field.interference import paced_as_far, sources
from walkround.core.packs.charge import from_cells
from walkround.core.packs.chemistry import CELLS
from walkround.core.round.context import Context
from walkround.core.round.situation import Situation
from walkround.core.sensors.satellites import PUBLISHED_SATELLITES

FULL_PERCENT = 90.0
DISAGREE = "Answers disagree"
OTHER_SIDE: dict[str, tuple[str, ...]] = {
    "pack.percent": ("pack.cells",),
    "first.full_pack": ("pack.percent", "pack.cells"),
    "field.max_height": ("pack.plan",),
    "sky.look": ("sky.weather",),
    "first.around_again": ("sky.weather",),
    "sensors.home_point": ("sensors.satellites",),
}
"""What else was answered, where an answer disagrees with another one of the round; the others disagree with the record."""
ON_RECORD = {
    "bench.firmware": "aircraft",
    "bench.packs_ready": "packs",
    "field.launch_circle": "field",
    "field.interference": "field",
}
"""The page where the record is corrected, where an answer disagrees with that."""


def disagreements(context: Context) -> dict[str, tuple[Finding, ...]]:
    """Findings by the id of the check they belong to: at least care. Inside units. Source: ``_RULES``."""
    found: dict[str, list[Finding]] = {}
    for rule in _RULES:
        said = rule(context)
        if said is not None:
            found.setdefault(said.check_id, []).append(said)
    return {check_id: tuple(findings) for check_id, findings in found.items()}


def _finding(check_id: str, reason: Phrase, again: str, level: Level = Level.CAUTION) -> Finding:
    return Finding(check_id=check_id, name=DISAGREE, level=level, reason=reason, remedy=again, source=OUR_CHOICE)


def _measured(context: Context, check_id: str) -> float | None:
    piece = context.answers.get(check_id)
    return piece.answer.value if piece is not None and isinstance(piece.answer, Measured) else None


def _charge_shown(context: Context) -> ChargeShown | None:
    piece = context.answers.get("pack.percent")
    return piece.answer if piece is not None and isinstance(piece.answer, ChargeShown) else None


def _chosen(context: Context, check_id: str) -> str:
    piece = context.answers.get(check_id)
    return piece.answer.option if piece is not None and isinstance(piece.answer, Chosen) else ""


def _passed(context: Context, check_id: str) -> bool:
    piece = context.answers.get(check_id)
    return piece is not None and isinstance(piece.answer, Passed)


def _cells_and_percent(context: Context) -> Finding | None:
    cells, shown = context.answers.get("pack.cells"), _charge_shown(context)
    if cells is None or shown is None or not isinstance(cells.answer, CellsRead):
        return None
    by_volts, by_gauge = from_cells(cells.answer.reading, context.situation.pack), shown.held
    if by_volts.low <= by_gauge.high and by_gauge.low <= by_volts.high:
        return None
    words = "The cells say {low} to {high}, the pack shows {shown}."
    numbers = {"low": percent(by_volts.low), "high": percent(by_volts.high), "shown": percent(round(shown.at_least))}
    return _finding(
        "pack.percent", Phrase.of(words, **numbers), "Measure the cells again at rest. The lower value counts."
    )


def _full_pack(context: Context) -> Finding | None:
    if not _passed(context, "first.full_pack"):
        return None
    cells = context.answers.get("pack.cells")
    shown = _charge_shown(context)
    held = context.charge if context.charge_known else None
    if cells is not None and isinstance(cells.answer, CellsRead):
        pack = context.situation.pack
        worst_v = min(cells.answer.reading.cells_v or (cells.answer.reading.total_v / pack.cells,))
        full = worst_v >= CELLS[pack.chemistry].fly_v - 1e-6
    elif shown is not None:
        full = shown.held.high >= FULL_PERCENT if shown.percent is None else shown.percent >= FULL_PERCENT
    elif held is not None:
        full = held.high >= FULL_PERCENT
    else:
        return None
    if full:
        return None
    words = "You confirmed a full pack, but it holds about {held}."
    held_now = percent(context.charge.mid)
    return _finding(
        "first.full_pack", Phrase.of(words, held=held_now), "Charge it, or measure it again.", Level.GROUNDED
    )


def versions_on_record(situation: Situation) -> set[str]:
    """The firmware versions on record of the aircraft, its parts and its packs."""
    versions = {text.rsplit(" ", 1)[-1] for text in situation.history.part_firmware}
    return versions | ({situation.aircraft.firmware} if situation.aircraft.firmware else set())


def _firmware(context: Context) -> Finding | None:
    if _chosen(context, "bench.firmware") != "same":
        return None
    s = context.situation
    if len(versions_on_record(s)) < 2:
        return None
    named = [f"aircraft {s.aircraft.firmware}"] if s.aircraft.firmware else []
    words = f"You answered “all the same”. On record are {', '.join((*named, *s.history.part_firmware))}."
    return _finding(
        "bench.firmware", Phrase(text=words), "Check the versions again and correct the record or the answer."
    )


def _packs_ready(context: Context) -> Finding | None:
    counted, known = _measured(context, "bench.packs_ready"), context.situation.history.packs_ready
    if counted is None or known is None or counted <= known:
        return None
    on_record = {0: "none is", 1: "1 is"}.get(known, f"{known} are")
    words = f"You counted {counted:.0f} charged. On record: {on_record}."
    return _finding("bench.packs_ready", Phrase(text=words), "Measure the packs that are not on record as charged.")


def _max_height_and_plan(context: Context) -> Finding | None:
    said, planned = _measured(context, "field.max_height"), context.planned_answer
    if said is None or planned is None or planned.height_m <= said + 0.5:
        return None
    words = "You entered a highest point of {said}, but the plan flies at {plan}. The higher one counts."
    reason = Phrase.of(words, said=height(said), plan=height(planned.height_m))
    return _finding("field.max_height", reason, "Correct the height of one of them.")


def _circle_and_plan(context: Context) -> Finding | None:
    paced = _measured(context, "field.launch_circle")
    site = context.situation.site
    nearest = site.nearest()
    if paced is None or nearest is None:
        return None
    marked = site.away(nearest)[0]
    if paced_as_far(paced, marked):
        return None
    words = f"You paced {{paced}}, but the plan shows a {nearest.words} at {{marked}}."
    reason = Phrase.of(words, paced=height(paced), marked=height(marked))
    return _finding("field.launch_circle", reason, "Pace it again, or correct the plan of the field.")


def _sources_and_plan(context: Context) -> Finding | None:
    paced = _measured(context, "field.interference")
    felt = sources(context.situation.site)
    if paced is None or not felt:
        return None
    nearest = min(felt, key=lambda one: one.away_m)
    if paced_as_far(paced, nearest.away_m):
        return None
    words = f"You paced {{paced}} to the nearest source, but the plan shows a {nearest.mark.words} at {{marked}}."
    reason = Phrase.of(words, paced=height(paced), marked=height(nearest.away_m))
    return _finding("field.interference", reason, "Pace it again, or correct the plan of the field.")


_QUIET = (("sky.look", "quiet"), ("first.around_again", "clear"))


def _sky_and_report(context: Context) -> Finding | None:
    weather = context.weather
    looked = next((name for name, quiet in _QUIET if _chosen(context, name) == quiet), "")
    if not looked or weather is None:
        return None
    bad = [p.words for p in weather.phenomena or () if p.thunder or p.severe]
    if not bad:
        return None
    words = f"You see a quiet sky, but the report says {', '.join(bad)}."
    return _finding(looked, Phrase(text=words), "Check again, and use the worse one.", Level.GROUNDED)


def _fix_and_home(context: Context) -> Finding | None:
    fix = context.answers.get("sensors.satellites")
    if _chosen(context, "sensors.home_point") != "here" or fix is None or not isinstance(fix.answer, FixRead):
        return None
    if _has_fix(fix.answer):
        return None
    words = "You confirmed the home point, but the receiver has no fix."
    return _finding(
        "sensors.home_point", Phrase(text=words), "Wait for a fix, then set the home point again.", Level.GROUNDED
    )


def _has_fix(read: FixRead) -> bool:
    """Whether a receiver has a position, as it reports itself or as far as a screen says."""
    if read.screen is not None:
        return read.screen.ready is not False and (
            read.screen.satellites is None or read.screen.satellites >= PUBLISHED_SATELLITES
        )
    return read.fix.position is not None and read.fix.quality > 0


_RULES: tuple[Callable[[Context], Finding | None], ...] = (
    _cells_and_percent,
    _full_pack,
    _firmware,
    _packs_ready,
    _max_height_and_plan,
    _circle_and_plan,
    _sources_and_plan,
    _sky_and_report,
    _fix_and_home,
)
