"""What every page works with: the book, the clock, the pilot's settings, the devices."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Depends, Path, Request
from starlette.datastructures import FormData

from walkround.core.sensors.devices import CellChecker, HourlyWeather, NoticeService, PositionReceiver, WeatherStation
from walkround.simulators.absent import OFF, AbsentDevice
from walkround.simulators.checker import SimulatedCellChecker
from walkround.simulators.hours import SimulatedHours
from walkround.simulators.notices import SimulatedNotices
from walkround.simulators.receiver import SimulatedReceiver
from walkround.simulators.weather import SimulatedWeatherStation
from walkround.store import settings as store_settings
from walkround.store.book import Book
from walkround.store.settings import Devices, Settings

FORM_FIELDS = 700


def utc_now() -> datetime:
    """The time, aware."""
    return datetime.now(UTC)


@dataclass
class AppContext:
    """The book and the clock of this application; devices come from here, simulated ones where the pilot chose them."""

    book: Book
    clock: Callable[[], datetime] = field(default=utc_now)

    def now(self) -> datetime:
        """The time, aware."""
        return self.clock()

    def settings(self) -> Settings:
        """The pilot's settings as saved."""
        return store_settings.load()

    def weather_station(self, devices: Devices) -> WeatherStation:
        """The weather station in use."""
        return AbsentDevice() if devices.weather == OFF else SimulatedWeatherStation(devices.weather)

    def hourly_weather(self, devices: Devices) -> HourlyWeather:
        """The forecast service in use: it tells the same story as the weather station."""
        return AbsentDevice() if devices.weather == OFF else SimulatedHours(devices.weather)

    def notice_service(self, devices: Devices) -> NoticeService:
        """The notice service in use."""
        return AbsentDevice() if devices.notices == OFF else SimulatedNotices(devices.notices)

    def cell_checker(self, devices: Devices) -> CellChecker:
        """The cell checker in use."""
        return AbsentDevice() if devices.checker == OFF else SimulatedCellChecker(devices.checker)

    def receiver(self, devices: Devices) -> PositionReceiver:
        """The positioning receiver in use."""
        return AbsentDevice() if devices.receiver == OFF else SimulatedReceiver(devices.receiver)


def _app_context(request: Request) -> AppContext:
    ctx: AppContext = request.app.state.ctx
    return ctx


async def _form(request: Request) -> FormData:
    return await request.form(max_files=2, max_fields=FORM_FIELDS)


AppContextDep = Annotated[AppContext, Depends(_app_context)]
Sent = Annotated[FormData, Depends(_form)]
Number = Annotated[int, Path(ge=0, le=2**53)]
"""A row's number in an address; a larger one is no row of ours."""
