"""A positioning receiver that speaks sentences under a chosen sky."""

import math
import random
from collections.abc import Sequence
from datetime import datetime, timedelta
from functools import lru_cache

from walkround.core.base.errors import DeviceError
from walkround.core.base.geodesy import Position, from_plane
from walkround.core.base.struct import Struct
from walkround.core.sensors.devices import PositionReceiver
from walkround.core.sensors.nmea import checksum
from walkround.core.sensors.nominal import typical_sky
from walkround.core.sensors.sky import Constellation, SkySatellite, dilutions
from walkround.simulators.simulator import Simulator


class Sky(Struct, frozen=True, kw_only=True):
    """What a receiver has over it: satellites that it uses, HDOP that they give (no unit), speed it reports in knots, how old what it says is in s, how far its position wanders in
    m, elevation below which one half of the sky is hidden in degrees."""

    quality: int = 1
    used: int = 14
    hdop: float = 0.9
    knots: float = 0.05
    age_s: float = 1.0
    wanders_m: float = 0.6
    half_hidden_deg: float = 0.0


CONDITIONS: dict[str, tuple[str, Sky | None]] = {
    "open": ("Open sky", Sky()),
    "hedge": ("Close to a hedge", Sky(used=10, hdop=1.6, knots=0.2, wanders_m=1.0, half_hidden_deg=30)),
    "thin": ("Half the sky hidden", Sky(used=6, hdop=2.7, knots=0.4, age_s=2, wanders_m=2.0, half_hidden_deg=75)),
    "drifting": ("Reflections: drifting", Sky(used=11, hdop=1.4, knots=1.6, wanders_m=2.5)),
    "jumping": ("Reflections: jumping", Sky(used=12, hdop=1.0, wanders_m=0.6)),
    "mixed": ("Two receivers at once (fault)", Sky()),
    "cold": ("No fix yet", Sky(quality=0, used=3, hdop=9.9, knots=0)),
    "garbled": ("Garbled line (fault)", Sky(used=12, hdop=1.0)),
    "silent": ("No answer (fault)", None),
}
"""Condition: words, and what the receiver has over it."""
SECONDS = 20
JUMP_M = 14.0
KEPT = 0.9
"""How much of its wandering a position keeps from one second to the next."""
HIDDEN_FROM_DEG, HIDDEN_TO_DEG = 20.0, 200.0
_TALKERS = {Constellation.GPS: ("GP", 1), Constellation.GALILEO: ("GA", 3)}


def _line(body: str) -> str:
    return f"${body}*{checksum(body)}"


def _degrees(value: float, width: int, letters: str) -> str:
    """Degrees and decimal minutes as sentences write them: ddmm.mmmmm and the hemisphere."""
    size = abs(value)
    whole = int(size)
    minutes = f"{(size - whole) * 60:08.5f}"
    if minutes.startswith("60"):
        whole, minutes = whole + 1, "00.00000"
    return f"{whole:0{width}d}{minutes},{letters[0] if value >= 0 else letters[1]}"


class SimulatedReceiver:
    """Implements ``core.devices.PositionReceiver``."""

    def __init__(self, condition: str = "open") -> None:
        self.condition = condition if condition in CONDITIONS else "open"

    def nmea(self, place: Position, now: datetime, height_m: float = 0.0) -> str:
        """Twenty seconds of sentences at a place so many m above the sea, the last one just before ``now`` (aware).

        Raises DeviceError when the condition is the silent fault.
        """
        sky = CONDITIONS[self.condition][1]
        if sky is None:
            raise DeviceError("The receiver does not answer. Is it switched on? You can paste NMEA data instead.")
        lines: list[str] = []
        draw = random.Random(f"{self.condition} {now:%H%M%S}")
        east = north = 0.0
        for ago in range(SECONDS - 1, -1, -1):
            moment = now - timedelta(seconds=sky.age_s + ago)
            step = sky.wanders_m * math.sqrt(1 - KEPT**2)
            east, north = KEPT * east + draw.gauss(0, step), KEPT * north + draw.gauss(0, step)
            off = JUMP_M if self.condition == "jumping" and ago == SECONDS // 2 else 0.0
            where = from_plane(place, (east + off, north))
            lines += one_second(where, moment, sky, height_m, in_view=ago == 0)
            if self.condition == "mixed":
                lines += one_second(from_plane(place, (6.0, 3.0)), moment, sky, height_m)[:1]
        text = "\r\n".join(lines) + "\r\n"
        if self.condition == "garbled":
            text = text.replace("A*", "B*", 1)
        return text


