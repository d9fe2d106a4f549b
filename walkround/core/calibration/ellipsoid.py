"""An ellipsoid through the samples of a three-axis sensor: offset (hard iron), scale and cross-axis (soft iron), robust to gross outliers, with its uncertainty.

A sample ``m`` lies on ``|S (m - o)| = 1``: ``o`` the offset, ``S`` symmetric and positive. The mean radius ``det(S)^(-1/3)`` is the strength measured. The loss is
soft L1, so a sample far off pulls like a line and not like a square. Source: Levenberg-Marquardt on the geometric residual; our own, checked against scipy.
"""

from enum import StrEnum
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

FEWEST = 40
"""With fewer samples nothing is fitted. Source: our choice; nine unknowns, four to five samples for each."""
HALF = 0.6
"""A full fit needs this share of the sectors, which is half the sphere at least, for those at the edge are seen in part; below it only the offset is fitted. Source: our choice."""
SQUASHED = 2.0
"""An ellipsoid whose axes differ by more than this is the fit of a plane, not of a compass. Source: our choice."""
QUARTER = 0.2
"""With less than this share not even the offset is told. Source: our choice."""
OUTLIER_SIGMA, REACH = 4.0, 0.35
MOST_STEPS, TOLERANCE, ROUGHLY = 60, 1e-10, 1e-3
BANDS, ROUND, DRAWS = 8, 12, 120
SECTORS = BANDS * ROUND
MOST_RADIUS = 4.0
"""A sphere larger than so many times the median distance of the samples is none that they lie on all sides of."""
AXES = ("fore and aft", "side to side", "up and down")


class FitKind(StrEnum):
    """How much the samples carry."""

    FULL = "offset, scale and cross-axis"
    OFFSET = "offset only"
    NONE = "too little"


class Fit(Struct, frozen=True, kw_only=True):
    """A fit in the unit of the samples: offset, the matrix that makes the ellipsoid a sphere of its own mean radius, that radius; the root mean square of the inliers'
    residuals (as a share of the radius, and in the unit); the standard deviation of each coordinate of the offset, without end where nothing is told; which samples are inliers; the share of the sphere
    covered (0 to 1) with its 96 sectors; where the loss turns from square to line (a share); and the axes that the samples do not tell.
    """

    kind: FitKind
    offset: Any
    matrix: Any
    radius: float
    residual: float
    offset_sd: Any
    inliers: Any
    covered: float
    sectors: tuple[int, ...]
    scale: float = 0.0
    unknown: tuple[str, ...] = ()

    @property
    def rejected(self) -> int:
        """How many samples were left out as gross outliers."""
        return int((~self.inliers).sum())

    def corrected(self, samples: Any) -> Any:
        """Samples with offset and matrix applied, in their own unit."""
        return (np.asarray(samples, float) - self.offset) @ self.matrix.T


def sector_of(directions: Any) -> Any:
    """The sector of each unit direction (n by 3): 96 of equal area, twelve in each of eight bands of equal height. Source: Archimedes' hat-box theorem."""
    band = np.clip(((directions[:, 2] + 1) / 2 * BANDS).astype(int), 0, BANDS - 1)
    turn = np.mod(np.arctan2(directions[:, 1], directions[:, 0]), 2 * np.pi) / (2 * np.pi)
    return band * ROUND + np.minimum((turn * ROUND).astype(int), ROUND - 1)


def coverage(directions: Any) -> tuple[float, tuple[int, ...]]:
    """The share of the sphere (0 to 1) that unit directions cover, and how many are in each sector."""
    many = np.bincount(sector_of(directions), minlength=SECTORS)
    return float((many > 0).mean()), tuple(int(n) for n in many)


def _matrix(p: Any) -> Any:
    return np.array([[p[3], p[6], p[7]], [p[6], p[4], p[8]], [p[7], p[8], p[5]]])


def _residuals(p: Any, samples: Any) -> tuple[Any, Any]:
    """Residuals and their Jacobian by the nine unknowns."""
    d = samples - p[:3]
    s = _matrix(p)
    v = d @ s
    norm = np.sqrt(np.einsum("ij,ij->i", v, v))
    g = v / np.maximum(norm, 1e-12)[:, None]
    jacobian = np.empty((len(samples), 9))
    jacobian[:, :3] = -(g @ s)
    jacobian[:, 3:6] = g * d
    jacobian[:, 6] = g[:, 0] * d[:, 1] + g[:, 1] * d[:, 0]
    jacobian[:, 7] = g[:, 0] * d[:, 2] + g[:, 2] * d[:, 0]
    jacobian[:, 8] = g[:, 1] * d[:, 2] + g[:, 2] * d[:, 1]
    return norm - 1, jacobian


