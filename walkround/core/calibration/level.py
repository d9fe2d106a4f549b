"""The accelerometer in six positions: offset, scale and cross-axis against gravity; each position still, none twice. And the level itself."""

from datetime import datetime
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, Any, Literal

from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.later import Later
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

STILL = 0.02
"""Standard deviation of each axis as a share of gravity, up to which a position is still. Source: our choice."""
ALIKE = 0.90
"""Two positions are the same when their directions agree by this cosine. Source: our choice; 26 degrees."""
OFFSET_G, SCALE = (0.05, 0.15), (0.03, 0.10)
TILT_DEG = (0.5, 2.0)
"""How far from level it may stand. Source: our choice."""
RESIDUAL_G = (0.02, 0.06)


class Position6(StrEnum):
    """The six positions, in the order they are asked."""

    LEVEL = "level"
    LEFT = "left side down"
    RIGHT = "right side down"
    NOSE_DOWN = "nose down"
    NOSE_UP = "nose up"
    BACK = "upside down"


DOWN: dict[Position6, tuple[float, float, float]] = {
    Position6.LEVEL: (0, 0, 1), Position6.BACK: (0, 0, -1), Position6.LEFT: (0, -1, 0), Position6.RIGHT: (0, 1, 0), Position6.NOSE_DOWN: (1, 0, 0), Position6.NOSE_UP: (-1, 0, 0),
}  # fmt: skip
"""Where down is in each, in axes x to the nose, y to the right, z down. An accelerometer at rest reads the opposite: what holds it up."""


class Held(Struct, frozen=True, kw_only=True):
    """One position as it was held: which, the mean of its samples and the standard deviation of each axis, in the unit of the sensor; whether a device read it."""

    position: Position6
    mean: tuple[float, float, float]
    sd: tuple[float, float, float]
    read: bool = False


class LevelCalibration(Value):
    """A calibration as kept: when (aware), by whom, whether simulated, where; the largest residual and offset in g, the largest error of scale or axis; or a tilt in degrees
    that was read of a level surface; how it was judged, None before it is.
    """

    kind: Literal["level"] = "level"
    at: datetime
    by: Annotated[str, Allowed(max_length=60)]
    simulated: bool = False
    site: Annotated[str, Allowed(max_length=80)] = ""
    residual_g: Annotated[float | None, Allowed(ge=0)] = None
    offset_g: Annotated[float | None, Allowed(ge=0)] = None
    scale: Annotated[float | None, Allowed(ge=0)] = None
    tilt_deg: Annotated[float | None, Allowed(ge=-180, le=180)] = None
    level: Level | None = None


class LevelFit(Struct, frozen=True, kw_only=True):
    """Offset and the matrix that makes readings gravity (both against one g), and the largest residual in g."""

    offset: Any
    matrix: Any
    residual_g: float


def held(position: Position6, samples: Any, others: tuple[Held, ...], unit: float, *, read: bool = False) -> Held:
    """A position from its samples (n by 3); ``unit``: one g in the unit of the sensor. Raises InputError while it moves, and for a position that was held already."""
    samples = np.asarray(samples, float)
    if samples.ndim != 2 or samples.shape[1] != 3 or len(samples) < 5 or not np.isfinite(samples).all():
        raise InputError("Too few readings for this position. Keep it still a little longer.")
    mean, sd = samples.mean(axis=0), samples.std(axis=0)
    if float(sd.max()) > STILL * unit:
        raise InputError("It moved. Put it down or lean it against something, and wait.")
    direction = mean / max(float(np.linalg.norm(mean)), 1e-12)
    for other in others:
        past = np.array(other.mean)
        if float(direction @ past) / max(float(np.linalg.norm(past)), 1e-12) > ALIKE and other.position is not position:
            raise InputError(f"That is the position “{other.position.value}” again. Turn it to “{position.value}”.")
    return Held(
        position=position,
        read=read,
        mean=(float(mean[0]), float(mean[1]), float(mean[2])),
        sd=(float(sd[0]), float(sd[1]), float(sd[2])),
    )


def fit_level(positions: tuple[Held, ...], unit: float) -> LevelFit:
    """Offset, scale and cross-axis from the six positions. ``unit``: one local g in the unit of the sensor. Raises InputError with fewer than six.

    ``reading = M (-down) + b`` is linear: twelve unknowns, eighteen readings, least squares. Source: linear algebra.
    """
    missing = [one.value for one in Position6 if one not in {p.position for p in positions}]
    if missing:
        raise InputError(f"Still missing: {', '.join(missing)}.")
    rows = np.array([p.mean for p in positions]) / unit
    known = np.array([[-x for x in DOWN[p.position]] + [1.0] for p in positions])
    solved, *_ = np.linalg.lstsq(known, rows, rcond=None)
    matrix, offset = solved[:3].T, solved[3]
    residual = float(np.abs(rows - known @ solved).max())
    return LevelFit(offset=offset, matrix=np.linalg.inv(matrix), residual_g=residual)


def level_calibration(fit: LevelFit, *, at: datetime, by: str, **about: Any) -> LevelCalibration:
    """A fit as a calibration, of an aware time."""
    scale = float(np.abs(np.linalg.inv(fit.matrix) - np.eye(3)).max())
    return LevelCalibration(
        at=at, by=by, residual_g=fit.residual_g, offset_g=float(np.abs(fit.offset).max()), scale=scale, **about
    )


def judge_level_calibration(found: LevelCalibration) -> tuple[Finding, ...]:
    """What a calibration says of the sensor: its offset, its scale, how well the six agree, or how level it stands. Nothing measured is never clear.

    Source: bounds of this module; our choice.
    """
    said = []
    if found.residual_g is not None:
        said.append(
            _band(
                "Positions",
                found.residual_g,
                RESIDUAL_G,
                f"The six positions agree within {1000 * found.residual_g:.0f} thousandths of gravity.",
                "Hold each truly square, and repeat.",
            )
        )
    remedy = "Calibrate it in the flight controller with these six positions."
    if found.offset_g is not None:
        said.append(
            _band(
                "Offset",
                found.offset_g,
                OFFSET_G,
                f"The largest offset is {1000 * found.offset_g:.0f} thousandths of gravity.",
                remedy,
            )
        )
    if found.scale is not None:
        said.append(
            _band(
                "Scale",
                found.scale,
                SCALE,
                f"Scale and axes are off by {100 * found.scale:.1f} hundredths at most.",
                remedy,
            )
        )
    if found.tilt_deg is not None:
        said.append(judge_tilt(found.tilt_deg))
    if not said:
        words = Phrase(text="Nothing was measured: only that it was done is known.")
        said.append(
            Finding(
                name="Level",
                level=Level.CAUTION,
                reason=words,
                remedy="Check that it hovers steadily.",
                source=OUR_CHOICE,
            )
        )
    return tuple(said)


def _band(name: str, value: float, band: tuple[float, float], words: str, remedy: str) -> Finding:
    level = Level.CLEAR if value <= band[0] else Level.CAUTION if value <= band[1] else Level.GROUNDED
    return Finding(
        name=name,
        level=level,
        reason=Phrase(text=words),
        remedy="" if level is Level.CLEAR else remedy,
        source=OUR_CHOICE,
    )


def judge_tilt(tilt_deg: float) -> Finding:
    """A surface, or what the screen shows of a level aircraft: its tilt in degrees. Source: ``TILT_DEG``."""
    return _band(
        "Level",
        abs(tilt_deg),
        TILT_DEG,
        f"It stands {abs(tilt_deg):.1f}° from level.",
        "Find a level surface: whatever is wrong here is flown as level.",
    )