def one_second(
    place: Position, moment: datetime, sky: Sky, height_m: float = 0.0, *, in_view: bool = False
) -> list[str]:
    """The sentences of one second at a place and an aware moment, with the satellites in view where that is asked."""
    clock = f"{moment:%H%M%S}.00"
    fixed = sky.quality >= 1
    where = f"{_degrees(place.lat_deg, 2, 'NS')},{_degrees(place.lon_deg, 3, 'EW')}" if fixed else ",,,"
    seen, used, hdop, pdop = _over(round(place.lat_deg, 2), round(place.lon_deg, 2), _about(moment), sky)
    mode = 3 if fixed else 1
    count = sky.used if not fixed else len(used)
    lines = [f"GNGGA,{clock},{where},{sky.quality},{count:02d},{hdop:.1f},{height_m:.1f},M,45.0,M,,"]
    for whose, (_, system) in _TALKERS.items():
        ids = [f"{one.number:02d}" for one in used if one.whose is whose][:12]
        ids += [""] * (12 - len(ids))
        lines.append(
            f"GNGSA,A,{mode},{','.join(ids)},{pdop:.1f},{hdop:.1f},{math.sqrt(max(0.01, pdop**2 - hdop**2)):.1f},{system}"
        )
    valid = "A" if fixed else "V"
    lines.append(f"GNRMC,{clock},{valid},{where},{sky.knots:.2f},,{moment:%d%m%y},,,A")
    if in_view:
        for whose, (talker, _) in _TALKERS.items():
            lines += _in_view(talker, [one for one in seen if one.whose is whose])
    return [_line(body) for body in lines]


def _in_view(talker: str, seen: Sequence[SkySatellite]) -> list[str]:
    total = max(1, math.ceil(len(seen) / 4))
    lines = []
    for i in range(total):
        body = f"{talker}GSV,{total},{i + 1},{len(seen):02d}"
        for one in seen[4 * i : 4 * i + 4]:
            strength = "" if one.strength_db is None else f"{one.strength_db:02.0f}"
            body += f",{one.number:02d},{one.elevation_deg:02.0f},{one.bearing_deg:03.0f},{strength}"
        lines.append(body + ",1")
    return lines


def _about(moment: datetime) -> datetime:
    """The five minutes in which a moment lies: satellites hardly move within them."""
    return moment.replace(minute=moment.minute // 5 * 5, second=0, microsecond=0)


@lru_cache(maxsize=64)
def _over(
    lat_deg: float, lon_deg: float, moment: datetime, sky: Sky
) -> tuple[tuple[SkySatellite, ...], tuple[SkySatellite, ...], float, float]:
    """The satellites in view, those in use, and the HDOP and PDOP that these give: as many as wanted, and left out one by one so that HDOP comes near the wanted one."""
    high = typical_sky(Position(lat_deg=lat_deg, lon_deg=lon_deg), moment, 5)
    seen = tuple(
        one.model_copy(
            update={
                "strength_db": _strength(one, sky),
                "elevation_deg": round(one.elevation_deg or 0),
                "bearing_deg": round(one.bearing_deg or 0) % 360,
            }
        )
        for one in high
    )
    if sky.quality < 1:
        return seen, (), sky.hdop, 1.3 * sky.hdop
    used = [one for one in seen if one.strength_db is not None and (one.elevation_deg or 0) >= 8]
    spare = [one for one in seen if one not in used]
    spare.sort(key=lambda one: -(one.elevation_deg or 0))
    while len(used) < sky.used and spare:
        used.append(spare.pop(0))
    while len(used) > sky.used:
        used.remove(min(used, key=lambda one: abs(_hdop([other for other in used if other is not one])[0] - sky.hdop)))
    hdop, pdop = _hdop(used)
    lit = tuple(one.model_copy(update={"strength_db": one.strength_db or 24.0}) if one in used else one for one in seen)
    return lit, tuple(used), hdop, pdop


def _strength(one: SkySatellite, sky: Sky) -> float | None:
    """Strength in dB-Hz by elevation; None where it is hidden."""
    elevation, bearing = one.elevation_deg or 0.0, one.bearing_deg or 0.0
    if sky.half_hidden_deg and HIDDEN_FROM_DEG <= bearing <= HIDDEN_TO_DEG and elevation < sky.half_hidden_deg:
        return None
    return 28.0 + 20.0 * math.sin(math.radians(elevation)) if sky.quality else 18.0


def _hdop(used: Sequence[SkySatellite]) -> tuple[float, float]:
    names = sorted({one.whose for one in used})
    found = dilutions(
        [(one.elevation_deg or 0.0, one.bearing_deg or 0.0) for one in used], [names.index(one.whose) for one in used]
    )
    return (99.9, 99.9) if found is None else (found.hdop, found.pdop)


SIMULATOR = Simulator(
    interface=PositionReceiver,
    setting="receiver",
    make=SimulatedReceiver,
    title="GNSS receiver",
    use="Gives NMEA data where you stand.",
    conditions={key: words for key, (words, _) in CONDITIONS.items()},
    absent="No receiver is connected. Paste NMEA data or choose a file.",
)
