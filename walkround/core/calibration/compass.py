"""A compass calibration as it is kept, and judged: the fit against the Earth's field of the place and against the calibration before."""

import math
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Literal

from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.geodesy import Position
from walkround.core.base.later import Later
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value
from walkround.core.calibration.coach import after_failing
from walkround.core.calibration.earth import MODEL, EarthField
from walkround.core.calibration.ellipsoid import Fit, FitKind

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

RESIDUAL = (0.03, 0.08)
"""Root mean square of the inliers as a share of the strength: up to the first good, above the second it says nothing. Source: our choice."""
COVERED = 0.75
"""From this share of the sphere on a full fit is good. Source: our choice."""
STRENGTH = (0.10, 0.25)
"""How far the measured strength may be from the model's, as a share. Source: our choice; the model's own error is below 0.5 %."""
DIP_DEG = (5.0, 12.0)
DIP_SPREAD_DEG = (6.0, 15.0)
"""How far the middle half of the dips may lie apart: more, and the axes of compass and accelerometer do not belong together. Source: our choice."""
OFFSET = (1.0, 2.0)
"""Size of the offset against the Earth's field: above the first the compass is too near to iron or current, above the second its range may not do. Source: our choice."""
MOVED = (0.10, 0.30)
"""How far the offset may move since the last calibration, as a share of the Earth's field. Source: our choice."""
REJECTED = 0.15


class CompassCalibration(Value):
    """One calibration: when (aware), where, with which firmware; how it came (typed, file, device) and whether simulated; offset, strength and strength of the model in
    µT, residual and coverage as shares; the dip in degrees where it was measured, and how far it scattered; how many samples; what its light showed, "" where something
    was measured, and how many times in a row it had failed; how it was judged, None before it is.
    """

    kind: Literal["compass"] = "compass"
    at: datetime
    by: Annotated[str, Allowed(max_length=60)]
    simulated: bool = False
    site: Annotated[str, Allowed(max_length=80)] = ""
    position: Position | None = None
    firmware: Annotated[str, Allowed(max_length=40)] = ""
    fit: FitKind | None = None
    offset_ut: tuple[float, float, float] | None = None
    strength_ut: Annotated[float | None, Allowed(gt=0, le=1_000)] = None
    dip_deg: Annotated[float | None, Allowed(ge=-90, le=90)] = None
    dip_spread_deg: Annotated[float | None, Allowed(ge=0, le=180)] = None
    residual: Annotated[float | None, Allowed(ge=0)] = None
    covered: Annotated[float | None, Allowed(ge=0, le=1)] = None
    samples: int = 0
    rejected: int = 0
    unknown: tuple[str, ...] = ()
    light: Literal["", "done", "failed"] = ""
    failed: Annotated[int, Allowed(ge=0)] = 0
    level: Level | None = None


def calibration_of(
    fit: Fit, unit_ut: float, *, at: datetime, by: str, dip: "Dip | None" = None, **about: Any
) -> CompassCalibration:
    """A fit as a calibration; ``unit_ut``: one unit of its samples in µT; ``dip``: where it was measured."""
    offset = fit.offset * unit_ut
    return CompassCalibration(
        at=at,
        by=by,
        fit=fit.kind,
        offset_ut=(float(offset[0]), float(offset[1]), float(offset[2])),
        strength_ut=min(1_000.0, fit.radius * unit_ut),
        residual=fit.residual,
        covered=fit.covered,
        samples=len(fit.inliers),
        rejected=fit.rejected,
        unknown=fit.unknown,
        dip_deg=dip.deg if dip is not None else None,
        dip_spread_deg=dip.spread_deg if dip is not None else None,
        **about,
    )


class Dip(Struct, frozen=True, kw_only=True):
    """The dip below the horizon in degrees, and how far the middle half of the samples scatters about it."""

    deg: float
    spread_deg: float


