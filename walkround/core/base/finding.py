"""The judgement of one piece of evidence: level, value, limit, margin, reason, remedy, source."""

from enum import IntEnum
from typing import Literal

from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Measure, Quantity
from walkround.core.base.value import Value

CARE_MARGIN = 0.15
"""A value closer to its limit than this share of the limit is care. Source: our choice; common practice, no source."""

OUR_CHOICE = "our choice; common practice, no source"
PRACTICE = "common practice, no source"


class Level(IntEnum):
    """How bad it is; the larger, the worse."""

    CLEAR = 0
    CARE = 1
    GROUNDED = 2


class Finding(Value):
    """One judged fact. ``margin``: 1 = far away, 0 = at the limit, below 0 = over; None when nothing was measured."""

    check_id: str = ""
    name: str
    level: Level
    value: Quantity | None = None
    limit: Quantity | None = None
    sense: Literal["max", "min", ""] = ""
    margin: float | None = None
    reason: Phrase
    remedy: str = ""
    source: str = PRACTICE

    def spare(self) -> Quantity | None:
        """How much is left before the limit (negative: over it), as a difference in the measure's own units."""
        if self.value is None or self.limit is None:
            return None
        left = self.limit.value - self.value.value
        if self.sense == "min":
            left = -left
        measure = self.value.measure
        if measure is Measure.TEMPERATURE:
            measure = Measure.TEMPERATURE_STEP
        return Quantity(value=left, measure=measure)


def margin_below(value: float, limit: float, span: float | None = None) -> float:
    """Margin of a value that must stay below ``limit``: 0 at the limit, 1 at ``limit - span`` and below.

    Values in the same unit; without ``span`` the limit itself (> 0) is the span. Result without unit, at most 1.
    Source: definition in the design.
    """
    span = span if span is not None else limit
    if span <= 0:
        return 1.0 if value <= limit else -1.0
    return min(1.0, (limit - value) / span)


def margin_above(value: float, limit: float, span: float | None = None) -> float:
    """Margin of a value that must stay above ``limit``: 0 at the limit, 1 at ``limit + span`` and beyond.

    ``span`` in the value's unit says how far is far; without it the limit itself is the span.
    Source: definition in the design.
    """
    span = span if span is not None else abs(limit)
    if span <= 0:
        return 1.0 if value >= limit else -1.0
    return min(1.0, (value - limit) / span)


def level_of(margin: float, care: float = CARE_MARGIN) -> Level:
    """Level from a margin (no unit): below 0 grounds, below ``care`` is care, else clear. At the limit is allowed.

    Source: our choice; common practice, no source.
    """
    if margin < 0:
        return Level.GROUNDED
    return Level.CARE if margin < care else Level.CLEAR


def cap(findings: tuple[Finding, ...], check_id: str, *, grounds: bool) -> tuple[Finding, ...]:
    """Put the check's name on its findings; a check that only spoils the day never grounds (its worst is care).

    Source: levels G and S of the practice.
    """
    changed = []
    for finding in findings:
        level = finding.level if grounds else min(finding.level, Level.CARE)
        changed.append(finding.model_copy(update={"check_id": check_id, "level": Level(level)}))
    return tuple(changed)


def worst(findings: tuple[Finding, ...]) -> Level:
    """The worst level among the findings (no unit); clear when there are none. Source: definition in the design."""
    return max((f.level for f in findings), default=Level.CLEAR)


def measured(
    name: str,
    level: Level,
    value: Quantity,
    limit: Quantity,
    *,
    sense: Literal["max", "min"],
    margin: float | None,
    words: str,
    source: str,
    remedy: str = "",
    **numbers: Quantity,
) -> Finding:
    """A finding about a value against its limit; ``words`` may say {value}, {limit} and the other quantities in inside units.

    A clear one needs no remedy. Source: the caller names its own.
    """
    return Finding(
        name=name,
        level=level,
        value=value,
        limit=limit,
        sense=sense,
        margin=margin,
        reason=Phrase.of(words, value=value, limit=limit, **numbers),
        remedy="" if level is Level.CLEAR else remedy,
        source=source,
    )
