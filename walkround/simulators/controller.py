"""A flight controller that reports frames: its true attitude is turned by a script or a finger, its field is that of the place, and faults can be chosen."""

import math
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import DeviceError
from walkround.core.base.geodesy import Position, from_plane
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.sensors.devices import FlightController, Frame, Here
from walkround.simulators import receiver
from walkround.simulators.simulator import Simulator

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

RATE_HZ = 50
OWN_OFFSET, NOISE_UT, NOISE_G, NOISE_HPA = (6.0, -9.0, 4.0), 0.35, 0.004, 0.03
SOFT = ((1.03, 0.015, 0.0), (0.015, 0.98, -0.01), (0.0, -0.01, 1.0))
CAR_UT, CURRENT_UT = (40.0, 10.0, -15.0), (14.0, -9.0, 6.0)
CHANNELS = 4
"""Roll, pitch, throttle and yaw."""


class Story(Struct, frozen=True, kw_only=True):
    """What a condition does to what is reported: iron added (µT) and how it stretches each axis, gain of the field, a car that passes, share of the current in it,
    tilt of the table in degrees, drift of the gyro in degrees a second, a knock, drift of the pressure in hPa a minute, volts of the board, share of the travel that the
    sticks reach, whether two channels move together, failsafe, largest lean angle in degrees, mode, the sky of its receiver and after how many s it has a fix, how far its
    position jumps in m, and what it says.
    """

    words: str
    iron_ut: tuple[float, float, float] = (0.0, 0.0, 0.0)
    stretch: tuple[float, float, float] = (1.0, 1.0, 1.0)
    gain: float = 1.0
    car: bool = False
    current: float = 0.05
    tilt_deg: float = 0.0
    drift_dps: float = 0.0
    knocked: bool = False
    draught_hpa: float = 0.0
    board_v: float = 5.1
    travel: float = 1.0
    alike: bool = False
    failsafe: bool = False
    lean_most_deg: float = 35.0
    mode: str = "hold"
    sky: str = "open"
    fix_s: float = 0.0
    jumps_m: float = 0.0
    says: tuple[str, ...] = ()
    silent: bool = False


STORIES: dict[str, Story] = {
    "good": Story(words="Compass and level in order"),
    "screw": Story(words="Steel screw near the compass (fault)", iron_ut=(55.0, 20.0, -12.0), stretch=(1.25, 0.9, 1.0), says=("Compass offsets too large",)),
    "tool": Story(words="Magnetised by a tool (fault)", iron_ut=(-120.0, 70.0, 40.0), says=("Compass offsets too large", "Compass needs calibration")),
    "weak": Story(words="Field measured too weak (fault)", gain=0.6, says=("Compass field strength low",)),
    "strong": Story(words="Field measured too strong (fault)", gain=1.6, says=("Compass field strength high",)),
    "car": Story(words="Car nearby (fault)", car=True, says=("Compass variance",)),
    "current": Story(words="Current disturbs the compass (fault)", current=1.0),
    "bumped": Story(words="It is moved while it starts (fault)", knocked=True, says=("Gyro not calibrated: keep still",)),
    "tilted": Story(words="Tilted table (fault)", tilt_deg=4.0, says=("Accelerometer not level",)),
    "drift": Story(words="Gyro drifts (fault)", drift_dps=6.0, says=("Gyro drift",)),
    "draught": Story(words="Sun and wind on the barometer (fault)", draught_hpa=0.3, says=("Barometer altitude unstable",)),
    "no fix": Story(words="No satellite fix (fault)", sky="cold", fix_s=math.inf, says=("GNSS: no fix",)),
    "slow fix": Story(words="Slow satellite fix (fault)", fix_s=150.0, says=("GNSS: waiting for fix",)),
    "poor": Story(words="Poor satellite geometry (fault)", sky="thin", says=("GNSS: HDOP high",)),
    "jumping": Story(words="Position jumps (fault)", jumps_m=25.0, says=("GNSS: position jump",)),
    "board": Story(words="Low board voltage (fault)", board_v=4.3, says=("Board voltage low",)),
    "travel": Story(words="Short stick travel (fault)", travel=0.3, says=("Throttle channel out of range",)),
    "alike": Story(words="Two channels alike (fault)", alike=True),
    "failsafe": Story(words="Failsafe is active (fault)", failsafe=True, says=("Failsafe active: no signal from the transmitter",)),
    "lean": Story(words="Absurd lean angle (fault)", lean_most_deg=85.0, says=("Maximum lean angle out of range",)),
    "mode": Story(words="A mode that does not arm (fault)", mode="return", says=("Mode not armable",)),
    "silent": Story(words="No answer (fault)", silent=True),
}  # fmt: skip
"""What it can play."""
CONDITIONS = {name: story.words for name, story in STORIES.items()}

