"""A robust line through a few or many readings, with its interval, and a jump told apart from it."""

import math
from collections.abc import Sequence
from statistics import NormalDist
from typing import TYPE_CHECKING

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Array = npt.NDArray[np.float64]
else:
    np, Array = Later("numpy"), object


RATE = 0.90
"""How often an interval of this module holds the truth. Source: our choice."""
FEW_READINGS, FEW_DAYS = 8, 14.0
"""With fewer readings, or over fewer days, nothing is said about a trend. Source: our choice."""
_BISQUARE = 4.685
"""Tuning constant of the bisquare weight: 95 % efficiency with normal errors. Source: Huber and Ronchetti, Robust
Statistics, 2nd edition; from memory."""
_MAD = 1.4826
"""Median absolute deviation to standard deviation. Source: 1 / (normal quantile of 3/4)."""
_THINNED = 60
_JUMP_GAIN, _JUMP_FEW, _JUMP_SIGMAS = 10.0, 60.0, 4.0
"""A jump must explain this much more (difference of the Bayesian information criterion, with a share over the number of
readings on top) and be this many times the scatter. Source: "very strong" above 10 (Kass and Raftery 1995, from
memory); the rest is our choice, found by simulation."""
_NEAR = 9
_END = 5  # readings on each side of a jump


class Jump(Struct, frozen=True, kw_only=True):
    """A sudden change between two readings: when (days), by how much, in the unit of the values."""

    day: float
    change: float


class Trend(Struct, frozen=True, kw_only=True):
    """A line: value ``now`` at the last reading and its change a day, with their intervals, in the unit of the values.

    ``few`` says why there is none. ``readings``: how many the line rests on; ``days``: over how long. ``scatter``:
    standard deviation of one reading. ``jump``: the line rests on what came after it.
    """

    readings: int
    days: float
    few: bool = False
    now: float = 0.0
    now_error: float = 0.0
    slope: float = 0.0
    slope_error: float = 0.0
    covariance: float = 0.0
    quantile: float = 0.0
    scatter: float = 0.0
    jump: Jump | None = None

    def slope_range(self) -> tuple[float, float]:
        """Lowest and highest change a day that the readings allow, in the unit of the values a day."""
        wide = self.quantile * self.slope_error
        return self.slope - wide, self.slope + wide

    def at(self, days: float) -> tuple[float, float, float]:
        """The line so many days after the last reading: lowest, likeliest, highest."""
        middle = self.now + self.slope * days
        error = math.sqrt(max(0.0, self.now_error**2 + 2 * days * self.covariance + days * days * self.slope_error**2))
        return middle - self.quantile * error, middle, middle + self.quantile * error


class Reach(Struct, frozen=True, kw_only=True):
    """Days from the last reading until a limit is reached: likeliest, earliest, latest; None: not in sight."""

    likely: float | None
    early: float | None
    late: float | None


