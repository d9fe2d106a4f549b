"""What returns flown on purpose say of an aircraft: its own landing spread, and its own use on the way home."""

import math
from collections.abc import Sequence
from statistics import median

from walkround.core.aircraft.link_trials import Rehearsal
from walkround.core.base.struct import Struct

FEWEST = 3
"""From so many rehearsals on they count. Source: the least from which a spread can be told; our choice."""
USUAL_LANDING_M = 1.5
"""Standard deviation of a landing by itself along each axis, before any rehearsal, in m. Source: from memory; common practice, no source."""
LEAST_LANDING_M, MOST_TIMES = 0.3, 3.0


class OwnReturn(Struct, frozen=True, kw_only=True):
    """An aircraft's own return: standard deviation of its landings along each axis in m, what it uses over what is computed, from so many rehearsals; 0: the
    usual numbers."""

    landing_m: float = USUAL_LANDING_M
    use_times: float = 1.0
    rehearsals: int = 0

    @property
    def within_m(self) -> float:
        """Within so many m of the launch point it lands in 95 of 100. Source: Rayleigh, ``sigma sqrt(-2 ln 0.05)``."""
        return self.landing_m * math.sqrt(-2 * math.log(0.05))


def own_return(rehearsals: Sequence[Rehearsal]) -> OwnReturn:
    """What rehearsals say, the usual numbers before the third. The use never counts as cheaper than computed.

    Source: offsets of a spread that is equal in both axes are Rayleigh distributed, ``sigma² = mean(r²) / 2`` (textbook).
    """
    if len(rehearsals) < FEWEST:
        return OwnReturn()
    landing = math.sqrt(sum(r.offset_m**2 for r in rehearsals) / (2 * len(rehearsals)))
    ratios = [
        r.used_percent / r.expected_percent for r in rehearsals if r.used_percent is not None and r.expected_percent
    ]
    times = median(ratios) if len(ratios) >= FEWEST else 1.0
    return OwnReturn(
        landing_m=max(LEAST_LANDING_M, landing), use_times=min(MOST_TIMES, max(1.0, times)), rehearsals=len(rehearsals)
    )