class _Loss(Struct, frozen=True):
    """Soft L1, or one that lets go of what is far off (Geman-McClure), at a scale."""

    scale: float
    lets_go: bool = False

    def cost(self, residual: Any) -> float:
        square = (residual / self.scale) ** 2
        return float(self.scale**2 * np.sum(square / (1 + square) / 2 if self.lets_go else np.sqrt(1 + square) - 1))

    def weight(self, residual: Any) -> Any:
        square = 1 + (residual / self.scale) ** 2
        return 1 / square**2 if self.lets_go else 1 / np.sqrt(square)


def _solved(matrix: Any, right: Any) -> Any:
    """The solution of normal equations; where they tell nothing of an unknown, the shortest one."""
    try:
        return np.linalg.solve(matrix, right)
    except np.linalg.LinAlgError:
        return np.linalg.lstsq(matrix, right, rcond=None)[0]


def _positive(p: Any) -> bool:
    """Whether the matrix stretches every way. Source: Sylvester's criterion."""
    a, b, c, d, e, f = (float(x) for x in p[3:])
    return a > 0 and a * b - d * d > 0 and a * (b * c - f * f) - d * (d * c - e * f) + e * (d * f - b * e) > 0


def _levenberg(p: Any, samples: Any, loss: _Loss, steps: int = MOST_STEPS) -> Any:
    """The minimum of the cost, from ``p``."""
    damping = 1e-3
    residual, jacobian = _residuals(p, samples)
    cost = loss.cost(residual)
    for _ in range(steps):
        weight = loss.weight(residual)
        normal = jacobian.T @ (weight[:, None] * jacobian)
        slope = jacobian.T @ (weight * residual)
        moved = False
        for _ in range(12):
            trial = p - _solved(normal + damping * np.diag(np.maximum(np.diag(normal), 1e-12)), slope)
            residual_t, jacobian_t = _residuals(trial, samples)
            cost_t = loss.cost(residual_t)
            if np.isfinite(cost_t) and cost_t <= cost and _positive(trial):
                moved = True
                break
            damping *= 6
        if not moved:
            break
        gained = cost - cost_t
        p, residual, jacobian, cost = trial, residual_t, jacobian_t, cost_t
        damping = max(damping / 8, 1e-12)
        if gained <= TOLERANCE * max(cost, 1e-30):
            break
    return p