BY_HAND, MOST_HANDS = "by hand", 32
HANDS: dict[int, Any] = {}
"""The attitudes (body to ground) in which fingers hold stand-ins now, by their seeds; the oldest gives way."""


def hold(seed: int, roll_deg: float, pitch_deg: float, yaw_deg: float) -> None:
    """Turn a stand-in with a finger: its attitude in degrees from now on. Source: turns about z, y, x, in that order."""
    if seed not in HANDS and len(HANDS) >= MOST_HANDS:
        HANDS.pop(next(iter(HANDS)))
    HANDS[seed] = (
        _turned(2, math.radians(yaw_deg)) @ _turned(1, math.radians(pitch_deg)) @ _turned(0, math.radians(roll_deg))
    )


def _turned(axis: int, angle: float) -> Any:
    """A turn about x, y or z by an angle in radians: from body to ground."""
    c, s = math.cos(angle), math.sin(angle)
    a, b = [(1, 2), (2, 0), (0, 1)][axis]
    found = np.eye(3)
    found[a, a] = found[b, b] = c
    found[a, b], found[b, a] = -s, s
    return found


SIDES = ("level", "left side down", "right side down", "nose down", "nose up", "upside down")
"""How it is held, in the order of ``_side``."""


def _side(which: int) -> Any:
    """The attitude of one of the six sides."""
    quarter = math.pi / 2
    axis, angle = ((0, 0.0), (0, -quarter), (0, quarter), (1, -quarter), (1, quarter), (0, math.pi))[which]
    return _turned(axis, angle)


def attitude(movement: str, share: float) -> Any:
    """The attitude (body to ground) when so much of a movement is over (0 to 1). Source: our own choreography."""
    if movement in ("still", "throttle", "sticks"):
        return np.eye(3)
    if movement in SIDES:
        return _side(SIDES.index(movement))
    if movement == "all axes":
        return (
            _turned(2, share * 2 * math.pi * 17)
            @ _turned(1, math.asin(min(1.0, max(-1.0, 2 * ((share * 3) % 1) - 1))))
            @ _turned(0, share * 2 * math.pi * 5)
        )
    sides = (0, 3) if movement == "two turns" else tuple(range(len(SIDES)))
    which = min(len(sides) - 1, int(share * len(sides)))
    turn = (share * len(sides) - which) * 2 * math.pi
    sway = _turned(0, 0.16 * math.sin(5 * turn)) @ _turned(1, 0.13 * math.sin(7 * turn))
    return _turned(2, turn) @ _side(sides[which]) @ sway


