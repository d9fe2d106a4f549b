"""The small interfaces behind which devices and services stand, real or simulated."""

from datetime import datetime
from typing import Protocol

from walkround.core.base.geodesy import Position


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
