"""A compass measured: the fit beside scipy's, frames to the page, the ball on canvas."""

import time
from http.client import HTTPConnection

from playwright.sync_api import Page

from scripts.bench.pages import resident_mb
from scripts.bench.rows import Part, Row, spread, timed, times_row
from tests.browser.support import Server
from tests.core.calibration.test_ellipsoid import made, scipy_residual
from walkround.core.calibration.earth import SOMEWHERE_UT
from walkround.core.calibration.ellipsoid import fit_ellipsoid
from walkround.core.sensors.devices import Here
from walkround.core.sensors.recording import as_recording
from walkround.simulators.controller import SimulatedController

FIT_MS, LAG_MS, FRAMES = 20.0, 100.0, 50.0
SAMPLES, OUTLIERS, TIMES = 600, 60, 40
STREAM_S = 600


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
    return Part("A compass fitted", ("p50 ms", "p95 ms", "at full speed"), rows)


def stream_rows(server: Server) -> tuple[Row, ...]:
    """Ten minutes of frames at fifty a second played to a page: memory of the server after the first minute and at the end."""
    frames = SimulatedController().frames("all axes", Here(earth_ut=SOMEWHERE_UT), STREAM_S, 1)
    part = 'Content-Disposition: form-data; name="log_file"; filename="ten.csv"\r\nContent-Type: text/csv'
    sent = f"--bench\r\n{part}\r\n\r\n{as_recording(frames)}\r\n--bench--\r\n".encode()
    at = "/hangar/aircraft/1/controller/recordings"
    line = HTTPConnection("127.0.0.1", server.port, timeout=120)
    line.request("POST", at, sent, {"Content-Type": "multipart/form-data; boundary=bench", "Origin": server.base})
    answer = line.getresponse()
    assert answer.status == 303, answer.read()[:2000]
    number = answer.headers["location"].rsplit("/", 1)[1]
    answer.read()
    line.request("GET", f"/hangar/aircraft/1/compass/live?recording={number}&speed=50&seed=77")
    stream, seen, first = line.getresponse(), 0, 0.0
    for row in stream:
        if row.startswith(b"data: [["):
            seen += row.count(b"],") + 1
            if not first and seen >= STREAM_S * 50 / 10:
                first = resident_mb(server.process.pid)
    grown = resident_mb(server.process.pid) - first
    line.close()
    return (
        Row(
            "Frames of ten minutes that reached the page",
            (f"{seen:,}", ""),
            f"{STREAM_S * 50:,}",
            seen == STREAM_S * 50,
        ),
        Row("Memory from the first minute of frames to the tenth, MB", (f"{grown:.1f}", ""), "5", grown < 5),
    )


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
