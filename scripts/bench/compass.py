"""A compass measured: the fit beside scipy's, frames to the page, the ball on canvas."""

import time
from typing import Any

import numpy as np
from playwright.sync_api import Page
from scipy.optimize import least_squares

from scripts.bench.rows import Part, Row, spread, timed, times_row
from tests.browser.support import Server
from walkround.core.calibration.ellipsoid import _residuals, fit_ellipsoid

FIT_MS, LAG_MS, FRAMES = 20.0, 100.0, 50.0
SAMPLES, OUTLIERS, TIMES = 600, 60, 40


def _samples(seed: int) -> Any:
    rng = np.random.default_rng(seed)
    u = rng.normal(size=(SAMPLES, 3))
    u /= np.linalg.norm(u, axis=1)[:, None]
    soft = np.eye(3) + (lambda a: (a + a.T) / 2)(rng.normal(size=(3, 3)) * 0.05)
    found = 48 * u @ soft + rng.normal(size=3) * 25 + rng.normal(size=u.shape) * 0.3
    found[:OUTLIERS] += rng.normal(size=(OUTLIERS, 3)) * 70
    return found


def _scipy(samples: Any, fit: Any) -> float:
    """The residual that scipy reaches on the same inliers, with the same loss, Jacobian and scale."""
    unit = float(np.median(np.linalg.norm(samples - np.median(samples, axis=0), axis=1)))
    kept, matrix = samples[fit.inliers] / unit, fit.matrix * unit / fit.radius
    start = np.array([*(fit.offset / unit), *np.diag(matrix), matrix[0, 1], matrix[0, 2], matrix[1, 2]]) * 1.01
    found = least_squares(
        lambda p: _residuals(p, kept)[0],
        start,
        jac=lambda p: _residuals(p, kept)[1],
        loss="soft_l1",
        f_scale=fit.scale,
        xtol=1e-12,
        ftol=1e-12,
        gtol=1e-12,
    )
    return float(np.sqrt(np.mean(_residuals(found.x, kept)[0] ** 2)))


def compass_part() -> Part:
    """The fit of 600 samples with 60 gross outliers."""
    sets = [_samples(seed) for seed in range(TIMES)]
    fits = [fit_ellipsoid(one) for one in sets]
    ours = [timed(lambda one=one: fit_ellipsoid(one)) for one in sets]
    theirs = [timed(lambda one=one, fit=fit: _scipy(one, fit)) for one, fit in zip(sets, fits, strict=True)]
    ratio = max(fit.residual / _scipy(one, fit) for one, fit in zip(sets, fits, strict=True))
    worst = abs(ratio - 1)
    rows = (
        times_row(f"Ellipsoid through {SAMPLES} samples, {OUTLIERS} of them gross outliers", ours, FIT_MS, high=False),
        times_row("scipy from beside the answer, the same loss and Jacobian", theirs, None),
        Row(
            "Residual of the inliers against scipy's, largest difference",
            (f"{100 * worst:.3f} %", ""),
            "1 %",
            worst <= 0.01,
        ),
    )
    return Part("A compass fitted", ("p50 ms", "p95 ms"), rows)


def live_rows(page: Page, server: Server) -> tuple[Row, ...]:
    """Frames of the ball a second while it fills, and how long a told state is on its way to the page."""
    page.goto(f"{server.base}/hangar/aircraft/1/compass?way=all axes")
    page.evaluate(
        """() => { window.drawn_ = 0; window.ages_ = []; const count = () => { window.drawn_ += 1; requestAnimationFrame(count); }; requestAnimationFrame(count);
        const late = EventSource.prototype.addEventListener; window.heard_ = performance.now();
        EventSource.prototype.addEventListener = function (name, then) { return late.call(this, name, (event) => { const begun = performance.now(); then(event);
          requestAnimationFrame(() => window.ages_.push(performance.now() - begun)); }); }; }"""
    )
    page.click("[data-live] [data-begin]")
    page.wait_for_selector(".flat path.seen", state="attached")
    before, begun = page.evaluate("window.drawn_"), time.perf_counter()
    page.wait_for_timeout(5_000)
    per_second = (page.evaluate("window.drawn_") - before) / (time.perf_counter() - begun)
    ages = page.evaluate("window.ages_.slice()")
    return (
        Row("The ball on canvas, frames a second", (f"{per_second:.0f}", ""), f"{FRAMES:g}", per_second >= FRAMES),
        Row(
            "Frames told to their picture, median and longest",
            (f"{spread(ages)[0]:.1f}", f"{max(ages):.1f}"),
            f"{LAG_MS:g}",
            max(ages) <= LAG_MS,
        ),
    )