def student_quantile(probability: float, freedom: float) -> float:
    """Quantile of Student's distribution for 3 and more degrees of freedom, good to 1 % at 0.95.

    Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 26.7.5.
    """
    z = NormalDist().inv_cdf(probability)
    n = max(freedom, 1.0)
    g1 = (z**3 + z) / 4
    g2 = (5 * z**5 + 16 * z**3 + 3 * z) / 96
    g3 = (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / 384
    g4 = (79 * z**9 + 776 * z**7 + 1482 * z**5 - 1920 * z**3 - 945 * z) / 92_160
    return z + g1 / n + g2 / n**2 + g3 / n**3 + g4 / n**4


def _median(values: Array) -> float:
    """The middle of some values; NumPy's own looks for much that cannot be here, and a trend asks nine times."""
    half = len(values) // 2
    if len(values) % 2:
        return float(np.partition(values, half)[half])
    low, high = np.partition(values, (half - 1, half))[half - 1 : half + 1]
    return float(low + high) / 2


def _median_slope(x: Array, y: Array) -> float:
    """Median of the slopes between pairs, over at most ``_THINNED`` readings. Source: Theil 1950, Sen 1968."""
    if len(x) > _THINNED:
        keep = np.linspace(0, len(x) - 1, _THINNED).round().astype(int)
        x, y = x[keep], y[keep]
    i, j = np.triu_indices(len(x), 1)
    apart = x[j] - x[i]
    ok = apart > 0
    return _median((y[j] - y[i])[ok] / apart[ok]) if ok.any() else 0.0


def _scale(residuals: Array) -> float:
    return _MAD * _median(np.abs(residuals - _median(residuals)))


def _find_jump(x: Array, y: Array) -> int | None:
    """Index of the first reading after a jump, or None. One step beside a line, found by least squares on readings
    whose lone outliers were pulled to the median of their neighbours."""
    n = len(x)
    if n < 2 * _END + 2:
        return None
    padded = np.concatenate([y[2:0:-1], y, y[-2:-4:-1]])
    near = np.sort(np.lib.stride_tricks.sliding_window_view(padded, 5), axis=1)[:, 2]
    off = y - near
    wide = max(_scale(off), 1e-12)
    calm = np.where(np.abs(off) > 3.5 * wide, near, y)
    centred = x - x.mean()
    sxx = float(centred @ centred)
    slope = float(centred @ calm) / sxx
    left = calm - calm.mean() - slope * centred
    after = np.cumsum(left[::-1])[::-1]
    count = np.arange(n, 0, -1)
    lever = np.cumsum(centred[::-1])[::-1]
    own = count - count**2 / n - lever**2 / sxx
    places = np.arange(_END, n - _END + 1)
    gain = after[places] ** 2 / np.maximum(own[places], 1e-9)
    best = int(places[int(np.argmax(gain))])
    total = float(left @ left)
    rest = max(total - float(gain.max()), 1e-300)
    change = float(after[best] / max(own[best], 1e-9))
    sigma = math.sqrt(rest / max(n - 4, 1))
    better = n * math.log(max(total, 1e-300) / rest) - 2 * math.log(n)
    # A step shows in the middle of its neighbours too; a few wild readings side by side do not move that.
    step = _median(y[best : best + _NEAR]) - _median(y[max(0, best - _NEAR) : best])
    seen = step * change > 0 and abs(step) > abs(change) / 2
    noise = max(sigma, 1e-9 * float(np.abs(y).max()), 1e-12)
    clear = better > _JUMP_GAIN + _JUMP_FEW / n and abs(change) > _JUMP_SIGMAS * noise
    return best if seen and clear else None


def trend(days: Sequence[float], values: Sequence[float], rate: float = RATE) -> Trend:
    """A robust line through readings: ``days`` (any zero, in any order) and ``values`` (one unit), both of one length.

    Starts from the median of slopes, then weighs far readings down (bisquare) until it settles; intervals hold the truth
    at ``rate``. Where a jump explains the readings much better than a line alone, it is named and the line rests on
    what came after it. Raises ValueError for different lengths.
    Source: Theil 1950; Huber and Ronchetti, Robust Statistics, chapter 7 (M-estimate of regression and its covariance);
    from memory.
    """
    if len(days) != len(values):
        raise ValueError("The numbers of days and values must match.")
    order = np.argsort(np.asarray(days, dtype=float), kind="stable")
    x = np.asarray(days, dtype=float)[order]
    y = np.asarray(values, dtype=float)[order]
    jump = None
    at = _find_jump(x, y) if len(x) and x[-1] > x[0] else None
    if at is not None:
        change = _median(y[at:]) - _median(y[:at])
        slope = _median_slope(x[at:], y[at:]) if len(x) - at > 4 else 0.0
        change -= slope * (_median(x[at:]) - _median(x[:at]))
        jump = Jump(day=float(x[at]), change=change)
        x, y = x[at:], y[at:]
    span = float(x[-1] - x[0]) if len(x) else 0.0
    if len(x) < FEW_READINGS or span < FEW_DAYS:
        now = _median(y[-3:]) if len(y) else 0.0
        return Trend(readings=len(x), days=span, few=True, now=now, jump=jump)
    return _line(x, y, span, jump, rate)


def _line(x: Array, y: Array, span: float, jump: Jump | None, rate: float) -> Trend:
    n = len(x)
    z = x - x[-1]
    slope = _median_slope(x, y)
    level = _median(y - slope * z)
    residuals = y - level - slope * z
    floor = 1e-9 * max(1.0, float(np.abs(y).max()))
    # Few residuals of a fitted line look too calm; the factor was found by simulation (see the tests).
    scale = max(_scale(residuals) * math.sqrt(n / (n - 2)) * (1 + 10 / n**2), floor)
    for _ in range(30):
        u = residuals / (_BISQUARE * scale)
        weight = np.where(np.abs(u) < 1, (1 - u * u) ** 2, 0.0)
        whole, first, second = float(weight.sum()), float(weight @ z), float(weight @ (z * z))
        spread = whole * second - first * first
        if whole < 3 or spread <= 1e-12 * whole * second:
            break
        right, wide = float(weight @ y), float((weight * z) @ y)
        old = level, slope
        level, slope = (second * right - first * wide) / spread, (whole * wide - first * right) / spread
        residuals = y - level - slope * z
        # The line's ends are where it moves most.
        if max(abs(level - old[0]), abs(level - old[0] - span * (slope - old[1]))) < 1e-5 * scale:
            break
    u = residuals / (_BISQUARE * scale)
    inside = np.abs(u) < 1
    psi = np.where(inside, residuals / scale * (1 - u * u) ** 2, 0.0)
    bend = np.where(inside, (1 - u * u) * (1 - 5 * u * u), 0.0)
    mean_bend = max(float(bend.mean()), 0.2)
    grow = 1 + 2 / n * float(bend.var()) / mean_bend**2
    each = max(grow**2 * scale**2 * float(psi @ psi) / max(n - 2, 1) / mean_bend**2, floor**2)
    first, second = float(z.sum()), float(z @ z)
    spread = n * second - first * first
    return Trend(
        readings=n,
        days=span,
        now=level,
        now_error=math.sqrt(each * second / spread),
        slope=slope,
        slope_error=math.sqrt(each * n / spread),
        covariance=-each * first / spread,
        quantile=student_quantile(0.5 + rate / 2, n - 2),
        scatter=scale,
        jump=jump,
    )


LOOK_AHEAD_DAYS = 3650.0
"""Farther ahead nothing is promised. Source: our choice."""


def reach(line: Trend, limit: float, *, falling: bool) -> Reach:
    """Days from the last reading until the line reaches ``limit`` (unit of the values), from above when ``falling``.

    ``early`` and ``late``: where the edges of the line's interval reach it; None where they do not within ten years.
    A line that is there already reaches it in 0 days.
    """
    sign = 1.0 if falling else -1.0

    def first(edge: int) -> float | None:
        def above(days: float) -> float:
            return sign * (line.at(days)[edge] - limit)

        if above(0) <= 0:
            return 0.0
        steps = [LOOK_AHEAD_DAYS * (i / 60) ** 2 for i in range(61)]
        for low, high in zip(steps, steps[1:], strict=False):
            if above(high) <= 0:
                for _ in range(30):
                    middle = (low + high) / 2
                    low, high = (middle, high) if above(middle) > 0 else (low, middle)
                return high
        return None

    near, far = (0, 2) if falling else (2, 0)
    return Reach(likely=first(1), early=first(near), late=first(far))
