"""The signal of the link ten metres away, as this aircraft's screen shows it: bars, per cent or dBm. So near it must be nearly full."""

from datetime import datetime
from typing import Annotated, Literal

from walkround.core.aircraft.traits import Trait
from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.answers.number import Band, judge_band
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.units import Measure, Quantity
from walkround.core.base.value import Allowed, whole

NAME = "Signal shown"
WEAK = "Check antennas, connectors and the power setting of the transmitter. Do not fly until it is full close by."
PERCENT = Band(ground_below=70, caution_below=90, low="{value} so near is below {limit}.", remedy=WEAK)
"""Bounds of a link quality in per cent at 10 m. Source: our choice; common practice, no source."""
DBM = Band(ground_below=-75, caution_below=-60, low="{value} so near is weaker than {limit}.", remedy=WEAK)
"""Bounds in dBm at 10 m: 20 and 35 dB less than 100 mW give there in free space. Source: Recommendation ITU-R P.525 for the loss; the
steps are our choice."""
LOWEST_DBM = -130.0


class AskSignal(Ask, frozen=True, kw_only=True):
    """The signal at 10 m, in the way this aircraft's screen shows it."""

    kind: Literal["signal"] = "signal"


class SignalShown(Answer):
    """What was shown: ``bars`` of ``of``, ``percent``, or ``dbm``; one of them."""

    kind: Literal["signal"] = "signal"
    bars: Annotated[int | None, Allowed(ge=0, le=10)] = None
    of: Annotated[int, Allowed(ge=2, le=10)] = 5
    percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    dbm: Annotated[float | None, Allowed(ge=LOWEST_DBM, le=0)] = None

    @whole
    def one_of_them(self) -> "SignalShown":
        """Refuse none, two, and more bars than there are."""
        given = [value for value in (self.bars, self.percent, self.dbm) if value is not None]
        if len(given) != 1 or (self.bars is not None and self.bars > self.of):
            raise InputError("Enter the signal as your screen shows it.", "number")
        return self

    def remembered(self, ask: Ask) -> Quantity | None:
        """What was shown, in its unit."""
        if self.bars is not None:
            return Quantity(value=self.bars, measure=Measure.COUNT)
        if self.percent is not None:
            return Quantity(value=self.percent, measure=Measure.PERCENT)
        return Quantity(value=self.dbm or 0.0, measure=Measure.SIGNAL)


def _judge(question: Question, answer: SignalShown, case: Case, at: datetime) -> tuple[Finding, ...]:
    if answer.percent is not None:
        return (judge_band(answer.percent, Measure.PERCENT, NAME, PERCENT, question.source),)
    if answer.dbm is not None:
        return (judge_band(answer.dbm, Measure.SIGNAL, NAME, DBM, question.source),)
    lit = answer.bars or 0
    missing = answer.of - lit
    return (
        measured(
            NAME,
            Quantity(value=lit, measure=Measure.COUNT),
            Quantity(value=answer.of - 1, measure=Measure.COUNT),
            sense="min",
            level=(Level.CLEAR, Level.CAUTION)[missing] if missing < 2 else Level.GROUNDED,
            words={
                Level.CLEAR: "All {of} bars.",
                Level.CAUTION: "{value} of {of} bars. So near it should be full.",
                Level.GROUNDED: "{value} of {of} bars so near.",
            },
            remedy=WEAK,
            source=question.source,
            of=Quantity(value=answer.of, measure=Measure.COUNT),
        ),
    )


def _example(question: Question, case: Case, at: datetime) -> SignalShown:
    if case.aircraft.has(Trait.SIGNAL_DBM):
        return SignalShown(dbm=-42)
    if case.aircraft.has(Trait.SIGNAL_BARS):
        return SignalShown(bars=case.aircraft.signal_bars, of=case.aircraft.signal_bars)
    return SignalShown(percent=99)


KIND = AnswerKind(AskSignal, SignalShown, _judge, _example)
