"""A weather station that answers with report texts of a chosen condition, or not at all."""

from datetime import datetime, timedelta

from walkround.core.base.errors import DeviceError
from walkround.core.sensors.devices import WeatherStation
from walkround.simulators.simulator import Simulator

CONDITIONS: dict[str, tuple[str, str]] = {
    "breeze": ("Light breeze, dry", "24007KT 9999 FEW035 14/07 Q1019"),
    "calm": ("Calm and clear", "00000KT CAVOK 17/06 Q1024"),
    "gusty": ("Gusty", "26012G24KT 9999 SCT040 13/06 Q1008"),
    "rain": ("Light rain", "21009KT 6000 -RA BKN012 11/10 Q1004"),
    "fog": ("Fog", "VRB01KT 0400 FG VV002 04/04 Q1028"),
    "freezing": ("Cold", "05006KT 9999 SKC M04/M08 Q1031"),
    "thunder": ("Thunderstorm nearby", "19011G27KT 8000 VCTS BKN035CB 22/17 Q1002"),
    "changing": ("Getting worse", "23009KT 9999 BKN030 15/09 Q1011 TEMPO 4000 SHRA BKN014"),
    "half": ("Half readable", "25008KT //// // ////// 13/15 Q0113"),
    "silent": ("No answer (fault)", ""),
}
"""Condition: words, and the report after station and time."""


class SimulatedWeatherStation:
    """Implements ``core.devices.WeatherStation``; the condition is chosen on the devices page."""

    def __init__(self, condition: str = "breeze") -> None:
        self.condition = condition if condition in CONDITIONS else "breeze"

    def report(self, station: str, now: datetime) -> str:
        """A report of the chosen condition, observed at the last full or half hour before ``now`` (aware).

        Raises DeviceError when the condition is the fault.
        """
        body = CONDITIONS[self.condition][1]
        if not body:
            raise DeviceError("The weather station does not answer. Paste a report, or enter what you measure.")
        observed = now - timedelta(minutes=now.minute % 30, seconds=now.second, microseconds=now.microsecond)
        return f"METAR {station or 'ZZZZ'} {observed:%d%H%M}Z {body}"


SIMULATOR = Simulator(
    interface=WeatherStation,
    setting="weather",
    make=SimulatedWeatherStation,
    title="Weather station",
    use="Gives weather reports to the Sky station and to Today.",
    conditions={key: words for key, (words, _) in CONDITIONS.items()},
    absent="No weather station is connected. Paste a report, or enter what you measure.",
)