def start_of(samples: Any) -> Any:
    """Where a fit begins: of many spheres through four samples the one that most samples are nearest to, so that gross outliers do not move it.

    Source: least median of squares; the draws are the same each time.
    """
    chance = np.random.default_rng(len(samples))
    thin = samples[:: max(1, len(samples) // 300)]
    four = samples[chance.integers(0, len(samples), size=(DRAWS, 4))]
    low, high = np.percentile(samples, [3, 97], axis=0)
    sides, heights = 2 * (four[:, 1:] - four[:, :1]), np.sum(four[:, 1:] ** 2 - four[:, :1] ** 2, axis=2)
    good = np.abs(np.linalg.det(sides)) > 1e-3
    middles = np.linalg.solve(sides[good], heights[good][:, :, None])[:, :, 0] if good.any() else np.empty((0, 3))
    middles = np.vstack([middles, (low + high) / 2])
    square = np.sum(middles**2, axis=1)[:, None] + np.sum(thin**2, axis=1) - 2 * middles @ thin.T
    apart = np.sqrt(np.maximum(square, 0.0))
    radii = np.median(apart, axis=1)
    off = np.median(np.abs(apart - radii[:, None]), axis=1)
    best = int(np.argmin(np.where(radii < MOST_RADIUS, off, np.inf)))
    return np.array([*middles[best], *(3 * [1 / max(float(radii[best]), 1e-12)]), 0.0, 0.0, 0.0])


def _scale(residual: Any) -> float:
    return max(1.4826 * float(np.median(np.abs(residual))), 1e-6)


def fit_ellipsoid(samples: Any) -> Fit:
    """The fit that these samples (n by 3, one unit) carry: full, offset only, or none. Raises InputError where they cannot be samples of a turned sensor."""
    samples = np.asarray(samples, float)
    if samples.ndim != 2 or samples.shape[1] != 3 or not np.isfinite(samples).all():
        raise InputError("Samples need three numbers each.")
    if len(samples) < FEWEST:
        raise InputError(f"{len(samples)} samples are too few: {FEWEST} or more are needed.")
    unit = float(np.median(np.linalg.norm(samples - np.median(samples, axis=0), axis=1)))
    if unit <= 1e-9 * max(1.0, float(np.abs(samples).max())):
        raise InputError("All samples are the same. The aircraft was not turned, or the sensor is stuck.")
    given = samples / unit
    p = _sphere(given, ROUGHLY)
    scale = _scale(_residuals(p, given)[0])
    covered, _ = coverage(_directions(p, given))
    if covered < HALF:  # nothing finer comes after it
        p = _sphere(given)
        scale = _scale(_residuals(p, given)[0])
        covered, _ = coverage(_directions(p, given))
    kind = FitKind.FULL if covered >= HALF else FitKind.OFFSET if covered >= QUARTER else FitKind.NONE
    if kind is FitKind.FULL:
        for _ in range(8):  # gross outliers let go of first, or they would hold the scale wide
            p = _levenberg(p, given, _Loss(2.5 * scale, lets_go=True), 8)
            tighter = _scale(_residuals(p, given)[0])
            if tighter > 0.98 * scale:
                break
            scale = tighter
        near = np.abs(_residuals(p, given)[0]) <= OUTLIER_SIGMA * _scale(_residuals(p, given)[0])
        scale = min(scale, _scale(_residuals(p, given[near])[0]))
        p = _levenberg(p, given[near], _Loss(scale))
        covered, _ = coverage(_directions(p, given[near]))
        axes = np.linalg.eigvalsh(_matrix(p))
        if covered < HALF or axes[-1] > SQUASHED * axes[0]:
            kind, p = FitKind.OFFSET, _sphere(given)
    return _summed_up(kind, p, given, unit, scale)


def _sphere(given: Any, until: float = 1e-9) -> Any:
    """A sphere by the same loss: offset and one radius, the residual in the unit of the samples, which does not shrink with a sphere that runs away.
    ``until``: it moves less than this share of a radius.
    """
    p = start_of(given)
    middle, radius = p[:3].copy(), 1 / p[3]
    for _ in range(25):
        d = given - middle
        norm = np.maximum(np.linalg.norm(d, axis=1), 1e-12)
        residual = norm - radius
        weight = 1 / np.sqrt(1 + (residual / _scale(residual)) ** 2)
        j = np.column_stack([-d / norm[:, None], -np.ones(len(d))])
        step = -_solved(j.T @ (weight[:, None] * j) + 1e-10 * np.eye(4), j.T @ (weight * residual))
        middle, radius = middle + step[:3], min(max(radius + step[3], 0.2 * radius), MOST_RADIUS)
        if np.abs(step).max() < until:
            break
    return np.array([*middle, *(3 * [1 / radius]), 0.0, 0.0, 0.0])


def _directions(p: Any, given: Any) -> Any:
    v = (given - p[:3]) @ _matrix(p)
    return v / np.maximum(np.linalg.norm(v, axis=1), 1e-12)[:, None]


def _summed_up(kind: FitKind, p: Any, given: Any, unit: float, scale: float) -> Fit:
    residual, jacobian = _residuals(p, given)
    free = np.arange(9) if kind is FitKind.FULL else np.arange(3)
    inliers = np.abs(residual) <= OUTLIER_SIGMA * _scale(residual)
    used = jacobian[inliers][:, free]
    rms = float(np.sqrt(np.mean(residual[inliers] ** 2)))
    normal = used.T @ used
    freedom = max(1, int(inliers.sum()) - len(free))
    covariance = np.linalg.pinv(normal) * rms**2 * inliers.sum() / freedom
    matrix = _matrix(p)
    radius = float(np.linalg.det(matrix)) ** (-1 / 3)
    sd = np.sqrt(np.maximum(np.diag(covariance)[:3], 0)) * unit
    covered, sectors = coverage(_directions(p, given[inliers]))
    unknown = _unknown(p, given[inliers]) if kind is not FitKind.FULL else ()
    sd = np.where([name in unknown for name in AXES], np.inf, sd)
    return Fit(
        kind=kind,
        offset=p[:3] * unit,
        matrix=matrix * radius,
        radius=radius * unit,
        residual=rms,
        offset_sd=sd,
        inliers=inliers,
        covered=covered,
        sectors=sectors,
        scale=scale,
        unknown=unknown,
    )


def _unknown(p: Any, given: Any) -> tuple[str, ...]:
    """The axes along which the directions do not reach both ways: nothing is told of them. Source: our choice, a third of the way."""
    directions = _directions(p, given)
    low, high = np.percentile(directions, [2, 98], axis=0)
    return tuple(name for name, a, b in zip(AXES, low, high, strict=True) if a > -REACH or b < REACH)
