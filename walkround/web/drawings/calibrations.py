"""Calibrations drawn: the sphere of directions in sectors, and the size of the offset from one calibration to the next."""

import math
from collections.abc import Sequence
from functools import lru_cache

from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.calibration.compass import CompassCalibration
from walkround.core.calibration.ellipsoid import BANDS, ROUND

WIDE, HIGH = 360.0, 180.0
TREND = (600, 120)
_CLASS = {Level.CLEAR: "clear", Level.CAUTION: "caution", Level.GROUNDED: "grounded", None: "open"}


@lru_cache(maxsize=1)
def draw_sphere() -> tuple[str, ...]:
    """The 96 sectors as paths on a map of equal area, 360 by 180 picture units: bands of equal height, upside down at the top."""
    paths = []
    for band in range(BANDS):
        top = HIGH * (1 - (band + 1) / BANDS)
        for turn in range(ROUND):
            x = WIDE * turn / ROUND
            paths.append(
                f"M{x + 1:g},{top + 1:g} h{WIDE / ROUND - 2:g} v{HIGH / BANDS - 2:g} h{-(WIDE / ROUND - 2):g}Z"
            )
    return tuple(paths)


class Dot(Struct, frozen=True):
    """One calibration: where it is on the trend, its level as a class, its words."""

    x: float
    y: float
    level: str
    words: str


def draw_offsets(past: Sequence[CompassCalibration]) -> tuple[Dot, ...]:
    """The size of the offset of each calibration that has one, oldest first, in a picture of 600 by 120."""
    known = [one for one in reversed(past) if one.offset_ut is not None]
    if not known:
        return ()
    sizes = [math.hypot(*(one.offset_ut or (0, 0, 0))) for one in known]
    top, step = max(60.0, max(sizes)), (TREND[0] - 60) / max(1, len(known) - 1)
    return tuple(
        Dot(
            round(30 + i * step, 1),
            round(TREND[1] - 20 - (TREND[1] - 40) * size / top, 1),
            _CLASS[one.level],
            f"{one.at:%d %b %Y}, {one.by}: {size:.0f} µT",
        )
        for i, (one, size) in enumerate(zip(known, sizes, strict=True))
    )
