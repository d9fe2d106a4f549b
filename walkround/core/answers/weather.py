"""The weather: a report, or values by hand."""

from datetime import datetime
from typing import Literal

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question, nothing
from walkround.core.weather.weather import Weather


class AskWeather(Ask, frozen=True, kw_only=True):
    """A report text, or values by hand."""

    kind: Literal["weather"] = "weather"


class WeatherRead(Answer):
    """A weather reading."""

    kind: Literal["weather"] = "weather"
    weather: Weather


def _example(question: Question, case: Case, at: datetime) -> WeatherRead:
    weather = Weather(
        at=at, wind_ms=2, wind_from_deg=250, visibility_m=10_000, phenomena=(),
        ceiling_known=True, temperature_c=17, dew_point_c=8, qnh_hpa=1017,
    )  # fmt: skip
    return WeatherRead(weather=weather)


KIND = AnswerKind(AskWeather, WeatherRead, nothing, _example, subjects=("weather", "home"))
