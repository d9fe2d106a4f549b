"""The small interfaces behind which devices and services stand, real or simulated."""

from datetime import datetime
from typing import Protocol

from walkround.core.base.geodesy import Position
from walkround.core.base.struct import Struct


class BenchReading(Struct, frozen=True, kw_only=True):
    """So many s after the signal was lost: whether the failsafe has acted, and whether the beeper sounds."""

    at_s: float
    acted: bool
    beeper: bool


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

    def nmea(self, place: Position, now: datetime) -> str:
        """Lines of sentences. Raises DeviceError when the receiver does not answer."""


class LinkBench(Protocol):
    """Watches the outputs of a receiver on the bench."""

    def after_signal_loss(self, delay_s: float | None, seconds: float) -> tuple[BenchReading, ...]:
        """What the outputs do in the seconds after the signal is gone; ``delay_s``: as set. Raises DeviceError when no receiver answers."""
