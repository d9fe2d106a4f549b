"""A still start: the seconds run only while the gyro is quiet, and begin anew when it moves. A drift that never ends is told from a knock."""

import math
from collections.abc import Iterable
from datetime import datetime
from statistics import median
from typing import Annotated, Literal

from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.phrase import Phrase, second
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

STILL_DPS = 3.0
"""Up to so many degrees a second it is still. Source: our choice."""
DRIFTS_S = 8.0
"""What never rests for so long without being touched drifts. Source: our choice."""


class StillTimer(Struct, frozen=True, kw_only=True):
    """A still start as it stands: how many s it needs, since when (s) it has been quiet (None: it moves), how often it was moved, and whether it is done."""

    needed_s: float
    since_s: float | None = None
    moved: int = 0
    done: bool = False
    restless_since_s: float | None = None

    def after(self, at_s: float, turning_dps: tuple[float, float, float]) -> "StillTimer":
        """The timer after one more frame: at so many s, turning by so many degrees a second about each axis."""
        if self.done:
            return self
        quiet = all(math.isfinite(rate) for rate in turning_dps) and math.hypot(*turning_dps) <= STILL_DPS
        if not quiet:
            restless = self.restless_since_s if self.since_s is None and self.restless_since_s is not None else at_s
            return StillTimer(
                needed_s=self.needed_s, moved=self.moved + (self.since_s is not None), restless_since_s=restless
            )
        since = at_s if self.since_s is None else self.since_s
        return StillTimer(needed_s=self.needed_s, since_s=since, moved=self.moved, done=at_s - since >= self.needed_s)

    def quiet_s(self, at_s: float) -> float:
        """For how many s it has been quiet at a moment in s."""
        return 0.0 if self.since_s is None else max(0.0, at_s - self.since_s)

    def drifts(self, at_s: float) -> bool:
        """Whether it has not rested for so long that the gyro drifts rather than the aircraft moves; moment in s."""
        return self.restless_since_s is not None and self.since_s is None and at_s - self.restless_since_s >= DRIFTS_S


NEEDED_S = 12.0
"""So long a start rests in one piece, in s. Source: our choice."""
FEWEST_STARTS, NEWEST = 3, 10
"""From so many starts on a usual duration is known; so many of the newest count. Source: our choice."""
SLOW, SLOW_S = 1.5, 5.0
"""So many times the usual duration, and so many s more, is slow. Source: our choice."""
VERY_SLOW = 3.0
LONGEST_S = 900.0


class StillStart(Value):
    """A start at an aware moment: after how many s with nothing moved the aircraft gave its own signal."""

    kind: Literal["still"] = "still"
    at: datetime
    seconds: Annotated[float, Allowed(gt=0, le=LONGEST_S)]
    simulated: bool = False


def usual_s(starts: Iterable[StillStart]) -> float | None:
    """How long an aircraft usually takes, in s, from its starts, newest first: the middle of the newest real ones; None where too few are known."""
    known = [one.seconds for one in starts if not one.simulated][:NEWEST]
    return float(median(known)) if len(known) >= FEWEST_STARTS else None


def slow_after_s(usual: float) -> float:
    """After how long a start is slow for an aircraft that usually takes so long, both in s. Source: ``SLOW``, ``SLOW_S``."""
    return max(usual * SLOW, usual + SLOW_S)


def start_finding(seconds: float, usual: float | None) -> Finding | None:
    """A start of so many s against what is usual for this aircraft, in s; None where that is not known yet. Source: ``SLOW``, ``SLOW_S``, ``VERY_SLOW``."""
    if usual is None:
        return None
    slow = seconds > slow_after_s(usual)
    level = Level.CLEAR if not slow else Level.GROUNDED if seconds > usual * VERY_SLOW else Level.CAUTION
    words = Phrase.of(
        "Its own signal came after {took}; usually it takes {usual}.",
        took=second(round(seconds, 1)),
        usual=second(round(usual, 1)),
    )
    remedy = "It was moved, or it is warming up in the cold. Power off, and start again without touching it."
    return Finding(name="Start", level=level, reason=words, remedy=remedy if slow else "", source=OUR_CHOICE)


class Rest(Struct, frozen=True, kw_only=True):
    """How a recording rested: for how many s in one piece at most, and how often it was moved."""

    longest_s: float
    moved: int


def rest_of(turnings: Iterable[tuple[float, tuple[float, float, float]]]) -> Rest:
    """The longest rest of a recording, from its moments in s and its turning in degrees a second. Source: ``STILL_DPS``."""
    timer, longest = StillTimer(needed_s=math.inf), 0.0
    for at_s, turning in turnings:
        timer = timer.after(at_s, turning)
        longest = max(longest, timer.quiet_s(at_s))
    return Rest(longest_s=longest, moved=timer.moved)


def rest_finding(rest: Rest, needed_s: float) -> Finding:
    """A rest against how many s a start needs. Source: as ``StillTimer``."""
    words = Phrase.of(
        "It rested for {rest} in one piece; {needed} are needed.",
        rest=second(round(rest.longest_s, 1)),
        needed=second(needed_s),
    )
    level = Level.GROUNDED if rest.longest_s < needed_s else Level.CAUTION if rest.moved else Level.CLEAR
    remedy = "" if level is Level.CLEAR else "Power off, set it down, and start again without touching it."
    return Finding(name="Still start", level=level, reason=words, remedy=remedy, source=OUR_CHOICE)
