"""The judgement of one piece of evidence: level, value, limit, margin, reason, remedy, source."""

import math
from collections.abc import Mapping
from enum import IntEnum
from typing import Literal

from msgspec.structs import replace

from walkround.core.base.phrase import Phrase
from walkround.core.base.units import STEPS, Quantity
from walkround.core.base.value import KeptStruct

CAUTION_MARGIN = 0.15
"""A value closer to its limit than this share of the limit is a caution. Source: our choice; common practice, no source."""

OUR_CHOICE = "our choice; common practice, no source"
PRACTICE = "common practice, no source"


class Level(IntEnum):
    """How bad it is; the larger, the worse."""

    CLEAR = 0
    CAUTION = 1
    GROUNDED = 2


class Finding(KeptStruct, frozen=True, kw_only=True):
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
        return Quantity(value=left, measure=STEPS.get(self.value.measure, self.value.measure))


def margin_of(value: float, limit: float, sense: Literal["max", "min"], span: float | None = None) -> float:
    """Margin of a value against its limit, in one unit: 0 at the limit, 1 a whole ``span`` inside it, below 0 over it.

    Without ``span`` the limit's own size is the span; where that is 0, inside is 1. Result without unit, at most 1.
    Raises ValueError for numbers that are not finite.
    """
    if not (math.isfinite(value) and math.isfinite(limit)):
        raise ValueError(f"{value} against {limit} cannot be compared")
    left = limit - value if sense == "max" else value - limit
    span = abs(limit) if span is None else span
    if span <= 0:
        return 0.0 if left == 0 else math.copysign(1.0, left)
    return min(1.0, left / span)


def level_of(margin: float, caution: float = CAUTION_MARGIN) -> Level:
    """Level from a margin: below 0 grounds, below ``caution`` is a caution, else clear. At the limit is allowed.

    Source: our choice; common practice, no source.
    """
    if margin < 0:
        return Level.GROUNDED
    return Level.CAUTION if margin < caution else Level.CLEAR


def cap(findings: tuple[Finding, ...], check_id: str, *, grounds: bool) -> tuple[Finding, ...]:
    """Put the check's name on its findings; a check that only spoils the day never grounds (its worst is a caution).

    Source: levels G and S of the practice.
    """
    changed = []
    for finding in findings:
        level = finding.level if grounds else min(finding.level, Level.CAUTION)
        changed.append(replace(finding, check_id=check_id, level=Level(level)))
    return tuple(changed)


def worst(findings: tuple[Finding, ...]) -> Level:
    """The worst level among the findings; clear when there are none."""
    if len(findings) == 1:  # as most checks have; it is asked for hundreds of times on a page
        return findings[0].level
    return max((f.level for f in findings), default=Level.CLEAR)


Words = str | Mapping[Level, str]


def _by_level(words: Words, level: Level) -> str:
    return words if isinstance(words, str) else words.get(level, "")


def measured(
    name: str,
    value: Quantity,
    limit: Quantity,
    *,
    sense: Literal["max", "min"],
    words: Words,
    source: str,
    level: Level | None = None,
    most: Level = Level.GROUNDED,
    span: float | None = None,
    caution: float = CAUTION_MARGIN,
    remedy: Words = "",
    numbers: Mapping[str, Quantity] | None = None,
    **more: Quantity,
) -> Finding:
    """The one way to a finding about a value against its limit: value, limit, margin and what is to spare agree.

    ``level``: from the margin unless the rule knows better; over the limit is never clear. ``most``: no worse
    than this. ``words`` and ``remedy``: one text, or one for each level; ``words`` may say {value}, {limit} and the other
    quantities, all in inside units. A clear finding needs no remedy. Raises ValueError for numbers that are not finite.
    Source: the caller names its own.
    """
    if value.measure is not limit.measure:
        raise ValueError(f"{name}: {value.measure} against {limit.measure}")
    margin = margin_of(value.value, limit.value, sense, span)
    found = level_of(margin, caution) if level is None else level
    if found > most:
        found = most
    if margin < 0 and found is Level.CLEAR:
        found = Level.CAUTION
    quantities = {"value": value, "limit": limit, **more}
    if numbers:
        quantities |= numbers
    return Finding(
        check_id="",
        name=name,
        level=found,
        value=value,
        limit=limit,
        sense=sense,
        margin=margin,
        reason=Phrase(text=_by_level(words, found), numbers=quantities),
        remedy="" if found is Level.CLEAR else _by_level(remedy, found),
        source=source,
    )
