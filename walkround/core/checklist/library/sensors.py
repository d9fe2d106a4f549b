"""Senses: compass, level, satellites."""

from walkround.core.aircraft.aircraft import For, having
from walkround.core.aircraft.parts import PartKind as P
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.fix import AskFix
from walkround.core.answers.home import AskHome
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
          ok="Completed on every axis", when=EVENT, applies=having(T.COMPASS), part="compass", due="compass",
          how="Go away from cars, concrete, wires, watch and phone. Turn the aircraft on every axis as its manual says.",
          why="With a bad compass calibration it circles (“toilet bowl”) or flies off on RTH.",
          fault="The calibration does not complete.", remedy="Move away from metal and repeat. If it fails again, do not fly.",
          caution="Keep it disarmed while you hold it."),
    check("accelerometer", "Calibrate the accelerometer (level)",
          ok="Completed on a level surface", when=EVENT, applies=having(T.FLIGHT_CONTROLLER), part="body", due="level",
          how="Put it on a truly level surface. Leave it until the screen confirms.",
          why="With a wrong level it drifts in the hover.",
          fault="The level calibration fails.", remedy="Find a level surface and repeat."),
    check("gyro_sense", "Tilt it and check the gyro response",
          ok="Corrects against the tilt", when=DAY, after=(E.NEW_BUILD, E.REPAIR), applies=For(has=frozenset({T.SURFACES}), any_of=frozenset({T.STABILISER, T.FLIGHT_CONTROLLER})), part="wing", snag=ON_AIRCRAFT,
          how="Roll it right by hand: the right aileron goes down. Pitch it nose up: the elevator goes down.",
          why="A reversed gyro amplifies every gust, and the model crashes on take-off.",
          fault="The gyro moves the surface the wrong way.", remedy="Reverse that axis in the gyro, not in the transmitter.",
          caution="Lock the throttle: the model is powered while you hold it."),
    check("tail_gyro", "Swing the tail and check its response",
          ok="Corrects against the swing", when=DAY, after=(E.NEW_BUILD, E.REPAIR), applies=For(has=frozenset({T.TAIL_ROTOR}), any_of=frozenset({T.STABILISER, T.FLIGHT_CONTROLLER})), part="tail", snag=ON_AIRCRAFT,
          how="Turn the nose left by hand. Check that the tail blades pitch as for right tail stick.",
          why="A reversed tail gyro spins the helicopter as soon as it lifts off.",
          fault="The tail gyro reacts the wrong way.", remedy="Reverse it in the gyro, then check again.",
          caution="Throttle hold on before you touch it."),
    check("horizon", "Tilt it and watch the artificial horizon",
          ok="Follows and settles level", when=EVENT, after=(E.NEW_BUILD, E.FIRMWARE), on_parts=(P.FLIGHT_CONTROLLER,), applies=having(T.SELF_BUILT, T.FLIGHT_CONTROLLER), part="body",
          how="Roll it right, pitch it down and yaw it right. Check that the flight controller's display follows.",
          why="With a wrong mounting direction the aircraft flips on take-off.",
          fault="The display tilts another way.", remedy="Set the flight-controller orientation, then calibrate the level again.",
          caution="Blades off, or power from the balance lead only."),
    check("offsets", "Check the compass offsets",
          when=EVENT, after=(E.NEW_BUILD,), on_parts=(P.MOTOR, P.SATNAV, P.FLIGHT_CONTROLLER), applies=having(T.COMPASS, T.SELF_BUILT), part="compass",
          how="Read the offsets in the flight controller after calibrating. Check that offsets and field strength are in range.",
          why="Large offsets mean that a power lead or metal is too close to the compass.",
          ask=AskChoice(options=(
            Option(id="sane", label="In range"),
            Option(id="large", label="Large, but the heading agrees", level=Level.CAUTION,
                   reason="The compass offsets are large.", remedy="Move the compass away from the power leads soon."),
            Option(id="out", label="Out of range", level=Level.GROUNDED,
                   reason="Compass offsets or field strength are out of range.", remedy="Move the compass up and away, calibrate again."))),
          fault="The offsets cannot be read.", remedy="Calibrate again and read them."),
    check("satellites", "Check satellites, HDOP and ground speed",
          outdoors=True, applies=having(T.SATNAV), part="antennas",
          how="Read the receiver where you stand, or paste its NMEA data.",
          why="The home point is set from this fix, and a poor fix sends the aircraft to the wrong place on RTH.",
          ask=AskFix(),
          fault="It does not become ready.", remedy="Switch off, move to open sky and start again.",
          source="FAA AC 107-2A, positioning from at least four satellites (from memory); ten: common practice, no source"),
    check("home_point", "Check the home point",
          outdoors=True, applies=having(T.RETURN_HOME), short=True,
          how="Check on the map that it is where you stand, in the open.",
          why="On signal loss the aircraft flies to the home point; if that is wrong, it flies away.",
          wordings=(Wording(has=T.HOME_AT_ARMING, how="Check that it will arm here, in the open, with a good fix: it sets home when it arms."),
                    Wording(has=T.HOME_IN_HOVER, how="Check that it lifts off here, in the open, with a good fix: it sets home in the hover.")),
          ask=AskHome(options=(
            Option(id="here", label="On the map where I stand", grounds_at=(LaunchPlatform.COVER.value,), caution_at=(LaunchPlatform.MOVING.value,), at_reason="the home point stays behind while you move."),
            Option(id="moving", label="Launched from a boat or vehicle, and failsafe is set to hover", level=Level.CAUTION,
                   reason="The home point stays behind as you move. On signal loss it must hover.", remedy="Stay close, and fly it back yourself.", grounds_at=(LaunchPlatform.COVER.value,), at_reason="it would come back through the roof."),
            Option(id="wrong", label="Not set, or somewhere else", level=Level.GROUNDED,
                   reason="The home point is not where the aircraft should return to.", remedy="Wait for a good fix and set it again."))),
          fault="The home point is not set, or it is somewhere else.", remedy="Wait for a good fix and set it again in the open."),
    check("heading", "Compare the heading with a hand compass",
          outdoors=True, grounds=False,
          when=DAY, applies=having(T.COMPASS), part="compass",
          how="Point the nose along a hand compass or a line on the map. Enter the difference from the heading on the screen.",
          why="With a wrong heading it circles in the hover and flies the wrong way on RTH.",
          ask=AskNumber(measure=Measure.DEGREE, label="Difference", low=0, high=180, rule="heading"),
          fault="The heading cannot be trusted.", remedy="Calibrate the compass away from metal.",
          source=OUR_CHOICE, deep=True),
    check("barometer", "Check the height shown on the ground",
          when=DAY, applies=having(T.FLIGHT_CONTROLLER, T.RETURN_HOME),
          how="Read the height after the self-test. Check that it is zero or close to it.",
          why="RTH altitude counts from this zero.",
          ask=AskNumber(measure=Measure.HEIGHT, label="Height shown on the ground", low=-500, high=500,
            band=Band(ground_below=-10, caution_below=-3, caution_above=3, ground_above=10, low="It shows {value} on the ground (min {limit}).", high="It shows {value} on the ground (max {limit}).", good="It shows {value} on the ground.", remedy="Power off and on at the launch point.")),
          fault="The height drifts at rest.", remedy="Shade the sensor from sun and wind. If it still drifts, do not fly.",
          source=OUR_CHOICE, deep=True),
    check("obstacle_sensors", "Check the obstacle sensors", grounds=False,
          applies=having(T.OBSTACLE_SENSORS),
          how="Check for warnings. Hold a hand one metre away and watch the display.",
          why="Some modes switch the sensors off, and then nothing stops it before an obstacle.",
          ask=AskChoice(options=(
            Option(id="on", label="On and reacting"),
            Option(id="off", label="Off in this mode, and I am aware of it", level=Level.CAUTION,
                   reason="Obstacle sensors are off in this mode.", remedy="Keep the distance that you would keep without sensors."),
            Option(id="error", label="A sensor reports an error", level=Level.GROUNDED,
                   reason="An obstacle sensor reports an error.", remedy="Clean it and restart. If the error stays, calibrate it by the manual."))),
          fault="The sensors are not reliable.", remedy="Calibrate them by the manual, or do not fly."),
    check("telemetry", "Check that telemetry is live",
          grounds=False, ok="Live", applies=having(T.TELEMETRY),
          how="Watch pack voltage and signal strength. Check that the values change.",
          why="A frozen value hides a falling voltage or a fading link.",
          fault="A value is frozen or missing.", remedy="Check the sensor connector and discover the sensors again."),
    check("id_live", "Check that remote ID is live",
          outdoors=True, ok="Live", risk=Risk.LAW, applies=having(T.REMOTE_ID),
          how="Check its LED or the display for a broadcast with a position.",
          why="Without a position it does not count as remote ID.",
          fault="Remote ID is not live.", remedy="Wait for the fix. Where remote ID is required, do not fly without it.",
          source="14 CFR 89 and Regulation (EU) 2019/947 (from memory); the authority's current text prevails"),
)
