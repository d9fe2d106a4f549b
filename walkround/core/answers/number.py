"""A number with its unit, judged against the bands of its check or by the rule that the check names."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import PRACTICE, Finding, Level, margin_of, measured
from walkround.core.base.units import Measure, Quantity
from walkround.core.base.value import KeptStruct


class Band(KeptStruct, frozen=True, kw_only=True):
    """Bands of a number in inside units: grounded outside ground_*, caution outside caution_*, else clear."""

    ground_below: float | None = None
    caution_below: float | None = None
    caution_above: float | None = None
    ground_above: float | None = None
    low: str = ""
    high: str = ""
    good: str = "{value}."
    remedy: str = ""

    @property
    def inner(self) -> tuple[float | None, float | None]:
        """The bounds within which a number is clear, in its unit; None where there is none."""
        lows = [x for x in (self.ground_below, self.caution_below) if x is not None]
        highs = [x for x in (self.caution_above, self.ground_above) if x is not None]
        return max(lows, default=None), min(highs, default=None)


class AskNumber(Ask, frozen=True, kw_only=True):
    """A number with its unit; ``low`` and ``high`` bound what can be typed. ``rule`` names the judge, or a band stands."""

    kind: Literal["number"] = "number"
    measure: Measure
    label: str
    low: float = 0.0
    high: float = 1e6
    rule: str = "band"
    band: Band | None = None


class Measured(Answer):
    """A number in the inside unit of the check's measure."""

    kind: Literal["measured"] = "measured"
    value: float

    def remembered(self, ask: Ask) -> Quantity | None:
        """The number with its unit."""
        return Quantity(value=self.value, measure=ask.measure) if isinstance(ask, AskNumber) else None


def half_width(band: Band) -> float | None:
    """Half of what lies between the inner bounds of a band that has both, in its unit; else None.

    A value in the middle is as far from its limits as it can be.
    """
    low, high = band.inner
    return None if low is None or high is None else (high - low) / 2


def judge_band(value: float, measure: Measure, label: str, band: Band, source: str = PRACTICE) -> Finding:
    """Judge a number (in the measure's inside unit) against the bands of a check. Source: the check's own."""
    shown = Quantity(value=value, measure=measure)
    span = half_width(band)
    low, high = band.low or "{value} is below {limit}.", band.high or "{value} is above {limit}."
    tight: list[tuple[Level, float, float, Literal["max", "min"], str]] = []  # level, margin, limit, sense, words
    bounds: tuple[tuple[float | None, Level, Literal["max", "min"], str], ...] = (
        (band.ground_below, Level.GROUNDED, "min", low),
        (band.caution_below, Level.CAUTION, "min", low),
        (band.ground_above, Level.GROUNDED, "max", high),
        (band.caution_above, Level.CAUTION, "max", high),
    )
    for bound, level, sense, words in bounds:
        if bound is not None:
            margin = margin_of(value, bound, sense, span)
            tight.append((level if margin < 0 else Level.CLEAR, margin, bound, sense, words))
    level, _, limit_value, sense, words = max(tight, key=lambda t: (t[0], -t[1]))
    return measured(
        label,
        shown,
        Quantity(value=limit_value, measure=measure),
        sense=sense,
        level=level,
        span=span,
        words={Level.CLEAR: band.good, Level.CAUTION: words if level else band.good, Level.GROUNDED: words},
        remedy=band.remedy,
        source=source,
    )


def _judge(question: Question, answer: Measured, case: Case, at: datetime) -> tuple[Finding, ...]:
    ask = question.ask
    assert isinstance(ask, AskNumber)
    if ask.band is not None:
        return (judge_band(answer.value, ask.measure, ask.label, ask.band, question.source),)
    return case.by_rule(ask.rule, answer.value)


def _example(question: Question, case: Case, at: datetime) -> Measured:
    """Well inside the bands; for a rule, which nobody knows from here, the middle of what can be typed."""
    assert isinstance(question.ask, AskNumber)
    band = question.ask.band
    low, high = (question.ask.low, question.ask.high) if band is None else band.inner
    if low is not None and high is not None:
        return Measured(value=(low + high) / 2)
    return Measured(value=high * 0.5 if low is None and high is not None else (low or 0.0) * 1.2 + 1)


KIND = AnswerKind(AskNumber, Measured, _judge, _example)
