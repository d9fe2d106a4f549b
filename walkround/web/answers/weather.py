"""A weather reading on the pages: from the station, as a report, or by hand."""

from typing import Any

from walkround.core.answers.kind import Answer
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.errors import InputError
from walkround.core.base.units import Measure
from walkround.core.round.walk import CheckState
from walkround.core.sensors.devices import WeatherStation
from walkround.core.weather.beaufort import FORCES
from walkround.core.weather.metar import decode_report
from walkround.core.weather.weather import HAND_PHENOMENA, ONE_WIND, Weather, by_hand
from walkround.simulators import device
from walkround.store.rounds import OpenRound
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.app_context import AppContext
from walkround.web.forms import Typed


def _read(sent: Sent) -> tuple[Answer, str]:
    ctx, site, typed = sent.ctx, sent.situation.site, sent.typed
    if sent.from_device:
        text = device(WeatherStation, sent.settings.devices).report(site.station, ctx.now())
        return WeatherRead(weather=decode_report(text, ctx.now(), site.station)), "simulated weather station"
    if typed.get("way") == "hand":
        return WeatherRead(weather=_by_hand(typed, ctx)), "pilot"
    if not typed.get("report").strip():
        raise InputError("Paste a report, use the station, or enter what you measure.", "report")
    return WeatherRead(weather=decode_report(typed.get("report"), ctx.now(), site.station)), "pilot"


def _by_hand(typed: Typed, ctx: AppContext) -> Weather:
    """Weather from the fields of the hand form. Raises FormErrors or InputError."""
    felt = typed.choice("felt", "Wind as felt", ("", *map(str, range(len(FORCES))))) if typed.get("felt") else ""
    wind = None if felt else typed.needed("wind", "Wind", Measure.SPEED, 0, 75)
    if felt and typed.get("wind").strip():
        typed.errors["wind"] = ONE_WIND
    gust = typed.number("gust", "Gust", Measure.SPEED, 0, 100, optional=True)
    from_deg = typed.number("wind_from", "Wind direction", Measure.DEGREE, 0, 360, optional=True)
    seen = typed.number("visibility", "Visibility", Measure.DISTANCE, 0, 200_000, optional=True)
    base = typed.number("ceiling", "Cloud base", Measure.HEIGHT, 0, 20_000, optional=True)
    air = typed.needed("temperature", "Temperature", Measure.TEMPERATURE, -60, 60)
    dew = typed.number("dew_point", "Dew point", Measure.TEMPERATURE, -80, 60, optional=True)
    pressure = typed.number("pressure", "Pressure", Measure.PRESSURE, 850, 1090, optional=True)
    sky = typed.choice("sky", "Sky", HAND_PHENOMENA)
    typed.check()
    return by_hand(
        ctx.now(),
        wind_ms=wind,
        gust_ms=gust,
        wind_from_deg=from_deg,
        visibility_m=seen,
        sky=sky,
        ceiling_m=base,
        temperature_c=air,
        dew_point_c=dew,
        qnh_hpa=pressure,
        felt=int(felt) if felt else None,
    )


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    given = state.evidence.answer if state.evidence is not None else None
    felt = given.weather.felt if isinstance(given, WeatherRead) else None
    return {
        "felt_options": [("", "I measured it"), *((force.number, force.seen) for force in FORCES)],
        "felt": None if felt is None else FORCES[felt].words(),
    }


PAGE = AnswerPage(
    "weather", "the weather", _read, own_forms=True, advances=True, shown=_shown, seen="rounds/answers/weather_seen.html"
)  # fmt: skip
