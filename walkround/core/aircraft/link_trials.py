"""Trials of a lost link with an aircraft: the bench test of its failsafe, and the return to home flown on purpose."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal

from walkround.core.base.errors import InputError
from walkround.core.base.value import Allowed, Value, whole


class Seen(StrEnum):
    """What happened when the transmitter was switched off."""

    STOPPED = "the motors stopped"
    ACTED = "the set action started"
    KEPT_ON = "the motors kept running"
    NOTHING = "nothing moved"

    @property
    def acted(self) -> bool:
        """Whether the failsafe did what it is there for."""
        return self in (Seen.STOPPED, Seen.ACTED)


class BenchTest(Value):
    """A failsafe tested: what was seen, after how many seconds (None: not measured), whether the beeper sounded (None: it has none or nobody heard).
    ``at`` aware."""

    kind: Literal["bench"] = "bench"
    at: datetime
    seen: Seen
    after_s: Annotated[float | None, Allowed(ge=0, le=120)] = None
    beeper: bool | None = None

    @property
    def passed(self) -> bool:
        """Whether the aircraft was safe."""
        return self.seen.acted


class Rehearsal(Value):
    """A return flown on purpose: from how far in m, how long in s, what it used and what was computed for it in per cent of a full pack (None: not known), how far
    from the launch point it came down in m. ``at`` aware."""

    kind: Literal["rehearsal"] = "rehearsal"
    at: datetime
    distance_m: Annotated[float, Allowed(gt=0, le=20_000)]
    seconds: Annotated[float, Allowed(gt=0, le=3_600)]
    used_percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    expected_percent: Annotated[float | None, Allowed(gt=0, le=100)] = None
    offset_m: Annotated[float, Allowed(ge=0, le=1_000)]

    @whole
    def can_be(self) -> "Rehearsal":
        """Refuse a return faster than anything that flies a return."""
        if self.distance_m / self.seconds > 100:
            raise InputError("That is too fast. Check distance and time.", "seconds")
        return self


Trial = BenchTest | Rehearsal
