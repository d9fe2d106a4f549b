"""How much height a wing needs to get out of a stall."""

import math

G_MS2 = 9.80665
STALL_SHARE = 0.6
"""Stall speed as a share of the usual cruise. Source: our choice; a trainer cruises at one and a half times its stall speed and more, common practice, no source."""
TOP_SHARE = 0.35
"""The same as a share of top speed, where no cruise is known. Source: our choice."""
FLYING_AGAIN, LOAD, DIVE_DEG, REACTION_S = 1.3, 2.0, 45.0, 1.5
"""It flies again at this many times its stall speed; it is pulled out with this load; it dives so steeply; the pilot needs so many s. Source: our choice; 1.3 times the stall
speed is the usual margin of an approach (from memory)."""


def stall_ms(cruise_ms: float | None, top_ms: float) -> float:
    """About the speed at which a wing stalls, in m/s. Source: ``STALL_SHARE``."""
    return STALL_SHARE * cruise_ms if cruise_ms is not None else TOP_SHARE * top_ms


def recovery_m(stall_speed_ms: float) -> float:
    """Height in m from a stall to level flight: the dive while the pilot reacts and speed comes back, then the pull-out.

    Source: energy v²/2g, and a pull-out on a circle of radius v² / (g (n - cos γ)); no drag, which only shortens it.
    """
    v = FLYING_AGAIN * stall_speed_ms
    speeding = (v**2 - stall_speed_ms**2) / (2 * G_MS2)
    reacting = REACTION_S * v * math.sin(math.radians(DIVE_DEG))
    slope = math.cos(math.radians(DIVE_DEG))
    pull_out = v**2 / (G_MS2 * (LOAD - slope)) * (1 - slope)
    return speeding + reacting + pull_out
