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
    check("weather", "Read the weather",
          outdoors=True, when=DAY,
          how="Take the report of the nearest station, paste one, or enter what you measure.",
          why="If it isn't right, go home: no flight is worth it.",
          ask=AskWeather(),
          fault="The weather is not fit.", remedy="Go home; no flight is worth it.",
          source="14 CFR 107.49 and 107.51 (from memory); the pilot's limits"),
    check("wind_meter", "Hold up the wind meter",
          outdoors=True, if_skipped="the wind of the report counts",
          how="At arm's height, a full minute, away from walls. Enter the strongest it shows.",
          why="The station is somewhere else; the gust is here.",
          ask=AskNumber(measure=Measure.SPEED, label="Strongest in a minute", low=0, high=75, rule="wind"),
          fault="The wind cannot be judged.", remedy="Wait and feel it for five minutes."),
    check("look", "Look all the way round the sky",
          outdoors=True, adds="light",
          how="Turn once: dark or towering cloud, curtains of rain, mist, lightning. Listen for thunder.",
          why="What comes is nearer than the report.",
          ask=AskChoice(options=(
            Option(id="quiet", label="Quiet all round"),
            Option(id="building", label="Something builds, far off", level=Level.CAUTION,
                   reason="Weather builds in the distance.", remedy="Short flight; look again before each launch."),
            Option(id="thunder", label="Thunder, lightning or a dark wall", level=Level.GROUNDED,
                   reason="Thunder or a dark wall is near.", remedy="Pack up and go into a car or a building, never under trees. Wait 30 minutes after the last thunder."))),
          fault="The sky is closing in.", remedy="Land, pack up, go into a car or a building."),
    check("upwind", "Plan the first leg into the wind",
          outdoors=True, grounds=False, ok="Out against it, home with it",
          how="The way out goes against the wind, so that the way home is the easy one.",
          why="Going out downwind is easy; coming back on half a pack is not.",
          fault="The plan goes out with the wind.", remedy="Turn the plan round."),
    check("across", "Stand on the strip and feel how the wind crosses it",
          outdoors=True, applies=having(T.WHEELS),
          how="Face along the strip and say where the wind comes from: nose, side or behind.",
          why="The first swing on the wheels comes from the side.",
          ask=AskChoice(options=(
            Option(id="along", label="Along the strip, or none"),
            Option(id="side", label="From the side, light", level=Level.CAUTION,
                   reason="The wind crosses the strip.", remedy="Hold aileron into it, or use the other strip."),
            Option(id="behind", label="From behind, or strong from the side", level=Level.GROUNDED,
                   reason="Wind from behind or strong from the side takes it off the strip.", remedy="The other direction, the other strip, or wait."))),
          fault="The wind turns from minute to minute.", remedy="Wait until it settles."),
    check("hands", "Look at your own hands",
          grounds=False, when=DAY,
          how="Warm enough to feel the sticks, dry enough to hold them; a hat, water, shade.",
          why="Heat and cold wear the pilot before they wear the pack.",
          ask=AskChoice(options=(
            Option(id="warm", label="Warm and dry"),
            Option(id="cold", label="Cold or wet", level=Level.CAUTION,
                   reason="Cold fingers are slow fingers.", remedy="Gloves with free tips, a muff over the transmitter, short flights."))),
          fault="The fingers do not obey.", remedy="Warm up in the car first."),
)
