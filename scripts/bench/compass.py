"""A compass measured: the fit beside scipy's, frames to the page, the ball on canvas."""

import time

from playwright.sync_api import Page

from scripts.bench.rows import Part, Row, spread, timed, times_row
from tests.browser.support import Server
from tests.core.calibration.test_ellipsoid import made, scipy_residual
from walkround.core.calibration.ellipsoid import fit_ellipsoid

FIT_MS, LAG_MS, FRAMES = 20.0, 100.0, 50.0
SAMPLES, OUTLIERS, TIMES = 600, 60, 40


def compass_part() -> Part:
    """The fit of 600 samples with 60 gross outliers."""
    sets = [made(seed, SAMPLES, OUTLIERS / SAMPLES)[0] for seed in range(TIMES)]
    fits = [fit_ellipsoid(one) for one in sets]
    ours = [timed(lambda one=one: fit_ellipsoid(one)) for one in sets]
    theirs = [
        timed(lambda one=one, fit=fit: scipy_residual(one, fit, 1.01)) for one, fit in zip(sets, fits, strict=True)
    ]
    worst = max(abs(fit.residual / scipy_residual(one, fit, 1.01) - 1) for one, fit in zip(sets, fits, strict=True))
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
