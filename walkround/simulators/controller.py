"""A flight controller that reports frames: its true attitude is turned by a script, its field is that of the place, and faults can be chosen."""

import math
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from walkround.core.base.errors import DeviceError
from walkround.core.base.later import Later
from walkround.core.sensors.devices import FlightController, Frame
from walkround.simulators.simulator import Simulator

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

CONDITIONS = {
    "good": "Compass and level in order",
    "screw": "Steel screw near the compass (fault)",
    "tool": "Magnetised by a tool (fault)",
    "weak": "Field measured too weak (fault)",
    "strong": "Field measured too strong (fault)",
    "car": "Car nearby (fault)",
    "current": "Current disturbs the compass (fault)",
    "bumped": "It is moved while it starts (fault)",
    "tilted": "Tilted table (fault)",
    "drift": "Gyro drifts (fault)",
    "silent": "No answer (fault)",
}
RATE_HZ = 50
OWN_OFFSET, NOISE_UT, NOISE_G = (6.0, -9.0, 4.0), 0.35, 0.004
SOFT = ((1.03, 0.015, 0.0), (0.015, 0.98, -0.01), (0.0, -0.01, 1.0))


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
    if movement in ("still", "throttle"):
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
        self.condition = condition if condition in CONDITIONS else "good"

    def frames(self, movement: str, earth_ut: tuple[float, float, float], seconds: float, seed: int) -> Iterator[Frame]:
        """Frames, the same for the same seed. Raises DeviceError when it does not answer."""
        if self.condition == "silent":
            raise DeviceError(
                "The flight controller does not answer. Is it powered and connected? You can paste a recording instead."
            )
        return self._frames(movement, np.array(earth_ut), seconds, seed)

    def _frames(self, movement: str, earth: Any, seconds: float, seed: int) -> Iterator[Frame]:
        chance = np.random.default_rng(seed)
        offset, soft = self._iron()
        total, before = int(seconds * RATE_HZ), attitude(movement, 0.0)
        for i in range(total):
            share = i / max(1, total - 1)
            body = HANDS.get(seed, np.eye(3)) if movement == BY_HAND else attitude(movement, share)
            near = (
                np.array([40.0, 10.0, -15.0]) * math.exp(-((share - 0.5) ** 2) / 0.02)
                if self.condition == "car"
                else np.zeros(3)
            )
            throttle = 0.5 - 0.5 * math.cos(2 * math.pi * 3 * share) if movement == "throttle" else 0.0
            current = np.array([14.0, -9.0, 6.0]) * throttle * (1.0 if self.condition == "current" else 0.05)
            field = soft @ (body.T @ (earth + near)) + offset + current + chance.normal(size=3) * NOISE_UT
            if chance.random() < 0.01:
                field = field + chance.normal(size=3) * 60  # a spike now and then, as cables give
            if self.condition in ("weak", "strong"):
                field = (0.6 if self.condition == "weak" else 1.6) * field
            up = body.T @ np.array([0.0, 0.0, -1.0])
            if self.condition == "tilted":
                up = _turned(0, math.radians(4)).T @ up
            turn = self._turning(before, body, movement, share) + chance.normal(size=3) * 0.15
            before = body
            yield Frame(
                at_s=i / RATE_HZ, field_ut=_three(field), acceleration_g=_three(up + chance.normal(size=3) * NOISE_G), turning_dps=_three(turn), throttle=throttle,
                pressure_hpa=float(989.4 + chance.normal() * 0.03), pack_v=11.7, sticks=(0.0, 0.0, 2 * throttle - 1, 0.0), mode="hold",
            )  # fmt: skip

    def _iron(self) -> tuple[Any, Any]:
        own, soft = np.array(OWN_OFFSET), np.array(SOFT)
        if self.condition == "screw":
            return own + np.array([55.0, 20.0, -12.0]), soft @ np.diag([1.25, 0.9, 1.0])
        if self.condition == "tool":
            return own + np.array([-120.0, 70.0, 40.0]), soft
        return own, soft

    def _turning(self, before: Any, body: Any, movement: str, share: float) -> Any:
        change = before.T @ body
        rate = (
            np.degrees(
                np.array([change[2, 1] - change[1, 2], change[0, 2] - change[2, 0], change[1, 0] - change[0, 1]]) / 2
            )
            * RATE_HZ
        )
        if self.condition == "drift":
            rate = rate + np.array([0.0, 0.0, 6.0])
        if self.condition == "bumped" and movement == "still" and 0.3 < share < 0.34:
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
