"""The sky: weather read, measured and looked at."""

from walkround.core.aircraft.aircraft import having
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.number import AskNumber
from walkround.core.answers.weather import AskWeather
from walkround.core.base.finding import Level
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Station
from walkround.core.checklist.library.check_factory import DAY, CheckFactory

check = CheckFactory(Station.SKY)

# fmt: off
CHECKS = (
    check("weather", "Check the weather report",
          outdoors=True, when=DAY,
          how="Use the report of the nearest station, paste one, or enter what you measure.",
          why="Wind, rain, ice and low cloud bring down models, and no flight is worth that.",
          ask=AskWeather(),
          fault="The weather is not suitable.", remedy="Do not fly today.",
          source="14 CFR 107.49 and 107.51 (from memory); the pilot's limits", short=True),
    check("wind_meter", "Measure the wind",
          outdoors=True, if_skipped="the wind of the report counts",
          how="Hold the meter at arm's height for a full minute, away from walls. Enter the strongest value.",
          why="The station is elsewhere, and the gusts that hit your model are here.",
          ask=AskNumber(measure=Measure.SPEED, label="Strongest in a minute", low=0, high=75, rule="wind"),
          fault="The wind cannot be measured or judged.", remedy="Wait and watch it for five minutes."),
    check("look", "Check the sky all round",
          outdoors=True, adds="light",
          how="Look for towering clouds, rain, mist and lightning in every direction. Listen for thunder.",
          why="Weather arrives before the report does.",
          ask=AskChoice(options=(
            Option(id="quiet", label="Quiet all round"),
            Option(id="building", label="Cloud building in the distance", level=Level.CAUTION,
                   reason="Cloud is building in the distance.", remedy="Make short flights, and check again before each launch."),
            Option(id="thunder", label="Thunder, lightning or a dark wall", level=Level.GROUNDED,
                   reason="Thunder or a dark wall is near.", remedy="Pack up and go into a car or a building, never under trees. Wait 30 minutes after the last thunder."))),
          fault="The weather is closing in.", remedy="Land, pack up, and go into a car or a building.", short=True),
    check("upwind", "Plan the first leg into the wind",
          outdoors=True, grounds=False, ok="Out against the wind, back with it",
          how="Plan the first leg against the wind, so that the wind brings the aircraft back.",
          why="After a leg downwind the return takes far more battery and may not be possible.",
          fault="The first leg goes downwind.", remedy="Reverse the plan.", deep=True),
    check("across", "Check the wind on the runway",
          outdoors=True, applies=having(T.WHEELS),
          how="Face along the runway. Check whether the wind comes from ahead, the side or behind.",
          why="A crosswind swings the model off the runway on its take-off run.",
          ask=AskChoice(options=(
            Option(id="along", label="Along the runway, or calm"),
            Option(id="side", label="From the side, light", level=Level.CAUTION,
                   reason="There is a light crosswind.", remedy="Hold aileron into the wind, or use another runway."),
            Option(id="behind", label="From behind, or strong from the side", level=Level.GROUNDED,
                   reason="A tailwind or strong crosswind takes the model off the runway.", remedy="Use the other direction or another runway, or wait."))),
          fault="The wind direction keeps changing.", remedy="Wait until it is steady."),
    check("hands", "Check that your hands are warm and dry",
          grounds=False, when=DAY,
          how="Warm your hands until you can feel the sticks. Take a hat, water and shade in the heat.",
          why="Cold or sweaty hands are slow on the sticks.",
          ask=AskChoice(options=(
            Option(id="warm", label="Warm and dry"),
            Option(id="cold", label="Cold or wet", level=Level.CAUTION,
                   reason="Cold fingers react slowly.", remedy="Wear gloves with free tips or use a transmitter muff. Make short flights."))),
          fault="Your fingers are numb.", remedy="Warm up in the car first.", deep=True),
)
