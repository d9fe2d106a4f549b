"""The sky: weather read, measured and looked at."""

from walkround.core.check import AskChoice, AskNumber, AskWeather, Cadence, Check, Option, Station
from walkround.core.finding import Level
from walkround.core.units import Measure

CHECKS = (
    Check(
        id="sky.weather",
        station=Station.SKY,
        title="Read the weather",
        how="Take the report of the nearest station, paste one, or enter what you measure.",
        why="If it isn't right, go home: no flight is worth it.",
        grounds=True,
        cadence=Cadence.DAY,
        ask=AskWeather(),
        fault="The weather is not fit.",
        remedy="Go home; no flight is worth it.",
        source="14 CFR 107.49 and 107.51 (from memory); the pilot's limits",
    ),
    Check(
        id="sky.wind_meter",
        station=Station.SKY,
        title="Hold up the wind meter",
        how="At arm's height, a full minute, away from walls. Enter the strongest it shows.",
        why="The station is somewhere else; the gust is here.",
        grounds=True,
        cadence=Cadence.LAUNCH,
        ask=AskNumber(measure=Measure.SPEED, label="Strongest in a minute", low=0, high=75, rule="wind"),
        fault="The wind cannot be judged.",
        remedy="Wait and feel it for five minutes.",
    ),
    Check(
        id="sky.look",
        station=Station.SKY,
        title="Look all the way round the sky",
        how="Turn once: dark or towering cloud, curtains of rain, mist, lightning. Listen for thunder.",
        why="What comes is nearer than the report.",
        grounds=True,
        cadence=Cadence.LAUNCH,
        ask=AskChoice(
            options=(
                Option(id="quiet", label="Quiet all round"),
                Option(
                    id="building",
                    label="Something builds, far off",
                    level=Level.CARE,
                    reason="Weather builds in the distance.",
                    remedy="Short flight; look again before each launch.",
                ),
                Option(
                    id="thunder",
                    label="Thunder, lightning or a dark wall",
                    level=Level.GROUNDED,
                    reason="Thunder or a dark wall is near.",
                    remedy="Pack up and get under cover.",
                ),
            )
        ),
        adds="daylight",
        fault="The sky is closing in.",
        remedy="Land, pack up, get under cover.",
    ),
)
