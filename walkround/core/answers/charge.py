"""The charge that a smart pack shows: in per cent, or as LEDs or bars, which are a range and are judged at its low end."""

from datetime import datetime
from typing import Annotated, Literal

import msgspec

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding
from walkround.core.base.phrase import Phrase, percent
from walkround.core.base.units import Measure, Quantity
from walkround.core.base.value import Allowed, whole
from walkround.core.packs.charge import ChargeRange, from_lights, from_percent
from walkround.core.packs.reading import LIGHTS, Reading

EXAMPLE_PERCENT = 98.0
SCREEN = "screen"
"""Who says what was read from a screen: the pilot's own eyes."""


class AskCharge(Ask, frozen=True, kw_only=True):
    """The charge that a smart pack shows, in the way this aircraft shows it."""

    kind: Literal["charge"] = "charge"


class ChargeShown(Answer):
    """What was shown: ``percent``, or ``lit`` of ``of`` LEDs or bars."""

    kind: Literal["charge"] = "charge"
    percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    lit: Annotated[int | None, Allowed(ge=0, le=10)] = None
    of: Annotated[int, Allowed(ge=2, le=10)] = LIGHTS

    @whole
    def one_of_them(self) -> "ChargeShown":
        """Refuse both, none, and more lit than there are."""
        if (self.percent is None) == (self.lit is None) or (self.lit is not None and self.lit > self.of):
            raise InputError("Enter the charge as your screen shows it.", "percent")
        return self

    @property
    def held(self) -> ChargeRange:
        """The range in per cent that it stands for. Source: ``charge.from_percent``, ``charge.from_lights``."""
        return from_percent(self.percent) if self.percent is not None else from_lights(self.lit or 0, self.of)

    @property
    def at_least(self) -> float:
        """What it is judged at, in per cent: the number shown, or the low end of the range."""
        return self.percent if self.percent is not None else self.held.low

    def remembered(self, ask: Ask) -> Quantity | None:
        """What it was judged at."""
        return Quantity(value=self.at_least, measure=Measure.PERCENT)

    def pack_reading(self, at: datetime, by: str) -> Reading | None:
        """The same for the history of the pack; a gauge of another number of LEDs than four is not kept there."""
        by = "pilot" if by == SCREEN else by
        if self.percent is not None:
            return Reading(at=at, percent=self.percent, by=by)
        return Reading(at=at, lights=self.lit, by=by) if self.of == LIGHTS else None


def _judge(question: Question, answer: ChargeShown, case: Case, at: datetime) -> tuple[Finding, ...]:
    found = case.by_rule("charge_percent", answer.at_least)
    if answer.lit is None:
        return found
    held = answer.held
    words = Phrase.of(
        f"{answer.lit} of {answer.of} lit: {{low}} to {{high}}, judged at {{low}}.",
        low=percent(round(held.low)),
        high=percent(round(held.high)),
    )
    return tuple(msgspec.structs.replace(f, reason=words) if f.name == "Charge shown" else f for f in found)


def _example(question: Question, case: Case, at: datetime) -> ChargeShown:
    return ChargeShown(percent=EXAMPLE_PERCENT)


KIND = AnswerKind(AskCharge, ChargeShown, _judge, _example)