class SimulatedController:
    """Implements ``core.devices.FlightController``."""

    def __init__(self, condition: str = "good") -> None:
        self.story = STORIES.get(condition, STORIES["good"])

    def frames(self, movement: str, here: Here, seconds: float, seed: int) -> Iterator[Frame]:
        """Frames, the same for the same seed. Raises DeviceError when it does not answer."""
        if self.story.silent:
            raise DeviceError(
                "The flight controller does not answer. Is it powered and connected? You can paste a recording instead."
            )
        return self._frames(movement, here, seconds, seed)

    def _frames(self, movement: str, here: Here, seconds: float, seed: int) -> Iterator[Frame]:
        story, earth = self.story, np.array(here.earth_ut)
        chance = np.random.default_rng(seed)
        offset, soft = np.array(OWN_OFFSET) + story.iron_ut, np.array(SOFT) @ np.diag(story.stretch)
        total, before = int(seconds * RATE_HZ), attitude(movement, 0.0)
        for i in range(total):
            share, at_s = i / max(1, total - 1), i / RATE_HZ
            body = HANDS.get(seed, np.eye(3)) if movement == BY_HAND else attitude(movement, share)
            near = np.array(CAR_UT) * math.exp(-((share - 0.5) ** 2) / 0.02) if story.car else np.zeros(3)
            throttle = 0.5 - 0.5 * math.cos(2 * math.pi * 3 * share) if movement == "throttle" else 0.0
            current = np.array(CURRENT_UT) * throttle * story.current
            field = soft @ (body.T @ (earth + near)) + offset + current + chance.normal(size=3) * NOISE_UT
            if chance.random() < 0.01:
                field = field + chance.normal(size=3) * 60  # a spike now and then, as cables give
            up = _turned(0, math.radians(story.tilt_deg)).T @ body.T @ np.array([0.0, 0.0, -1.0])
            turn = self._turning(before, body, movement, share) + chance.normal(size=3) * 0.15
            before = body
            yield Frame(
                at_s=at_s, field_ut=_three(story.gain * field), acceleration_g=_three(up + chance.normal(size=3) * NOISE_G), turning_dps=_three(turn), throttle=throttle,
                pressure_hpa=float(here.pressure_hpa - story.draught_hpa * at_s / 60 + chance.normal() * NOISE_HPA), board_v=story.board_v, pack_v=11.7,
                sticks=self._sticks(movement, share, throttle), mode=story.mode, failsafe=story.failsafe, lean_most_deg=story.lean_most_deg,
                nmea=self._nmea(here, at_s, seed) if i % RATE_HZ == 0 else "", messages=story.says if i == 0 else (),
            )  # fmt: skip

    def _sticks(self, movement: str, share: float, throttle: float) -> tuple[float, ...]:
        """Where the channels are: at rest, or each in turn from end to end."""
        rest = [0.0, 0.0, 2 * throttle - 1, 0.0]
        if movement == "sticks":
            which = min(CHANNELS - 1, int(share * CHANNELS))
            rest[which] = math.sin((share * CHANNELS - which) * 2 * math.pi)
        if self.story.alike:
            rest[1] = rest[3] = rest[1] or rest[3]
        return tuple(self.story.travel * value for value in rest)

    def _nmea(self, here: Here, at_s: float, seed: int) -> str:
        """What its receiver says in this second; nothing where no place is known."""
        if here.position is None:
            return ""
        story = self.story
        sky = receiver.CONDITIONS["cold" if at_s < story.fix_s else story.sky][1] or receiver.Sky()
        where: Position = here.position
        if story.jumps_m and int(at_s) % 5 == 4:
            angle = np.random.default_rng([seed, int(at_s)]).random() * 2 * math.pi
            where = from_plane(where, (story.jumps_m * math.cos(angle), story.jumps_m * math.sin(angle)))
        moment = (here.at or datetime.now(UTC)) + timedelta(seconds=at_s)
        return "\r\n".join(receiver.one_second(where, moment, sky)) + "\r\n"

    def _turning(self, before: Any, body: Any, movement: str, share: float) -> Any:
        change = before.T @ body
        rate = (
            np.degrees(
                np.array([change[2, 1] - change[1, 2], change[0, 2] - change[2, 0], change[1, 0] - change[0, 1]]) / 2
            )
            * RATE_HZ
        )
        rate = rate + np.array([0.0, 0.0, self.story.drift_dps])
        if self.story.knocked and movement == "still" and 0.3 < share < 0.34:
            rate = rate + np.array([30.0, -20.0, 10.0])
        return rate


def _three(values: Any) -> tuple[float, float, float]:
    return (float(values[0]), float(values[1]), float(values[2]))


SIMULATOR = Simulator(
    interface=FlightController,
    setting="controller",
    make=SimulatedController,
    title="Flight controller",
    use="Reports compass, accelerometer and gyro while you turn it.",
    conditions=CONDITIONS,
    absent="No flight controller is connected. Paste a recording, or enter what its screen shows.",
)
