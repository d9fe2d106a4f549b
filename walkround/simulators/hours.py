"""Hourly weather for two days, made up from the chosen condition: it warms by day, the wind follows the sun."""

import json
import math
from datetime import datetime, timedelta

from walkround.core.base.errors import DeviceError
from walkround.core.sensors.devices import HourlyWeather
from walkround.simulators.simulator import Simulator

HOURS = 48

# condition: (wind, gust over wind, from, visibility, cloud base or None, coldest, warmest, dew point, pressure)
_DAYS: dict[str, tuple[float, float, float, float, float | None, float, float, float, float]] = {
    "breeze": (3.2, 0.0, 240, 20_000, 1100, 8, 17, 6, 1019),
    "calm": (0.8, 0.0, 180, 30_000, None, 7, 20, 5, 1024),
    "gusty": (6.5, 1.9, 260, 20_000, 1200, 8, 14, 6, 1008),
    "rain": (4.5, 1.4, 210, 7000, 400, 9, 12, 9, 1004),
    "fog": (0.9, 0.0, 120, 18_000, 900, 3, 13, 3.4, 1028),
    "freezing": (3.0, 0.0, 50, 20_000, None, -9, -2, -11, 1031),
    "thunder": (4.2, 2.2, 190, 15_000, 1000, 15, 27, 16, 1002),
    "changing": (3.4, 1.5, 230, 15_000, 1200, 9, 16, 7, 1011),
}


class SimulatedHours:
    """Implements ``core.devices.HourlyWeather``; the condition is that of the weather station."""

    def __init__(self, condition: str = "breeze") -> None:
        self.condition = condition

    def hours(self, lon_deg: float, now: datetime) -> str:
        """Two days from the last full hour (aware), as JSON. Raises DeviceError when the condition is the fault."""
        if self.condition == "silent":
            raise DeviceError("The forecast service does not answer. Paste hourly weather.")
        day = _DAYS.get(self.condition, _DAYS["breeze"])
        begin = now.replace(minute=0, second=0, microsecond=0)
        rows = [self._hour(day, begin + timedelta(hours=i), i, lon_deg) for i in range(HOURS)]
        return json.dumps({"hours": rows})

    def _hour(
        self,
        day: tuple[float, float, float, float, float | None, float, float, float, float],
        at: datetime,
        i: int,
        lon_deg: float,
    ) -> dict[str, object]:
        wind, gust, from_deg, seen, base, cold, warm, dew, pressure = day
        clock = (at.hour + at.minute / 60 + lon_deg / 15) % 24
        sun = max(0.0, math.sin(math.pi * (clock - 6) / 14)) if 6 <= clock <= 20 else 0.0
        blow = wind * (0.6 + 0.7 * sun)
        sky = "dry"
        if self.condition == "fog" and (clock < 9 or clock > 22):
            seen, base, sky = 300, 60, "mist"
        elif self.condition == "rain":
            sky = "rain" if (i // 3) % 2 == 0 else "drizzle"
        elif self.condition == "thunder" and 14 <= clock <= 19:
            sky, blow, seen = "thunder", blow * 1.6, 6000
        elif self.condition == "changing":
            worse = min(1.0, i / 14)
            blow, seen = blow * (1 + 1.6 * worse), seen * (1 - 0.7 * worse)
            base = None if base is None else base * (1 - 0.6 * worse)
            sky = "rain" if i > 16 else "dry"
        air = cold + (warm - cold) * sun
        return {
            "at": at.isoformat(timespec="minutes"),
            "wind_ms": round(blow, 1),
            "gust_ms": round(blow * gust, 1) if gust > 1 else None,
            "wind_from_deg": from_deg,
            "visibility_m": round(seen),
            "ceiling_m": None if base is None else round(base),
            "temperature_c": round(air, 1),
            "dew_point_c": round(min(dew, air), 1),
            "qnh_hpa": pressure,
            "sky": sky,
        }


SIMULATOR = Simulator(
    interface=HourlyWeather,
    setting="weather",
    make=SimulatedHours,
    absent="No forecast service is connected. Paste hourly weather.",
)
