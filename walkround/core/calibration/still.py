"""A still start: the seconds run only while the gyro is quiet, and begin anew when it moves. A drift that never ends is told from a knock."""

import math

from walkround.core.base.struct import Struct

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
