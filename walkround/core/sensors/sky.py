"""The satellites over a receiver: which, where, how strong; and what their places make of the position: dilutions of precision."""

import math
from collections.abc import Sequence
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

LEAST_FOR_FIX = 4
"""Three unknown coordinates and the clock. Source: arithmetic; FAA AC 107-2A asks for four (from memory)."""
PLACED_SHARE = 0.99
"""Dilutions are worked out only where this share of the satellites in use is on the plot. Source: our choice."""


class Constellation(StrEnum):
    """Whose satellites they are."""

    GPS = "GPS"
    GLONASS = "GLONASS"
    GALILEO = "Galileo"
    BEIDOU = "BeiDou"
    QZSS = "QZSS"
    NAVIC = "NavIC"
    SBAS = "SBAS"
    OTHER = "other"


_TALKERS = {
    "GL": Constellation.GLONASS, "GA": Constellation.GALILEO, "GB": Constellation.BEIDOU, "BD": Constellation.BEIDOU, "GQ": Constellation.QZSS,
    "QZ": Constellation.QZSS, "GI": Constellation.NAVIC,
}  # fmt: skip
_SYSTEMS = {
    "1": Constellation.GPS, "2": Constellation.GLONASS, "3": Constellation.GALILEO, "4": Constellation.BEIDOU, "5": Constellation.QZSS, "6": Constellation.NAVIC,
}  # fmt: skip
_SBAS = range(33, 65)
_RANGES = (
    (range(1, 33), Constellation.GPS), (_SBAS, Constellation.SBAS), (range(65, 97), Constellation.GLONASS), (range(193, 203), Constellation.QZSS),
    (range(301, 337), Constellation.GALILEO), (range(401, 438), Constellation.BEIDOU),
)  # fmt: skip
_BEGINS = {Constellation.GALILEO: 300, Constellation.BEIDOU: 400}
"""Talkers, system numbers of GSA, ranges of satellite numbers, and where a range begins. Source: NMEA 0183 version 4.11 (from memory)."""


def satellite_of(talker: str, number: int, system: str = "") -> tuple[Constellation, int]:
    """Whose satellite a number of a sentence is, and its number there: by the system number, else the talker, else the range. Source: ``_RANGES``."""
    by_range = next((whose for numbers, whose in _RANGES if number in numbers), Constellation.OTHER)
    if number in _SBAS and talker in ("GP", "GN") and system in ("", "1"):
        return Constellation.SBAS, number
    whose = _SYSTEMS.get(system) or _TALKERS.get(talker) or by_range
    if whose is Constellation.GLONASS and number <= 24:
        return whose, number + 64
    begin = _BEGINS.get(whose, 0)
    return whose, number - begin if begin and number > begin else number


class SkySatellite(Value):
    """One satellite: whose, its number, elevation and bearing (degrees true) where they are told, strength in dB-Hz (None: not tracked), whether it is used."""

    whose: Constellation
    number: Annotated[int, Allowed(ge=0, le=999)]
    elevation_deg: Annotated[float | None, Allowed(ge=-10, le=90)] = None
    bearing_deg: Annotated[float | None, Allowed(ge=0, le=360)] = None
    strength_db: Annotated[float | None, Allowed(ge=0, le=99)] = None
    used: bool = False

    @property
    def placed(self) -> bool:
        """Whether it is told where it stands."""
        return self.elevation_deg is not None and self.bearing_deg is not None


class Dilutions(Struct, frozen=True, kw_only=True):
    """Dilutions of precision, without unit: horizontal, vertical, of the position, and of position and time."""

    hdop: float
    vdop: float
    pdop: float
    gdop: float


def dilutions(directions: Sequence[tuple[float, float]], clocks: Sequence[int] = ()) -> Dilutions | None:
    """Dilutions from the elevation and bearing of each satellite in degrees; None where they give no position.

    ``clocks``: a number for each satellite's time system, each solved for by itself; none: one for all. Source: least squares of pseudoranges, covariance
    (AᵀA)⁻¹ in east, north, up and clock; textbook.
    """
    systems = sorted(set(clocks)) or [0]
    if len(directions) < LEAST_FOR_FIX - 1 + len(systems):
        return None
    rows = np.zeros((len(directions), 3 + len(systems)))
    for i, (elevation, bearing) in enumerate(directions):
        up, round_ = math.radians(elevation), math.radians(bearing)
        level = math.cos(up)
        rows[i, :3] = level * math.sin(round_), level * math.cos(round_), math.sin(up)
        rows[i, 3 + (systems.index(clocks[i]) if clocks else 0)] = 1.0
    normal = rows.T @ rows
    if np.linalg.cond(normal) > WORST_CONDITION:
        return None
    east, north, high, *time = (float(value) for value in np.diag(np.linalg.inv(normal)))
    position = east + north + high
    return Dilutions(
        hdop=math.sqrt(east + north), vdop=math.sqrt(high), pdop=math.sqrt(position), gdop=math.sqrt(position + time[0])
    )


WORST_CONDITION = 1e10
"""Satellites that lie so nearly in a plane give no position (condition of the normal matrix, without unit). Source: our choice."""


def sky_hdop(satellites: Sequence[SkySatellite]) -> float | None:
    """HDOP (no unit) from where the satellites in use stand; None unless all of them are placed. Source: ``dilutions``."""
    used = [one for one in satellites if one.used and one.whose is not Constellation.SBAS]
    placed = [one for one in used if one.placed]
    if not used or len(placed) < PLACED_SHARE * len(used):
        return None
    names = sorted({one.whose for one in placed})
    found = dilutions(
        [(one.elevation_deg or 0.0, one.bearing_deg or 0.0) for one in placed],
        [names.index(one.whose) for one in placed],
    )
    return None if found is None else round(found.hdop, 3)


def counted(satellites: Sequence[SkySatellite]) -> tuple[tuple[Constellation, int, int], ...]:
    """By constellation, in the order of their names: how many are used, and how many are in view."""
    return tuple(
        (whose, sum(s.used for s in satellites if s.whose is whose), sum(s.whose is whose for s in satellites))
        for whose in Constellation
        if any(s.whose is whose for s in satellites)
    )