def dip_of(fit: Fit, samples: Any, down: Any) -> Dip | None:
    """The dip, from corrected samples and the direction of gravity measured with each (n by 3, any unit); None where none was."""
    if down is None:
        return None
    field = fit.corrected(samples)[fit.inliers]
    weight = np.asarray(down, float)[fit.inliers]
    if not len(field):
        return None
    cosine = np.einsum("ij,ij->i", field, weight) / np.maximum(
        np.linalg.norm(field, axis=1) * np.linalg.norm(weight, axis=1), 1e-12
    )
    each = 90 - np.degrees(np.arccos(np.clip(cosine, -1, 1)))
    low, middle, high = np.percentile(each, [25, 50, 75])
    return Dip(deg=float(middle), spread_deg=float(high - low))


def _banded(
    name: str, value: float, band: tuple[float, float], words: str, remedy: str, source: str = OUR_CHOICE
) -> Finding:
    """A share against two bounds: clear up to the first, grounded above the second."""
    level = Level.CLEAR if value <= band[0] else Level.CAUTION if value <= band[1] else Level.GROUNDED
    return Finding(
        name=name, level=level, reason=Phrase(text=words), remedy="" if level is Level.CLEAR else remedy, source=source
    )


def judge_compass(
    found: CompassCalibration, field: EarthField | None, before: CompassCalibration | None
) -> tuple[Finding, ...]:
    """All that is to be said of a calibration: how much it carries, how well it fits, against the model of the place and against the one before.

    Nothing measured is never clear. Source: bounds of this module, each its own; ``earth`` for the field.
    """
    said: list[Finding] = []
    if found.light == "failed":
        return (_said("Light", Level.GROUNDED, "Its light shows that it failed.", after_failing(found.failed)),)
    if found.fit is FitKind.NONE:
        said.append(
            _said(
                "Coverage",
                Level.GROUNDED,
                f"Only {_percent(found.covered)} of the directions were seen: nothing can be told from them.",
                "Turn it on every axis, and repeat.",
            )
        )
        return tuple(said)
    if found.fit is FitKind.OFFSET:
        axes = f" Not known: {', '.join(found.unknown)}." if found.unknown else ""
        said.append(
            _said(
                "Coverage",
                Level.CAUTION,
                f"{_percent(found.covered)} of the directions were seen, enough for the offset only.{axes}",
                "Turn it on every axis, and repeat.",
            )
        )
    elif found.covered is not None:
        level = Level.CLEAR if found.covered >= COVERED else Level.CAUTION
        said.append(
            _said(
                "Coverage",
                level,
                f"{_percent(found.covered)} of the directions were seen.",
                "Fill what is missing, and repeat." if level else "",
            )
        )
    if found.residual is not None:
        said.append(
            _banded(
                "Fit",
                found.residual,
                RESIDUAL,
                f"The samples scatter by {_percent(found.residual)} of the field.",
                "Go away from metal, hold it away from your body, and repeat.",
            )
        )
    if found.samples and found.rejected / found.samples > REJECTED:
        said.append(
            _said(
                "Outliers",
                Level.CAUTION,
                f"{found.rejected} of {found.samples} samples were far off and left out.",
                "Something disturbed it: repeat in another place.",
            )
        )
    said += _against_the_earth(found, field)
    said += _since(found, before, field)
    if not said:
        said.append(
            _said(
                "Compass",
                Level.CAUTION,
                "Its light shows that it is done: nothing was measured."
                if found.light == "done"
                else "Nothing was measured: only that it was done is known.",
                "Check the heading before you fly.",
            )
        )
    return tuple(said)


def _said(name: str, level: Level, words: str, remedy: str) -> Finding:
    return Finding(name=name, level=level, reason=Phrase(text=words), remedy=remedy, source=OUR_CHOICE)


def _percent(share: float | None) -> str:
    return "an unknown share" if share is None else f"{100 * share:.0f}\N{NARROW NO-BREAK SPACE}%"


def _ut(value: float) -> str:
    return f"{value:.1f}\N{NARROW NO-BREAK SPACE}µT"


