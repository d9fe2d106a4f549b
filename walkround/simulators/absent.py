"""No device at all: what a book of one's own starts with, so that nothing simulated is ever taken for the sky."""

from datetime import datetime
from typing import NoReturn

from walkround.core.base.errors import DeviceError
from walkround.core.base.geodesy import Position

OFF = "off"


class AbsentDevice:
    """Implements every interface of ``core.devices`` by saying what to do instead."""

    def report(self, station: str, now: datetime) -> NoReturn:
        """Raises DeviceError."""
        raise DeviceError("No weather station is connected. Paste a report, or enter what you measure.")

    def hours(self, lon_deg: float, now: datetime) -> NoReturn:
        """Raises DeviceError."""
        raise DeviceError("No forecast service is connected. Paste hourly weather.")

    def zones(self, place: Position, now: datetime) -> NoReturn:
        """Raises DeviceError."""
        raise DeviceError("No notice service is connected. Read a file of zones, or ask your authority.")

    def read(self, cells: int) -> NoReturn:
        """Raises DeviceError."""
        raise DeviceError("No cell checker is connected. Type what yours shows.")

    def nmea(self, place: Position, now: datetime) -> NoReturn:
        """Raises DeviceError."""
        raise DeviceError("No receiver is connected. Paste sentences, or choose a file with them.")
