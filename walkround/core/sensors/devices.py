"""The small interfaces behind which devices and services stand, real or simulated."""

import math
from collections.abc import Iterator
from datetime import datetime
from typing import Protocol

from walkround.core.base.geodesy import Position
from walkround.core.base.struct import Struct


class BenchReading(Struct, frozen=True, kw_only=True):
    """So many s after the signal was lost: whether the failsafe has acted, and whether the beeper sounds."""

    at_s: float
    acted: bool
    beeper: bool


class Frame(Struct, frozen=True, kw_only=True):
    """What a flight controller reports at one moment, in s since it began: field in µT, acceleration in g, turning in degrees a second (each x to the nose,
    y to the right, z down), throttle (0 to 1), air pressure in hPa, board and pack voltage in V, stick channels (-1 to 1), mode, whether failsafe is active, the
    largest lean angle that is set, in degrees, NMEA data, and what it says. None: it does not report that.
    """

    at_s: float
    field_ut: tuple[float, float, float] | None = None
    acceleration_g: tuple[float, float, float] | None = None
    turning_dps: tuple[float, float, float] | None = None
    throttle: float | None = None
    pressure_hpa: float | None = None
    board_v: float | None = None
    pack_v: float | None = None
    sticks: tuple[float, ...] = ()
    mode: str = ""
    failsafe: bool | None = None
    lean_most_deg: float | None = None
    nmea: str = ""
    messages: tuple[str, ...] = ()

    @property
    def tilt_deg(self) -> float | None:
        """How far it stands from level, in degrees; None where it does not say."""
        up = self.acceleration_g
        size = 0.0 if up is None else math.hypot(*up)
        return None if up is None or not size else math.degrees(math.acos(max(-1.0, min(1.0, -up[2] / size))))


class Here(Struct, frozen=True, kw_only=True):
    """Where a flight controller is turned: the Earth's field of north, east and down in µT, the air pressure in hPa, and the place and the aware moment where they are known."""

    earth_ut: tuple[float, float, float]
    pressure_hpa: float = 1013.25
    position: Position | None = None
    at: datetime | None = None


class WeatherStation(Protocol):
    """Gives the newest weather report text for a station."""

    def report(self, station: str, now: datetime) -> str:
        """The report text. Raises DeviceError when the station does not answer."""


class HourlyWeather(Protocol):
    """Gives hourly weather for the next days."""

    def hours(self, lon_deg: float, now: datetime) -> str:
        """Hours as JSON, see ``window.parse_series``. Raises DeviceError when the service does not answer."""


class NoticeService(Protocol):
    """Gives the zones of airspace round a place."""

    def zones(self, place: Position, now: datetime) -> str:
        """Zones as GeoJSON, see ``airspace.reading.read_zones``. Raises DeviceError when the service does not answer."""


class CellChecker(Protocol):
    """Reads the resting voltage of each cell of the pack that is plugged in."""

    def read(self, cells: int) -> tuple[float, ...]:
        """Voltages in V, one a cell. Raises DeviceError when no pack is seen."""


class PositionReceiver(Protocol):
    """Gives a few seconds of positioning sentences."""

    def nmea(self, place: Position, now: datetime, height_m: float = 0.0) -> str:
        """Lines of sentences at a place so many m above the sea. Raises DeviceError when the receiver does not answer."""


class FlightController(Protocol):
    """Reports its sensors, fifty times a second."""

    def frames(self, movement: str, here: Here, seconds: float, seed: int) -> Iterator[Frame]:
        """Frames while it is moved for so many seconds: "by hand", "two turns", "six sides", "all axes", "still", "throttle", "sticks", or held as "nose down" and the like.

        Raises DeviceError when it does not answer.
        """


class LinkBench(Protocol):
    """Watches the outputs of a receiver on the bench."""

    def after_signal_loss(self, delay_s: float | None, seconds: float) -> tuple[BenchReading, ...]:
        """What the outputs do in the seconds after the signal is gone; ``delay_s``: as set. Raises DeviceError when no receiver answers."""