def _against_the_earth(found: CompassCalibration, field: EarthField | None) -> list[Finding]:
    if field is None:
        return []
    said = []
    full = field.strength_ut
    if found.strength_ut is not None:
        off = abs(found.strength_ut - full) / full
        words = f"The field measured is {_ut(found.strength_ut)}; here it is {_ut(full)}."
        remedy = "Metal or a magnet is near, or the unit is another. Move away and repeat."
        said.append(_banded("Strength", off, STRENGTH, words, remedy, f"{MODEL}; bounds: {OUR_CHOICE}"))
    if found.dip_deg is not None:
        off = abs(found.dip_deg - field.inclination_deg)
        words = f"The field dips by {found.dip_deg:.0f}°; here it dips by {field.inclination_deg:.0f}°."
        said.append(
            _banded(
                "Dip",
                off,
                DIP_DEG,
                words,
                "Compass and level do not agree: calibrate the level, then the compass.",
                f"{MODEL}; bounds: {OUR_CHOICE}",
            )
        )
    if found.dip_spread_deg is not None:
        words = f"Compass and accelerometer agree on the dip within {found.dip_spread_deg:.0f}°."
        remedy = "Columns or axes are exchanged: compare them with the axes of the aircraft, and repeat."
        said.append(_banded("Axes", found.dip_spread_deg, DIP_SPREAD_DEG, words, remedy))
    if found.offset_ut is not None:
        size = math.hypot(*found.offset_ut)
        words = f"The aircraft's own metal adds {_ut(size)}, {size / full:.1f} times the Earth's field."
        said.append(
            _banded("Offset", size / full, OFFSET, words, "Move the compass away from power leads and steel screws.")
        )
    return said


def _since(found: CompassCalibration, before: CompassCalibration | None, field: EarthField | None) -> list[Finding]:
    if before is None or before.offset_ut is None or found.offset_ut is None:
        return []
    moved = math.dist(found.offset_ut, before.offset_ut)
    full = field.strength_ut if field is not None else found.strength_ut or 50.0
    words = f"The offset moved by {_ut(moved)} since the last calibration."
    if moved / full <= MOVED[0]:
        words = f"The offset is the same as last time, within {_ut(moved)}."
    return [
        _banded(
            "Change",
            moved / full,
            MOVED,
            words,
            "Something magnetic was added, moved or magnetised. Find it: a screw, a tool, a lead.",
        )
    ]


THROTTLE = (0.10, 0.30)
"""How much of the field the current may add at full throttle. Source: our choice."""
BENCH_MOST = 0.30
"""On the bench, propellers off, no more throttle than this, and no longer than five seconds. Source: our choice; common practice, no source."""
FEWEST_ROWS, FEWEST_SPREAD = 50, 0.4


def current_finding(throttle: Any, strength: Any, *, in_flight: bool) -> Finding:
    """What current does to the compass: strength of the field (n, any unit) against throttle (n, 0 to 1), from a log in flight or on the bench.

    On the bench the current is low: that proves nothing, and is never clear by itself. Source: ``THROTTLE``; a robust line.
    """
    throttle, strength = np.asarray(throttle, float), np.asarray(strength, float)
    good = np.isfinite(throttle) & np.isfinite(strength) & (throttle >= 0) & (throttle <= 1)
    throttle, strength = throttle[good], strength[good]
    wide = float(np.ptp(throttle)) if len(throttle) else 0.0
    if len(throttle) < FEWEST_ROWS or wide < (FEWEST_SPREAD if in_flight else 0.15):
        return _said(
            "Current",
            Level.CAUTION,
            "The throttle hardly changed: what current does to the compass is not told.",
            "Use a log with climbs and descents.",
        )
    slope = _slope(throttle, strength)
    share = abs(slope) / float(np.median(strength))
    words = f"At full throttle the current would change the field by {_percent(share)}."
    found = _banded("Current", share, THROTTLE, words, "Twist the power leads, and move the compass up and away.")
    if in_flight or found.level is not Level.CLEAR:
        return found
    return _said(
        "Current",
        Level.CAUTION,
        f"{words} That was low current only, which proves nothing.",
        "Confirm it with a log of a flight.",
    )


def _slope(x: Any, y: Any) -> float:
    """The median slope of many pairs. Source: Theil and Sen."""
    order = np.argsort(x, kind="stable")
    x, y = x[order], y[order]
    half = len(x) // 2
    run = x[half : 2 * half] - x[:half]
    steep = (y[half : 2 * half] - y[:half])[run > 1e-6] / run[run > 1e-6]
    return float(np.median(steep)) if len(steep) else 0.0
