"""Senses: compass, level, satellites."""

from walkround.core.aircraft.aircraft import For, having
from walkround.core.aircraft.parts import PartKind as P
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.fix import AskFix
from walkround.core.answers.number import AskNumber, Band
from walkround.core.base.finding import OUR_CHOICE, Level
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Risk, Station, Wording
from walkround.core.checklist.history import EventKind as E
from walkround.core.checklist.library.check_factory import DAY, EVENT, ON_AIRCRAFT, CheckFactory
from walkround.core.field.site import LaunchPlatform

check = CheckFactory(Station.SENSORS)

# fmt: off
CHECKS = (
    check("compass", "Calibrate the compass",
          ok="Every turn complete", when=EVENT, applies=having(T.COMPASS), part="compass", due="compass",
          how="In the open, away from cars, concrete, wires, magnets, watch and phone. Turn it as the maker says; most need every axis, and each turn must complete.",
          why="It compensates the iron and currents of the aircraft itself; left undone, it flies circles.",
          fault="The calibration does not complete.", remedy="Walk away from iron and repeat; if it fails again, it stays down.",
          caution="Disarmed while it is in your hands."),
    check("accelerometer", "Calibrate the accelerometer on a level surface",
          ok="Done on the level", when=EVENT, applies=having(T.FLIGHT_CONTROLLER), part="body", due="level",
          how="On a truly level surface, indoors if you like; leave it until the screen says done.",
          why="A wrong level drifts away by itself in the hover.",
          fault="The level calibration fails.", remedy="Find a level surface and repeat."),
    check("gyro_sense", "Tilt it and watch the gyro answer",
          ok="Answers against the tilt", when=DAY, after=(E.NEW_BUILD, E.REPAIR), applies=For(has=frozenset({T.SURFACES}), any_of=frozenset({T.STABILISER, T.FLIGHT_CONTROLLER})), part="wing", snag=ON_AIRCRAFT,
          how="Roll it right by hand: the right aileron goes down to lift it back. Nose up: the elevator goes down. Each against the tilt.",
          why="A gyro with the wrong sense doubles every gust.",
          fault="The gyro helps the tilt along.", remedy="Reverse that axis in the gyro, not in the transmitter.",
          caution="Throttle locked: it is live while you hold it."),
    check("tail_gyro", "Swing the tail and watch its blades",
          ok="Answers against the swing", when=DAY, after=(E.NEW_BUILD, E.REPAIR), applies=For(has=frozenset({T.TAIL_ROTOR}), any_of=frozenset({T.STABILISER, T.FLIGHT_CONTROLLER})), part="tail", snag=ON_AIRCRAFT,
          how="Turn the nose left by hand: the tail blades pitch as they do for right stick.",
          why="A tail gyro with the wrong sense spins it up in a blink.",
          fault="The tail gyro pushes with the swing.", remedy="Reverse it in the gyro; then try again.",
          caution="Throttle hold on before you touch it."),
    check("horizon", "Tilt it and watch the screen's horizon",
          ok="Follows, and settles level", when=EVENT, after=(E.NEW_BUILD, E.FIRMWARE), on_parts=(P.FLIGHT_CONTROLLER,), applies=having(T.SELF_BUILT, T.FLIGHT_CONTROLLER), part="body",
          how="Roll right, nose down, turn right: the picture on the board's page does the same.",
          why="A board mounted the wrong way round flips it at once.",
          fault="The picture tilts another way.", remedy="Set the board's mounting direction; then the level again.",
          caution="Blades off, or pack on the balance plug only."),
    check("offsets", "Read the compass offsets",
          when=EVENT, after=(E.NEW_BUILD,), on_parts=(P.MOTOR, P.SATNAV, P.FLIGHT_CONTROLLER), applies=having(T.COMPASS, T.SELF_BUILT), part="compass",
          how="On the board's page after calibrating: offsets inside its green band, field strength in range.",
          why="Large offsets mean a wire with current lies beside the compass.",
          ask=AskChoice(options=(
            Option(id="sane", label="Inside the band"),
            Option(id="large", label="Large, but the heading agrees", level=Level.CAUTION,
                   reason="The compass offsets are large.", remedy="Move the compass away from the power leads soon."),
            Option(id="out", label="Out of range", level=Level.GROUNDED,
                   reason="Compass offsets or field strength are out of range.", remedy="Move the compass up and away, calibrate again."))),
          fault="The offsets cannot be read.", remedy="Calibrate again and read them."),
    check("satellites", "Read satellites, dilution and speed at rest",
          outdoors=True, applies=having(T.SATNAV), part="antennas",
          how="Read the receiver where you stand, or paste its NMEA sentences. The reading stays on the record.",
          why="Close enough isn't good enough: home is set from this.",
          ask=AskFix(),
          fault="The ready state does not come.", remedy="Off, move, start again.",
          source="FAA AC 107-2A, positioning from at least four satellites (from memory); ten: common practice, no source"),
    check("home_point", "Check the home point",
          outdoors=True, applies=having(T.RETURN_HOME), short=True,
          how="On the map, where you stand, in the open. Do not rush it.",
          why="It is where the aircraft flies when the link is lost; set wrong, it flies away.",
          wordings=(Wording(has=T.HOME_AT_ARMING, how="This aircraft sets home when it arms: check that it will arm here, in the open, with a solid fix."),
                    Wording(has=T.HOME_IN_HOVER, how="This aircraft sets home in the hover: check that it lifts off here, in the open, with a solid fix.")),
          ask=AskChoice(options=(
            Option(id="here", label="On the map where I stand", grounds_at=(LaunchPlatform.COVER.value,), caution_at=(LaunchPlatform.MOVING.value,), at_reason="home stays where it was set, and you do not."),
            Option(id="moving", label="Launched from a boat or vehicle, and lost link is set to hover", level=Level.CAUTION,
                   reason="Home stays behind as you move; on lost link it must hover.", remedy="Stay near, and fly it back by hand.", grounds_at=(LaunchPlatform.COVER.value,), at_reason="it would come back through the roof."),
            Option(id="wrong", label="Not set, or somewhere else", level=Level.GROUNDED,
                   reason="The home point is not where the aircraft should return to.", remedy="Wait for a solid fix and set it again."))),
          fault="The home point is not set or lies elsewhere.", remedy="Wait for a solid fix and set it again, in the open."),
    check("heading", "Compare the heading with a hand compass",
          outdoors=True, grounds=False,
          when=DAY, applies=having(T.COMPASS), part="compass",
          how="Read the heading on screen and the hand compass or map along the nose; enter the difference.",
          why="A compass that agrees now was calibrated well.",
          ask=AskNumber(measure=Measure.DEGREE, label="Difference", low=0, high=180, rule="heading"),
          fault="The heading cannot be trusted.", remedy="Calibrate the compass away from iron.",
          source=OUR_CHOICE),
    check("barometer", "Read the height before it lifts",
          when=DAY, applies=having(T.FLIGHT_CONTROLLER, T.RETURN_HOME),
          how="On the ground, after the self-test: the height shown is zero or near it.",
          why="Return height counts from here.",
          ask=AskNumber(measure=Measure.HEIGHT, label="Height shown on the ground", low=0, high=500,
            band=Band(caution_above=3, ground_above=10, high="It shows {value} on the ground; {limit} is the most to accept.", good="It shows {value} on the ground.", remedy="Power off and on where it will lift from.")),
          fault="The height drifts while it stands.", remedy="Shade the sensor from sun and wind; if it drifts on, it stays down.",
          source=OUR_CHOICE),
    check("obstacle_sensors", "Read what the obstacle sensors say", grounds=False,
          applies=having(T.OBSTACLE_SENSORS),
          how="On, no warning, and they react to a hand a metre away.",
          why="Sensors that are off in this mode are the ones you count on.",
          ask=AskChoice(options=(
            Option(id="on", label="On and reacting"),
            Option(id="off", label="Off in this mode, and I know it", level=Level.CAUTION,
                   reason="Obstacle sensors are off in this mode.", remedy="Keep the distance you would keep without sensors."),
            Option(id="error", label="A sensor reports an error", level=Level.GROUNDED,
                   reason="An obstacle sensor reports an error.", remedy="Wipe it, restart; calibrate by the manual."))),
          fault="The sensors cannot be trusted.", remedy="Calibrate them by the manual, or leave it on the ground."),
    check("telemetry", "See the numbers move",
          grounds=False, ok="Live", applies=having(T.TELEMETRY),
          how="Pack voltage and link strength on the transmitter or display, changing as they should.",
          why="A frozen number hides a falling voltage or a fading link.",
          fault="A number is frozen or missing.", remedy="Sensor plug, then a new discovery; without it fly by the timer, short and near."),
    check("id_live", "See that the identification is live",
          outdoors=True, ok="Live", risk=Risk.LAW, applies=having(T.REMOTE_ID),
          how="Its light or the display says it broadcasts with a position.",
          why="Without a position the law counts it as off.",
          fault="It is not live.", remedy="Wait for the fix; where it is required it stays down.",
          source="14 CFR 89 and Regulation (EU) 2019/947 (from memory); the authority's current text prevails"),
)
