"""How long the first fix of the day may take: what the receiver still knows from its last one."""

from walkround.core.base.struct import Struct

EPHEMERIS_H = 4.0
"""So long the orbits that were received stay good, in hours. Source: IS-GPS-200, fit interval of four hours (from memory)."""
ALMANAC_DAYS = 60.0
"""So long the rough places of all satellites are of use, in days. Source: our choice; an almanac is renewed about daily, IS-GPS-200 (from memory)."""
NEAR_M = 300_000.0
"""Carried no farther than this (m) it still looks for the right satellites. Source: our choice."""
HOT_S, WARM_S, COLD_S = (1.0, 15.0), (25.0, 90.0), (40.0, 480.0)
"""From and to, in s. Source: an ephemeris is sent every 30 s (IS-GPS-200, from memory); cold 5 to 8 minutes at most, common practice, no source."""
WHOLE_ALMANAC_S = 750.0
"""A receiver that knows nothing has heard everything after this many s: 25 pages of 30 s. Source: IS-GPS-200 (from memory)."""


class FirstFix(Struct, frozen=True, kw_only=True):
    """What to expect: from and to in s, and why in words."""

    least_s: float
    most_s: float
    why: str

    @property
    def words(self) -> str:
        """The expectation in a sentence."""
        most = f"{self.most_s:.0f} s" if self.most_s < 120 else f"{self.most_s / 60:.0f} min"
        return f"First fix: up to {most} ({self.why})."


def first_fix(hours_since: float | None, away_m: float | None, *, changed: bool = False) -> FirstFix:
    """What to expect after so many hours since the last fix, so far (m) from it; None: not known. ``changed``: the receiver is new or was updated since.

    Source: ``EPHEMERIS_H``, ``ALMANAC_DAYS``.
    """
    if hours_since is None or changed:
        return FirstFix(
            least_s=COLD_S[0],
            most_s=COLD_S[1],
            why="cold: no earlier fix is on record" if not changed else "cold: the receiver is new or was updated",
        )
    if away_m is not None and away_m > NEAR_M:
        return FirstFix(least_s=COLD_S[0], most_s=COLD_S[1], why="cold: carried far since its last fix")
    if hours_since > 24 * ALMANAC_DAYS:
        return FirstFix(least_s=COLD_S[0], most_s=COLD_S[1], why="cold: a long break")
    if hours_since > EPHEMERIS_H:
        return FirstFix(least_s=WARM_S[0], most_s=WARM_S[1], why="warm: last used some time ago")
    return FirstFix(least_s=HOT_S[0], most_s=HOT_S[1], why="hot: used within four hours")


def late_words(waited_s: float, expected: FirstFix) -> str:
    """What to say when a wait (s) is longer than expected; "" while it is not. Source: ``first_fix``; ``WHOLE_ALMANAC_S``."""
    if waited_s <= expected.most_s:
        return ""
    if waited_s > WHOLE_ALMANAC_S:
        return "Longer than a receiver ever needs under open sky: move, restart, check antenna and leads."
    return "Longer than expected: move to open sky, away from anything new that may jam it, and restart."
